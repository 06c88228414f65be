//! Findings in words: the one place in which ids become names and sentences.
//!
//! `words` is what others call; `rules`, `declared` and `frames` have a message, and what to do next, for
//! each kind of `crate::finding::detail`; `phrases` the names and words that they share.

pub(crate) mod declared;
pub(crate) mod frames;
pub(crate) mod phrases;
pub(crate) mod rules;
pub(crate) mod words;

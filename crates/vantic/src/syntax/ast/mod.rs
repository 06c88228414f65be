//! Typed views of the syntax tree: what a statement, a rule or an expression consists of, by name.
//!
//! A view holds nodes and tokens, so that who reads it (`crate::resolve`, `crate::json`, `crate::fix`) has
//! their places; it is `None` where the grammar went wrong, which has been reported. `nodes` finds parts of
//! any node, `expressions` and `rules` are what rules are made of, `arranging` and `statements` the rest.
//! Only this folder and the parser know in which order the parts of a node stand.

pub(crate) mod arranging;
pub(crate) mod expressions;
pub(crate) mod nodes;
pub(crate) mod rules;
pub(crate) mod statements;

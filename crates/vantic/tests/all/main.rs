//! One binary for all of them, so that one link does: `cargo test --test all fix::` runs those of `fix.rs`.

mod agreement;
mod arrange;
mod bands;
mod bases;
#[path = "../../../../tests/support/case.rs"]
mod case;
mod cases;
mod claims;
mod design;
mod drawings;
mod drawn;
mod edits;
#[path = "../../../../tests/support/example.rs"]
mod example;
mod examples;
mod fix;
mod form;
mod guards;
mod guides;
mod language;
mod levels;
mod lists;
mod meaning;
mod nested;
mod numbers;
mod painted;
mod parameters;
mod parts;
mod picks;
mod placing;
mod random;
mod reference;
mod scroll;
mod shapes;
mod spares;
mod structure;
mod sweep;
mod ties;
mod verdicts;
mod why;
mod work;

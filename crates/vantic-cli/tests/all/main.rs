//! One binary for all of them, so that one link does and they run side by side: `cargo test -p vantic-cli
//! --test all options::` runs those of `options.rs`.

mod browser;
#[path = "../../../../tests/support/case.rs"]
mod case;
mod cases;
mod cli;
mod diagnosis;
mod drawings;
mod driver;
mod faults;
mod hostile;
mod mistakes;
mod options;
mod plant;
mod snapshots;

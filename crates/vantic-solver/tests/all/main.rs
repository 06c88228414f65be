//! One binary for all of them, so that one link does: `cargo test --test all live::` runs those of `live.rs`.

mod against_lp;
mod against_oracle;
mod found;
mod live;
mod numbers;
mod oracle;
mod outcomes;

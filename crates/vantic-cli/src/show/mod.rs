//! `vantic show`: what can be looked up of a screen, a file each. [`one_display`] places it.

pub(crate) mod alternatives;
pub(crate) mod bands;
pub(crate) mod distances;
pub(crate) mod grouping;
pub(crate) mod invariants;
pub(crate) mod neighbours;
pub(crate) mod one_display;
pub(crate) mod rules;
pub(crate) mod space;

use crate::args::{Show, ShowArgs};
use crate::verdict::Verdict;
use anyhow::Result;

pub(crate) fn run(args: &ShowArgs) -> Result<Verdict> {
    match &args.what {
        Show::Rules(args) => rules::run(args),
        Show::Bands(args) => bands::run(args),
        Show::Neighbours(args) => neighbours::run(args),
        Show::Distances(args) => distances::run(args),
        Show::Space(args) => space::run(args),
        Show::Invariants(args) => invariants::run(args),
        Show::Alternatives(args) => alternatives::run(args),
        Show::Grouping(args) => grouping::run(args),
    }
}

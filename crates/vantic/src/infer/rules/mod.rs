//! Rules read off drawings.
//!
//! `table` puts drawings side by side, `relation` is what may hold between boxes, `candidates` lists what does hold in all
//! drawings, each with a cost, `basis` tells what is independent, `choose` takes the cheapest that decide everything, `write`
//! makes a screen file of it, `suggested` is for a single view.

mod agree;
mod arranged;
mod bands;
mod basis;
mod candidates;
mod choose;
mod costs;
mod error;
mod inferred;
mod lines;
mod otherwise;
mod relation;
mod suggested;
mod table;
mod wish;
mod write;

pub use error::InferError;
pub use inferred::{Inferred, InferredBand, InferredRule, infer, infer_as};
pub use otherwise::Otherwise;
pub(crate) use suggested::{DRAWN, PLACED, suggested};
pub use wish::{Wish, Wishes};

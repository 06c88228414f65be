//! What names stand for while a screen is read.

use crate::syntax::tree::Node;
use std::collections::HashMap;
use vantic_core::model::{BandId, Expr, LevelId, Pair, ValueId, ViewId};

/// A statement was reported as wrong.
pub(crate) struct Reported;

pub(crate) type Done<T = ()> = Result<T, Reported>;

pub(crate) struct LetItem {
    pub(crate) node: Node,
    pub(crate) state: LetState,
    /// The scope whose names it uses, and the view whose coordinates stand alone in it.
    pub(crate) scope: ScopeId,
    pub(crate) owner: Option<ViewId>,
}

#[derive(Clone)]
pub(crate) enum LetState {
    Waiting,
    /// Bands give it other values.
    Varies(ValueId),
    InWork,
    Known(Value),
    Wrong,
}

/// Which of the scopes: 0 is the screen itself, each of the others a part at one place.
pub(crate) type ScopeId = usize;

/// The names that the lines of the screen, or of a part at one of its places, can use.
#[derive(Default)]
pub(crate) struct Scope {
    pub(crate) lets: HashMap<String, LetItem>,
    /// The names of the numbers in file order.
    pub(crate) let_names: Vec<String>,
    pub(crate) words: HashMap<String, String>,
    pub(crate) levels: HashMap<String, LevelId>,
    pub(crate) bands: HashMap<String, BandId>,
    /// The view it is placed in; views are looked up no further out. `None` for the screen itself.
    pub(crate) root: Option<ViewId>,
}

/// A part that is declared.
pub(crate) struct Part {
    pub(crate) node: Node,
    /// Whether it is being placed: then it cannot be placed in itself.
    pub(crate) in_work: bool,
}

/// What an expression stands for.
#[derive(Clone, Debug)]
pub(crate) enum Value {
    One(Expr),
    Two(Pair),
    /// A percentage that does not say of what; only `at` takes it.
    Percent(f64),
}

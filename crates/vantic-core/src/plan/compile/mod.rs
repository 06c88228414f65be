//! From a variant of a screen to a problem for the solver.
//!
//! `arrange`, `grid` and `guides` turn arrangements into `layout_rules`; `compiled` adds the screen's own
//! rules and what is built in; `given_sizes` tells which sizes do not come from content,
//! `height_independence` which texts need no second solve, `origins` where rules come from. `presolve` is how the display or
//! the required rules decide of a `max` or `min`. `planned` remembers what was compiled.

pub(crate) mod arrange;
pub(crate) mod compiled;
pub(crate) mod given_sizes;
pub(crate) mod grid;
pub(crate) mod guides;
pub(crate) mod height_independence;
pub(crate) mod layout_rules;
pub(crate) mod origins;
pub(crate) mod planned;
pub(crate) mod presolve;

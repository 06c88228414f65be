//! From a display to frames: `choosing` goes from choice to choice of arrangements, `fixpoint` solves one until texts and
//! scrolling converge, `placement`
//! is the result with the `appearance` of each view, `recount` counts spare children again, `scroll` moves what
//! sticks, `painting` is what rotation and scaling do to points, `painted` what is seen of what is placed, `texts` what
//! words measure, `placement_json` the machine form.

pub(crate) mod appearance;
pub(crate) mod choosing;
pub(crate) mod fixpoint;
pub(crate) mod painted;
pub(crate) mod painting;
pub(crate) mod placement;
#[cfg(feature = "json")]
pub(crate) mod placement_json;
pub(crate) mod recount;
pub(crate) mod scroll;
pub(crate) mod texts;

//! Why no rules are inferred.

/// Why no rules were inferred.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum InferError {
    /// Nothing to infer from.
    #[error("there is no drawing; name one at least")]
    NoDrawing,
    /// A text in one drawing, a box in another one.
    #[error("`{0}` is a text in one drawing and none in another; give it one name for each")]
    OtherKind(String),
    /// Two drawings of one size that differ.
    #[error("`{view}` differs in {a} and {b}, which are drawn for the same size; no rules can give both")]
    Contradiction {
        /// The view.
        view: String,
        /// One drawing.
        a: String,
        /// The other one.
        b: String,
    },
    /// What somebody says of a view is not so in the drawings.
    #[error("`{view}` cannot be `{wish}`: the drawings contradict it, or do not have such a view")]
    Wish {
        /// The view.
        view: String,
        /// The name of the wish.
        wish: &'static str,
    },
    /// A file that cannot be placed: not the user's fault.
    #[error("the rules that were found cannot be placed: {0}")]
    Unusable(String),
}

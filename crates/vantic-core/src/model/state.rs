//! Alternatives of a screen, of which one is shown at a time.

/// Alternatives of a screen, of which one is shown at a time: closed and open, empty and full.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct State {
    pub(crate) name: String,
    pub(crate) alternatives: Vec<String>,
}

impl State {
    /// The name.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// The names of the alternatives; the first is shown where a display names none.
    pub fn alternatives(&self) -> &[String] {
        &self.alternatives
    }
}

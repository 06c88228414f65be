//! Findings that the author accepts.

/// A finding that the author accepts on purpose.
#[derive(Clone, Debug, PartialEq)]
pub struct Acceptance {
    pub(crate) code: String,
    /// View paths or rule names.
    pub(crate) names: Vec<String>,
    pub(crate) reason: String,
    /// Whether it comes from a base, and may be for other screens on it.
    pub(crate) is_inherited: bool,
}

impl Acceptance {
    /// The code of the finding.
    pub fn code(&self) -> &str {
        &self.code
    }

    /// The views or rules it is about.
    pub fn names(&self) -> &[String] {
        &self.names
    }

    /// Whether it comes from a base, and may be meant for other screens on it.
    pub fn is_inherited(&self) -> bool {
        self.is_inherited
    }

    /// Why it is accepted.
    pub fn reason(&self) -> &str {
        &self.reason
    }
}

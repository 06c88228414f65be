//! What the tests of several crates share. Nothing here is published.

use proptest::test_runner::{Config, FileFailurePersistence};

/// So many cases of a property, or as many as `PROPTEST_CASES` asks for. A case that fails is kept in a file
/// beside the test, and tried first from then on.
pub fn cases(usual: u32) -> Config {
    let asked = std::env::var("PROPTEST_CASES").ok().and_then(|n| n.parse().ok());
    Config {
        cases: asked.unwrap_or(usual),
        failure_persistence: Some(Box::new(FileFailurePersistence::WithSource("proptest-regressions"))),
        ..Config::default()
    }
}

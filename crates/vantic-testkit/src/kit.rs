//! How many cases of a property, and JSON schemas.

use boon::{Compiler, SchemaIndex, Schemas};
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

/// A JSON schema.
pub struct Schema {
    compiled: Schemas,
    index: SchemaIndex,
}

impl Schema {
    /// From its text.
    pub fn new(text: &str) -> Self {
        const NAME: &str = "schema.json";
        let (mut compiled, mut compiler) = (Schemas::new(), Compiler::new());
        compiler.add_resource(NAME, serde_json::from_str(text).unwrap()).unwrap();
        let index = compiler.compile(NAME, &mut compiled).unwrap_or_else(|e| panic!("{e:#}"));
        Self { compiled, index }
    }

    /// What of a value does not fit it; `None` where all does.
    pub fn misfit(&self, value: &serde_json::Value) -> Option<String> {
        self.compiled.validate(value, self.index).err().map(|e| e.to_string())
    }
}

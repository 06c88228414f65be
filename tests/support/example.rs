//! Examples are run, and print what they say they print.

use std::path::{Path, PathBuf};
use std::process::Command;

/// The built example; where this test was built alone, it is built now.
pub(crate) fn built(name: &str) -> PathBuf {
    let tests = std::env::current_exe().unwrap();
    let path = tests.parent().unwrap().parent().unwrap().join("examples").join(name);
    if !path.exists() {
        let done = Command::new(env!("CARGO"))
            .args(["build", "--quiet", "--example", name])
            .current_dir(env!("CARGO_MANIFEST_DIR"))
            .status()
            .unwrap();
        assert!(done.success());
    }
    path
}

/// Runs an example; its output, and the output that its first comment promises.
pub(crate) fn run(name: &str) -> (String, Vec<String>) {
    let source = Path::new(env!("CARGO_MANIFEST_DIR")).join("examples").join(format!("{name}.rs"));
    let text = std::fs::read_to_string(source).unwrap();
    let comment = text.lines().map_while(|l| l.strip_prefix("//!")).map(|l| l.strip_prefix(' ').unwrap_or(l));
    let promised = comment.skip_while(|l| *l != "```text").skip(1).take_while(|l| *l != "```");
    let output = Command::new(built(name)).output().unwrap();
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    (String::from_utf8(output.stdout).unwrap(), promised.map(str::to_owned).collect())
}

//! Every case file, through the built binary.

use crate::case::{all, compare, display_name, numbers};
use serde_json::Value;
use std::process::Command;

#[test]
fn every_case_comes_out_of_the_binary_as_computed_by_hand() {
    let folder = tempfile::tempdir().unwrap();
    for case in all() {
        let file = folder.path().join(format!("{}.vantic", case.name));
        std::fs::write(&file, &case.screen).unwrap();
        for expected in &case.displays {
            let run = |command: &str| -> Value {
                let mut vantic = Command::new(env!("CARGO_BIN_EXE_vantic"));
                vantic.arg(command).arg(&file).args(["--format", "json", "--display"]);
                vantic.arg(display_name(expected));
                vantic.args(["--measure", expected.get("measure").map_or("plain", |m| m.as_str().unwrap())]);
                let insets: Vec<String> =
                    numbers(expected.get("insets")).iter().map(f64::to_string).collect();
                if !insets.is_empty() {
                    vantic.arg(format!("--insets={}", insets.join(",")));
                }
                for (view, by) in expected.get("scroll").and_then(|s| s.as_table()).into_iter().flatten() {
                    vantic.arg(format!("--scroll={view}={by}"));
                }
                if expected.get("right_to_left").is_some() {
                    vantic.arg("--right-to-left");
                }
                let output = vantic.output().unwrap();
                assert_ne!(output.status.code(), Some(2), "{}", String::from_utf8_lossy(&output.stderr));
                serde_json::from_slice(&output.stdout).unwrap()
            };
            let placed = run("place");
            compare(&case, expected, &placed["placements"][0], &run("check")["findings"]);
        }
    }
}

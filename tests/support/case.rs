//! Case files: read, and compared with what a layer of the project gives as JSON.

use serde_json::Value;
use std::path::{Path, PathBuf};
use toml::Table;

pub(crate) struct Case {
    pub(crate) name: String,
    pub(crate) screen: String,
    pub(crate) displays: Vec<Table>,
}

pub(crate) fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

/// Every case file, in order of name.
pub(crate) fn all() -> Vec<Case> {
    let folder = root().join("cases");
    let mut paths: Vec<PathBuf> = std::fs::read_dir(&folder).unwrap().map(|e| e.unwrap().path()).collect();
    paths.retain(|p| p.extension().is_some_and(|e| e == "toml"));
    paths.sort();
    paths.iter().map(|p| one(&folder, p)).collect()
}

fn one(folder: &Path, path: &Path) -> Case {
    let name = path.file_stem().unwrap().to_string_lossy().into_owned();
    let table: Table =
        std::fs::read_to_string(path).unwrap().parse().unwrap_or_else(|e| panic!("{name}: {e}"));
    let file = folder.join("screens").join(table["screen"].as_str().unwrap());
    let mut screen = std::fs::read_to_string(file).unwrap();
    for pair in table.get("change").and_then(|c| c.as_array()).into_iter().flatten() {
        let [old, new] = [0, 1].map(|i| pair[i].as_str().unwrap());
        assert_eq!(screen.matches(old).count(), 1, "{name}: `{old}` is to be there once");
        screen = screen.replace(old, new);
    }
    let displays =
        table["display"].as_array().unwrap().iter().map(|d| d.as_table().unwrap().clone()).collect();
    Case { name, screen, displays }
}

/// The display of a case, as it is named: its size, and what else is tried there.
pub(crate) fn display_name(display: &Table) -> String {
    let size = numbers(display.get("size"));
    let also = display.get("also").map_or(String::new(), |also| format!(", {}", also.as_str().unwrap()));
    format!("{}x{}{also}", size[0], size[1])
}

pub(crate) fn numbers(value: Option<&toml::Value>) -> Vec<f64> {
    let number = |v: &toml::Value| v.as_float().or(v.as_integer().map(|i| i as f64)).unwrap();
    value.and_then(|v| v.as_array()).map(|a| a.iter().map(number).collect()).unwrap_or_default()
}

/// Asserts that a placement and findings, in the machine form, are what the display expects.
pub(crate) fn compare(case: &Case, display: &Table, placement: &Value, findings: &Value) {
    let at = format!("{} on {}", case.name, display["name"]);
    let table = |key: &str| display.get(key).and_then(|f| f.as_table()).into_iter().flatten();
    for (expected, found) in [("frames", "frames"), ("guides", "guides"), ("paints", "painted")] {
        for (view, expected) in table(expected) {
            let frame = &placement[found][view];
            let found = ["left", "top", "width", "height"].map(|c| frame[c].as_f64().unwrap_or(f64::NAN));
            let expected = numbers(Some(expected));
            let near = found.iter().zip(&expected).all(|(a, b)| (a - b).abs() <= 0.001);
            assert!(near, "{at}: `{view}` is {found:?} and should be {expected:?}");
        }
    }
    for view in display.get("hidden").and_then(|h| h.as_array()).into_iter().flatten() {
        let found = &placement["frames"][view.as_str().unwrap()];
        assert!(found.is_null(), "{at}: {view} is at {found} and should be hidden");
    }
    for (guide, expected) in table("divisions") {
        for (what, expected) in expected.as_table().unwrap() {
            let found = &placement["divisions"][guide][what];
            assert!(same_number(found, expected), "{at}: {what} of `{guide}` is {found}, not {expected}");
        }
    }
    for (view, expected) in table("held") {
        let found = &placement["stuck"][view][0];
        let found =
            [&found["held"][0], &found["held"][1], &found["by"]].map(|n| n.as_f64().unwrap_or(f64::NAN));
        assert_eq!(found.to_vec(), numbers(Some(expected)), "{at}: `{view}` is held there");
    }
    for (view, expected) in table("lines") {
        assert!(same_number(&placement["lines"][view], expected), "{at}: lines of `{view}`: {placement}");
    }
    if let Some(expected) = display.get("missed").and_then(|m| m.as_array()) {
        let found = placement["missed"].as_array().unwrap();
        assert_eq!(found.len(), expected.len(), "{at}: {found:?}");
        for (found, expected) in found.iter().zip(expected) {
            assert!(matches(found, expected.as_table().unwrap()), "{at}: {found} should be {expected}");
        }
    }
    let mut found: Vec<&Value> = findings.as_array().unwrap().iter().collect();
    let Some(expected) = display.get("findings") else { return };
    for expected in expected.as_array().unwrap() {
        let position = found.iter().position(|f| matches(f, expected.as_table().unwrap()));
        let position =
            position.unwrap_or_else(|| panic!("{at}: nothing is like {expected} among {found:#?}"));
        found.remove(position);
    }
    assert!(found.is_empty(), "{at}: not expected: {found:#?}");
}

fn matches(found: &Value, expected: &Table) -> bool {
    expected.iter().all(|(key, expected)| match key.as_str() {
        "help" | "message" => {
            found[key].as_str().is_some_and(|words| words.contains(expected.as_str().unwrap()))
        }
        "amount" | "by" => same_number(&found[key], expected),
        "ranges" => expected.as_table().unwrap().iter().all(|(coordinate, range)| {
            let found = &found["ranges"][coordinate];
            same_number(&found[0], &range[0]) && same_number(&found[1], &range[1])
        }),
        "at_least" => expected.as_table().unwrap().iter().all(|(coordinate, from)| {
            let found = &found["ranges"][coordinate];
            same_number(&found[0], from) && found[1].is_null()
        }),
        _ => found[key] == serde_json::to_value(expected).unwrap(),
    })
}

fn same_number(found: &Value, expected: &toml::Value) -> bool {
    let expected = expected.as_float().or(expected.as_integer().map(|i| i as f64)).unwrap();
    found.as_f64().is_some_and(|f| (f - expected).abs() <= 0.001)
}

//! The rules of the house: what may import what. See ARCHITECTURE.md.

mod imports;

use imports::{File, Imports};
use petgraph::algo::tarjan_scc;
use petgraph::graphmap::DiGraphMap;
use std::collections::BTreeMap;
use std::path::Path;

/// The folders (and files) directly below a crate's `src`, lowest first: each imports only what stands before it.
const LAYERS: [(&str, &[&str]); 2] = [
    ("vantic-core", &["limits", "words", "geometry", "display", "text", "model", "plan"]),
    (
        "vantic",
        &[
            "screen_ext",
            "syntax",
            "files",
            "displays",
            "finding",
            "resolve",
            "json",
            "infer",
            "inspect",
            "sweep",
            "check",
            "fix",
            "testing",
        ],
    ),
];

/// The crates of the workspace.
const CRATES: [&str; 6] = ["vantic-solver", "vantic-core", "vantic", "vantic-draw", "vantic-cli", "vantic-bench"];

fn imports_of(name: &str) -> Imports {
    Imports::of(&Path::new(env!("CARGO_MANIFEST_DIR")).join("..").join(name).join("src"))
}

/// The folder directly below `src` that a file stands in, or the file itself.
fn room(file: &File) -> &str {
    file.path.split('/').next().unwrap().trim_end_matches(".rs")
}

/// Every circle of imports among files, one line each.
fn circles(name: &str) -> Vec<String> {
    let imports = imports_of(name);
    let edges = imports.edges();
    let mut graph: DiGraphMap<&str, ()> = DiGraphMap::new();
    for (from, to, _) in &edges {
        graph.add_edge(&from.path, &to.path, ());
    }
    let mut all = Vec::new();
    for mut circle in tarjan_scc(&graph).into_iter().filter(|c| c.len() > 1) {
        circle.sort_unstable();
        all.push(format!("{name}: {} files import one another: {}", circle.len(), circle.join(", ")));
    }
    all
}

#[test]
fn no_files_import_one_another() {
    let all: Vec<String> = CRATES.into_iter().flat_map(circles).collect();
    assert!(all.is_empty(), "\n{}", all.join("\n"));
}

#[test]
fn folders_import_only_what_stands_below() {
    let mut breaches = Vec::new();
    for (name, layers) in LAYERS {
        let imports = imports_of(name);
        let rank = |file: &File| layers.iter().position(|l| *l == room(file));
        for file in imports.files.values().filter(|f| !matches!(room(f), "lib" | "main" | "prelude")) {
            if rank(file).is_none() {
                breaches.push(format!("{name}: {} stands in no layer", file.path));
            }
        }
        for (from, to, item) in imports.edges() {
            if let (Some(a), Some(b)) = (rank(from), rank(to))
                && a < b
            {
                breaches.push(format!("{name}: {} imports {item} of {}", from.path, to.path));
            }
        }
    }
    assert!(breaches.is_empty(), "\n{}", breaches.join("\n"));
}

#[test]
fn methods_stand_with_their_type() {
    let mut breaches = Vec::new();
    for name in CRATES {
        let imports = imports_of(name);
        let mut homes: BTreeMap<&str, Vec<&str>> = BTreeMap::new();
        for file in imports.files.values() {
            file.types.iter().for_each(|t| homes.entry(t).or_default().push(room(file)));
        }
        for file in imports.files.values() {
            for extended in &file.extends {
                let away = homes.get(extended.as_str()).filter(|at| !at.contains(&room(file)));
                if let Some(home) = away {
                    breaches.push(format!("{name}: {} extends {extended} of {}", file.path, home.join(", ")));
                }
            }
        }
    }
    assert!(breaches.is_empty(), "\n{}", breaches.join("\n"));
}

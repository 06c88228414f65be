//! The rules of the house: what may import what. See ARCHITECTURE.md.

mod imports;

use imports::{File, Imports};
use petgraph::algo::tarjan_scc;
use petgraph::graphmap::DiGraphMap;
use std::collections::BTreeMap;
use std::path::Path;

/// The folders (and files) directly below a crate's `src`, lowest first: each imports only what stands before
/// it.
const LAYERS: [(&str, &[&str]); 2] = [
    ("vantic-core", &["limits", "tolerance", "words", "geometry", "display", "text", "model", "plan"]),
    (
        "vantic",
        &[
            "screen_ext",
            "syntax",
            "finding",
            "resolve",
            "json",
            "files",
            "displays",
            "drawing",
            "infer",
            "inspect",
            "sweep",
            "drift",
            "check",
            "fix",
            "structure",
            "testing",
            "typed",
        ],
    ),
];

/// The crates of the workspace.
const CRATES: [&str; 8] = [
    "vantic-solver",
    "vantic-core",
    "vantic",
    "vantic-draw",
    "vantic-cli",
    "vantic-bench",
    "vantic-build",
    "vantic-examples",
];

fn imports_of(name: &str) -> Imports {
    Imports::of(&Path::new(env!("CARGO_MANIFEST_DIR")).join("..").join(name).join("src"))
}

/// The folder directly below `src` that a file stands in; empty for one that stands in none.
fn folder(file: &File) -> &str {
    file.path.split_once('/').map_or("", |(folder, _)| folder)
}

/// The folder directly below `src` that a file stands in, or the file itself.
fn room(file: &File) -> &str {
    file.path.split('/').next().unwrap().trim_end_matches(".rs")
}

/// Every circle of imports among files, or among the folders and files of one folder, one line each.
fn circles(name: &str) -> Vec<String> {
    let imports = imports_of(name);
    let edges = imports.edges();
    let mut graphs: BTreeMap<&str, DiGraphMap<&str, ()>> = BTreeMap::new();
    for (from, to, _) in &edges {
        let (from, to) = (from.path.as_str(), to.path.as_str());
        graphs.entry("").or_default().add_edge(from, to, ());
        // What stands in the innermost folder that holds both.
        let same = std::iter::zip(from.split_inclusive('/'), to.split_inclusive('/'));
        let shared: usize = same.take_while(|(a, b)| a == b && a.ends_with('/')).map(|(a, _)| a.len()).sum();
        let part = |path: &'_ str| shared + path[shared..].find('/').unwrap_or(path.len() - shared);
        if from[..part(from)] != to[..part(to)] {
            let graph = graphs.entry(&from[..shared]).or_default();
            graph.add_edge(&from[..part(from)], &to[..part(to)], ());
        }
    }
    let mut all = Vec::new();
    for circle in graphs.values().flat_map(tarjan_scc) {
        let mut circle = circle;
        circle.sort_unstable();
        if circle.len() > 1 {
            all.push(format!("{name}: {} import one another: {}", circle.len(), circle.join(", ")));
        }
    }
    all.sort();
    all.dedup();
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

/// The checker is worth something as long as it is written apart from what it checks: nothing uses its code,
/// and it uses types and tolerances alone.
#[test]
fn the_checker_shares_no_code_with_the_prover() {
    let imports = imports_of("vantic-solver");
    let is_type = |item: &str| item.starts_with(|c: char| c.is_ascii_uppercase());
    let edges = imports.edges();
    let shared = edges.iter().filter(|(from, to, item)| {
        to.path == "verify.rs" && from.path != "lib.rs" || from.path == "verify.rs" && !is_type(item)
    });
    let shared: Vec<String> =
        shared.map(|(from, to, item)| format!("{} uses {item} of {}", from.path, to.path)).collect();
    assert!(shared.is_empty(), "\n{}", shared.join("\n"));
}

#[test]
fn methods_stand_with_their_type() {
    let mut breaches = Vec::new();
    for name in CRATES {
        let imports = imports_of(name);
        let mut homes: BTreeMap<&str, Vec<&str>> = BTreeMap::new();
        for file in imports.files.values() {
            file.types.iter().for_each(|t| homes.entry(t).or_default().push(folder(file)));
        }
        for file in imports.files.values() {
            for extended in &file.extends {
                let away = homes.get(extended.as_str()).filter(|at| !at.contains(&folder(file)));
                if let Some(home) = away {
                    breaches.push(format!("{name}: {} extends {extended} of {}", file.path, home.join(", ")));
                }
            }
        }
    }
    assert!(breaches.is_empty(), "\n{}", breaches.join("\n"));
}

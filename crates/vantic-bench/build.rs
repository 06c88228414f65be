//! Writes the placement of one workload as straight-line Rust, as somebody would by hand: common
//! terms shared, factors of one left out.

use std::collections::BTreeMap;
use std::fmt::Write;
use vantic_solver::{Formula, Input, Plan};

#[allow(dead_code, missing_docs, unreachable_pub)]
#[path = "src/workload.rs"]
mod workload;

fn main() {
    println!("cargo::rerun-if-changed=src/workload.rs");
    println!("cargo::rerun-if-changed=build.rs");
    let made = workload::workload(1000);
    let mut plan = Plan::new(&made.problem);
    plan.solve(&made.params).expect("the workload's numbers are finite");
    let path = std::path::Path::new(&std::env::var("OUT_DIR").expect("cargo sets it")).join("straight.rs");
    std::fs::write(path, straight(&plan.formulas())).expect("the build folder can be written");
}

fn name(input: Input) -> String {
    match input {
        Input::Parameter(p) => format!("p[{}]", p.index()),
        Input::Variable(v) => format!("v{}", v.index()),
    }
}

/// A sum of two variables, such as the right edge of a view, that several formulas use.
fn pairs(formula: &Formula) -> Vec<(usize, usize)> {
    let plain: Vec<usize> = formula
        .terms
        .iter()
        .filter_map(|&(input, c)| match input {
            Input::Variable(v) if c == 1.0 => Some(v.index()),
            _ => None,
        })
        .collect();
    plain.windows(2).map(|w| (w[0], w[1])).collect()
}

fn straight(formulas: &[Formula]) -> String {
    let mut used: BTreeMap<(usize, usize), usize> = BTreeMap::new();
    for pair in formulas.iter().flat_map(pairs) {
        *used.entry(pair).or_insert(0) += 1;
    }
    let mut code = String::from(
        "/// The placement of the workload of [`STRAIGHT_VIEWS`] views at the size it starts with.\n\
         #[inline(never)]\n#[allow(clippy::all, unused_variables)]\n\
         pub fn straight(p: &[f64], out: &mut [f64]) {\n",
    );
    let params = formulas.iter().flat_map(|f| &f.terms).filter_map(|t| match t.0 {
        Input::Parameter(p) => Some(p.index() + 1),
        Input::Variable(_) => None,
    });
    let _ = writeln!(
        code,
        "let p = &p[..{}];\nlet out = &mut out[..{}];",
        params.max().unwrap_or(0),
        formulas.len()
    );
    let mut shared: Vec<(usize, usize)> = Vec::new();
    for formula in formulas {
        let mut left = formula.terms.clone();
        let mut terms: Vec<String> = Vec::new();
        for pair in pairs(formula) {
            let both = left
                .iter()
                .filter(|t| matches!(t.0, Input::Variable(v) if v.index() == pair.0 || v.index() == pair.1))
                .count();
            if used[&pair] < 2 || both < 2 {
                continue;
            }
            if !shared.contains(&pair) {
                let _ = writeln!(code, "let s{}_{} = v{} + v{};", pair.0, pair.1, pair.0, pair.1);
                shared.push(pair);
            }
            left.retain(|t| !matches!(t.0, Input::Variable(v) if v.index() == pair.0 || v.index() == pair.1));
            terms.push(format!("s{}_{}", pair.0, pair.1));
        }
        terms.extend(left.iter().map(|&(input, c)| match c {
            1.0 => name(input),
            -1.0 => format!("(-{})", name(input)),
            c => format!("{c:?} * {}", name(input)),
        }));
        if formula.constant != 0.0 || terms.is_empty() {
            terms.insert(0, format!("{:?}", formula.constant));
        }
        let var = formula.var.index();
        let _ = writeln!(code, "let v{var} = {}; out[{var}] = v{var};", terms.join(" + "));
    }
    code.push_str("}\n");
    code
}

//! The language reference keeps its word: its lines are placed, and nothing of the language is missing.

use std::collections::BTreeSet;
use vantic::display::Displays;
use vantic::geometry::{Direction, Frame};
use vantic::json::Form;
use vantic::plan::{Placement, Plan};
use vantic::resolve::read;
use vantic::text::EvenText;
use vantic::words::number;

const REFERENCE: &str = include_str!("../../../../docs/language.md");

/// The screens of the reference, each with the lines of the table behind it.
fn examples() -> Vec<(String, Vec<Vec<String>>)> {
    let mut examples = Vec::new();
    for part in REFERENCE.split("```vantic\n").skip(1) {
        let (source, rest) = part.split_once("```\n").unwrap();
        let rows = rest.lines().take_while(|l| l.starts_with('|'));
        let cells = |line: &str| line.trim_matches('|').split('|').map(|c| c.trim().to_owned()).collect();
        let source = match source.starts_with("screen ") {
            true => source.to_owned(),
            false => format!("screen doc {{\nladder fit > rhythm\n{source}}}\n"),
        };
        examples.push((source, rows.map(cells).collect()));
    }
    examples
}

fn words(frame: Option<Frame>) -> String {
    let Some(f) = frame else { return "hidden".into() };
    let [left, top, width, height] = [f.left, f.top, f.width, f.height].map(number);
    format!("{left}, {top}, {width} x {height}")
}

/// What a column's head says: a display by its name, or its size, then whether it is mirrored, or how far a
/// view is scrolled, and whether painted.
fn placed(plan: &Plan, head: &str) -> (Placement, bool) {
    let (size, how) = match head.contains(',') {
        true => (head, ""),
        false => head.split_once(' ').unwrap_or((head, "")),
    };
    let display = Displays::default().find(size, plan.screen()).unwrap();
    let right_to_left = how == "right to left";
    let mut display = if right_to_left { display.with_direction(Direction::RightToLeft) } else { display };
    if let Some((view, by)) = how.split_once(" at ") {
        display = display.with_scroll(view, 0.0, by.parse().unwrap()).unwrap();
    }
    let placement = plan.place(&display, &EvenText).unwrap();
    assert!(placement.broken.is_empty(), "{head}");
    (placement, how == "painted")
}

#[test]
fn every_table_of_the_reference_is_what_its_lines_give() {
    let examples = examples();
    assert!(examples.len() >= 15, "only {} examples were found", examples.len());
    for (source, rows) in examples {
        let plan = Plan::new(read(&source).unwrap_or_else(|e| panic!("{e}\n{source}")).screen).unwrap();
        let (head, rows) = rows.split_first().unwrap();
        assert!(head.len() > 2 && rows.len() > 1, "{source}");
        for (column, head) in head.iter().enumerate().skip(1) {
            let (placement, painted) = placed(&plan, head);
            for row in &rows[1..] {
                let view = plan.screen().find(&row[0]).unwrap_or_else(|| panic!("{} in {source}", row[0]));
                let frame = if painted {
                    placement.painted_bounds(plan.screen(), view)
                } else {
                    placement.frame(view)
                };
                assert_eq!(row[column], words(frame), "{} on {head} in\n{source}", row[0]);
            }
        }
    }
}

#[test]
fn every_kind_of_statement_stands_in_the_reference() {
    let schema: serde_json::Value = serde_json::from_str(&Form::schema()).unwrap();
    let kinds = |of: &str| -> BTreeSet<String> {
        let kinds = schema["$defs"][of]["oneOf"].as_array().unwrap().iter();
        kinds
            .flat_map(|k| k["required"].as_array().unwrap().clone())
            .map(|k| k.as_str().unwrap().into())
            .collect()
    };
    let all: String = examples().iter().map(|(source, _)| Form::of(source).unwrap().to_json()).collect();
    for (of, shown_elsewhere) in [
        // What needs no frame to be understood stands in the tables of lines.
        (
            "Statement",
            ["accept", "in", "whole", "lines", "style", "spare", "adopt", "words", "show"].as_slice(),
        ),
        ("Operation", ["minus"].as_slice()),
    ] {
        let missing: Vec<String> = kinds(of)
            .into_iter()
            .filter(|k| !all.contains(&format!("\"{k}\":")) && !shown_elsewhere.contains(&k.as_str()))
            .collect();
        assert!(kinds(of).len() > 6 && missing.is_empty(), "{of}: {missing:?}");
        for word in shown_elsewhere.iter().filter(|w| **w != "minus") {
            assert!(
                REFERENCE.contains(&format!("`{word}")) || REFERENCE.contains(&format!("{{ {word} ")),
                "{word}"
            );
        }
    }
}

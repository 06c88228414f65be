//! Findings in open formats: SARIF 2.1.0 (OASIS) for code review, JUnit XML for build servers.

use crate::input::Loaded;
use anyhow::Result;
use quick_junit::{NonSuccessKind, Report as Suites, TestCase, TestCaseStatus, TestSuite};
use serde_json::{Value, json};
use std::collections::{BTreeMap, HashSet};
use vantic::check::Report;
use vantic::finding::{Finding, Severity};
use vantic::model::Code;

fn level(severity: Severity) -> &'static str {
    match severity {
        Severity::Error => "error",
        Severity::Warning => "warning",
        Severity::Note => "note",
    }
}

/// The lines of the file that a finding is about: those of its rules, then of what else it names, then of its views.
fn lines(loaded: &Loaded, finding: &Finding) -> Vec<(String, usize)> {
    let own = loaded.texts().first().map_or_else(String::new, |(name, _)| name.clone());
    let mut all: Vec<(String, usize)> = Vec::new();
    for &part in &finding.parts {
        if let Some((line, base)) = loaded.line(part) {
            all.push((base.unwrap_or_else(|| own.clone()), line));
        }
    }
    all.extend(finding.spots.iter().filter_map(|&spot| Some((own.clone(), loaded.spot(spot)?.0))));
    let views = finding.views.iter().filter_map(|path| loaded.plan.screen().find(path));
    all.extend(
        views.filter_map(|view| Some((own.clone(), loaded.spot(vantic::finding::Spot::View(view))?.0))),
    );
    // Each once, in order of appearance.
    let mut met = HashSet::new();
    all.retain(|place| met.insert(place.clone()));
    if all.is_empty() {
        all.push((own, 1));
    }
    all
}

/// What was found as a SARIF log: a result for each finding at the lines that it is about, with its ways out.
pub(crate) fn sarif(loaded: &Loaded, report: &Report) -> Value {
    let place = |(file, line): &(String, usize)| {
        json!({ "physicalLocation": {
            "artifactLocation": { "uri": file.replace('\\', "/") },
            "region": { "startLine": line },
        } })
    };
    let help = |code: Code| format!("`vantic about {}` explains it", code.name());
    let rules: Vec<Value> =
        Code::ALL.iter().map(|&code| json!({ "id": code.name(), "help": { "text": help(code) } })).collect();
    let result = |finding: &Finding| {
        let all = lines(loaded, finding);
        let fixes: Vec<Value> = finding.fixes.iter().map(fix).collect();
        let suppressed: Vec<Value> = finding
            .accepted
            .iter()
            .map(|reason| json!({ "kind": "inSource", "justification": reason }))
            .collect();
        let said = format!("{}. On {}.", finding.message, finding.displays.join(", "));
        let mut result = json!({
            "ruleId": finding.code.name(),
            "level": level(finding.severity),
            "message": { "text": said },
            "locations": [place(&all[0])],
            "relatedLocations": all[1..].iter().map(place).collect::<Vec<_>>(),
        });
        if !fixes.is_empty() {
            result["fixes"] = json!(fixes);
        }
        if !suppressed.is_empty() {
            result["suppressions"] = json!(suppressed);
        }
        result
    };
    json!({
        "$schema": "https://json.schemastore.org/sarif-2.1.0.json",
        "version": "2.1.0",
        "runs": [{
            "tool": { "driver": { "name": "vantic", "version": env!("CARGO_PKG_VERSION"), "rules": rules } },
            "columnKind": "unicodeCodePoints",
            "results": report.findings.iter().map(result).collect::<Vec<_>>(),
        }],
    })
}

/// A way out, file by file.
fn fix(fix: &vantic::finding::Fix) -> Value {
    let mut by_file: BTreeMap<&str, Vec<Value>> = BTreeMap::new();
    for edit in &fix.edits {
        let ends = edit.old.rsplit('\n').next().unwrap_or_default().chars().count();
        let more = edit.old.matches('\n').count();
        let column = if more == 0 { edit.column + ends } else { ends + 1 };
        by_file.entry(&edit.file).or_default().push(json!({
            "deletedRegion": {
                "startLine": edit.line, "startColumn": edit.column, "endLine": edit.line + more, "endColumn": column,
            },
            "insertedContent": { "text": edit.new },
        }));
    }
    let changes: Vec<Value> = by_file
        .into_iter()
        .map(|(file, edits)| json!({ "artifactLocation": { "uri": file }, "replacements": edits }))
        .collect();
    json!({ "description": { "text": format!("{}; {}", fix.text, fix.moves) }, "artifactChanges": changes })
}

/// What was found as JUnit XML: a test case for each display, which fails where an error is found on it; warnings and notes
/// stand in its output. What is of no display that was checked has a case of its own.
pub(crate) fn junit(loaded: &Loaded, report: &Report) -> Result<String> {
    let screen = loaded.plan.screen().name();
    let mut suite = TestSuite::new(screen);
    let said = |finding: &Finding| {
        let places: Vec<String> =
            lines(loaded, finding).iter().map(|(file, line)| format!("{file}:{line}")).collect();
        format!(
            "{} {}: {}\n  {}",
            finding.severity.name(),
            finding.code.name(),
            finding.message,
            places.join(", ")
        )
    };
    let mut add = |name: &str, findings: &[&Finding]| {
        let errors: Vec<&&Finding> = findings.iter().filter(|f| f.severity == Severity::Error).collect();
        let mut status = TestCaseStatus::success();
        if let Some(first) = errors.first() {
            status = TestCaseStatus::non_success(NonSuccessKind::Failure);
            let all: Vec<String> = errors.iter().map(|f| said(f)).collect();
            status
                .set_type(first.code.name())
                .set_message(first.message.clone())
                .set_description(all.join("\n"));
        }
        let mut case = TestCase::new(name, status);
        case.set_classname(format!("vantic.{screen}"));
        let others: Vec<String> =
            findings.iter().filter(|f| f.severity != Severity::Error).map(|f| said(f)).collect();
        if !others.is_empty() {
            case.set_system_out(others.join("\n"));
        }
        suite.add_test_case(case);
    };
    for placement in &report.placements {
        let name = placement.display.name();
        let here: Vec<&Finding> = report.open().filter(|f| f.displays.iter().any(|d| d == name)).collect();
        add(name, &here);
    }
    let checked =
        |f: &&Finding| f.displays.iter().any(|d| report.placements.iter().any(|p| p.display.name() == d));
    for finding in report.open().filter(|f| !checked(f)) {
        add(&format!("{} on {}", finding.code.name(), finding.worst), &[finding]);
    }
    let mut suites = Suites::new("vantic");
    suites.add_test_suite(suite);
    Ok(suites.to_string()? + "\n")
}

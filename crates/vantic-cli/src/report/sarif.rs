//! Findings as SARIF 2.1.0 (OASIS), for code review.

use crate::report::lines::lines;
use crate::session::Loaded;
use serde_json::{Value, json};
use std::collections::BTreeMap;
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

/// What was found as a SARIF log: a result for each finding at the lines that it is about, with its fixes.
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
    let screen = loaded.plan.screen();
    let result = |finding: &Finding| {
        let all = lines(loaded, finding);
        let fixes: Vec<Value> = finding.fixes.iter().map(fix).collect();
        let suppressed: Vec<Value> = finding
            .reason(screen)
            .into_iter()
            .map(|reason| json!({ "kind": "inSource", "justification": reason }))
            .collect();
        let on = report.names_of(finding).collect::<Vec<_>>().join(", ");
        let said = format!("{}. On {on}.", finding.message(screen));
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

/// A fix, file by file.
fn fix(fix: &vantic::finding::Fix) -> Value {
    let mut by_file: BTreeMap<&str, Vec<Value>> = BTreeMap::new();
    for edit in &fix.edits {
        let ends = edit.old.rsplit('\n').next().unwrap_or_default().chars().count();
        let more = edit.old.matches('\n').count();
        let column = if more == 0 { edit.column + ends } else { ends + 1 };
        by_file.entry(&edit.file).or_default().push(json!({
            "deletedRegion": {
                "startLine": edit.line, "startColumn": edit.column,
                "endLine": edit.line + more, "endColumn": column,
            },
            "insertedContent": { "text": edit.new },
        }));
    }
    let changes: Vec<Value> = by_file
        .into_iter()
        .map(|(file, edits)| json!({ "artifactLocation": { "uri": file }, "replacements": edits }))
        .collect();
    let vantic::finding::Fix { text, sureness, reason, moves, .. } = fix;
    let text = format!("{text} ({}: {reason}); {moves}", sureness.name());
    json!({ "description": { "text": text }, "artifactChanges": changes })
}

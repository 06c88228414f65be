//! Findings as JUnit XML, for build servers.

use crate::report::lines::lines;
use crate::session::Loaded;
use anyhow::Result;
use quick_junit::{NonSuccessKind, Report as Suites, TestCase, TestCaseStatus, TestSuite};
use vantic::check::Report;
use vantic::finding::{Finding, Severity};

/// What was found as JUnit XML: a test case for each display, which fails where an error is found on it;
/// warnings and notes stand in its output. What is of no display that was checked has a case of its own.
pub(crate) fn junit(loaded: &Loaded, report: &Report) -> Result<String> {
    let screen = loaded.plan.screen();
    let mut suite = TestSuite::new(screen.name());
    let said = |finding: &Finding| {
        let places: Vec<String> =
            lines(loaded, finding).iter().map(|(file, line)| format!("{file}:{line}")).collect();
        format!(
            "{} {}: {}\n  {}",
            finding.severity.name(),
            finding.code.name(),
            finding.message(screen),
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
                .set_message(first.message(screen))
                .set_description(all.join("\n"));
        }
        let mut case = TestCase::new(name, status);
        case.set_classname(format!("vantic.{}", screen.name()));
        let others: Vec<String> =
            findings.iter().filter(|f| f.severity != Severity::Error).map(|f| said(f)).collect();
        if !others.is_empty() {
            case.set_system_out(others.join("\n"));
        }
        suite.add_test_case(case);
    };
    for (index, placement) in report.placements.iter().enumerate() {
        let here: Vec<&Finding> = report.open().filter(|f| f.displays.contains(&index)).collect();
        add(placement.display.name(), &here);
    }
    let checked = |f: &&Finding| f.displays.iter().any(|&on| on < report.placements.len());
    for finding in report.open().filter(|f| !checked(f)) {
        let on = finding.worst.map_or("", |on| report.display_name(on));
        add(&format!("{} on {on}", finding.code.name()), &[finding]);
    }
    let mut suites = Suites::new("vantic");
    suites.add_test_suite(suite);
    Ok(suites.to_string()? + "\n")
}

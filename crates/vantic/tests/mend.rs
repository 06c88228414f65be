//! Ways out: each that is offered mends what it is offered for, and edits only what it says.

#[allow(dead_code)]
mod random;

use proptest::prelude::*;
use vantic::{
    Assembled, Checking, Code, Display, Edit, EditError, Finding, MAX_WAYS, Mending, PlainText, Plan, Report,
    Severity, check, edited,
};

fn mended(text: &str, displays: &[Display]) -> Report {
    let files = Assembled::alone("a.vantic", text);
    let source = files.read().unwrap();
    let plan = Plan::new(source.screen).unwrap();
    let mut report = check(&plan, displays, &PlainText).unwrap();
    let (map, how) = (&source.map, Checking::default());
    Mending { files: &files, map, plan: &plan, measure: &PlainText, how, beside: &Some }
        .ways_out(&mut report);
    report
}

fn checked(text: &str, displays: &[Display]) -> Report {
    let plan = Plan::new(vantic::read(text).unwrap().screen).unwrap();
    check(&plan, displays, &PlainText).unwrap()
}

fn worse(report: &Report) -> Vec<(Code, Vec<String>)> {
    let worse = |f: &&Finding| f.severity != Severity::Note;
    report.open().filter(worse).map(|f| (f.code, f.views.clone())).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    #[test]
    fn what_is_offered_mends_and_breaks_nothing_else(screen in random::plain_screens()) {
        let text = screen.to_string();
        let displays = [Display::new(390.0, 700.0).unwrap(), Display::new(900.0, 500.0).unwrap()];
        let report = mended(&text, &displays);
        let before = worse(&report);
        for finding in report.open() {
            prop_assert!(finding.fixes.len() <= MAX_WAYS && (finding.fixes.is_empty() || finding.goes_with.is_none()));
            for fix in &finding.fixes {
                let after = worse(&checked(&edited(&text, &fix.edits).unwrap(), &displays));
                let key = (finding.code, finding.views.clone());
                let count = |all: &[(Code, Vec<String>)]| all.iter().filter(|k| **k == key).count();
                prop_assert!(count(&after) < count(&before), "{} leaves it in\n{text}", fix.text);
                prop_assert!(after.iter().all(|k| before.contains(k)), "{} breaks {after:?} in\n{text}", fix.text);
            }
        }
    }
}

/// The first way out of the first finding.
fn first(text: &str) -> String {
    let report = mended(text, &[Display::new(390.0, 844.0).unwrap(), Display::new(844.0, 390.0).unwrap()]);
    let finding = report.open().find(|f| f.severity != Severity::Note);
    let fix = finding.and_then(|f| f.fixes.first());
    fix.map_or_else(|| format!("nothing for {finding:?}"), |fix| edited(text, &fix.edits).unwrap())
}

#[test]
fn what_was_changed_by_mistake_is_put_back() {
    let right = "screen rows {
    ladder fit > polish
    let margin = 16
    view head { pin left, right, top to safe; height = 56 }
    view body {
        pin left, right to safe
        top = head.bottom + 4
        bottom = safe.bottom
        view a { pin left 8, right 8 to parent; top = parent.top + margin; height = 40 }
        view b { pin left 8, right 8 to parent; top = prev.bottom + 6; height = a.height }
        view c { pin left 8, right 8 to parent; top = prev.bottom + 6; height = a.height }  // the third
        view d { pin left 8, right 8 to parent; top = prev.bottom + 6; height = a.height }
    }
}
";
    assert!(worse(&checked(right, &[Display::new(390.0, 844.0).unwrap()])).is_empty());
    for (was, is) in [
        // A rule taken out, another neighbour, another sign, one that contradicts, and one that is said twice.
        (
            "c { pin left 8, right 8 to parent; top = prev.bottom + 6; height = a.height }",
            "c { pin left 8, right 8 to parent; top = prev.bottom + 6 }",
        ),
        (
            "c { pin left 8, right 8 to parent; top = prev.bottom + 6",
            "c { pin left 8, right 8 to parent; top = parent.top + 6",
        ),
        (
            "d { pin left 8, right 8 to parent; top = prev.bottom + 6",
            "d { pin left 8, right 8 to parent; top = prev.bottom - 6",
        ),
        ("d { pin left 8, right 8 to parent", "d { pin left 8, right -8 to parent"),
        ("height = 56", "height = 56; height = 90"),
        ("top = head.bottom + 4", "top = head.bottom - 4"),
    ] {
        let wrong = right.replace(was, is);
        assert!(wrong != right);
        let squeezed = |text: &str| text.split_whitespace().collect::<String>();
        let mended = first(&wrong);
        // A rule that is put in again stands behind the others.
        assert_eq!(squeezed(&mended), squeezed(right), "{is}: {mended}");
        assert!(mended.contains("// the third"));
    }
}

#[test]
fn edits_that_do_not_fit_are_refused_whole() {
    let edit = |line, column, old: &str, new: &str| Edit {
        file: "a.vantic".into(),
        line,
        column,
        old: old.into(),
        new: new.into(),
    };
    let text = "eins\nzwei drei\n";
    assert_eq!(
        edited(text, &[edit(2, 6, "drei", "vier"), edit(1, 1, "", "null ")]).unwrap(),
        "null eins\nzwei vier\n"
    );
    for (line, column, old) in [(2, 1, "drei"), (9, 1, ""), (1, 99, ""), (0, 1, ""), (1, 0, "")] {
        let refused = edited(text, &[edit(1, 1, "eins", "1"), edit(line, column, old, "x")]);
        assert!(matches!(refused, Err(EditError::Elsewhere { .. })), "{line}:{column}");
    }
    let overlap = edited(text, &[edit(2, 1, "zwei drei", "x"), edit(2, 6, "drei", "y")]);
    assert_eq!(overlap, Err(EditError::Overlap { line: 2 }));
}

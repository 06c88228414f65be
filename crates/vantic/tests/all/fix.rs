//! Fixes: each that is offered fixes what it is offered for, and edits only what it says.

#[allow(dead_code)]
use crate::random;
use proptest::prelude::*;
use vantic::check::{CheckOptions, check};
use vantic::display::{Display, Displays};
use vantic::files::Assembled;
use vantic::finding::{Edit, Finding, NamedFinding, Severity};
use vantic::fix::{EditError, FINDINGS_FOR_FIXES, Fixes, MAX_FIXES, edited, joined, without};
use vantic::model::{Code, RuleId, RuleRef, Screen};
use vantic::plan::Plan;
use vantic::text::PlainText;

/// What is found and not accepted, with its fixes.
fn fixed(text: &str, displays: &[Display]) -> Vec<NamedFinding> {
    fixed_with(text, displays, 1.0)
}

fn fixed_with(text: &str, displays: &[Display], effort: f64) -> Vec<NamedFinding> {
    let files = Assembled::alone("a.vantic", text);
    let source = files.read().unwrap();
    let plan = Plan::new(source.screen).unwrap();
    let mut report = check(&plan, displays, &PlainText).unwrap();
    let (map, how) = (&source.map, CheckOptions { effort, ..CheckOptions::default() });
    Fixes { files: &files, map, plan: &plan, measure: &PlainText, how, beside: &Some }.find_all(&mut report);
    report.named(plan.screen()).into_iter().filter(|f| f.accepted.is_none()).collect()
}

fn plan(text: &str) -> Plan {
    Plan::new(vantic::resolve::read(text).unwrap().screen).unwrap()
}

/// What is found, once for each of its displays.
fn all_found(text: &str, displays: &[Display]) -> Vec<(Severity, Code, Vec<String>)> {
    let plan = plan(text);
    let report = check(&plan, displays, &PlainText).unwrap();
    let each = report.open().flat_map(Finding::each);
    each.flat_map(|f| f.displays.iter().map(|_| (f.severity, f.code, f.paths(plan.screen())))).collect()
}

/// Errors and warnings, once for each of their displays.
fn worse(text: &str, displays: &[Display]) -> Vec<(Code, Vec<String>)> {
    let worse = all_found(text, displays).into_iter().filter(|(severity, ..)| *severity != Severity::Note);
    worse.map(|(_, code, views)| (code, views)).collect()
}

/// The relations of each view as they read, with their levels, in order.
fn relations(screen: &Screen, rules: impl Fn(RuleId) -> bool) -> Vec<String> {
    let told = screen.rules().filter(|(id, _)| rules(*id)).flat_map(|(id, rule)| {
        (0..rule.relations().len()).map(move |relation| RuleRef::Written { rule: id, relation })
    });
    told.map(|part| {
        let owner = part.owner(screen).map(|owner| screen.path(owner));
        format!("{owner:?}: {} ~ {:?}", screen.sentence(part), part.level(screen))
    })
    .collect()
}

proptest! {
    #![proptest_config(vantic_testkit::cases(64))]

    #[test]
    fn what_is_removed_is_gone_and_all_else_stays(
        screen in random::plain_screens(),
        picks in prop::collection::vec(any::<bool>(), 60),
        on_one_line in any::<bool>(),
    ) {
        // Laid out with a line for each rule, or with those of a view on one line; a comment stands behind
        // every line.
        let text = screen.to_string();
        let text = if on_one_line { text.replace("\n        ", "; ").replace("{;", "{") } else { text };
        let text: String = text.lines().map(|line| format!("{line}  // kept\n")).collect();
        let files = Assembled::alone("a.vantic", text.clone());
        let source = files.read().unwrap();
        let gone: Vec<RuleId> = source
            .screen
            .rules()
            .map(|(id, _)| id)
            .enumerate()
            .filter(|(i, _)| picks[i % 60])
            .map(|(_, id)| id)
            .collect();
        let left = without(&files, &source.map, &gone);
        prop_assert_eq!(left.len(), 1);
        let again = vantic::resolve::read(&left[0].1);
        prop_assert!(again.is_ok(), "{:?}\n{}", again, left[0].1);
        prop_assert_eq!(
            relations(&again.unwrap().screen, |_| true),
            relations(&source.screen, |id| !gone.contains(&id)),
            "{} became {}",
            text,
            left[0].1
        );
        // A line that holds nothing else goes with its comment only where the rule had the line for itself.
        prop_assert!(left[0].1.matches("// kept").count() + gone.len() >= text.matches("// kept").count());
    }
}

/// What an author would call absurd: a size of nothing, a view tied to itself, a number for a percentage or the
/// other way round.
fn is_never_offered(text: &str, changed: &str) -> Option<String> {
    let (was, is) = (plan(text), plan(changed));
    let all = |plan: &Plan| relations(plan.screen(), |_| true);
    let (before, after) = (all(&was), all(&is));
    let new = after.iter().filter(|line| !before.contains(line));
    for line in new {
        let (owner, said) = line.split_once(": ")?;
        let said = said.split(" ~ ").next()?;
        let name = owner.trim_start_matches("Some(\"").trim_end_matches("\")").rsplit('.').next()?;
        let of_nothing = ["width = 0", "height = 0", "size = 0"].contains(&said);
        let reads_itself =
            said.split(" = ").nth(1).is_some_and(|right| right.starts_with(&format!("{name}.")));
        if of_nothing || reads_itself {
            return Some(format!("`{said}` in {owner} for\n{text}"));
        }
    }
    let shares = |text: &str| text.matches('%').count();
    (shares(changed) > shares(text) && shares(text) == 0)
        .then(|| format!("a share out of thin air in\n{changed}"))
}

proptest! {
    #![proptest_config(vantic_testkit::cases(24))]

    #[test]
    fn an_offered_fix_works_and_breaks_nothing_else(screen in random::plain_screens()) {
        let text = screen.to_string();
        let displays = [Display::new(390.0, 700.0).unwrap(), Display::new(900.0, 500.0).unwrap()];
        let found = fixed(&text, &displays);
        let before = worse(&text, &displays);
        for finding in &found {
            prop_assert!(
                finding.fixes.len() <= MAX_FIXES && (finding.fixes.is_empty() || finding.fixed_by.is_none())
            );
            let mut results = Vec::new();
            for fix in &finding.fixes {
                let changed = edited(&text, &fix.edits).unwrap();
                prop_assert!(!fix.reason.is_empty(), "{fix:?}");
                is_never_offered(&text, &changed).map_or(Ok(()), |why| Err(TestCaseError::fail(why)))?;
                // No two offers say the same, or come to the same.
                let result = (fix.text.clone(), frames(&changed, &displays));
                prop_assert!(
                    results.iter().all(|(said, at)| *said != result.0 && *at != result.1),
                    "{} twice in\n{text}",
                    fix.text
                );
                results.push(result);
                let after = worse(&changed, &displays);
                let count = |text: &str| {
                    let key = (finding.severity, finding.code, finding.views.clone());
                    all_found(text, &displays).into_iter().filter(|known| *known == key).count()
                };
                prop_assert!(count(&changed) < count(&text), "{} leaves it in\n{text}", fix.text);
                // A view that had no place or size may have what a sibling has already.
                let is_open = matches!(finding.code, Code::Ambiguous | Code::Collapse | Code::Conflict);
                let around = |path: &str| path.rsplit_once('.').map(|(around, _)| around.to_owned());
                let was_hidden = |(code, views): &(Code, Vec<String>)| {
                    let [own] = views.as_slice() else { return false };
                    let sibling = |(c, v): &(Code, Vec<String>)| {
                        c == code && matches!(v.as_slice(), [v] if v != own && around(v) == around(own))
                    };
                    is_open && code.is_of_frames() && finding.views.contains(own) && before.iter().any(sibling)
                };
                prop_assert!(
                    after.iter().all(|k| before.contains(k) || was_hidden(k)),
                    "{} breaks {after:?} in\n{text}",
                    fix.text
                );
            }
        }
    }
}

/// The first fix of the first finding.
fn first(text: &str) -> String {
    let found = fixed(text, &[Display::new(390.0, 844.0).unwrap(), Display::new(844.0, 390.0).unwrap()]);
    let finding = found.iter().find(|f| f.severity != Severity::Note);
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
    assert!(worse(right, &[Display::new(390.0, 844.0).unwrap()]).is_empty());
    for (was, is) in [
        // A rule taken out, another neighbour, another sign, one that contradicts, and one that is said
        // twice.
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
            "d { pin left 8, right 8 to parent; top = prev.top + 6",
        ),
        ("d { pin left 8, right 8 to parent", "d { pin left 8, right -8 to parent"),
        ("height = 56", "height = 56; height = 90"),
        ("top = head.bottom + 4", "top = head.top + 4"),
    ] {
        let wrong = right.replace(was, is);
        assert!(wrong != right);
        let squeezed = |text: &str| text.split_whitespace().collect::<String>();
        let fixed = first(&wrong);
        // A rule that is put in again stands behind the others.
        assert_eq!(squeezed(&fixed), squeezed(right), "{is}: {fixed}");
        assert!(fixed.contains("// the third"));
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

/// The fixes of the first finding of a code, each with the frames that it gives on the first display.
fn ways(
    text: &str,
    code: Code,
    displays: &[Display],
) -> Vec<(String, Vec<(String, vantic::geometry::Frame)>)> {
    let found = fixed(text, displays);
    let finding = found.iter().find(|f| f.code == code).unwrap();
    let frames = |edits: &[Edit]| {
        let plan = Plan::new(vantic::resolve::read(&edited(text, edits).unwrap()).unwrap().screen).unwrap();
        let placement = plan.place(&displays[0], &PlainText).unwrap();
        let screen = plan.screen();
        screen.views().filter_map(|(view, _)| Some((screen.path(view), placement.frame(view)?))).collect()
    };
    finding.fixes.iter().map(|fix| (fix.text.clone(), frames(&fix.edits))).collect()
}

fn frame_of(frames: &[(String, vantic::geometry::Frame)], path: &str) -> [f64; 4] {
    let frame = frames.iter().find(|(of, _)| of == path).unwrap().1;
    [frame.left, frame.top, frame.width, frame.height].map(vantic::words::millionths)
}

#[test]
fn the_reference_screens_are_fixed_as_worked_out_by_hand() {
    let screen = |name: &str| std::fs::read_to_string(format!("../../cases/screens/{name}.vantic")).unwrap();
    let pass = |w: f64, h: f64, top: f64, bottom: f64| {
        let insets = vantic::display::Insets { left: 0.0, top, right: 0.0, bottom };
        Display::new(w, h).unwrap().with_insets(insets).unwrap()
    };
    let passes = [pass(380.0, 700.0, 30.0, 20.0), pass(420.0, 910.0, 50.0, 30.0)];
    // A required rule added to the boarding pass: with any of the fixes the frames are those of the pass
    // without it, or with it alone.
    let below = "        below: bottom = close.top - 12\n";
    let clash = screen("boarding").replace(below, &format!("{below}        bottom = safe.bottom - 12\n"));
    let out = ways(&clash, Code::Conflict, &passes);
    assert_eq!(out[0].0, "remove `bottom = safe.bottom - 12`");
    assert_eq!(frame_of(&out[0].1, "notes"), [16.0, 342.4, 348.0, 263.6]);
    assert_eq!(frame_of(&out[0].1, "close"), [162.0, 618.0, 56.0, 44.0]);
    // Letting it give way would give the same frames, and is not offered beside that.
    assert!(!out.iter().any(|(text, _)| text.contains("bottom = safe.bottom - 12 ~ polish")), "{out:?}");
    // The foot of the close button taken out: one fix puts it at the foot of the safe area again.
    let open = screen("boarding").replace("        foot: bottom = safe.bottom - 18\n", "");
    let out = ways(&open, Code::Ambiguous, &passes);
    let tops: Vec<f64> = out.iter().map(|(_, frames)| frame_of(frames, "close")[1]).collect();
    assert!(tops.first().is_some_and(|top| (354.4..=636.0).contains(top)), "{out:?}");
    // Both sides of the code free: widths from 248 down to nothing, and a fix that says which.
    let free = screen("boarding")
        .replace("            wide: width = 60% of card.width ~ polish\n", "")
        .replace("            limit: width <= 40% of safe.height\n", "            limit: width <= 248\n");
    let out = ways(&free, Code::Ambiguous, &passes);
    assert!(!out.is_empty());
    assert!(out.iter().all(|(_, f)| {
        let code = f.iter().find(|(path, _)| path == "card.code").unwrap().1;
        (code.width - code.height).abs() < 1e-6 && code.width <= 248.0
    }));
    // The wish of the muster list taken out: the limit met exactly is 16, as low as it goes.
    let wish = "        wished: top = deck.bottom + 120 ~ polish\n";
    let muster = screen("muster").replace(wish, "");
    let sizes = [(540.0, 960.0), (960.0, 540.0)].map(|(w, h)| Display::new(w, h).unwrap());
    let out = ways(&muster, Code::Ambiguous, &sizes);
    let limit = out.iter().find(|(text, _)| text.contains("top >= deck.bottom + 16 ~ rhythm")).unwrap();
    assert_eq!(frame_of(&limit.1, "notice"), [20.0, 60.0, 500.0, 48.0]);
}

#[test]
fn what_goes_wrong_below_a_width_gets_a_band_from_exactly_there() {
    let text = "// A head with a title.
screen quay {
    ladder fit > polish  // strongest first
    view head {
        pin left, right, top to screen
        height = 40
        text title \"Next departures of today\" { font 24; lines 1; start = parent.start + 16; center_y = parent.center_y }
        view clock { end = parent.end - 16; center_y = parent.center_y; size = (64, 24) }
    }
    claim head.height same for screen.width 300..900
}
";
    // 24 letters of 12 are 288 wide, from 16 on: up to 304. The clock begins at the width less 80, so that
    // they meet at 384.
    let displays = [Display::new(360.0, 700.0).unwrap(), Display::new(900.0, 700.0).unwrap()];
    let with_a_band = |text: &str, displays: &[Display]| {
        let found = fixed(text, displays);
        let finding = found.iter().find(|f| f.code == Code::Overlap).unwrap();
        let fix = finding.fixes.iter().find(|fix| fix.text.contains("band")).unwrap().clone();
        (edited(text, &fix.edits).unwrap(), fix)
    };
    let (other, fix) = with_a_band(text, &displays);
    assert!(
        other.contains("    ladder fit > polish  // strongest first\n    band narrow: screen.width < 384\n"),
        "{other}"
    );
    assert!(other.contains("    when narrow { in head.title { font "), "{other}");
    assert!(worse(&other, &displays).is_empty());
    // From that width on nothing is as it was before.
    let above = [Display::new(384.0, 700.0).unwrap()];
    assert!(worse(text, &above).is_empty());
    assert_eq!(frames(text, &above), frames(&other, &above));
    assert_eq!((fix.moved_on, fix.moves.as_str()), (1, "no other view moves, on 1 display"));
    // The same where a display stands just there, and in a state in which nothing is wrong on a narrower one.
    let [narrow, _] = displays;
    let (there, _) = with_a_band(text, &[narrow.clone(), Display::new(384.0, 700.0).unwrap()]);
    assert_eq!(there, other);
    let stated = text.replace("    view head", "    state bar: full, bare\n    view head");
    let stated = stated.replace("\n}\n", "\n    when bar.bare { hide head.clock }\n}\n");
    let bare = Display::new(370.0, 700.0).unwrap().with_state("bar", "bare");
    let (there, _) =
        with_a_band(&stated, &[narrow.with_state("bar", "full"), bare, Display::new(900.0, 700.0).unwrap()]);
    assert!(there.contains("band narrow: screen.width < 384\n"), "{there}");
}

#[test]
fn bands_that_several_fixes_declare_are_joined_or_told_apart() {
    let head = |name: &str, (top, height): (f64, f64), words: &str| {
        format!(
            "    view {name} {{
        pin left, right to screen
        top = screen.top + {top}
        height = {height}
        text title \"{words}\" {{ font 24; lines 1; start = parent.start + 16; center_y = parent.center_y }}
        view clock {{ end = parent.end - 16; center_y = parent.center_y; size = (64, 24) }}
    }}
    claim {name}.height same for screen.width 300..900
"
        )
    };
    let displays = [Display::new(360.0, 700.0).unwrap(), Display::new(900.0, 700.0).unwrap()];
    // Twice the same words, so that both go wrong below the same width; or words of another length.
    for (other, bands) in [("Next departures of today", 1), ("Next departures of today!", 2)] {
        let one = head("one", (0.0, 40.0), "Next departures of today");
        let two =
            head("two", (60.0, 44.0), other).replace("start = parent.start + 16", "left = parent.left + 16");
        let text = format!("screen quay {{\n    ladder fit\n{one}{two}}}\n");
        let found = fixed_with(&text, &displays, 10.0);
        let fixes: Vec<_> = found
            .iter()
            .filter(|f| f.code == Code::Overlap)
            .flat_map(|f| f.fixes.iter().find(|fix| fix.text.contains("band") && fix.edits.len() == 2))
            .collect();
        assert_eq!(fixes.len(), 2, "{found:?}");
        let both = edited(&text, &joined(fixes)).unwrap();
        assert_eq!(both.matches("    band ").count(), bands, "{both}");
        assert!(worse(&both, &displays).is_empty(), "{both}");
    }
}

/// A head and a board under it, one rule of which is written in one of two ways.
fn board(rule: &str) -> String {
    format!(
        "screen quay {{
    ladder fit > polish
    view head {{ pin left, right, top to screen; height = 40 }}
    view board {{ pin left 16, right 16 to screen; height = 80; {rule} }}
    view foot {{ pin left, right, bottom to screen; height = 30 }}
}}
"
    )
}

#[test]
fn each_kind_of_fault_gets_the_fix_that_a_person_would_choose() {
    let displays = [Display::new(390.0, 844.0).unwrap(), Display::new(844.0, 390.0).unwrap()];
    for (rule, code, way) in [
        // Tied to the wrong edge of the head.
        (
            "top = head.top + 12",
            Code::Overlap,
            "write `top = head.bottom + 12` instead of `top = head.top + 12`",
        ),
        // Beyond the screen, upwards.
        ("top = screen.top - 30", Code::Outside, "write `top = screen.top + 30`"),
        // Nothing says how far down it is.
        ("top >= head.bottom + 8", Code::Ambiguous, "meet the limit `top >= head.bottom + 8` exactly"),
        // Twice the top.
        ("top = head.bottom + 8; top = head.bottom + 20", Code::Conflict, "remove `top = head.bottom + 20`"),
        // Two wishes on one level.
        ("top = head.bottom + 8 ~ fit; bottom = foot.top - 8 ~ fit", Code::Tie, "~ polish"),
    ] {
        let found = fixed(&board(rule), &displays);
        let finding = found.iter().find(|f| f.code == code);
        let finding = finding.unwrap_or_else(|| panic!("{rule}: {:?}", found));
        let told: Vec<&str> = finding.fixes.iter().map(|fix| fix.text.as_str()).collect();
        assert!(told.iter().any(|text| text.contains(way)), "{rule}: {told:?}");
    }
}

/// Where every view is on some displays.
fn frames(text: &str, displays: &[Display]) -> Vec<Vec<Option<vantic::geometry::Frame>>> {
    check(&plan(text), displays, &PlainText).unwrap().placements.into_iter().map(|p| p.frames).collect()
}

#[test]
fn a_rule_that_is_missing_is_guessed_from_what_is_around_it() {
    let displays = [Display::new(390.0, 844.0).unwrap(), Display::new(844.0, 390.0).unwrap()];
    // A screen that is right, and what is taken out of it.
    for (body, gone) in [
        // One after the other in a guide's columns, around a middle, and at distances that grow.
        (
            "guide cols { columns 4, margin 8, gutter 8; pin left, right to safe }
            view a { start = cols[1].start; top = safe.top; size = 20 }
            view b { start = cols[2].start; top = safe.top; size = 20 }
            view c { start = cols[3].start; top = safe.top; size = 20 }",
            "start = cols[3].start;",
        ),
        (
            "view dial { size = 300; center = safe.center
                view a { size = 20; center = parent.center + bearing(100, 0deg) }
                view b { size = 20; center = parent.center + bearing(100, 90deg) }
                view c { size = 20; center = parent.center + bearing(100, 180deg) }
                view d { size = 20; center = parent.center + bearing(100, 270deg) } }",
            "; center = parent.center + bearing(100, 180deg)",
        ),
        (
            "view a { left = safe.left; width = 20; height = 10; top = safe.top + 20 }
            view b { left = safe.left; width = 20; height = 10; top = safe.top + 50 }
            view c { left = safe.left; width = 20; height = 10; top = safe.top + 80 }",
            "; top = safe.top + 80",
        ),
        // Around its children, as far from the last as from the first.
        (
            "view card { pin left, right, top to safe; bottom = foot.bottom + 14
                view head { pin left 8, right 8 to parent; top = parent.top + 14; height = 30 }
                view foot { pin left 8, right 8 to parent; top = head.bottom + 6; height = 30 } }",
            "; bottom = foot.bottom + 14",
        ),
        // The other side of what it says of one, between two neighbours.
        (
            "view from { pin start 16, top 16 to safe; size = 40 }
            view line { start = from.end + 12; end = there.start - 12; height = 2; center_y = from.center_y }
            view there { pin end 16, top 16 to safe; size = 40 }",
            "end = there.start - 12; ",
        ),
        // What a band says otherwise under its label.
        (
            "band low: screen.height < 480
            view a { starts: start = safe.start + 16; top = safe.top + 8; size = 40 }
            view b { end = safe.end - 16; top = a.top; size = 40 }
            when low { in a { starts: start = safe.start + 90 } }",
            "starts: start = safe.start + 16; ",
        ),
        // A height that others have.
        (
            "view a { pin left, right, top to safe; height = 52 }
            view b { pin left, right to safe; top = a.bottom + 6; height = 52 }
            view c { pin left, right, bottom to safe; height = 52 }",
            "bottom to safe; height = 52",
        ),
        // A lone child, and the first one.
        (
            "view key { pin left, right, top to safe; height = 60; text word \"Pay\" { font 16; center = parent.center } }",
            "; center = parent.center",
        ),
    ] {
        let right = format!("screen quay {{\n{body}\n}}\n");
        let gone_to = if gone.starts_with("bottom") { "bottom to safe" } else { "" };
        let wrong = right.replace(gone, gone_to);
        assert!(wrong != right && worse(&right, &displays).is_empty(), "{:?}", worse(&right, &displays));
        let found = fixed(&wrong, &displays);
        let finding = found.iter().find(|f| f.code == Code::Ambiguous).unwrap();
        let fix = finding.fixes.first().unwrap_or_else(|| panic!("no fix of {finding:?}"));
        let again = edited(&wrong, &fix.edits).unwrap();
        assert_eq!(frames(&again, &displays), frames(&right, &displays), "{gone}: {}", fix.text);
    }
}

#[test]
fn what_is_behind_several_findings_or_counts_several_times_is_changed_first() {
    let rows: String = (1..6)
        .map(|i| {
            format!("view r{i} {{ pin left, right to safe; top = prev.bottom + 6; height = r0.height }}\n")
        })
        .collect();
    let list = |first: &str| {
        format!(
            "screen quay {{
    ladder fit > rhythm
    view r0 {{ pin left, right, top to safe; {first} }}
    {rows}
    view limit {{ pin left, right, bottom to safe; height = 10; top >= r5.bottom + 6 ~ fit }}
}}
"
        )
    };
    // Six rows of 80 and their gaps take 510, and a turned display has 390.
    let displays = [Display::new(390.0, 844.0).unwrap(), Display::new(844.0, 390.0).unwrap()];
    let found = fixed(&list("height = 80"), &displays);
    let finding = found.iter().find(|f| f.code == Code::Outside).unwrap();
    let told: Vec<&str> = finding.fixes.iter().map(|f| f.text.as_str()).collect();
    assert_eq!(told.first(), Some(&"write `height = 80 ~ rhythm` instead of `height = 80`"), "{told:?}");
    assert_eq!(
        frames(&edited(&list("height = 80"), &finding.fixes[0].edits).unwrap(), &displays),
        frames(&list("height = 80 ~ rhythm"), &displays)
    );
}

#[test]
fn what_does_with_less_is_offered_before_what_rearranges_the_screen() {
    let rows: String = ["board", "price", "times"]
        .iter()
        .map(|name| {
            format!("view {name} {{ pin left 16, right 16 to safe; below prev by 8; height = 80 }}\n")
        })
        .collect();
    let text =
        format!("screen quay {{\nview head {{ pin left, right, top to screen; height = 40 }}\n{rows}}}\n");
    let displays = Displays::default().all();
    let found = fixed(&text, &displays);
    let finding = found.iter().find(|f| f.code == Code::Covered).unwrap();
    let told: Vec<&str> = finding.fixes.iter().map(|f| f.text.as_str()).collect();
    assert_eq!(
        told.first(),
        Some(&"write `pin left, right, top to safe` instead of `pin left, right, top to screen`"),
        "{told:?}"
    );
}

#[test]
fn the_worst_finding_of_a_large_screen_gets_fixes_and_the_others_are_told() {
    let screen = |foot: &str| {
        format!(
            "screen quay {{
    view foot {{ {foot} }}
    view list {{ pin left, right, top to safe; bottom = foot.top; scroll down; column gap 4, align stretch
        repeat row 300 {{ height = 64
            view mark {{ size = 20; left = parent.left + 8; center_y = parent.center_y }}
        }}
    }}
    view late {{ left = list.left + 900; bottom = foot.top - 8; size = 60 }}
}}
"
        )
    };
    let text = screen("pin left, right, bottom to safe; height = 56; width = 300");
    let files = Assembled::alone("a.vantic", text.clone());
    let source = files.read().unwrap();
    let plan = Plan::new(source.screen).unwrap();
    let displays = Displays::default().all();
    let mut report = check(&plan, &displays, &PlainText).unwrap();
    let (map, how) = (&source.map, CheckOptions::default());
    Fixes { files: &files, map, plan: &plan, measure: &PlainText, how, beside: &Some }.find_all(&mut report);
    let first = &report.findings[0];
    assert_eq!(first.code, Code::Conflict);
    let fixed = edited(&text, &first.fixes[0].edits).unwrap();
    assert!(worse(&fixed, &displays).iter().all(|(code, _)| *code != Code::Conflict));
    let without = report.open().filter(|f| f.severity != Severity::Note && f.tried == 0).count();
    let told = report.left_out.iter().find(|out| out.what == FINDINGS_FOR_FIXES).unwrap();
    assert_eq!((without > 0, told.of - told.looked_at), (true, without));
}

#[test]
fn a_unit_or_one_of_a_series_can_be_put_right() {
    let displays = [Display::new(390.0, 844.0).unwrap(), Display::new(844.0, 390.0).unwrap()];
    // A screen that is right, what it says, and what is said by mistake.
    for (body, right, wrong) in [
        // A share of what is around it.
        (
            "view dial { size = 300; center = safe.center
                view hub { size = 120; center = parent.center }
                view a { size = 20; center = parent.center + bearing(40% of parent.width, 0deg) }
                view b { size = 20; center = parent.center + bearing(40% of parent.width, 120deg) }
                view c { size = 20; center = parent.center + bearing(40% of parent.width, 240deg) } }",
            "bearing(40% of parent.width, 240deg)",
            "bearing(40, 240deg)",
        ),
        // One that lies where its neighbour does.
        (
            "guide cols { columns 4, margin 8, gutter 8; pin left, right to safe }
            view a { start = cols[1].start; top = safe.top; size = 20 }
            view b { start = cols[2].start; top = safe.top; size = 20 }
            view c { start = cols[3].start; top = safe.top; size = 20 }",
            "start = cols[2].start",
            "start = cols[1].start",
        ),
        // A part of what is as tall as its parts: it goes round.
        (
            "view list { pin left, right, top to safe; column gap 4, align stretch
                view a { height = 52 }
                view b { height = 36 }
                view c { height = 60 } }",
            "height = 36",
            "height = 36% of parent.height",
        ),
        // A size tied to itself.
        (
            "view list { pin left, right, top to safe; height = 200
                view a { pin left, top to parent; size = 80 }
                view b { pin right, top to parent; height = 20; width = clamp(40% of a.width, 10, 60) } }",
            "40% of a.width",
            "40% of b.width",
        ),
        // Outer edges of two views.
        (
            "view a { pin left 20, right 20, top to safe; height = 40 }
            view b { pin left 60, right 20 to safe; below a by 8; height = 40 }
            view c { between a.left and a.right; below b by 8; size = (90, 20) }",
            "between a.left and a.right",
            "between b.left and a.right",
        ),
    ] {
        let (right, wrong) =
            [right, wrong].map(|says| format!("screen quay {{\n{}\n}}\n", body.replace(right, says))).into();
        assert!(worse(&right, &displays).is_empty());
        let found = fixed(&wrong, &displays);
        let finding = found.iter().find(|f| !f.fixes.is_empty());
        let fixes = &finding.unwrap_or_else(|| panic!("no fix in {wrong}: {found:?}")).fixes;
        let is_right = |fix: &vantic::finding::Fix| {
            frames(&edited(&wrong, &fix.edits).unwrap(), &displays) == frames(&right, &displays)
        };
        assert!(fixes.iter().any(is_right), "{fixes:?}");
    }
}

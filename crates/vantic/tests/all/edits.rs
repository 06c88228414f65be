//! A screen that is changed while it is placed.

use proptest::prelude::*;
use vantic::check::check;
use vantic::display::Display;
use vantic::finding::Finding;
use vantic::geometry::Frame;
use vantic::model::{Code, Coordinates as _, Screen, ScreenBuilder, Setting, Side, ViewId};
use vantic::plan::{EditError, Live, Plan};
use vantic::resolve::read;
use vantic::text::PlainText;

/// A list of jars on shelves, with what stands beside it: arranged and pinned, with texts, bands, choices and guides.
const PANTRY: &str = "screen pantry {
    ladder fit > rhythm
    band narrow: screen.width < 500
    text title \"What is left of the summer\" { font 20; pin left 16, top 16 to safe; right = safe.right - 16 }
    view shelves {
        below title by 12; pin left 16, right 16 to safe; column gap 6, padding 4
        repeat shelf 5 {
            height = max(30, label.height + 8); row gap 4, align center
            text label \"Plums and pears, cooked in the second week\" { font 12; share 1 }
            view jar { size = 24 }
        }
    }
    view scale { size = (60, 40); below shelves by 10; left = shelves.left }
    when narrow { hide scale }
    view total { below shelves by 10; right = shelves.right; width = clamp(80, 0.3 * screen.width, 200); height = 40; left >= shelves.left + 70 ~ fit }
    text note \"Weigh before noon\" { font 14; top = total.bottom + 8; left = shelves.left; width <= 220 }
}";

fn displays() -> Vec<Display> {
    let all = [(360.0, 640.0), (700.0, 500.0), (1100.0, 900.0)].map(|(w, h)| Display::new(w, h).unwrap());
    all.iter().cloned().chain([all[0].clone().with_language("fi")]).collect()
}

fn frames(plan: &Plan) -> Vec<Vec<(String, Option<Frame>)>> {
    let on = |display: &Display| {
        let placement = plan.place(display, &PlainText).unwrap();
        let screen = plan.screen();
        screen.views().map(|(view, _)| (screen.path(view), placement.frame(view))).collect()
    };
    displays().iter().map(on).collect()
}

/// The plan of the same screen, compiled from the start.
fn anew(live: &Live) -> Plan {
    Plan::new(live.screen().clone()).unwrap()
}

/// The frames of what is kept solved, each display after the others.
fn live_frames(live: &mut Live) -> Vec<Vec<(String, Option<Frame>)>> {
    let on = |display: &Display| {
        let frames = live.frames(display, &PlainText).unwrap();
        let screen = live.screen();
        screen.views().map(|(view, _)| (screen.path(view), frames.frame(view))).collect()
    };
    displays().iter().map(on).collect()
}

fn assert_alike(a: &[Vec<(String, Option<Frame>)>], b: &[Vec<(String, Option<Frame>)>], what: &str) {
    for (a, b) in std::iter::zip(a, b) {
        assert_eq!(a.len(), b.len(), "{what}");
        for ((path, a), (other, b)) in std::iter::zip(a, b) {
            let numbers = |f: &Option<Frame>| f.map(|f| [f.left, f.top, f.width, f.height]);
            let near = match (numbers(a), numbers(b)) {
                (Some(a), Some(b)) => std::iter::zip(a, b).all(|(a, b)| (a - b).abs() <= 1e-6),
                (a, b) => a == b,
            };
            assert!(path == other && near, "{path} {a:?}, {other} {b:?}: {what}");
        }
    }
}

/// What is found, in words, without the numbers of rules: where one was removed, those behind it keep theirs.
fn findings(plan: &Plan) -> Vec<String> {
    let report = check(plan, &displays(), &PlainText).unwrap();
    let words = |f: &Finding| {
        let message = f.message(plan.screen());
        let mut parts = message.split('#');
        let first = parts.next().unwrap_or_default().to_owned();
        let rest = parts.map(|part| part.trim_start_matches(|c: char| c.is_ascii_digit()));
        format!("{} {first}{}", f.code.name(), rest.collect::<String>())
    };
    // What nothing uses is told by the reader of files; texts that are not translated are listed as views were added.
    let elsewhere = |words: &String| words.starts_with("idle nothing ") || words.starts_with("untranslated ");
    report.findings.iter().map(words).filter(|words| !elsewhere(words)).collect()
}

/// One change, of what is there; `pick` chooses.
fn change(build: &mut ScreenBuilder, kind: u8, pick: usize, number: u16) {
    let views: Vec<ViewId> =
        build.screen().views().filter(|(_, v)| v.guide().is_none()).map(|(v, _)| v).collect();
    let rules: Vec<_> = build.screen().rules().map(|(rule, of)| (rule, of.relations().len())).collect();
    let Some(&view) = views.get(pick % views.len().max(1)) else { return };
    let number = f64::from(number);
    let name = format!("new{}", build.screen().views().count() + pick);
    match kind % 12 {
        0 if number < 100.0 => {
            build.language("fi", false, [(view, ["hillo", "suolaa ja sokeria"][pick % 2])]);
        }
        0 => {
            build.change_words(view, &"words of a jar ".repeat(1 + pick % 7));
        }
        1 if !rules.is_empty() => {
            let (rule, relations) = rules[pick % rules.len()];
            build.change_constant(rule, pick % relations, number / 4.0);
        }
        2 if !rules.is_empty() => {
            build.remove_rule(rules[pick % rules.len()].0);
        }
        3 => {
            build.remove(view);
        }
        4 => {
            let new = build.view_in(view, &name);
            build.rule(new, new.width().equals(number)).rule(new, new.height().equals(20.0));
            build.rule(new, new.pin([(Side::Left, 2.0), (Side::Top, number / 10.0)], view));
        }
        5 => {
            let new = build.text(&name, "Salt, sugar and two lemons", 13.0);
            build.rule(new, new.pin([(Side::Left, number), (Side::Top, 5.0)], view));
        }
        6 => {
            let siblings: Vec<ViewId> = build.screen().siblings_of(view).filter(|of| *of != view).collect();
            build.move_before(view, siblings.get(pick % (siblings.len() + 1)).copied());
        }
        7 => {
            build.set(view, Setting::Font(8.0 + number / 100.0));
        }
        8 => {
            build.copy(view, &name);
        }
        9 => {
            build.hide(view, pick.is_multiple_of(2));
        }
        10 => {
            build.show(view);
        }
        // A row with the same as others.
        _ => {
            if let Some(list) = build.screen().find("shelves") {
                let row = build.view_in(list, &name);
                build.rule(row, row.height().equals(number / 8.0));
                let first = build.screen().view(list).map(|of| of.children()[0]);
                build.move_before(row, first);
            }
        }
    }
}

proptest! {
    #![proptest_config(vantic_testkit::cases(48))]

    /// Changed again and again, taken back, and changed otherwise: it is placed as a plan made anew of the same screen,
    /// nothing becomes of a change that is refused, and no id of something that is gone means something else.
    #[test]
    fn a_changed_screen_is_placed_as_one_made_anew(
        edits in prop::collection::vec((prop::collection::vec((any::<u8>(), any::<usize>(), 0_u16..400), 1..4), any::<bool>()), 1..9),
    ) {
        let mut live = Plan::new(read(PANTRY).unwrap().screen).unwrap().live();
        live_frames(&mut live);
        let mut known: Vec<(ViewId, String)> = Vec::new();
        for (changes, undone) in edits {
            let names = |screen: &Screen| screen.views().map(|(v, _)| (v, screen.path(v))).collect::<Vec<_>>();
            let before = live.screen().to_string();
            known.extend(names(live.screen()));
            let all = |build: &mut ScreenBuilder| changes.iter().for_each(|&(kind, pick, number)| change(build, kind, pick, number));
            match live.edit(all) {
                Ok(((), earlier)) => {
                    assert_alike(&live_frames(&mut live), &frames(&anew(&live)), "as anew");
                    // Held against the same screen read from its text, where nothing is left to the order of views: rules that
                    // contradict one another or tie are settled in that order.
                    let again = Plan::new(read(&live.screen().to_string()).unwrap().screen).unwrap();
                    let (mut found, mut of_text) = (findings(live.plan()), findings(&again));
                    found.sort();
                    of_text.sort();
                    let is_open = |words: &String| ["conflict", "tie", "ambiguous"].iter().any(|code| words.starts_with(code));
                    if !found.iter().any(is_open) {
                        prop_assert_eq!(&found, &of_text, "{}", live.screen());
                    }
                    if undone {
                        live.go_over_to(earlier).unwrap();
                        prop_assert_eq!(live.screen().to_string(), before);
                        assert_alike(&live_frames(&mut live), &frames(&anew(&live)), "undone");
                    }
                }
                Err(EditError::OtherScreen) => prop_assert!(false, "it is the same screen"),
                Err(refused) => {
                    prop_assert!(!refused.to_string().is_empty());
                    prop_assert_eq!(live.screen().to_string(), before);
                    assert_alike(&live_frames(&mut live), &frames(&anew(&live)), "refused");
                }
            }
            for (view, path) in &known {
                let now = live.screen().view(*view).map(|_| live.screen().path(*view));
                prop_assert!(now.as_ref().is_none_or(|now| now == path), "{path} is {now:?}");
            }
        }
    }
}

#[test]
fn a_change_that_leaves_something_read_is_refused_and_says_what_reads_it() {
    let mut live = Plan::new(read(PANTRY).unwrap().screen).unwrap().live();
    let title = live.screen().find("title").unwrap();
    let error = live
        .edit(|build| {
            build.remove(title);
        })
        .unwrap_err();
    assert_eq!(
        error.to_string(),
        "`shelves#1` reads `title`, which is to be removed; remove or change `shelves#1`, too"
    );
    let before = live.edit(|build| {
        let reader = build.screen().rules_called("shelves#1")[0];
        let shelves = build.screen().find("shelves").unwrap();
        build.remove(title).remove_rule(reader).rule(shelves, shelves.top().equals(16.0));
    });
    let ((), before) = before.unwrap();
    assert!(live.screen().find("title").is_none() && live.screen().view(title).is_none());
    // Ids of what is gone, of another screen, and numbers that are none.
    let other = Plan::new(read(PANTRY).unwrap().screen).unwrap();
    let foreign = other.screen().find("note").unwrap();
    for wrong in [title, foreign] {
        let error = live
            .edit(|build| {
                build.change_words(wrong, "x");
            })
            .unwrap_err();
        assert!(error.to_string().contains("another screen"), "{error}");
    }
    let rule = live.screen().rules().next().unwrap().0;
    assert!(
        live.edit(|build| {
            build.change_constant(rule, 0, f64::NAN);
        })
        .is_err()
    );
    assert_eq!(live.go_over_to(other).unwrap_err(), EditError::OtherScreen);
    live.go_over_to(before).unwrap();
    assert_eq!(live.screen().find("title"), Some(title));
    assert!(findings(live.plan()).iter().all(|f| !f.starts_with(Code::Conflict.name())));
}

/// What one living screen adds is refused by another one of the same plan, though it stands in the same place there.
#[test]
fn two_screens_that_live_apart_refuse_the_ids_of_one_another() {
    let plan = Plan::new(read(PANTRY).unwrap().screen).unwrap();
    let add = |live: &mut Live, name: &str| {
        let (view, _) = live
            .edit(|build| {
                let view = build.view(name);
                build.add(view.width().equals(20)).add(view.height().equals(20));
                build.add(view.pin([(Side::Left, 0), (Side::Top, 0)], vantic::model::SCREEN));
                view
            })
            .unwrap();
        view
    };
    let (mut one, mut other) = (plan.live(), plan.live());
    let (own, foreign) = (add(&mut one, "own"), add(&mut other, "foreign"));
    assert_eq!(own.index(), foreign.index());
    assert!(one.screen().view(own).is_some() && one.screen().view(foreign).is_none());
    let on = &displays()[0];
    let (frames, placed) = (one.frames(on, &PlainText).unwrap(), one.place(on, &PlainText).unwrap());
    assert!(frames.frame(own).is_some() && placed.frame(own).is_some() && placed.is_painted(own));
    assert!(frames.frame(foreign).is_none() && placed.frame(foreign).is_none());
    let refused = one.edit(|build| build.remove(foreign).screen().roots().len()).unwrap_err();
    assert!(refused.to_string().contains("another screen"), "{refused}");
    // Going over to the plan of the other one, it is the other way round.
    one.go_over_to(other.plan().clone()).unwrap();
    assert!(one.screen().view(own).is_none() && one.screen().view(foreign).is_some());
    assert!(one.frames(on, &PlainText).unwrap().frame(foreign).is_some());
}

/// What a row may hold: rules of its own and those that read outside, arranged and scrolled, with what bands make of it.
const FRAGMENTS: [&str; 8] = [
    "text label \"Plums in the second week\" { font 13; line 18; lines 2; left = parent.left + 4; top = parent.top; width <= parent.width }",
    "view lamp { size = 12; end = parent.end; top = parent.top; tall: height <= 40; depth 2 }",
    "guide thirds { columns 3, gutter 4 }\nview third { pin start, end to thirds[2]; top = parent.top; height = max(10, tool.height / 2) }",
    "view tools { pin left, top to parent; row gap 2; height = 20\nview file { size = 8; share 1 }\nspace 6\nview saw { size = 10; sit end } }",
    "view pane { pin left, top to parent; size = (50, 40); scroll down\nview inner { pin left, top to pane.content; size = (30, 90) } }",
    "image badge { natural (20, 10); right = parent.right; bottom <= parent.bottom; rotate 20 }",
    "view ghost { only in wide; pin left, bottom to parent; size = 6 }",
    "view box { left = tool.right; top = parent.top; width = clamp(30% of screen.width, 20, 90); height = prev.height }\nview last { left = prev.left; top = prev.top; size = prev.size }",
];

/// A list of rows, each with the same in it, and what bands make of the rows.
fn racks(rows: usize, held: &[usize]) -> String {
    let body: String = held.iter().map(|at| format!("{}\n", FRAGMENTS[*at])).collect();
    let in_bands = |row: usize| {
        let one = |at: &usize| match at {
            0 => format!("in rack.hook[{row}].label {{ font 20 }}\n"),
            1 => format!("in rack.hook[{row}].lamp {{ drop tall; height >= 16 }}\n"),
            3 => format!(
                "in rack.hook[{row}].tools {{ row gap tool.width / 10 }}\nhide rack.hook[{row}].tools.file, keep space\n"
            ),
            _ => String::new(),
        };
        held.iter().map(one).collect::<String>()
    };
    let bands: String = (1..=rows).map(in_bands).collect();
    let words: String = match held.contains(&0) {
        true => (1..=rows).map(|row| format!("rack.hook[{row}].label \"Luumut\"\n")).collect(),
        false => String::new(),
    };
    format!(
        "screen shed {{\nband wide: screen.width >= 500\nview tool {{ left = 0; top = 0; size = (24, 30) }}\n\
         view rack {{ left = 30; pin top, right to safe; column gap 3, align stretch\n\
         repeat hook {rows} {{ height = 60\nview first {{ size = 5; pin left, top to parent }}\n{body}}} }}\n\
         when wide {{ in tool {{ height = 50 }}\n{bands}}}\nlanguage fi {{ {words} }}\n}}"
    )
}

proptest! {
    #![proptest_config(vantic_testkit::cases(48))]

    /// A row that is copied is what one more of a `repeat` is.
    #[test]
    fn a_copied_row_is_one_more_of_a_repeat(
        rows in 1_usize..4,
        mut held in prop::sample::subsequence((0..FRAGMENTS.len()).collect::<Vec<_>>(), 0..=FRAGMENTS.len()),
        by in 0_usize..8,
    ) {
        if !held.is_empty() {
            let by = by % held.len();
            held.rotate_left(by);
        }
        let expected = Plan::new(read(&racks(rows + 1, &held)).unwrap_or_else(|e| panic!("{e}")).screen).unwrap();
        let mut live = Plan::new(read(&racks(rows, &held)).unwrap().screen).unwrap().live();
        live_frames(&mut live);
        let last = live.screen().find(&format!("rack.hook[{rows}]")).unwrap();
        let (copy, before) = live.edit(|build| build.copy(last, &format!("hook[{}]", rows + 1))).unwrap();
        prop_assert_eq!(live.screen().path(copy), format!("rack.hook[{}]", rows + 1));
        let by_path = |mut all: Vec<Vec<(String, Option<Frame>)>>| {
            all.iter_mut().for_each(|frames| frames.sort_by(|a, b| a.0.cmp(&b.0)));
            all
        };
        assert_alike(&by_path(live_frames(&mut live)), &by_path(frames(&expected)), "a row more");
        let printed = live.screen().to_string();
        let again = Plan::new(read(&printed).unwrap_or_else(|e| panic!("{e}\n{printed}")).screen).unwrap();
        assert_alike(&by_path(frames(&again)), &by_path(frames(&expected)), "printed");
        // It can be hidden, shown and taken out again.
        let hidden = |live: &mut Live, path: &str| {
            let frames = live_frames(live);
            frames[0].iter().find(|(of, _)| of == path).is_none_or(|(_, frame)| frame.is_none())
        };
        let path = live.screen().path(copy);
        live.edit(|build| build.hide(copy, false).screen().views().count()).unwrap();
        prop_assert!(hidden(&mut live, &path));
        let fewer: Vec<_> = by_path(frames(live.plan())).into_iter().map(|all| all.into_iter().filter(|(_, f)| f.is_some()).collect::<Vec<_>>()).collect();
        let original = Plan::new(read(&racks(rows, &held)).unwrap().screen).unwrap();
        let own: Vec<_> = by_path(frames(&original)).into_iter().map(|all| all.into_iter().filter(|(_, f)| f.is_some()).collect::<Vec<_>>()).collect();
        assert_alike(&fewer, &own, "hidden");
        live.edit(|build| build.show(copy).screen().views().count()).unwrap();
        assert_alike(&by_path(live_frames(&mut live)), &by_path(frames(&expected)), "shown again");
        live.go_over_to(before).unwrap();
        assert_alike(&by_path(live_frames(&mut live)), &by_path(frames(&original)), "undone");
    }
}

#[test]
fn a_copy_that_cannot_be_is_refused() {
    let mut live = Plan::new(read(PANTRY).unwrap().screen).unwrap().live();
    let shelf = live.screen().find("shelves.shelf[1]").unwrap();
    for (name, part) in [("shelf[2]", "already"), ("1st", "not a name")] {
        let refused = live.edit(|build| build.copy(shelf, name)).unwrap_err().to_string();
        assert!(refused.contains(part), "{name}: {refused}");
    }
    let foreign = Plan::new(read(PANTRY).unwrap().screen).unwrap().screen().find("title").unwrap();
    for change in [0, 1, 2] {
        let refused = live.edit(|build| match change {
            0 => build.copy(foreign, "other").index(),
            1 => build.hide(foreign, false).screen().views().count(),
            _ => build.show(foreign).screen().views().count(),
        });
        assert!(refused.unwrap_err().to_string().contains("another screen"), "{change}");
    }
}

//! Edits of the structure, on random chains of views and on the case screens.

use crate::drawings::{plan, screens};
use proptest::prelude::*;
use std::collections::BTreeMap;
use vantic::display::{Display, Displays, Insets};
use vantic::files::Assembled;
use vantic::fix::edited;
use vantic::geometry::{Direction, Frame};
use vantic::infer::Tie;
use vantic::model::{Coordinate, Screen};
use vantic::structure::{NewView, Restructured, Structure, StructureError};
use vantic::text::PlainText;

/// Two displays, one with insets.
fn displays() -> Vec<Display> {
    let insets = Insets { left: 12.0, top: 30.0, right: 0.0, bottom: 16.0 };
    let small = Display::new(390.0, 844.0).and_then(|display| display.with_insets(insets)).unwrap();
    vec![small, Display::new(1024.0, 700.0).unwrap()]
}

type Made = Result<(String, Restructured), StructureError>;

/// What makes an edit.
type Editing<'a> = dyn Fn(&Structure<'_>) -> Result<Restructured, StructureError> + 'a;

/// The text with an edit made.
fn made(text: &str, edit: &Editing<'_>) -> Made {
    let files = Assembled::alone("s.vantic", text);
    let beside = |screen: Screen| Some(screen);
    let structure = Structure::new(&files, &displays(), &PlainText, &beside)?;
    let done = edit(&structure)?;
    let new = edited(text, &done.edits).unwrap();
    Ok((new, done))
}

/// The frames on each display, in both directions of reading, by path.
fn frames(text: &str) -> Vec<BTreeMap<String, Frame>> {
    let plan = plan(text);
    let both = [Direction::LeftToRight, Direction::RightToLeft];
    let all = displays().into_iter().flat_map(|display| both.map(|way| display.clone().with_direction(way)));
    let placed = all.map(|display| {
        let placement = plan.place(&display, &PlainText).unwrap();
        let views = plan
            .screen()
            .views()
            .filter_map(|(view, _)| Some((plan.screen().path(view), placement.frame(view)?)));
        views.collect()
    });
    placed.collect()
}

fn is_same(a: &Frame, b: &Frame) -> bool {
    let sides = [a.left - b.left, a.top - b.top, a.width - b.width, a.height - b.height];
    sides.iter().all(|by| by.abs() <= 0.02)
}

/// A view of a chain, as it is written.
#[derive(Clone, Debug)]
struct Link {
    gap: u32,
    tie: u8,
    cross: u8,
    size: (u32, u32),
    several_lines: bool,
    comment: bool,
}

fn links() -> impl Strategy<Value = Vec<Link>> {
    let link = (0..5_u32, 0..4_u8, 0..4_u8, (10..60_u32, 10..40_u32), any::<bool>(), any::<bool>());
    let link = link.prop_map(|(gap, tie, cross, size, several_lines, comment)| Link {
        gap: 4 * gap,
        tie,
        cross,
        size,
        several_lines,
        comment,
    });
    proptest::collection::vec(link, 3..7)
}

/// How a chain stands.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Kind {
    Down,
    Across,
    Row,
    Spread,
}

/// A screen with a chain of views `v0`, `v1` and so on, on the screen or in a view.
fn chain(links: &[Link], kind: Kind, inside: bool) -> String {
    let is_across = kind == Kind::Across;
    let (after, near, far, at) = match is_across {
        true => ("after", "start", "end", "top"),
        false => ("below", "top", "bottom", "start"),
    };
    let around = if inside { "parent" } else { "safe" };
    let pad = if inside { "        " } else { "    " };
    let mut views = String::new();
    for (index, link) in links.iter().enumerate() {
        let Link { gap, tie, cross, size: (width, height), several_lines, comment } = link;
        let before = format!("v{}", index.wrapping_sub(1));
        let mut rules = Vec::new();
        if matches!(kind, Kind::Down | Kind::Across) {
            rules.push(match (index, tie) {
                (0, _) => format!("pin {near} 8 to {around}"),
                (_, 0) => format!("{after} prev by {gap}"),
                (_, 1) => format!("{near} = {before}.{far} + {gap}"),
                (_, 2) => format!("next_to: {after} {before} by {gap}"),
                _ => format!("{after} {before} by {gap}"),
            });
        }
        let size_along = if is_across { format!("width = {width}") } else { format!("height = {height}") };
        let size_across = if is_across { format!("height = {height}") } else { format!("width = {width}") };
        let (cross_near, cross_far) = if is_across { ("top", "bottom") } else { ("start", "end") };
        match (kind, index, cross) {
            (Kind::Row, ..) => rules.push(format!("size = ({width}, {height})")),
            (_, _, 0) => rules.extend([format!("pin {cross_near} 8, {cross_far} 8 to {around}"), size_along]),
            (_, 1.., 1) => {
                rules.extend([format!("{at} = {before}.{at}"), format!("size = ({width}, {height})")])
            }
            (_, _, 2) => rules.extend([format!("pin {cross_near} 12 to {around}"), size_across, size_along]),
            _ => rules
                .extend([format!("pin {cross_near} 4 to {around}"), format!("size = ({width}, {height})")]),
        }
        if *comment {
            views += &format!("{pad}// What view {index} is for.\n");
        }
        views += &match several_lines {
            true => {
                let lines: String = rules.iter().map(|rule| format!("{pad}    {rule}\n")).collect();
                format!("{pad}view v{index} {{ // here\n{lines}{pad}}}\n")
            }
            false => format!("{pad}view v{index} {{ {} }}\n", rules.join("; ")),
        };
    }
    if kind == Kind::Spread {
        let names: Vec<String> = (0..links.len()).map(|index| format!("v{index}")).collect();
        views += &format!("{pad}spread down {} in {around}\n", names.join(", "));
    }
    let row = if kind == Kind::Row { "row gap 6, padding 4" } else { "" };
    match inside || kind == Kind::Row {
        true => format!(
            "screen chain {{\n    view box {{ pin start 4, end 4, top 4, bottom 4 to safe; {row}\n{views}    }}\n}}\n"
        ),
        false => format!("screen chain {{\n{views}}}\n"),
    }
}

proptest! {
    #![proptest_config(vantic_testkit::cases(64))]

    /// A view put in between two others has the same distance to both, moves nothing before it, and leaves the file as it was, byte by
    /// byte, when it is taken out again.
    #[test]
    fn inserting_and_removing_are_inverse(
        links in links(),
        kind in prop_oneof![Just(Kind::Down), Just(Kind::Across), Just(Kind::Row), Just(Kind::Spread)],
        inside in any::<bool>(),
        words in any::<bool>(),
        at in 0..6_usize,
    ) {
        let inside = inside || kind == Kind::Row;
        let text = chain(&links, kind, inside);
        let at = at % (links.len() - 1);
        let path = |name: &str| if inside { format!("box.{name}") } else { name.to_owned() };
        let (a, b) = (path(&format!("v{at}")), path(&format!("v{}", at + 1)));
        let what = if words { NewView::Text("Ebb \"tide\"".into()) } else { NewView::Plain };
        let (with, done) = made(&text, &|s| s.inserted("fresh", &what, (&a, &b)))
            .unwrap_or_else(|error| panic!("{error}\n{text}"));
        let (before, after) = (frames(&text), frames(&with));
        for (before, after) in std::iter::zip(&before, &after) {
            let fresh = after.get(&path("fresh")).unwrap_or_else(|| panic!("not placed\n{with}"));
            let gap = |one: &Frame, other: &Frame| match kind {
                Kind::Down | Kind::Spread => other.top - one.bottom(),
                _ if one.left <= other.left => other.left - one.right(),
                _ => one.left - other.right(),
            };
            let (first, second) = (gap(&after[&a], fresh), gap(fresh, &after[&b]));
            prop_assert!((first - second).abs() <= 0.02, "{first} and {second}\n{with}");
            if kind != Kind::Spread {
                let was = gap(&before[&a], &before[&b]);
                prop_assert!((first - was).abs() <= 0.02, "{first} for {was}\n{with}");
                for index in 0..=at {
                    let name = path(&format!("v{index}"));
                    prop_assert!(is_same(&before[&name], &after[&name]), "{name}\n{with}");
                }
            }
        }
        // What is said to move does, and nothing else.
        let moved = before[0].keys().filter(|name| {
            std::iter::zip(&before, &after).any(|(before, after)| !is_same(&before[*name], &after[*name]))
        });
        let mut said: Vec<&String> = done.moved.iter().map(|moved| &moved.view).collect();
        said.sort();
        prop_assert_eq!(said, moved.collect::<Vec<_>>(), "{}", with);
        let (again, _) = made(&with, &|s| s.removed(&path("fresh"))).unwrap_or_else(|error| panic!("{error}\n{with}"));
        prop_assert_eq!(again, text);
    }
}

proptest! {
    #![proptest_config(vantic_testkit::cases(64))]

    /// What stood behind a view that is taken out stands as far behind the one before it, and nothing before it moves.
    #[test]
    fn taking_a_view_out_closes_the_chain(
        links in links(),
        kind in prop_oneof![Just(Kind::Down), Just(Kind::Across), Just(Kind::Row)],
        inside in any::<bool>(),
        at in 1..6_usize,
    ) {
        let inside = inside || kind == Kind::Row;
        let text = chain(&links, kind, inside);
        let at = 1 + at % (links.len() - 1);
        let path = |index: usize| format!("{}v{index}", if inside { "box." } else { "" });
        let (less, _) = made(&text, &|s| s.removed(&path(at))).unwrap_or_else(|error| panic!("{at}: {error}\n{text}"));
        prop_assert!(!less.contains(&format!("v{at}")), "{less}");
        for (before, after) in std::iter::zip(&frames(&text), &frames(&less)) {
            prop_assert_eq!(before.len() - 1, after.len());
            for index in 0..at {
                prop_assert!(is_same(&before[&path(index)], &after[&path(index)]), "{}\n{less}", index);
            }
            if at + 1 == links.len() {
                continue;
            }
            let gap = |frames: &BTreeMap<String, Frame>, one: usize, other: usize| {
                let (one, other) = (&frames[&path(one)], &frames[&path(other)]);
                match kind {
                    Kind::Down => other.top - one.bottom(),
                    _ if one.left <= other.left => other.left - one.right(),
                    _ => one.left - other.right(),
                }
            };
            let (was, is) = (gap(before, at, at + 1), gap(after, at - 1, at + 1));
            prop_assert!((was - is).abs() <= 0.02, "{was} and {is}\n{less}");
        }
    }
}

proptest! {
    #![proptest_config(vantic_testkit::cases(64))]

    /// Views that are gathered, freed again one by one and dissolved stay where they are, in whatever order that is done.
    #[test]
    fn gathered_and_dissolved_views_stay(
        links in links(),
        kind in prop_oneof![Just(Kind::Down), Just(Kind::Across)],
        inside in any::<bool>(),
        (from, to) in (0..5_usize, 1..5_usize),
    ) {
        let text = chain(&links, kind, inside);
        let around = if inside { "box." } else { "" };
        let (from, count) = (from % (links.len() - 1), 2 + to % 3);
        let members: Vec<String> = (from..links.len().min(from + count)).map(|index| format!("{around}v{index}")).collect();
        let views: Vec<&str> = members.iter().map(String::as_str).collect();
        let before = frames(&text);
        let Ok((row, _)) = made(&text, &|s| s.gathered("line", &views)) else {
            // Where they do not line up there is no row.
            return Ok(());
        };
        let group = format!("{around}line");
        let stays = |then: &str, renamed: &dyn Fn(&str) -> String| {
            for (before, after) in std::iter::zip(&before, &frames(then)) {
                for (path, was) in before {
                    let is = after.get(&renamed(path));
                    prop_assert!(is.is_some_and(|is| is_same(was, is)), "{path}: {was:?}, {is:?}\n{text}\n{then}");
                }
            }
            Ok(())
        };
        let in_group = |path: &str| match members.iter().any(|member| member == path) {
            true => format!("{group}.{}", path.trim_start_matches(around)),
            false => path.to_owned(),
        };
        stays(&row, &in_group)?;
        let (free, _) = made(&row, &|s| s.dissolved(&group)).unwrap_or_else(|error| panic!("{error}\n{row}"));
        stays(&free, &in_group)?;
        // The last of them leaves nothing behind that could close up.
        let last = in_group(&members[members.len() - 1]);
        if let Ok((released, _)) = made(&row, &|s| s.released(&last)) {
            let own: Vec<String> = vec![last.clone()];
            for (before, after) in std::iter::zip(&frames(&row), &frames(&released)) {
                for path in &own {
                    prop_assert!(is_same(&before[path], &after[path]), "{path}\n{released}");
                }
            }
        }
    }
}

/// Edits that keep all frames, or those of one view, and how many could be made.
#[test]
fn what_is_kept_stays_where_it_is() {
    let mut count: BTreeMap<&str, (usize, usize)> = BTreeMap::new();
    for (name, text) in screens("cases/drawn") {
        let before = frames(&text);
        let plan = plan(&text);
        let screen = plan.screen();
        let views: Vec<_> = screen.views().map(|(view, _)| view).collect();
        let path = |view| screen.path(view);
        let mut try_it = |what: &'static str,
                          all: bool,
                          kept: &str,
                          group: Option<(&str, Vec<String>)>,
                          edit: &Editing<'_>| {
            let counted = count.entry(what).or_default();
            counted.1 += 1;
            let after = match made(&text, edit) {
                Ok((after, _)) => after,
                Err(error) => {
                    // Never for a file that would be wrong, if rules could be found.
                    let error = error.to_string();
                    assert!(
                        !error.is_empty() && !error.contains("two changes"),
                        "{name}, {what} {kept}: {error}"
                    );
                    return;
                }
            };
            counted.0 += 1;
            for (before, after_frames) in std::iter::zip(&before, &frames(&after)) {
                for (path, was) in before {
                    if !all && path != kept && !path.starts_with(&format!("{kept}.")) {
                        continue;
                    }
                    let then = match &group {
                        Some((group, members)) => {
                            let member =
                                members.iter().find(|m| path == *m || path.starts_with(&format!("{m}.")));
                            member.map_or_else(
                                || path.clone(),
                                |m| {
                                    let (around, own) =
                                        m.rsplit_once('.').map_or(("", m.as_str()), |(a, b)| (a, b));
                                    let around =
                                        if around.is_empty() { String::new() } else { format!("{around}.") };
                                    format!("{around}{group}.{own}{}", &path[m.len()..])
                                },
                            )
                        }
                        None => path.clone(),
                    };
                    let is = after_frames.get(&then);
                    assert!(
                        is.is_some_and(|is| is_same(was, is)),
                        "{name}, {what} {kept}: {path} was {was:?}, is {is:?}\n{after}"
                    );
                }
            }
        };
        for &view in &views {
            let own = path(view);
            for (way, tie) in Tie::ALL {
                let label: &'static str = way;
                try_it(label, true, &own, None, &|s| s.tied(&own, tie, None));
            }
            try_it("corner of safe", true, &own, None, &|s| s.tied(&own, Tie::Corner, Some("safe")));
            try_it("pin", true, &own, None, &|s| s.pinned(&own, &[]));
            if screen.view(view).unwrap().arrangement().is_some() {
                try_it("dissolve", true, &own, None, &|s| s.dissolved(&own));
            }
            if screen
                .view(view)
                .unwrap()
                .parent()
                .is_some_and(|p| screen.view(p).unwrap().arrangement().is_some())
            {
                try_it("release", false, &own, None, &|s| s.released(&own));
            }
            let next = screen.siblings_of(view).skip_while(|of| *of != view).nth(1);
            if let Some(next) = next {
                let other = path(next);
                let members = vec![own.clone(), other.clone()];
                try_it("gather", true, &own, Some(("both", members)), &|s| {
                    s.gathered("both", &[&own, &other])
                });
                try_it("corner of a sibling", true, &other, None, &|s| {
                    s.tied(&other, Tie::Corner, Some(&own))
                });
            }
        }
    }
    println!("{count:#?}");
    for (what, least) in
        [("pin", 80), ("corner", 15), ("dissolve", 3), ("release", 8), ("gather", 28), ("edges", 6)]
    {
        assert!(count[what].0 >= least, "{what}: {:?}", count[what]);
    }
}

#[test]
fn dissolving_undoes_gathering_but_for_the_rules() {
    let text = "screen pier {
    // Leaves first.
    view a { pin start 10, top 20 to safe; size = (30, 20) }
    view b { after a by 8; top = a.top; size = (40, 20) }
    view c { after b by 8; bottom = b.bottom; size = (20, 12); }
    view note { below a by 4; start = b.start; size = 10 }
    language fi
}
";
    let (row, _) = made(text, &|s| s.gathered("all", &["c", "a", "b"])).unwrap();
    assert!(row.contains("row gap 8, align end\n        pin start 10, top 20 to safe\n"), "{row}");
    assert!(row.contains("        // Leaves first.\n        view a { size = (30, 20) }\n"), "{row}");
    assert!(row.contains("view note { below all.a by 4; start = all.b.start; size = 10 }"), "{row}");
    let (free, _) = made(&row, &|s| s.dissolved("all")).unwrap();
    assert!(!free.contains("row gap"), "{free}");
    assert!(free.contains("view b { size = (40, 20); after a by 8; "), "{free}");
}

#[test]
fn edits_that_cannot_be_made_say_why() {
    let text = "screen pier {
    let wide = 40
    part tag { view dot { size = 4; pin start, top to parent } }
    view a { pin start 10, top 20 to safe; size = (30, 20) }
    view b { after a by 8; top = a.top; width = wide; height = 1.5 * a.height }
    view c { pin end 10, bottom 20 to safe; size = (20, 12) }
    view holder { pin start, bottom to safe; size = 20; use tag }
    each a, c { width <= 300 }
}
";
    let cases: [(&str, &Editing<'_>, &str); 14] = [
        ("a name", &|s| s.inserted("9x", &NewView::Plain, ("a", "b")), "`9x` is no name"),
        ("a word", &|s| s.inserted("safe", &NewView::Plain, ("a", "b")), "`safe` is a reserved word"),
        ("taken", &|s| s.inserted("c", &NewView::Plain, ("a", "b")), "already a view `c`"),
        ("unknown", &|s| s.removed("d"), "there is no view `d`; did you mean"),
        ("no siblings", &|s| s.inserted("x", &NewView::Plain, ("a", "holder.dot")), "are no siblings"),
        ("untied", &|s| s.inserted("x", &NewView::Plain, ("b", "c")), "no rule ties `b` and `c`"),
        ("read", &|s| s.removed("a"), "line 5 reads it"),
        ("a part", &|s| s.removed("holder.dot"), "comes from a part"),
        ("several", &|s| s.tied("c", Tie::Corner, None), "written for several views at once"),
        ("itself", &|s| s.tied("b", Tie::Corner, Some("b")), "is in it or is itself"),
        ("one", &|s| s.gathered("row", &["a"]), "two or more siblings"),
        ("no row", &|s| s.dissolved("a"), "`a` is no row"),
        ("no side", &|s| s.aligned(&["a", "b"], Coordinate::Width, false), "an edge or a middle"),
        ("undrawn", &|s| s.aligned(&["a", "b"], Coordinate::Top, false), "not drawn in the file"),
    ];
    for (what, edit, says) in cases {
        let error = made(text, edit).map(|(text, _)| text).unwrap_err().to_string();
        assert!(error.contains(says), "{what}: {error}");
    }
    let based = Assembled::new("s.vantic", "screen s from \"b.vantic\" { view a { size = 9 } }", |_, _| {
        Ok(("b.vantic".into(), "screen b { view z { pin start, top to safe; size = 3 } }".into()))
    });
    let error = Structure::new(&based, &displays(), &PlainText, &|s| Some(s)).unwrap_err();
    assert_eq!(error, StructureError::Based);
}

#[test]
fn rules_are_copied_with_names_changed_and_drawn_views_lined_up() {
    let text = "screen pier {
    view one { pin start 10, top 20 to safe; size = (100, 60)
        view icon { pin start 4, top 4 to parent; size = 12 }
        text name \"Skerry\" { font 10; after icon by 6; center_y = icon.center_y }
    }
    view two { start = one.start; below one by 8; size = (100, 60)
        view icon { pin end 4, bottom 4 to parent; size = 20 }
        text name \"Holm\" { font 10; pin start, top to parent }
    }
    drawing \"390x844\" { one = (10, 20, 100, 60); two = (14, 88, 100, 60) }
    drawing \"1024x700, right to left\" { one = (914, 20, 100, 60); two = (900, 88, 80, 60) }
}
";
    let (copied, _) = made(text, &|s| s.rules_copied("one.name", &["two.name"])).unwrap();
    assert!(copied.contains("\"Holm\" { font 10; after icon by 6; center_y = icon.center_y }"), "{copied}");
    let error = made(text, &|s| s.rules_copied("two", &["one"])).unwrap_err().to_string();
    assert!(error.contains("there is no such view for `one`"), "{error}");
    let (lined, done) = made(text, &|s| s.aligned(&["one", "two"], Coordinate::Start, false)).unwrap();
    assert!(
        lined.contains("two = (10, 88, 100, 60) }") && lined.contains("two = (934, 88, 80, 60) }"),
        "{lined}"
    );
    assert!(done.moved.is_empty());
    let (kept, _) = made(text, &|s| s.aligned(&["one", "two"], Coordinate::End, true)).unwrap();
    assert!(kept.contains("view two { below one by 8; size = (100, 60); end = one.end"), "{kept}");
    let error = made(text, &|s| s.retargeted("two#2", "safe")).unwrap_err().to_string();
    assert!(error.contains("tied to `safe`"), "{error}");
    let (tied, _) = made(text, &|s| s.retargeted("two#1", "safe")).unwrap();
    assert!(tied.contains("view two { start = safe.start + 10; below"), "{tied}");
}

/// The catalogue has a display for everything that the tests of the tool use.
#[test]
fn edits_hold_on_the_whole_catalogue() {
    let (_, text) = screens("cases/drawn").into_iter().find(|(name, _)| name == "pool").unwrap();
    let files = Assembled::alone("s.vantic", text.as_str());
    let beside = |screen: Screen| Some(screen);
    let all = Displays::default().all();
    let structure = Structure::new(&files, &all, &PlainText, &beside).unwrap();
    let first = structure.screen().views().next().map(|(view, _)| structure.screen().path(view)).unwrap();
    let done = structure.pinned(&first, &[]).unwrap();
    assert_eq!((done.compared, done.moved.len()), (2 * all.len(), 0));
}

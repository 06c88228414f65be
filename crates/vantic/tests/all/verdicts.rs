//! Small screens, each with one thing that a person would see, or that is plainly meant: what is found of
//! it, and nothing else.

use vantic::check::check;
use vantic::display::{Display, Displays, Insets};
use vantic::model::Code;
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::EvenText;

/// The code and message of each finding on a display of 300 x 400 with insets of 20 at the top and 10 at
/// the bottom.
fn found(body: &str) -> Vec<(Code, String)> {
    let insets = Insets { left: 0.0, top: 20.0, right: 0.0, bottom: 10.0 };
    let display = Display::new(300.0, 400.0).unwrap().with_insets(insets).unwrap();
    let display = display.with_own_keyboard(150.0).unwrap();
    // A line for each statement.
    let body = body.replace("} ", "}\n");
    let source = read(&format!("screen s {{\n{body}\n}}")).unwrap_or_else(|wrong| panic!("{body}: {wrong}"));
    let plan = Plan::new(source.screen).unwrap();
    let report = check(&plan, &[display], &EvenText).unwrap();
    report.open().map(|f| (f.code, f.message(plan.screen()))).collect()
}

fn expect(body: &str, expected: &[(Code, &str)]) {
    let found = found(body);
    let same = found.len() == expected.len();
    let all = expected
        .iter()
        .all(|(code, part)| found.iter().any(|(c, message)| c == code && message.contains(part)));
    assert!(same && all, "{body}\n{found:#?}\nshould be {expected:?}");
}

#[test]
fn overlaps_that_are_meant_are_not_reported() {
    let photo = "view photo { left = safe.left + 40; top = safe.top + 40; size = 100 }";
    for meant in [
        "view badge { size = 20; center = photo.at(100%, 0%) }",
        "view badge { size = 20; center_y = photo.bottom; start = photo.start + 10 }",
        "view badge { size = 20; center = photo.center + bearing(30, 45deg) }",
        "view card { start = photo.start; top = photo.bottom - 12; size = 60 }",
        "view card { start = photo.start; below photo by -12; size = 60 }",
        // A band that holds here turns a distance into one below zero.
        "let lap = 12; band small: screen.width < 500; when small { let lap = -12 } view card { start = photo.start; top = photo.bottom + lap; size = 60 }",
        "view frame { enclose photo by 8 }",
        "view note { start = photo.start + 5; top = photo.top + 5; size = 20; floats }",
    ] {
        expect(&format!("{photo} {meant}"), &[]);
    }
    // The same edges are no distance, and beside a middle along one axis nothing says that they meet.
    for slip in [
        "view card { start = photo.start; top = photo.top + 12; size = 60 }",
        "view card { start = photo.start + 30; center_y = photo.center_y; size = 60 }",
        "view card { start = photo.start; top = photo.bottom - 12; size = 60; depth -1 } view third { left = safe.left + 120; top = safe.top + 40; size = 60 }",
    ] {
        let found = found(&format!("{photo} {slip}"));
        assert!(found.len() == 1 && found[0].0 == Code::Overlap, "{slip}: {found:?}");
    }
}

#[test]
fn what_is_covered_in_another_layer_or_never_clear_is_reported() {
    let page = "view page { pin left, right, top, bottom to screen
        text title \"Harvest\" { font 20; left = parent.left + 20; top = parent.top + 40 }
        view sheet { pin left, right, top, bottom to parent; depth -1 } }";
    let over = |y: u32, more: &str| {
        format!(
            "{page} view layer {{ pin left, right, top, bottom to screen
            view button {{ left = parent.left + 30; top = parent.top + {y}; size = (60, 40){more} }} }}"
        )
    };
    expect(&over(35, ""), &[(Code::Overlap, "`page.title` and `layer.button` overlap")]);
    expect(&over(35, "; floats"), &[]);
    expect(&over(120, ""), &[]);
    expect(&(over(35, "") + " accept overlap: page, layer \"a map and its buttons\""), &[]);

    let list = |padding: u32| {
        format!(
            "view page {{ pin left, right to safe; top = safe.top; bottom = safe.bottom; scroll down
                column gap 10, padding (0, 0, 0, {padding}), align stretch
                repeat line 9 {{ height = 60 }} }}
            view add {{ size = 50; pin end 10, bottom 10 to safe; control }}"
        )
    };
    expect(
        &list(0),
        &[(Code::Overlap, "`add` covers 50 x 50 of `page.line[9]`, and `page` cannot be scrolled clear")],
    );
    expect(&list(70), &[]);
    // A heading that sticks under a bar is found once it sticks.
    let stuck = "view page { pin left, right, top, bottom to safe; scroll down
            column padding (0, 60, 0, 0), align stretch
            view first { height = 200 }
            view day { column align stretch; view date { height = 20; stick top HOW }; view rest { height = 700 } } }
        view bar { pin left, right, top to safe; height = 52 }";
    let told = found(&stuck.replace("HOW", ""));
    assert!(
        told.iter().any(|(code, m)| *code == Code::Overlap && m.contains("`page.day.date` and `bar`")),
        "{told:?}"
    );
    let told = found(&stuck.replace("HOW", "52"));
    assert!(!told.iter().any(|(_, m)| m.contains("`page.day.date` and `bar`")), "{told:?}");
}

#[test]
fn shapes_sizes_and_insets_are_looked_at() {
    let at = "left = safe.left + 20; top = safe.top + 20";
    for (body, expected) in [
        (
            format!("image i {{ natural (90, 30); {at}; size = 60 }}"),
            vec![(Code::Stretched, "stretched to 3 times")],
        ),
        (format!("image i {{ natural (90, 30); {at}; width = 60 }}"), vec![]),
        (
            format!("text t \"Hay\" {{ font 10; {at}; height = 60 }}"),
            vec![(Code::Stretched, "`t` is 60 high")],
        ),
        (format!("text t \"Hay\" {{ font 10; {at}; height = 14 }}"), vec![]),
        (
            format!("view v {{ {at}; right = left + 0; height = 9 }}"),
            vec![(Code::Collapse, "`v` collapses to zero: it has no width")],
        ),
        (format!("view v {{ {at}; width = 0; height = 9 }}"), vec![]),
        (
            format!("view g {{ {at}; size = (100, 80); grid columns 2; view a {{}}; view b {{}} }}"),
            vec![(
                Code::Collapse,
                "the rows of `g` take their height from its children, while `g.a` and `g.b` take theirs from `g`",
            )],
        ),
        (
            "view x { left = screen.left + 4; top = screen.top + 4; size = 44; control 44 }".into(),
            vec![(Code::Covered, "16 at the top")],
        ),
        ("view x { pin left, right, top to screen; height = 60 }".into(), vec![]),
        (
            "view x { pin left, right, top to screen; height = 12 }".into(),
            vec![(Code::Covered, "20 at the top")],
        ),
        ("view x { pin left, right, bottom to screen; height = 60; control }".into(), vec![]),
        (
            "view x { left = safe.left; bottom = safe.bottom - 20; size = (100, 40); input }".into(),
            vec![(Code::Covered, "is typed into, and is under the keyboard: 120 at the bottom")],
        ),
        ("view x { left = safe.left; bottom = clear.bottom - 20; size = (100, 40); input }".into(), vec![]),
    ] {
        expect(&body, &expected);
    }
}

#[test]
fn slips_and_what_has_no_effect_are_noted() {
    let a = "view a { left = safe.left + 20; top = safe.top + 20; size = 40 }";
    for (body, expected) in [
        (format!("{a} view b {{ start = a.end + 8; top = a.start + 8; size = 9 }}"), vec![(Code::Odd, "ties a horizontal position to a vertical one")]),
        (format!("{a} view b {{ start = a.end + 8; top = a.top; width = a.top; height = 9 }}"), vec![(Code::Odd, "ties a size to a position")]),
        // How far two lie apart on one axis may be as far as on the other.
        (format!("{a} view b {{ start = a.end + 8; top = a.top + start - a.start; size = 9 }}"), vec![]),
        (
            format!("{a} language ur, right to left {{ }}"),
            vec![(Code::Odd, "`a` is tied to the left or the right, and does not mirror in `ur`")],
        ),
        ("view a { pin left 20, right 20, top 20 to safe; height = 40 } language ur, right to left { }".into(), vec![]),
        ("view a { between safe.left + 9 and safe.right - 9, at most 200; top = safe.top; height = 40 } language ur, right to left { }".into(), vec![]),
        (
            "view page { pin left, right, top, bottom to safe; scroll down
                view fixed { left = parent.left; top = parent.top; size = 20 }
                view long { left = parent.content.left + 30; top = parent.content.top; size = (40, 900) }
                content.bottom = long.bottom }".into(),
            vec![(Code::Odd, "`page.fixed` does not scroll with `page`")],
        ),
        ("design (500, 300)\nview a { left = safe.left; top = safe.top; size = 20 }".into(), vec![(Code::Odd, "designed for 500 x 300 and shown in the other orientation")]),
        (format!("{a} band low: screen.height < 90"), vec![(Code::Idle, "nothing depends on the band `low`")]),
        (format!("{a} state lid: shut, open"), vec![(Code::Idle, "nothing depends on the state `lid`")]),
        (format!("{a} let edge = 9"), vec![(Code::Idle, "nothing reads the number `edge`")]),
        (format!("{a} part p() {{ }}"), vec![(Code::Idle, "nothing uses the part `p`")]),
        (format!("ladder fit > calm\n{a}"), vec![(Code::Idle, "nothing is on the levels `fit` and `calm`")]),
        (
            "view r { left = safe.left; top = safe.top; row gap 5\ncolumn gap 9\n view a { size = 9 }; view b { size = 9 } }".into(),
            vec![(Code::Idle, "`row` of `r` has no effect: `column` in the same block replaces it")],
        ),
        (
            "guide g { columns 3 of 50, margin 5, lean 50% } view a { start = g[1].start; top = safe.top; size = 9 }".into(),
            vec![(Code::Idle, "`margin` has no effect in `g`")],
        ),
        (
            "guide g { columns 3, gutter -5 } view a { start = g[1].start; top = safe.top; size = 9 }".into(),
            vec![(Code::Odd, "its columns or rows overlap by 5")],
        ),
        (
            "repeat s 5 { left = safe.left + 40; top = safe.top + 40; size = 20 }".into(),
            vec![(Code::Overlap, "lie in one place, 20 x 20")],
        ),
    ] {
        expect(&body, &expected);
    }
}

#[test]
fn what_begins_in_the_middle_of_its_parent_may_go_beyond_it() {
    let hand = |length: u32| {
        format!(
            "view dial {{ size = 160; center = safe.center
                view hand {{ size = ({length}, 6); left = parent.center_x; center_y = parent.center_y }} }}"
        )
    };
    expect(&hand(100), &[(Code::Outside, "`dial.hand` extends 20 beyond the right of its parent `dial`")]);
    expect(&hand(70), &[]);
}

#[test]
fn what_stands_under_one_inset_in_one_view_is_one_finding() {
    let bar = |bottom: &str| {
        format!(
            "view bar {{ pin left, right to screen; bottom = {bottom}; height = 50; row
                view a {{ share 1; height = 50; control }} view b {{ share 1; height = 50; control 50 }}
                view c {{ share 1; height = 50; control 50 }} }}"
        )
    };
    expect(&bar("screen.bottom"), &[(Code::Covered, "10 at the bottom")]);
    expect(&bar("safe.bottom"), &[]);
    // What keeps to the safe area is no background with gaps.
    expect("view log { pin left, right, top to safe; bottom = safe.bottom - 52 }", &[]);
}

#[test]
fn numbers_that_differ_by_a_slip_are_noted_and_others_are_not() {
    let column = |distances: [u32; 6]| {
        let rows = distances.iter().enumerate().map(|(i, by)| {
            let below = if i == 0 { "top = safe.top + 4".to_owned() } else { format!("below prev by {by}") };
            format!("view v{i} {{ pin left 12, right 12 to safe; {below}; height = 20 }}\n")
        });
        rows.collect::<String>()
    };
    expect(
        &column([0, 12, 12, 12, 21, 12]),
        &[(
            Code::Odd,
            "`v4` has `top = prev.bottom + 21`, but 4 similar views have `top = prev.bottom + 12`",
        )],
    );
    // Each tied to another by its name.
    let named = [0, 12, 12, 12, 21, 12].iter().enumerate().map(|(i, by)| match i {
        0 => "view v0 { pin left 12, right 12, top 4 to safe; height = 20 }\n".to_owned(),
        _ => {
            format!("view v{i} {{ pin left 12, right 12 to safe; below v{} by {by}; height = 20 }}\n", i - 1)
        }
    });
    expect(&named.collect::<String>(), &[(Code::Odd, "`v4` has `top = v3.bottom + 21`")]);
    for fine in
        [[0, 12, 12, 12, 24, 12], [0, 12, 12, 12, 16, 12], [0, 12, 12, 21, 21, 12], [0, 12, 12, 12, 90, 12]]
    {
        expect(&column(fine), &[]);
    }
}

#[test]
fn displays_can_be_named_scrolled_and_typed_on() {
    let source = read(
        "screen s { view page { pin left, right, top, bottom to safe; scroll down; column
            repeat line 9 { size = 60 } } }",
    )
    .unwrap();
    let displays = Displays::default();
    let plan = Plan::new(source.screen).unwrap();
    let at = |name: &str| {
        let display = displays.find(name, plan.screen()).unwrap();
        let placement = plan.place(&display, &EvenText).unwrap();
        (display.name().to_owned(), placement.frame(plan.screen().find("page.line[1]").unwrap()).unwrap().top)
    };
    assert_eq!(at("300x400, scroll page 100"), ("300x400, scroll page 100".to_owned(), -100.0));
    assert_eq!(at("300x400, scroll 30").1, -30.0);
    assert_eq!(at("300x400, keyboard 200").1, 0.0);
    for wrong in ["300x400, scroll line 4", "300x400, scroll page far"] {
        let error = displays.find(wrong, plan.screen()).unwrap_err().to_string();
        assert!(error.contains("write a view that scrolls and how far"), "{error}");
    }
}

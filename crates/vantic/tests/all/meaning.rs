//! What the language means: each spelling against the plainest one, names looked up from the
//! inside out, what bands make of a screen, and when conditions hold.

use proptest::prelude::*;
use vantic::check::check;
use vantic::display::{CATALOGUE, Display, Insets};
use vantic::geometry::{Direction, Frame};
use vantic::model::{
    BuildError, Code, Condition, Coordinate, Coordinates, Expr, Order, Property, Relation, SCREEN, Screen,
    ScreenBuilder, Setting, Side, ViewId, max, min, ratio,
};
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::syntax::format;
use vantic::text::PlainText;

fn screen(rules: &str) -> Screen {
    let text = format!(
        "screen s {{\n ladder fit > polish\n let gap = 8\n view a {{ size = 10 }}\n view p {{ view b {{}}; view v {{ {rules} }}; view c {{}} }}\n}}"
    );
    read(&text).unwrap_or_else(|e| panic!("{rules}: {e}")).screen
}

/// The relations of the view `v`, printed plainly, without how they are grouped.
fn relations(rules: &str) -> Vec<String> {
    let screen = screen(rules);
    let own = screen.rules().filter(|(_, r)| r.owner() == screen.find("p.v"));
    own.flat_map(|(_, r)| {
        r.relations().iter().map(|x| screen.relation_text(x, r.owner())).collect::<Vec<_>>()
    })
    .collect()
}

#[test]
fn each_spelling_is_the_plain_rule_it_stands_for() {
    for (short, plain) in [
        ("pin left to parent", "left = parent.left"),
        ("pin left 8, right 4 to safe", "left = safe.left + 8; right = safe.right - 4"),
        ("pin start gap, end 2 * gap to screen", "start = screen.start + 8; end = screen.end - 16"),
        ("pin top 1 + 2, bottom -3 to a", "top = a.top + 3; bottom = a.bottom + 3"),
        ("pin left 5% of a.width to prev", "left = prev.left + 5% of a.width"),
        ("size = (24, 16)", "width = 24; height = 16"),
        ("size = 24", "width = 24; height = 24"),
        ("center = parent.center", "center_x = parent.center_x; center_y = parent.center_y"),
        ("size = 50% of parent.size", "width = 0.5 * parent.width; height = parent.height / 2"),
        ("center = a.center + (3, -4)", "center_x = a.center_x + 3; center_y = a.center_y - 4"),
        ("center = a.center + gap", "center_x = a.center_x + 8; center_y = a.center_y + 8"),
        ("size <= (24, 16)", "width <= 24; height <= 16"),
        ("24 = size", "24 = width; 24 = height"),
        ("at(0%, 100%) = a.at(50%, 0%)", "left = a.left + 50% of a.width; top + height = a.top"),
        ("at(0.25, 0) = a.center", "left + 25% of width = a.center_x; top = a.center_y"),
        ("ratio width : height = 3 : 2", "width = 1.5 * height"),
        ("ratio height : a.width = 1 : gap", "height = a.width / 8"),
        ("center = a.center + bearing(40, 90deg)", "center_x = a.center_x + 40; center_y = a.center_y"),
        ("center = a.center + bearing(40, 180)", "center_x = a.center_x; center_y = a.center_y + 40"),
        (
            "center = a.center + bearing(a.width, -90deg)",
            "center_x = a.center_x - a.width; center_y = a.center_y",
        ),
        ("width = 40% of (parent.width - 2 * gap)", "width = 40% of parent.width - 6.4"),
        ("width = -(parent.width - 3) / 2", "width = -0.5 * parent.width + 1.5"),
        ("left = left + 3 - left + a.left", "left = a.left + 3"),
        ("top = prev.bottom; bottom = next.top", "top = b.bottom; bottom = c.top"),
        ("left = parent.parent.left + p.b.width", "left = screen.left + b.width"),
    ] {
        // `prev` and `next` stand for siblings that a band may hide, so their names differ.
        let named = |rules: &str| -> Vec<String> {
            relations(rules).iter().map(|r| r.replace("prev.", "b.").replace("next.", "c.")).collect()
        };
        assert_eq!(named(short), named(plain), "{short}");
    }
}

#[test]
fn each_rule_says_in_a_sentence_what_it_means() {
    for (rule, sentence) in [
        ("left = parent.right", "the left edge of `p.v` is at the right edge of `p`"),
        ("left = a.right + 8", "the left edge of `p.v` is 8 right of the right edge of `a`"),
        ("right = safe.right - 8", "the right edge of `p.v` is 8 left of the right edge of the safe area"),
        (
            "top >= prev.bottom + 8",
            "the top edge of `p.v` is at least 8 below the bottom edge of the view before `p.v`",
        ),
        (
            "bottom <= next.top - 8",
            "the bottom edge of `p.v` is at least 8 above the top edge of the view after `p.v`",
        ),
        ("bottom >= a.top - 8", "the bottom edge of `p.v` is at most 8 above the top edge of `a`"),
        ("start <= a.end + 2.5", "the start edge of `p.v` is at most 2.5 after the end edge of `a`"),
        ("top >= a.top", "the top edge of `p.v` is not above the top edge of `a`"),
        ("end <= a.start", "the end edge of `p.v` is not after the start edge of `a`"),
        ("center_y = 40", "the vertical middle of `p.v` is 40 from the screen's corner"),
        ("width = 24", "the width of `p.v` is 24"),
        ("width >= height", "the width of `p.v` is at least the height of `p.v`"),
        (
            "height = 60% of screen.height - 8",
            "the height of `p.v` is 60% of the height of the screen minus 8",
        ),
        ("height <= 3 * a.width + 1", "the height of `p.v` is at most 3 times the width of `a` plus 1"),
        (
            "left + right = parent.width",
            "the left edge of `p.v` plus the right edge of `p.v` is the width of `p`",
        ),
        ("width = 24 ~ fit weight 2", "the width of `p.v` is 24, counting 2 times"),
    ] {
        let screen = screen(rule);
        let view = screen.find("p.v").unwrap();
        let told: Vec<String> = screen.rules_of(view).into_iter().map(|r| screen.sentence(r)).collect();
        assert_eq!(told, [sentence], "{rule}");
    }
    // A view is reported of what others say of it, as the view before or after them too.
    let text =
        "screen s { view a {}; view b { top = prev.bottom }; view c { left = a.left; pin top 3 to b } }";
    let screen = read(text).unwrap().screen;
    let touching = |view: &str| -> Vec<String> {
        let rules = screen.rules_of(screen.find(view).unwrap());
        rules.into_iter().map(|r| r.name(&screen)).collect()
    };
    assert_eq!(touching("a"), ["b#1", "c#1"]);
    assert_eq!(touching("b"), ["b#1", "c#2"]);
    assert_eq!(touching("c"), ["c#1", "c#2"]);
}

#[test]
fn a_block_for_several_views_is_a_block_for_each_of_them() {
    let around = |blocks: [&str; 2]| {
        let text = format!(
            "screen s {{ band low: portrait; view p {{ view a {{ left = 1 }}; view b {{}}; view c {{}}; {} }}
             when low {{ {} }} }}",
            blocks[0], blocks[1]
        );
        let screen = read(&text).unwrap_or_else(|e| panic!("{text}: {e}")).screen;
        assert_eq!(read(&format(&text).unwrap()).unwrap().screen, screen, "formatted");
        screen
    };
    let block = "tall: height = 3; top = prev.bottom; view mark { pin left 2 to parent }";
    let change = "{ tall: height = 9; width = 4 }";
    let short = around([&format!("each b,\n c {{ {block} }}"), &format!("each p.b, p.c {change}")]);
    let long = around([
        &format!("in b {{ {block} }}; in c {{ {block} }}"),
        &format!("in p.b {change}; in p.c {change}"),
    ]);
    assert_eq!(short, long);
    let names: Vec<String> = short.rules().map(|(id, _)| short.rule_name(id)).collect();
    let expected = ["p.a#1", "p.b.tall", "p.b#2", "p.b.mark#1", "p.c.tall", "p.c#2", "p.c.mark#1"];
    assert_eq!(names[..7], expected);
    assert_eq!(names[7..], ["p.b.tall", "p.b@low#2", "p.c.tall", "p.c@low#2"]);
}

#[test]
fn names_are_looked_up_from_the_inside_out() {
    let text = "screen s {
        view a { width = 1 }
        view outer {
            view a { width = 2; view a { width = 3; view inner { top = a.width } } }
            view other { top = a.width; bottom = outer.a.a.width; left = screen.a.width }
        }
        view last { top = a.width }
        in outer.other { height = a.width; view late { width = other.width } }
    }";
    let screen = read(text).unwrap().screen;
    let reads = |view: &str, what: &str| {
        let id = screen.find(view);
        let rule = screen
            .rules()
            .find(|(_, r)| r.owner() == id && r.relations()[0].left.terms()[0].coordinate.spelling() == what);
        let place = rule.unwrap().1.relations()[0].right.terms()[0].anchor;
        screen.views().find(|(v, _)| place == (*v).into()).map(|(v, _)| screen.path(v)).unwrap()
    };
    assert_eq!(reads("outer.a.a.inner", "top"), "outer.a.a");
    assert_eq!(reads("outer.other", "top"), "outer.a");
    assert_eq!(reads("outer.other", "bottom"), "outer.a.a");
    assert_eq!(reads("outer.other", "left"), "a");
    assert_eq!(reads("outer.other", "height"), "outer.a");
    assert_eq!(reads("last", "top"), "a");
    assert_eq!(reads("outer.other.late", "width"), "outer.other");
    assert_eq!(screen.find("outer.nothing"), None);
}

#[test]
fn rules_are_called_by_their_label_or_their_number_in_the_block() {
    let text = "screen s {
        band low: portrait
        a.left = 3
        view a { pin left, top to safe; tall: height = 3; width = 4; view b { size = 3 } }
        in a { bottom = 9 }
        when low { in a { height = 8; tall: height = 9; right = 3 }; a.top = 4 }
    }";
    let screen = read(text).unwrap().screen;
    let names: Vec<String> = screen.rules().map(|(id, _)| screen.rule_name(id)).collect();
    assert_eq!(
        names,
        ["screen#1", "a#1", "a.tall", "a#3", "a.b#1", "a#4", "a@low#1", "a.tall", "a@low#3", "screen@low#1"]
    );
}

fn frames(plan: &Plan, display: &Display) -> Vec<(String, Option<[f64; 4]>)> {
    let p = plan.place(display, &PlainText).unwrap();
    let frame = |v| p.frame(v).map(|f| [f.left, f.top, f.width, f.height]);
    plan.screen().views().map(|(v, _)| (plan.screen().path(v), frame(v))).collect()
}

#[test]
fn bands_apply_in_file_order_later_over_earlier() {
    let text = |order: &str| {
        format!(
            "screen s {{
                band low: screen.height < 400
                band wide: screen.width >= 600
                view a {{ pin left, top to screen; wide: width = 1; tall: height = 1; view inner {{ pin left, top to parent; size = 1 }} }}
                view b {{ left = screen.left; below: top = prev.bottom; size = 5 }}
                view c {{ left = screen.left; top = prev.bottom; size = 5 }}
                {order}
            }}"
        )
    };
    let low = "when low { in a { wide: width = 2; tall: height = 20 }; hide b }";
    let wide = "when wide { in a { wide: width = 3 }; hide b, keep space }";
    let both = Display::new(700.0, 300.0).unwrap();
    let plan = |order: &str| Plan::new(read(&text(order)).unwrap().screen).unwrap();
    let find =
        |frames: &[(String, Option<[f64; 4]>)], path: &str| frames.iter().find(|f| f.0 == path).unwrap().1;

    let first = frames(&plan(&format!("{low}\n{wide}")), &both);
    assert_eq!(find(&first, "a"), Some([0.0, 0.0, 3.0, 20.0]));
    assert_eq!(find(&first, "b"), Some([0.0, 20.0, 5.0, 5.0]), "the later band keeps its space");
    assert_eq!(find(&first, "c").unwrap()[1], 25.0);
    let second = frames(&plan(&format!("{wide}\n{low}")), &both);
    assert_eq!(find(&second, "a"), Some([0.0, 0.0, 2.0, 20.0]));
    assert_eq!(
        (find(&second, "b"), find(&second, "c").unwrap()[1]),
        (None, 20.0),
        "`prev` skips what is gone"
    );

    // A band that changes nothing changes no frame; what is within a hidden view goes with it.
    let empty = plan("when wide { }");
    assert_eq!(frames(&empty, &both), frames(&plan(""), &both));
    let hidden = frames(&plan("when wide { hide a; in b { below: top = 0 } }"), &both);
    assert_eq!((find(&hidden, "a"), find(&hidden, "a.inner")), (None, None));
    // Dropping a rule drops what an earlier band put in its place.
    let dropped =
        plan("when low { in a { wide: width = 40 } }\nwhen wide { drop a.wide; in a { right = 9 } }");
    assert_eq!(find(&frames(&dropped, &both), "a").unwrap()[2], 9.0);
    let report = check(&plan("when wide { hide b, keep space }"), &[both], &PlainText).unwrap();
    let b = report.placements[0].frames.iter().zip(&report.placements[0].painted).nth(2).unwrap();
    assert!(b.0.is_some() && !b.1, "it keeps its frame and is not painted");
}

#[test]
fn conditions_hold_where_they_say() {
    let on = |width: f64, height: f64| Display::new(width, height).unwrap();
    let touched = on(300.0, 300.0).with_touch(true).with_direction(Direction::RightToLeft);
    let inset =
        on(600.0, 300.0).with_insets(Insets { left: 50.0, right: 51.0, ..Insets::default() }).unwrap();
    let dense = on(10.0, 20.0).with_density(2.0).unwrap().with_text_scale(1.5).unwrap();
    for (condition, display, holds) in [
        ("screen.width < 600", on(599.9, 1.0), true),
        ("screen.width < 600", on(600.0, 1.0), false),
        ("screen.width <= 600", on(600.0, 1.0), true),
        ("screen.height > 600", on(1.0, 600.0), false),
        ("screen.width 560..900", on(560.0, 1.0), true),
        ("screen.width 560..900", on(900.0, 1.0), false),
        ("portrait", on(300.0, 300.0), true),
        ("landscape", on(300.0, 300.0), false),
        ("landscape", on(301.0, 300.0), true),
        ("safe.width < 500", inset.clone(), true),
        ("safe.width >= 499 and safe.width < 499.5", inset, true),
        ("touch and right_to_left", touched.clone(), true),
        ("not touch or left_to_right", touched, false),
        ("density >= 2 and text_scale > 1.4", dense, true),
        ("portrait and (screen.width > 5 or touch) and not (screen.height > 100)", on(6.0, 50.0), true),
    ] {
        let screen = read(&format!("screen s {{ band b: {condition} }}")).unwrap().screen;
        let condition_read = screen.bands()[0].condition();
        assert_eq!(condition_read.holds(&display), holds, "{condition} on {display:?}");
        let again = read(&format!("screen s {{ band b: {condition_read} }}")).unwrap().screen;
        assert_eq!(again.bands()[0].condition(), condition_read, "{condition}");
    }
}

#[test]
fn an_acceptance_is_for_the_views_it_names_and_no_others() {
    let text = |accept: &str| {
        format!(
            "screen s {{
                view a {{ pin left, top to screen; size = 20 }}
                view b {{ pin left 10, top to screen; size = 20 }}
                view c {{ pin left, top 10 to screen; size = 20 }}
                {accept}
            }}"
        )
    };
    let open = |accept: &str| {
        let plan = Plan::new(read(&text(accept)).unwrap().screen).unwrap();
        let report = check(&plan, &[Display::new(100.0, 100.0).unwrap()], &PlainText).unwrap();
        let codes: Vec<(Code, usize)> = report.open().map(|f| (f.code, f.views.len())).collect();
        (codes, report.has_failed(false), report.has_failed(true))
    };
    let two = (Code::Overlap, 2);
    assert_eq!(open(""), (vec![two, two, two], false, true));
    assert_eq!(open("accept overlap: b, a \"on purpose\"").0, [two, two]);
    assert_eq!(open("accept overlap: a \"all of them\"").0, [two, two, two, (Code::Idle, 1)]);
    let all = "accept overlap: a, b \"1\"\naccept overlap: a, c \"2\"\naccept overlap: b, c \"3\"";
    assert_eq!(open(all), (vec![], false, false));
}

#[test]
fn the_catalogue_has_classes_of_every_kind_each_in_its_orientations() {
    let mut names = Vec::new();
    for class in CATALOGUE {
        for display in class.orientations() {
            let i = display.insets();
            assert!(i.left + i.right < display.width() && i.top + i.bottom < display.height());
            assert_eq!((display.density(), display.is_touch()), (class.density, class.touch));
            names.push(display.name().to_owned());
        }
        if let Some(turned) = class.on_its_side() {
            assert_eq!((turned.width(), turned.height()), (class.size.1, class.size.0));
            assert_eq!(turned.clone().turned().name(), class.name);
        }
    }
    for kind in ["handset-small", "handset-large", "fold-closed", "fold-open", "tablet", "desktop", "wall"] {
        assert!(names.iter().any(|n| n == kind), "{kind}");
    }
    let count = names.len();
    names.sort();
    names.dedup();
    assert_eq!(names.len(), count, "every display has a name of its own");
}

#[test]
fn what_a_builder_refuses_it_names() {
    type Step = fn(&mut ScreenBuilder);
    let steps: [(Step, &str); 18] = [
        (
            |s| {
                let a = s.view("a");
                let deep = (0..40).fold(a.width(), |inner, _| max([inner, a.height()]));
                s.rule(a, a.left().equals(deep));
            },
            "nested too deep: the limit is 32",
        ),
        (
            |s| {
                let a = s.view("a");
                s.rule(a, a.left().equals(max::<Expr>([])));
            },
            "`a#1`: `max` takes one or more",
        ),
        (
            |s| {
                let a = s.view("a");
                s.rule(a, a.left().equals(min([a.top(), f64::NAN.into()])));
            },
            "`a#1`: a number is not within",
        ),
        (
            |s| {
                let _ = s.value("gap", 8.0);
                let _ = s.value("gap", 9.0);
            },
            "already a number `gap`",
        ),
        (
            |s| {
                let i = s.image("i", (40.0, 30.0));
                s.set(i, Setting::Font(12.0));
            },
            "`i` is no text",
        ),
        (
            |s| {
                let a = s.view("a");
                s.set(a, Setting::Scale(0.0, 1.0));
            },
            "`scale` of `a` has to be one or two factors",
        ),
        (
            |s| {
                s.view("two words");
            },
            "`two words` is not a name",
        ),
        (
            |s| {
                s.view("");
            },
            "`` is not a name",
        ),
        (
            |s| {
                s.view("parent");
            },
            "`parent` is a reserved word; try `the_parent`",
        ),
        (
            |s| {
                s.text("t", "words", f64::NAN);
            },
            "`font` of `t` has to be within 1 and 1000",
        ),
        (
            |s| {
                s.ladder(["fit", "fit"]);
            },
            "already a level `fit` in the ladder",
        ),
        (
            |s| {
                let a = s.view("a");
                s.rule(a, a.left().equals(1e300));
            },
            "`a#1`: a number is not within",
        ),
        (
            |s| {
                let a = s.view("a");
                s.rule(a, a.left().equals(3.0).weight(2.0));
            },
            "`a#1`: a required rule has no weight",
        ),
        (
            |s| {
                let [fit] = s.ladder(["fit"]);
                let a = s.view("a");
                s.rule(a, a.left().equals(3.0).prefer(fit).weight(1e9));
            },
            "`a#1`: a weight",
        ),
        (
            |s| {
                let a = s.view("a");
                s.rule(a, ratio(a.width(), a.height(), 1.0, 0.0));
            },
            "`a#1`: a number is not within",
        ),
        (
            |s| {
                let a = s.view("a");
                s.rule(a, a.width().equals(a.content_width()));
            },
            "`a#1` reads the content of `a`",
        ),
        (
            |s| {
                let a = s.view("a");
                let b = s.band("b", Condition::Portrait);
                s.drop_when(b, a, "tall");
            },
            "no rule `a.tall` to drop",
        ),
        (
            |s| {
                s.accept("overlaps", &["a"], "why");
            },
            "`overlaps` is not a code",
        ),
    ];
    let told_otherwise: Vec<String> = steps
        .iter()
        .filter_map(|(step, message)| {
            let mut s = ScreenBuilder::for_file("s");
            step(&mut s);
            let errors = s.finish().unwrap_err().0;
            let as_expected = errors.len() == 1 && errors[0].to_string().contains(message);
            (!as_expected).then(|| format!("{message}: {errors:?}"))
        })
        .collect();
    assert!(told_otherwise.is_empty(), "{}", told_otherwise.join("\n"));
    // Ids of a larger screen are refused, not followed.
    let mut large = ScreenBuilder::new("large");
    let foreign = (0..9).map(|i| large.view(&format!("v{i}"))).last().unwrap();
    let mut small = ScreenBuilder::new("small");
    small.rule(foreign, foreign.left().equals(3.0));
    let own = small.view("own");
    small.rule(own, own.left().equals(foreign.right()));
    small.view_in(foreign, "child");
    let band = small.band("low", Condition::Portrait);
    small
        .set_when(band, foreign, Setting::Font(20.0))
        .hide_when(band, foreign, true)
        .drop_when(band, foreign, "tall");
    small.rule_when(band, own, own.top().equals(foreign.prev().bottom()));
    assert!(
        small
            .finish()
            .unwrap_err()
            .0
            .iter()
            .all(|e| matches!(e, BuildError::ForeignId { .. } | BuildError::NothingToDrop { .. }))
    );
    // A finished screen has no answer for them, and says so.
    let mut last = ScreenBuilder::new("last");
    last.view("only");
    let screen = last.finish().unwrap();
    assert!(screen.view(foreign).is_none() && screen.path(foreign).is_empty());
    assert!(screen.relation_text(&large_relation(), Some(foreign)).contains("left"));
    let placement = Plan::new(screen).unwrap().place(&Display::new(9.0, 9.0).unwrap(), &PlainText).unwrap();
    assert!(
        placement.frame(foreign).is_none()
            && !placement.is_painted(foreign)
            && placement.look(foreign).font.is_none()
    );
}

/// A relation of a screen with many views, which speaks of one of them and its neighbour.
fn large_relation() -> Relation {
    let mut large = ScreenBuilder::new("large");
    let view = (0..9).map(|i| large.view(&format!("v{i}"))).last().unwrap();
    large.rule(view, view.left().equals(view.prev().right()));
    large.finish().unwrap().rules().next().unwrap().1.relations()[0].clone()
}

proptest! {
    #![proptest_config(vantic_testkit::cases(100))]

    /// A chain of views comes out where adding up puts it, whatever the order of its rules.
    #[test]
    fn a_chain_is_where_adding_up_puts_it(
        links in prop::collection::vec((0_u16..300, 0_u16..40), 1..20),
        width in 100.0..2000.0_f64,
        turn in any::<prop::sample::Index>(),
    ) {
        let mut s = ScreenBuilder::new("s");
        let views: Vec<_> = (0..links.len()).map(|i| s.view(&format!("v{i}"))).collect();
        let mut rules = Vec::new();
        for (i, (&view, (size, gap))) in views.iter().zip(&links).enumerate() {
            let top = if i == 0 { SCREEN.top() } else { view.prev().bottom() };
            rules.push((view, view.top().equals(top + f64::from(*gap))));
            rules.push((view, view.height().equals(f64::from(*size))));
            rules.push((view, view.pin([(Side::Left, 1.0), (Side::Right, 2.0)], SCREEN)));
        }
        let by = turn.index(rules.len());
        rules.rotate_left(by);
        for (view, rule) in rules {
            s.rule(view, rule);
        }
        let plan = Plan::new(s.finish().unwrap()).unwrap();
        let p = plan.place(&Display::new(width, 500.0).unwrap(), &PlainText).unwrap();
        let mut bottom = 0.0;
        for (view, (size, gap)) in views.iter().zip(&links) {
            let f = p.frame(*view).unwrap();
            bottom += f64::from(*gap);
            prop_assert!((f.top - bottom).abs() < 1e-6 && (f.width - (width - 3.0)).abs() < 1e-6);
            bottom += f64::from(*size);
        }
        prop_assert!(p.missed.is_empty() && p.broken.is_empty());
    }

    /// Half-open ranges that share an end never both hold and never leave a gap.
    #[test]
    fn ranges_that_share_an_end_split_the_widths(cut in 2_u32..900, width in 1.0..1000.0_f64) {
        let range =
            |from: u32, to: u32| Condition::Within(Property::ScreenWidth, f64::from(from), f64::from(to));
        let below = Condition::Compare(Property::ScreenWidth, Order::Below, f64::from(cut));
        for width in [width, f64::from(cut)] {
            let display = Display::new(width, 10.0).unwrap();
            let held = [range(0, cut), range(cut, 2000)].map(|c| c.holds(&display));
            prop_assert!(held[0] != held[1]);
            prop_assert_eq!(held[0], below.holds(&display));
        }
        prop_assert!(Coordinate::SPELLINGS.iter().all(|(s, c)| c.spelling() == *s));
    }
}

/// What one writes: whole numbers, references, operators from both sides, lists as long as they happen to be.
#[test]
fn a_screen_is_built_from_what_one_writes() {
    let mut build = ScreenBuilder::new("loft");
    let names: Vec<String> = ["fit", "rhythm"].map(str::to_owned).into();
    let levels = build.ladder(names.as_slice());
    let [_shut, open] = build.state("hatch", ["shut", "open"]);
    let wide = build.band("wide", build.condition(open) & !Property::ScreenWidth.below(600));
    let beams: Vec<ViewId> = (0..4).map(|i| build.view(&format!("beam{i}"))).collect();
    let unit = SCREEN.width() / 10;
    for (i, beam) in (0..).zip(&beams) {
        let mut left = &unit * i + 4;
        left += 2 * &unit / 2;
        build.add(beam.left().equals(&left)).add(beam.width().equals(&unit + &unit / 2 - 2));
        build.add(beam.pin([(Side::Top, &unit * 2)], SCREEN)).add(beam.height().equals(12));
    }
    let (frame, sum) = (build.view("frame"), build.view("sum"));
    build
        .add(frame.enclose(beams.iter().copied(), 3))
        .add(sum.pin([(Side::Left, 0), (Side::Bottom, 0)], SCREEN));
    build.add(sum.width().equals(beams.iter().map(|beam| beam.width()).sum::<Expr>()));
    build.add(sum.height().equals(max([10, 30])).prefer(levels[0]).labelled("tall"));
    build.rule_when(wide, sum, sum.height().equals(50).labelled("tall"));
    let plan = Plan::new(build.finish().unwrap()).unwrap();
    let on = Display::new(400, 800).unwrap();
    let on_millionths = |n: f64| (n * 1e6).round() / 1e6;
    let frame_of = |view: ViewId, on: &Display| {
        let f = plan.place(on, &PlainText).unwrap().frame(view).unwrap();
        let [left, top, width, height] = [f.left, f.top, f.width, f.height].map(on_millionths);
        Frame { left, top, width, height }
    };
    // 40 is a tenth of 400: 4 + 40 + 40 for the second, each 58 wide.
    assert_eq!([frame_of(beams[1], &on).left, frame_of(beams[1], &on).width], [84.0, 58.0]);
    assert_eq!([frame_of(frame, &on).left, frame_of(frame, &on).right()], [41.0, 164.0 + 58.0 + 3.0]);
    assert_eq!([frame_of(sum, &on).width, frame_of(sum, &on).height], [232.0, 30.0]);
    let [shut, opened] = [("hatch", "shut"), ("hatch", "open")].map(|(state, shown)| {
        let on = Display::new(700, 800).unwrap().with_state(state, shown);
        frame_of(sum, &on).height
    });
    assert_eq!([shut, opened], [30.0, 50.0]);
}

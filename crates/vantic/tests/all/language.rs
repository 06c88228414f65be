//! The language: what is wrong is said at its place, the layout is stable, and what is read,
//! printed or built in Rust is the same screen.

use proptest::prelude::*;
use vantic::display::Display;
use vantic::geometry::{Axis, Frame};
use vantic::json::{Form, FormError};
use vantic::model::{
    Align, Arrangement, Condition, Coordinate, Coordinates, Design, Expectation, Expected, Guide, Length,
    Order, Overflow, Property, SAFE, SCREEN, Scaling, Screen, ScreenBuilder, Scroll, Setting, Share, Side,
    Space, Spread, bearing, bearing_along, clamp, max, ratio, spread, spread_in,
};
use vantic::plan::Plan;
use vantic::resolve::{read, read_bytes};
use vantic::syntax::{format, line_and_column};
use vantic::text::PlainText;

const DEPARTURES: &str = include_str!("../../../../demo/departures.vantic");
const BOARDING_PASS: &str = include_str!("../../../../demo/boarding_pass.vantic");
const BANDS: &str = include_str!("../../../../cases/screens/bands.vantic");
const CODES: &str = include_str!("../../../../cases/screens/codes.vantic");
const FILES: [&str; 18] = [
    DEPARTURES,
    BOARDING_PASS,
    BANDS,
    CODES,
    include_str!("../../../../demo/quay_kiosk.vantic"),
    include_str!("../../../../demo/muster_list.vantic"),
    include_str!("../../../../cases/screens/positions.vantic"),
    include_str!("../../../../cases/screens/fractions.vantic"),
    include_str!("../../../../cases/screens/limits.vantic"),
    include_str!("../../../../cases/screens/content.vantic"),
    include_str!("../../../../cases/screens/gauges.vantic"),
    include_str!("../../../../cases/screens/quay_board.vantic"),
    include_str!("../../../../cases/screens/cycles.vantic"),
    include_str!("../../../../demo/quay_wall.vantic"),
    include_str!("../../../../demo/sailings.vantic"),
    include_str!("../../../../cases/screens/sailings.vantic"),
    include_str!("../../../../cases/screens/booking.vantic"),
    include_str!("../../../../demo/booking.vantic"),
];

/// What the error points at; the line it is in; a part of its message; a part of its help.
#[rustfmt::skip]
const WRONG: &[(&str, &str, &str, &str)] = &[
    ("lft", "view a { lft = 3 }", "there is no coordinate or number `lft`", "did you mean `left`?"),
    ("view", "view a { top = heder.bottom }  view header {}", "the end of the line", ""),
    ("hader.bottom", "view header {}; view a { top = hader.bottom }", "there is no view `hader`", "did you mean `header`?"),
    ("c.x.top", "view c { view y {} }; view a { top = c.x.top }", "there is no view `c.x`", "did you mean `c.y`"),
    ("c", "view c {}; view a { top = c }", "`c` is a view, not a coordinate", "c.left"),
    ("c.tp", "view c {}; view a { top = c.tp }", "there is no coordinate `tp`", "did you mean `c.top`?"),
    ("left", "left = 3", "this stands directly in the screen", "header.left"),
    ("40%", "view a { width = 40% }", "40% of what?", "40% of parent.width"),
    ("width * height", "view a { left = width * height }", "multiplies two coordinates", "linear"),
    ("8 / width", "view a { left = 8 / width }", "divides by a coordinate", "ratio"),
    ("0", "view a { left = 8 / 0 }", "divides by zero", ""),
    ("1e999", "view a { left = 1e999 }", "`1e999` is too large a number", "at most 10000000"),
    ("NaN", "view a { left = NaN }", "there is no coordinate or number `NaN`", ""),
    ("start = left", "view a { start = left }", "mixes start or end with left or right", ""),
    ("a", "view a {}; view a {}", "there is already a view `a`", "another name"),
    ("tall", "view a { tall: width = 3; tall: height = 4 }", "there is already a rule `tall` in `a`", "another label"),
    ("width", "view width {}", "`width` is a reserved word", ""),
    ("_a", "view _a {}", "`_a` is not a name", ""),
    ("fitt", "ladder fit; view a { left = 3 ~ fitt }", "there is no level `fitt`", "did you mean `fit`?"),
    ("polish", "view a { left = 3 ~ polish }", "there is no level `polish`", "ladder polish"),
    ("left = 3 ~ fit weight 0", "ladder fit; view a { left = 3 ~ fit weight 0 }", "a weight has to be within 0.001 and 1000", ""),
    ("<", "view a { left < 3 }", "expected `<=` or `>=`, found `<`", ""),
    ("0", "view a { ratio width : height = 0 : 1 }", "a ratio with 0 has no meaning", "above zero"),
    ("sidewards", "view a { pin sidewards to safe }", "`sidewards` is not a side", "left, right, top"),
    ("b.left", "view b {}; view a { pin left 3 to b.left }", "`b.left` is an edge, not a box", "for one edge write a rule"),
    ("prev.bottom", "view a { top = prev.bottom }", "`a` is the first view of its parent, so it has no `prev`", "parent"),
    ("next.top", "view a { bottom = next.top }", "`a` is the last view of its parent", "parent"),
    ("width = content.width", "view a { width = content.width }", "reads the content of `a`, which has none", ""),
    ("t", "text t { font 3 }", "the text `t` has no words", "quotes"),
    ("t", "text t \"x\" { top = 0 }", "the text `t` has no font size", "font 16"),
    ("t", "text t \"x\" { font 0 }", "has to be within 1 and 1000", ""),
    ("font 3", "view a { font 3 }", "`a` is no text, so it has no `font`", "declare it as `text"),
    ("font 3", "font 3", "belongs in the block of a view", "move it"),
    ("\"words\"", "view a \"words\" {}", "a view has no words", "text"),
    ("wide", "when wide { }", "there is no band `wide`", "declare it first"),
    ("drop a#2", "band w: portrait; view a { left = 3; top = 4 }; when w { in a { drop a#2 } }", "only a rule with a label can be dropped", "`drop a.rule2`"),
    ("screen.widht", "band w: screen.widht > 3", "a band knows nothing called `screen.widht`", "did you mean `screen.width`?"),
    ("screen.width 600..400", "band w: screen.width 600..400", "ends before it begins", ""),
    ("a", "view a {}; each a, a { left = 3 }", "`a` is named twice", "once"),
    ("b", "view a {}; view b {}; each a b { left = 3 }", "expected `,` before the next view, or `{`", ""),
    ("lft", "view a {}; view b {}; each a, b { lft = 3 }", "there is no coordinate or number `lft`", "did you mean `left`?"),
    ("each", "view each {}", "`each` is a reserved word", ""),
    ("hide a", "view a { hide a }", "in a band only", "when band"),
    ("tal", "band w: portrait; view a { tall: left = 3 }; when w { in a { drop tal } }", "there is no rule `tal` to drop", "did you mean `tall`?"),
    ("view", "band w: portrait; when w { view b {} }", "a band changes views", "only in"),
    ("overlaps", "view a {}; accept overlaps: a \"why\"", "`overlaps` is not a code", ""),
    ("aa", "view a {}; accept overlap: aa \"why\"", "there is no view or rule `aa`", "did you mean `a`?"),
    ("center = 3 * width", "view a { center = 3 * width }", "one side is a pair", ""),
    ("45deg", "view a { left = 45deg }", "an angle has no meaning here", "bearing"),
    ("let x = y", "let x = y; let y = x + 1", "`x` is made of itself", "circle"),
    ("3 = 4", "view a { 3 = 4 }", "compares numbers only", ""),
    ("let x = 3", "view a { let x = 3 }", "`let` stands directly in the screen", "move it"),
    ("screen", "} screen b {", "a file holds one screen", "file of its own"),
    ("i", "image i {}", "the image `i` has no natural size", "natural (640, 400)"),
    ("natural 8", "text t \"x\" { font 3; natural 8 }", "`t` is no image", "declare it as `image"),
    ("i", "image i { natural (0, 4) }", "`natural` of `i` has to be two sizes within 1 and 100000", ""),
    ("1.5", "text t \"x\" { font 3; lines 1.5 }", "1.5 lines cannot be shown", "whole number"),
    ("scale 0", "view a { scale 0 }", "has to be one or two factors within 0.001", ""),
    ("5", "view a { origin 5 }", "`origin` takes two fractions", "0%, 100%"),
    ("whole weight 2", "view a { whole weight 2 }", "`a` is no text, image, row, column or grid", "`width`"),
    ("px", "view a { left = 16px }", "`px` is not a unit", "logical pixels"),
    ("-4", "view b {}; view a { center = b.center + bearing(-4, 45deg) }", "a distance of -4 is below zero", "180deg"),
    ("bearing(45deg)", "view b {}; view a { center = b.center + bearing(45deg) }", "takes a distance and an angle", "on top"),
    ("turned", "view b {}; view a { center = b.center + bearing(4, 45deg, turned) }", "ends with its angle", "mirrored"),
    ("b.outline", "view b {}; view a { center = b.outline }", "`outline` needs an angle", "outline(45deg)"),
    ("clamp(width, 3)", "view a { height = clamp(width, 3) }", "`clamp` takes three", "minimum and the maximum"),
    ("75%", "view a { span across 75%..25% in parent }", "runs backwards", "smaller fraction first"),
    ("120%", "view b {}; view a { between b.left and b.right, lean 120% }", "a lean is within 0% and 100%", "middle"),
    ("between b.left and b.top", "view b {}; view a { between b.left and b.top }", "one edge is across, the other down", "one axis"),
    ("between 3 and b.top", "view b {}; view a { between 3 and b.top }", "between two edges", "header.bottom"),
    ("contain in safe", "view a { contain in safe }", "no proportions of its own", "contain 3 : 2"),
    ("height", "view a { drawn across 12, 16 in parent of 52, grow height }", "`height` does not grow along this axis", "start, width, end"),
    ("0", "view a { drawn across 12, 16 in parent of 0 }", "a drawn size of 0 cannot be scaled", ""),
    ("at least 8", "view a { top = 16, at least 8 }", "a required rule does not give way", "~ level"),
    ("8", "ladder fit; view a { top = 16 ~ fit, at least 9, at most 8 }", "at most 8 is less than at least 9", "swap"),
    ("8", "ladder fit; view a { top = 16 ~ fit, at most 8, at least 9 }", "at most 8 is less than at least 9", "swap"),
    ("at least 9", "ladder fit; view a { top = 16 ~ fit, at least 8, at least 9 }", "`at least` is given twice", "once"),
    ("lean 2%", "view b {}; view a { between b.left and b.right, lean 1%, lean 2% }", "`lean` is given twice", "once"),
    ("tall: height = 3", "view a { { top = 3; tall: height = 3 } }", "rules without a label stand together", "before the brace"),
    ("gap", "let gap = 3; band w: portrait; when w { let gap = 4 }; text t \"x\" { font gap }", "bands change `gap`", ""),
    ("gpa", "let gap = 3; band w: portrait; when w { let gpa = 4 }", "no number `gpa` to change", "did you mean `gap`?"),
    ("title.bottom", "view title {}; view a { view title { top = title.bottom } }", "this view itself, which hides `title`", "screen.title"),
    ("bar.icon.top", "view bar { view icon {} }; view a { view bar {}; view b { top = bar.icon.top } }", "`bar` is `a.bar` here, which hides another", "screen.bar.icon"),
    ("8", "view b {}; view a { below b 8 }", "expected `by` before the distance", ""),
    ("parent", "view a { contain 16 : 9 parent }", "expected `in` and a box such as `parent`", ""),
    ("}", "text t \"x\" { font 16; snug }", "expected `weight` and a number, or `~` and a level", ""),
    ("3 <= max(1)", "view a { 3 <= max(1) }", "compares numbers only", ""),
    ("0", "view a { row; view b { share 0 } }", "a share of 0 is none", "leave the line out"),
    ("-2", "view a { row; view b { share -2 } }", "a share of -2 is none", "above zero"),
    ("row gap -4", "view a { row gap -4 }", "has to be without a length below zero", ""),
    ("column align baseline", "view a { column align baseline }", "only what stands in a row has a common baseline", ""),
    ("widely", "view a { row spread widely }", "expected start, center, end, between, around or evenly, found `widely`", ""),
    ("gpa", "view a { row gpa 4 }", "expected `gap`, `padding`, `spread`, `align` or `wrap`", ""),
    ("gap 5", "view a { row gap 4, gap 5 }", "`gap` is given twice", "once"),
    ("(1, 2)", "view a { row padding (1, 2) }", "padding of 2 sides", "four"),
    ("space 4", "space 4", "the screen itself has no row", "between the children"),
    ("row", "text t \"x\" { font 3; row }", "`t` is no plain view, so it has no `row`", "into a `view`"),
    ("columns 4", "view a { columns 4 }", "`a` is no guide, so it has no `columns`", "guide name"),
    ("0", "guide a { columns 0 }", "there cannot be 0 of them", "whole number"),
    ("1000000", "guide a { columns 1000000 }", "there cannot be 1000000 of them", "10000"),
    ("columns of 4, lean 50%", "guide a { columns of 4, lean 50% }", "without a lean", ""),
    ("columns 3 of -4", "guide a { columns 3 of -4 }", "a length below zero", ""),
    ("pin start to a[9]", "guide a { columns 8 }; view b { pin start to a[9] }", "reads number 9 of `a`, which has 8", ""),
    ("left = a[3..2].left", "guide a { columns 8 }; view b { left = a[3..2].left }", "reads numbers 3 to 2 of `a`", ""),
    ("left = a[0].left", "guide a { columns 8 }; view b { left = a[0].left }", "reads number 0 of `a`", ""),
    ("left = a[1].left", "view a {}; view b { left = a[1].left }", "has neither columns nor rows", ""),
    ("b", "guide a { view b {} }", "`a` is a guide and holds no views", ""),
    ("x", "view a {}; view b { left = a[x].left }", "expected a number, counted from 1", ""),
    ("spread across a, b", "view a {}; view b {}; spread across a, b", "needs more views", "or a box"),
    ("widely", "view a {}; spread across a in screen, widely", "expected `between`, `around` or `evenly`", ""),
    ("a", "view a { enclose a by 3 }", "cannot enclose itself", "within it"),
    ("1000000", "view a { column; repeat b 1000000 {} }", "1000000 cannot be repeated", "1000"),
    ("repeat b at least 2 {}", "view a { column; repeat b at least 2 {} }", "number of copies has no limits", "at most 20"),
    ("content.bottom", "view a { content.bottom = 3 }", "only a view that scrolls has `content`", "scroll down"),
    ("a.scrolled_y <= 9", "view a { a.scrolled_y <= 9 }", "does not scroll", ""),
    ("scroll down", "text a \"w\" { font 9; scroll down }", "`a` is no plain view", "put it into a `view`"),
    ("scroll down", "band w: screen.width >= 9; view a {}; when w { in a { scroll down } }", "`a` is no view that scrolls", "scroll off"),
    ("sideways", "view a { scroll sideways }", "off, down, across or both", ""),
    ("hide", "view a { overhang hide }", "show, clip or scale", ""),
    ("tob", "view a { stick tob 4 }", "`tob` is not a side", "did you mean `top`?"),
    ("width", "view a { stick top width }", "expected a plain number", ""),
    ("a.content", "band w: screen.width >= 9; view a { scroll down }; when w { hide a.content }", "what `a` scrolls cannot be hidden", ""),
    ("tyle", "part tile {}; view a { use tyle }", "there is no part `tyle`", "did you mean `tile`?"),
    ("use tile", "part tile(words) { text t words { font 9 } }; view a { use tile }", "`tile` is not given its `words`", "use tile(words = ...)"),
    ("gab = 3", "part tile(gap = 4) {}; view a { use tile(gab = 3) }", "`tile` takes no `gab`", "did you mean `gap`?"),
    ("gap = 4", "part tile(gap) {}; view a { use tile(gap = 3, gap = 4) }", "`gap` is given twice", "once"),
    ("tile", "part tile { view b { use tile } }; view a { use tile }", "`tile` is made of itself", "out of the other"),
    ("tile", "part tile {}; part tile {}", "there is already a part `tile`", "another name"),
    ("gap", "part tile(gap, gap) {}", "`gap` is a parameter twice", "once"),
    ("part b {}", "view a { part b {} }", "`part` stands directly in the screen", "screen's own block"),
    ("far.top", "view far {}; part tile { view t { top = far.top } }; view a { use tile }", "there is no view `far`", ""),
    ("gap", "part tile(gap) { text t gap { font 9 } }; view a { use tile(gap = 3) }", "there are no words `gap`", "in quotes"),
    ("t", "part tile { view t {} }; view a { use tile; use tile }", "there is already a view `t` in `a`", "another name"),
    ("let wide = 4", "part tile { let gap = 3; view t { let wide = 4 } }; view a { use tile }", "`let` stands directly in the screen", ""),
    ("use tile", "part tile {}; band w: screen.width >= 9; when w { use tile }", "does not belong in a band", ""),
    ("b", "repeat b at least 1, at most 3 {}", "the screen itself has no row to fill", "row"),
    ("0", "view a { grid columns 2; view b { cells 0 } }", "whole cells", "1 to 1000"),
    ("gap", "view a { grid gap 4 }", "expected `columns`, such as `grid columns 3`", ""),
    ("share 2", "share 2", "belongs in the block of a view", "move it"),
    ("state menu: open", "state menu: open", "`menu` has nothing to choose from", ""),
    ("state menu: open, open", "state menu: open, open", "there is already an alternative `open`", ""),
    ("menu.opne", "state menu: closed, open; when menu.opne {}", "there is no band `menu.opne`", "did you mean `menu.open`?"),
    ("wide", "view a { only in wide }", "there is no band `wide`", "declare it first"),
    ("only in w", "band w: portrait; only in w", "the screen itself is there everywhere", "block of the view"),
    ("only in w", "band w: portrait; view a {}; when w { in a { only in w } }", "belongs in the view's own block, not in a band", "`show` or `hide`"),
    ("only in w", "band w: portrait; view a { only in w; only in w }", "`only in` is given twice", "in one line"),
    ("show a", "view a {}; show a", "in a band only", "when band"),
    ("hide a, show a.b", "band w: portrait; view a { view b {} }; when w { hide a, show a.b }", "cannot be shown instead of `a`", ""),
    ("stay", "band w: portrait; view a {}; when w { hide a, stay }", "expected `keep` space, or `show`", ""),
    ("state menu: x, y", "view a { state menu: x, y }", "`state` stands directly in the screen", "own block"),
    ("control 0", "view a { control 0 }", "above zero", ""),
    ("b", "view a {}; language fi { b \"x\" }", "there is no view `b`", ""),
    ("a", "view a {}; language fi { a \"x\" }", "`a` is no text", "by its path"),
    ("t", "text t \"x\" { font 9 }; language fi { t \"y\"; t \"z\" }", "`t` has its words already", "once"),
    ("fi", "language fi; language fi {}", "there is already a language `fi`", "one block"),
    ("pseudo", "language pseudo {}", "not a name for a language", ""),
    ("left", "language fi, left to right {}", "expected `right`", ""),
    ("a", "expect on \"tablet\" { a = (0, 0, 1, 1) }", "there is no view `a`", ""),
    ("8", "view a {}; expect on \"tablet\" { a = 8 }", "the expectation is not clear", "header.width = 390"),
    ("gone", "view a {}; expect on \"tablet\" { a gone }", "expected `hidden`, or `=`", ""),
    ("a.left = 8", "view a {}; drawing \"tablet\" { a.left = 8 }", "a view is drawn with all of its frame", "(0, 0, 390, 56)"),
    ("hidden", "view a {}; drawing \"tablet\" { a hidden }", "`=` and a frame", ""),
    ("a = (0, 0, 1, 2)", "view a {}; drawing \"tablet\" { a = (0, 0, 1, 1); a = (0, 0, 1, 2) }", "`a` is drawn twice", "keep one"),
    ("a = (0, 0, -1, 1)", "view a {}; drawing \"tablet\" { a = (0, 0, -1, 1) }", "a size below zero", "0 or more"),
    ("tablet", "expect on tablet {}", "the name of a display in quotes", ""),
];

#[test]
fn whatever_a_line_says_rust_says_in_one_line_too() {
    let mut s = ScreenBuilder::new("shapes");
    let [fit, rhythm] = s.ladder(["fit", "rhythm"]);
    let [_, open] = s.state("menu", ["closed", "open"]);
    let wide = s.band("wide", Condition::Compare(Property::ScreenWidth, Order::AtLeast, 500.0));
    let (gap, by) = s.value("gap", 12.0);
    s.value_when(wide, gap, 24.0);
    let a = s.view("a");
    let b = s.view("b");
    s.rule(b, b.below(a, 40.0).prefer(rhythm).and(b.top().at_least(a.bottom() + 8.0).prefer(fit)));
    s.rule(b, b.after(a, by.clone())).rule(b, b.before(SAFE, 4.0)).rule(b, b.above(SCREEN, by.clone() * 2.0));
    let c = s.view("c");
    s.rule(c, c.between(a.bottom(), b.top(), 0.3).labelled("mid"));
    s.rule(c, c.between_at_most(a.start(), b.end(), 0.5, 200.0).prefer(fit).weight(2.0));
    let d = s.view("d");
    s.rule(d, d.contain(1.5, c, (0.0, 0.5))).rule(d, d.cover(2.0, SCREEN, (0.5, 0.5)));
    s.rule(d, d.span(Axis::Across, (0.25, 0.75), SAFE, (8.0, 4.0)));
    s.rule(d, d.drawn(Axis::Across, (120.0, 160.0), c, 520.0, [Length::Size, Length::Behind]));
    s.rule(d, d.drawn(Axis::Down, (1.0, 2.0), SCREEN, 9.0, []));
    s.rule(d, spread(Axis::Across, [a, b, d]))
        .rule(d, d.enclose([a, b], by.clone()))
        .rule(d, spread_in(Axis::Down, [a, b], SAFE, Spread::Around));
    s.rule(d, d.center().equals(a.outline(45.0) + bearing_along(8.0, 45.0)));
    s.rule(d, d.width().equals(clamp(a.width() * 0.5, 40.0, max([b.width(), 60.0.into()]))));
    let t = s.text("t", "words", 12.0);
    s.set(t, Setting::Line(20.0)).set(t, Setting::Lines(3)).set(t, Setting::Snug(Some(fit), 2.0));
    s.set(t, Setting::Rotate(30.0)).set_when(wide, t, Setting::Scale(2.0, 1.0));
    s.image("i", (64.0, 40.0));
    let text = r#"screen shapes {
        ladder fit > rhythm
        band wide: screen.width >= 500
        let gap = 12
        view a {}
        view b {
            below a by 40 ~ rhythm, at least 8 ~ fit
            after a by gap
            before safe by 4
            above screen by gap * 2
        }
        view c {
            mid: between a.bottom and b.top, lean 30%
            between a.start and b.end, at most 200 ~ fit weight 2
        }
        view d {
            contain 3 : 2 in c, lean (0%, 50%)
            cover 2 : 1 in screen
            span across 25%..75% in safe, inset 8, 4
            drawn across 120, 160 in c of 520, grow width, end
            drawn down 1, 2 in screen of 9
            spread across a, b, d
            enclose a, b by gap
            spread down a, b in safe, around
            center = a.outline(45deg) + bearing(8, 45deg, mirrored)
            width = clamp(50% of a.width, 40, max(b.width, 60))
        }
        text t "words" { font 12; line 20; lines 3; snug ~ fit weight 2; rotate 30deg }
        image i { natural (64, 40) }
        guide lanes { columns 6 of 40, margin gap, gutter 8, offset 4, lean 50%; pin left 8 to safe }
        guide rest { rows of 30, gutter 6 }
        guide fold { line down 120 ~ fit }
        guide pads { padding 12 }
        view bar {
            row gap gap, padding (1, 2, 3, 4), spread around, align center, wrap by 6
            pin start, end to lanes[2..4]
            view one { share 2, at least 30, at most 90 }
            space 8
            view two { apart; sit end; pin top to rest[3] }
            space share 3
            view list { column align stretch; snug weight 2 }
        }
        when wide { let gap = 24; in t { scale (2, 1) } }
        when wide { in bar { column }; in lanes { columns 8 } }
        view log {
            scroll down
            overhang clip
            in content { bottom = day.bottom + 50% of log.scrolled_y }
            view day { stick top 8, bottom; pin left to parent.content }
        }
        when wide { in log { scroll both } }
        design (400, 800) or (800, 400), mix 30%
        state menu: closed, open
        view stand { only in menu.open; control 44 }
        view other { control; floats; input }
        view lamp {}
        when menu.open { hide a, show lamp; show other }
        language ur, right to left { t "sentence" }
        expect on "tablet", within 2 { a = (1, 2, 3, 4); b.right = 9; lamp hidden }
    }"#;
    let cells = Guide::columns(6).of(40.0, 0.5).margin(by.clone()).gutter(8.0).offset(4.0);
    let lanes = s.guide("lanes", cells);
    s.rule(lanes, lanes.pin([(Side::Left, 8.0)], SAFE));
    let rest = s.guide("rest", Guide::rows_of(30.0).gutter(6.0));
    s.guide("fold", Guide::mark(Axis::Down, 120.0).prefer(fit));
    s.guide("pads", Guide::padding(12.0));
    let bar = s.view("bar");
    let row = Arrangement::row().gap(by.clone()).padding_of([1.0, 2.0, 3.0, 4.0]).spread(Spread::Around);
    s.set(bar, Setting::Arrange(Box::new(row.align(Align::Center).wrap(6.0))));
    s.rule(bar, bar.pin([(Side::Start, 0.0), (Side::End, 0.0)], lanes.cells(2, 4)));
    let one = s.view_in(bar, "one");
    s.set(one, Setting::Share(Box::new(Share::of(2.0).at_least(30.0).at_most(90.0))));
    s.space(bar, Space::Fixed(8.0.into()));
    let two = s.view_in(bar, "two");
    s.set(two, Setting::Apart).set(two, Setting::Sit(Align::End));
    s.rule(two, two.pin([(Side::Top, 0.0)], rest.cell(3)));
    s.space(bar, Space::Flexible(3.0));
    let list = s.view_in(bar, "list");
    s.set(list, Setting::Arrange(Box::new(Arrangement::column().align(Align::Stretch))));
    s.set(list, Setting::Snug(None, 2.0));
    s.set_when(wide, bar, Setting::Arrange(Box::new(Arrangement::column())));
    s.set_when(wide, lanes, Setting::Guide(Box::new(Guide::columns(8).into())));
    let list = s.view("log");
    let content = s.scroll(list, Scroll::Down);
    s.set(list, Setting::Overflow(Overflow::Clip));
    s.set_when(wide, list, Setting::Scroll(Scroll::Both));
    let day = s.view_in(list, "day");
    s.set(day, Setting::Stick(vec![(Side::Top, 8.0), (Side::Bottom, 0.0)]));
    s.rule(content, content.bottom().equals(day.bottom() + list.scrolled_y() * 0.5));
    s.rule(day, day.pin([(Side::Left, 0.0)], content));
    s.design(Design::of(400.0, 800.0).or(800.0, 400.0).scaled(Scaling::Mix(0.3)));
    let stand = s.view("stand");
    s.set(stand, Setting::OnlyIn(vec![open])).set(stand, Setting::Control(Some(44.0)));
    let other = s.view("other");
    s.set(other, Setting::Control(None)).set(other, Setting::Floats).set(other, Setting::Input);
    let lamp = s.view("lamp");
    s.replace_when(open, a, lamp).show_when(open, other);
    s.language("ur", true, [(t, "sentence")]);
    let frame = Frame { left: 1.0, top: 2.0, width: 3.0, height: 4.0 };
    let right = Expected::One(Coordinate::Right, 9.0);
    let expected = vec![(a, Expected::Frame(frame)), (b, right), (lamp, Expected::Hidden)];
    s.expect(Expectation { on: "tablet".into(), within: 2.0, expected });
    let built = s.finish().unwrap();
    assert_eq!(built, read(text).unwrap().screen);
    assert_eq!(read(&built.to_string()).unwrap().screen, built, "{built}");
}

#[test]
fn each_mistake_is_reported_at_its_place_with_what_to_write() {
    let told_otherwise: Vec<String> = WRONG
        .iter()
        .filter_map(|(at, line, message, help)| {
            let text = format!("screen s {{\n{line}\n}}\n");
            let errors = read(&text).expect_err(line).errors;
            let as_expected = errors.iter().any(|e| {
                e.message.contains(message)
                    && line_and_column(&text, e.span.start).0 == 2
                    && &text[e.span.clone()] == *at
                    && e.help.as_deref().unwrap_or_default().contains(help)
            });
            (!as_expected).then(|| format!("{line}\n    {errors:?}"))
        })
        .collect();
    assert!(told_otherwise.is_empty(), "{}", told_otherwise.join("\n"));
}

#[test]
fn one_run_reports_every_mistake_the_first_fifty_and_a_count() {
    let text = "screen s {\n view a { lft = 1\n top = = 3\n width = 5 }\n view a { }\n view b { right = aa.left }\n}";
    let errors = read(text).unwrap_err();
    let lines: Vec<usize> = errors.errors.iter().map(|e| line_and_column(text, e.span.start).0).collect();
    assert_eq!(lines, [2, 3, 5, 6], "{errors}");
    assert_eq!(errors.errors[2].related.as_ref().map(|r| line_and_column(text, r.0.start).0), Some(2));

    // A limit of one rule keeps no other from being told of.
    let picks = format!(
        "screen s {{ view a {{ left = max({}1)\n width = height * height }} }}",
        "width, ".repeat(1500)
    );
    assert_eq!(read(&picks).unwrap_err().total, 2);

    let many = format!("screen s {{ view a {{\n{}}} }}", "lft = 1\n".repeat(80));
    let errors = read(&many).unwrap_err();
    assert_eq!((errors.errors.len(), errors.total), (50, 80));
}

#[test]
fn operators_bind_as_they_are_read_aloud() {
    let left = |value: &str, display: &Display| {
        let text = format!(
            "screen s {{ ladder fit; band either: not portrait and screen.width > 300 or screen.width < 250
                view b {{ size = (100, 20) }}; view a {{ {value} }} }}"
        );
        let plan = Plan::new(read(&text).unwrap_or_else(|e| panic!("{value}: {e}")).screen).unwrap();
        let view = plan.screen().find("a").unwrap();
        plan.place(display, &PlainText).unwrap().frame(view).map(|frame| frame.left)
    };
    let wide = Display::new(400.0, 300.0).unwrap();
    for (value, expected) in [
        ("left = 1 + 2 * 3", 7.0),
        ("left = 40% of b.width + 3", 43.0),
        ("left = -2 * (1 - 3)", 4.0),
        ("left = 12 - 4 - 2", 6.0),
        ("left = 12 / 4 / 3 * 2", 2.0),
        ("left = 3 +\n\n 4", 7.0),
        ("left =\n 3", 3.0),
        ("left = 3\n ~ fit", 3.0),
        ("size = (3,\n 4); left = 3", 3.0),
        ("left = 3; top = 4; ", 3.0),
    ] {
        assert_eq!(left(value, &wide), Some(expected), "{value}");
    }
    for wrong in ["left = 3\n + 4", "left\n = 3", "view c\n {}"] {
        assert!(read(&format!("screen s {{ view a {{ {wrong} }} }}")).is_err(), "{wrong}");
    }
    // `not` before `and` before `or`.
    let (narrow, tall) = (Display::new(200.0, 100.0).unwrap(), Display::new(300.0, 400.0).unwrap());
    let there = [&wide, &narrow, &tall].map(|on| left("left = 0; only in either", on).is_some());
    assert_eq!(there, [true, true, false]);
}

#[test]
fn after_a_mistake_the_next_statement_is_read() {
    let text = "screen s { view a { left = = 3; tp = 4 }\n view b { pin lft }\n view c { top = d.top } }";
    let errors = read(text).unwrap_err();
    let at: Vec<&str> = errors.errors.iter().map(|e| &text[e.span.clone()]).collect();
    assert_eq!(at, ["=", "tp", "}", "d.top"], "{errors}");
}

#[test]
fn hostile_files_get_one_clear_error_each() {
    let nested = |open: &str, close: &str, n: usize| format!("{}{}", open.repeat(n), close.repeat(n));
    let rule = |value: &str| format!("screen s {{ view a {{ left = {value} }} }}");
    let lets: String = (0..5000).map(|i| format!("let a{i} = a{}\n", i + 1)).collect();
    let views: String = (0..1000).map(|i| format!("view v{i} {{}}; ")).collect();
    let names: Vec<String> = (0..1000).map(|i| format!("v{i}")).collect();
    let names = names.join(", ");
    let chain: String = (0..5000).map(|i| format!("part p{i} {{ use p{} }}\n", i + 1)).collect();
    let twice: String = (0..60)
        .map(|i| format!("part p{i} {{ view a {{ use p{0} }}; view b {{ use p{0} }} }}\n", i + 1))
        .collect();
    let often: String = (0..1000).map(|i| format!("view v{i} {{ use p }}\n")).collect();
    let cases: Vec<(Vec<u8>, &str)> = vec![
        (
            format!("screen s {{ {chain} part p5000 {{}}; view a {{ use p0 }} }}").into_bytes(),
            "placed in one another too deep: the limit is 64",
        ),
        (
            format!("screen s {{ {twice} part p60 {{}}; view a {{ use p0 }} }}").into_bytes(),
            "too many views: the limit is 100000",
        ),
        (format!("screen s {{ part p {{ lft = 3 }}\n{often} }}").into_bytes(), "`lft`"),
        (b"".to_vec(), "the file is empty"),
        (b"  \n // nothing\n".to_vec(), "the file is empty"),
        ((0..=255).collect(), "not a text file"),
        (b"screen s { \0 }".to_vec(), "byte 11 is zero"),
        (
            format!("screen s {}", nested("{ view v ", "}", 10_000)).into_bytes(),
            "nested too deep: the limit is 64",
        ),
        (rule(&nested("(", ")", 10_000)).into_bytes(), "brackets are nested too deep"),
        (rule(&nested("max(width, ", "1)", 10_000)).into_bytes(), "brackets are nested too deep"),
        (rule(&format!("max({}1)", "width, ".repeat(1500))).into_bytes(), "the limit is 1000"),
        (
            format!("screen s {{ view a {{ {} }} }}", nested("{ ", "}", 10_000)).into_bytes(),
            "nested too deep: the limit is 64",
        ),
        (rule(&format!("{}1", "-".repeat(10_000))).into_bytes(), "brackets are nested too deep"),
        (rule(&format!("{}1", "1 + ".repeat(260_000))).into_bytes(), "too many parts in one line"),
        (format!("screen s {{ {lets} let a5000 = 1 }}").into_bytes(), "made of one another: the limit is 64"),
        (format!("screen s {{ {} }}", "\u{20ac}".repeat(500_000)).into_bytes(), "expected a rule"),
        (format!("screen s {{ {} }}", "\u{e9}".repeat(500_000)).into_bytes(), "expected `=`"),
        (vec![b' '; vantic::syntax::MAX_FILE_BYTES + 1], "the file is too large"),
        (
            format!("screen s {{ view a {{}}; view b {{}}; {} }}", nested("each a, b { ", "}", 40))
                .into_bytes(),
            "more than 200000 blocks",
        ),
        (
            format!("screen s {{ {views} each {names} {{ {} }} }}", "top = 1;".repeat(1001)).into_bytes(),
            "too many rules: the limit is 1000000",
        ),
    ];
    for (bytes, message) in cases {
        let errors = read_bytes(&bytes).expect_err(message);
        assert!(errors.total == 1 && errors.errors[0].message.contains(message), "{message}: {errors}");
    }
    let views = |n: usize| -> String { (0..n).map(|i| format!("view v{i} {{}}\n")).collect() };
    let over = read(&format!("screen s {{ {} }}", views(vantic::limits::MAX_VIEWS + 1))).unwrap_err();
    assert!(over.total == 1 && over.errors[0].message.contains("limit is 100000"), "{over}");
}

/// The tokens and comments of a file, whatever its layout.
fn tokens(text: &str) -> Vec<String> {
    let mut all = Vec::new();
    for line in text.lines() {
        let (code, comment) = line.split_once("//").map_or((line, None), |(code, c)| (code, Some(c)));
        let code = code.replace(';', " ");
        all.extend(code.chars().filter(|c| !c.is_whitespace()).map(String::from));
        all.extend(comment.map(|c| c.trim().to_owned()));
    }
    all
}

#[test]
fn the_files_of_the_project_are_in_the_canonical_layout_or_come_to_it_unharmed() {
    for text in FILES {
        let once = format(text).unwrap();
        assert_eq!(format(&once).unwrap(), once);
        assert_eq!(tokens(&once), tokens(text));
        assert_eq!(read(&once).unwrap().screen, read(text).unwrap().screen);
    }
    for demo in [DEPARTURES, BOARDING_PASS] {
        assert_eq!(format(demo).unwrap(), demo, "run `vantic fmt --write` on the demo files");
    }
}

#[test]
fn the_canonical_layout_reads_well() {
    let written = "screen s{ // first\n\n\n  ladder   fit>polish\nview a{left=3;top = - 4*( 2+1 ) ~fit weight 2\n// own line\n\n  \
                   size=( 24 ,16 )// behind\n view c { width= 40 % of parent . width } }\nview d {\n}\nwhen_it: a.left<=\n  // within\n 5\n\
                   accept overlap:a , d\"why\" }";
    let canonical = "screen s {  // first\n\n    ladder fit > polish\n    view a {\n        left = 3\n        top = -4 * (2 + 1) ~ fit weight 2\n        \
                     // own line\n\n        size = (24, 16)  // behind\n        view c { width = 40% of parent.width }\n    }\n    view d {\n    }\n    \
                     when_it: a.left <=  // within\n        5\n    accept overlap: a, d \"why\"\n}\n";
    let once = format(written).unwrap();
    assert_eq!(once.replace("first\n\n", "first\n"), canonical.replace("first\n\n", "first\n"));
    assert_eq!(format(&once).unwrap(), once);
}

#[test]
fn a_screen_built_in_rust_is_the_screen_read_from_a_file() {
    let text = r#"screen departures {
        ladder fit > rhythm > polish
        band wide: screen.width >= 700
        view header {
            pin left, right, top to safe
            tall: height = 56
            text title "Next departures" {
                font 20
                start = parent.start + 16
                center_y = parent.center_y
                until: end <= clock.start - 8
            }
            view clock { end = parent.end - 16; center_y = parent.center_y; size = (64, 24) }
        }
        view board {
            pin left 16, right 16 to safe
            top = prev.bottom + 12
            height = 60% of screen.height ~ rhythm weight 2
            view compass { ratio width : height = 1 : 1; center = parent.center }
            view buoy { size = 24; center = compass.center + bearing(40, 45deg) }
        }
        when wide {
            in header { tall: height = 72 }
            in header.title { until: end <= parent.end - 16; font 24 }
            hide header.clock
        }
        accept overlap: board.compass, board.buoy "it floats beside it"
    }"#;
    let mut s = ScreenBuilder::new("departures");
    let [_, rhythm, _] = s.ladder(["fit", "rhythm", "polish"]);
    let wide = s.band("wide", Condition::Compare(Property::ScreenWidth, Order::AtLeast, 700.0));
    let header = s.view("header");
    let title = s.text_in(header, "title", "Next departures", 20.0);
    let clock = s.view_in(header, "clock");
    let board = s.view("board");
    let compass = s.view_in(board, "compass");
    let buoy = s.view_in(board, "buoy");
    let edges = [(Side::Left, 0.0), (Side::Right, 0.0), (Side::Top, 0.0)];
    s.rules(header, [header.pin(edges, SAFE), header.height().equals(56.0).labelled("tall")]);
    s.rules(
        title,
        [
            title.start().equals(header.start() + 16.0),
            title.center_y().equals(header.center_y()),
            title.end().at_most(clock.start() - 8.0).labelled("until"),
        ],
    );
    s.rule(clock, clock.end().equals(header.end() - 16.0));
    s.rule(clock, clock.center_y().equals(header.center_y()));
    s.rule(clock, clock.size().equals((64.0, 24.0)));
    s.rule(board, board.pin([(Side::Left, 16.0), (Side::Right, 16.0)], SAFE));
    s.rule(board, board.top().equals(board.prev().bottom() + 12.0));
    s.rule(board, board.height().equals(SCREEN.height() * 0.6).prefer(rhythm).weight(2.0));
    s.rule(compass, ratio(compass.width(), compass.height(), 1.0, 1.0));
    s.rule(compass, compass.center().equals(board.center()));
    s.rule(buoy, buoy.size().equals(24.0));
    s.rule(buoy, buoy.center().equals(compass.center() + bearing(40.0, 45.0)));
    s.rule_when(wide, header, header.height().equals(72.0).labelled("tall"));
    s.rule_when(wide, title, title.end().at_most(header.end() - 16.0).labelled("until"));
    s.set_when(wide, title, Setting::Font(24.0));
    s.hide_when(wide, clock, false);
    s.accept("overlap", &["board.compass", "board.buoy"], "it floats beside it");
    let built = s.finish().unwrap();
    let from_file = read(text).unwrap().screen;
    assert_eq!(in_any_order(&built), in_any_order(&from_file));
    let plan = |screen| vantic::plan::Plan::new(screen).unwrap();
    let (a, b) = (plan(built), plan(from_file));
    for (width, height) in [(390.0, 844.0), (844.0, 390.0)] {
        let display = vantic::display::Display::new(width, height).unwrap();
        let place = |plan: &vantic::plan::Plan| plan.place(&display, &vantic::text::PlainText).unwrap();
        assert_eq!(place(&a).frames, place(&b).frames);
    }
}

/// A screen without the order in which the rules of different views were given.
fn in_any_order(screen: &Screen) -> Vec<String> {
    let mut lines: Vec<String> = screen.to_string().lines().map(str::to_owned).collect();
    lines.sort();
    lines
}

#[test]
fn building_errors_name_the_view_and_the_rule() {
    let mut s = ScreenBuilder::new("s");
    let a = s.view("a");
    let b = s.view_in(a, "b");
    s.view("a");
    s.rule(b, b.left().equals(f64::NAN).labelled("wild"));
    s.rule(b, b.start().equals(a.left()));
    s.rule(a, a.top().equals(a.prev().bottom()));
    let errors: Vec<String> = s.finish().unwrap_err().0.iter().map(ToString::to_string).collect();
    let parts = [
        "already a view `a` in the screen",
        "`a.b.wild`: a number",
        "`a.b#2` mixes",
        "`a#1`: `a` has no sibling before it",
    ];
    assert_eq!(errors.len(), parts.len(), "{errors:?}");
    for (error, part) in errors.iter().zip(parts) {
        assert!(error.contains(part), "{error}");
    }
}

/// Screen files made from the project's own, with blanks, comments and line ends put between tokens.
fn scrambled() -> impl Strategy<Value = String> {
    let noise = prop_oneof![
        6 => Just(String::new()), 2 => Just("  ".to_owned()), 2 => Just("\n".to_owned()), 1 => Just("\n\n\n".to_owned()),
        1 => Just(" // a word\n".to_owned()), 1 => Just("\n// line\n".to_owned()),
    ];
    (0..FILES.len(), prop::collection::vec(noise, 400)).prop_map(|(file, noise)| {
        let mut noise = noise.into_iter().cycle();
        let mut out = String::new();
        for line in FILES[file].lines() {
            // Within a line after an operator; after its end anything may stand.
            match line.split_once(" = ").filter(|_| !line.contains("//") && !line.contains('"')) {
                Some((left, right)) => out += &format!("{left} = {}{right}", noise.next().unwrap()),
                None => out += line,
            }
            out.push('\n');
            out += &noise.next().unwrap();
        }
        out
    })
}

/// Files with a part cut out, doubled or replaced: mostly wrong ones.
fn broken() -> impl Strategy<Value = String> {
    let junk = prop_oneof![
        Just(""),
        Just("}"),
        Just("{"),
        Just("="),
        Just("~ "),
        Just("\""),
        Just("40%"),
        Just("\u{1f6a2}"),
        Just("when"),
        Just("below a by "),
        Just("max("),
        Just(", at least "),
        Just("25%.."),
        Just("drawn across "),
        Just("a.b.")
    ];
    (0..FILES.len(), any::<prop::sample::Index>(), 0..40_usize, junk).prop_map(|(file, at, length, junk)| {
        let chars: Vec<char> = FILES[file].chars().collect();
        let start = at.index(chars.len());
        let end = (start + length).min(chars.len());
        chars[..start].iter().chain(junk.chars().collect::<Vec<_>>().iter()).chain(&chars[end..]).collect()
    })
}

proptest! {
    #![proptest_config(vantic_testkit::cases(256))]

    #[test]
    fn formatting_twice_changes_nothing_and_keeps_every_comment(text in scrambled()) {
        let once = format(&text).unwrap();
        prop_assert_eq!(&format(&once).unwrap(), &once);
        prop_assert_eq!(tokens(&once), tokens(&text));
        prop_assert_eq!(read(&once).unwrap().screen, read(&text).unwrap().screen);
    }

    #[test]
    fn whatever_is_written_is_read_or_refused_at_a_place_within_it(
        text in prop_oneof![broken(), "\\PC{0,80}"],
    ) {
        match read(&text) {
            Ok(source) => {
                let printed = source.screen.to_string();
                let again = read(&printed).map_err(|e| TestCaseError::fail(format!("{printed}\n{e}")))?;
                prop_assert_eq!(in_any_order(&again.screen), in_any_order(&source.screen));
            }
            Err(errors) => {
                prop_assert!(errors.total >= 1);
                for e in &errors.errors {
                    prop_assert!(e.span.start <= e.span.end && e.span.end <= text.len(), "{:?}", e);
                    prop_assert!(
                        text.is_char_boundary(e.span.start) && text.is_char_boundary(e.span.end),
                        "{:?}",
                        e
                    );
                }
            }
        }
        match format(&text) {
            Ok(once) => prop_assert_eq!(format(&once).unwrap(), once),
            // One mistake in one place is one error.
            Err(errors) => for pair in errors.errors.windows(2) {
                prop_assert!(pair[0].span.start != pair[1].span.start, "{}", errors);
            },
        }
        // Whatever has a form has it from its JSON and its text again, or holds a number too large.
        if let Ok(form) = Form::of(&text) {
            prop_assert_eq!(&Form::from_json(&form.to_json()).unwrap(), &form);
            match form.to_text() {
                Ok(again) => prop_assert_eq!(Form::of(&again).unwrap(), form, "{}", again),
                Err(refused) => {
                    prop_assert!(matches!(refused, FormError::Number(_)), "{}\n{}", refused, text)
                }
            }
        }
    }
}

#[test]
fn a_screen_prints_itself_as_a_file_that_gives_it_again() {
    for text in FILES {
        let screen = read(text).unwrap().screen;
        assert_eq!(read(&screen.to_string()).unwrap().screen.to_string(), screen.to_string());
        assert_eq!(in_any_order(&read(&screen.to_string()).unwrap().screen), in_any_order(&screen));
    }
}

/// Names of any script, in every form; and those that a file keeps for itself, outside of files.
#[test]
fn names_are_of_any_script() {
    let text = "screen пекарня {
        ladder важно > ритм
        param полка = 40 in 20..80
        state дверь: закрыта, открыта
        band ширина: полка < 30 or screen.width >= 700
        view 棚 { left = полка; top = 0; size = 20; высота: height <= 50 ~ важно }
        text पाटी \"Bread\" { font 12; style жирный; left = 棚.right; top = 0 }
        repeat ขนม 2 { left = 0; top = 棚.bottom; size = 8 }
        when ширина { in 棚 { drop высота } }
        language suomi { पाटी \"Leipä\" }
    }";
    let screen = read(text).unwrap_or_else(|e| panic!("{e}")).screen;
    assert_eq!(screen.path(screen.find("ขนม[2]").unwrap()), "ขนม[2]");
    let (printed, formatted) = (screen.to_string(), format(text).unwrap());
    let json = Form::from_json(&Form::of(text).unwrap().to_json()).unwrap().to_text().unwrap();
    for again in [printed, formatted, json] {
        assert_eq!(read(&again).unwrap_or_else(|e| panic!("{e}\n{again}")).screen, screen);
    }
    for (wrong, message) in [
        ("screen s { view 1棚 { size = 8 } }", "expected the name of the view"),
        ("screen s { view полк { size = 8 }\nview b { left = полка.right } }", "did you mean `полк`?"),
        ("screen s { view 棚 { size = 8 }\nview 棚 { size = 8 } }", "there is already a view `棚`"),
        ("screen s { view 🍞 { size = 8 } }", "expected the name of the view"),
    ] {
        let told = read(wrong).unwrap_err().to_string();
        assert!(told.contains(message), "{wrong}\n{told}");
    }
    // A builder has no reserved words.
    let mut build = ScreenBuilder::new("screen");
    let names = ["left", "view", "parent", "when", "safe"];
    let views = names.map(|name| build.view(name));
    for view in views {
        build.add(view.pin([(Side::Left, 0), (Side::Top, 0)], SCREEN)).add(view.width().equals(8));
        build.add(view.height().equals(8).labelled("top"));
    }
    let [_first, _second] = build.state("state", ["and", "or"]);
    let built = build.finish().unwrap();
    assert_eq!(built.find("parent"), Some(views[2]));
    let mut build = ScreenBuilder::for_file("left");
    build.view("left");
    assert_eq!(build.finish().unwrap_err().0.len(), 2);
}

//! What the forms of rules mean, against arithmetic written out: from the display's numbers to a frame.

use proptest::prelude::*;
use vantic::display::Display;
use vantic::geometry::{Direction, Frame};
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::{EvenText, LongerText, Measure, PlainText, TextRequest};

/// The frames of the views `v` and `w` of a screen around the given lines, on a display.
fn frames(lines: &str, display: &Display) -> [Frame; 2] {
    let text = format!("screen s {{ ladder fit > rhythm; {lines} }}");
    let plan = Plan::new(read(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).screen).unwrap();
    let placement = plan.place(display, &EvenText).unwrap();
    assert!(placement.broken.is_empty(), "{text}");
    ["v", "w"].map(|name| placement.frame(plan.screen().find(name).unwrap()).unwrap())
}

/// Left and width from a distance along the reading direction.
fn along(display: &Display, start: f64, width: f64) -> f64 {
    if display.direction() == Direction::RightToLeft { display.width() - start - width } else { start }
}

fn near(frame: &Frame, expected: [f64; 4]) -> bool {
    let found = [frame.left, frame.top, frame.width, frame.height];
    found.iter().zip(expected).all(|(a, b)| (a - b).abs() < 1e-6)
}

fn displays() -> impl Strategy<Value = Display> {
    (200_u32..1200, 200_u32..1200, any::<bool>()).prop_map(|(w, h, mirrored)| {
        let direction = if mirrored { Direction::RightToLeft } else { Direction::LeftToRight };
        Display::new(f64::from(w), f64::from(h)).unwrap().with_direction(direction)
    })
}

/// A box `w` somewhere on the display, as a line and as numbers.
fn boxes() -> impl Strategy<Value = (String, [f64; 4])> {
    [-50_i32..300, -50..300, 10..400, 10..400].prop_map(|[x, y, w, h]| {
        let line = format!("view w {{ left = {x}; top = {y}; size = ({w}, {h}) }}");
        (line, [x, y, w, h].map(f64::from))
    })
}

proptest! {
    #![proptest_config(vantic_testkit::cases(150))]

    #[test]
    fn gaps_go_from_edge_to_facing_edge(
        display in displays(),
        (line, [x, y, w, h]) in boxes(),
        by in -40_i32..90,
    ) {
        let gap = f64::from(by);
        let start = along(&display, x, w);
        for (words, top, begin) in [
            (format!("below w by {by}; start = w.start"), y + h + gap, start),
            (format!("above w by {by}; start = w.start"), y - gap - 20.0, start),
            (format!("after w by {by}; top = w.top"), y, start + w + gap),
            (format!("before w by {by}; top = w.top"), y, start - gap - 30.0),
        ] {
            let [v, _] = frames(&format!("{line}; view v {{ size = (30, 20); {words} }}"), &display);
            prop_assert!(near(&v, [along(&display, begin, 30.0), top, 30.0, 20.0]), "{words}: {v:?}");
        }
    }

    /// The wish counts as far as what is stronger lets it, and never goes beyond its bounds.
    #[test]
    fn a_preference_keeps_to_its_bounds(
        display in displays(),
        wish in 0_i32..600,
        least in 0_i32..300,
        more in 0_i32..300,
        room in 0_i32..900,
    ) {
        let most = least + more;
        let lines = format!(
            "view w {{ left = 0; top = 0; size = 10 }}; view v {{ left = 0; size = 10; below w by {wish} ~ rhythm, at least {least}, at most {most}; bottom <= {room} ~ fit }}"
        );
        let [v, _] = frames(&lines, &display);
        // As near to the wish as the space lets it be; the bounds win over the space.
        let [wish, least, most, room] = [wish, least, most, room].map(f64::from);
        let gap = wish.min(most).max(least).min((room - 20.0).max(least));
        prop_assert!(near(&v, [0.0, 10.0 + gap, 10.0, 10.0]), "{v:?}\n{lines}");
    }

    #[test]
    fn centring_leans_and_fills(
        display in displays(),
        (line, [x, y, w, h]) in boxes(),
        lean in 0_u32..=100,
        most in 1_u32..500,
    ) {
        let (share, limit) = (f64::from(lean) / 100.0, f64::from(most));
        let [v, _] = frames(
            &format!(
                "{line}; view v {{ between w.left and screen.right + 400, at most {most}, lean {lean}%; between w.top and w.bottom, lean {lean}%; height = 30 }}"
            ),
            &display,
        );
        let room = display.width() + 400.0 - x;
        let width = room.min(limit);
        prop_assert!(
            near(&v, [x + share * (room - width), y + share * (h - 30.0), width, 30.0]),
            "{v:?} {w}"
        );
    }

    #[test]
    fn fitting_is_the_largest_inside_and_the_smallest_around(
        display in displays(),
        (line, [x, y, w, h]) in boxes(),
        m in 1_u32..9,
        n in 1_u32..9,
    ) {
        let ratio = f64::from(m) / f64::from(n);
        for (word, width) in [("contain", w.min(h * ratio)), ("cover", w.max(h * ratio))] {
            let [v, _] =
                frames(&format!("{line}; view v {{ {word} {m} : {n} in w, lean (25%, 100%) }}"), &display);
            let height = width / ratio;
            let left = along(&display, along(&display, x, w) + 0.25 * (w - width), width);
            prop_assert!(near(&v, [left, y + h - height, width, height]), "{word}: {v:?}");
        }
    }

    #[test]
    fn spans_and_drawn_lengths_follow_the_box(
        display in displays(),
        from in 0_u32..=100,
        more in 0_u32..=100,
        at in 0_u32..200,
        size in 1_u32..200,
        behind in 1_u32..200,
        grows in any::<[bool; 3]>(),
    ) {
        let (a, b) = (f64::from(from) / 100.0, f64::from(from + more) / 100.0);
        let (wide, high) = (display.width(), display.height());
        let [v, _] = frames(
            &format!(
                "view w {{}}; view v {{ span across {from}%..{}% in screen, inset -9, -7; span down 0%..50% in screen }}",
                from + more
            ),
            &display,
        );
        let width = (b - a) * wide + 16.0;
        prop_assert!(near(&v, [along(&display, a * wide - 9.0, width), 0.0, width, 0.5 * high]), "{v:?}");

        let lengths = [at, size, behind].map(f64::from);
        let whole: f64 = lengths.iter().sum();
        let shared: f64 = (0..3).filter(|&i| grows[i]).map(|i| lengths[i]).sum();
        let extra = wide - whole;
        prop_assume!(shared > 0.0 && !grows[1] || lengths[1] + extra * lengths[1] / shared.max(1.0) >= 0.0);
        let part = |i: usize| match grows[i] {
            true if shared > 0.0 => lengths[i] + extra * lengths[i] / shared,
            true => extra,
            false => lengths[i],
        };
        let names: Vec<&str> =
            ["start", "width", "end"].into_iter().zip(grows).filter(|g| g.1).map(|g| g.0).collect();
        let grow = if names.is_empty() { String::new() } else { format!(", grow {}", names.join(", ")) };
        let [v, _] = frames(
            &format!(
                "view w {{}}; view v {{ drawn across {at}, {size} in screen of {whole}{grow}; top = 0; height = 5 }}"
            ),
            &display,
        );
        prop_assert!(
            near(&v, [along(&display, part(0), part(1)), 0.0, part(1), 5.0]),
            "{v:?} {grows:?} {lengths:?}"
        );
    }

    /// From outline to outline along a ray: nothing of either box is nearer on it.
    #[test]
    fn bearings_go_from_middles_or_outlines(
        display in displays(),
        (line, [x, y, w, h]) in boxes(),
        radius in 0_u32..90,
        turn in -720_i32..720,
    ) {
        let radius = f64::from(radius);
        let (sin, cos) = f64::from(turn).to_radians().sin_cos();
        let reach = |w: f64, h: f64| (w / 2.0 / sin.abs()).min(h / 2.0 / cos.abs());
        let middle = (x + w / 2.0, y + h / 2.0);
        let back = turn + 180;
        for (rule, distance, mirrored) in [
            (format!("center = w.center + bearing({radius}, {turn}deg)"), radius, false),
            (
                format!("outline({back}deg) = w.outline({turn}deg) + bearing({radius}, {turn}deg)"),
                reach(w, h) + radius + reach(24.0, 16.0),
                false,
            ),
            (format!("center = w.center + bearing({radius}, {turn}deg, mirrored)"), radius, true),
        ] {
            let sign = if mirrored && display.direction() == Direction::RightToLeft { -1.0 } else { 1.0 };
            let [v, _] = frames(&format!("{line}; view v {{ size = (24, 16); {rule} }}"), &display);
            let center = (middle.0 + sign * distance * sin, middle.1 - distance * cos);
            prop_assert!(near(&v, [center.0 - 12.0, center.1 - 8.0, 24.0, 16.0]), "{rule}: {v:?}");
        }
    }

    /// A number that several bands change has the value of the last one that holds.
    #[test]
    fn a_named_number_is_that_of_the_last_band_that_holds(
        display in displays(),
        own in 1_u32..99,
        cuts in prop::collection::vec((200_u32..1200, 1_u32..99), 1..4),
    ) {
        let bands: String = cuts
            .iter()
            .enumerate()
            .map(|(i, (cut, _))| format!("band b{i}: screen.width >= {cut}\n"))
            .collect();
        let whens: String = cuts
            .iter()
            .enumerate()
            .map(|(i, (_, gap))| format!("when b{i} {{ let gap = {gap} }}\n"))
            .collect();
        let lines = format!(
            "{bands} let gap = {own}\n view w {{ left = gap; top = 2 * gap; size = (max(gap, 40), max(gap, 40)) }}; view v {{ below w by gap - 3; left = w.right - gap; size = (gap, gap / 2) }}\n {whens}"
        );
        let gap = cuts.iter().rev().find(|(cut, _)| display.width() >= f64::from(*cut)).map_or(own, |c| c.1);
        let gap = f64::from(gap);
        let size = gap.max(40.0);
        let [v, w] = frames(&lines, &display);
        prop_assert!(near(&w, [gap, 2.0 * gap, size, size]), "{w:?}\n{lines}");
        prop_assert!(near(&v, [size, 3.0 * gap + size - 3.0, gap, gap / 2.0]), "{v:?}\n{lines}");
    }

    /// Lines are as many as the width takes, as high as said, and no more than are let be shown; all
    /// of it grows with the reader's text scale.
    #[test]
    fn a_text_is_as_tall_as_its_shown_lines(
        display in displays(),
        chars in 1_usize..200,
        width in 40_u32..600,
        limit in 1_u32..6,
        line in 10_u32..60,
        scale in 1_u32..4,
    ) {
        let scale = f64::from(scale);
        let display = display.with_text_scale(scale).unwrap();
        let words = "x".repeat(chars);
        let lines = format!(
            "view w {{}}; text v \"{words}\" {{ font 20; line {line}; lines {limit}; left = 0; top = 0; width = {width} }}"
        );
        let [v, _] = frames(&lines, &display);
        let measured = 10.0 * scale * chars as f64;
        let count = (measured / f64::from(width)).ceil().min(f64::from(limit));
        let height = count * f64::from(line) * scale;
        prop_assert!(near(&v, [0.0, 0.0, f64::from(width), height]), "{v:?} {measured}");
    }

    /// Longer words need no fewer lines, and measure as much more as they are longer.
    #[test]
    fn longer_words_measure_longer(
        words in "[a-z]{1,9}( [a-z]{1,9}){0,8}",
        width in 20.0..400.0_f64,
        percent in 0_u32..200,
    ) {
        let longer = LongerText { of: &PlainText, factor: 1.0 + f64::from(percent) / 100.0 };
        let request = |width| TextRequest { width, ..TextRequest::new(&words, 16.0) };
        let (plain, grown) = (PlainText.measure(&request(None)), longer.measure(&request(None)));
        prop_assert!((grown.width - plain.width * longer.factor).abs() < 1e-9);
        prop_assert!((grown.longest - plain.longest * longer.factor).abs() < 1e-9);
        let (plain, grown) =
            (PlainText.measure(&request(Some(width))), longer.measure(&request(Some(width))));
        prop_assert!(grown.lines >= plain.lines && grown.height >= plain.height);
        let fits = grown.width <= width.max(grown.longest) + 1e-9;
        prop_assert!(fits, "{grown:?} in {width}");
    }
}

//! Parts: placed many times, they are what their lines would be if they were written out.

use proptest::prelude::*;
use vantic::check::check;
use vantic::display::Display;
use vantic::model::Code;
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::EvenText;

fn plan(source: &str) -> Plan {
    Plan::new(read(source).unwrap_or_else(|e| panic!("{e}\n{source}")).screen).unwrap()
}

/// The lines of a tile, with what it is given put in their place.
fn tile(words: &str, gap: &str, level: &str, wide: &str) -> String {
    format!(
        "guide cols {{ columns 3, gutter {gap} }}
         height = {gap} * 4 ~ {level}
         text label {words} {{ font 16; start = cols[2].start; pin top {gap} to parent }}
         view mark {{ pin start to cols[1]; top = parent.top; height = {gap}; width = {gap} ~ {level} }}
         {wide}"
    )
}

proptest! {
    #![proptest_config(vantic_testkit::cases(60))]

    #[test]
    fn a_part_is_its_lines_written_out(
        tiles in prop::collection::vec((1_u8..40, any::<bool>(), 1_usize..9), 1..5),
        (width, margin) in (200_u16..900, 1_u8..30),
    ) {
        let (mut used, mut written) = (String::new(), String::new());
        for (i, (gap, strong, letters)) in tiles.iter().enumerate() {
            let (level, words) =
                (if *strong { "fit" } else { "rhythm" }, format!("\"{}\"", "ab c".repeat(*letters)));
            // Every other one goes without a gap of its own, and takes that of the screen.
            let own = i % 2 == 0;
            let gap = if own { gap.to_string() } else { "margin".to_owned() };
            let given = if own { format!(", gap = {gap}") } else { String::new() };
            let pins = "pin left 10, right 10 to screen";
            let under = if i == 0 { "top = 0".to_owned() } else { "below prev by 5".to_owned() };
            used +=
                &format!("view t{i} {{ {pins}; {under}; use tile(words = {words}, on = {level}{given}) }}\n");
            written += &format!("view t{i} {{ {pins}; {under}; {} }}\n", tile(&words, &gap, level, ""));
            written += &format!(
                "when roomy {{ in t{i}.label {{ font 24 }}; in t{i} {{ height >= 90; in mark {{ width = 30 - {gap} / 3 }} }} }}\n"
            );
        }
        let frame = "ladder fit > rhythm; band far: screen.width >= 600";
        let when = "band roomy: screen.width >= 500; let third = gap / 3
            when roomy { in label { font 24 }; height >= 90; in mark { width = 30 - third } }";
        let part = format!("part tile(words, gap = margin, on) {{ {} }}", tile("words", "gap", "on", when));
        let with_parts = plan(&format!("screen s {{ {frame}\n let margin = {margin}\n{part}\n{used} }}"));
        let by_hand = plan(&format!(
            "screen s {{ {frame}\n band roomy: screen.width >= 500\n let margin = {margin}\n{written} }}"
        ));
        for width in [f64::from(width), 499.0, 500.0] {
            let display = Display::new(width, 700.0).unwrap();
            let (a, b) =
                (with_parts.place(&display, &EvenText).unwrap(), by_hand.place(&display, &EvenText).unwrap());
            for (view, _) in by_hand.screen().views() {
                let path = by_hand.screen().path(view);
                let same = with_parts.screen().find(&path).and_then(|v| a.frame(v));
                prop_assert_eq!(same, b.frame(view), "{} at {}", path, width);
            }
            prop_assert_eq!(a.missed.len(), b.missed.len());
        }
    }
}

#[test]
fn parts_stand_in_parts_and_bands_of_the_screen_have_the_last_word() {
    let plan = plan(
        "screen s {
            band wide: screen.width >= 500
            let inset = 10
            part lanes(inset, count = 2) { guide cols { columns count, margin inset } }
            part pair(inset, title = \"two words\") {
                band broad: screen.width >= 500
                use lanes(inset = inset + 5, count = 4)
                let side = 20
                view one { pin start, end to cols[1]; top = parent.top; height = side }
                text head title { font 10; pin start to cols[2]; top = parent.top }
                when broad { let side = 40; in head { font 20 } }
            }
            use lanes(inset = inset)
            view a { pin left, right, top to screen; height = 100; use pair(inset = inset) }
            view b { pin start, end to screen.cols[2]; below a; height = 50; use pair(inset = 0, title = \"x\") }
            when wide { let inset = 50; in a.head { font 30 } }
        }",
    );
    let placed = |width: f64, path: &str| {
        let placement = plan.place(&Display::new(width, 300.0).unwrap(), &EvenText).unwrap();
        let frame = placement.frame(plan.screen().find(path).unwrap()).unwrap();
        (frame.left, frame.width, frame.height)
    };
    assert_eq!(placed(400.0, "a.one"), (15.0, 92.5, 20.0));
    assert_eq!(placed(400.0, "b.one"), (205.0, 45.0, 20.0));
    assert_eq!(placed(600.0, "a.one"), (55.0, 122.5, 40.0));
    // The part says 20 there, the screen 30, and the screen goes last.
    assert_eq!(placed(600.0, "a.head"), (177.5, 135.0, 37.5));
    assert_eq!(placed(600.0, "b.head").2, 25.0);
}

#[test]
fn findings_name_the_part_and_its_place() {
    let source = read(
        "screen s {
            part tile { view dot { left = parent.left + 4; size = 8 }; view bar { height = 3; height = 5; pin left, top to parent; width = 2 } }
            view a { pin left, top to screen; size = 40; use tile }
            view b { left = a.right; top = 0; use tile; width = 40 }
        }",
    )
    .unwrap();
    let (map, plan) = (source.map, Plan::new(source.screen).unwrap());
    let report = check(&plan, &[Display::new(300.0, 300.0).unwrap()], &EvenText).unwrap();
    let told: Vec<(Code, String, Vec<String>)> = report
        .findings
        .iter()
        .map(|f| {
            let places = map.parts_of(plan.screen(), f);
            let views: Vec<String> = f.each().map(|f| f.paths(plan.screen()).join(" ")).collect();
            (f.code, views.join(", "), places.iter().map(|p| format!("{} in {}", p.part, p.place)).collect())
        })
        .collect();
    // What is so in both is told once, with both places.
    let both = vec!["tile in a".to_owned(), "tile in b".to_owned()];
    for (view, places) in [("a.dot, b.dot", both), ("b", vec!["tile in b".into()])] {
        assert!(told.contains(&(Code::Ambiguous, view.into(), places)), "{view}: {told:?}");
    }
    for (view, place) in [("a.bar", "tile in a"), ("b.bar", "tile in b")] {
        assert!(told.contains(&(Code::Conflict, view.into(), vec![place.into()])), "{view}: {told:?}");
    }
    let own = plan.screen().rules().find(|(_, r)| r.owner() == plan.screen().find("a")).unwrap().0;
    assert_eq!(map.part_of_rule(own), None);
}

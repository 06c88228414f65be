//! The JSON form: nothing is lost on the way there and back, and nothing else gets in.

use crate::random;
use proptest::prelude::*;
use std::path::{Path, PathBuf};
use vantic::json::{Form, FormError};
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::PlainText;

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

/// Every screen file of the project.
fn files() -> Vec<(PathBuf, String)> {
    let mut files = Vec::new();
    for folder in ["demo", "demo/faults", "cases/screens"] {
        for entry in std::fs::read_dir(root().join(folder)).unwrap() {
            let path = entry.unwrap().path();
            if path.extension().is_some_and(|e| e == "vantic") {
                files.push((path.clone(), std::fs::read_to_string(path).unwrap()));
            }
        }
    }
    assert!(files.len() > 15, "only {} files", files.len());
    files
}

/// To JSON and back gives the same form, and as text the same screen.
fn round_trip(text: &str) -> Form {
    let form = Form::of(text).unwrap_or_else(|e| panic!("{e}\n{text}"));
    let json = form.to_json();
    let back = Form::from_json(&json).unwrap_or_else(|e| panic!("{e}\n{json}"));
    assert_eq!(back, form);
    let again = back.to_text().unwrap_or_else(|e| panic!("{e}\n{json}"));
    assert_eq!(Form::of(&again).unwrap(), form, "{text}\n{again}");
    assert_eq!(read(&again).unwrap().screen, read(text).unwrap().screen, "{again}");
    form
}

#[test]
fn every_file_has_a_form_that_fits_the_published_schema_and_gives_the_file_again() {
    let published = std::fs::read_to_string(root().join("docs/screen.schema.json")).unwrap_or_default();
    assert!(published == Form::schema(), "write `Form::schema()` to docs/screen.schema.json");
    let schema = vantic_testkit::Schema::new(&published);
    for (path, text) in files() {
        let json = serde_json::from_str(&round_trip(&text).to_json()).unwrap();
        assert_eq!(schema.misfit(&json), None, "{}", path.display());
        // A key that is not in the schema is refused by both.
        let mut wrong: serde_json::Value = json;
        wrong["statements"][0]["colour"] = "red".into();
        assert!(schema.misfit(&wrong).is_some());
        assert!(Form::from_json(&wrong.to_string()).is_err());
    }
}

#[test]
fn every_kind_of_statement_and_expression_has_a_form() {
    round_trip(
        r#"screen all {
            ladder fit > rhythm
            band wide: (screen.width >= 700 or screen.height 400..500) and not portrait
            band odd: not (touch and landscape)
            let gap = 12
            let gap2 = 12
            let part = 0.25
            let far = 2 * (gap2 + 4)
            view a {
                t1: { left = 3; top = 4 ~ fit weight 2 }
                { width <= 90; pin bottom 8 to screen }
                size = (2 * (gap + 3) / 4 - -1, max(10% of screen.width, -gap + 40))
            }
            view b {
                below a by gap ~ fit, at least 4, at most far ~ rhythm
                before: after a
                pin right 8 to safe ~ rhythm, at least 2
                shape: ratio width : height = 3 : 2 ~ fit
                height = 8
            }
            view c {
                between a.right and screen.right - 8, lean 30%, at most 200
                mid: between a.bottom and b.top
                height = 40 ~ fit, at least 8
                view d { c1: contain 16 : 9 in parent, lean (0%, 100%) }
                view e { span across -10%..75% in parent, inset 8, 4; span down 0%..1 in parent }
                view k { contain far : gap2 in d, lean part; span across part..1 in parent; drawn down part, gap2 in d of far }
                view f { drawn across 8, 16 in parent of 52, grow width, end; drawn down 1, 2 in parent of 9 }
                view g { size = 8; outline(225deg) = d.outline(45deg) + bearing(8, 45deg, mirrored) }
                image h { natural (64, 40); cover in d; snug weight 2; whole ~ fit weight 3 }
                view i { size = 4; at(0%, 50%) = c.center; rotate 20deg; scale 2; origin (0%, 100%); depth -3 }
            }
            text t "a \"quoted\" word\nand a line" {
                font 12; line 20; lines 3
                left = 3; top = 4
            }
            spread across a, b in screen, around ~ fit weight 2
            part tile(words, gap = 8, on = fit, name = "a \"b\"") {
                band roomy: screen.width >= 600
                let own = gap / 2
                text label words { font 9; left = own ~ on }
                when roomy { let own = 30; in label { height >= gap } }
            }
            part plain {}
            view log { scroll both; overhang scale; use tile(words = "x y", gap = 2 * far, on = rhythm)
                view kept { stick top 8, end; left = parent.content.left + log.scrolled_x }
                content.size = (900, 800); use plain }
            view round { enclose a, b by gap ~ fit; box: enclose c.d }
            sp: spread down a, b, c.d, c.e
            each a, c.d { height <= 900 }
            when wide {
                let gap = 24
                in b { drop shape; drop before; hide c.f, keep space }
                in t { font 30; rotate -5deg }
                hide c.g
                drop a.t1
            }
            guide cols { columns 4, margin 8, gutter gap; pin left 4 to safe; right = screen.right }
            guide slots { rows of far, gutter 2, offset 3 }
            guide mid { columns 2 of 30, lean 50% }
            guide pads { padding (1, 2, 3, -4) }
            guide edge { line down 40% ~ fit weight 2; top >= cols[2..3].width }
            guide room { line across; left = slots[7].left }
            view cells { grid columns at least 90, rows of 3, gap (gap, 2), align end
                repeat slot at least 2, at most 4 { cells (2, 1) }
                repeat dot 2 { spare; view in_it[3] {} }
                in dot[2].in_it[3] { left = slot[1].right }
            }
            view more { grid columns 3 snug; view x { cells 2 } }
            view few { grid columns 3 of 20; view x {} }
            view bar {
                row gap far, padding (1, 2, 3, -4 + gap2), spread evenly, align baseline, wrap by 3
                view one { share 2, at least 4, at most gap; sit end }
                space share 2
                view two { column wrap, align stretch; snug ~ fit; apart }
                space 4
                space
                view three { column }
            }
            accept overlap: a, b "meant"
        }"#,
    );
}

#[test]
fn a_form_that_is_wrong_is_refused_at_its_place() {
    let of = |statement: &str| format!("{{\n\"screen\": \"s\", \"statements\": [\n{statement}\n]}}");
    for (statement, line, message) in [
        ("{\"pinn\": 3}", 3, "unknown variant `pinn`"),
        ("{\"hide\": {\"view\": \"a\", \"now\": true}}", 3, "unknown field `now`"),
        ("{\"font\": []}", 3, "expected a number, a coordinate such as"),
        ("{\"font\": 1e400}", 3, "number out of range"),
        ("{\"font\": 3}} x", 3, "expected `,` or `]`"),
    ] {
        match Form::from_json(&of(statement)) {
            Err(FormError::Json { line: at, message: said, .. }) => {
                assert!(at == line && said.contains(message), "{statement}: {at} {said}");
            }
            other => panic!("{statement}: {other:?}"),
        }
    }
    let text = |statement: &str| Form::from_json(&of(statement)).unwrap().to_text().unwrap_err();
    // Names cannot smuggle statements in.
    for name in ["a {} view b", "", "a.b", "1é", "a\n"] {
        let view = serde_json::json!({"view": {"name": name, "block": []}});
        assert!(matches!(text(&view.to_string()), FormError::Name(_)), "{name}");
    }
    for rule in ["a#", "a#1; hide b", "a@w@x#1", "a b"] {
        assert!(matches!(text(&serde_json::json!({"drop": rule}).to_string()), FormError::Name(_)), "{rule}");
    }
    assert!(matches!(text("{\"font\": 1e9}"), FormError::Number(_)));
    assert!(matches!(text("{\"pin\": {\"sides\": [], \"to\": \"safe\"}}"), FormError::Text(_)));
    let deep = format!("{}1{}", "{\"minus\":".repeat(3000), "}".repeat(3000));
    assert!(
        Form::from_json(&of(&format!("{{\"font\": {deep}}}"))).unwrap_err().to_string().contains("too deep")
    );
    // As deep as is let in, it is refused by the grammar and not by the stack.
    for (open, close, count) in [
        ("{\"minus\":", "}", 270),
        ("{\"group\":[", "]}", 135),
        ("{\"chain\":{\"first\":1,\"then\":[[\"+\",", "]]}}", 67),
    ] {
        let deep = format!("{{\"font\": {}1{}}}", open.repeat(count), close.repeat(count));
        assert!(matches!(text(&deep), FormError::Text(_)), "{open}");
    }
    let views = format!("{}{}", "{\"view\": {\"name\": \"a\", \"block\": [".repeat(92), "]}}".repeat(92));
    assert!(matches!(text(&views), FormError::Text(_)));
    // What is nested is kept together.
    let chain = r#"{"let": {"name": "n", "value": {"chain": {"first": {"chain": {"first": 1, "then": [["+", 2]]}}, "then": [["*", 3]]}}}}"#;
    let kept = Form::from_json(&of(chain)).unwrap().to_text().unwrap();
    assert!(kept.contains("let n = (1 + 2) * 3"), "{kept}");
}

proptest! {
    #![proptest_config(vantic_testkit::cases(60))]

    #[test]
    fn any_screen_goes_there_and_back(
        screen in random::screens(),
        plain in random::plain_screens(),
        display in random::displays(),
    ) {
        for screen in [screen, plain] {
            let again = round_trip(&screen.to_string()).to_text().unwrap();
            let frames = |screen| Plan::new(screen).unwrap().place(&display, &PlainText).unwrap().frames;
            prop_assert_eq!(frames(read(&again).unwrap().screen), frames(screen));
        }
    }
}

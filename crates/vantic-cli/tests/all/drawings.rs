//! `infer` and `drift`, as somebody uses them: files in, files out.

use std::path::Path;
use std::process::{Command, Output, Stdio};

fn vantic(folder: &Path, arguments: &[&str]) -> (i32, String, String) {
    let mut command = Command::new(env!("CARGO_BIN_EXE_vantic"));
    let Output { status, stdout, stderr } =
        command.args(arguments).current_dir(folder).stdin(Stdio::null()).output().unwrap();
    let (out, err) = (String::from_utf8(stdout).unwrap(), String::from_utf8(stderr).unwrap());
    assert!(!err.contains("panicked"), "{err}");
    (status.code().unwrap(), out, err)
}

const QUAY: &str = r#"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 390 844">
  <g id="header"><rect x="0" y="0" width="390" height="56"/>
    <text id="title" x="16" y="35" font-size="20">Quay 4</text>
    <rect id="menu" x="342" y="8" width="40" height="40"/>
  </g>
  <g id="card"><rect x="16" y="72" width="358" height="120"/>
    <rect id="photo" x="24" y="80" width="104" height="104"/>
  </g>
  <circle id="dot" r="4"/>
</svg>
"#;

/// A folder with a drawing and what was inferred from it.
fn inferred() -> tempfile::TempDir {
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(folder.path().join("quay.svg"), QUAY).unwrap();
    let (code, out, _) = vantic(folder.path(), &["infer", "quay.svg", "-o", "quay.vantic"]);
    assert_eq!(code, 0, "{out}");
    assert!(out.contains("wrote quay.vantic") && out.contains("quay.svg, line 9: `dot`"), "{out}");
    folder
}

#[test]
fn a_drawing_becomes_a_screen_file_that_gives_it() {
    let folder = inferred();
    let at = |arguments: &[&str]| vantic(folder.path(), arguments);
    let written = std::fs::read_to_string(folder.path().join("quay.vantic")).unwrap();
    // Without a file to write, standard output is the file and nothing else.
    let (code, printed, said) = at(&["infer", "quay.svg"]);
    assert_eq!((code, printed.as_str()), (0, written.as_str()));
    assert!(said.contains("The file reproduces the drawing to half a pixel"), "{said}");
    let (code, out, _) = at(&["drift", "quay.vantic", "quay.svg", "--strict"]);
    assert_eq!(code, 0, "{out}");
    assert!(out.contains("every view is where it was drawn"), "{out}");
    // What `place` prints is a drawing, too, of several displays at once.
    let (_, placed, _) = at(&["place", "quay.vantic", "-d", "390x844", "-d", "820x1180", "--format", "json"]);
    std::fs::write(folder.path().join("both.json"), placed).unwrap();
    let (code, out, _) = at(&["infer", "both.json", "--name", "pier", "--format", "json"]);
    let found: serde_json::Value = serde_json::from_str(&out).unwrap();
    assert_eq!((code, found["missed"].as_array().map(Vec::len)), (0, Some(0)));
    assert!(found["file"].as_str().unwrap().starts_with("screen pier {"), "{out}");
    let (_, explained, _) = at(&["infer", "quay.svg", "--reasons"]);
    assert!(explained.contains("// width = 40: "), "{explained}");
}

#[test]
fn a_guess_is_drawn_beside_the_drawing_and_corrected() {
    let folder = inferred();
    let at = |arguments: &[&str]| vantic(folder.path(), arguments);
    let (code, out, _) = at(&["infer", "quay.svg", "-o", "s.vantic", "--show", "820x1180"]);
    assert!(code == 0 && out.contains("wrote quay-820x1180.png"), "{out}");
    let png = std::fs::read(folder.path().join("quay-820x1180.png")).unwrap();
    assert_eq!(&png[1..4], b"PNG");
    let frames = |file: &str| {
        let (_, out, _) = at(&["place", file, "-d", "820x1180", "--format", "json"]);
        let found: serde_json::Value = serde_json::from_str(&out).unwrap();
        found["placements"][0]["frames"]["card"]["width"].as_f64().unwrap()
    };
    assert_eq!(frames("s.vantic"), 788.0, "the guess");
    let (code, out, _) =
        at(&["infer", "quay.svg", "-o", "s.vantic", "--view", "card=keeps-width", "--reasons"]);
    assert_eq!((code, frames("s.vantic")), (0, 358.0), "{out}");
    let file = std::fs::read_to_string(folder.path().join("s.vantic")).unwrap();
    assert!(file.contains("// width = 358: you asked for it"), "{file}");
    let (code, _, err) = at(&["infer", "quay.svg", "--view", "card=centred"]);
    assert!(code == 2 && err.contains("`centred` is none of keeps-width"), "{err}");
    // A picture of the screen holds its drawing.
    let (code, _, err) = at(&["draw", "quay.vantic", "-d", "390x844", "-o", "again.svg"]);
    assert_eq!(code, 0, "{err}");
    assert_eq!(at(&["drift", "quay.vantic", "again.svg", "--strict"]).0, 0);
}

#[test]
fn drift_is_told_and_repaired_either_way() {
    let folder = inferred();
    let at = |arguments: &[&str]| vantic(folder.path(), arguments);
    let file = folder.path().join("quay.vantic");
    let before = std::fs::read(&file).unwrap();
    std::fs::write(folder.path().join("new.svg"), QUAY.replace("x=\"342\"", "x=\"330\"")).unwrap();
    let (code, out, _) = at(&["drift", "quay.vantic", "new.svg"]);
    assert_eq!(code, 0, "a warning");
    let told = out.lines().find(|line| line.trim_start().starts_with("header.menu"));
    assert!(told.is_some_and(|line| line.contains("-12") && line.contains("end = parent.end - 8")), "{out}");
    assert_eq!(at(&["drift", "quay.vantic", "new.svg", "--strict"]).0, 1);
    // The rules follow the drawing: shown first, then written, then taken back.
    let (code, shown, _) = at(&["drift", "quay.vantic", "new.svg", "--change-rules", "header.menu"]);
    assert!(
        code == 0 && shown.contains("is: pin end 20, ") && shown.contains("on tablet: 1 view moved"),
        "{shown}"
    );
    assert_eq!(std::fs::read(&file).unwrap(), before, "nothing is written");
    let (code, wrote, _) =
        at(&["drift", "quay.vantic", "new.svg", "--change-rules", "all", "--write", "--strict"]);
    assert!(code == 0 && wrote.contains("0 views still not where drawn"), "{wrote}");
    assert_eq!(at(&["drift", "quay.vantic", "new.svg", "--strict"]).0, 0);
    assert_eq!(at(&["check", "quay.vantic", "--undo"]).0, 0);
    assert_eq!(std::fs::read(&file).unwrap(), before, "byte for byte");
    // The drawing follows the rules.
    assert_eq!(at(&["drift", "quay.vantic", "new.svg", "--redraw", "again.json"]).0, 0);
    assert_eq!(at(&["drift", "quay.vantic", "again.json", "--strict"]).0, 0);
}

#[test]
fn what_is_no_drawing_is_refused_at_its_place_and_nothing_is_written() {
    let folder = inferred();
    let cut = "{\n  \"placements\": [";
    let broken = QUAY.replace("</g>", "");
    let other = QUAY.replace("id=\"card\"", "id=\"header\"");
    let cases = [
        ("cut.json", cut, "line 2, column 1"),
        ("broken.svg", broken.as_str(), "line 10"),
        ("twice.svg", other.as_str(), "two views are named `header`"),
        ("empty.svg", "<svg viewBox='0 0 9 9'/>", "no view is drawn"),
    ];
    for (name, text, wanted) in cases {
        std::fs::write(folder.path().join(name), text).unwrap();
        for arguments in [vec!["infer", name, "-o", "new.vantic"], vec!["drift", "quay.vantic", name]] {
            let (code, out, err) = vantic(folder.path(), &arguments);
            assert!(code == 2 && out.is_empty() && err.contains(wanted), "{arguments:?}: {err}");
        }
        assert!(!folder.path().join("new.vantic").exists());
    }
    let (code, _, err) = vantic(folder.path(), &["infer", "quay.svg", "--name", "row of boats"]);
    assert!(code == 2 && err.contains("is no name for a screen"), "{err}");
}

const PIER: &str = "// The pier.
screen pier {
    view sign { pin start 16, end 16, top 16 to safe; height = 56 } // on top
    view basket { pin start 16 to safe; below sign by 12; size = (120, 80) }
    view till { after basket by 12; top = basket.top; end = safe.end - 16; height = 44 }

    drawing \"390x844\" {
        sign = (16, 16, 358, 56)
        basket = (16, 88, 120, 80)
    }
}
";

#[test]
fn drawings_in_the_file_are_compared_and_changed() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("pier.vantic");
    std::fs::write(&file, PIER).unwrap();
    let at = |arguments: &[&str]| vantic(folder.path(), arguments);
    let (code, out, _) = at(&["check", "pier.vantic", "--strict"]);
    assert!(code == 1 && out.contains("warning drift  `basket` is drawn 4 lower than"), "{out}");
    assert!(out.contains("write `below sign by 16` instead of `below sign by 12`"), "{out}");
    let (_, json, _) = at(&["check", "pier.vantic", "--format", "json"]);
    let found: serde_json::Value = serde_json::from_str(&json).unwrap();
    let drift = found["findings"].as_array().unwrap().iter().find(|f| f["code"] == "drift").unwrap();
    assert_eq!((drift["views"][0].as_str(), drift["amount"].as_f64()), (Some("basket"), Some(4.0)));
    // A drawing from elsewhere counts as well.
    let (_, placed, _) = at(&["place", "pier.vantic", "-d", "tablet", "--format", "json"]);
    std::fs::write(folder.path().join("old.json"), placed.replace("84.0", "90.0")).unwrap();
    let (_, out, _) = at(&["check", "pier.vantic", "--drawing", "old.json"]);
    assert!(out.contains("on: 390x844; tablet") || out.contains("tablet"), "{out}");
    // Either is changed: the rules by a fix, the drawing by `drift`.
    let (code, out, _) = at(&["drift", "pier.vantic", "--change-drawing", "basket", "--write"]);
    assert!(code == 0 && out.contains("is: basket = (16, 84, 120, 80)"), "{out}");
    assert_eq!(at(&["drift", "pier.vantic", "--strict"]).0, 0);
    assert_eq!(at(&["check", "pier.vantic", "--undo"]).0, 0);
    assert_eq!(std::fs::read_to_string(&file).unwrap(), PIER, "byte for byte");
    let (code, _, err) = at(&["drift", "pier.vantic", "--write"]);
    assert!(code == 2 && err.contains("--change-rules or --change-drawing"), "{err}");
    std::fs::write(
        folder.path().join("bare.vantic"),
        "screen bare { view a { pin start, top to safe; size = 9 } }",
    )
    .unwrap();
    let (code, _, err) = at(&["drift", "bare.vantic"]);
    assert!(code == 2 && err.contains("there is no drawing in bare.vantic"), "{err}");
}

#[test]
fn the_structure_is_edited_shown_first_and_undone() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("pier.vantic");
    std::fs::write(&file, PIER).unwrap();
    let at = |arguments: &[&str]| vantic(folder.path(), arguments);
    let edits: [(&[&str], &str); 8] = [
        (
            &["insert", "pier.vantic", "flag", "sign", "basket"],
            "+     view flag { below sign by 12; pin start 16 to safe",
        ),
        (
            &["insert", "pier.vantic", "word", "sign", "basket", "--text", "Ebb"],
            "text word \"Ebb\" { font 16; below sign by 12",
        ),
        (&["remove", "pier.vantic", "basket"], "till, at most 132 on"),
        (&["pin", "pier.vantic", "basket"], "below sign by 16"),
        (&["tie", "pier.vantic", "basket", "corner", "--to", "sign"], "every view stays where it is on"),
        (&["retarget", "pier.vantic", "basket#1", "sign"], "pin start to sign"),
        (&["copy", "pier.vantic", "basket", "till"], "view till { pin start 16 to safe; below"),
        (&["align", "pier.vantic", "end", "sign", "basket"], "basket = (254, 88, 120, 80)"),
    ];
    for (arguments, wanted) in edits {
        let whole = [&["edit"], arguments].concat();
        let (code, out, err) = at(&whole);
        assert!(
            code == 0 && out.contains(wanted) && out.contains("nothing is written"),
            "{whole:?}: {out}{err}"
        );
        assert_eq!(std::fs::read_to_string(&file).unwrap(), PIER, "{whole:?}");
        let (code, out, _) = at(&[&whole[..], &["--write"]].concat());
        assert!(code == 0 && out.contains("wrote pier.vantic"), "{whole:?}: {out}");
        let after = std::fs::read_to_string(&file).unwrap();
        assert!(after != PIER && after.starts_with("// The pier.") && after.contains("// on top"), "{after}");
        at(&["check", "pier.vantic", "--undo", "--no-fixes"]);
        assert_eq!(std::fs::read_to_string(&file).unwrap(), PIER, "byte for byte: {whole:?}");
    }
    for (arguments, wanted) in [
        (&["remove", "pier.vantic", "baskt"][..], "did you mean `basket`?"),
        (&["gather", "pier.vantic", "line", "sign"], "two or more siblings"),
        (&["tie", "pier.vantic", "till", "corner"], "name one display (-d)"),
        (&["insert", "pier.vantic", "sign", "sign", "basket"], "already a view `sign`"),
        (&["align", "pier.vantic", "middle", "sign", "basket"], "expected one of left"),
    ] {
        let (code, out, err) = at(&[&["edit"], arguments, &["--write"]].concat());
        assert!(code == 2 && out.is_empty() && err.contains(wanted), "{arguments:?}: {err}");
        assert_eq!(std::fs::read_to_string(&file).unwrap(), PIER);
    }
}

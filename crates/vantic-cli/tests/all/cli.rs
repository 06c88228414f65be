//! The built binary, as a user meets it.

use serde_json::{Value, json};
use std::path::{Path, PathBuf};
use std::process::{Command, Output};

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

fn vantic(arguments: &[&str], folder: &Path) -> Output {
    Command::new(env!("CARGO_BIN_EXE_vantic")).args(arguments).current_dir(folder).output().unwrap()
}

/// Runs it, asserts the exit code, and gives standard output or, for code 2, standard error.
fn run(arguments: &[&str], folder: &Path, code: i32) -> String {
    let output = vantic(arguments, folder);
    let (out, err) = (String::from_utf8(output.stdout).unwrap(), String::from_utf8(output.stderr).unwrap());
    assert_eq!(output.status.code(), Some(code), "{arguments:?}\n{out}{err}");
    assert!(!err.contains("panicked"), "{err}");
    if code == 2 {
        assert!(out.is_empty() && !err.trim().is_empty(), "{arguments:?}: {out}{err}");
        err
    } else {
        out
    }
}

fn json(arguments: &[&str], folder: &Path, code: i32) -> Value {
    serde_json::from_str(&run(arguments, folder, code)).unwrap()
}

/// Width and height of a PNG, which have to be where the standard puts them.
fn png_size(path: &Path) -> (u32, u32) {
    let bytes = std::fs::read(path).unwrap();
    assert_eq!(&bytes[..8], b"\x89PNG\r\n\x1a\n");
    let number = |at: usize| u32::from_be_bytes(bytes[at..at + 4].try_into().unwrap());
    (number(16), number(20))
}

#[test]
fn the_demo_screens_are_clean_and_each_fault_is_found_where_it_is() {
    let demo = root().join("demo");
    for clean in [
        "departures.vantic",
        "boarding_pass.vantic",
        "muster_list.vantic",
        "quay_kiosk.vantic",
        "quay_wall.vantic",
        "sailings.vantic",
        "booking.vantic",
    ] {
        let found = json(&["check", clean, "--format", "json"], &demo, 0);
        let worse: Vec<&Value> =
            found["findings"].as_array().unwrap().iter().filter(|f| f["severity"] != "note").collect();
        let worse: Vec<&&Value> = worse.iter().filter(|f| f["accepted"].is_null()).collect();
        assert!(worse.is_empty(), "{clean}: {worse:#?}");
        let views = json(&["place", clean, "-d", "tablet", "--format", "json"], &demo, 0);
        let count = views["placements"][0]["frames"].as_object().unwrap().len();
        assert!((12..=96).contains(&count), "{clean} has {count} views");
    }
    let all = 13;
    for (file, code, view, displays) in [
        ("missing_rule", "ambiguous", "buttons", all),
        ("clash", "conflict", "header", all),
        ("cut_label", "cut", "header.title", 3),
        ("lost_view", "outside", "status", 3),
        ("overlap", "overlap", "board.second.port", 4),
    ] {
        let path = format!("faults/{file}.vantic");
        let exit = if code == "overlap" { 0 } else { 1 };
        let found = json(&["check", &path, "--format", "json"], &demo, exit);
        let first = &found["findings"][0];
        assert_eq!((&first["code"], &first["views"][0]), (&Value::from(code), &Value::from(view)), "{file}");
        assert_eq!(first["displays"].as_array().unwrap().len(), displays, "{file}");
        if code == "cut" {
            assert!(
                first["displays"]
                    .as_array()
                    .unwrap()
                    .iter()
                    .all(|d| d.as_str().unwrap().ends_with("-turned"))
            );
        }
    }
    run(&["check", "faults/overlap.vantic", "--strict"], &demo, 1);
}

#[test]
fn the_demo_tells_its_story_in_one_screen_and_writes_what_it_names() {
    let folder = tempfile::tempdir().unwrap();
    let story = run(&["demo"], folder.path(), 0);
    assert!(story.lines().count() <= 37, "{story}");
    for said in
        ["clean departures: 36 views on 13 displays", "warning overlap", "1a:", "also fixes:", "3  Next"]
    {
        assert!(story.contains(said), "`{said}` is missing from\n{story}");
    }
    let written = folder.path().join("vantic-demo");
    for picture in ["departures.png", "overlap.png"] {
        assert!(story.contains(picture));
        assert_eq!(png_size(&written.join(picture)).0, 1280);
    }
    let page = std::fs::read_to_string(written.join("booking.html")).unwrap();
    assert!(
        story.contains("clean booking: 19 views on 78 displays") && page.contains("78 displays, 78 clean")
    );
    // Every command that it proposes works.
    let program = format!("{} ", env!("CARGO_BIN_EXE_vantic"));
    let proposed: Vec<&str> = story.lines().filter_map(|l| l.trim().strip_prefix(&program)).collect();
    assert_eq!(proposed.len(), 3, "{story}");
    for line in proposed {
        let command: Vec<&str> = line.split(' ').collect();
        let code = if command[0] == "check" { 1 } else { 0 };
        run(&command, folder.path(), code);
    }
    run(&["demo", "--out", "vantic-demo/departures.png/x"], folder.path(), 2);
}

#[test]
fn machine_output_has_the_promised_shape() {
    let demo = root().join("demo");
    let placed =
        json(&["place", "departures.vantic", "--display", "390x844", "--turn", "--format", "json"], &demo, 0);
    assert_eq!(placed["screen"], "departures");
    let names: Vec<&str> = placed["placements"]
        .as_array()
        .unwrap()
        .iter()
        .map(|p| p["display"]["name"].as_str().unwrap())
        .collect();
    assert_eq!(names, ["390x844", "844x390"]);
    let first = &placed["placements"][0];
    assert_eq!((&first["display"]["width"], &first["display"]["height"]), (&390.0.into(), &844.0.into()));
    assert_eq!(first["frames"]["header"], json!({"left": 0.0, "top": 0.0, "width": 390.0, "height": 56.0}));
    assert!(first["missed"].is_array() && first["broken"].is_array());
    let low = &placed["placements"][1]["missed"][0];
    assert_eq!((&low["rule"], &low["level"]), (&"board.first.tall".into(), &"rhythm".into()));
    assert!(low["by"].as_f64().unwrap() > 0.0);

    let found = json(&["check", "faults/clash.vantic", "-d", "390x844", "--format", "json"], &demo, 1);
    let finding = &found["findings"][0];
    for key in ["views", "coordinates", "follows", "rules", "given", "displays", "fixes"] {
        assert!(finding[key].is_array(), "{key}: {finding}");
    }
    assert!(finding["ranges"].is_object() && finding["message"].is_string());
    let open = json(&["check", "faults/missing_rule.vantic", "-d", "390x844", "--format", "json"], &demo, 1);
    assert!(open["findings"][0]["ranges"]["buttons.top"][1].is_null(), "no bound is null");
    let displays = json(&["displays", "--format", "json"], &demo, 0);
    assert_eq!(displays["displays"].as_array().unwrap().len(), 13);
}

#[test]
fn displays_are_taken_by_name_size_and_orientation() {
    let demo = root().join("demo");
    let place = |extra: &[&str]| {
        let mut all = vec!["place", "departures.vantic", "--format", "json"];
        all.extend(extra);
        json(&all, &demo, 0)["placements"].as_array().unwrap().clone()
    };
    assert_eq!(place(&[]).len(), 13);
    let two = place(&["-d", "tablet", "-d", "wall-turned", "-d", "500x600", "--insets", "1,2,3,4"]);
    assert_eq!(two[0]["display"]["insets"]["top"], 26.0, "a class has its own insets");
    assert_eq!(
        (two[1]["display"]["width"].as_f64(), two[2]["frames"]["header"]["left"].as_f64()),
        (Some(1080.0), Some(1.0))
    );
    let mirrored = place(&["-d", "400x800", "--right-to-left"]);
    assert_eq!(mirrored[0]["frames"]["header.clock"]["left"], 16.0);
    for wrong in [
        &["-d", "tabelt"][..],
        &["-d", "0x5"],
        &["-d", "NaNx5"],
        &["-d", "1e9x5"],
        &["-d", "desktop-turned"],
        &["-d", "40x50", "--insets", "1,2"],
        &["-d", "40x50", "--insets", "30,0,30,0"],
        &["--text-scale", "0"],
        &["--text-scale", "NaN"],
    ] {
        let mut all = vec!["check", "departures.vantic"];
        all.extend(wrong);
        run(&all, &demo, 2);
    }
}

#[test]
fn input_that_cannot_be_used_ends_with_2_and_a_clear_message() {
    let folder = tempfile::tempdir().unwrap();
    let write = |name: &str, bytes: &[u8]| std::fs::write(folder.path().join(name), bytes).unwrap();
    write("empty.vantic", b"");
    write("binary.vantic", &(0..=255).cycle().take(9999).collect::<Vec<u8>>());
    write(
        "line.vantic",
        format!("screen s {{ view a {{ left = {}1 }} }}", "1 + ".repeat(260_000)).as_bytes(),
    );
    write("deep.vantic", format!("screen s {}", "{ view v ".repeat(10_000)).as_bytes());
    write("wrong.vantic", b"screen s {\n    view a { lft = 3 }\n}\n");
    write("twice.vantic", b"screen s {\n    view a {}\n    view a {}\n}\n");
    write(
        "hidden.vantic",
        b"screen s { band p: portrait; view a {}; view b { left = a.left }; when p { hide a } }",
    );
    std::fs::create_dir(folder.path().join("folder.vantic")).unwrap();
    for (file, message) in [
        ("empty.vantic", "the file is empty"),
        ("binary.vantic", "not a text file"),
        ("line.vantic", "too many parts"),
        ("deep.vantic", "nested too deep: the limit is 64"),
        ("twice.vantic", "there is already a view `a`"),
        ("hidden.vantic", "`b#1` reads `a`, which is hidden in `p`"),
        ("missing.vantic", "missing.vantic could not be read"),
        ("folder.vantic", "is a folder"),
    ] {
        for command in [&["check"][..], &["place"], &["draw", "--out", "out.png"], &["fmt"]] {
            if command == ["fmt"] && matches!(file, "twice.vantic" | "hidden.vantic") {
                continue; // their grammar is right
            }
            let mut all = command.to_vec();
            all.push(file);
            let said = run(&all, folder.path(), 2);
            let wanted = if file == "binary.vantic" && command == ["fmt"] { "text file" } else { message };
            assert!(said.contains(wanted), "{all:?}: {said}");
            assert!(said.len() < 3000 && !folder.path().join("out.png").exists(), "{all:?}: {said}");
        }
    }
    // A mistake is shown at its line, with what was meant.
    let said = run(&["check", "wrong.vantic"], folder.path(), 2);
    for part in [
        "line   2:14   view a { lft = 3 }",
        "~~~",
        "wrong.vantic: 1 error",
        "did you mean `left`?",
        "1 error",
    ] {
        assert!(said.contains(part), "`{part}` is missing from\n{said}");
    }
}

#[test]
fn pictures_are_written_whole_or_not_at_all() {
    let folder = tempfile::tempdir().unwrap();
    let demo = root().join("demo/departures.vantic").display().to_string();
    let draw = |extra: &[&str], code| {
        let mut all = vec!["draw", &demo];
        all.extend(extra);
        run(&all, folder.path(), code)
    };
    draw(&["-o", "sheet.png"], 0);
    draw(&["-o", "one.png", "-d", "handset-small", "--rules"], 0);
    draw(&["-o", "one.svg", "-d", "handset-small"], 0);
    assert_eq!(png_size(&folder.path().join("one.png")), (1280, 800));
    let svg = std::fs::read_to_string(folder.path().join("one.svg")).unwrap();
    assert!(svg.starts_with("<svg") && svg.contains(">header.title<") && svg.ends_with("</svg>\n"));
    assert!(!svg.contains("http://") || svg.matches("http://").count() == 1, "only the namespace is named");

    std::fs::write(folder.path().join("kept.png"), "old").unwrap();
    draw(&["-o", "kept.gif"], 2);
    draw(&["-o", "kept.png/x.png"], 2);
    draw(&["-o", "no/such/folder.png"], 2);
    draw(&["-o", "kept.png", "-d", "nothing"], 2);
    assert!(draw(&["-o", "kept.png", "--rules"], 2).contains("one display at a time"));
    assert_eq!(std::fs::read(folder.path().join("kept.png")).unwrap(), b"old");
    let left: Vec<_> = std::fs::read_dir(folder.path()).unwrap().map(|e| e.unwrap().file_name()).collect();
    assert_eq!(left.len(), 4, "nothing half-written is left behind: {left:?}");
}

#[test]
fn fmt_prints_checks_and_writes() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("a.vantic");
    let untidy = "screen s{view a{left=3 // why\n}}";
    std::fs::write(&file, untidy).unwrap();
    let tidy = run(&["fmt", "a.vantic"], folder.path(), 0);
    assert_eq!(tidy, "screen s {\n    view a {\n        left = 3  // why\n    }\n}\n");
    assert!(run(&["fmt", "--check", "a.vantic"], folder.path(), 1).contains("a.vantic"));
    assert_eq!(std::fs::read_to_string(&file).unwrap(), untidy);
    run(&["fmt", "--write", "a.vantic"], folder.path(), 0);
    assert_eq!(std::fs::read_to_string(&file).unwrap(), tidy);
    run(&["fmt", "--check", "a.vantic"], folder.path(), 0);
    // One file with mistakes, and no file is written.
    std::fs::write(&file, untidy).unwrap();
    std::fs::write(folder.path().join("b.vantic"), "screen s {").unwrap();
    run(&["fmt", "--write", "a.vantic", "b.vantic"], folder.path(), 2);
    assert_eq!(std::fs::read_to_string(&file).unwrap(), untidy);
}

#[test]
fn the_documents_and_the_help_name_the_same_commands() {
    let readme = std::fs::read_to_string(root().join("README.md")).unwrap();
    let help = run(&["--help"], &root(), 0);
    let commands: Vec<&str> = help
        .lines()
        .take_while(|l| !l.starts_with("Options:"))
        .filter_map(|l| l.strip_prefix("  ")?.split_whitespace().next())
        .filter(|c| *c != "help")
        .collect();
    assert_eq!(
        commands,
        [
            "demo", "infer", "drift", "check", "about", "place", "show", "why", "draw", "edit", "sweep",
            "compare", "fmt", "displays"
        ]
    );
    let table = std::fs::read_to_string(root().join("docs/commands/README.md")).unwrap();
    for command in commands {
        assert!(table.contains(&format!("| [`{command}")), "the table of commands lacks `{command}`");
        let page = std::fs::read_to_string(root().join(format!("docs/commands/{command}.md"))).unwrap();
        assert!(page.starts_with(&format!("# `vantic {command}`")), "{page}");
        run(&[command, "--help"], &root(), 0);
    }
    let pictures: Vec<String> = std::fs::read_dir(root().join("docs/screenshots"))
        .unwrap()
        .map(|e| e.unwrap().file_name().to_string_lossy().into_owned())
        .collect();
    assert!(
        !pictures.is_empty() && pictures.iter().all(|p| readme.contains(&format!("docs/screenshots/{p}")))
    );
}

/// The blocks of a document that are set off as code.
fn code_blocks(document: &str) -> Vec<String> {
    document
        .split("```")
        .skip(1)
        .step_by(2)
        .map(|b| b.trim_start_matches(char::is_alphanumeric).trim_start().to_owned())
        .collect()
}

#[test]
fn the_tour_of_the_readme_is_true() {
    let readme = std::fs::read_to_string(root().join("README.md")).unwrap();
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("quay.vantic");
    let blocks = code_blocks(&readme);
    let screen = blocks.iter().find(|b| b.starts_with("screen quay")).unwrap();
    std::fs::write(&file, screen).unwrap();
    run(&["fmt", "--check", "quay.vantic"], folder.path(), 0);
    let shown: Vec<&String> = blocks.iter().filter(|b| b.starts_with("$ vantic check")).collect();
    assert_eq!(shown.len(), 3);
    for (block, code) in shown.into_iter().zip([1, 0, 1]) {
        let (command, output) = block.split_once('\n').unwrap();
        let arguments: Vec<&str> = command.trim_start_matches("$ vantic ").split(' ').collect();
        assert_eq!(run(&arguments, folder.path(), code).trim(), output.trim());
        // What step 3 says.
        let fixed = screen.replace(
            "pin left, right to safe\n        height = 48",
            "pin left, right, bottom to safe\n        height = 48",
        );
        std::fs::write(&file, fixed).unwrap();
    }
    let runs = |b: &&String| ["place", "draw", "why"].iter().any(|c| b.starts_with(&format!("$ vantic {c}")));
    for block in blocks.iter().filter(runs) {
        for line in block.lines() {
            let arguments: Vec<&str> = line.trim_start_matches("$ vantic ").split(' ').collect();
            run(&arguments, folder.path(), 0);
        }
    }
    assert!(folder.path().join("quay.png").exists() && folder.path().join("quay.html").exists());
    let lines = blocks.iter().find(|b| b.starts_with("below header")).unwrap();
    let mut told = String::from("screen told { ladder rhythm; guide lanes { columns 8 }\n");
    for name in ["header", "icon", "words", "dial"] {
        told += &format!("view {name} {{ left = 0; top = 0; size = 40 }}\n");
    }
    for (i, line) in lines.lines().enumerate() {
        told += &format!("view v{i} {{ {line}\n}}\n");
    }
    std::fs::write(folder.path().join("told.vantic"), told + "}").unwrap();
    run(&["place", "told.vantic", "-d", "tablet"], folder.path(), 0);
    let language = std::fs::read_to_string(root().join("docs/language.md")).unwrap();
    std::fs::write(&file, &code_blocks(&language)[0]).unwrap();
    run(&["check", "quay.vantic"], folder.path(), 0);
    run(&["fmt", "--check", "quay.vantic"], folder.path(), 0);
}

#[test]
fn the_computing_crates_do_no_input_or_output() {
    for source in ["vantic-solver/src", "vantic/src"] {
        let mut folders = vec![root().join("crates").join(source)];
        let mut files = 0;
        while let Some(folder) = folders.pop() {
            for entry in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
                if entry.is_dir() {
                    folders.push(entry);
                    continue;
                }
                files += 1;
                let text = std::fs::read_to_string(&entry).unwrap();
                for word in [
                    "std::fs",
                    "std::io",
                    "std::net",
                    "std::time",
                    "std::env",
                    "println!",
                    "eprintln!",
                    "print!",
                ] {
                    let used = text.lines().any(|l| l.contains(word) && !l.trim_start().starts_with("//"));
                    assert!(!used, "{} uses {word}", entry.display());
                }
            }
        }
        assert!(files > 5, "only {files} files in {source}");
    }
}

#[test]
fn a_check_for_people_says_what_where_and_what_next() {
    let folder = tempfile::tempdir().unwrap();
    let write = |text: &str| std::fs::write(folder.path().join("a.vantic"), text).unwrap();
    write(
        "screen s {
            view a { pin left, top to screen; size = 50 }
            view b { pin left 30, top to screen; size = 50 }
            view c { pin left, right to screen; top = a.bottom; height = 10; wide: width = 40 }
            view d { left = screen.left; width <= screen.width; width >= 5; height = 3; bottom = screen.bottom }
            view e { top = d.top; left = d.right; width = d.width; height = 3 }
            accept overlap: a, b \"they are meant to\"
        }",
    );
    let said = run(&["check", "a.vantic", "-d", "100x200", "-d", "60x200"], folder.path(), 1);
    for part in [
        "error conflict  `c#1` and `c.wide` cannot all hold: they are off by 60",
        "line   4  left = screen.left  c#1",
        "line   4  right = screen.right  c#1",
        "line   4  width = 40  c.wide",
        "all 2 displays; values shown for `100x200`",
        "error ambiguous  `d` is underconstrained: width can be anything from 5 to 100",
        "follows: e.left, anything from 5 to 100",
        "follows: e.width, anything from 5 to 100",
        "meet the limit `width >= 5` exactly, with `=`",
        "a guess: it says what is open; `d` is 5 wide on 100x200; no frame changes",
        "error outside  `b` extends 20 beyond the right of the screen",
        "on: 1 of 2 displays: 60x200",
        "accepted overlap: a, b \"they are meant to\"",
        "s: 3 errors, 0 warnings (5 views on 2 displays)",
    ] {
        assert!(said.contains(part), "`{part}` is missing from\n{said}");
    }
    assert!(!said.contains("error overlap") && !said.contains('\u{1b}'), "no colour on a pipe: {said}");
    let placed = run(&["place", "a.vantic", "-d", "100x200", "-d", "60x200"], folder.path(), 1);
    for part in ["VIEW", "100X200", "0, 0, 50 x 50", "30, 0, 50 x 50", "broken  c"] {
        assert!(placed.contains(part), "`{part}` is missing from\n{placed}");
    }
    // A long report is cut for people and whole for machines.
    let views: String =
        (0..80).map(|i| format!("view v{i} {{ left = screen.left; size = (1, 0) }}\n")).collect();
    write(&format!("screen s {{\n{views}}}"));
    let said = run(&["check", "a.vantic", "-d", "100x200"], folder.path(), 1);
    assert_eq!(said.matches("error ambiguous").count(), 50);
    assert!(said.contains("... and 30 more") && said.contains("80 errors"), "{said}");
    let all = json(&["check", "a.vantic", "-d", "100x200", "--format", "json"], folder.path(), 1);
    assert_eq!(all["findings"].as_array().unwrap().len(), 80);
    // So are the rules of one finding.
    let rows: String =
        (1..60).map(|i| format!("view v{i} {{ top = v{}.bottom; height = 9 }}\n", i - 1)).collect();
    let ends = "view v0 { top = screen.top; height = 9 }\nlast: v59.bottom = screen.bottom\n";
    write(&format!("screen s {{\n{ends}{rows}}}"));
    let check = ["check", "a.vantic", "-d", "100x200", "--no-fixes"];
    let all = json(&[&check[..], &["--format", "json"]].concat(), folder.path(), 1);
    let rules = all["findings"][0]["rules"].as_array().unwrap().len();
    assert!(rules > 60, "the rows take part: {rules}");
    let said = run(&check, folder.path(), 1);
    let conflict = said.split("\n\n").next().unwrap();
    assert_eq!(conflict.matches("\n    line").count(), 40, "{conflict}");
    let more = format!("\n    and {} more rules; --format json lists them\n", rules - 40);
    assert!(conflict.contains(&more), "{conflict}");
}

#[test]
fn a_large_screen_is_checked_in_one_piece() {
    let folder = tempfile::tempdir().unwrap();
    let rows: String = (1..3000)
        .map(|i| {
            format!(
                "view r{i} {{ pin left, right to screen; top = prev.bottom + 1; height = {} }}\n",
                10 + i % 7
            )
        })
        .collect();
    let text = format!("screen s {{\nview r0 {{ pin left, right, top to screen; height = 10 }}\n{rows}}}");
    std::fs::write(folder.path().join("rows.vantic"), text).unwrap();
    let placed = json(&["place", "rows.vantic", "-d", "300x400", "--format", "json"], folder.path(), 0);
    let frames = placed["placements"][0]["frames"].as_object().unwrap();
    let bottom: u32 = 10 + (1..3000).map(|i| 1 + 10 + i % 7).sum::<u32>();
    let last = &frames["r2999"];
    assert_eq!(last["top"].as_f64().unwrap() + last["height"].as_f64().unwrap(), f64::from(bottom));
    // Only what starts on the screen is there to be seen; the rest is lost, and said to be.
    let check = ["check", "rows.vantic", "-d", "300x400", "--no-fixes", "--format", "json"];
    let found = json(&check, folder.path(), 1);
    let lost = found["findings"]
        .as_array()
        .unwrap()
        .iter()
        .filter(|f| f["message"].as_str().unwrap().contains("is entirely off the screen"));
    let starts_below = frames.values().filter(|f| f["top"].as_f64().unwrap() >= 400.0).count();
    assert_eq!(lost.count(), starts_below);
}

#[test]
fn every_rule_that_touches_a_view_is_listed_with_its_place() {
    let demo = root().join("demo");
    let arguments = ["show", "rules", "departures.vantic", "header.title"];
    let told = run(&arguments, &demo, 0);
    let machine = json(&[&arguments[..], &["--format", "json"]].concat(), &demo, 0);
    let rules = machine["rules"].as_array().unwrap();
    assert!(rules.iter().any(|r| r["own"] == false) && rules.iter().any(|r| r["level"] == "whole"));
    let file = std::fs::read_to_string(demo.join("departures.vantic")).unwrap();
    for rule in rules {
        // People are reported the same, and the line is one that speaks of the view or of its rule.
        assert!(told.contains(rule["sentence"].as_str().unwrap()), "{rule} in {told}");
        assert!(rule["sentence"].as_str().unwrap().contains("`header.title`"), "{rule}");
        let line = file.lines().nth(rule["line"].as_u64().unwrap() as usize - 1).unwrap();
        assert!(line.contains(['=', '"']), "{rule}: {line}");
    }
    let wrong = run(&["show", "rules", "departures.vantic", "header.titel"], &demo, 2);
    assert!(wrong.contains("did you mean `header.title`?"), "{wrong}");
}

#[test]
fn rules_are_read_off_a_placement_and_keep_it() {
    let screens = root().join("cases/screens");
    let on = ["notices.vantic", "-d", "420x910", "--measure", "even"];
    let near = [&["show", "neighbours"], &on[..], &["report"]].concat();
    let table = run(&near, &screens, 0);
    let tops: Vec<&str> = table.lines().filter(|l| l.trim_start().starts_with("top")).collect();
    assert!(tops.len() == 3 && tops[0].contains("alert") && tops[0].contains("below alert by 10"), "{table}");
    assert!(tops[1].contains("card") && tops[2].contains("the screen") && tops[2].contains("210"), "{table}");
    let found = json(&[&near[..], &["--format", "json"]].concat(), &screens, 0);
    assert_eq!((&found[2]["of"], &found[2]["distance"]), (&"alert".into(), &10.0.into()));

    // Each tie, written in place of the view's rules, leaves every frame where it was.
    let before = json(&[&["place"], &on[..], &["--format", "json"]].concat(), &screens, 0);
    let ties =
        json(&[&["show", "alternatives"], &on[..], &["report", "--format", "json"]].concat(), &screens, 0);
    let source = std::fs::read_to_string(screens.join("notices.vantic")).unwrap();
    let line = source.lines().find(|l| l.contains("view report")).unwrap();
    let folder = tempfile::tempdir().unwrap();
    let ties = ties.as_array().unwrap();
    assert_eq!(ties.len(), 5);
    for tie in ties {
        let rules: Vec<&str> = tie["rules"].as_array().unwrap().iter().map(|r| r.as_str().unwrap()).collect();
        let tied = source.replace(line, &format!("view report {{ {} }}", rules.join("; ")));
        std::fs::write(folder.path().join("notices.vantic"), tied).unwrap();
        let after = json(&[&["place"], &on[..], &["--format", "json"]].concat(), folder.path(), 0);
        let of = |all: &serde_json::Value| all["placements"][0]["frames"].as_object().unwrap().clone();
        for (view, was) in of(&before) {
            // Their numbers are written to a hundredth.
            for (coordinate, was) in was.as_object().unwrap() {
                let is = after["placements"][0]["frames"][&view][coordinate].as_f64().unwrap();
                assert!((is - was.as_f64().unwrap()).abs() < 0.011, "{tie}: {view}.{coordinate} is {is}");
            }
        }
    }
    let text = run(&[&["show", "alternatives"], &on[..], &["report"]].concat(), &screens, 0);
    assert!(text.contains("pin start 16, end 16, top 210, bottom 620 to screen"), "{text}");

    for (arguments, message) in [
        (vec!["alternatives", "notices.vantic", "reprot", "-d", "420x910"], "did you mean `report`?"),
        (vec!["neighbours", "notices.vantic", "report"], "name one, such as `--display 390x844`"),
        (vec!["neighbours", "notices.vantic", "report", "alert"], "unexpected argument"),
    ] {
        let said = run(&[&["show"], &arguments[..]].concat(), &screens, 2);
        assert!(said.contains(message), "{said}");
    }
}

#[test]
fn a_screen_goes_to_json_and_back_and_is_used_as_either() {
    let demo = root().join("demo");
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str| folder.path().join(name).display().to_string();
    let on = ["-d", "handset-small", "--format", "json"];
    for name in ["quay_kiosk", "muster_list"] {
        let file = format!("{name}.vantic");
        let form = run(&["fmt", &file, "--as", "json"], &demo, 0);
        std::fs::write(path("s.json"), &form).unwrap();
        let place = |file: &str, folder: &Path| json(&[&["place", file], &on[..]].concat(), folder, 0);
        assert_eq!(place("s.json", folder.path()), place(&file, &demo), "{name}");
        std::fs::write(path("s.vantic"), run(&["fmt", "s.json", "--as", "vantic"], folder.path(), 0))
            .unwrap();
        assert_eq!(run(&["fmt", "s.vantic", "--as", "json"], folder.path(), 0), form, "{name}");
        assert_eq!(run(&["fmt", "s.json"], folder.path(), 0), form, "the form is its own canonical layout");
        run(&["fmt", "--check", "s.json", "s.vantic"], folder.path(), 0);
    }
    let schema = run(&["fmt", "--schema"], &demo, 0);
    assert_eq!(schema, std::fs::read_to_string(root().join("docs/screen.schema.json")).unwrap());
    for (wrong, message) in [
        ("{\"screen\": \"s\",\n \"statement\": []}", "line 2, column 12: unknown field `statement`"),
        ("{\"screen\": \"a b\", \"statements\": []}", "`a b` is not a name"),
        (
            "{\"screen\": \"s\", \"statements\": [{\"view\": {\"name\": \"a\", \"block\": [{\"font\": 3}]}}]}",
            "wrong.json as a screen file: 1 error",
        ),
        ("not json", "is not the JSON form of a screen"),
    ] {
        std::fs::write(path("wrong.json"), wrong).unwrap();
        let said = run(&["check", "wrong.json"], folder.path(), 2);
        assert!(said.contains(message), "{said}");
    }
}

#[test]
fn texts_are_measured_and_frames_shown_as_asked() {
    let screens = root().join("cases/screens");
    let place = |more: &[&str]| {
        let arguments = [&["place", "notices.vantic", "-d", "420x910", "--format", "json"], more].concat();
        json(&arguments, &screens, 0)["placements"][0].clone()
    };
    let words = |placement: &Value| placement["frames"]["card.words"].clone();
    let even = place(&["--measure", "even"]);
    assert_eq!((&words(&even)["width"], &even["lines"]["card.words"]), (&180.0.into(), &1.into()));
    // Two thirds longer they still fit; twice as long they wrap.
    assert_eq!(words(&place(&["--measure", "even", "--longer", "60%"]))["width"], 288.0);
    let twice = place(&["--measure", "even", "--longer", "100"]);
    assert_eq!((&words(&twice)["width"], &twice["lines"]["card.words"]), (&320.0.into(), &2.into()));
    // The font's own measure is another one.
    assert_ne!(words(&place(&[])), words(&even));
    let local = words(&place(&["--measure", "even", "--local"]));
    assert_eq!((&local["left"], &local["top"]), (&80.0.into(), &20.0.into()));
    let pixels =
        json(&["place", "gauges.vantic", "-d", "handset-large", "--pixels", "--format", "json"], &screens, 0);
    let frames = pixels["placements"][0]["frames"].as_object().unwrap();
    let whole = frames.values().flat_map(|f| f.as_object().unwrap().values());
    assert!(frames.len() > 10 && whole.map(|n| n.as_f64().unwrap()).all(|n| n.fract() == 0.0));
    let bounds = &frames["bars"];
    assert_eq!((&bounds["width"], &bounds["height"]), (&1272.0.into(), &2760.0.into()));
    let said = run(&["place", "notices.vantic", "--longer", "many"], &screens, 2);
    assert!(said.contains("a percentage from -90 to 1000"), "{said}");
    let painted = json(&["place", "painted.vantic", "-d", "400x400", "--format", "json"], &screens, 0);
    assert_eq!(painted["placements"][0]["depths"], json!({ "sign": 4.0 }));
    // What is painted overlaps where the frames do not.
    let found = run(&["check", "painted.vantic", "-d", "400x400", "--strict"], &screens, 1);
    assert!(found.contains("`flag` and `sign` overlap by 10 x 10"), "{found}");
}

#[test]
fn each_form_of_a_rule_is_explained_as_its_linear_rules() {
    let screens = root().join("cases/screens");
    for (file, view, sentences) in [
        (
            "positions.vantic",
            "mark",
            [
                "the end edge of `mark` is 5 after the start edge of `chip`: an overlap of 5",
                "the top edge of `mark` is 6 below the bottom edge of `chip`",
            ],
        ),
        (
            "positions.vantic",
            "note",
            [
                "the bottom edge of `note` is 12 above the top edge of `foot`",
                "`note` is 25% of the way between the left edge of the safe area and the right edge of the safe area",
            ],
        ),
        (
            "limits.vantic",
            "probe",
            [
                "the top edge of `probe` is 40 below the bottom edge of `strip`",
                "the top edge of `probe` is at least 8 below the bottom edge of `strip`",
            ],
        ),
        (
            "limits.vantic",
            "step",
            [
                "the left edge of `step` is the right edge of `bar` plus `gap`",
                "the width of `step` is 2 times `gap`",
            ],
        ),
        (
            "limits.vantic",
            "tall",
            [
                "the height of `tall` is the largest of (the smallest of 10% of the width of the screen and 40) and 24 and (the height of `bar` plus 5)",
                "the width of `tall` is 10",
            ],
        ),
        (
            "content.vantic",
            "stamp",
            [
                "`stamp` keeps the proportions of its picture",
                "`stamp` has the natural size of its picture, 40 x 30",
            ],
        ),
    ] {
        let found = json(&["show", "rules", file, view, "--format", "json"], &screens, 0);
        let told: Vec<&str> =
            found["rules"].as_array().unwrap().iter().map(|r| r["sentence"].as_str().unwrap()).collect();
        for sentence in sentences {
            assert!(told.contains(&sentence), "{sentence}: {told:#?}");
        }
    }
}

#[test]
fn rows_cells_and_guides_are_placed_listed_and_drawn() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("wall.vantic");
    std::fs::write(
        &file,
        "screen wall {
    guide lanes { columns 4, margin 20, gutter 10 }
    guide fold { line down 25% }
    view cards { pin left, right, top to screen; grid columns at least 90, gap 10; repeat card 5 { height = 30 } }
    view list { pin left, right, bottom to screen; top = fold.top; column gap 4, spread evenly
        repeat slot at least 1, at most 9 { size = (40, 60) }
    }
    view note { pin start, end to lanes[2..3]; top = 80; height = 8 }
}
",
    )
    .unwrap();
    let at = folder.path();
    let placed = json(&["place", "wall.vantic", "-d", "310x400", "--format", "json"], at, 0);
    let here = &placed["placements"][0];
    assert_eq!(here["guides"]["fold"]["top"], 100.0);
    assert_eq!(here["divisions"]["lanes"]["count"], 4);
    assert_eq!(here["divisions"]["lanes"]["size"], 60.0);
    assert_eq!(here["grids"]["cards"], json!([3, 2]));
    // 300 high: four of 60 and three gaps of 4.
    assert_eq!(here["shown"]["list"], json!({ "shown": 3, "of": 8, "cut": false }));
    assert_eq!(here["frames"]["note"]["left"], 90.0);
    assert!(here["frames"].get("lanes").is_none() && here["frames"].get("list.slot[5]").is_none());
    assert_eq!(here["frames"]["list.slot[1]"]["top"], 100.0 + (300.0 - 240.0) / 5.0);

    let told = run(&["place", "wall.vantic", "-d", "310x400"], at, 0);
    for said in
        ["lanes (guide)", "4 columns of 60", "3 columns and 2 rows", "3 of 8 spare children shown", "hidden"]
    {
        assert!(told.contains(said), "{said}: {told}");
    }
    let listed = run(&["show", "rules", "wall.vantic", "note"], at, 0);
    assert!(listed.contains("the start edge of columns 2 to 3 of `lanes`"), "{listed}");
    let listed = run(&["show", "rules", "wall.vantic", "cards.card[2]"], at, 0);
    assert!(listed.contains("`cards` places `cards.card[2]`: grid columns at least 90, gap 10"), "{listed}");
    let listed = run(&["show", "rules", "wall.vantic", "lanes"], at, 0);
    assert!(listed.contains("the guide `lanes` is columns 4, margin 20, gutter 10"), "{listed}");

    // The guides are lines of their own in the picture; nothing else changes.
    let draw = |name: &str, more: &[&str]| {
        let all = [&["draw", "wall.vantic", "-d", "310x400", "-o", name], more].concat();
        run(&all, at, 0);
        std::fs::read_to_string(at.join(name)).unwrap()
    };
    let (plain, with) = (draw("plain.svg", &[]), draw("with.svg", &["--guides"]));
    let lines = |svg: &str| svg.matches("stroke-dasharray=\"5 3\"").count();
    assert_eq!((lines(&plain), lines(&with)), (0, 5));
    let refused = run(&["draw", "wall.vantic", "--guides", "-o", "all.svg"], at, 2);
    assert!(refused.contains("--guides draws one display at a time"), "{refused}");
    assert!(!at.join("all.svg").exists());

    // The JSON form says the same.
    let form = run(&["fmt", "wall.vantic", "--as", "json"], at, 0);
    std::fs::write(at.join("wall.json"), form).unwrap();
    assert_eq!(json(&["place", "wall.json", "-d", "310x400", "--format", "json"], at, 0), placed);
}

/// A list that scrolls, made of parts: how far, what sticks and where, and which part a finding is about.
#[test]
fn scrolled_lists_and_parts_are_reported() {
    let demo = root().join("demo");
    let placed = |scroll: &[&str], direction: &[&str]| {
        let mut all = vec!["place", "sailings.vantic", "-d", "handset-large", "--format", "json"];
        all.extend(scroll.iter().flat_map(|s| ["--scroll", s]));
        all.extend(direction);
        json(&all, &demo, 0)["placements"][0].clone()
    };
    let (rest, there) = (placed(&[], &[]), placed(&["list=300", "list.boats=40"], &["--right-to-left"]));
    assert_eq!(rest["scroll"]["list"], json!({ "offset": [0.0, 0.0], "most": [0.0, 498.0] }));
    assert_eq!(there["scroll"]["list"]["offset"], json!([0.0, 300.0]));
    assert_eq!(there["scroll"]["list.boats"]["offset"], json!([40.0, 0.0]));
    assert_eq!(there["display"]["scroll"][0]["view"], "list");
    let top = |placed: &serde_json::Value, view: &str| placed["frames"][view]["top"].as_f64().unwrap();
    assert_eq!(top(&rest, "list.sunday") - top(&there, "list.sunday"), 300.0);
    assert_eq!(top(&rest, "list.call"), top(&there, "list.call"));
    let stuck = &there["stuck"]["list.friday.date"][0];
    assert_eq!((&stuck["side"], &stuck["of"], &stuck["by"]), (&"top".into(), &"list".into(), &252.0.into()));
    // What it holds goes with it.
    assert_eq!(top(&there, "list.friday.date.words") - top(&there, "list.friday.date"), 8.625);
    let end = placed(&["list=end"], &[]);
    assert_eq!(end["scroll"]["list"]["offset"], json!([0.0, 498.0]));

    let told = run(&["place", "sailings.vantic", "-d", "handset-large", "--scroll", "list=300"], &demo, 0);
    for said in
        ["list 300 of 498 down", "to the top of list: held from 48 to 338, 252 away", "list.content (guide)"]
    {
        assert!(told.contains(said), "{said}: {told}");
    }
    for (option, said) in [
        ("list", "write the view and how far"),
        ("lisd=3", "did you mean `list`?"),
        ("list.call=3", "`list.call` does not scroll"),
        ("list=far", "`far` is no number"),
        ("list=-3", "cannot be scrolled by -3"),
    ] {
        let wrong = run(&["place", "sailings.vantic", "--scroll", option], &demo, 2);
        assert!(wrong.contains(said), "{option}: {wrong}");
    }

    let folder = tempfile::tempdir().unwrap();
    let text = std::fs::read_to_string(demo.join("sailings.vantic")).unwrap();
    std::fs::write(
        folder.path().join("s.vantic"),
        text.replace("            end <= cols[3].end\n", "            lines 1\n"),
    )
    .unwrap();
    let told = run(&["check", "s.vantic", "-d", "200x600", "--no-fixes"], folder.path(), 0);
    assert!(told.contains("part: `sailing`, placed in `list.friday.second`"), "{told}");
    let found =
        json(&["check", "s.vantic", "-d", "200x600", "--no-fixes", "--format", "json"], folder.path(), 0);
    let placed: Vec<&serde_json::Value> =
        found["findings"].as_array().unwrap().iter().map(|f| &f["placed"]).collect();
    // What is so in every copy is told once, with all its places.
    let days = ["friday", "saturday", "sunday"];
    let places = days.map(|day| json!({ "part": "sailing", "place": format!("list.{day}.second") }));
    assert!(placed.contains(&&json!(places)), "{placed:?}");
    let copies = &found["findings"][0]["copies"];
    assert_eq!(copies.as_array().map(Vec::len), Some(2), "{copies}");
}

#[test]
fn siblings_are_gathered_into_a_row_or_column() {
    let demo = root().join("demo");
    let asked = [
        "show",
        "grouping",
        "departures.vantic",
        "board.third",
        "board.first",
        "board.second",
        "-d",
        "tablet",
    ];
    let told = run(&asked, &demo, 0);
    for said in [
        "board.first, board.second, board.third keep their frames",
        "        column gap 6, align stretch\n        pin start 8, top 34 to parent\n        width = 800\n        view first",
        "write them for the group instead:\n    board.first#1  pin start 8, end 8 to parent\n",
        "remove them:\n    board.second#2  top = prev.bottom + 6\n",
    ] {
        assert!(told.contains(said), "{said}: {told}");
    }
    let found = json(&[&asked[..], &["--format", "json"]].concat(), &demo, 0);
    assert_eq!(found["gaps"], json!([6.0, 6.0]));
    assert_eq!((&found["order"][2], &found["goes"][1]), (&"board.third".into(), &"board.third#2".into()));
    let refused =
        run(&["show", "grouping", "departures.vantic", "board.first", "header", "-d", "tablet"], &demo, 2);
    assert!(refused.contains("are not two or more siblings"), "{refused}");
}

/// Displays of one's own, languages and expectations beside the file, and a table of what was tried.
#[test]
fn a_screen_is_tried_on_displays_of_ones_own_in_every_language_and_state() {
    let folder = tempfile::tempdir().unwrap();
    let at = folder.path();
    let write = |name: &str, text: &str| std::fs::write(at.join(name), text).unwrap();
    write(
        "quay.vantic",
        "screen quay {
            state menu: closed, open
            view bar { pin left, right, top to safe; height = 40
                text title \"Next boats\" { font 20; start = parent.start + 8; center_y = parent.center_y }
            }
            view sheet { only in menu.open; pin left, right to safe; below bar; height = 150 }
        }",
    );
    write("quay.words.toml", "[language.fi.words]\n\"bar.title\" = \"Seuraavat laivat satamasta\"\n");
    write(
        "own.toml",
        "[[display]]\nname = \"bridge\"\nsize = [220, 300]\nturned = true\n[[display]]\nname = \"pilot\"\nsize = [800, 600]\n",
    );
    let found = json(&["check", "quay.vantic", "--displays", "own.toml", "--format", "json"], at, 1);
    let outside = &found["findings"][0];
    assert_eq!((&outside["code"], &outside["views"][0]), (&"outside".into(), &"bar.title".into()));
    let on: Vec<&str> = outside["displays"].as_array().unwrap().iter().map(|d| d.as_str().unwrap()).collect();
    assert_eq!(on, ["bridge, fi", "bridge, fi, menu.open"]);

    let text = run(&["check", "quay.vantic", "--displays", "own.toml"], at, 1);
    for said in [
        "on: 2 of 12 displays, all that are portrait and language fi: bridge, fi; bridge, fi, menu.open",
        " DISPLAY  DEFAULT  MENU.OPEN  FI     FI, MENU.OPEN\n bridge   -        -          1 err  1 err\n and 2 more, clean",
        "quay: 1 error, 0 warnings (3 views on 12 displays)",
    ] {
        assert!(text.contains(said), "`{said}` is missing from\n{text}");
    }
    // What has too many columns is reported together; clean displays are shown where that is asked for.
    let many =
        run(&["check", "quay.vantic", "-d", "220x300", "--text-scale", "1,1.2", "--both-directions"], at, 1);
    assert!(many.contains(" DISPLAY  WORST  CLEAN\n 220x300  1 err  8 of 16\n"), "{many}");
    let clean = run(&["check", "quay.vantic", "-d", "800x600", "--table", "--language", "own"], at, 0);
    assert!(clean.contains(" 800x600  -        -\n\nclean quay"), "{clean}");

    // The frames as they are become expectations, and hold until something moves.
    let display = ["-d", "pilot, fi, menu.open", "--displays", "own.toml"];
    let kept = run(&[&["place", "quay.vantic", "--expectations"], &display[..]].concat(), at, 0);
    write("quay.expect.toml", &kept);
    run(&[&["check", "quay.vantic"], &display[..]].concat(), at, 0);
    write("quay.expect.toml", &kept.replace("[0.0, 40.0, 800.0, 150.0]", "[0.0, 40.0, 800.0, 160.0]"));
    let unmet = run(&[&["check", "quay.vantic"], &display[..]].concat(), at, 1);
    assert!(
        unmet.contains("`sheet` is at 0, 40, 800 x 150; expected 0, 40, 800 x 160: 10 too short"),
        "{unmet}"
    );
    write("quay.expect.toml", "[[display]]\nname = \"pilot\"\nhidden = [\"sheets\"]\n");
    let wrong = run(&["check", "quay.vantic"], at, 2);
    assert!(
        wrong.contains("quay.expect.toml: line 3: there is no view `sheets`; did you mean `sheet`?"),
        "{wrong}"
    );
    std::fs::remove_file(at.join("quay.expect.toml")).unwrap();

    for (arguments, said) in [
        (["-d", "pilott"], "there is no display `pilott`"),
        (["--state", "menu=ajar"], "`menu` is one of closed, open, not `ajar`"),
        (["--state", "door=open"], "there is no state `door`; the screen has menu"),
        (["--state", "menu"], "such as `menu=open`"),
        (["--language", "xx"], "the screen has no words in `xx`"),
        (["--text-scale", "0"], "the text scale has to be within 0.1 and 20"),
        (["--displays", "none.toml"], "none.toml could not be read"),
    ] {
        let error = run(&[&["check", "quay.vantic"], &arguments[..]].concat(), at, 2);
        assert!(error.contains(said), "{arguments:?}: {error}");
    }
    write("own.toml", "[[display]]\nname = \"bridge\"\nsize = [0, 300]\n");
    let wrong = run(&["displays", "--displays", "own.toml"], at, 2);
    assert!(
        wrong.contains("own.toml is not a file of displays: line 1: a display's sides have to be within"),
        "{wrong}"
    );
}

/// What is the same on every display, what bands change, and which rules count where (NEEDS D10, B121, B144,
/// B145).
#[test]
fn displays_and_bands_are_compared() {
    let cases = root().join("cases/screens");
    let sizes = ["-d", "420x910", "-d", "840x600", "--measure", "even"];
    let with = |arguments: &[&'static str]| [arguments, &sizes[..]].concat();
    let text = run(&with(&["show", "invariants", "notices.vantic", "report"]), &cases, 0);
    for said in [
        "Same on 2 displays",
        " report  top to alert         10\n",
        " report  share of the width, %   92.38  420x910  96.19  840x600\n",
    ] {
        assert!(text.contains(said), "`{said}` is missing from\n{text}");
    }
    let all = json(&with(&["show", "invariants", "notices.vantic", "--format", "json"]), &cases, 0);
    assert_eq!(all["displays"], json!(["420x910", "840x600"]));
    let compared = all["compared"].as_array().unwrap();
    assert!(compared.len() > 20 && compared.iter().any(|c| c["same"] == true && c["what"] == "top to alert"));

    let folder = tempfile::tempdir().unwrap();
    let at = folder.path();
    std::fs::write(
        at.join("shell.vantic"),
        "screen shell {
    band narrow: screen.width < 560
    band wide: screen.width >= 560
    view head { pin left, right, top to screen; tall: height = 56 }
    when narrow { in head { tall: height = 48 } }
}",
    )
    .unwrap();
    std::fs::write(
        at.join("page.vantic"),
        "screen page from \"shell.vantic\" {
    adopt wide
    view body { below head by 8; pin left, right to screen; height = 40 }
    when wide { in head { tall: height = 70 } }
}",
    )
    .unwrap();
    let bands = run(&["show", "bands", "page.vantic", "-d", "400x800", "-d", "900x800"], at, 0);
    let narrow = "narrow: screen.width < 560, from shell.vantic, not adopted; active on 400x800\n    in head { tall: height = 48 }\n";
    let wide = "wide: screen.width >= 560, from shell.vantic; active on 900x800\n    in head { tall: height = 70 }\n";
    assert!(bands.contains(narrow) && bands.contains(wide), "{bands}");
    let listed = json(&["show", "rules", "page.vantic", "head", "-d", "900x800", "--format", "json"], at, 0);
    let here: Vec<(&str, &str)> = listed["rules"]
        .as_array()
        .unwrap()
        .iter()
        .map(|r| (r["rule"].as_str().unwrap(), r["here"].as_str().unwrap()))
        .collect();
    for expected in [
        ("head#1", "inherited"),
        ("head.tall", "replaced"),
        ("head.tall", "not here"),
        ("head.tall", "of the band"),
    ] {
        assert!(here.contains(&expected), "{expected:?} {here:?}");
    }
    assert_eq!(
        (&listed["rules"][0]["line"], &listed["rules"][0]["file"]),
        (&4.into(), &"shell.vantic".into())
    );
    assert!(
        run(&["show", "rules", "page.vantic", "head", "-d", "9x9", "-d", "8x8"], at, 2).contains("name one")
    );
    // A mistake in the base is shown in the base.
    std::fs::write(at.join("shell.vantic"), "screen shell {\n    view head { tall: heigt = 3 }\n}").unwrap();
    let wrong = run(&["check", "page.vantic"], at, 2);
    assert!(
        wrong.contains("line   2:23")
            && wrong.contains("(in shell.vantic)")
            && wrong.contains("did you mean `height`?"),
        "{wrong}"
    );
    std::fs::write(at.join("shell.vantic"), "screen shell from \"page.vantic\" {}").unwrap();
    let circle = run(&["check", "page.vantic"], at, 2);
    assert!(
        circle.contains("`page.vantic` is based on itself") && circle.contains("line   1:19"),
        "{circle}"
    );
    // Scaled screens are reported in their units and in those of the display.
    std::fs::write(
        at.join("poster.vantic"),
        "screen poster { design (400, 800), blend 0%; view a { left = 10; top = 0; size = 20 } }",
    )
    .unwrap();
    let units = run(&["place", "poster.vantic", "-d", "800x900"], at, 0);
    assert!(
        units.contains("in units of its design")
            && units.contains("scaled    2 times on 800x900: 400 x 450 of its units"),
        "{units}"
    );
    let turned = run(&["place", "poster.vantic", "-d", "800x600"], at, 0);
    assert!(
        turned.contains("400 x 300 of its units, though it is designed for the other orientation"),
        "{turned}"
    );
    let device = run(&["place", "poster.vantic", "-d", "800x900", "--device"], at, 0);
    assert!(device.contains(" a     20, 0, 40 x 40\n"), "{device}");
    let both = json(&["place", "poster.vantic", "-d", "800x900", "--format", "json"], at, 0);
    assert_eq!(
        (&both["placements"][0]["scale"], &both["placements"][0]["device_frames"]["a"]["left"]),
        (&2.0.into(), &20.0.into())
    );
    let device = json(&["place", "poster.vantic", "-d", "800x900", "--device", "--format", "json"], at, 0);
    let device = &device["placements"][0];
    assert_eq!((&device["frames"]["a"]["left"], &device["device_frames"]), (&20.0.into(), &json!(null)));

    // A display that is rotated keeps its insets; one that has others there takes those.
    std::fs::write(at.join("all.vantic"), "screen all { view a { pin left, right, top, bottom to safe } }")
        .unwrap();
    std::fs::write(
        at.join("own.toml"),
        "[[display]]\nname = \"bridge\"\nsize = [960, 600]\ninsets = [0, 24, 0, 10]\nturned = true\n",
    )
    .unwrap();
    let safe = |arguments: &[&str]| {
        let all = json(&[&["place", "all.vantic", "--format", "json"], arguments].concat(), at, 0);
        let all = all["placements"].as_array().unwrap().clone();
        all.iter().map(|p| p["frames"]["a"].clone()).collect::<Vec<_>>()
    };
    let turned = safe(&["--displays", "own.toml", "-d", "bridge-turned"]);
    assert_eq!(turned, [json!({"left": 24.0, "top": 0.0, "width": 566.0, "height": 960.0})]);
    assert_eq!(safe(&["--displays", "own.toml", "-d", "bridge", "--turn"])[1..], turned);
    let known = safe(&["-d", "handset-large", "-d", "handset-large-turned"]);
    assert_eq!(safe(&["-d", "handset-large", "--turn"]), known);
    assert_eq!(
        safe(&["-d", "handset-large-turned, text 1.3", "--turn"]),
        [known[1].clone(), known[0].clone()]
    );

    // A frame that no rule decides is said to be one.
    std::fs::write(
        at.join("rope.vantic"),
        "screen rope { view a { pin left, right to screen; height = 80 }; view b { below a by 5; left = 3; height = 4 } }",
    )
    .unwrap();
    let open = run(&["place", "rope.vantic", "-d", "300x300"], at, 0);
    assert!(open.contains("underconstrained  a.top, b.top, b.width on 300x300\nvantic check"), "{open}");
    let open = json(&["place", "rope.vantic", "-d", "300x300", "--format", "json"], at, 0);
    assert_eq!(open["placements"][0]["underconstrained"], json!(["a.top", "b.top", "b.width"]));
}

/// Of very many views on very many displays, `place` and `compare` say which displays they left out; the first is never.
#[test]
fn displays_that_are_too_many_to_place_are_told() {
    let folder = tempfile::tempdir().unwrap();
    let rows = "repeat row 1000 { left = 10% of screen.width; top = 0; size = 3; view dot { left = parent.left; top = parent.top; size = 1 } }";
    std::fs::write(
        folder.path().join("loft.vantic"),
        format!("screen loft {{\n{rows}\n{}\n}}", rows.replace("row", "line")),
    )
    .unwrap();
    let names: Vec<String> = (0..90).map(|at| format!("{}x800", 400 + at)).collect();
    let named: Vec<&str> = names.iter().flat_map(|name| ["-d", name]).collect();
    for command in [vec!["place", "loft.vantic"], vec!["compare", "loft.vantic", "loft.vantic"]] {
        let placed = json(&[&command[..], &named, &["--format", "json"]].concat(), folder.path(), 0);
        let left_out: Vec<&str> =
            placed["left_out"].as_array().unwrap().iter().map(|name| name.as_str().unwrap()).collect();
        let done = placed["placements"].as_array().or(placed["compared"].as_array()).unwrap().len();
        assert!(done > 0 && !left_out.is_empty(), "{done}");
        assert_eq!(left_out, names[done..]);
    }
    let expected = [&["place", "loft.vantic", "--expectations"], &named[..]].concat();
    let refused = run(&expected, folder.path(), 2);
    assert!(refused.contains("of 90 displays") && refused.contains("name fewer"), "{refused}");
}

#[test]
fn what_is_wrong_is_underlined_behind_wide_letters() {
    let folder = tempfile::tempdir().unwrap();
    let text = "screen s { view 棚棚 { left = 0; size = полка; e\u{301}te\u{301} = 2 } }";
    std::fs::write(folder.path().join("s.vantic"), text).unwrap();
    let shown = run(&["check", "s.vantic"], folder.path(), 2);
    let lines: Vec<&str> = shown.lines().collect();
    let marked: Vec<usize> = (0..lines.len()).filter(|line| lines[*line].contains('~')).collect();
    // Two columns for each of the wide letters, none for an accent on its own.
    let before = textwrap::core::display_width(lines[marked[0] - 1].split("полка").next().unwrap());
    assert_eq!((lines[marked[0]].find('~'), lines[marked[0]].trim()), (Some(before), "~~~~~"), "{shown}");
    assert_eq!(lines[marked[1]].trim(), "~~~", "{shown}");
}

//! The built binary on random screens with odd options: it ends by itself, with one of its own exit codes, and leaves
//! nothing half written. `VANTIC_COMMANDS=5000 cargo test -p vantic-cli --test all driver::` runs more of them.

use crate::options::{COMMANDS, options};
use proptest::prelude::*;
use std::collections::HashMap;
use std::path::Path;
use std::process::{Command, Stdio};
use std::sync::Mutex;
use vantic_testkit::screens::{Picks, screen_file};

/// How many commands are run by default.
const USUAL: u32 = 60;

/// What an option may be given: usual, odd, and wrong.
fn values(option: &str) -> &'static [&'static str] {
    match option {
        "display" => &[
            "390x844",
            "tablet",
            "1x1",
            "1920x32",
            "32x1920",
            "16:9@720w",
            "tablet, right to left, text 3",
            "0x0",
            "1e9x5",
            "nanx4",
            "phone, menu.open",
            "390x844, keyboard 900",
            "",
        ],
        "displays" => &["own.toml", "random.vantic", "missing.toml", "."],
        "insets" => &["10,20,30,40", "0,0,0,0", "500,500,500,500", "-1,0,0,0", "nan,0,0,0", "1"],
        "text-scale" => &["1.3", "0", "-1", "1,2,3", "1e30", "nan", "0.01", ""],
        "language" => &["fi", "pseudo", "all", "own", "xx", ""],
        "state" => &["menu=open", "menu=all", "menu", "other=open", "=", "menu=open=closed"],
        "keyboard" => &["150", "0", "1e9", "-5", "inf"],
        "scroll" => &["list=120", "list=end", "list=1,2", "list=nan", "head", "list=-40", "list=1e300"],
        "measure" => &["plain", "even", "font"],
        "longer" => &["30", "0", "1e6", "-10", "nan"],
        "format" => &["json", "text", "sarif", "junit"],
        "fix" => &["all", "1a", "1a,2a,3a", "9z", "1a@0000", ""],
        "effort" => &["0", "0.1", "4", "nan", "1001"],
        "pictures" => &["pictures", "random.vantic", "a/b/c"],
        "width" | "height" | "aspect" => {
            &["200..500", "1..2", "319.5..319.6", "5..1", "0..10000000", "nan..1", "-5..5"]
        }
        "text" => &["1..2", "0..1", "0.5..4"],
        "over" => &[
            "keyboard=0..200",
            "density=1..3",
            "top-inset=0..60",
            "left-inset=0..1e9",
            "what=1..2",
            "keyboard",
        ],
        "gap" => &["12", "0", "-3", "nan", "inf", "1e9"],
        "out" => &["out.svg", "out.png", "out.html", "out.gif", "a/out.svg", ".", ""],
        "band" => &["wide", "none", "other"],
        "without" => &["head.tall", "head", "head.*", "head#1", "#", "*"],
        "as" => &["json", "vantic"],
        "bases" => &[".", "missing"],
        _ => &[],
    }
}

/// A command with its arguments; `help` has the options of each command.
fn arguments(picks: &mut Picks<'_>, views: &[String], help: &HashMap<&str, Vec<String>>) -> Vec<String> {
    // Not the tour: it has screens of its own, and takes long.
    let (command, rest) = COMMANDS[picks.of(COMMANDS.len() - 1)];
    let mut all: Vec<String> = command.iter().map(|&word| word.to_owned()).collect();
    for (at, &argument) in rest.iter().enumerate() {
        let view = views[picks.of(views.len())].clone();
        all.push(match (at, argument.contains(".width")) {
            (0, _) => "random.vantic".to_owned(),
            (_, true) => format!(
                "{view}.{}",
                picks.one(&["width", "left", "bottom", "start", "area", "content.height"])
            ),
            _ => view,
        });
    }
    let of = &help[command.join(" ").as_str()];
    if of.iter().any(|option| option == "display") && !picks.rarely(6) {
        all.extend([
            "-d".to_owned(),
            picks.one(&["390x844", "844x390", "200x300, right to left"]).to_owned(),
        ]);
    }
    if of.iter().any(|option| option == "measure") && !picks.rarely(6) {
        all.extend(["--measure".to_owned(), "plain".to_owned()]);
    }
    for _ in 0..picks.of(4) {
        let option = &of[picks.of(of.len())];
        let value = picks.one(values(option));
        all.push(if values(option).is_empty() {
            format!("--{option}")
        } else {
            format!("--{option}={value}")
        });
    }
    if command == ["draw"] && !picks.rarely(4) {
        all.extend(["-o".to_owned(), picks.one(&["drawn.svg", "drawn.png", "drawn.html"]).to_owned()]);
    }
    all
}

/// Why a run is not as it should be.
fn fault(folder: &Path, arguments: &[String]) -> Option<String> {
    let output = Command::new(env!("CARGO_BIN_EXE_vantic"))
        .args(arguments)
        .current_dir(folder)
        .stdin(Stdio::null())
        .output()
        .unwrap();
    let errors = String::from_utf8_lossy(&output.stderr).into_owned();
    // A panic has an exit code of its own, 101; a signal has none.
    let ended = matches!(output.status.code(), Some(0..=2)) && !errors.contains("panicked");
    let says_why = output.status.code() != Some(2) || !errors.trim().is_empty();
    let left: Vec<String> = std::fs::read_dir(folder)
        .unwrap()
        .map(|entry| entry.unwrap().file_name().to_string_lossy().into_owned())
        .filter(|name| name.starts_with(".tmp"))
        .collect();
    (!ended || !says_why || !left.is_empty())
        .then(|| format!("{arguments:?}: {:?}, left {left:?}: {errors}", output.status))
}

#[test]
fn odd_options_on_random_screens_end_well() {
    let help: HashMap<String, Vec<String>> =
        COMMANDS.iter().map(|(command, _)| (command.join(" "), options(command))).collect();
    let help: HashMap<&str, Vec<String>> =
        help.iter().map(|(name, all)| (name.as_str(), all.clone())).collect();
    let asked = std::env::var("VANTIC_COMMANDS").ok().and_then(|n| n.parse().ok());
    let cases = asked.unwrap_or(USUAL);
    let read = Mutex::new(0_u32);
    // A file that fails is printed with its command, so no seeds are kept.
    let config = ProptestConfig {
        cases,
        failure_persistence: None,
        max_shrink_iters: 60,
        ..ProptestConfig::default()
    };
    proptest!(config, |(bytes in prop::collection::vec(any::<u8>(), 400))| {
        let mut picks = Picks::new(&bytes);
        let (text, views) = screen_file(&mut picks);
        let folder = tempfile::tempdir().unwrap();
        std::fs::write(folder.path().join("random.vantic"), &text).unwrap();
        std::fs::write(folder.path().join("own.toml"), "[[display]]\nname = \"booth\"\nsize = [320, 480]\n").unwrap();
        *read.lock().unwrap() += u32::from(vantic::read(&text).is_ok());
        let arguments = arguments(&mut picks, &views, &help);
        let fault = fault(folder.path(), &arguments);
        prop_assert!(fault.is_none(), "{}\n{text}", fault.unwrap_or_default());
    });
    let read = *read.lock().unwrap();
    assert!(read * 2 > cases, "only {read} of {cases} screens could be read");
}

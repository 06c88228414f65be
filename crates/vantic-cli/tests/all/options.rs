//! Every pair of options of every command: what one shows alone it shows beside the other, or the two are
//! refused together. None is silently ignored.

use std::collections::BTreeMap;
use std::path::Path;
use std::process::Command;
use std::sync::Mutex;

/// A screen on which most options make a difference.
const KIOSK: &str = r#"// a ticket kiosk at a funicular
screen kiosk {
    ladder fit > polish
    design (300, 500)
    band wide: screen.width >= 280
    band narrow: screen.width < 280
    state menu: closed, open
    guide grid { columns of 60 }

    view head {
        pin left, right, top to safe
        tall: height = 56
        text title "Summit line" { font 20; start = parent.start + 12; center_y = parent.center_y; end <= parent.end - 8 }
    }
    view list {
        scroll down
        pin left, right to safe
        below head by 8
        bottom = clear.bottom - 120
        content.bottom = rows.bottom
        view rows { top = list.content.top; left = list.content.left; right = list.content.right; height = 900 }
    }
    view pay { control; pin right 16, bottom 16 to safe; width = 120 ~ polish; height = 20 }
    view badge { size = 40; left = pay.left - 41; top = pay.top - 41; rotate 45deg }
    view seal { width = 40; height = 10; right = badge.left - 4; top = badge.top + 30 }
    when menu.open { in head { tall: height = 96 } }
    when wide { in head { tall: height = 72 } }
    language fi { head.title "Huipun rata" }
    claim head.height same
}
"#;

const DISPLAYS: &str = "[[display]]\nname = \"booth\"\nsize = [320, 480]\nturned = true\n";

/// What the words of a command are followed by, so that it runs.
pub(crate) const COMMANDS: [(&[&str], &[&str]); 17] = [
    (&["check"], &["kiosk.vantic"]),
    (&["place"], &["kiosk.vantic"]),
    (&["show", "rules"], &["kiosk.vantic", "head.title"]),
    (&["show", "bands"], &["kiosk.vantic"]),
    (&["show", "neighbours"], &["kiosk.vantic", "badge"]),
    (&["show", "distances"], &["kiosk.vantic", "badge", "pay"]),
    (&["show", "space"], &["kiosk.vantic", "head"]),
    (&["show", "invariants"], &["kiosk.vantic", "badge"]),
    (&["show", "alternatives"], &["kiosk.vantic", "badge"]),
    (&["show", "grouping"], &["kiosk.vantic", "seal", "badge"]),
    (&["why"], &["kiosk.vantic", "head.title.width"]),
    (&["sweep"], &["kiosk.vantic"]),
    (&["draw"], &["kiosk.vantic"]),
    (&["compare"], &["kiosk.vantic"]),
    (&["fmt"], &["kiosk.vantic"]),
    (&["displays"], &[]),
    (&["demo"], &[]),
];

/// What an option is given. A new option needs a line here.
fn sample(command: &str, option: &str) -> Vec<&'static str> {
    let value = match (command, option) {
        (_, "display") => "390x700",
        (_, "displays") => "own.toml",
        (_, "insets") => "10,20,30,40",
        (_, "text-scale") => "1.3",
        (_, "language") => "pseudo",
        (_, "state") => "menu=open",
        (_, "keyboard") => "150",
        (_, "scroll") => "list=120",
        (_, "measure") => "even",
        (_, "longer") => "30",
        (_, "format") => "json",
        ("check", "fix") => "all",
        ("check", "pictures") => "pictures",
        ("sweep", "width") => "200..500",
        ("sweep", "height") => "400..500",
        ("sweep", "aspect") => "250..450",
        ("sweep", "text") => "1..2",
        ("sweep", "over") => "keyboard=0..200",
        ("sweep", "gap") => "12",
        ("sweep", "out") => "sweep.svg",
        ("draw", "out") => "drawn.svg",
        ("demo", "out") => "tour",
        ("compare", "band") => "narrow",
        ("compare", "without") => "head.tall",
        ("fmt", "as") => "json",
        _ => return vec![],
    };
    vec![value]
}

/// What a run shows: its exit code, what it prints, and the files that are there after it.
#[derive(Clone, Debug, PartialEq)]
struct Seen {
    code: i32,
    printed: String,
    files: BTreeMap<String, Vec<u8>>,
}

fn files(folder: &Path, below: &str, all: &mut BTreeMap<String, Vec<u8>>) {
    for entry in std::fs::read_dir(folder).unwrap().map(Result::unwrap) {
        let name = format!("{below}{}", entry.file_name().to_string_lossy());
        match entry.path().is_dir() {
            true => files(&entry.path(), &format!("{name}/"), all),
            false => drop(all.insert(name, std::fs::read(entry.path()).unwrap())),
        }
    }
}

fn seen(arguments: &[String]) -> Seen {
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(folder.path().join("kiosk.vantic"), KIOSK).unwrap();
    std::fs::write(folder.path().join("own.toml"), DISPLAYS).unwrap();
    let output = Command::new(env!("CARGO_BIN_EXE_vantic"))
        .args(arguments)
        .current_dir(folder.path())
        .output()
        .unwrap();
    let printed = String::from_utf8(output.stdout).unwrap() + &String::from_utf8(output.stderr).unwrap();
    assert!(!printed.contains("panicked"), "{arguments:?}: {printed}");
    let mut all = BTreeMap::new();
    files(folder.path(), "", &mut all);
    Seen { code: output.status.code().unwrap(), printed, files: all }
}

/// The long options that the help of a command lists.
pub(crate) fn options(command: &[&str]) -> Vec<String> {
    let arguments: Vec<String> = command.iter().map(|&c| c.to_owned()).chain(["--help".into()]).collect();
    let help = seen(&arguments).printed;
    let option = |line: &str| {
        let line = line.trim_start();
        let line = line.split_once(", ").filter(|(short, _)| short.len() == 2).map_or(line, |(_, long)| long);
        let name = line.strip_prefix("--")?;
        Some(name.split(|c: char| !c.is_ascii_lowercase() && c != '-').next()?.to_owned())
    };
    help.lines()
        .filter(|l| l.starts_with(' '))
        .filter_map(option)
        .filter(|o| o != "help" && o != "version")
        .collect()
}

/// Whether two options may show the same as one of them by their nature.
fn may_be_alike(command: &str, a: &str, b: &str) -> bool {
    let is = |of: &[&str]| of.contains(&a) || of.contains(&b);
    match command {
        // The table is there as soon as something is found; on this screen no fix is there to be applied.
        "check" => is(&["table"]) || is(&["fix"]) && is(&["format"]),
        // Only the heading of the text output names the display, where what is asked does not depend on it.
        "show" => is(&["format"]) && is(&["text-scale", "language", "state", "right-to-left"]),
        // What keeps a coordinate from being more or less reads neither the text of the view nor, here, the
        // insets. The next limit of a width is not found where the end is on the left.
        "why" => {
            is(&["more", "less"]) && is(&["measure", "longer", "insets"])
                || is(&["insets"]) && is(&["right-to-left"])
        }
        _ => false,
    }
}

#[test]
fn every_pair_of_options_is_obeyed_or_refused() {
    let (wrong, next) = (Mutex::new(Vec::new()), Mutex::new(COMMANDS.iter()));
    std::thread::scope(|scope| {
        let (wrong, next) = (&wrong, &next);
        for _ in 0..2 {
            scope.spawn(move || {
                loop {
                    let Some((command, rest)) = next.lock().unwrap().next() else { return };
                    wrong.lock().unwrap().extend(pairs(command, rest));
                }
            });
        }
    });
    let wrong = wrong.into_inner().unwrap();
    assert!(wrong.is_empty(), "{} pairs:\n{}", wrong.len(), wrong.join("\n"));
}

fn pairs(command: &[&str], rest: &[&str]) -> Vec<String> {
    let name = command[0];
    // What the command needs to run at all.
    let needs: &[&str] = match name {
        "draw" => &["out"],
        "compare" => &["without"],
        _ => &[],
    };
    let all = options(command);
    if all.len() < 2 {
        return Vec::new();
    }
    let [has_displays, is_measuring] = ["display", "measure"].map(|o| all.iter().any(|option| option == o));
    let run = |some: &[&str]| {
        let mut arguments: Vec<String> = command.iter().chain(rest).map(|&c| c.to_owned()).collect();
        let mut with: Vec<&str> = some.to_vec();
        with.extend(needs.iter().filter(|n| !some.contains(n)));
        // One display of its own: on the catalogue, some options change little, and some need a size.
        if has_displays {
            arguments.extend(["-d".to_owned(), "320x480".to_owned()]);
        }
        // Quicker than the font.
        if is_measuring && !with.contains(&"measure") {
            arguments.extend(["--measure".to_owned(), "plain".to_owned()]);
        }
        for option in with {
            arguments.push(format!("--{option}"));
            arguments.extend(sample(name, option).iter().map(|&v| v.to_owned()));
            if option == "band" {
                arguments.extend(["--band".to_owned(), "wide".to_owned()]);
            }
        }
        seen(&arguments)
    };
    let alone: Vec<Seen> = all.iter().map(|option| run(&[option])).collect();
    let plain = run(&[]);
    let has_effect: Vec<bool> = alone.iter().map(|seen| *seen != plain).collect();
    let mut wrong = Vec::new();
    for (i, a) in all.iter().enumerate() {
        for (j, b) in all.iter().enumerate().skip(i + 1) {
            let both = run(&[a, b]);
            // What shows alone has to show beside the other as well.
            let is_ignored = has_effect[j] && both == alone[i] || has_effect[i] && both == alone[j];
            let needed = needs.contains(&a.as_str()) || needs.contains(&b.as_str());
            if both.code != 2 && is_ignored && !needed && !may_be_alike(name, a, b) {
                let ignored = if has_effect[j] && both == alone[i] { b } else { a };
                wrong.push(format!("{command:?} --{a} --{b}: --{ignored} is ignored"));
            }
        }
    }
    wrong
}

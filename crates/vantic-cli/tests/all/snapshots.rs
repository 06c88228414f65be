//! What people read: the help of every command, and what each prints on the demo screens. A change of words
//! is seen in review; `INSTA_UPDATE=always cargo test -p vantic-cli --test all snapshots::` writes them
//! again, to be read before they are kept.

use std::path::Path;
use std::process::Command;

/// The words of each run, as on the command line.
const HELP: [&str; 20] = [
    "--help",
    "demo --help",
    "check --help",
    "place --help",
    "show --help",
    "show rules --help",
    "show bands --help",
    "show neighbours --help",
    "show distances --help",
    "show space --help",
    "show invariants --help",
    "show alternatives --help",
    "show grouping --help",
    "why --help",
    "sweep --help",
    "draw --help",
    "compare --help",
    "fmt --help",
    "displays --help",
    "about --help",
];

const ON_THE_DEMO: [&str; 33] = [
    "check departures.vantic",
    "check boarding_pass.vantic",
    "check muster_list.vantic",
    "check quay_kiosk.vantic",
    "check quay_wall.vantic",
    "check sailings.vantic",
    "check booking.vantic --table",
    "check booking.vantic -d handset-small --room",
    "check faults/clash.vantic -d handset-large",
    "check faults/cut_label.vantic",
    "check faults/lost_view.vantic",
    "check faults/missing_rule.vantic",
    "check faults/overlap.vantic",
    "check faults/overlap.vantic --fix all --preview",
    "place departures.vantic -d handset-small -d tablet",
    "place sailings.vantic -d handset-large --scroll list=300",
    "place quay_wall.vantic -d wall",
    "show rules departures.vantic header.title -d handset-small",
    "show bands departures.vantic",
    "show neighbours quay_kiosk.vantic till.pay -d tablet",
    "show distances departures.vantic header.title header.clock",
    "show space departures.vantic board",
    "show invariants departures.vantic header.clock",
    "show alternatives quay_kiosk.vantic till.pay -d tablet",
    "show grouping departures.vantic board.third board.first board.second -d tablet",
    "why departures.vantic board.first.port.end -d 390x844",
    "why departures.vantic board.first.tall -d 844x390",
    "why departures.vantic board.height --more -d 390x844",
    "sweep departures.vantic --width 320..1600",
    "sweep faults/overlap.vantic --width 240..900 --height 400..900",
    "compare faults/overlap.vantic departures.vantic -d handset-small",
    "displays",
    "about overlap",
];

fn printed(arguments: &str) -> String {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    let output = Command::new(env!("CARGO_BIN_EXE_vantic"))
        .args(arguments.split(' '))
        .current_dir(demo)
        .env("COLUMNS", "100")
        .output()
        .unwrap();
    let (out, err) = (String::from_utf8(output.stdout).unwrap(), String::from_utf8(output.stderr).unwrap());
    assert!(err.is_empty(), "{arguments}: {err}");
    assert!(out.lines().all(|line| !line.contains('\u{1b}')), "colour on a pipe: {arguments}");
    format!("exit code {}\n\n{out}", output.status.code().unwrap())
}

fn snapshot(all: &[&str]) {
    for arguments in all {
        let name = arguments.replace(['/', ' ', '.', '-', '='], "_").replace("__", "_");
        insta::with_settings!({ prepend_module_to_snapshot => false, omit_expression => true, description => *arguments }, {
            insta::assert_snapshot!(name, printed(arguments));
        });
    }
}

#[test]
fn help() {
    snapshot(&HELP);
}

#[test]
fn output_on_the_demo_screens() {
    snapshot(&ON_THE_DEMO);
}

#[test]
fn errors_of_a_screen_file() {
    let folder = tempfile::tempdir().unwrap();
    let text = "screen quay {\n    view header { left = = 3; top = 4 }\n    view board { pin lft to screen }\n    view header { top = 5 }\n    view notice { widht = 4; height = 40% }\n}\n";
    std::fs::write(folder.path().join("quay.vantic"), text).unwrap();
    let output = Command::new(env!("CARGO_BIN_EXE_vantic"))
        .args(["check", "quay.vantic"])
        .current_dir(folder.path())
        .output()
        .unwrap();
    assert_eq!(output.status.code(), Some(2));
    insta::with_settings!({ prepend_module_to_snapshot => false, omit_expression => true }, {
        insta::assert_snapshot!("errors_of_a_screen_file", String::from_utf8(output.stderr).unwrap());
    });
}

//! Turns the screen files of the application into Rust.

use std::process::ExitCode;
use vantic::finding::Severity;
use vantic_build::Screens;

fn main() -> ExitCode {
    let own = ["player", "stop", "toast"].map(|name| format!("screens/{name}.vantic"));
    let own = own.into_iter().fold(Screens::new(), Screens::file);
    // For the tests: a screen with all that there is in the language, and screens of other people.
    let others = ["everything", "tally"].map(|name| format!("tests/{name}.vantic"));
    let demo = ["departures", "quay_kiosk", "quay_wall"].map(|name| format!("../../demo/{name}.vantic"));
    let cases =
        ["boarding", "booking", "content", "gauges", "nursery", "observatory", "painted", "positions"]
            .map(|name| format!("../../cases/screens/{name}.vantic"));
    let others = others.into_iter().chain(demo).chain(cases).fold(Screens::new(), Screens::file);
    match own.without_findings(Severity::Warning).generate() {
        ExitCode::SUCCESS => others.generate(),
        failed => failed,
    }
}

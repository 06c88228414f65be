//! `PROPTEST_CASES` counts for every property.

use std::process::Command;

/// What the test below prints in a process with this environment.
fn printed(cases: Option<&str>) -> String {
    let mut command = Command::new(std::env::current_exe().unwrap());
    command.args(["--exact", "the_number_of_cases", "--nocapture"]).env_remove("PROPTEST_CASES");
    if let Some(cases) = cases {
        command.env("PROPTEST_CASES", cases);
    }
    String::from_utf8(command.output().unwrap().stdout).unwrap()
}

#[test]
fn the_number_of_cases() {
    let config = vantic_testkit::cases(24);
    println!("{} cases", config.cases);
    assert!(config.failure_persistence.is_some());
}

#[test]
fn the_environment_counts_more_than_a_tests_own_number() {
    assert!(printed(None).contains("24 cases"));
    assert!(printed(Some("7")).contains("7 cases"));
}

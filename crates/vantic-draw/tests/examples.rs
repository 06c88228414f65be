//! The examples of the drawing crate.

#[path = "../../../tests/support/example.rs"]
mod example;
mod window;

#[test]
fn the_host_program_is_handed_every_frame_on_both_displays() {
    let (printed, promised) = example::run("host_program");
    assert!(promised.len() == 1 && printed.lines().any(|l| l == promised[0]), "{promised:?}\n{printed}");
    for display in ["340x620", "620x340"] {
        let told = printed.lines().filter(|l| l.starts_with(&format!("{display}: move "))).count();
        assert!(told >= 20, "{display}: {told} views were moved\n{printed}");
    }
}

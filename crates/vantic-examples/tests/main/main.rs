//! The tests of an application: its screens come out as expected, and its examples print what they say.

#[path = "../../../../tests/support/example.rs"]
mod example;
mod screens;
mod typed;

#[test]
fn examples_print_what_they_say() {
    for name in ["popup", "toast", "long_list", "typed_names"] {
        let (printed, promised) = example::run(name);
        assert!(promised.len() > 3, "{name}");
        assert_eq!(printed.lines().collect::<Vec<_>>(), promised, "{name}");
    }
}

//! The examples of the library.

use crate::example;

#[test]
fn the_screen_built_in_rust_prints_what_it_says() {
    let (printed, promised) = example::run("built_in_rust");
    assert_eq!(promised.len(), 5);
    assert_eq!(printed.lines().collect::<Vec<_>>(), promised);
}

#[test]
fn the_examples_of_what_lives_print_what_they_say() {
    for name in ["split_pane", "living_list"] {
        let (printed, promised) = example::run(name);
        assert_eq!(promised.len(), 5);
        assert_eq!(printed.lines().collect::<Vec<_>>(), promised);
    }
}

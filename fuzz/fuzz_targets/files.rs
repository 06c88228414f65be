//! The files beside a screen file: what it is based on, its words, its expectations, your own displays.

#![no_main]

use libfuzzer_sys::fuzz_target;
use shared::SCREEN;
use vantic::display::{Displays, Matrix};
use vantic::files::{Assembled, to_expectations, with_expectations, with_words};
use vantic::prelude::*;

mod shared;

fuzz_target!(|bytes: &[u8]| {
    let Some((&kind, rest)) = bytes.split_first() else { return };
    let Ok(text) = std::str::from_utf8(rest) else { return };
    match kind % 5 {
        0 => {
            // Part of it is the file, the rest what it is based on, by any name.
            let (file, base) = text.split_once('\0').unwrap_or((text, SCREEN));
            let files = Assembled::new("page.vantic", file, |_, called| match called.len() % 4 {
                0 => Err("no such file".to_owned()),
                1 => Ok(("page.vantic".to_owned(), file.to_owned())),
                _ => Ok((called.to_owned(), base.to_owned())),
            });
            if let Err(errors) = files.read() {
                for error in errors.errors {
                    let _ = files.place(&error.span).line();
                }
            }
        }
        1 => drop(with_words(the_screen(), text)),
        2 => {
            let Ok(screen) = with_expectations(the_screen(), text) else { return };
            let plan = Plan::new(screen).expect("expectations change no rule");
            let placed = plan.place(&shared::displays()[0], &PlainText).expect("it can be placed");
            let again = to_expectations(&placed, plan.screen());
            with_expectations(the_screen(), &again).expect("what is written can be read");
        }
        3 => {
            let Ok(displays) = Displays::from_toml(text) else { return };
            let all = displays.all();
            let _ = Matrix::of(all).all_of(&the_screen()).displays(&the_screen());
        }
        _ => {
            let _ = vantic::json::Form::from_json(text).map(|form| form.to_text());
        }
    }
});

fn the_screen() -> vantic::Screen {
    vantic::read(SCREEN).expect("it can be read").screen
}

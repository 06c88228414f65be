//! `vantic displays`.

use crate::args::{DisplaysArgs, Format};
use crate::output::{fit_terminal, lines, print, print_json, table};
use crate::session::known;
use crate::verdict::Verdict;
use anyhow::Result;
use vantic::display::{Displays, Insets};
use vantic::words::number;

/// How to use your own displays.
const OWN: &str = r#"
Sizes and insets are in logical pixels. Without --display, `check`, `place` and `draw` use all of these.
For a display of your own give its size, and its insets if it has any:

    vantic check FILE --display 390x844 --insets 0,44,0,20 --turn

or its aspect and one side:

    vantic check FILE --display 16:9@720w

For many, write them to a file and name it with --displays:

    [[display]]
    name = "bridge"
    size = [960, 600]         # upright: width, height
    insets = [0, 24, 0, 0]    # left, top, right, bottom
    turned = true             # or its insets there
    density = 2
    touch = true
    keyboard = [260, 200]     # its height while typing: upright, turned

Behind the name, after commas, stands what else is tried: "tablet, right to left, text 1.3", "tablet, keyboard 376", "tablet, scroll page 240".
"#;

pub(crate) fn run(args: &DisplaysArgs) -> Result<Verdict> {
    if args.schema {
        print(&Displays::schema())?;
        return Ok(Verdict::Clean);
    }
    let known = known(args.own.as_deref())?;
    if args.format == Format::Json {
        print_json(&serde_json::json!({ "displays": known.all() }))?;
        return Ok(Verdict::Clean);
    }
    let mut rows = table(&[
        "display",
        "width",
        "height",
        "insets l t r b",
        "density",
        "in pixels",
        "touch",
        "keyboard",
        "stands for",
    ]);
    fit_terminal(&mut rows);
    for class in known.classes() {
        for (i, display) in class.orientations().into_iter().enumerate() {
            let Insets { left, top, right, bottom } = display.insets();
            rows.add_row([
                display.name().to_owned(),
                number(display.width()),
                number(display.height()),
                [left, top, right, bottom].map(number).join(" "),
                number(display.density()),
                format!(
                    "{} x {}",
                    number(display.width() * display.density()),
                    number(display.height() * display.density())
                ),
                if display.is_touch() { "yes" } else { "no" }.to_owned(),
                if display.own_keyboard() > 0.0 { number(display.own_keyboard()) } else { "-".to_owned() },
                if i == 0 { class.about.clone().into_owned() } else { "rotated".to_owned() },
            ]);
        }
    }
    print(&(lines(&rows, 0) + OWN))?;
    Ok(Verdict::Clean)
}

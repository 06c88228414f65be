//! `vantic displays`.

use crate::args::{DisplaysArgs, Format};
use crate::output::{fit_terminal, lines, print, print_json, table};
use crate::session::known;
use crate::verdict::Verdict;
use anyhow::Result;
use vantic::display::{Displays, Insets};
use vantic::words::number;

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
                if i == 0 { class.about.clone().into_owned() } else { "rotated".to_owned() },
            ]);
        }
    }
    let own = "\nSizes and insets are in logical pixels. Without --display, `check`, `place` and `draw` use \
    all of these.\n\
               For a display of your own give its size, and its insets if it has any:\n\
               \n    vantic check FILE --display 390x844 --insets 0,44,0,20 --turn\n\
               \nor its aspect and one side:\n\
               \n    vantic check FILE --display 16:9@720w\n\
               \nFor many, write them to a file and name it with --displays:\n\
               \n    [[display]]\n    name = \"bridge\"\n    size = [960, 600]         # upright: width, \
               height\n    insets = [0, 24, 0, 0]    # left, top, right, bottom\n    turned = true          \
                  # or its insets there\n    density = 2\n    touch = true\n\
               \nBehind the name, after commas, stands what else is tried: \
               \"tablet, right to left, text 1.3\".\n";
    print(&(lines(&rows, 0) + own))?;
    Ok(Verdict::Clean)
}

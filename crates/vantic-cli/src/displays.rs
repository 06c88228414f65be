//! `vantic displays`.

use crate::Verdict;
use crate::args::{DisplaysArgs, Format};
use crate::output::{lines, print, print_json, table};
use anyhow::Result;
use vantic::{CATALOGUE, DisplayClass, Insets, number};

pub(crate) fn run(args: &DisplaysArgs) -> Result<Verdict> {
    if args.format == Format::Json {
        let all: Vec<_> = CATALOGUE.iter().flat_map(DisplayClass::orientations).collect();
        print_json(&serde_json::json!({ "displays": all }))?;
        return Ok(Verdict::Clean);
    }
    let mut rows =
        table(&["display", "width", "height", "insets l t r b", "density", "touch", "what it stands for"]);
    for class in CATALOGUE {
        for (i, display) in class.orientations().into_iter().enumerate() {
            let Insets { left, top, right, bottom } = display.insets();
            rows.add_row([
                display.name().to_owned(),
                number(display.width()),
                number(display.height()),
                [left, top, right, bottom].map(number).join(" "),
                number(display.density()),
                if display.is_touch() { "yes" } else { "no" }.to_owned(),
                if i == 0 { class.about.to_owned() } else { "the same, turned".to_owned() },
            ]);
        }
    }
    let own = "\nSizes and insets are in logical pixels. Without --display, `check`, `place` and `draw` use all of these.\n\
               For a display of your own give its size, and its insets if it has any:\n\
               \n    vantic check FILE --display 390x844 --insets 0,44,0,20 --turn\n";
    print(&(lines(&rows, 0) + own))?;
    Ok(Verdict::Clean)
}

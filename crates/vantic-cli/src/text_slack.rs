//! `vantic check --room`: how much longer the words of each text could get before something breaks.

use crate::args::CheckArgs;
use crate::output::{BOLD, FAINT, YELLOW, lines, table};
use crate::progress::stage;
use crate::session::{Loaded, Texts};
use anyhow::Result;
use vantic::check::{Report, TextSlack, text_slack};
use vantic::words::number;

pub(crate) fn text(loaded: &Loaded, args: &CheckArgs, report: &Report) -> Result<String> {
    let texts = Texts::new(&args.texts);
    let screen = loaded.plan.screen();
    stage("space for longer words");
    let rooms = text_slack(&loaded.plan, report, &texts, args.effort.effort)?;
    let of = screen.views().filter(|(_, view)| view.text().is_some()).count();
    let mut rows = table(&["text", "fits words", "then"]);
    for TextSlack { view, longer, breaks } in &rooms {
        let (holds, then) = match breaks {
            None => (format!("more than {}% longer", number(100.0 * longer)), "-".to_owned()),
            Some(breaks) => (format!("{}% longer", number((100.0 * longer).floor())), breaks.clone()),
        };
        rows.add_row([screen.path(*view), holds, then]);
    }
    let left_out = match rooms.len() < of {
        true => format!(
            "{YELLOW}left out:{YELLOW:#} looked at {} of {of} texts; --effort 5 looks further, and one display (-d) is less \
             work\n",
            rooms.len()
        ),
        false => String::new(),
    };
    Ok(format!(
        "\n{BOLD}space for longer words{BOLD:#} {FAINT}each text alone, everything else \
         unchanged{FAINT:#}\n{}{left_out}",
        lines(&rows, 0)
    ))
}

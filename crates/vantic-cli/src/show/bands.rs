//! `vantic show bands`: the bands, where each comes from and is active, and what it changes.

use crate::args::{Format, ShowScreen};
use crate::output::{BOLD, count, print, print_json};
use crate::session::load;
use crate::show::one_display::placed;
use crate::verdict::Verdict;
use anyhow::Result;

/// A band, for machines.
#[derive(serde::Serialize)]
struct Banded {
    band: String,
    condition: String,
    /// The file of the base that declares it.
    #[serde(skip_serializing_if = "Option::is_none")]
    from: Option<String>,
    adopted: bool,
    displays: Vec<String>,
    changes: Vec<String>,
}

/// The bands: where each comes from, where it holds, and what it changes.
pub(crate) fn run(args: &ShowScreen) -> Result<Verdict> {
    let loaded = load(&args.screen)?;
    let screen = loaded.plan.screen();
    let placements = placed(&loaded, args)?;
    let all: Vec<Banded> = (0..screen.bands().len())
        .filter_map(|index| {
            let (id, band) = screen.bands_with_ids().nth(index)?;
            let holds = placements.iter().filter(|p| band.condition().holds(p.canvas()));
            let (from, adopted) = loaded.band_from(id);
            Some(Banded {
                band: band.name().to_owned(),
                condition: band.condition().to_string(),
                from,
                adopted,
                displays: holds.map(|p| p.display.name().to_owned()).collect(),
                changes: screen.changes_in(id),
            })
        })
        .collect();
    if args.format == Format::Json {
        print_json(&all)?;
        return Ok(Verdict::Clean);
    }
    let of = count(placements.len(), "display");
    let mut out = format!("{BOLD}{}{BOLD:#}: {} on {of}\n", screen.name(), count(all.len(), "band"));
    for band in &all {
        let from = match (&band.from, band.adopted) {
            (None, _) => String::new(),
            (Some(file), true) => format!(", from {file}"),
            (Some(file), false) => format!(", from {file}, not adopted"),
        };
        let on = match band.displays.as_slice() {
            [] => "on no display".to_owned(),
            all if all.len() == placements.len() => "on every display".to_owned(),
            few if few.len() <= 4 => format!("on {}", few.join("; ")),
            many => format!("on {} of them", many.len()),
        };
        out += &format!("\n{BOLD}{}{BOLD:#}: {}{from}; active {on}\n", band.band, band.condition);
        if band.changes.is_empty() {
            out += "    changes nothing\n";
        }
        band.changes.iter().for_each(|change| out += &format!("    {change}\n"));
    }
    print(&out)?;
    Ok(Verdict::Clean)
}

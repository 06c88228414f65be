//! `vantic sweep`: a whole range of displays, and where it starts to break.

use crate::args::{Format, SweepArgs};
use crate::output::{BOLD, FAINT, GREEN, RED, YELLOW, fit_terminal, lines, print, print_json, table};
use crate::picture::{Kind, save};
use crate::progress::{stage_of, step};
use crate::session::{Texts, load, one_of};
use crate::verdict::Verdict;
use anyhow::{Result, anyhow, bail};
use serde_json::{Value, json};
use vantic::display::{Display, DisplayQuantity};
use vantic::finding::Severity;
use vantic::model::Screen;
use vantic::sweep::{
    Event, EventKind, GridRange, ProblemSpan, Proof, Range, Sweep, SweepOptions, sweep_grid_with, sweep_with,
};
use vantic::words::{millionths, number};
use vantic_draw::{draw_map, draw_tracks};

/// What is examined where no range is named.
const USUAL: (f64, f64) = (320.0, 1600.0);

/// Of how many steps the bar is.
const STEPS: usize = 10_000;

/// How many heights of a rectangle are looked at.
const LINES: usize = 61;

pub(crate) fn run(args: &SweepArgs) -> Result<Verdict> {
    let loaded = load(&args.screen)?;
    let screen = loaded.plan.screen();
    let display = one_of(&args.displays, screen)?;
    let texts = Texts::new(&args.texts);
    let kind = args.out.as_deref().map(Kind::of).transpose()?;
    stage_of("{percent} % of the range", STEPS);
    let step = |part: f64| step((part * STEPS as f64).round() as usize);
    let how = SweepOptions { progress: Some(&step), effort: args.effort.effort };
    if let (Some(widths), Some(heights)) = (args.width, args.height) {
        let range = GridRange { widths, heights, lines: LINES, gap: args.gap };
        let rows = sweep_grid_with(&loaded.plan, &display, range, &texts, how)?;
        if let (Some(out), Some(kind)) = (&args.out, kind) {
            save(&draw_map(screen, widths, heights, &rows), kind, out)?;
        }
        return map(args, screen, (widths, heights), &rows);
    }
    let (along, (from, to)) = range_of(args, screen)?;
    let range = Range { along, from, to, gap: args.gap };
    let swept = sweep_with(&loaded.plan, &display, range, &texts, how)?;
    if let (Some(out), Some(kind)) = (&args.out, kind) {
        save(&draw_tracks(screen, &swept), kind, out)?;
    }
    if args.format == Format::Json {
        print_json(&machine(screen, &display, &swept))?;
    } else {
        print(&text(screen, &display, &swept))?;
    }
    Ok(if is_unexamined(&swept) { Verdict::Findings } else { verdict(&swept.problems) })
}

/// Whether the work did not suffice for the first display, as `check` would report as an error.
fn is_unexamined(swept: &Sweep) -> bool {
    swept.left_out_to.is_some() && swept.range.to <= swept.range.from
}

fn verdict<'a>(problems: impl IntoIterator<Item = &'a ProblemSpan>) -> Verdict {
    match problems.into_iter().any(|t| t.severity == Severity::Error) {
        true => Verdict::Findings,
        false => Verdict::Clean,
    }
}

/// What changes, from how much and up to how much.
fn range_of(args: &SweepArgs, screen: &Screen) -> Result<(DisplayQuantity, (f64, f64))> {
    if let Some(over) = &args.over {
        let (name, range) = match over.split_once('=') {
            Some((name, range)) => {
                let range = SweepArgs::range_of(range).map_err(|why| anyhow!("--over {over}: {why}"))?;
                (name, Some(range))
            }
            None => (over.as_str(), None),
        };
        if let Some((from, to)) = screen.parameter(name).and_then(|of| of.range()) {
            let range = range.unwrap_or((from, to));
            if range.0 < from || range.1 > to {
                bail!("--over {over}: `{name}` is set within {from} and {to}");
            }
            return Ok((DisplayQuantity::Parameter(name.into()), range));
        }
        let Some((_, along)) = DisplayQuantity::SPELLINGS.iter().find(|(spelling, _)| *spelling == name)
        else {
            let known = DisplayQuantity::SPELLINGS.iter().map(|(name, _)| *name);
            let names: Vec<&str> = known.chain(screen.parameters().map(|of| of.name())).collect();
            bail!("--over {over}: `{name}` cannot be swept; choose one of {}", names.join(", "));
        };
        let Some(range) = range else {
            bail!("--over {over}: write a quantity and its range, such as `keyboard=0..300`");
        };
        return Ok((along.clone(), range));
    }
    Ok(match (args.width, args.height, args.aspect, args.text) {
        (_, Some(heights), _, _) => (DisplayQuantity::Height, heights),
        (_, _, Some(widths), _) => (DisplayQuantity::Aspect, widths),
        (_, _, _, Some(scales)) => (DisplayQuantity::TextScale, scales),
        (widths, ..) => (DisplayQuantity::Width, widths.unwrap_or(USUAL)),
    })
}

/// How the range is reported: `width 320 to 1600 at a height of 640`.
fn heading(display: &Display, range: &Range) -> String {
    let Range { along, from, to, .. } = range;
    let span = format!("{} {} to {}", along.name(), number(*from), number(*to));
    let (width, height) = (number(display.width()), number(display.height()));
    match along {
        DisplayQuantity::Width => format!("{span}, height {height}"),
        DisplayQuantity::Height => format!("{span}, width {width}"),
        DisplayQuantity::Aspect => format!("{span}, {width} : {height}"),
        _ => format!("{span}, on {}", display.name()),
    }
}

fn sure(proof: Proof) -> &'static str {
    match proof {
        Proof::Exact => "proven: breakpoints exact, and everything moves linearly between them",
        Proof::Searched => "breakpoints exact; min/max choices sampled between them",
        Proof::Sampled => {
            "sampled at 256 points, not proven: some values follow a curve; breakpoints found by bisection"
        }
    }
}

fn colour(event: &Event) -> crate::shown::Paint {
    match (event.kind, event.severity) {
        (EventKind::Breaks, Some(Severity::Error)) => RED,
        (EventKind::Breaks, _) => YELLOW,
        (EventKind::Resolved, _) => GREEN,
        _ => FAINT,
    }
}

/// The lines of the table of events, with the kind of each in its colour.
fn coloured(lines: &str, range: &Range, events: &[Event]) -> String {
    let mut out = String::new();
    let mut left = events.iter().peekable();
    for line in lines.lines() {
        let begins = |event: &&&Event| line.trim_start().starts_with(&range.along.said(event.at));
        match left.next_if(|event| begins(&event)) {
            Some(event) => {
                let (kind, style) = (event.kind.name(), colour(event));
                out += &line.replacen(kind, &format!("{style}{kind}{style:#}"), 1);
            }
            None => out += line,
        }
        out.push('\n');
    }
    out
}

fn text(screen: &Screen, display: &Display, swept: &Sweep) -> String {
    let range = &swept.range;
    let mut out = format!("{BOLD}{}{BOLD:#}: {}\n\n", screen.name(), heading(display, range));
    if let Some(to) = swept.left_out_to.filter(|_| is_unexamined(swept)) {
        let [from, to] = [range.from, to].map(number);
        out += &format!(
            "{YELLOW}left out:{YELLOW:#} nothing of {from} to {to} was examined; --effort 5 goes further\n"
        );
        return out;
    }
    let events = &swept.events;
    let mut rows = table(&["at", "", "what changes"]);
    fit_terminal(&mut rows);
    for event in events {
        let leaps = match event.leaps {
            Some((1, by)) => format!("; one view jumps by {}", number(by)),
            Some((views, by)) => format!("; {views} views jump, by {} at most", number(by)),
            None => String::new(),
        };
        rows.add_row([
            range.along.said(event.at),
            event.kind.name().to_owned(),
            format!("{}{leaps}", event.text),
        ]);
    }
    if events.is_empty() {
        out += "nothing changes in this range\n";
    } else {
        out += &coloured(&lines(&rows, 0), range, events);
    }
    out.push('\n');
    for trouble in &swept.problems {
        let style = if trouble.severity == Severity::Error { RED } else { YELLOW };
        let (from, to) = (number(trouble.from), number(trouble.to));
        out += &format!(
            "{style}{} {}{style:#}  from {from} to {to}: {}\n",
            trouble.severity.name(),
            trouble.code.name(),
            trouble.message
        );
    }
    for (band, what) in &swept.bands {
        out += &format!("{FAINT}suggested band:{FAINT:#} `{band}` for {what}\n");
    }
    for said in swept.proven() {
        out += &format!("{GREEN}OK:{GREEN:#}  {said}\n");
    }
    if let Some(to) = swept.left_out_to {
        let [from, end, to] = [range.from, range.to, to].map(number);
        out += &format!(
            "{YELLOW}left out:{YELLOW:#} of {from} to {to}, only {from} to {end} was examined; --effort 5 goes further, and a \
             shorter range is less work\n"
        );
    }
    out + &format!("{FAINT}{}{FAINT:#}\n", sure(swept.proof))
}

fn proof_name(proof: Proof) -> &'static str {
    match proof {
        Proof::Exact => "exact",
        Proof::Searched => "searched",
        Proof::Sampled => "sampled",
    }
}

fn machine(screen: &Screen, display: &Display, swept: &Sweep) -> Value {
    let Range { ref along, from, to, gap } = swept.range;
    let events: Vec<Value> = swept
        .events
        .iter()
        .map(|e| {
            json!({
                "at": millionths(e.at), "kind": e.kind, "severity": e.severity, "views": e.views,
                "rule": e.rule, "text": e.text,
                "leaps": e.leaps.map(|(views, by)| json!({ "views": views, "by": by })),
            })
        })
        .collect();
    let bands: Vec<Value> =
        swept.bands.iter().map(|(band, what)| json!({ "write": band, "for": what })).collect();
    json!({
        "screen": screen.name(), "display": display.name(), "along": along.name(),
        "from": from, "to": to, "gap": gap, "left_out_to": swept.left_out_to,
        "proof": proof_name(swept.proof), "events": events, "problems": swept.problems, "bands": bands,
        "proven": swept.proven(),
    })
}

/// The rectangle of widths and heights: the heights at which something is wrong, and from which width to
/// which.
fn map(
    args: &SweepArgs,
    screen: &Screen,
    ((left, right), (top, bottom)): ((f64, f64), (f64, f64)),
    rows: &[(f64, Sweep)],
) -> Result<Verdict> {
    let problems = || rows.iter().flat_map(|(_, swept)| &swept.problems);
    let whole = rows.iter().filter(|(_, swept)| swept.left_out_to.is_none()).count();
    if args.format == Format::Json {
        let rows: Vec<Value> =
            rows.iter().map(|(height, s)| json!({ "height": height, "problems": s.problems, "left_out_to": s.left_out_to })).collect();
        print_json(&json!({
            "screen": screen.name(), "widths": [left, right], "heights": [top, bottom], "rows": rows,
        }))?;
        return Ok(verdict(problems()));
    }
    let [left, right, top, bottom] = [left, right, top, bottom].map(number);
    let mut out =
        format!("{BOLD}{}{BOLD:#}: widths {left} to {right}, heights {top} to {bottom}\n\n", screen.name());
    let mut spans: Vec<(&ProblemSpan, f64, f64, f64, f64)> = Vec::new();
    for (height, swept) in rows {
        for t in &swept.problems {
            match spans.iter_mut().find(|(of, ..)| of.code == t.code && of.views == t.views) {
                Some((of, from, to, _, low)) => {
                    (*from, *to, *low) = (from.min(t.from), to.max(t.to), *height);
                    if t.amount > of.amount {
                        *of = t;
                    }
                }
                None => spans.push((t, t.from, t.to, *height, *height)),
            }
        }
    }
    let mut rows = table(&["what", "widths", "heights", "worst case"]);
    fit_terminal(&mut rows);
    for (t, from, to, high, low) in &spans {
        let widths = format!("{} to {}", number(*from), number(*to));
        let heights = format!("{} to {}", number(*high), number(*low));
        rows.add_row([
            format!("{} {}", t.severity.name(), t.code.name()),
            widths,
            heights,
            t.message.clone(),
        ]);
    }
    out += &if spans.is_empty() { format!("{GREEN}clean{GREEN:#}\n") } else { lines(&rows, 0) };
    out += &match whole {
        LINES => format!("\n{FAINT}{LINES} heights examined, each over the whole range of widths{FAINT:#}\n"),
        _ => format!(
            "\n{YELLOW}left out:{YELLOW:#} of {LINES} heights, {whole} were examined over the whole range of widths; --effort 5 goes \
             further\n"
        ),
    };
    print(&out)?;
    Ok(verdict(problems()))
}

//! `vantic compare`: what moved between two versions, displays or bands; and `place --distance`.

use crate::args::{CompareArgs, Format};
use crate::output::{BOLD, FAINT, GREEN, count, fit_terminal, lines, print, print_json, table};
use crate::rule_removal::less;
use crate::session::{Defaults, Loaded, SharedWork, Texts, displays, displays_left_out, load, load_path};
use crate::verdict::Verdict;
use anyhow::{Result, anyhow, bail};
use serde_json::{Value, json};
use vantic::display::Display;
use vantic::geometry::Frame;
use vantic::infer::{Difference, compare};
use vantic::model::{RuleRef, Screen, Tested};

/// Two placements that are compared.
struct Pair<'a> {
    before: (&'a Loaded, Display),
    after: (&'a Loaded, Display),
}

pub(crate) fn run(args: &CompareArgs) -> Result<Verdict> {
    let first = load(&args.screen)?;
    let less = args.without.as_deref().map(|what| less(args, &first, what)).transpose()?;
    let (second, output, wrote) = match less {
        Some(less) => (Some(less.loaded), less.output, less.wrote),
        None => (
            args.other.as_deref().map(|path| load_path(path, &args.screen.bases)).transpose()?,
            Default::default(),
            String::new(),
        ),
    };
    let texts = Texts::new(&args.texts);
    let pairs = pairs(args, &first, second.as_ref())?;
    let mut all: Vec<(String, Vec<Difference>)> = Vec::new();
    let after = pairs.first().map_or(&first, |pair| pair.after.0);
    let mut work = SharedWork::new();
    for Pair { before, after } in &pairs {
        let views = before.0.plan.screen().views().count();
        let found = || Ok(compare((&before.0.plan, &before.1), (&after.0.plan, &after.1), &texts)?);
        let Some(found) = work.run(views, found)? else { break };
        let on = match before.1.name() == after.1.name() {
            true => before.1.name().to_owned(),
            false => format!("{} to {}", before.1.name(), after.1.name()),
        };
        all.push((on, found));
    }
    match args.format {
        Format::Json => {
            let left_out = pairs[all.len()..].iter().map(|pair| pair.after.1.name()).collect();
            print_json(&machine(after, &all, output.1, left_out))?;
        }
        // What is not written has no lines yet.
        Format::Text => {
            let compared = text(after, &all, args.without.is_none() || args.write);
            print(&(output.0 + &compared + &displays_left_out(all.len(), pairs.len()) + &wrote))?;
        }
    }
    Ok(Verdict::Clean)
}

/// What is compared with what: a file with another on each display, or one with itself on two displays or in
/// two bands.
fn pairs<'a>(args: &CompareArgs, first: &'a Loaded, second: Option<&'a Loaded>) -> Result<Vec<Pair<'a>>> {
    let screen = first.plan.screen();
    if let Some(second) = second {
        if !args.band.is_empty() {
            bail!("--band compares two bands of one file; name one file");
        }
        let all = displays(&args.displays, screen, Defaults::First)?;
        return Ok(all
            .into_iter()
            .map(|d| Pair { before: (first, d.clone()), after: (second, d) })
            .collect());
    }
    let two = match args.band.as_slice() {
        [] => displays(&args.displays, screen, Defaults::First)?,
        [a, b] => in_bands(args, screen, a, b)?.to_vec(),
        _ => bail!("name two bands: --band narrow --band wide"),
    };
    match <[Display; 2]>::try_from(two) {
        Ok([a, b]) => Ok(vec![Pair { before: (first, a), after: (first, b) }]),
        Err(_) => bail!(
            "name another file, two displays (`-d 390x844 -d tablet`) or two bands (`--band a --band b`)"
        ),
    }
}

/// Two displays, one in each of two bands (`none` for no band): of those that the options name, in their
/// states and languages, and, where none is in a band, one of those with another size, at the border of the
/// band.
fn in_bands(args: &CompareArgs, screen: &Screen, a: &str, b: &str) -> Result<[Display; 2]> {
    let band = |name: &str| screen.bands().iter().find(|b| b.name() == name);
    for name in [a, b] {
        if band(name).is_none() && name != "none" {
            let names: Vec<&str> = screen.bands().iter().map(|b| b.name()).collect();
            bail!(
                "there is no band `{name}` in {}; there are {}, and `none`",
                screen.name(),
                names.join(", ")
            );
        }
    }
    let holds = |display: &Display, name: &str| match band(name) {
        Some(band) => band.condition().holds(display),
        None => !screen.bands().iter().any(|b| b.condition().holds(display)),
    };
    let named = displays(&args.displays, screen, Defaults::All)?;
    let at_borders = named.iter().flat_map(|display| at_borders(screen, display));
    let all: Vec<Display> = named.iter().cloned().chain(at_borders).collect();
    let in_band = |name: &str, other: &str, like: Option<&Display>| {
        let alone = |d: &&Display| holds(d, name) && !holds(d, other);
        // As like the other one as can be.
        let likeness = |d: &&Display| like.is_none_or(|l| (l.width(), l.height()) == (d.width(), d.height()));
        let mut found = all.iter().filter(alone);
        let near = all.iter().filter(alone).find(likeness);
        near.or_else(|| found.next()).or_else(|| all.iter().find(|d| holds(d, name))).cloned()
    };
    let none = |name: &str| {
        anyhow!("no display is in `{name}`: name two displays instead, such as `-d 390x844 -d 1200x800`")
    };
    let first = in_band(a, b, None).ok_or_else(|| none(a))?;
    let second = in_band(b, a, Some(&first)).ok_or_else(|| none(b))?;
    Ok([first, second])
}

/// A display with the sizes at which bands begin and end.
fn at_borders(screen: &Screen, display: &Display) -> Vec<Display> {
    let parts = screen.bands().iter().flat_map(|band| band.condition().parts());
    let borders = parts.filter_map(|part| part.borders());
    let at = |(tested, numbers): (Tested<'_>, Vec<f64>)| {
        let near = numbers.into_iter().flat_map(|number| [number, number - 1.0, number + 1.0]);
        near.filter_map(|amount| tested.set(display, amount)).collect::<Vec<_>>()
    };
    borders.flat_map(at).collect()
}

fn rules(loaded: &Loaded, because: &[RuleRef], with_lines: bool) -> String {
    let screen = loaded.plan.screen();
    let one = |rule: &RuleRef| {
        let line = loaded.line(*rule).filter(|_| with_lines);
        let line = line.map_or(String::new(), |(line, _)| format!(" (line {line})"));
        format!("{}{line}", rule.name(screen))
    };
    because.iter().map(one).collect::<Vec<_>>().join(", ")
}

fn text(after: &Loaded, all: &[(String, Vec<Difference>)], with_lines: bool) -> String {
    let name = after.plan.screen().name();
    let moved = all.iter().filter(|(_, found)| !found.is_empty()).count();
    if moved == 0 {
        return format!(
            "{GREEN}no frame changed{GREEN:#} {BOLD}{name}{BOLD:#} on {}\n",
            count(all.len(), "display")
        );
    }
    let mut out = String::new();
    for (on, found) in all.iter().filter(|(_, found)| !found.is_empty()) {
        out += &format!("{BOLD}{name}{BOLD:#} on {on}\n");
        let mut rows = table(&["view", "what", "was", "is", "caused by"]);
        fit_terminal(&mut rows);
        let along = found.iter().filter(|d| d.along).count();
        for d in found.iter().filter(|d| !d.along) {
            let frame = |f: Option<Frame>| f.map_or("-".to_owned(), |f| f.to_string());
            let because =
                d.because.as_ref().map_or("not looked up".to_owned(), |r| rules(after, r, with_lines));
            rows.add_row([d.view.clone(), d.words(), frame(d.was), frame(d.is), because]);
        }
        out += &lines(&rows, 1);
        if along > 0 {
            out += &format!(
                "  {FAINT}{} moved with {}{FAINT:#}\n",
                count(along, "view"),
                if along == 1 { "it" } else { "them" }
            );
        }
        out.push('\n');
    }
    out + &format!("frames changed on {} of {}\n", moved, count(all.len(), "display"))
}

fn machine(after: &Loaded, all: &[(String, Vec<Difference>)], without: Value, left_out: Vec<&str>) -> Value {
    let screen = after.plan.screen();
    let one = |d: &Difference| {
        let because = d.because.as_ref().map(|all| all.iter().map(|r| r.name(screen)).collect::<Vec<_>>());
        json!({
            "view": d.view, "what": d.words(), "was": d.was, "is": d.is, "along": d.along,
            "because": because,
        })
    };
    let on = |(on, found): &(String, Vec<Difference>)| {
        let differences: Vec<Value> = found.iter().map(one).collect();
        json!({ "on": on, "differences": differences })
    };
    let mut machine = json!({ "screen": screen.name(), "compared": all.iter().map(on).collect::<Vec<_>>() });
    if !left_out.is_empty() {
        machine["left_out"] = json!(left_out);
    }
    if !without.is_null() {
        machine["without"] = without;
    }
    machine
}

//! Small screens with one ordinary mistake each (`cases/mistakes`), and the repairs that were written down for
//! them before: how many are found and named, and what is offered. `docs/mistakes.md` shows the table.

use serde::Deserialize;
use std::collections::BTreeMap;
use std::fmt::Write as _;
use std::path::Path;
use vantic::check::{CheckOptions, Report, check_as};
use vantic::display::{Display, Displays, Matrix};
use vantic::files::Assembled;
use vantic::finding::{Finding, Fix, Severity, Sureness};
use vantic::fix::{Fixes, edited};
use vantic::geometry::{Direction, Frame};
use vantic::plan::Plan;
use vantic::resolve::Source;
use vantic_draw::FontText;

const FILES: [&str; 13] = [
    "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve",
    "thirteen",
];

/// The mistakes after these were written once the weights had been set with those before in view.
const BATCHES: [usize; 10] = [84, 128, 172, 192, 216, 240, 264, 270, 294, 318];

#[derive(Deserialize)]
struct Mistakes {
    mistake: Vec<Mistake>,
}

#[derive(Deserialize)]
struct Mistake {
    name: String,
    code: String,
    views: Vec<String>,
    #[serde(default)]
    text_scales: Vec<f64>,
    #[serde(default)]
    on: Vec<String>,
    #[serde(default = "half")]
    within: f64,
    screen: String,
    good: Vec<Vec<String>>,
}

fn half() -> f64 {
    0.5
}

struct Checked {
    files: Assembled,
    source: Source,
    plan: Plan,
    report: Report,
}

impl Mistake {
    /// The screen with a repair.
    fn repaired(&self, edits: &[String]) -> String {
        edits.iter().fold(self.screen.clone(), |text, edit| {
            let (old, new) = edit.split_once("==>").unwrap();
            let (old, new) = (old.strip_suffix(' ').unwrap_or(old), new.strip_prefix(' ').unwrap_or(new));
            assert_eq!(text.matches(old).count(), 1, "{}: {old:?}", self.name);
            text.replacen(old, new, 1)
        })
    }

    /// On the displays of the catalogue, in each state and language.
    fn checked(&self, text: &str, texts: &FontText) -> Checked {
        let files = Assembled::alone("screen.vantic", text);
        let source = files.read().unwrap_or_else(|e| panic!("{}: {e}\n{text}", self.name));
        let plan = Plan::new(source.screen.clone()).unwrap();
        let catalogue = Displays::default();
        let displays: Vec<Display> = match self.on.is_empty() {
            true => catalogue.all(),
            false => self.on.iter().map(|name| catalogue.find(name, plan.screen()).unwrap()).collect(),
        };
        let matrix = Matrix::of(displays).text_scales(self.text_scales.clone());
        let matrix = matrix.all_states(plan.screen()).all_languages(plan.screen());
        let displays = matrix.displays(plan.screen()).unwrap();
        let report = check_as(&plan, &displays, texts, CheckOptions::default()).unwrap();
        Checked { files, source, plan, report }
    }
}

/// Frames by path, on displays that are not those of the check too.
type Frames = Vec<BTreeMap<String, Frame>>;

fn probes() -> Vec<Display> {
    let sizes =
        [(320.0, 568.0), (390.0, 844.0), (640.0, 360.0), (844.0, 390.0), (820.0, 1180.0), (1280.0, 800.0)];
    let insets = vantic::display::Insets { left: 0.0, top: 30.0, right: 0.0, bottom: 20.0 };
    let each = sizes.into_iter().flat_map(|(width, height)| {
        [Direction::LeftToRight, Direction::RightToLeft].map(|direction| {
            let display = Display::new(width, height).unwrap().with_direction(direction);
            display.with_insets(insets).unwrap()
        })
    });
    each.collect()
}

fn frames(text: &str, texts: &FontText) -> Option<Frames> {
    let plan = Plan::new(Assembled::alone("screen.vantic", text).read().ok()?.screen).ok()?;
    let one = |display: &Display| {
        let placed = plan.place(display, texts).ok()?;
        let views = plan.screen().views().filter(|(view, _)| placed.is_painted(*view));
        Some(views.filter_map(|(view, _)| Some((plan.screen().path(view), placed.frame(view)?))).collect())
    };
    probes().iter().map(one).collect()
}

/// Whether each view is in the same place in both; it may stand in another view that only one of them has.
fn alike(a: &Frames, b: &Frames, within: f64) -> bool {
    let near = |x: &Frame, y: &Frame| {
        let off = [x.left - y.left, x.top - y.top, x.right() - y.right(), x.bottom() - y.bottom()];
        off.iter().all(|by| by.abs() <= within)
    };
    let within = |inner: &str, path: &str| path.strip_suffix(inner).is_some_and(|rest| rest.ends_with('.'));
    let twin = |path: &str, of: &BTreeMap<String, Frame>| {
        let moved = || of.iter().find(|(other, _)| within(path, other) || within(other, path));
        of.get(path).or_else(|| moved().map(|(_, frame)| frame)).copied()
    };
    std::iter::zip(a, b)
        .all(|(a, b)| a.iter().all(|(path, frame)| twin(path, b).is_some_and(|other| near(frame, &other))))
}

/// What a file says, whatever the order of statements and of their clauses; where a distance may be another one,
/// whatever the numbers.
fn said(text: &str, within: f64) -> Vec<Vec<String>> {
    let is_any = |c: char| within > 1.0 && c.is_ascii_digit();
    let text = text.replace(is_any, "");
    let statements = text.split([';', '{', '}', '\n']).map(str::trim).filter(|s| !s.is_empty());
    let mut all: Vec<Vec<String>> = statements
        .map(|statement| {
            let mut clauses: Vec<String> = statement.split(", ").map(str::to_owned).collect();
            clauses.sort_unstable();
            clauses
        })
        .collect();
    all.sort_unstable();
    all
}

/// A view that the fix leaves without a size, or off the display, where it was not before.
fn ruined(before: &Frames, after: &Frames) -> Option<String> {
    let is_lost = |frame: &Frame, display: &Display| {
        let whole = Frame { left: 0.0, top: 0.0, width: display.width(), height: display.height() };
        frame.width.min(frame.height) < 1.0 || frame.shared(&whole).is_none()
    };
    let all = std::iter::zip(probes(), std::iter::zip(before, after));
    all.into_iter().find_map(|(display, (before, after))| {
        let lost = after.iter().find(|(path, frame)| {
            is_lost(frame, &display) && before.get(*path).is_some_and(|was| !is_lost(was, &display))
        });
        lost.map(|(path, _)| path.clone())
    })
}

#[derive(Clone, Copy, PartialEq)]
enum Verdict {
    Accepted,
    Neutral,
    Harmful,
}

/// What one would say of a fix: a repair that was written down, or one with the same frames.
fn judged(mistake: &Mistake, fix: &Fix, texts: &FontText) -> Verdict {
    let text = edited(&mistake.screen, &fix.edits).unwrap();
    let (Some(before), Some(after)) = (frames(&mistake.screen, texts), frames(&text, texts)) else {
        return Verdict::Harmful;
    };
    let is_good = mistake.good.iter().any(|edits| {
        let repaired = frames(&mistake.repaired(edits), texts).unwrap();
        // A repair that moves nothing (a word that says what is meant) is told by what is written.
        match alike(&repaired, &before, 0.5) {
            true => said(&mistake.repaired(edits), mistake.within) == said(&text, mistake.within),
            false => alike(&repaired, &after, mistake.within),
        }
    });
    match (is_good, ruined(&before, &after)) {
        (true, _) => Verdict::Accepted,
        (false, Some(_)) => Verdict::Harmful,
        (false, None) => Verdict::Neutral,
    }
}

/// Found, named, first accepted, any accepted, first harmful, any harmful.
type Counts = [usize; 6];

/// How sure the first fix is said to be, where there is one.
type First = Option<Sureness>;

fn outcome(mistake: &Mistake, texts: &FontText) -> (Counts, First, String) {
    let mut checked = mistake.checked(&mistake.screen, texts);
    let (map, plan, how) = (&checked.source.map, &checked.plan, CheckOptions::default());
    Fixes { files: &checked.files, map, plan, measure: texts, how, beside: &Some }
        .find_all(&mut checked.report);
    let screen = checked.plan.screen();
    let is_it = |f: &&Finding| f.code.name() == mistake.code && f.accepted.is_none();
    let names = |f: &Finding| {
        let paths: Vec<String> = f.each().flat_map(|one| one.paths(screen)).collect();
        let message = f.message(screen);
        mistake.views.iter().all(|view| {
            paths.iter().any(|path| *path == *view || path.starts_with(&format!("{view}.")))
                || message.contains(&format!("`{view}"))
        })
    };
    let found: Vec<&Finding> = checked.report.findings.iter().filter(is_it).collect();
    let named = found.iter().find(|f| names(f)).copied();
    let about = named.or(found.first().copied());
    // A finding that the fix of another one solves has that.
    let fixes = about.map_or(&[][..], |about| match &about.fixed_by {
        Some(name) => {
            let of = checked.report.findings.iter().find(|f| f.fixes.iter().any(|fix| fix.name == *name));
            of.map_or(&[][..], |f| &f.fixes)
        }
        None => &about.fixes,
    });
    let verdicts: Vec<Verdict> = fixes.iter().map(|fix| judged(mistake, fix, texts)).collect();
    let counts = [
        !found.is_empty(),
        named.is_some(),
        verdicts.first() == Some(&Verdict::Accepted),
        verdicts.contains(&Verdict::Accepted),
        verdicts.first() == Some(&Verdict::Harmful),
        verdicts.contains(&Verdict::Harmful),
    ];
    let mark = |v: &Verdict| match v {
        Verdict::Accepted => "taken",
        Verdict::Neutral => "not taken",
        Verdict::Harmful => "harmful",
    };
    let mut said = String::new();
    if found.is_empty() {
        let other: Vec<_> = checked.report.findings.iter().filter(|f| f.severity != Severity::Note).collect();
        let _ = write!(
            said,
            "not found ({})",
            other.iter().map(|f| f.message(screen)).collect::<Vec<_>>().join("; ")
        );
    } else if fixes.is_empty() {
        said.push_str("nothing offered");
    }
    if !found.is_empty() && named.is_none() {
        said.push_str("not named. ");
    }
    for (fix, verdict) in std::iter::zip(fixes, &verdicts) {
        let _ = write!(said, "{} ({}): {}. ", mark(verdict), fix.sureness.name(), fix.text);
    }
    (counts.map(usize::from), fixes.first().map(|fix| fix.sureness), said)
}

#[test]
fn ordinary_mistakes_are_found_and_the_first_fix_is_one_that_one_would_take() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../cases/mistakes");
    let mistakes: Vec<Mistake> = FILES
        .iter()
        .flat_map(|name| {
            let text = std::fs::read_to_string(folder.join(format!("{name}.toml"))).unwrap();
            toml::from_str::<Mistakes>(&text).unwrap().mistake
        })
        .collect();
    assert!(mistakes.len() >= 80);
    let texts = FontText::new();
    let outcomes: Vec<(Counts, First, String)> = std::thread::scope(|scope| {
        let half = mistakes.len() / 2;
        let (one, two) = mistakes.split_at(half);
        let run = |some: &[Mistake]| some.iter().map(|m| outcome(m, &texts)).collect::<Vec<_>>();
        let other = scope.spawn(move || run(two));
        let mut all = run(one);
        all.extend(other.join().unwrap());
        all
    });
    let mut sums = [[0; 6]; 2 * (BATCHES.len() + 1)];
    let mut sizes = [0; 2 * (BATCHES.len() + 1)];
    let mut misses = String::new();
    let mut by_sureness = BTreeMap::new();
    for (number, (mistake, (counts, first, said))) in (1..).zip(std::iter::zip(&mistakes, outcomes)) {
        let group = number % 2 + 2 * BATCHES.iter().filter(|before| number > **before).count();
        sizes[group] += 1;
        std::iter::zip(&mut sums[group], counts).for_each(|(sum, n)| *sum += n);
        let [_, named, first_taken, ..] = counts;
        if let Some(first) = first {
            let (taken, all) = by_sureness.entry(first).or_insert((0, 0));
            *taken += first_taken;
            *all += 1;
        }
        if named * first_taken == 0 {
            let _ = writeln!(misses, "- {number} {}: {}", mistake.name.replace('_', " "), said.trim_end());
        }
    }
    let groups = (0..sizes.len()).map(|group| {
        let batch = group / 2;
        let first = batch.checked_sub(1).map_or(1, |before| BATCHES[before] + 1);
        let last = BATCHES.get(batch).copied().unwrap_or(mistakes.len());
        format!("{}, {first} to {last}", ["even", "odd"][group % 2])
    });
    let rows = groups.zip(std::iter::zip(sums, sizes)).map(|(name, (counts, size))| {
        let counts: Vec<String> = counts.iter().map(usize::to_string).collect();
        format!("| {name} | {size} | {} |\n", counts.join(" | "))
    });
    let sure = by_sureness
        .iter()
        .map(|(first, (taken, all))| format!("| {} | {all} | {taken} |\n", Sureness::name(*first)));
    let table = format!(
        "| half | mistakes | found | named | first taken | any taken | first harmful | any harmful |\n\
         |---|---|---|---|---|---|---|---|\n{}\n\
         | the first fix is said to be | offered | taken |\n|---|---|---|\n{}\n{misses}",
        rows.collect::<String>(),
        sure.collect::<String>()
    );
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/mistakes.md");
    let document = std::fs::read_to_string(&path).unwrap();
    let (head, _) = document.split_once("| half |").unwrap();
    if std::env::var_os("VANTIC_WRITE_DIAGNOSIS").is_some() {
        std::fs::write(&path, format!("{head}{table}")).unwrap();
    }
    let document = std::fs::read_to_string(&path).unwrap();
    assert!(document.ends_with(&table), "docs/mistakes.md differs from\n{table}");
    let [found, named, first, _, harmful, any_harmful] =
        std::array::from_fn(|at| sums.iter().map(|counts: &Counts| counts[at]).sum::<usize>());
    let all = mistakes.len();
    assert!(found * 100 >= all * 99 && named * 100 >= all * 95, "{found} found, {named} named of {all}");
    assert!(
        first * 100 >= all * 60 && harmful + any_harmful == 0,
        "{first} taken, {harmful} harmful of {all}"
    );
}

//! Screen files and displays, as they are named on the command line.

use crate::args::{DisplayArgs, Measurer, ScreenFile, TextArgs};
use crate::files::read_file;
use crate::output::YELLOW;
use crate::progress::stage;
use crate::shown::Shown as _;
use crate::source_errors::{RenderedErrors, show};
use anyhow::{Context, Result, anyhow, bail};
use std::path::{Path, PathBuf};
use vantic::check::{CHECK_WORK, CheckOptions, Report};
use vantic::display::{Display, DisplayQuantity, Displays, Insets, Matrix, TURNED};
use vantic::drawing::{Drawing, ScreenDrawing};
use vantic::drift::Drift;
use vantic::files::{Assembled, InFile, with_expectations, with_words};
use vantic::finding::{Edit, Finding, Location};
use vantic::fix::{Fixes, Redrawn, follow_drawing, redrawn, without};
use vantic::geometry::Direction;
use vantic::json::Form;
use vantic::limits::MAX_NUMBER;
use vantic::model::{BandId, RuleId, RuleRef, Screen, Scroll, ViewId};
use vantic::plan::Plan;
use vantic::resolve::{SourceMap, read_bytes};
use vantic::structure::{Restructured, Structure, StructureError};
use vantic::syntax::{SourceError, SourceErrors};
use vantic::text::{EvenText, LongerText, Measure, PlainText, TextRequest, TextSize};
use vantic::words::free_name;
use vantic::work;
use vantic_draw::FontText;

/// A screen file that has been read and compiled.
pub(crate) struct Loaded {
    pub(crate) plan: Plan,
    map: SourceMap,
    files: Assembled,
    pub(crate) paths: Paths,
    beside: SidecarFiles,
}

/// No number that somebody writes has more digits than this behind its point.
const MOST_DIGITS: usize = 6;

impl Loaded {
    /// Says of findings which parts they are about, and where those are placed.
    pub(crate) fn name_parts(&self, findings: &mut [Finding]) {
        for finding in findings {
            finding.placed = self.map.parts_of(self.plan.screen(), finding);
        }
    }

    /// Finds fixes of what a check found, and puts them into its report.
    pub(crate) fn add_fixes(
        &self,
        report: &mut Report,
        measure: &(dyn Measure + Sync),
        how: CheckOptions<'_>,
    ) {
        let beside = |screen: Screen| self.beside.added_to(screen).ok();
        let (files, map, plan) = (&self.files, &self.map, &self.plan);
        Fixes { files, map, plan, measure, how, beside: &beside }.find_all(report);
    }

    /// An edit of the structure, with frames compared on these displays.
    pub(crate) fn restructured(
        &self,
        displays: &[Display],
        measure: &(dyn Measure + Sync),
        make: &dyn Fn(&Structure<'_>) -> Result<Restructured, StructureError>,
    ) -> Result<Restructured> {
        let beside = |screen: Screen| self.beside.added_to(screen).ok();
        let structure = Structure::new(&self.files, displays, measure, &beside)?;
        Ok(make(&structure)?)
    }

    /// How constants of its rules change so that they give a drawing.
    pub(crate) fn follow_drawing(
        &self,
        drawing: &ScreenDrawing,
        measure: &dyn Measure,
        only: Option<&[ViewId]>,
    ) -> Result<Redrawn> {
        Ok(follow_drawing((&self.files, &self.map, &self.plan), drawing, measure, only)?)
    }

    /// The edits by which a drawing in the file, counted from 0, has views where the rules place them.
    pub(crate) fn redrawn(&self, drawing: usize, drift: &Drift, only: Option<&[ViewId]>) -> Vec<Edit> {
        redrawn((&self.files, &self.map), drawing, drift, only)
    }

    /// The same screen held against drawings too.
    pub(crate) fn with_drawings(self, drawings: Vec<Drawing>, displays: Displays) -> Result<Loaded> {
        if drawings.is_empty() {
            return Ok(self);
        }
        load_with(self.files, self.paths, SidecarFiles { drawings, displays, ..self.beside })
    }

    /// The texts of the files, by name, the screen's own first.
    pub(crate) fn texts(&self) -> Vec<(String, String)> {
        let named = self.files.names().zip(self.files.texts());
        named.map(|(name, text)| (name.to_owned(), text.to_owned())).collect()
    }

    /// The display of a finding: one that was checked, or a size that a claim came to.
    pub(crate) fn display_named(&self, name: &str, report: &Report) -> Result<Display> {
        let known = report.placements.iter().map(|p| &p.display).find(|d| d.name() == name);
        match known {
            Some(display) => Ok(display.clone()),
            None => Ok(Displays::default().find(name, self.plan.screen())?),
        }
    }

    /// A short checksum of its files (CRC-32), the same on every machine and in every release: it tells
    /// whether they have changed since they were checked.
    pub(crate) fn fingerprint(&self) -> String {
        format!("{:04x}", crc32fast::hash(self.files.text().as_bytes()) & 0xffff)
    }

    /// The same screen with other texts in its files.
    pub(crate) fn with_texts(&self, texts: &[(String, String)]) -> Result<Loaded> {
        let of = |name: &str| texts.iter().find(|(of, _)| of == name).map_or("", |(_, text)| text);
        let mut names = self.files.names().map(str::to_owned);
        let first = names.next().unwrap_or_default();
        let text = of(&first).to_owned();
        let files = Assembled::new(first, text, |_, _| {
            let name = names.next().ok_or("no such base")?;
            let text = of(&name).to_owned();
            Ok((name, text))
        });
        load_with(files, self.paths.clone(), self.beside.clone())
    }

    /// The name of the file of a base in which a place is; `None` for the screen's own file.
    fn base(&self, place: &InFile<'_>) -> Option<String> {
        self.files.names().skip(1).find(|name| *name == place.name).map(str::to_owned)
    }

    /// The file of the base that declares a band, and whether the screen's own file can use it.
    pub(crate) fn band_from(&self, band: BandId) -> (Option<String>, bool) {
        let from = self.map.band(band).and_then(|span| self.base(&self.files.place(&span)));
        (from, self.map.is_adopted(band))
    }

    /// The line on which a rule stands, and the file of the base that it stands in.
    pub(crate) fn line(&self, rule: RuleRef) -> Option<(usize, Option<String>)> {
        let span = self.map.rule_ref(rule)?;
        let place = self.files.place(&span);
        Some((place.line(), self.base(&place)))
    }

    /// Where a rule stands in the files, as one text.
    pub(crate) fn line_span(&self, rule: RuleId) -> Option<(usize, usize)> {
        self.map.rule(rule).map(|span| (span.start, span.end))
    }

    /// The texts of the files without some rules.
    pub(crate) fn without(&self, rules: &[RuleId]) -> Vec<(String, String)> {
        without(&self.files, &self.map, rules)
    }

    /// A rule as it reads, with its level: one of its relations, or as it is written where that has numbers
    /// that nobody wrote, or is no relation.
    pub(crate) fn rule_text(&self, rule: RuleRef) -> String {
        let screen = self.plan.screen();
        let level = rule.level(screen).map_or(String::new(), |l| format!(" ~ {l}"));
        let RuleRef::Written { rule: id, .. } = rule else { return screen.sentence(rule) + &level };
        let text = rule.text(screen).unwrap_or_default();
        let is_worked_out =
            text.split(|c: char| !c.is_ascii_digit()).any(|digits| digits.len() > MOST_DIGITS);
        let span = self.map.rule(id).filter(|span| {
            let place = self.files.place(span);
            let written = &place.text[place.span];
            is_worked_out || !written.contains(['=', '<', '>']) && !written.contains("pin ")
        });
        match span {
            Some(span) => {
                let place = self.files.place(&span);
                place.text[place.span].split_whitespace().collect::<Vec<_>>().join(" ")
            }
            None => text + &level,
        }
    }

    /// The line of another place that a finding is about, and what stands there; `None` for what is not in
    /// the file.
    pub(crate) fn spot(&self, spot: Location) -> Option<(usize, String)> {
        let screen = self.plan.screen();
        let place = self.files.place(&self.map.location(spot)?);
        let what = match spot {
            Location::View(view) => screen.path(view),
            Location::Band(band) => {
                let of = screen.bands().get(band.index())?;
                format!("band {}: {}", of.name(), of.condition())
            }
            Location::Leftover(_) => {
                place.text[place.span.clone()].split_whitespace().collect::<Vec<_>>().join(" ")
            }
            Location::Language(index) => format!("language {}", screen.languages().get(index)?.name()),
            Location::Drawing(index, view) => {
                let drawing = format!("drawing \"{}\"", screen.drawings().get(index)?.on);
                view.map_or(drawing.clone(), |view| format!("{drawing}, {}", screen.path(view)))
            }
            Location::Claim(index) => screen.claim_text(screen.claims().get(index)?),
            Location::Expectation(index) => format!("expect on \"{}\"", screen.expectations().get(index)?.on),
        };
        let of = self.base(&place).map_or_else(String::new, |base| format!(" (in {base})"));
        Some((place.line(), what + &of))
    }
}

/// Whether a file holds the JSON form of a screen.
pub(crate) fn is_json(path: &Path) -> bool {
    path.extension().is_some_and(|e| e.eq_ignore_ascii_case("json"))
}

/// A screen file as text: the JSON form written out in the canonical layout.
pub(crate) fn text_of_json(path: &Path, bytes: &[u8]) -> Result<String> {
    let shown = path.shown();
    let json = std::str::from_utf8(bytes).with_context(|| format!("{shown} is not a text file"))?;
    let form = Form::from_json(json).with_context(|| format!("{shown} is not the JSON form of a screen"))?;
    let help = "`vantic fmt --schema` prints what it may hold";
    form.to_text().with_context(|| format!("{shown} is not the JSON form of a screen; {help}"))
}

/// The files of a screen: what they are called in messages, and where they are.
#[derive(Clone, Default)]
pub(crate) struct Paths(Vec<(String, PathBuf)>);

impl Paths {
    /// What a file is called: as its path reads, and different from all others.
    fn name(&mut self, path: &Path, ending: &str) -> String {
        let name = free_name(&(path.shown() + ending), |name| self.0.iter().any(|(known, _)| known == name));
        self.0.push((name.clone(), path.to_owned()));
        name
    }

    /// Where the file of this name is.
    pub(crate) fn path(&self, name: &str) -> PathBuf {
        self.0.iter().find(|(known, _)| known == name).map_or_else(|| name.into(), |(_, path)| path.clone())
    }
}

/// Reads and compiles a screen file.
pub(crate) fn load(of: &ScreenFile) -> Result<Loaded> {
    load_path(&of.file, &of.bases)
}

/// Reads and compiles the screen file of this path, with bases in its folder and in others.
pub(crate) fn load_path(path: &Path, others: &[PathBuf]) -> Result<Loaded> {
    let bytes = read_file(path)?;
    let beside = SidecarFiles::of(path)?;
    let mut paths = Paths::default();
    let (name, text) = match is_json(path) {
        true => (paths.name(path, JSON), text_of_json(path, &bytes)?),
        false => match String::from_utf8(bytes) {
            Ok(text) => (paths.name(path, ""), text),
            Err(error) => return Err(not_text(&path.shown(), error.as_bytes()).into()),
        },
    };
    let own = path.parent().unwrap_or(Path::new(""));
    let folders = std::iter::once(own).chain(others.iter().map(PathBuf::as_path));
    let folders: Vec<PathBuf> = folders.filter_map(|folder| canonical(folder).ok()).collect();
    // By what each file is, so that one that is met again is known.
    let mut known = vec![(canonical(path).ok(), name.clone())];
    let files = Assembled::new(name, text, |from, called| {
        let path = paths.path(from).parent().unwrap_or(Path::new("")).join(called);
        let is = canonical(&path).ok();
        if let Some((_, name)) = known.iter().find(|(of, _)| is.is_some() && *of == is) {
            return Ok((name.clone(), String::new()));
        }
        if is.as_ref().is_some_and(|is| !folders.iter().any(|folder| is.starts_with(folder))) {
            let folder = path.parent().unwrap_or(Path::new("")).shown();
            return Err(format!(
                "{} is outside of the folder of the screen file; `--bases {folder}` allows it",
                path.shown()
            ));
        }
        let (ending, text) = base(&path).map_err(|error| format!("{error:#}"))?;
        let name = paths.name(&path, ending);
        known.push((is, name.clone()));
        Ok((name, text))
    });
    load_with(files, paths, beside)
}

/// What is put behind the name of a file that is read as another form.
const JSON: &str = " as a screen file";

/// Where a path leads; an empty one is the folder that the tool is run in.
fn canonical(path: &Path) -> std::io::Result<PathBuf> {
    std::fs::canonicalize(if path.as_os_str().is_empty() { Path::new(".") } else { path })
}

/// A screen file that another is based on, and what is put behind its name.
fn base(path: &Path) -> Result<(&'static str, String)> {
    let bytes = read_file(path)?;
    if is_json(path) {
        return Ok((JSON, text_of_json(path, &bytes)?));
    }
    let text = String::from_utf8(bytes).map_err(|error| {
        let good = error.utf8_error().valid_up_to();
        let line = 1 + error.as_bytes()[..good].iter().filter(|byte| **byte == b'\n').count();
        anyhow!("{} is not a text file: line {line} is not UTF-8", path.shown())
    })?;
    Ok(("", text))
}

/// What is wrong with bytes that are no text.
fn not_text(name: &str, bytes: &[u8]) -> RenderedErrors {
    let errors = read_bytes(bytes).err().unwrap_or(SourceErrors::new(Vec::new(), ""));
    show(&Assembled::alone(name, ""), &errors)
}

/// What stands beside a screen file: `quay.words.toml` and `quay.expect.toml` beside `quay.vantic`.
#[derive(Clone, Default)]
struct SidecarFiles {
    words: Option<(PathBuf, String)>,
    expectations: Option<(PathBuf, String)>,
    /// The drawings that the options name, and the displays that these are on.
    drawings: Vec<Drawing>,
    displays: Displays,
}

impl SidecarFiles {
    fn of(path: &Path) -> Result<Self> {
        let one = |ending: &str| -> Result<Option<(PathBuf, String)>> {
            let path = path.with_extension(ending);
            if !path.is_file() {
                return Ok(None);
            }
            let shown = path.shown();
            let text = String::from_utf8(read_file(&path)?);
            Ok(Some((path, text.with_context(|| format!("{shown} is not a text file"))?)))
        };
        Ok(Self { words: one("words.toml")?, expectations: one("expect.toml")?, ..Self::default() })
    }

    fn added_to(&self, mut screen: Screen) -> Result<Screen> {
        if let Some((path, text)) = &self.words {
            screen = with_words(screen, text).with_context(|| path.shown())?;
        }
        if let Some((path, text)) = &self.expectations {
            screen = with_expectations(screen, text).with_context(|| path.shown())?;
        }
        for drawing in &self.drawings {
            screen = drawing.added_to(screen, &self.displays)?;
        }
        Ok(screen)
    }
}

/// Reads and compiles a screen file that is at hand.
pub(crate) fn load_text(name: &str, text: &str) -> Result<Loaded> {
    load_with(Assembled::alone(name, text), Paths::default(), SidecarFiles::default())
}

fn load_with(files: Assembled, paths: Paths, beside: SidecarFiles) -> Result<Loaded> {
    let source = files.read().map_err(|errors| show(&files, &errors))?;
    let plan = match Plan::new(beside.added_to(source.screen)?) {
        Ok(plan) => plan,
        Err(error) => {
            // Shown at the rule that it is about, like any mistake in the file.
            let span = error.rule().and_then(|r| source.map.rule(r)).unwrap_or(0..0);
            let hidden = error.hidden_view().and_then(|view| source.map.hidden(view));
            let related = hidden.map(|at| (at, "this hides it".to_owned()));
            // Read once more, since the plan has taken the screen, and ids are of one screen only.
            let again = files.read().ok();
            let help = again.and_then(|source| {
                let error = Plan::new(source.screen.clone()).err()?;
                vantic::fix::instead_of_hidden(&files, &source, &error)
            });
            let error = SourceError { span, message: error.to_string(), help, related };
            return Err(show(&files, &SourceErrors::new(vec![error], files.text())).into());
        }
    };
    Ok(Loaded { plan, map: source.map, files, paths, beside })
}

/// The view of a path that was named on the command line.
pub(crate) fn view_of(screen: &Screen, path: &str) -> Result<ViewId> {
    let Some(view) = screen.find(path) else {
        let help = screen.nearest_path(path).map_or_else(
            || "`vantic place FILE` lists the views".to_owned(),
            |near| format!("did you mean `{near}`?"),
        );
        bail!("there is no view `{path}` in {}; {help}", screen.name());
    };
    Ok(view)
}

/// What measures texts, as the options say.
pub(crate) struct Texts {
    of: Box<dyn Measure + Sync>,
    factor: f64,
}

impl Texts {
    pub(crate) fn new(args: &TextArgs) -> Self {
        let of: Box<dyn Measure + Sync> = match args.measure {
            Measurer::Font => Box::new(FontText::new()),
            Measurer::Plain => Box::new(PlainText),
            Measurer::Even => Box::new(EvenText),
        };
        Self { of, factor: 1.0 + args.longer / 100.0 }
    }
}

impl Measure for Texts {
    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        LongerText { of: &*self.of, factor: self.factor }.measure(text)
    }
}

/// What is tried of a screen where the options do not say.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Defaults {
    /// Its own words, and the first alternative of each state.
    First,
    /// Every language, and every alternative.
    All,
}

/// A file with displays of your own, or the catalogue.
pub(crate) fn known(own: Option<&Path>) -> Result<Displays> {
    let Some(path) = own else { return Ok(Displays::default()) };
    let shown = path.shown();
    let text = String::from_utf8(read_file(path)?).with_context(|| format!("{shown} is not a text file"))?;
    Displays::from_toml(&text).with_context(|| format!("{shown} is not a file of displays"))
}

/// The displays that the options name, in every combination with what else they name.
pub(crate) fn displays(args: &DisplayArgs, screen: &Screen, unsaid: Defaults) -> Result<Vec<Display>> {
    displays_of(&known(args.own.as_deref())?, args, screen, unsaid)
}

/// The one display that the options name; without any, the first of the catalogue.
pub(crate) fn one_of(args: &DisplayArgs, screen: &Screen) -> Result<Display> {
    let mut all = displays(args, screen, Defaults::First)?;
    if all.is_empty() || all.len() > 1 && !args.displays.is_empty() {
        bail!("name one display, such as `--display 390x844`: this names {}", all.len());
    }
    Ok(all.swap_remove(0))
}

/// The same, where the user's file has been read.
pub(crate) fn displays_of(
    known: &Displays,
    args: &DisplayArgs,
    screen: &Screen,
    unsaid: Defaults,
) -> Result<Vec<Display>> {
    let parameters: Vec<(&str, f64)> =
        args.set.iter().map(|to| parameter(to, screen)).collect::<Result<_>>()?;
    let scrolled: Vec<Scrolled> = args.scroll.iter().map(|to| scrolled(to, screen)).collect::<Result<_>>()?;
    let mut displays = Vec::new();
    for name in &args.displays {
        let display = one_display(name, args, known, screen)?;
        displays.push(display.clone());
        if args.turn {
            // Displays of the catalogue, and of the user, may have other insets when they are turned.
            let (of, parts) = name.split_once(',').map_or((name.as_str(), ""), |(of, parts)| (of, parts));
            let other = match of.trim().strip_suffix(TURNED) {
                Some(upright) => upright.to_owned(),
                None => format!("{}{TURNED}", of.trim()),
            };
            let other = if parts.is_empty() { other } else { format!("{other},{parts}") };
            displays.push(one_display(&other, args, known, screen).unwrap_or_else(|_| display.turned()));
        }
    }
    if args.displays.is_empty() {
        displays = known.all();
    }
    let with_more = |display: Display| -> Result<Display> {
        let display = if args.keyboard != 0.0 { display.with_keyboard(args.keyboard)? } else { display };
        let scroll = |d: Display, (view, across, down): &Scrolled<'_>| d.with_scroll(*view, *across, *down);
        let display = scrolled.iter().try_fold(display, scroll)?;
        let set = |d: Display, (name, number): &(&str, f64)| {
            DisplayQuantity::Parameter((*name).into()).at(&d, *number)
        };
        Ok(parameters.iter().try_fold(display, set)?)
    };
    let displays = displays.into_iter().map(with_more).collect::<Result<_>>()?;
    Ok(matrix(displays, args, screen, unsaid)?.displays(screen)?)
}

/// A parameter of the screen, and what it is set to: `rail=300`.
fn parameter<'a>(option: &'a str, screen: &Screen) -> Result<(&'a str, f64)> {
    let Some((name, number)) = option.split_once('=') else {
        bail!("--set {option}: write a parameter and a number, such as `rail=300`");
    };
    let Some((from, to)) = screen.parameter(name).and_then(|of| of.range()) else {
        let names: Vec<&str> = screen.parameters().map(|of| of.name()).collect();
        let help = match names.as_slice() {
            [] => "it has none; declare one: `param rail = 240 in 180..400`".to_owned(),
            names => format!("there are {}", names.join(", ")),
        };
        bail!("--set {option}: {} has no parameter `{name}`; {help}", screen.name());
    };
    let number = number.trim().parse().ok().filter(|number| (from..=to).contains(number));
    let wrong = || anyhow::anyhow!("--set {option}: `{name}` is a number within {from} and {to}");
    Ok((name, number.ok_or_else(wrong)?))
}

/// Displays with the text scales, directions, languages and states that the options name.
fn matrix(displays: Vec<Display>, args: &DisplayArgs, screen: &Screen, unsaid: Defaults) -> Result<Matrix> {
    let mut matrix = Matrix::of(displays).text_scales(args.text_scale.iter().copied());
    matrix = match (args.right_to_left, args.both_directions) {
        (true, _) => matrix.directions([Direction::RightToLeft]),
        (_, true) => matrix.directions([Direction::LeftToRight, Direction::RightToLeft]),
        _ => matrix,
    };
    matrix = match args.language.as_slice() {
        [] if unsaid == Defaults::First => matrix,
        [] => matrix.all_languages(screen),
        [all] if all == "all" => matrix.all_languages(screen),
        named => matrix.languages(named.iter().map(|name| (name != "own").then(|| name.clone()))),
    };
    if unsaid == Defaults::All || args.state.iter().any(|s| s == "all") {
        matrix = matrix.all_states(screen);
    }
    if unsaid == Defaults::All {
        matrix = matrix.all_parameters(screen);
    }
    for option in args.state.iter().filter(|s| *s != "all") {
        let Some((state, shown)) = option.split_once('=') else {
            bail!(
                "--state {option}: write the state and the alternative to show, such as `menu=open`, or `all`"
            );
        };
        let known = screen.states().iter().find(|s| s.name() == state);
        let Some(known) = known else {
            let names: Vec<&str> = screen.states().iter().map(|s| s.name()).collect();
            let help = if names.is_empty() {
                "the screen has none".into()
            } else {
                format!("the screen has {}", names.join(", "))
            };
            bail!("--state {option}: there is no state `{state}`; {help}");
        };
        let shown: Vec<String> = match shown {
            "all" => known.alternatives().to_vec(),
            shown => shown.split(',').map(str::to_owned).collect(),
        };
        if let Some(wrong) = shown.iter().find(|s| !known.alternatives().contains(s)) {
            bail!("--state {option}: `{state}` is one of {}, not `{wrong}`", known.alternatives().join(", "));
        }
        matrix = matrix.state(state, shown);
    }
    Ok(matrix)
}

/// A view's path, and how far it is scrolled along the reading direction and down.
type Scrolled<'a> = (&'a str, f64, f64);

/// `board=120`, `board=end` or `board=40,120`.
fn scrolled<'a>(option: &'a str, screen: &Screen) -> Result<Scrolled<'a>> {
    let Some((path, by)) = option.split_once('=') else {
        bail!("--scroll {option}: write the view and how far, such as `board=120` or `board=end`");
    };
    let Some(scroll) = screen.view(view_of(screen, path)?).and_then(|v| v.scroll()) else {
        bail!("--scroll {option}: `{path}` does not scroll; `scroll down` in its block would let it");
    };
    let number = |by: &str| match by {
        "end" => Ok(MAX_NUMBER),
        by => by.parse().with_context(|| format!("--scroll {option}: `{by}` is no number of logical pixels")),
    };
    Ok(match (by.split_once(','), scroll) {
        (Some((across, down)), _) => (path, number(across)?, number(down)?),
        (None, Scroll::Across) => (path, number(by)?, 0.0),
        (None, _) => (path, 0.0, number(by)?),
    })
}

fn one_display(name: &str, args: &DisplayArgs, known: &Displays, screen: &Screen) -> Result<Display> {
    let display = known.find(name, screen)?;
    let is_size = name.starts_with(|c: char| c.is_ascii_digit());
    match *args.insets.as_slice() {
        [left, top, right, bottom] if is_size => {
            Ok(display.with_insets(Insets { left, top, right, bottom })?)
        }
        [] | [_, _, _, _] => Ok(display),
        _ => bail!("--insets takes four numbers: left,top,right,bottom"),
    }
}

/// How much work a command does that places a screen again and again, one display after the other.
const PLACES_WORK: u64 = CHECK_WORK / 6 * 5;

/// The work of a command that places a screen again and again, on displays that it was given.
pub(crate) struct SharedWork {
    left: u64,
    /// What the last one took.
    last: u64,
    /// How many views may still be kept placed.
    views: usize,
}

/// How many views a command keeps placed, all displays together.
const MAX_VIEWS_KEPT: usize = 500_000;

impl SharedWork {
    pub(crate) fn new() -> Self {
        stage("placing");
        Self { left: PLACES_WORK, last: 0, views: MAX_VIEWS_KEPT }
    }

    /// Runs something that keeps so many views placed, with what is left; `None` where that is nothing, or came to its end
    /// on the way. What comes first is never left out.
    pub(crate) fn run<T>(&mut self, views: usize, run: impl FnOnce() -> Result<T>) -> Result<Option<T>> {
        let is_first = self.left == PLACES_WORK;
        // What is left would not do for it, as the last one took much more.
        if !is_first && (self.left <= self.last / 2 || self.views < views) {
            return Ok(None);
        }
        let (done, spent) = work::within(self.left, run);
        self.last = spent;
        self.left = self.left.saturating_sub(spent.max(1));
        self.views = self.views.saturating_sub(views);
        Ok(Some(done?).filter(|_| is_first || self.left > 0))
    }
}

/// The error where what is printed has no place for displays that were left out.
pub(crate) fn too_many_displays(looked_at: usize, of: usize) -> anyhow::Error {
    anyhow::anyhow!("the work suffices for {looked_at} of {of} displays; name fewer at once: -d \"tablet\"")
}

/// A line for displays that were left out.
pub(crate) fn displays_left_out(looked_at: usize, of: usize) -> String {
    match looked_at < of {
        true => format!(
            "{YELLOW}left out:{YELLOW:#} placed on {looked_at} of {of} displays; for another one, name it: -d \"tablet\"\n"
        ),
        false => String::new(),
    }
}

//! Screen files and displays, as they are named on the command line.

use crate::args::{DisplayArgs, Measurer, TextArgs};
use crate::wrong::show;
use anyhow::{Context, Result, bail};
use std::path::Path;
use vantic::{
    CATALOGUE, Direction, Display, DisplayClass, EvenText, Finding, Form, Insets, LongerText, MAX_FILE_BYTES,
    MAX_NUMBER, Measure, PlainText, Plan, RuleRef, Screen, Scroll, SourceError, SourceErrors, SourceMap,
    TURNED, TextRequest, TextSize, ViewId, line_and_column, read_bytes,
};
use vantic_draw::FontText;

/// A screen file that has been read and compiled.
pub(crate) struct Loaded {
    pub(crate) plan: Plan,
    map: SourceMap,
    text: String,
}

impl Loaded {
    /// Says of findings which parts they are about, and where those are placed.
    pub(crate) fn name_parts(&self, findings: &mut [Finding]) {
        for finding in findings {
            finding.placed = self.map.parts_of(self.plan.screen(), finding);
        }
    }

    /// The line on which a rule stands.
    pub(crate) fn line(&self, rule: RuleRef) -> Option<usize> {
        let span = match rule {
            RuleRef::Written { rule, .. } => self.map.rule(rule)?,
            RuleRef::Whole(view) | RuleRef::Snug(view) | RuleRef::Arranged { view, .. } => {
                self.map.view(view)?
            }
        };
        Some(line_and_column(&self.text, span.start).0)
    }
}

/// The bytes of a file, refused where it is larger than any screen file may be.
pub(crate) fn read_file(path: &Path) -> Result<Vec<u8>> {
    let shown = path.display();
    let about = std::fs::metadata(path).with_context(|| format!("{shown} could not be read"))?;
    if about.is_dir() {
        bail!("{shown} is a folder; name a screen file");
    }
    if about.len() > MAX_FILE_BYTES as u64 {
        bail!("{shown} is too large: {} bytes, and the limit is {MAX_FILE_BYTES}", about.len());
    }
    std::fs::read(path).with_context(|| format!("{shown} could not be read"))
}

/// Whether a file holds the JSON form of a screen.
pub(crate) fn is_json(path: &Path) -> bool {
    path.extension().is_some_and(|e| e.eq_ignore_ascii_case("json"))
}

/// A screen file as text: the JSON form written out in the canonical layout.
pub(crate) fn text_of_json(path: &Path, bytes: &[u8]) -> Result<String> {
    let shown = path.display();
    let json = std::str::from_utf8(bytes).with_context(|| format!("{shown} is not a text file"))?;
    let form = Form::from_json(json).with_context(|| format!("{shown} is not the JSON form of a screen"))?;
    let help = "`vantic fmt --schema` prints what it may hold";
    form.to_text().with_context(|| format!("{shown} is not the JSON form of a screen; {help}"))
}

/// Reads and compiles a screen file.
pub(crate) fn load(path: &Path) -> Result<Loaded> {
    let bytes = read_file(path)?;
    if is_json(path) {
        let name = format!("{} as a screen file", path.display());
        return load_bytes(&name, text_of_json(path, &bytes)?.as_bytes());
    }
    load_bytes(&path.display().to_string(), &bytes)
}

pub(crate) fn load_bytes(name: &str, bytes: &[u8]) -> Result<Loaded> {
    let text = String::from_utf8_lossy(bytes).into_owned();
    let source = read_bytes(bytes).map_err(|errors| show(name, &text, &errors))?;
    let plan = match Plan::new(source.screen) {
        Ok(plan) => plan,
        Err(error) => {
            // Shown at the rule that it is about, like any mistake in the file.
            let span = error.rule().and_then(|r| source.map.rule(r)).unwrap_or(0..0);
            let error = SourceError { span, message: error.to_string(), help: None, related: None };
            return Err(show(name, &text, &SourceErrors { errors: vec![error], total: 1 }).into());
        }
    };
    Ok(Loaded { plan, map: source.map, text })
}

/// The view of a path that was named on the command line.
pub(crate) fn view_of(screen: &Screen, path: &str) -> Result<ViewId> {
    let Some(view) = screen.find(path) else {
        let help = screen.nearest_path(path).map_or_else(
            || "`vantic place` without `--rules` lists the views".to_owned(),
            |near| format!("did you mean `{near}`?"),
        );
        bail!("there is no view `{path}` in {}; {help}", screen.name());
    };
    Ok(view)
}

/// What measures texts, as the options say.
pub(crate) struct Texts {
    of: Box<dyn Measure>,
    factor: f64,
}

impl Texts {
    pub(crate) fn new(args: &TextArgs) -> Self {
        let of: Box<dyn Measure> = match args.measure {
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

/// The displays that the options name.
pub(crate) fn displays(args: &DisplayArgs, screen: &Screen) -> Result<Vec<Display>> {
    let scrolled: Vec<Scrolled> = args.scroll.iter().map(|to| scrolled(to, screen)).collect::<Result<_>>()?;
    let mut displays = Vec::new();
    for name in &args.displays {
        let display = one_display(name, args)?;
        displays.push(display.clone());
        if args.turn {
            displays.push(display.turned());
        }
    }
    if args.displays.is_empty() {
        displays = CATALOGUE.iter().flat_map(DisplayClass::orientations).collect();
    }
    let direction = if args.right_to_left { Direction::RightToLeft } else { Direction::LeftToRight };
    displays
        .into_iter()
        .map(|d| {
            let d = d.with_direction(direction).with_text_scale(args.text_scale)?;
            let d = d.with_keyboard(args.keyboard)?;
            Ok(scrolled.iter().try_fold(d, |d, (view, across, down)| d.with_scroll(*view, *across, *down))?)
        })
        .collect()
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

fn one_display(name: &str, args: &DisplayArgs) -> Result<Display> {
    if let Some((width, height)) = name.split_once('x')
        && let (Ok(width), Ok(height)) = (width.parse(), height.parse())
    {
        let display = Display::new(width, height)?;
        return match *args.insets.as_slice() {
            [] => Ok(display),
            [left, top, right, bottom] => Ok(display.with_insets(Insets { left, top, right, bottom })?),
            _ => bail!("--insets takes four numbers: left,top,right,bottom"),
        };
    }
    let (upright, turned) = name.strip_suffix(TURNED).map_or((name, false), |n| (n, true));
    let class = DisplayClass::find(upright);
    match class.and_then(|c| if turned { c.on_its_side() } else { Some(c.upright()) }) {
        Some(display) => Ok(display),
        None => {
            let known: Vec<&str> = CATALOGUE.iter().map(|c| c.name).collect();
            bail!(
                "there is no display `{name}`: write WIDTHxHEIGHT such as 390x844, or one of {}, each with {TURNED} where it is turned",
                known.join(", ")
            )
        }
    }
}

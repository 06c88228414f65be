//! What a build script calls.

use crate::check::check;
use crate::displays::{Displays, Matrix};
use crate::files::{Assembled, with_expectations, with_words};
use crate::finding::Severity;
use crate::resolve::Source;
use crate::syntax::line_and_column;
use crate::typed::fields::types;
use std::fmt::Write as _;
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::process::ExitCode;
use vantic_core::model::{Screen, is_name};
use vantic_core::plan::Plan;
use vantic_core::text::PlainText;

/// Screen files that a build script turns into Rust. In `build.rs`:
///
/// ```no_run
/// fn main() -> std::process::ExitCode {
///     vantic::typed::Screens::new().file("screens/quay.vantic").generate()
/// }
/// ```
///
/// and in the program `vantic::include_screen!(quay);`, which makes a module: `quay::Screen::new()?` gives the screen, and its
/// views as `views.header.title`, states as `states.menu.open`, parameters as `parameters.rail`. Views that `repeat` made are an
/// array, counted from 0. The build fails at the line of the file that has a mistake.
#[derive(Clone, Debug, Default)]
#[must_use = "nothing is written until `generate` is called"]
pub struct Screens {
    files: Vec<PathBuf>,
    refused: Option<Severity>,
}

/// What is wrong, each as one line that names file, line and column.
type Mistakes = Vec<String>;

/// A screen file with all that it is made of.
struct Read {
    files: Assembled,
    source: Source,
    screen: Screen,
}

impl Screens {
    /// No files yet.
    pub fn new() -> Self {
        Self::default()
    }

    /// A screen file, its path from the folder of the package. What it is based on, and `quay.words.toml` and `quay.expect.toml` beside
    /// `quay.vantic`, are read with it. Its module is called after the file.
    pub fn file(mut self, path: impl Into<PathBuf>) -> Self {
        self.files.push(path.into());
        self
    }

    /// Fails the build where a check of a screen, on the displays of the catalogue with its languages and states, finds something this
    /// bad or worse that is not accepted. Texts are measured without fonts.
    pub fn without_findings(self, from: Severity) -> Self {
        Self { refused: Some(from), ..self }
    }

    /// Writes a module for each file into the folder that Cargo gives a build script, and tells Cargo what it was made of. What is wrong
    /// is an error of the build.
    pub fn generate(&self) -> ExitCode {
        let Some(out) = std::env::var_os("OUT_DIR").map(PathBuf::from) else {
            println!("cargo::error=no `OUT_DIR`: call it from a build script");
            return ExitCode::FAILURE;
        };
        let mut code = ExitCode::SUCCESS;
        for path in &self.files {
            let name = path.file_stem().unwrap_or_default().to_string_lossy();
            if !is_name(&name) {
                let path = path.display();
                println!("cargo::error={path}: its module is called after it: use letters, digits and `_`");
                code = ExitCode::FAILURE;
                continue;
            }
            let written =
                self.module(path, &mut |read: &Path| println!("cargo::rerun-if-changed={}", read.display()));
            let written = written.and_then(|module| {
                std::fs::write(out.join(format!("{name}.rs")), module)
                    .map_err(|error| vec![format!("{}: {error}", out.display())])
            });
            for mistake in written.err().into_iter().flatten() {
                println!("cargo::error={}", mistake.replace('\n', " "));
                code = ExitCode::FAILURE;
            }
        }
        code
    }

    /// The module for one file; `reads` is told each file that it is made of.
    ///
    /// # Errors
    /// All that is wrong with it, a line each: the file, the line and column, and what it is.
    pub fn module(&self, path: &Path, reads: &mut dyn FnMut(&Path)) -> Result<String, Vec<String>> {
        let Read { files, source, screen } = read(path, reads)?;
        let at = |span: &Range<usize>, message: String| {
            let place = files.place(span);
            let (line, column) = line_and_column(place.text, place.span.start);
            format!("{}:{line}:{column}: {message}", place.name)
        };
        let plan = Plan::new(screen.clone()).map_err(|error| {
            let span = error.rule().and_then(|rule| source.map.rule(rule)).unwrap_or(0..0);
            vec![at(&span, error.to_string())]
        })?;
        if let Some(least) = self.refused {
            let whole = |message: String| vec![at(&(0..0), message)];
            let displays = Matrix::of(Displays::default().all()).all_of(&screen).displays(&screen);
            let displays = displays.map_err(|error| whole(error.to_string()))?;
            let report = check(&plan, &displays, &PlainText).map_err(|error| whole(error.to_string()))?;
            let found = report.open().filter(|finding| finding.severity <= least).map(|finding| {
                let named = finding.named(&screen, &report.displays);
                let mut message =
                    format!("{} {}: {}", named.severity.name(), named.code.name(), named.message);
                if !named.worst.is_empty() {
                    let _ = write!(message, " (on {})", named.worst);
                }
                at(&source.map.finding(finding).unwrap_or(0..0), message)
            });
            let found: Mistakes = found.collect();
            if !found.is_empty() {
                return Err(found);
            }
        }
        let built = screen.in_rust().ok_or_else(|| vec![at(&(0..0), "the screen cannot be built".into())])?;
        Ok(format!("// Made from `{}`; changes are lost.\n\n{built}{}", path.display(), types(&screen)))
    }
}

fn read(path: &Path, reads: &mut dyn FnMut(&Path)) -> Result<Read, Mistakes> {
    let mut text_of = |path: &Path| {
        reads(path);
        std::fs::read_to_string(path).map_err(|error| format!("{}: {error}", path.display()))
    };
    let text = text_of(path).map_err(|error| vec![error])?;
    let files = Assembled::new(path.display().to_string(), text, |of, called| {
        let base = Path::new(of).parent().unwrap_or(Path::new("")).join(called);
        Ok((base.display().to_string(), text_of(&base)?))
    });
    let source = files.read().map_err(|errors| {
        let one = |error: &crate::syntax::SourceError| {
            let place = files.place(&error.span);
            let (line, column) = line_and_column(place.text, place.span.start);
            let help = error.help.as_ref().map_or_else(String::new, |help| format!(" ({help})"));
            format!("{}:{line}:{column}: {}{help}", place.name, error.message)
        };
        errors.errors.iter().map(one).collect::<Mistakes>()
    })?;
    let mut screen = source.screen.clone();
    let beside = |ending: &str| Some(path.with_extension(ending)).filter(|path| path.is_file());
    if let Some(path) = beside("words.toml") {
        let named = |error: &dyn std::fmt::Display| vec![format!("{}: {error}", path.display())];
        let text = text_of(&path).map_err(|error| vec![error])?;
        screen = with_words(screen, &text).map_err(|error| named(&error))?;
    }
    if let Some(path) = beside("expect.toml") {
        let named = |error: &dyn std::fmt::Display| vec![format!("{}: {error}", path.display())];
        let text = text_of(&path).map_err(|error| vec![error])?;
        screen = with_expectations(screen, &text).map_err(|error| named(&error))?;
    }
    Ok(Read { files, source, screen })
}

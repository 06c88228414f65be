//! Screen files turned into Rust by a build script.
//!
//! In `build.rs`:
//!
//! ```no_run
//! fn main() -> std::process::ExitCode {
//!     vantic_build::Screens::new().file("screens/quay.vantic").generate()
//! }
//! ```
//!
//! and in the program `vantic::include_screen!(quay);`, which makes a module: `quay::Screen::new()?` gives the screen, and its
//! views as `views.header.title`, states as `states.menu.open`, parameters as `parameters.rail`. Views that `repeat` made are an
//! array, counted from 0. The build fails at the line of the file that has a mistake, and nothing is read at run time.

use std::path::{Path, PathBuf};
use std::process::ExitCode;
use vantic::files::{Assembled, with_expectations, with_words};
use vantic::finding::Severity;
use vantic::model::{Screen, is_name};

/// Screen files to be turned into Rust.
#[derive(Clone, Debug, Default)]
#[must_use = "nothing is written until `generate` is called"]
pub struct Screens {
    files: Vec<PathBuf>,
    refused: Option<Severity>,
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

    /// Fails the build where a check of a screen, on the displays of the catalogue with its languages, states and parameters, finds
    /// something this bad or worse that is not accepted. Texts are measured without fonts.
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
            for mistake in self.write(path, &out).err().into_iter().flatten() {
                println!("cargo::error={}", mistake.replace('\n', " "));
                code = ExitCode::FAILURE;
            }
        }
        code
    }

    fn write(&self, path: &Path, out: &Path) -> Result<(), Vec<String>> {
        let name = path.file_stem().unwrap_or_default().to_string_lossy();
        if !is_name(&name) {
            let path = path.display();
            return Err(vec![format!("{path}: its module is called after it: use letters, digits and `_`")]);
        }
        let module = self.module(path, &mut |read| println!("cargo::rerun-if-changed={}", read.display()))?;
        let out = out.join(format!("{name}.rs"));
        std::fs::write(&out, module).map_err(|error| vec![named(&out, &error)])
    }

    /// The module for one file; `reads` gets each file that it is made of.
    ///
    /// # Errors
    /// All that is wrong with it, a line each: the file, the line and column, and what it is.
    pub fn module(&self, path: &Path, reads: &mut dyn FnMut(&Path)) -> Result<String, Vec<String>> {
        let mut text_of = |path: &Path| {
            reads(path);
            std::fs::read_to_string(path).map_err(|error| named(path, &error))
        };
        let text = text_of(path).map_err(|error| vec![error])?;
        let files = Assembled::new(path.display().to_string(), text, |of, called| {
            let base = Path::new(of).parent().unwrap_or(Path::new("")).join(called);
            Ok((base.display().to_string(), text_of(&base)?))
        });
        let complete = |mut screen: Screen| {
            let beside = |ending: &str| Some(path.with_extension(ending)).filter(|path| path.is_file());
            if let Some(path) = beside("words.toml") {
                screen = with_words(screen, &text_of(&path)?).map_err(|error| named(&path, &error))?;
            }
            if let Some(path) = beside("expect.toml") {
                screen = with_expectations(screen, &text_of(&path)?).map_err(|error| named(&path, &error))?;
            }
            Ok(screen)
        };
        vantic::typed::module(&files, complete, self.refused)
    }
}

fn named(path: &Path, error: &dyn std::fmt::Display) -> String {
    format!("{}: {error}", path.display())
}

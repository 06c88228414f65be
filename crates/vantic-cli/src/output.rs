//! Printing, and writing files whole or not at all.

use anstream::stdout;
use anstyle::{AnsiColor, Style};
use anyhow::{Context, Result};
use comfy_table::{ContentArrangement, Table, presets};
use std::io::{ErrorKind, IsTerminal, Write};
use std::path::Path;

pub(crate) const BOLD: Style = Style::new().bold();

pub(crate) const FAINT: Style = Style::new().dimmed();

pub(crate) const RED: Style = AnsiColor::Red.on_default().bold();

// Not bold: many terminals turn bold yellow and green into glaring shades.
pub(crate) const YELLOW: Style = AnsiColor::Yellow.on_default();

pub(crate) const GREEN: Style = AnsiColor::Green.on_default();

/// Prints to standard output. A reader that has gone away is no failure.
pub(crate) fn print(text: &str) -> Result<()> {
    let mut out = stdout().lock();
    match out.write_all(text.as_bytes()).and_then(|()| out.flush()) {
        Err(e) if e.kind() == ErrorKind::BrokenPipe => Ok(()),
        result => result.context("standard output could not be written"),
    }
}

/// Prints a value as one line of JSON.
pub(crate) fn print_json(value: &impl serde::Serialize) -> Result<()> {
    let mut text = serde_json::to_string(value)?;
    text.push('\n');
    print(&text)
}

/// Writes a file whole or not at all: beside it first, then moved into its place.
pub(crate) fn write_whole(path: &Path, bytes: &[u8]) -> Result<()> {
    let folder = match path.parent() {
        Some(folder) if !folder.as_os_str().is_empty() => folder,
        _ => Path::new("."),
    };
    let written = (|| {
        let mut file = tempfile::NamedTempFile::new_in(folder)?;
        file.write_all(bytes)?;
        file.as_file().sync_all()?;
        set_usual_permissions(&file, path)?;
        file.persist(path).map_err(|e| e.error)?;
        Ok::<(), std::io::Error>(())
    })();
    written.with_context(|| format!("{} could not be written", path.display()))
}

/// A new file gets the permissions of an ordinary one, a replaced file keeps its own.
fn set_usual_permissions(file: &tempfile::NamedTempFile, path: &Path) -> std::io::Result<()> {
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        let old = std::fs::metadata(path).map(|m| m.permissions());
        let permissions = old.unwrap_or_else(|_| std::fs::Permissions::from_mode(0o644));
        file.as_file().set_permissions(permissions)?;
    }
    #[cfg(not(unix))]
    let _ = (file, path);
    Ok(())
}

/// An empty table in the look of all our tables: columns apart, no frame.
pub(crate) fn table(header: &[&str]) -> Table {
    let mut table = Table::new();
    table.load_style(presets::NOTHING);
    table.set_header(header.iter().map(|h| h.to_uppercase()).collect::<Vec<_>>());
    table
}

/// How many characters a line has space for.
pub(crate) fn room() -> usize {
    if std::io::stdout().is_terminal() { textwrap::termwidth() } else { 120 }
}

/// Lets long cells go on in their own column where the terminal is too narrow for the table.
pub(crate) fn fit_terminal(table: &mut Table) {
    if std::io::stdout().is_terminal() {
        table.set_content_arrangement(ContentArrangement::Dynamic);
        table.set_width(u16::try_from(textwrap::termwidth()).unwrap_or(u16::MAX));
    }
}

/// The table's lines, each after `indent` blanks.
pub(crate) fn lines(table: &Table, indent: usize) -> String {
    let pad = " ".repeat(indent);
    table.lines().map(|l| format!("{pad}{}\n", l.trim_end())).collect()
}

/// A line broken at words so that it fits the terminal, what follows indented by `hang` blanks.
/// Where the output is no terminal the line stays whole.
pub(crate) fn wrapped(line: &str, hang: usize) -> String {
    if !std::io::stdout().is_terminal() {
        return format!("{line}\n");
    }
    let pad = " ".repeat(hang);
    let options = textwrap::Options::new(textwrap::termwidth().clamp(44, 124) - 4)
        .subsequent_indent(&pad)
        .break_words(false)
        .word_splitter(textwrap::WordSplitter::NoHyphenation);
    format!("{}\n", textwrap::fill(line, options))
}

/// `1 view`, `2 views`.
pub(crate) fn count(number: usize, what: &str) -> String {
    format!("{number} {what}{}", if number == 1 { "" } else { "s" })
}

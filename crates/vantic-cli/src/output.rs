//! Printing.

use crate::shown::{InertJson, Paint, printed};
use anstream::{stderr, stdout};
use anyhow::{Context, Result};
use comfy_table::{ContentArrangement, Table, presets};
use std::io::{ErrorKind, IsTerminal, Write};

pub(crate) const BOLD: Paint = Paint::new("1");

pub(crate) const FAINT: Paint = Paint::new("2");

pub(crate) const RED: Paint = Paint::new("1;31");

// Not bold: many terminals turn bold yellow and green into glaring shades.
pub(crate) const YELLOW: Paint = Paint::new("33");

pub(crate) const GREEN: Paint = Paint::new("32");

/// Prints to standard output, with nothing in it that acts. A reader that has gone away is no failure.
pub(crate) fn print(text: &str) -> Result<()> {
    print_to(stdout().lock(), &printed(text))
}

/// Prints a file, as it is unless somebody reads it on a terminal.
pub(crate) fn print_file(text: &str) -> Result<()> {
    if std::io::stdout().is_terminal() { print(text) } else { print_to(std::io::stdout().lock(), text) }
}

fn print_to(mut out: impl Write, text: &str) -> Result<()> {
    crate::progress::end();
    match out.write_all(text.as_bytes()).and_then(|()| out.flush()) {
        Err(e) if e.kind() == ErrorKind::BrokenPipe => Ok(()),
        result => result.context("standard output could not be written"),
    }
}

/// Prints to standard error; where that is closed or full, there is nobody to tell.
pub(crate) fn print_error(text: &str) {
    crate::progress::end();
    let mut out = stderr().lock();
    let _ = writeln!(out, "{}", printed(text)).and_then(|()| out.flush());
}

/// Prints a value as one line of JSON.
pub(crate) fn print_json(value: &impl serde::Serialize) -> Result<()> {
    let mut text = Vec::new();
    value.serialize(&mut serde_json::Serializer::with_formatter(&mut text, InertJson))?;
    text.push(b'\n');
    print_to(std::io::stdout().lock(), &String::from_utf8_lossy(&text))
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

//! Changes of a text, and the edits of files that they are.

use crate::files::bases::Assembled;
use crate::finding::{Edit, Fix};
use crate::syntax::error::line_and_column;
use std::ops::Range;
use vantic_core::words::free_name;

/// What stands at a place of the text becomes something else.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(crate) struct Change {
    pub(crate) at: (usize, usize),
    pub(crate) new: String,
}

impl Change {
    pub(crate) fn new(at: Range<usize>, new: impl Into<String>) -> Self {
        Self { at: (at.start, at.end), new: new.into() }
    }

    pub(crate) fn span(&self) -> Range<usize> {
        self.at.0..self.at.1
    }

    /// The edit of the file that the place is in. What is put in stands behind something, so that the edit
    /// can be told by what is there now.
    pub(crate) fn edit(&self, files: &Assembled) -> Edit {
        let place = files.place(&self.span());
        let (line, column) = line_and_column(place.text, place.span.start);
        Edit {
            file: place.name.to_owned(),
            line,
            column,
            old: place.text[place.span].to_owned(),
            new: self.new.clone(),
        }
    }
}

/// The text with changes made; `None` where they lie on one another.
pub(crate) fn changed(text: &str, changes: &[Change]) -> Option<String> {
    let mut sorted: Vec<&Change> = changes.iter().collect();
    sorted.sort();
    let mut out = String::with_capacity(text.len() + 64);
    let mut done = 0;
    for change in sorted {
        out.push_str(text.get(done..change.at.0)?);
        out.push_str(&change.new);
        done = change.at.1;
    }
    out.push_str(text.get(done..)?);
    Some(out)
}

/// Why edits could not be made.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum EditError {
    /// Something else stands where the edit is to be made.
    #[error("line {line}, column {column} is no longer `{old}`: the file has changed")]
    Elsewhere {
        /// The line, counted from 1.
        line: usize,
        /// The column, counted from 1 in characters.
        column: usize,
        /// What was to stand there.
        old: String,
    },
    /// Two edits change the same place.
    #[error("two edits change line {line}: apply one, check again, then apply the other")]
    Overlap {
        /// The line, counted from 1.
        line: usize,
    },
}

/// The byte at which a line and column, both counted from 1, begin.
fn byte_at(text: &str, line: usize, column: usize) -> Option<usize> {
    let start = match line {
        1 => 0,
        _ => text.match_indices('\n').nth(line.checked_sub(2)?)?.0 + 1,
    };
    let rest = text[start..].split('\n').next().unwrap_or_default();
    let ends = rest.char_indices().map(|(at, _)| at).chain([rest.len()]);
    ends.into_iter().nth(column.checked_sub(1)?).map(|at| start + at)
}

/// A file's text with edits made.
///
/// # Errors
/// A place at which something else stands than the edit says, and edits that change the same place. Nothing
/// is changed then.
pub fn edited(text: &str, edits: &[Edit]) -> Result<String, EditError> {
    let mut changes = Vec::new();
    for edit in edits {
        let Edit { line, column, old, .. } = edit;
        let at = byte_at(text, *line, *column).filter(|&at| text[at..].starts_with(old.as_str()));
        let at = at.ok_or_else(|| EditError::Elsewhere { line: *line, column: *column, old: old.clone() })?;
        changes.push(Change::new(at..at + old.len(), edit.new.clone()));
    }
    // What is changed alike twice is changed once.
    changes.sort();
    changes.dedup();
    changed(text, &changes).ok_or_else(|| {
        let overlap = changes.windows(2).find(|two| two[0].at.1 > two[1].at.0);
        let line = overlap.map_or(1, |two| line_and_column(text, two[1].at.0).0);
        EditError::Overlap { line }
    })
}

/// The edits of several fixes, to be made together: where two of them declare a band of one name on other
/// conditions, the later one gets another name.
///
/// The edits of each fix alone are as they were tried; those of several together are not.
pub fn joined<'a>(fixes: impl IntoIterator<Item = &'a Fix>) -> Vec<Edit> {
    let mut declared: Vec<(String, String)> = Vec::new();
    let mut all = Vec::new();
    for fix in fixes {
        let mut edits = fix.edits.clone();
        let band = fix.edits.iter().find_map(|edit| {
            let (name, condition) = edit.new.trim().strip_prefix("band ")?.split_once(": ")?;
            Some((name.to_owned(), condition.to_owned()))
        });
        if let Some((name, condition)) = band {
            let is_taken = |name: &str| declared.iter().any(|(other, on)| other == name && *on != condition);
            let free = free_name(&name, is_taken);
            for edit in &mut edits {
                edit.new = edit
                    .new
                    .replacen(&format!("band {name}: "), &format!("band {free}: "), 1)
                    .replacen(&format!("when {name} {{"), &format!("when {free} {{"), 1);
            }
            declared.push((free, condition));
        }
        all.extend(edits);
    }
    all
}

//! Edits of screen files, made in their texts and shown.

use crate::output::{FAINT, GREEN, RED};
use crate::rewrite::Texts;
use anyhow::{Context as _, Result};
use similar::{ChangeTag, TextDiff};
use vantic::finding::Edit;
use vantic::fix::edited;

/// The files with edits made.
pub(crate) fn changed(texts: &Texts, edits: &[Edit]) -> Result<Texts> {
    let one = |(name, text): &(String, String)| {
        let own: Vec<Edit> = edits.iter().filter(|e| e.file == *name).cloned().collect();
        let text = edited(text, &own).with_context(|| name.clone())?;
        Ok((name.clone(), text))
    };
    texts.iter().map(one).collect()
}

/// What becomes of a file, line by line.
pub(crate) fn shown(name: &str, old: &str, new: &str) -> String {
    let mut out = format!("\n{name}\n");
    let diff = TextDiff::from_lines(old, new);
    for hunk in diff.grouped_ops(1) {
        for change in hunk.iter().flat_map(|op| diff.iter_changes(op)) {
            let (sign, style) = match change.tag() {
                ChangeTag::Delete => ('-', RED),
                ChangeTag::Insert => ('+', GREEN),
                ChangeTag::Equal => (' ', FAINT),
            };
            out += &format!("{style}{sign} {}{style:#}\n", change.value().trim_end_matches(['\n', '\r']));
        }
        out.push('\n');
    }
    out
}

//! Fixes of findings: edits of the file.

use serde::Serialize;

/// How sure a fix is to be what was meant.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(rename_all = "snake_case")]
#[non_exhaustive]
pub enum Sureness {
    /// What else the screen says settles it, and nothing else comes near.
    Sure,
    /// It is what one would try first.
    Likely,
    /// It removes the finding; whether it is meant is open.
    Guess,
}

impl Sureness {
    /// The word in messages.
    pub fn name(self) -> &'static str {
        match self {
            Sureness::Sure => "sure",
            Sureness::Likely => "likely",
            Sureness::Guess => "a guess",
        }
    }
}

/// A fix of a finding that has been tried on every display.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Fix {
    /// What it is called in a report: the number of its finding there, counted from 1, and a letter.
    pub name: String,
    /// What it does, in plain words.
    pub text: String,
    /// What speaks for it, in a few words: ``as `second` and `third` do``.
    pub reason: String,
    /// How sure it is to be what was meant.
    pub sureness: Sureness,
    /// What becomes of the views that the finding is about, on the display where it is worst, in plain words:
    /// `` `sheet` 800 to 35 wide``; empty where they stay as they are.
    pub becomes: String,
    /// The edits of the file.
    pub edits: Vec<Edit>,
    /// What else moves, in plain words: `moves 2 other views on 3 displays`.
    pub moves: String,
    /// The views that move or change their size by more than half a logical pixel, those of the finding left
    /// out.
    pub moved: Vec<String>,
    /// On how many displays something moves, the views of the finding counted.
    pub moved_on: usize,
    /// Which other findings of the report it also fixes, by their number there, counted from 1.
    pub also_fixes: Vec<usize>,
}

/// One edit of a screen file.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Edit {
    /// The file: the screen's own, or one that it is based on.
    pub file: String,
    /// The line, counted from 1.
    pub line: usize,
    /// The column, counted from 1 in characters.
    pub column: usize,
    /// What stands there now; nothing where something is put in.
    pub old: String,
    /// What is to stand there.
    pub new: String,
}

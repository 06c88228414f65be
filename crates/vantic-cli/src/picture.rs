//! The kinds of picture, and writing them.

use crate::files::write_whole;
use crate::shown::Shown as _;
use anyhow::{Result, bail};
use std::path::Path;
use vantic_draw::Picture;

/// The kinds of picture.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Kind {
    Png,
    Svg,
}

/// What is written, by the ending of the file's name.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Out {
    Picture(Kind),
    /// A page for a review.
    Page,
}

impl Kind {
    /// The kind of picture that a file's name ends in.
    pub(crate) fn of(path: &Path) -> Result<Self> {
        match Out::of(path)? {
            Out::Picture(kind) => Ok(kind),
            Out::Page => bail!("{}: write a picture, .png or .svg", path.shown()),
        }
    }
}

impl Out {
    pub(crate) fn of(path: &Path) -> Result<Self> {
        match path.extension().and_then(|e| e.to_str()) {
            Some("png") => Ok(Out::Picture(Kind::Png)),
            Some("svg") => Ok(Out::Picture(Kind::Svg)),
            Some("html") => Ok(Out::Page),
            _ => bail!(
                "{}: the name of a picture has to end in .png or .svg, that of a page in .html",
                path.shown()
            ),
        }
    }
}

pub(crate) fn save(picture: &Picture, kind: Kind, path: &Path) -> Result<()> {
    match kind {
        Kind::Png => write_whole(path, &picture.png()?),
        Kind::Svg => write_whole(path, picture.svg().as_bytes()),
    }
}

//! Screen files written with the originals kept, and put back as they were.

use crate::files::{read_file, write_beside, write_over, write_whole};
use crate::output::FAINT;
use crate::session::Paths;
use crate::shown::Shown as _;
use anyhow::{Context, Result, anyhow, bail};
use serde::{Deserialize, Serialize};
use std::fs::{File, TryLockError};
use std::path::{Path, PathBuf};

/// The files of a screen by name, with their texts.
pub(crate) type Texts = Vec<(String, String)>;

/// The edits that can be taken back, the last one at the end; it is kept beside the screen file.
#[derive(Default, Deserialize, Serialize)]
#[serde(deny_unknown_fields)]
struct History {
    edits: Vec<Vec<Written>>,
}

/// A file that was written.
#[derive(Deserialize, Serialize)]
#[serde(deny_unknown_fields)]
struct Written {
    #[serde(with = "path_in_json")]
    file: PathBuf,
    /// Where the original is.
    #[serde(with = "path_in_json")]
    original: PathBuf,
    /// What was written.
    wrote: String,
}

/// Paths as text, or as bytes where they are none.
mod path_in_json {
    use serde::{Deserialize, Deserializer, Serialize, Serializer};
    use std::path::{Path, PathBuf};

    #[derive(Deserialize, Serialize)]
    #[serde(untagged)]
    enum InJson {
        Text(String),
        Bytes(Vec<u8>),
    }

    pub(super) fn serialize<S: Serializer>(path: &Path, to: S) -> Result<S::Ok, S::Error> {
        let form =
            path.to_str().map_or_else(|| InJson::Bytes(bytes(path)), |text| InJson::Text(text.to_owned()));
        form.serialize(to)
    }

    pub(super) fn deserialize<'de, D: Deserializer<'de>>(from: D) -> Result<PathBuf, D::Error> {
        Ok(match InJson::deserialize(from)? {
            InJson::Text(text) => text.into(),
            InJson::Bytes(bytes) => path(bytes),
        })
    }

    #[cfg(unix)]
    fn bytes(path: &Path) -> Vec<u8> {
        use std::os::unix::ffi::OsStrExt as _;
        path.as_os_str().as_bytes().to_vec()
    }

    #[cfg(unix)]
    fn path(bytes: Vec<u8>) -> PathBuf {
        use std::os::unix::ffi::OsStringExt as _;
        std::ffi::OsString::from_vec(bytes).into()
    }

    #[cfg(not(unix))]
    fn bytes(path: &Path) -> Vec<u8> {
        path.to_string_lossy().into_owned().into_bytes()
    }

    #[cfg(not(unix))]
    fn path(bytes: Vec<u8>) -> PathBuf {
        String::from_utf8_lossy(&bytes).into_owned().into()
    }
}

impl History {
    /// The file that it is kept in.
    fn path(screen: &Path) -> PathBuf {
        with_ending(screen, ".undo")
    }

    fn of(screen: &Path) -> Result<Self> {
        let path = Self::path(screen);
        if !path.exists() {
            return Ok(Self::default());
        }
        let bytes = read_file(&path)?;
        serde_json::from_slice(&bytes).with_context(|| {
            format!(
                "{} cannot be read; remove it, and the edits noted in it can no longer be undone",
                path.shown()
            )
        })
    }

    fn keep(&self, screen: &Path) -> Result<()> {
        let path = Self::path(screen);
        if self.edits.is_empty() {
            return std::fs::remove_file(&path)
                .with_context(|| format!("{} could not be removed", path.shown()));
        }
        write_beside(&path, &serde_json::to_vec_pretty(self)?, screen)
    }
}

/// A path as it is found from the folder of the screen file, wherever the tool is run.
fn from(path: &Path, screen: &Path) -> Result<PathBuf> {
    match path.file_name().filter(|_| path.parent() == screen.parent()) {
        Some(name) => Ok(name.into()),
        None => std::path::absolute(path).with_context(|| format!("{} has no place", path.shown())),
    }
}

fn with_ending(path: &Path, ending: &str) -> PathBuf {
    let mut name = path.as_os_str().to_owned();
    name.push(ending);
    PathBuf::from(name)
}

/// Writes the files that changed, and says where they are kept as they were. The first is the screen's own.
pub(crate) fn write_all(paths: &Paths, before: &Texts, texts: &Texts) -> Result<String> {
    let mut out = String::new();
    let changed: Vec<_> = before.iter().zip(texts).filter(|(old, new)| old.1 != new.1).collect();
    let (Some((screen, _)), false) = (before.first(), changed.is_empty()) else { return Ok(out) };
    let screen = &paths.path(screen);
    let _lock = locked(screen)?;
    let mut history = History::of(screen)?;
    for ((name, old), _) in &changed {
        may_be_written(&paths.path(name), old)?;
    }
    let mut written = Vec::new();
    let write = || -> Result<()> {
        let mut edit = Vec::new();
        for ((name, old), (_, new)) in changed {
            let file = paths.path(name);
            let original = kept(&file, old)?;
            written.push((file.clone(), original.clone(), old));
            write_over(&file, new.as_bytes(), old.as_bytes())?;
            out += &format!("{FAINT}wrote {name} (original saved as {}){FAINT:#}\n", original.shown());
            let (file, original) = (from(&file, screen)?, from(&original, screen)?);
            edit.push(Written { file, original, wrote: new.clone() });
        }
        history.edits.push(edit);
        history.keep(screen)
    };
    match write() {
        Ok(()) => Ok(out),
        Err(error) => Err(put_back(&written, error)),
    }
}

/// Puts files back as they were where not all could be written.
fn put_back(written: &[(PathBuf, PathBuf, &String)], error: anyhow::Error) -> anyhow::Error {
    let mut lost = Vec::new();
    for (file, original, old) in written {
        let is_as_before = read_file(file).is_ok_and(|now| now == old.as_bytes());
        // What cannot be put back stays beside it.
        match is_as_before || write_whole(file, old.as_bytes()).is_ok() {
            true => drop(std::fs::remove_file(original)),
            false => lost.push(original.shown()),
        }
    }
    match lost.as_slice() {
        [] => error.context("nothing was written"),
        lost => {
            error.context(format!("not everything could be put back; the originals are {}", lost.join(", ")))
        }
    }
}

/// Keeps another Vantic from writing the files of a screen at the same time.
fn locked(screen: &Path) -> Result<Option<File>> {
    let shown = screen.shown();
    let file = File::open(screen).with_context(|| format!("{shown} could not be read"))?;
    match file.try_lock() {
        Ok(()) => Ok(Some(file)),
        Err(TryLockError::WouldBlock) => {
            bail!("{shown} is being written by another Vantic; nothing was written. Check it again")
        }
        // Some file systems know no locks.
        Err(TryLockError::Error(_)) => Ok(None),
    }
}

/// Puts the files of a screen back as they were before the last edits.
pub(crate) fn undo(screen: &Path) -> Result<String> {
    let _lock = locked(screen)?;
    let mut history = History::of(screen)?;
    let shown = screen.shown();
    let Some(edit) = history.edits.pop() else {
        bail!("there is nothing to undo: Vantic has made no edits of {shown} that are not taken back");
    };
    let folder = screen.parent().unwrap_or(Path::new(""));
    let edit: Vec<Written> = edit
        .into_iter()
        .map(|w| Written { file: folder.join(w.file), original: folder.join(w.original), wrote: w.wrote })
        .collect();
    let mut texts = Vec::new();
    for Written { file, original, wrote } in &edit {
        may_be_written(file, wrote)?;
        let text = read_file(original).map_err(|e| anyhow!("{e:#}; {} cannot be put back", file.shown()))?;
        texts.push(text);
    }
    let mut restored = Vec::new();
    let mut restore = || -> Result<()> {
        for (of, text) in edit.iter().zip(&texts) {
            write_over(&of.file, text, of.wrote.as_bytes())?;
            restored.push(of);
        }
        history.keep(screen)
    };
    if let Err(error) = restore() {
        let mut lost = restored.iter().filter(|of| write_whole(&of.file, of.wrote.as_bytes()).is_err());
        return Err(match lost.next() {
            None => error.context("nothing was undone"),
            Some(of) => error.context(format!("only some files were undone, {} among them", of.file.shown())),
        });
    }
    let mut out = String::new();
    for Written { file, original, .. } in &edit {
        out += &format!("{FAINT}restored {}: the last edits are undone{FAINT:#}\n", file.shown());
        // What is there twice now is not needed any more.
        if let Err(error) = std::fs::remove_file(original) {
            out += &format!("{} could not be removed: {error}\n", original.shown());
        }
    }
    Ok(out + "\n")
}

/// Refuses a file that has another text than this one, or that is read-only.
fn may_be_written(path: &Path, text: &str) -> Result<()> {
    let shown = path.shown();
    if read_file(path)? != text.as_bytes() {
        bail!("{shown} has changed since it was read or written; nothing was written. Check it again");
    }
    if std::fs::metadata(path).with_context(|| format!("{shown} could not be read"))?.permissions().readonly()
    {
        bail!("{shown} is read-only; nothing was written. Make it writable, or fix a copy of it");
    }
    Ok(())
}

/// Keeps the text of a file beside it.
fn kept(path: &Path, text: &str) -> Result<PathBuf> {
    let names = (0..).map(|number| match number {
        0 => with_ending(path, ".old"),
        number => with_ending(path, &format!(".old{}", number + 1)),
    });
    let name =
        names.into_iter().find(|name| !name.exists()).unwrap_or_else(|| unreachable!("there is no end"));
    write_beside(&name, text.as_bytes(), path)?;
    Ok(name)
}

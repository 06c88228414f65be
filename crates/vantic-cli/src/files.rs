//! Files read and written: only regular ones, no more of them than a limit, whole or not at all, and nothing left
//! behind where somebody ends the run.

use crate::shown::Shown as _;
use anyhow::{Context, Result, bail};
use std::fs::{File, FileType, Metadata};
use std::io::{Read as _, Write as _};
use std::path::{Path, PathBuf};
use std::sync::{Mutex, PoisonError};
use vantic::syntax::MAX_FILE_BYTES;

/// The bytes of a regular file, refused where it is larger than any screen file may be, whatever it says of itself.
pub(crate) fn read_file(path: &Path) -> Result<Vec<u8>> {
    let shown = path.shown();
    let unread = || format!("{shown} could not be read");
    // Before it is opened: to open what others write into may wait for them.
    let about = std::fs::metadata(path).with_context(unread)?;
    refuse_unless_regular(&shown, about.file_type())?;
    let file = File::open(path).with_context(unread)?;
    refuse_unless_regular(&shown, file.metadata().with_context(unread)?.file_type())?;
    let mut bytes = Vec::new();
    file.take(MAX_FILE_BYTES as u64 + 1).read_to_end(&mut bytes).with_context(unread)?;
    if bytes.len() > MAX_FILE_BYTES {
        bail!("{shown} is too large: the limit is {MAX_FILE_BYTES} bytes");
    }
    Ok(bytes)
}

fn refuse_unless_regular(shown: &str, of: FileType) -> Result<()> {
    if of.is_file() {
        return Ok(());
    }
    if of.is_dir() {
        bail!("{shown} is a folder; name a screen file");
    }
    bail!("{shown} is {}, and only regular files are read", kind(of));
}

#[cfg(unix)]
fn kind(of: FileType) -> &'static str {
    use std::os::unix::fs::FileTypeExt as _;
    match of {
        _ if of.is_fifo() => "a named pipe",
        _ if of.is_socket() => "a socket",
        _ if of.is_char_device() || of.is_block_device() => "a device",
        _ => "no file",
    }
}

#[cfg(not(unix))]
fn kind(_: FileType) -> &'static str {
    "no file"
}

/// Writes a file whole or not at all: beside it first, then moved into its place. A link is followed; a file that is
/// there keeps its permissions and its owner, and is refused if it is read-only.
pub(crate) fn write_whole(path: &Path, bytes: &[u8]) -> Result<()> {
    write(path, bytes, None, None)
}

/// The same, refused where the file has another text by now than this one.
pub(crate) fn write_over(path: &Path, bytes: &[u8], before: &[u8]) -> Result<()> {
    write(path, bytes, Some(before), None)
}

/// The same of a file that holds what another one does: a new one is readable by whoever may read that one.
pub(crate) fn write_beside(path: &Path, bytes: &[u8], of: &Path) -> Result<()> {
    write(path, bytes, None, Some(of))
}

fn write(path: &Path, bytes: &[u8], before: Option<&[u8]>, like: Option<&Path>) -> Result<()> {
    let shown = path.shown();
    let target = target(path).with_context(|| format!("{shown} could not be written"))?;
    let old = std::fs::metadata(&target).ok();
    if let Some(old) = &old {
        if !old.is_file() {
            bail!(
                "{shown} is {}, and only regular files are written",
                if old.is_dir() { "a folder" } else { kind(old.file_type()) }
            );
        }
        if old.permissions().readonly() {
            bail!("{shown} is read-only; nothing was written. Make it writable, or name another file");
        }
    }
    let folder = target.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    if !folder.is_dir() {
        bail!("{shown} could not be written: there is no folder {}", folder.shown());
    }
    let is_written = || -> std::io::Result<bool> {
        let mut file = tempfile::NamedTempFile::new_in(folder)?;
        let listed = Listed::new(file.path().to_owned());
        file.write_all(bytes)?;
        file.as_file().sync_all()?;
        let like = like.filter(|_| old.is_none()).map(std::fs::metadata).transpose()?;
        set_permissions(&file, like.as_ref().or(old.as_ref()))?;
        // As late as can be, so that nothing that somebody wrote in between is lost.
        if before.is_some_and(|before| !std::fs::read(&target).is_ok_and(|now| now == before)) {
            return Ok(false);
        }
        file.persist(&target).map_err(|e| e.error)?;
        drop(listed);
        Ok(true)
    };
    if !is_written().with_context(|| format!("{shown} could not be written"))? {
        bail!("{shown} has changed since it was read; nothing was written. Check it again");
    }
    Ok(())
}

/// Where a path leads: links followed, also one to what is not there yet.
fn target(path: &Path) -> std::io::Result<PathBuf> {
    let mut path = path.to_owned();
    for _ in 0..MAX_LINKS {
        match std::fs::symlink_metadata(&path) {
            Ok(about) if about.is_symlink() => {
                let to = std::fs::read_link(&path)?;
                path = path.parent().unwrap_or(Path::new("")).join(to);
            }
            _ => return Ok(path),
        }
    }
    Err(std::io::Error::other("too many links lead to one another"))
}

/// How many links one behind the other are followed.
const MAX_LINKS: usize = 40;

/// A new file gets the permissions of an ordinary one, a replaced file keeps its own, and its owner where that is
/// allowed.
#[cfg(unix)]
fn set_permissions(file: &tempfile::NamedTempFile, old: Option<&Metadata>) -> std::io::Result<()> {
    use std::os::unix::fs::{MetadataExt as _, PermissionsExt as _, fchown};
    if let Some(old) = old {
        let own = file.as_file().metadata()?;
        if (own.uid(), own.gid()) != (old.uid(), old.gid()) {
            // Who may not give files away keeps them.
            let _ = fchown(file.as_file(), Some(old.uid()), Some(old.gid()));
        }
    }
    let permissions = old.map_or_else(|| std::fs::Permissions::from_mode(0o644), Metadata::permissions);
    file.as_file().set_permissions(permissions)
}

#[cfg(not(unix))]
fn set_permissions(_: &tempfile::NamedTempFile, _: Option<&Metadata>) -> std::io::Result<()> {
    Ok(())
}

/// The files that are being written, removed where the run is ended.
static UNFINISHED: Mutex<Vec<PathBuf>> = Mutex::new(Vec::new());

/// A file that is among them as long as this is there.
struct Listed(PathBuf);

impl Listed {
    fn new(path: PathBuf) -> Self {
        UNFINISHED.lock().unwrap_or_else(PoisonError::into_inner).push(path.clone());
        Self(path)
    }
}

impl Drop for Listed {
    fn drop(&mut self) {
        UNFINISHED.lock().unwrap_or_else(PoisonError::into_inner).retain(|other| *other != self.0);
    }
}

/// From now on Ctrl-C, and what else asks the run to end, ends it at once and leaves nothing half written.
pub(crate) fn leave_nothing_behind() {
    let ended = ctrlc::set_handler(|| {
        for path in UNFINISHED.lock().unwrap_or_else(PoisonError::into_inner).drain(..) {
            let _ = std::fs::remove_file(path);
        }
        std::process::exit(INTERRUPTED);
    });
    // Without it the run ends all the same.
    drop(ended);
}

/// The exit code of a run that was ended from outside, as shells report it.
const INTERRUPTED: i32 = 130;

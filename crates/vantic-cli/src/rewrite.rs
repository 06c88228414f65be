//! Screen files written with the originals kept.

use crate::output::{FAINT, write_whole};
use crate::session::read_file;
use anyhow::{Context, Result, bail};
use std::path::{Path, PathBuf};

/// The files of a screen by name, with their texts.
pub(crate) type Texts = Vec<(String, String)>;

/// Writes the files that changed, and says where they are kept as they were.
pub(crate) fn write_all(before: &Texts, texts: &Texts) -> Result<String> {
    let mut out = String::new();
    for ((name, old), (_, new)) in before.iter().zip(texts).filter(|(old, new)| old.1 != new.1) {
        let kept = written(Path::new(name), old, new)?;
        out += &format!("{FAINT}wrote {name} (original saved as {}){FAINT:#}\n", kept.display());
    }
    Ok(out)
}

/// Writes a file whole, unless it is another than the one that was read; where the old one is kept.
pub(crate) fn written(path: &Path, old: &str, new: &str) -> Result<PathBuf> {
    let shown = path.display();
    if read_file(path)? != old.as_bytes() {
        bail!("{shown} has changed since it was read; nothing was written. Check it again");
    }
    if std::fs::metadata(path).with_context(|| format!("{shown} could not be read"))?.permissions().readonly()
    {
        bail!("{shown} is read-only; nothing was written. Make it writable, or fix a copy of it");
    }
    let kept = (0..).map(|number| {
        let ending = if number == 0 { ".old".to_owned() } else { format!(".old{}", number + 1) };
        let mut name = path.as_os_str().to_owned();
        name.push(ending);
        PathBuf::from(name)
    });
    let kept =
        kept.into_iter().find(|kept| !kept.exists()).unwrap_or_else(|| unreachable!("there is no end"));
    write_whole(&kept, old.as_bytes())?;
    write_whole(path, new.as_bytes())?;
    Ok(kept)
}

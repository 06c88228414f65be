//! The name that was probably meant.

/// The name among `known` that a misspelt one is most likely meant to be.
pub fn nearest<'a>(name: &str, known: impl Iterator<Item = &'a str>) -> Option<String> {
    if name.len() > 80 {
        return None;
    }
    known
        .map(|k| (strsim::damerau_levenshtein(&name.to_lowercase(), &k.to_lowercase()), k))
        .filter(|(distance, k)| *distance <= name.len().max(k.len()).div_ceil(3))
        .min_by_key(|(distance, _)| *distance)
        .map(|(_, k)| k.to_owned())
}

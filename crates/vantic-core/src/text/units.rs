//! Numbers with their units, which are written alike in every language that shares their letters.

/// Units of measure and the like by their symbols (ISO 80000, IEC 80000-13).
const SYMBOLS: [&str; 47] = [
    "m", "km", "cm", "mm", "nm", "nmi", "ha", "l", "ml", "g", "kg", "mg", "t", "s", "ms", "min", "h", "d",
    "Hz", "kHz", "MHz", "GHz", "W", "kW", "MW", "Wh", "kWh", "V", "A", "mAh", "J", "kJ", "cal", "kcal", "Pa",
    "hPa", "bar", "C", "F", "K", "kn", "kB", "MB", "GB", "TB", "dB", "x",
];

/// Whether words say a number, or several, with nothing but digits, signs, units and codes of currencies (ISO
/// 4217: three capital letters). Words without letters are, too.
pub(crate) fn is_number(words: &str) -> bool {
    let has_digits = words.chars().any(|c| c.is_ascii_digit());
    let mut runs = words.split(|c: char| !c.is_alphabetic()).filter(|run| !run.is_empty());
    let is_currency = |run: &str| run.len() == 3 && run.chars().all(|c| c.is_ascii_uppercase());
    runs.all(|run| has_digits && (SYMBOLS.contains(&run) || is_currency(run)))
}

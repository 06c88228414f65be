//! Numbers in text.

/// A number of logical pixels for people: at most two decimals, no needless zeros.
pub fn number(value: f64) -> String {
    let rounded = (value * 100.0).round() / 100.0;
    format!("{}", if rounded == 0.0 { 0.0 } else { rounded })
}

/// An amount that is not zero, for people: as [`number`], but with as many decimals as its first digit takes.
///
/// ```
/// use vantic_core::words::amount;
///
/// assert_eq!([amount(12.346), amount(0.00051)], ["12.35", "0.0005"]);
/// ```
pub fn amount(value: f64) -> String {
    let decimals = -value.abs().log10();
    if !(2.0..=12.0).contains(&decimals) || number(value) != "0" {
        return number(value);
    }
    format!("{value:.*}", decimals.ceil() as usize)
}

/// Which values a coordinate may take, in words: `anything from 16 to 488`.
pub fn interval_words(range: [Option<f64>; 2]) -> String {
    match range {
        [Some(low), Some(high)] => format!("anything from {} to {}", number(low), number(high)),
        [Some(low), None] => format!("anything from {} up", number(low)),
        [None, Some(high)] => format!("anything up to {}", number(high)),
        [None, None] => "anything".into(),
    }
}

/// A number as machines get it: to a millionth of a logical pixel, without the dust of rounding.
pub fn millionths(value: f64) -> f64 {
    (value * 1e6).round() / 1e6 + 0.0
}

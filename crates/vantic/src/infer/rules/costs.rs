//! What it costs to say something: the cheaper, the likelier that somebody meant it.
//!
//! A relation that holds in all drawings is as true as any other that does; costs only order them. They were set by what
//! people write in screen files, not fitted to a corpus.

/// A distance to a box around it.
pub(super) const EDGE: f64 = 1.2;
/// The far edge is tied a little less often than the near one.
pub(super) const FAR: f64 = 0.08;
/// Centered in what is around it.
pub(super) const CENTERED: f64 = 1.5;
/// A distance to the next view, face to face.
pub(super) const BESIDE: f64 = 1.1;
/// The same where they do not face one another.
pub(super) const ASKEW: f64 = 1.75;
/// On a line with an edge of a sibling.
pub(super) const ALIGNED: f64 = 1.42;
/// On a line with a view of the same name in the next box.
pub(super) const COUSIN: f64 = 1.6;
/// A size of its own.
pub(super) const FIXED: f64 = 1.5;
/// A size of its own that several drawings show, though what is around it has other sizes.
pub(super) const FIXED_SHOWN: f64 = 1.05;
/// A size of its own, and the middle of what is around it, where drawings are by hand: several drawings show both better than
/// two edges.
pub(super) const FIXED_BY_HAND: f64 = 0.8;
pub(super) const CENTERED_BY_HAND: f64 = 1.0;
/// How much more a size of its own costs for what holds others, or words.
pub(super) const FIXED_BOX: f64 = 0.25;
/// An edge beside one that is tied already, where the size is the same everywhere.
pub(super) const NO_SIZE: f64 = 0.25;
/// As large as a sibling.
pub(super) const SAME: f64 = 1.45;
/// A share of what is around it that several drawings show.
pub(super) const SHARE: f64 = 1.6;
/// The same, shown by one drawing.
pub(super) const SHARE_OF_ONE: f64 = 2.5;
/// The same, of a size that is not round itself.
pub(super) const SHARE_TOLD: f64 = 1.35;
/// A share of the screen, further out.
pub(super) const SHARE_OF_SCREEN: f64 = 2.1;
/// A ratio of its sides.
pub(super) const RATIO: f64 = 1.5;
/// At a share of what is around it.
pub(super) const FRACTION: f64 = 1.9;
/// The greater or smaller of two sizes.
pub(super) const LIMITED: f64 = 2.3;
/// A text that ends before something.
pub(super) const UNTIL: f64 = 1.7;
/// The same distance as before.
pub(super) const EVEN: f64 = 1.6;
/// A share of what is around it less a distance.
pub(super) const SHARE_LESS: f64 = 2.6;
/// How much more a factor costs that nobody would write.
pub(super) const UNROUND: f64 = 0.6;

/// How little one expects a distance: round ones and short ones are likely.
pub(super) fn odd(distance: f64) -> f64 {
    let size = distance.abs();
    let unround = match size {
        _ if (size - size.round()).abs() > 0.01 => 1.0,
        _ if size % 4.0 == 0.0 => 0.0,
        _ if size % 2.0 == 0.0 || size % 5.0 == 0.0 => 0.04,
        _ => 0.12,
    };
    let inwards = if distance < 0.0 { 0.6 } else { 0.0 };
    unround + inwards + (size / 120.0).min(1.5)
}

/// How little one expects a size.
pub(super) fn odd_size(size: f64) -> f64 {
    if (size - size.round()).abs() > 0.01 { 0.8 } else { odd(size).min(0.12) }
}

/// The share that one would write for a factor, and what it costs: halves, thirds and whole percent.
pub(super) fn nice_share(factor: f64, slack: f64) -> Option<(f64, f64)> {
    let near = |of: f64| (factor - of).abs() <= slack;
    for parts in [2.0, 3.0, 4.0, 5.0, 6.0, 10.0, 20.0] {
        let of = (factor * parts).round() / parts;
        if near(of) && of > 0.0 {
            return Some((of, if parts <= 5.0 { 0.0 } else { 0.1 }));
        }
    }
    let percent = (factor * 100.0).round() / 100.0;
    (near(percent) && percent > 0.0).then_some((percent, 0.2))
}

/// The ratio that one would write, and what it costs.
pub(super) fn nice_ratio(ratio: f64, slack: f64) -> Option<((f64, f64), f64)> {
    let near = |of: f64| (ratio - of).abs() <= slack * of.max(1.0);
    let pairs = (1..=16_u32).flat_map(|a| (1..=16_u32).map(move |b| (f64::from(a), f64::from(b))));
    let mut fitting: Vec<(f64, f64)> = pairs.filter(|&(a, b)| near(a / b)).collect();
    fitting.sort_by(|x, y| (x.0 + x.1).total_cmp(&(y.0 + y.1)));
    fitting.first().map(|&(a, b)| ((a, b), (a + b) / 100.0))
}

/// A distance as one would write it, where it may be off by so much: drawn by hand, a multiple of 4.
pub(super) fn snapped(value: f64, slack: f64) -> f64 {
    let round = if slack >= 2.0 { (value / 4.0).round() * 4.0 } else { value.round() };
    match (value - round).abs() <= slack {
        true => round,
        false => (value * 100.0).round() / 100.0,
    }
}

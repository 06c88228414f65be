//! When a band holds.

use crate::display::{Direction, Display};
use std::collections::BTreeSet;

/// A number of a display that a band may depend on.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Property {
    /// The display's width in logical pixels.
    ScreenWidth,
    /// The display's height in logical pixels.
    ScreenHeight,
    /// The width less the insets.
    SafeWidth,
    /// The height less the insets.
    SafeHeight,
    /// Device pixels to a logical pixel.
    Density,
    /// The reader's text scale.
    TextScale,
}

impl Property {
    /// All properties with their spelling in a screen file.
    pub const SPELLINGS: [(&'static str, Property); 6] = [
        ("screen.width", Property::ScreenWidth),
        ("screen.height", Property::ScreenHeight),
        ("safe.width", Property::SafeWidth),
        ("safe.height", Property::SafeHeight),
        ("density", Property::Density),
        ("text_scale", Property::TextScale),
    ];
}

/// How a property is compared.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Order {
    /// `<`
    Below,
    /// `<=`
    AtMost,
    /// `>=`
    AtLeast,
    /// `>`
    Above,
}

impl Order {
    /// All orders with their spelling in a screen file.
    pub const SPELLINGS: [(&'static str, Order); 4] =
        [("<", Order::Below), ("<=", Order::AtMost), (">=", Order::AtLeast), (">", Order::Above)];
}

/// When a band holds.
#[derive(Clone, Debug, PartialEq)]
pub enum Condition {
    /// A property compared with a number.
    Compare(Property, Order, f64),
    /// A property from a number up to, but not including, another.
    Within(Property, f64, f64),
    /// The display is at least as high as it is wide.
    Portrait,
    /// The display is wider than it is high.
    Landscape,
    /// The display is operated by touch.
    Touch,
    /// Text runs from left to right.
    LeftToRight,
    /// Text runs from right to left.
    RightToLeft,
    /// The condition does not hold.
    Not(Box<Condition>),
    /// All of them hold.
    All(Vec<Condition>),
    /// At least one of them holds.
    Any(Vec<Condition>),
}

impl Condition {
    /// The words that stand for a condition of their own, with their spelling.
    pub const WORDS: [(&'static str, Condition); 5] = [
        ("portrait", Condition::Portrait),
        ("landscape", Condition::Landscape),
        ("touch", Condition::Touch),
        ("left_to_right", Condition::LeftToRight),
        ("right_to_left", Condition::RightToLeft),
    ];

    /// Whether it holds on a display.
    pub fn holds(&self, display: &Display) -> bool {
        self.holds_for(&Sample::of(display))
    }

    fn holds_for(&self, at: &Sample) -> bool {
        match self {
            Condition::Compare(property, order, number) => {
                let value = at.values[*property as usize];
                match order {
                    Order::Below => value < *number,
                    Order::AtMost => value <= *number,
                    Order::AtLeast => value >= *number,
                    Order::Above => value > *number,
                }
            }
            Condition::Within(property, from, to) => (*from..*to).contains(&at.values[*property as usize]),
            Condition::Portrait => at.values[1] >= at.values[0],
            Condition::Landscape => at.values[1] < at.values[0],
            Condition::Touch => at.touch,
            Condition::LeftToRight => at.direction == Direction::LeftToRight,
            Condition::RightToLeft => at.direction == Direction::RightToLeft,
            Condition::Not(inner) => !inner.holds_for(at),
            Condition::All(parts) => parts.iter().all(|p| p.holds_for(at)),
            Condition::Any(parts) => parts.iter().any(|p| p.holds_for(at)),
        }
    }

    fn thresholds(&self, into: &mut [Vec<f64>; 6], shape: &mut bool) {
        match self {
            Condition::Compare(property, _, number) => into[*property as usize].push(*number),
            Condition::Within(property, from, to) => into[*property as usize].extend([*from, *to]),
            Condition::Portrait | Condition::Landscape => *shape = true,
            Condition::Not(inner) => inner.thresholds(into, shape),
            Condition::All(parts) | Condition::Any(parts) => {
                parts.iter().for_each(|p| p.thresholds(into, shape));
            }
            Condition::Touch | Condition::LeftToRight | Condition::RightToLeft => {}
        }
    }
}

/// What conditions look at.
#[derive(Clone, Debug)]
struct Sample {
    values: [f64; 6],
    touch: bool,
    direction: Direction,
}

impl Sample {
    fn of(display: &Display) -> Self {
        Self {
            values: [
                display.width(),
                display.height(),
                display.safe_width(),
                display.safe_height(),
                display.density(),
                display.text_scale(),
            ],
            touch: display.is_touch(),
            direction: display.direction(),
        }
    }
}

/// Which conditions hold at once, for one kind of display: one flag each, and the direction.
pub(crate) type Holding = (Vec<bool>, Direction);

/// The most kinds of display that the conditions of one screen may tell apart.
const MAX_CELLS: usize = 20_000;

/// Every combination of conditions that some display meets: one sample is taken from each cell
/// between the numbers that the conditions name. `None` where there are too many.
pub(crate) fn combinations(conditions: &[&Condition]) -> Option<Vec<Holding>> {
    let mut thresholds: [Vec<f64>; 6] = Default::default();
    let mut shape = false;
    for condition in conditions {
        condition.thresholds(&mut thresholds, &mut shape);
    }
    // The screen is at least as large as its safe area, so it is cut where that is too.
    for (screen, safe) in [(0, 2), (1, 3)] {
        let cuts = thresholds[safe].clone();
        thresholds[screen].extend(cuts);
    }
    if shape {
        // Whether a display is portrait compares its sides, so each is cut where the other is, and
        // the height once more within each of those intervals.
        let mut both: Vec<f64> = thresholds[0].iter().chain(&thresholds[1]).copied().collect();
        thresholds[0].clone_from(&both);
        both.extend(samples(both.clone()));
        thresholds[1] = both;
    }
    let samples: Vec<Vec<f64>> = thresholds.into_iter().map(samples).collect();
    let cells = samples.iter().try_fold(4_usize, |n, s| n.checked_mul(s.len()))?;
    if cells > MAX_CELLS {
        return None;
    }
    let mut found = BTreeSet::new();
    for cell in 0..cells {
        let mut rest = cell / 4;
        let mut values = [0.0; 6];
        for (value, samples) in values.iter_mut().zip(&samples) {
            *value = samples[rest % samples.len()];
            rest /= samples.len();
        }
        if values[2] > values[0] && samples[2].len() > 1 || values[3] > values[1] && samples[3].len() > 1 {
            continue; // the safe area is never larger than the screen
        }
        let direction = if cell % 2 == 0 { Direction::LeftToRight } else { Direction::RightToLeft };
        let sample = Sample { values, touch: cell % 4 < 2, direction };
        found.insert((conditions.iter().map(|c| c.holds_for(&sample)).collect(), direction));
    }
    Some(found.into_iter().collect())
}

/// A number from each interval that the thresholds cut off, and the thresholds themselves.
fn samples(mut thresholds: Vec<f64>) -> Vec<f64> {
    thresholds.retain(|t| *t > 0.0);
    thresholds.sort_by(f64::total_cmp);
    thresholds.dedup();
    let mut samples = vec![thresholds.first().map_or(1.0, |t| t / 2.0)];
    for (i, t) in thresholds.iter().enumerate() {
        samples.push(*t);
        samples.push(thresholds.get(i + 1).map_or(t * 2.0, |next| (t + next) / 2.0));
    }
    samples
}

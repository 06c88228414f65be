//! When a band holds.

use crate::display::display::Display;
use crate::geometry::direction::Direction;
use crate::model::state::State;
use std::collections::{BTreeMap, BTreeSet, HashMap};
use std::ops::{BitAnd, BitOr, Not, Range};

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
    /// The display's width divided by its height.
    Aspect,
}

impl Property {
    /// All properties with their spelling in a screen file.
    pub const SPELLINGS: [(&'static str, Property); 7] = [
        ("screen.width", Property::ScreenWidth),
        ("screen.height", Property::ScreenHeight),
        ("safe.width", Property::SafeWidth),
        ("safe.height", Property::SafeHeight),
        ("density", Property::Density),
        ("text_scale", Property::TextScale),
        ("screen.aspect", Property::Aspect),
    ];

    /// A display with this much of it, all else as it is; `None` for what is no size, and where there is no such
    /// display.
    pub fn sized(self, display: &Display, amount: f64) -> Option<Display> {
        let insets = display.insets();
        let (width, height) = match self {
            Property::ScreenWidth => (amount, display.height()),
            Property::SafeWidth => (amount + insets.left + insets.right, display.height()),
            Property::ScreenHeight => (display.width(), amount),
            Property::SafeHeight => (display.width(), amount + insets.top + insets.bottom),
            Property::Density | Property::TextScale | Property::Aspect => return None,
        };
        display.with_size(width, height).ok()
    }
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

    fn holds(self, value: f64, number: f64) -> bool {
        match self {
            Order::Below => value < number,
            Order::AtMost => value <= number,
            Order::AtLeast => value >= number,
            Order::Above => value > number,
        }
    }
}

/// A parameter that a condition looks at.
#[derive(Clone, Debug, PartialEq)]
pub struct TestedParameter {
    /// Its name.
    pub name: String,
    /// What it is where a display does not set it.
    pub usual: f64,
    /// From where to where it may be set.
    pub range: (f64, f64),
}

/// What of a display a part of a condition looks at, to find where it begins or ends to hold.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Tested<'a> {
    /// A property of the display.
    Property(Property),
    /// A parameter of the screen.
    Parameter(&'a TestedParameter),
}

impl TestedParameter {
    /// It is below a number.
    pub fn below(self, number: impl Into<f64>) -> Condition {
        Condition::Parameter(self, Order::Below, number.into())
    }

    /// It is a number at most.
    pub fn at_most(self, number: impl Into<f64>) -> Condition {
        Condition::Parameter(self, Order::AtMost, number.into())
    }

    /// It is a number at least.
    pub fn at_least(self, number: impl Into<f64>) -> Condition {
        Condition::Parameter(self, Order::AtLeast, number.into())
    }

    /// It is above a number.
    pub fn above(self, number: impl Into<f64>) -> Condition {
        Condition::Parameter(self, Order::Above, number.into())
    }

    /// It is within a range, its end not included.
    pub fn within<T: Into<f64>>(self, range: Range<T>) -> Condition {
        Condition::ParameterWithin(self, range.start.into(), range.end.into())
    }
}

impl Tested<'_> {
    /// A display with this much of it, all else as it is; `None` for what is no size and no parameter, and where there is no such
    /// display.
    pub fn set(self, display: &Display, amount: f64) -> Option<Display> {
        match self {
            Tested::Property(property) => property.sized(display, amount),
            Tested::Parameter(TestedParameter { name, range: (from, to), .. }) => {
                let is_within = (*from..=*to).contains(&amount);
                display.clone().with_parameter(name, amount).ok().filter(|_| is_within)
            }
        }
    }
}

/// When a band holds.
#[derive(Clone, Debug, PartialEq)]
pub enum Condition {
    /// A property compared with a number.
    Compare(Property, Order, f64),
    /// A property from a number up to, but not including, another.
    Within(Property, f64, f64),
    /// A parameter of the screen compared with a number.
    Parameter(TestedParameter, Order, f64),
    /// A parameter of the screen from a number up to, but not including, another.
    ParameterWithin(TestedParameter, f64, f64),
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
    /// An alternative of a state of the screen is shown.
    State {
        /// The state.
        state: String,
        /// The alternative.
        shown: String,
        /// Whether it is the first of them, which is shown where a display names none.
        first: bool,
    },
    /// It always holds.
    Everywhere,
    /// The condition does not hold.
    Not(Box<Condition>),
    /// All of them hold.
    All(Vec<Condition>),
    /// At least one of them holds.
    Any(Vec<Condition>),
}

impl Property {
    /// It is below a number.
    pub fn below(self, number: impl Into<f64>) -> Condition {
        Condition::Compare(self, Order::Below, number.into())
    }

    /// It is a number at most.
    pub fn at_most(self, number: impl Into<f64>) -> Condition {
        Condition::Compare(self, Order::AtMost, number.into())
    }

    /// It is a number at least.
    pub fn at_least(self, number: impl Into<f64>) -> Condition {
        Condition::Compare(self, Order::AtLeast, number.into())
    }

    /// It is above a number.
    pub fn above(self, number: impl Into<f64>) -> Condition {
        Condition::Compare(self, Order::Above, number.into())
    }

    /// It is within a range, its end not included.
    pub fn within<T: Into<f64>>(self, range: Range<T>) -> Condition {
        Condition::Within(self, range.start.into(), range.end.into())
    }
}

impl BitAnd for Condition {
    type Output = Condition;

    /// Both hold.
    fn bitand(self, other: Condition) -> Condition {
        match self {
            Condition::All(mut all) => {
                all.push(other);
                Condition::All(all)
            }
            one => Condition::All(vec![one, other]),
        }
    }
}

impl BitOr for Condition {
    type Output = Condition;

    /// At least one holds.
    fn bitor(self, other: Condition) -> Condition {
        match self {
            Condition::Any(mut any) => {
                any.push(other);
                Condition::Any(any)
            }
            one => Condition::Any(vec![one, other]),
        }
    }
}

impl Not for Condition {
    type Output = Condition;

    /// It does not hold.
    fn not(self) -> Condition {
        Condition::Not(Box::new(self))
    }
}

impl Condition {
    /// The words that stand for a condition of their own, with their spelling.
    pub const WORDS: [(&'static str, Condition); 6] = [
        ("portrait", Condition::Portrait),
        ("landscape", Condition::Landscape),
        ("touch", Condition::Touch),
        ("left_to_right", Condition::LeftToRight),
        ("right_to_left", Condition::RightToLeft),
        ("everywhere", Condition::Everywhere),
    ];

    /// The conditions that it is made of, each about one thing.
    pub fn parts(&self) -> Vec<&Condition> {
        match self {
            Condition::Not(of) => of.parts(),
            Condition::All(of) | Condition::Any(of) => of.iter().flat_map(Condition::parts).collect(),
            one => vec![one],
        }
    }

    /// How deep conditions stand within it, itself counted.
    pub(crate) fn nesting(&self) -> usize {
        let (mut deepest, mut waiting) = (0, vec![(self, 1)]);
        while let Some((condition, depth)) = waiting.pop() {
            deepest = deepest.max(depth);
            match condition {
                Condition::Not(of) => waiting.push((of, depth + 1)),
                Condition::All(of) | Condition::Any(of) => waiting.extend(of.iter().map(|c| (c, depth + 1))),
                _ => {}
            }
        }
        deepest
    }

    /// Drops it without recursion, however deep it is.
    pub(crate) fn dismantle(self) {
        let mut waiting = vec![self];
        while let Some(condition) = waiting.pop() {
            match condition {
                Condition::Not(of) => waiting.push(*of),
                Condition::All(of) | Condition::Any(of) => waiting.extend(of),
                _ => {}
            }
        }
    }

    /// The numbers at which a condition about one property or parameter begins or ends; `None` for any other.
    pub fn borders(&self) -> Option<(Tested<'_>, Vec<f64>)> {
        match *self {
            Condition::Compare(property, _, number) => Some((Tested::Property(property), vec![number])),
            Condition::Within(property, from, to) => Some((Tested::Property(property), vec![from, to])),
            Condition::Parameter(ref of, _, number) => Some((Tested::Parameter(of), vec![number])),
            Condition::ParameterWithin(ref of, from, to) => Some((Tested::Parameter(of), vec![from, to])),
            _ => None,
        }
    }

    /// Conditions that begin or end where this one does, each at one place at most as any one measure of the display grows.
    pub fn halves(&self) -> Vec<Condition> {
        let at_least = |number: &f64| match self {
            Condition::Within(property, ..) => Condition::Compare(*property, Order::AtLeast, *number),
            Condition::ParameterWithin(of, ..) => Condition::Parameter(of.clone(), Order::AtLeast, *number),
            one => one.clone(),
        };
        match self {
            Condition::Within(_, from, to) | Condition::ParameterWithin(_, from, to) => {
                [from, to].map(at_least).into()
            }
            one => vec![one.clone()],
        }
    }

    /// The parameters that it looks at.
    pub(crate) fn parameters_mut(&mut self) -> Vec<&mut TestedParameter> {
        match self {
            Condition::Parameter(of, ..) | Condition::ParameterWithin(of, ..) => vec![of],
            Condition::Not(of) => of.parameters_mut(),
            Condition::All(of) | Condition::Any(of) => {
                of.iter_mut().flat_map(Condition::parameters_mut).collect()
            }
            _ => Vec::new(),
        }
    }

    /// The numbers in it.
    pub(crate) fn numbers(&self) -> Vec<f64> {
        self.parts().into_iter().filter_map(Condition::borders).flat_map(|(_, numbers)| numbers).collect()
    }

    /// Whether it holds on a display.
    pub fn holds(&self, display: &Display) -> bool {
        self.holds_for(&Sample::of(display))
    }

    fn holds_for(&self, at: &Sample<'_>) -> bool {
        match self {
            Condition::Compare(property, order, number) => {
                order.holds(at.values[*property as usize], *number)
            }
            Condition::Parameter(of, order, number) => order.holds(at.parameter(of), *number),
            Condition::ParameterWithin(of, from, to) => (*from..*to).contains(&at.parameter(of)),
            Condition::Within(property, from, to) => (*from..*to).contains(&at.values[*property as usize]),
            Condition::Portrait => at.values[1] >= at.values[0],
            Condition::Landscape => at.values[1] < at.values[0],
            Condition::Touch => at.touch,
            Condition::LeftToRight => at.direction == Direction::LeftToRight,
            Condition::RightToLeft => at.direction == Direction::RightToLeft,
            Condition::State { state, shown, first } => {
                at.states.get(state.as_str()).map_or(*first, |named| named == shown)
            }
            Condition::Everywhere => true,
            Condition::Not(inner) => !inner.holds_for(at),
            Condition::All(parts) => parts.iter().all(|p| p.holds_for(at)),
            Condition::Any(parts) => parts.iter().any(|p| p.holds_for(at)),
        }
    }

    /// The numbers that it compares each property with.
    fn thresholds(&self, into: &mut [Vec<f64>; PROPERTIES]) {
        match self {
            Condition::Compare(property, _, number) => into[*property as usize].push(*number),
            Condition::Within(property, from, to) => into[*property as usize].extend([*from, *to]),
            Condition::Portrait | Condition::Landscape => into[Property::Aspect as usize].push(1.0),
            Condition::Not(inner) => inner.thresholds(into),
            Condition::All(parts) | Condition::Any(parts) => parts.iter().for_each(|p| p.thresholds(into)),
            Condition::Touch
            | Condition::LeftToRight
            | Condition::RightToLeft
            | Condition::Everywhere
            | Condition::State { .. }
            | Condition::Parameter(..)
            | Condition::ParameterWithin(..) => {}
        }
    }
}

/// How many properties there are.
const PROPERTIES: usize = Property::SPELLINGS.len();

/// What conditions look at.
#[derive(Clone, Debug)]
struct Sample<'a> {
    values: [f64; PROPERTIES],
    touch: bool,
    direction: Direction,
    /// The alternatives that are named, by state.
    states: HashMap<&'a str, &'a str>,
    /// What parameters are, those that are set.
    parameters: Set<'a>,
}

/// What parameters are set to.
#[derive(Clone, Copy, Debug)]
enum Set<'a> {
    On(&'a Display),
    Chosen(&'a [(&'a str, f64)]),
}

impl<'a> Sample<'a> {
    fn of(display: &'a Display) -> Self {
        Self {
            values: [
                display.width(),
                display.height(),
                display.safe_width(),
                display.safe_height(),
                display.density(),
                display.text_scale(),
                display.width() / display.height(),
            ],
            touch: display.is_touch(),
            direction: display.direction(),
            states: display.states().collect(),
            parameters: Set::On(display),
        }
    }

    fn parameter(&self, of: &TestedParameter) -> f64 {
        let set = match self.parameters {
            Set::On(display) => display.parameter(&of.name),
            Set::Chosen(all) => all.iter().find(|(name, _)| *name == of.name).map(|(_, number)| *number),
        };
        set.unwrap_or(of.usual)
    }
}

/// Which conditions hold at once, for one kind of display: one flag each, and the direction.
pub(crate) type Holding = (Vec<bool>, Direction);

/// The most kinds of display that the conditions of one screen may tell apart.
const MAX_CELLS: usize = 20_000;

/// Every combination of conditions that some display meets: one sample is taken from each cell
/// between the numbers that the conditions name. `None` where there are too many.
pub(crate) fn combinations(conditions: &[&Condition], states: &[State]) -> Option<Vec<Holding>> {
    let mut thresholds: [Vec<f64>; PROPERTIES] = Default::default();
    for condition in conditions {
        condition.thresholds(&mut thresholds);
    }
    let [widths, heights, safe_widths, safe_heights, densities, scales, aspects] = &thresholds;
    // The screen is at least as large as its safe area, so it is cut where that is too.
    let mut widths: Vec<f64> = widths.iter().chain(safe_widths).copied().collect();
    let heights: Vec<f64> = heights.iter().chain(safe_heights).copied().collect();
    // An aspect compares the sides. Between the widths at which it meets a height, all heights at which it
    // changes keep their order.
    widths.extend(heights.iter().flat_map(|height| aspects.iter().map(move |aspect| aspect * height)));
    let sizes = samples(widths).into_iter().flat_map(|width| {
        let cut = heights.iter().copied().chain(aspects.iter().map(|aspect| width / aspect)).collect();
        samples(cut).into_iter().map(move |height| (width, height)).collect::<Vec<_>>()
    });
    let sizes: Vec<(f64, f64)> = sizes.take(MAX_CELLS + 1).collect();
    let safe = [safe_widths, safe_heights].map(|of| cells(of.clone()));
    let [densities, scales] = [densities, scales].map(|of| samples(of.clone()));
    let (shown, set) = (alternatives(states)?, parameters(conditions)?);
    let parts =
        safe.iter().map(Vec::len).chain([densities.len(), scales.len(), sizes.len(), shown.len(), set.len()]);
    let count =
        parts.into_iter().try_fold(4_usize, usize::checked_mul).filter(|count| *count <= MAX_CELLS)?;
    let mut found = BTreeSet::new();
    for cell in 0..count {
        let mut rest = cell / 4;
        let mut next = |of: usize| {
            let index = rest % of;
            rest /= of;
            index
        };
        let (width, height) = sizes[next(sizes.len())];
        let [safe_width, safe_height] = safe.each_ref().map(|of| of[next(of.len())]);
        let (density, scale) = (densities[next(densities.len())], scales[next(scales.len())]);
        let states = shown[next(shown.len())].clone();
        let parameters = Set::Chosen(&set[next(set.len())]);
        // The safe area is never larger than the screen: where a cell only begins within it, a number there
        // is taken.
        let (Some(safe_width), Some(safe_height)) = (safe_width.within(width), safe_height.within(height))
        else {
            continue;
        };
        let values = [width, height, safe_width, safe_height, density, scale, width / height];
        let direction = if cell % 2 == 0 { Direction::LeftToRight } else { Direction::RightToLeft };
        let sample = Sample { values, touch: cell % 4 < 2, direction, states, parameters };
        found.insert((conditions.iter().map(|c| c.holds_for(&sample)).collect(), direction));
    }
    Some(found.into_iter().collect())
}

/// Every choice of one alternative for each state; `None` where there are too many.
fn alternatives(states: &[State]) -> Option<Vec<HashMap<&str, &str>>> {
    let mut all = vec![HashMap::new()];
    for state in states {
        all = all
            .into_iter()
            .flat_map(|known| {
                state.alternatives.iter().map(move |shown| {
                    let mut with = known.clone();
                    with.insert(state.name.as_str(), shown.as_str());
                    with
                })
            })
            .collect();
        if all.len() > MAX_CELLS {
            return None;
        }
    }
    Some(all)
}

/// Every choice of numbers for the parameters that conditions look at, one from each interval that they tell apart; `None`
/// where there are too many.
fn parameters<'a>(conditions: &[&'a Condition]) -> Option<Vec<Vec<(&'a str, f64)>>> {
    let mut cuts: BTreeMap<&str, Vec<f64>> = BTreeMap::new();
    for part in conditions.iter().flat_map(|condition| condition.parts()) {
        let Some((Tested::Parameter(of), numbers)) = part.borders() else { continue };
        let (from, to) = of.range;
        let within = numbers.into_iter().filter(|number| (from..=to).contains(number));
        cuts.entry(&of.name).or_default().extend(within.chain([from, to]));
    }
    let mut all = vec![Vec::new()];
    for (name, mut cuts) in cuts {
        cuts.sort_by(f64::total_cmp);
        cuts.dedup();
        let between = cuts.windows(2).map(|two| f64::midpoint(two[0], two[1])).collect::<Vec<_>>();
        let numbers = || cuts.iter().chain(&between);
        let with = |known: Vec<(&'a str, f64)>| {
            numbers()
                .map(move |number| known.iter().copied().chain([(name, *number)]).collect())
                .collect::<Vec<_>>()
        };
        all = all.into_iter().flat_map(with).collect();
        if all.len() > MAX_CELLS {
            return None;
        }
    }
    Some(all)
}

/// An interval that thresholds cut off, or a threshold: where it begins, and a number in it.
#[derive(Clone, Copy, Debug)]
struct Cell {
    from: f64,
    at: f64,
}

impl Cell {
    /// A number in it that is not above a limit.
    fn within(self, limit: f64) -> Option<f64> {
        if self.at <= limit {
            Some(self.at)
        } else {
            (self.from < limit && self.from < self.at).then(|| f64::midpoint(self.from, limit))
        }
    }
}

/// The intervals that thresholds cut off, and the thresholds themselves.
fn cells(mut thresholds: Vec<f64>) -> Vec<Cell> {
    thresholds.retain(|t| *t > 0.0);
    thresholds.sort_by(f64::total_cmp);
    thresholds.dedup();
    let mut cells = vec![Cell { from: 0.0, at: thresholds.first().map_or(1.0, |t| t / 2.0) }];
    for (i, t) in thresholds.iter().enumerate() {
        let behind = thresholds.get(i + 1).map_or(t * 2.0, |next| f64::midpoint(*t, *next));
        cells.extend([Cell { from: *t, at: *t }, Cell { from: *t, at: behind }]);
    }
    cells
}

/// A number from each of them.
fn samples(thresholds: Vec<f64>) -> Vec<f64> {
    cells(thresholds).into_iter().map(|cell| cell.at).collect()
}

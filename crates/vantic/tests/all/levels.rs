//! Levels, weights and written order in screen files: random nested screens, most of whose rules are
//! preferences that pull against one another, against a linear-programming package that is given the rules as
//! they stand in the file, line by line.

use proptest::prelude::*;
use vantic::display::Display;
use vantic::geometry::Direction;
use vantic::model::Coordinate;
use vantic::plan::{Examination, Plan};
use vantic::resolve::read;
use vantic::text::PlainText;
use vantic_testkit::stages::{Range, Relation, Rule, Stages, Terms};

const SCREEN: [f64; 2] = [320.0, 480.0];
/// Near, far and middle edges, then sizes.
const NAMES: [[&str; 4]; 2] =
    [["left", "right", "center_x", "width"], ["top", "bottom", "center_y", "height"]];

/// A side of a rule: of the screen for `None`; an index into [`NAMES`].
type Edge = (Option<usize>, usize);

/// One rule of a view, as numbers to pick from.
#[derive(Clone, Debug)]
struct Wish {
    axis: usize,
    edge: usize,
    of: (usize, usize, bool),
    share: usize,
    by: i32,
    relation: usize,
    level: u32,
    weight: u32,
}

fn wish() -> impl Strategy<Value = Wish> {
    let level = prop_oneof![3 => Just(0_u32), 2 => Just(1), 2 => Just(2), 4 => Just(3)];
    let weight = prop_oneof![4 => Just(1_u32), 1 => Just(2), 1 => Just(3)];
    (
        0_usize..2,
        0_usize..4,
        (0_usize..9, 0_usize..4, any::<bool>()),
        0_usize..4,
        -12_i32..13,
        0_usize..5,
        level,
        weight,
    )
        .prop_map(|(axis, edge, of, share, by, relation, level, weight)| Wish {
            axis,
            edge,
            of,
            share,
            by: 4 * by,
            relation,
            level,
            weight,
        })
}

/// A view: what it is in (an earlier view or none), its rules, and how many of them stand before the views in it.
#[derive(Clone, Debug)]
struct Seed {
    holder: usize,
    wishes: Vec<Wish>,
    before: usize,
}

fn seeds() -> impl Strategy<Value = Vec<Seed>> {
    let seed = (0_usize..9, prop::collection::vec(wish(), 2..8), 0_usize..8)
        .prop_map(|(holder, wishes, before)| Seed { holder, wishes, before });
    prop::collection::vec(seed, 2..6)
}

/// A screen file as it grows, with the same rules for the package.
struct Written<'a> {
    seeds: &'a [Seed],
    text: String,
    rules: Vec<Rule>,
    declared: Vec<usize>,
}

impl Written<'_> {
    fn holder(&self, view: usize) -> Option<usize> {
        let holder = self.seeds[view].holder % (view + 1);
        (holder < view).then_some(holder)
    }

    fn path(&self, view: usize) -> String {
        match self.holder(view) {
            Some(holder) => format!("{}.v{view}", self.path(holder)),
            None => format!("v{view}"),
        }
    }

    fn children(&mut self, of: Option<usize>) {
        for view in (0..self.seeds.len()).filter(|&v| self.holder(v) == of).collect::<Vec<_>>() {
            self.declared.push(view);
            self.text += &format!("view v{view} {{\n");
            let Seed { wishes, before, .. } = &self.seeds[view];
            let (first, rest) = wishes.split_at((*before).min(wishes.len()));
            first.iter().for_each(|wish| self.rule(view, wish));
            self.children(Some(view));
            rest.iter().for_each(|wish| self.rule(view, wish));
            self.text += "}\n";
        }
    }

    fn rule(&mut self, view: usize, wish: &Wish) {
        let Wish { axis, edge, by, .. } = *wish;
        let (of, other_edge, other_axis) = wish.of;
        // Only what stands further up is read, or the screen.
        let of = (of % (view + 1) < view).then_some(of % (view + 1));
        let is_size = edge == 3;
        let (other, factor) = match (is_size, wish.share) {
            (false, _) => (Some((of, other_edge % 3)), 1.0),
            (true, 0 | 1) => (None, 0.0),
            (true, 2) => (Some((of, 3)), 1.0),
            (true, _) => (Some((of, 3)), 0.4),
        };
        let by = if other.is_none() { by.abs() } else { by };
        let other_axis = if is_size && other_axis { 1 - axis } else { axis };
        let (relation, sign) = match wish.relation {
            0 | 1 => (Relation::Equal, "="),
            2 => (Relation::AtMost, "<="),
            _ => (Relation::AtLeast, ">="),
        };
        let right = match other {
            None => by.to_string(),
            Some((of, edge)) => {
                let place = of.map_or_else(|| "screen".to_owned(), |of| self.path(of));
                let sum = if by < 0 { format!("- {}", -by) } else { format!("+ {by}") };
                format!("{factor} * {place}.{} {sum}", NAMES[other_axis][edge])
            }
        };
        let strength = match wish.level {
            0 => String::new(),
            level => format!(" ~ {} weight {}", ["", "firm", "calm", "loose"][level as usize], wish.weight),
        };
        self.text += &format!("{} {sign} {right}{strength}\n", NAMES[axis][edge]);
        let (mut terms, mut constant) = linear((Some(view), edge), axis, 1.0);
        if let Some((of, edge)) = other {
            let (more, fixed) = linear((of, edge), other_axis, -factor);
            terms.extend(more);
            constant += fixed;
        }
        let weight = if wish.level == 0 { 1.0 } else { f64::from(wish.weight) };
        self.rules.push(Rule {
            terms,
            constant: constant - f64::from(by),
            relation,
            level: wish.level,
            weight,
        });
    }
}

/// An edge or size in the four variables of a view, times a factor.
fn linear((of, edge): Edge, axis: usize, factor: f64) -> (Terms, f64) {
    let [near, size] = [[1.0, 0.0], [1.0, 1.0], [1.0, 0.5], [0.0, 1.0]][edge];
    match of {
        Some(view) => {
            let terms = [(4 * view + axis, near * factor), (4 * view + 2 + axis, size * factor)];
            (terms.into_iter().filter(|t| t.1 != 0.0).collect(), 0.0)
        }
        None => (Vec::new(), size * factor * SCREEN[axis]),
    }
}

fn is_wide((low, high): &Range) -> bool {
    !matches!((low, high), (Some(low), Some(high)) if high - low < 1e-3)
}

proptest! {
    #![proptest_config(vantic_testkit::cases(40))]

    /// Frames, what is open and what is tied are what the package finds with the rules in written order.
    #[test]
    fn rules_count_by_level_and_weight_and_in_written_order(seeds in seeds(), mirrored in any::<bool>()) {
        let mut written = Written { seeds: &seeds, text: String::new(), rules: Vec::new(), declared: Vec::new() };
        written.children(None);
        let source = format!("screen s {{\nladder firm > calm > loose\n{}}}\n", written.text);
        let plan = Plan::new(read(&source).unwrap_or_else(|e| panic!("{e}\n{source}")).screen).unwrap();
        let direction = if mirrored { Direction::RightToLeft } else { Direction::LeftToRight };
        let display = Display::new(SCREEN[0], SCREEN[1]).unwrap().with_direction(direction);
        let Examination { placement, free, .. } = plan.examine(&display, &PlainText).unwrap();

        let nonnegative = (0..4 * seeds.len()).map(|v| v % 4 >= 2).collect();
        let mut stages = Stages::new(nonnegative, written.rules.clone());
        for level in 0..4 {
            prop_assume!(stages.level(level).is_some());
        }
        let ranges = |stages: &mut Stages| -> Vec<Range> {
            (0..4 * seeds.len()).map(|v| stages.range(&[(v, 1.0)])).collect()
        };
        prop_assume!(stages.own(true).is_some());
        let among_best = ranges(&mut stages);
        prop_assume!(stages.own(false).is_some());
        let after = ranges(&mut stages);
        for view in 0..seeds.len() {
            let id = plan.screen().find(&written.path(view)).unwrap();
            for (part, coordinate) in [Coordinate::Left, Coordinate::Top, Coordinate::Width, Coordinate::Height].into_iter().enumerate() {
                let v = 4 * view + part;
                let expected = match (is_wide(&after[v]), is_wide(&among_best[v])) {
                    (true, _) => Some((false, after[v])),
                    (false, true) => Some((true, among_best[v])),
                    _ => None,
                };
                let found = free.iter().find(|f| f.view == id && f.coordinate == coordinate);
                let found = found.map(|f| (f.tied, (f.range[0], f.range[1])));
                let same = match (found, expected) {
                    (Some((tied, range)), Some((is_tied, expected))) => {
                        let near = |a: Option<f64>, b: Option<f64>| match (a, b) {
                            (Some(a), Some(b)) => (a - b).abs() < 1e-3,
                            (a, b) => a.is_none() && b.is_none(),
                        };
                        tied == is_tied && near(range.0, expected.0) && near(range.1, expected.1)
                    }
                    (found, expected) => found.is_none() && expected.is_none(),
                };
                prop_assert!(same, "v{view}.{coordinate:?}: {found:?}, expected {expected:?}\n{source}");
            }
        }
        for &view in &written.declared {
            let holder = written.holder(view);
            let near = |axis: usize| {
                let mirror = mirrored && axis == 0;
                let (mut terms, _) = linear((Some(view), usize::from(mirror)), axis, 1.0);
                let (more, fixed) = linear((holder, usize::from(mirror)), axis, -1.0);
                terms.extend(more);
                (terms, -fixed)
            };
            for axis in 0..2 {
                let (terms, target) = near(axis);
                stages.settle(&terms, target);
            }
            let sizes = [2, 3].map(|size| stages.settle(&[(4 * view + size, 1.0)], 0.0));
            let at = [0, 1].map(|axis| stages.settle(&[(4 * view + axis, 1.0)], 0.0));
            let frame = placement.frame(plan.screen().find(&written.path(view)).unwrap()).unwrap();
            let is = [frame.left, frame.top, frame.width, frame.height];
            let expected = [at[0], at[1], sizes[0], sizes[1]];
            let off = is.iter().zip(expected).any(|(is, expected)| (is - expected).abs() > 1e-3);
            prop_assert!(!off, "v{view} is {is:?}, expected {expected:?}\n{source}");
        }
    }
}

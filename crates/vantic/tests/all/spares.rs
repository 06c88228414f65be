//! Lists that read one another: as many children as fit, by arithmetic alone.

use proptest::prelude::*;
use vantic::display::Display;
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::PlainText;

/// A row or column of children that are alike: each is `own` long and `factor` of the other list besides. A
/// list that made the other's children smaller would be stretched to make them fit.
#[derive(Clone, Debug)]
struct List {
    space: f64,
    is_given: bool,
    own: f64,
    factor: f64,
    gap: f64,
    most: usize,
}

fn lists() -> impl Strategy<Value = List> {
    let factor = prop_oneof![2 => Just(0.0), 1 => Just(0.25), 1 => Just(0.125)];
    (60_i32..260, any::<bool>(), 6_i32..40, factor, 0_i32..6, 2_usize..9).prop_map(
        |(space, is_given, own, factor, gap, most)| List {
            space: f64::from(space),
            is_given,
            own: f64::from(own),
            factor,
            gap: f64::from(gap),
            most,
        },
    )
}

impl List {
    fn write(&self, [name, other, size, other_size]: [&str; 4], rest: &str) -> String {
        let sign = if self.is_given { "=" } else { "<=" };
        let Self { space, own, factor, gap, most, .. } = self;
        format!(
            "view {name} {{ {rest}; {size} {sign} {space}; {} gap {gap}
            repeat c at least 1, at most {most} {{ {size} = {own} + {factor} * {other}.{other_size}; {other_size} = 8 }} }}\n",
            if size == "width" { "row" } else { "column" }
        )
    }

    /// How long so many children are, each of this length, and the list itself.
    fn extent(&self, count: usize, each: f64) -> (f64, f64) {
        let all = count as f64 * each + (count as f64 - 1.0) * self.gap;
        (all, if self.is_given { self.space } else { all })
    }
}

/// How long the children of both lists are where so many are shown of each: `c = own + factor * other`, and the
/// other list as long as its children, or as it is given.
fn lengths(a: &List, b: &List, counts: [usize; 2]) -> [f64; 2] {
    let [n, m] = counts.map(|count| count as f64);
    // Each list is `fixed + slope * child`.
    let of = |list: &List, count: f64| match list.is_given {
        true => (list.space, 0.0),
        false => ((count - 1.0) * list.gap, count),
    };
    let ((a_fixed, a_slope), (b_fixed, b_slope)) = (of(a, n), of(b, m));
    // c = p + k (b_fixed + b_slope d), d = q + l (a_fixed + a_slope c).
    let c = (a.own + a.factor * (b_fixed + b_slope * (b.own + b.factor * a_fixed)))
        / (1.0 - a.factor * b_slope * b.factor * a_slope);
    [c, b.own + b.factor * (a_fixed + a_slope * c)]
}

proptest! {
    #![proptest_config(vantic_testkit::cases(150))]

    /// What is shown fits, and one more of either would not, unless it is said to be unsettled.
    #[test]
    fn lists_that_read_one_another_show_what_fits_or_are_unsettled(a in lists(), b in lists()) {
        let text = format!(
            "screen s {{\n{}{}}}",
            a.write(["a", "b", "width", "height"], "left = 0; top = 0; height = 40"),
            b.write(["b", "a", "height", "width"], "left = 0; top = 100; width = 40"),
        );
        let plan = Plan::new(read(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).screen).unwrap();
        let placed = plan.place(&Display::new(400.0, 600.0).unwrap(), &PlainText).unwrap();
        let shown = |list: &str, most: usize| {
            let child = |i: &usize| plan.screen().find(&format!("{list}.c[{i}]")).unwrap();
            (1..=most).filter(|i| placed.frame(child(i)).is_some()).count()
        };
        let counts = [shown("a", a.most), shown("b", b.most)];
        let fits = |counts: [usize; 2]| {
            let [c, d] = lengths(&a, &b, counts);
            [a.extent(counts[0], c).0 <= a.space + 1e-6, b.extent(counts[1], d).0 <= b.space + 1e-6]
        };
        let all_fit = |counts: [usize; 2]| fits(counts) == [true; 2];
        let is_full = |[n, m]: [usize; 2]| {
            [(n == a.most || !all_fit([n + 1, m])), (m == b.most || !all_fit([n, m + 1]))]
        };
        if !placed.unsettled.is_empty() {
            let pairs = (1..=a.most).flat_map(|n| (1..=b.most).map(move |m| [n, m]));
            let answer = pairs.into_iter().find(|&counts| all_fit(counts) && is_full(counts) == [true; 2]);
            prop_assert!(answer.is_none(), "unsettled, though {answer:?} go together\n{text}");
            return Ok(());
        }
        let is = fits(counts);
        prop_assert!((is[0] || counts[0] == 1) && (is[1] || counts[1] == 1), "{counts:?} {is:?}\n{text}");
        prop_assert_eq!(is_full(counts), [true; 2], "{:?}: one more fits\n{}", counts, text);
    }
}

//! `max`, `min` and `clamp` against every choice tried one by one: each choice is a screen of linear
//! rules, in which the chosen argument stands for the whole and is on the right side of the others.

use proptest::prelude::*;
use vantic::display::Display;
use vantic::model::{
    Coordinates, Expr, LevelId, RuleDraft, RuleRef, SCREEN, Screen, ScreenBuilder, ViewId, clamp, max, min,
};
use vantic::plan::{Placement, Plan};
use vantic::text::PlainText;

/// How a screen is built: with its picks, or with one argument of each in their place.
#[derive(Default)]
struct Making {
    chosen: Option<Vec<usize>>,
    /// How many picks there were so far.
    met: usize,
    /// What holds of the chosen arguments.
    dominance: Vec<RuleDraft>,
}

impl Making {
    fn pick(&mut self, greatest: bool, a: Expr, b: Expr) -> Expr {
        let index = self.met;
        self.met += 1;
        let Some(chosen) = &self.chosen else {
            return if greatest { max([a, b]) } else { min([a, b]) };
        };
        let (taken, other) = if chosen[index] == 0 { (a, b) } else { (b, a) };
        self.dominance.push(if greatest {
            taken.clone().at_least(other)
        } else {
            taken.clone().at_most(other)
        });
        taken
    }

    fn clamp(&mut self, value: Expr, least: Expr, most: Expr) -> Expr {
        if self.chosen.is_none() {
            self.met += 2;
            return clamp(value, least, most);
        }
        let held = self.pick(false, value, most);
        self.pick(true, least, held)
    }
}

#[derive(Clone, Debug)]
struct Told {
    shape: u8,
    of: [u8; 3],
    numbers: [f64; 3],
    level: u8,
    wish: Option<(f64, u8)>,
    anchored: u8,
}

fn told() -> impl Strategy<Value = Told> {
    let number = || (-6_i8..30).prop_map(|n| f64::from(n) * 10.0);
    (
        0_u8..6,
        any::<[u8; 3]>(),
        [number(), number(), number()],
        0_u8..4,
        0_u8..4,
        (number(), 0_u8..3, any::<bool>()),
    )
        .prop_map(|(shape, of, numbers, level, anchored, (wish, at, has))| Told {
            shape,
            of,
            numbers,
            level,
            wish: has.then_some((wish, at)),
            anchored,
        })
}

fn part(kind: u8, number: f64, own: ViewId, before: Option<ViewId>) -> Expr {
    match (kind % 6, before) {
        (0, Some(b)) => b.right() + number / 4.0,
        (1, Some(b)) => b.width() * 0.5 + number,
        (2, _) => SCREEN.width() * 0.4 - number,
        (3, _) => own.height() + number,
        (4, Some(b)) => b.height() * 2.0,
        // A rule may not compare numbers only; the screen's left edge is zero.
        _ => SCREEN.left() + number,
    }
}

/// Views in a row whose edges and sizes are picked; also how many picks there are.
fn build(all: &[Told], making: &mut Making) -> Screen {
    let mut s = ScreenBuilder::new("picked");
    let levels = s.ladder(["fit", "rhythm", "polish"]);
    let mut before = None;
    for (i, told) in all.iter().enumerate() {
        let view = s.view(&format!("v{i}"));
        let [a, b, c] = [0, 1, 2].map(|k| part(told.of[k], told.numbers[k], view, before));
        let picked = match told.shape {
            0 => making.pick(true, a, b),
            1 => making.pick(false, a, b),
            2 => making.clamp(a, b, c),
            3 => {
                let inner = making.pick(false, a, b) + 8.0;
                making.pick(true, inner, c)
            }
            4 => making.pick(true, a.clone(), b.clone()) - making.pick(false, a, b) * 0.5,
            _ => -making.pick(true, a, b) + 40.0,
        };
        let level = |at: u8| levels.get(usize::from(at)).copied();
        let strong = |d: RuleDraft, l: Option<LevelId>| l.map_or(d.clone(), |l| d.prefer(l));
        let rule = match told.anchored {
            0 => view.width().equals(picked),
            1 => view.left().equals(picked),
            2 => view.width().at_most(picked),
            _ => view.right().at_least(picked),
        };
        s.rule(view, strong(rule, level(told.level)));
        if let Some((wish, at)) = told.wish {
            s.rule(view, strong(view.width().equals(wish), level(at.max(told.level))));
            s.rule(view, strong(view.left().equals(wish * 0.5), level((at + 1).max(told.level))));
        }
        s.rule(view, view.height().equals(told.numbers[0].abs() + 1.0));
        s.rule(view, view.top().equals(0.0));
        before = Some(view);
    }
    let last = before.unwrap();
    for rule in std::mem::take(&mut making.dominance) {
        s.rule(last, rule);
    }
    s.finish().unwrap()
}

/// Weighted violations of the preferences, level by level; the required rules first.
fn totals(screen: &Screen, p: &Placement) -> Vec<f64> {
    let mut totals = vec![0.0; screen.levels().len() + 1];
    totals[0] = p.broken.iter().map(|m| m.by).sum();
    for missed in &p.missed {
        let level = missed.rule.level(screen).unwrap();
        let at = screen.levels().iter().position(|l| l == level).unwrap();
        totals[at + 1] += missed.by;
    }
    totals
}

/// A screen of only these rules, all of which are required rules of one relation.
fn with_only(screen: &Screen, rules: &[RuleRef]) -> String {
    let mut text = String::from("screen s {\n");
    for (view, about) in screen.views() {
        text += &format!("view {} {{\n", about.name());
        for (id, rule) in screen.rules().filter(|(_, r)| r.owner() == Some(view)) {
            if rules.contains(&RuleRef::Written { rule: id, relation: 0 }) {
                let relation = &rule.relations()[0];
                text += &format!("{}\n", screen.relation_text(relation, Some(view)));
            }
        }
        text += "}\n";
    }
    text + "}\n"
}

/// Many views that each contradict themselves in a way of their own: each contradiction is reported, and no
/// view is in that of another.
#[test]
fn contradictions_of_many_views_with_choices_stay_apart() {
    let row = |i: usize| {
        format!(
            "view a{i} {{ left = 0; top = {i}; height = 20; width = clamp(30% of screen.width, 40, 90) }}
             view b{i} {{ left = a{i}.right; top = {i}; width = max(a{i}.width, 60); height = min(width, 50); height = 61 + {i} }}\n"
        )
    };
    let count = 10;
    let text = format!("screen s {{\n{}}}", (0..count).map(row).collect::<String>());
    let plan = Plan::new(vantic::resolve::read(&text).unwrap().screen).unwrap();
    let examined = plan.examine(&Display::new(200.0, 400.0).unwrap(), &PlainText).unwrap();
    assert_eq!(examined.contradictions.len(), count);
    for (i, contradiction) in examined.contradictions.iter().enumerate() {
        let names: Vec<String> = contradiction.rules.iter().map(|r| r.name(plan.screen())).collect();
        assert_eq!(names, [format!("b{i}#4"), format!("b{i}#5")]);
        // At most 50 against 61 and more.
        assert!((contradiction.amount - (11.0 + i as f64)).abs() < 1e-6, "{contradiction:?}");
    }
}

fn better(a: &[f64], b: &[f64]) -> bool {
    a.iter().zip(b).find(|(a, b)| (*a - *b).abs() > 1e-4).is_some_and(|(a, b)| a < b)
}

/// Rows whose width is the greater of two, wished to be wider; `fixed` says how the first is meant.
fn rows(count: usize, fixed: &str) -> String {
    let row = |i: usize| {
        format!(
            "view r{i} {{ left = 0; top = {i}; height = 1; width = max(a{i}.width, 30); width = 80 ~ fit }}\nview a{i} {{ left = 100; top = {i}; height = 1; width = 50{fixed} }}\n"
        )
    };
    format!("screen s {{\nladder fit > polish\n{}}}", (0..count).map(row).collect::<String>())
}

#[test]
fn what_required_rules_decide_needs_no_search_and_too_much_is_reported() {
    let display = Display::new(400.0, 400.0).unwrap();
    let look = |count: usize, fixed: &str| {
        let plan = Plan::new(vantic::resolve::read(&rows(count, fixed)).unwrap().screen).unwrap();
        vantic::check::check(&plan, std::slice::from_ref(&display), &PlainText).unwrap()
    };
    let widths = |report: &vantic::check::Report| -> Vec<f64> {
        report.placements[0].frames.iter().flatten().map(|f| f.width).collect()
    };
    // The first counts, whatever is wished for.
    let known = look(300, "");
    assert!(!known.placements[0].hit_work_limit && widths(&known).iter().all(|w| *w == 50.0));
    // Where the first may grow it does, since that wish is weaker.
    let few = look(20, " ~ polish");
    assert!(!few.placements[0].hit_work_limit && widths(&few).iter().all(|w| *w == 80.0));
    let many = look(210, " ~ polish");
    assert!(many.placements[0].hit_work_limit && widths(&many).iter().all(|w| w.is_finite() && *w >= 0.0));
    assert!(many.findings.iter().any(|f| f.code == vantic::model::Code::Unsettled));
}

proptest! {
    #![proptest_config(vantic_testkit::cases(200))]

    /// Required rules are contradictory only if no choice lets them hold, and each of them is needed for
    /// that.
    #[test]
    fn contradictions_cannot_be_made_smaller(
        all in prop::collection::vec(told(), 1..7),
        width in 100_u32..900,
    ) {
        // All required rules, so that there is something to find.
        let all: Vec<Told> = all.into_iter().map(|t| Told { level: 9, ..t }).collect();
        let display = Display::new(f64::from(width), 600.0).unwrap();
        let plan = Plan::new(build(&all, &mut Making::default())).unwrap();
        let examined = plan.examine(&display, &PlainText).unwrap();
        let holds = |rules: &[RuleRef]| {
            let text = with_only(plan.screen(), rules);
            let plan = Plan::new(vantic::resolve::read(&text).unwrap().screen).unwrap();
            plan.place(&display, &PlainText).unwrap().broken.is_empty()
        };
        prop_assert_eq!(examined.contradictions.is_empty(), examined.placement.broken.is_empty());
        for contradiction in &examined.contradictions {
            let rules = &contradiction.rules;
            prop_assert!(!holds(rules), "{:?} can hold\n{}", rules, plan.screen());
            prop_assert!(contradiction.amount > 1e-7);
            for (i, _) in rules.iter().enumerate() {
                let others: Vec<RuleRef> = [&rules[..i], &rules[i + 1..]].concat();
                prop_assert!(holds(&others), "{:?} is enough\n{}", others, plan.screen());
            }
        }
    }

    /// What is placed is as good, level by level, as the best of all choices; and it is one of them.
    #[test]
    fn no_choice_is_better(all in prop::collection::vec(told(), 1..4), width in 100_u32..900) {
        let display = Display::new(f64::from(width), 600.0).unwrap();
        let mut making = Making::default();
        let plan = Plan::new(build(&all, &mut making)).unwrap();
        let placed = plan.place(&display, &PlainText).unwrap();
        prop_assert!(!placed.hit_work_limit);
        let found = totals(plan.screen(), &placed);
        let mut best: Option<Vec<f64>> = None;
        for number in 0..1_usize << making.met {
            let chosen = (0..making.met).map(|i| (number >> i) & 1).collect();
            let mut linear = Making { chosen: Some(chosen), ..Making::default() };
            let one = Plan::new(build(&all, &mut linear)).unwrap();
            let placed = one.place(&display, &PlainText).unwrap();
            let of = totals(one.screen(), &placed);
            if best.as_ref().is_none_or(|b| better(&of, b)) {
                best = Some(of);
            }
        }
        let best = best.unwrap();
        if best[0] < 1e-6 {
            let same = found.iter().zip(&best).all(|(a, b)| (a - b).abs() < 1e-4);
            prop_assert!(same, "{:?} instead of {:?}\n{}", found, best, plan.screen());
        } else {
            // The linear screens break what holds of the chosen arguments too; ours never does.
            prop_assert!(found[0] > 1e-6, "{:?} instead of {:?}\n{}", found, best, plan.screen());
        }
        // Printed and read back it is the same screen.
        let again = vantic::resolve::read(&plan.screen().to_string()).unwrap().screen;
        prop_assert_eq!(&again, plan.screen());
    }
}

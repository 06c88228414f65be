// The screens that are measured: forms, lists, dashboards with nested groups, pictures whose
// height follows their width. About one rule in five is an inequality or a preference, and rules
// that have to be searched hang together in knots of at most 50.

use vantic_solver::{
    Affine, Level, Linear, ParamId, Problem, ProblemBuilder, Relation, RuleId, Settle, VarId,
};

/// A screen to be measured.
#[derive(Clone, Debug)]
pub struct Workload {
    /// The rules.
    pub problem: Problem,
    /// Parameter values at the size it starts with: width, height, insets, content sizes.
    pub params: Vec<f64>,
    /// How many views there are.
    pub views: usize,
    /// A rule whose constant moves a handful of views.
    pub local_rule: RuleId,
    /// A rule whose constant moves every view.
    pub global_rule: RuleId,
}

#[derive(Clone, Copy)]
struct View {
    left: VarId,
    top: VarId,
    width: VarId,
    height: VarId,
}

impl View {
    fn right(self) -> Linear {
        Linear::of(self.left).plus_var(self.width, 1.0)
    }

    fn bottom(self) -> Linear {
        Linear::of(self.top).plus_var(self.height, 1.0)
    }

    fn middle(self) -> Linear {
        Linear::of(self.top).plus_var(self.height, 0.5)
    }
}

struct Maker {
    build: ProblemBuilder,
    width: ParamId,
    height: ParamId,
    params: Vec<f64>,
    views: usize,
    seed: u64,
    rules: Vec<RuleId>,
}

impl Maker {
    /// A number from 0 to below `below`, the same at each run.
    fn number(&mut self, below: u64) -> f64 {
        self.seed = self.seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        ((self.seed >> 33) % below) as f64
    }

    fn param(&mut self, value: f64) -> ParamId {
        self.params.push(value);
        self.build.parameter()
    }

    fn rule(&mut self, expr: Linear, relation: Relation, level: u32) {
        let rule =
            self.build.rule(expr, relation, Level::preference(level), 1.0).expect("numbers are finite");
        self.rules.push(rule);
    }

    /// A required rule: both sides are equal.
    fn equal(&mut self, a: Linear, b: Linear, plus: f64) {
        self.rule(minus(a, b).plus(-plus), Relation::Equal, 0);
    }

    fn view(&mut self, parent: Option<View>) -> View {
        let b = &mut self.build;
        let view = View {
            left: b.variable(),
            top: b.variable(),
            width: b.nonnegative_variable(),
            height: b.nonnegative_variable(),
        };
        self.views += 1;
        let toward = |of: fn(View) -> VarId| parent.map_or(Linear::default(), |p| Linear::of(of(p)));
        let steps = [
            Settle::near(Linear::of(view.left), toward(|p| p.left)),
            Settle::near(Linear::of(view.top), toward(|p| p.top)),
            Settle::least(view.width),
            Settle::least(view.height),
        ];
        steps.into_iter().for_each(|s| b.settle(s).expect("the ids are this builder's"));
        view
    }

    /// A view that its content holds: at least its longest word, as wide as its words.
    fn text(&mut self, parent: View) -> View {
        let view = self.view(Some(parent));
        let wide = 40.0 + self.number(160);
        let (content, lines) = (self.param(wide), self.param(16.0));
        self.rule(Linear::of(view.width).plus(-30.0), Relation::AtLeast, 1);
        self.rule(Linear::of(view.width) - Affine::of(content), Relation::Equal, 3);
        self.equal(Linear::of(view.height) - Affine::of(lines), Linear::default(), 0.0);
        view
    }

    /// A plain view of a fixed size at the end of a row.
    fn mark(&mut self, parent: View, row: View, from_end: f64) -> View {
        let view = self.view(Some(parent));
        self.equal(Linear::of(view.width), Linear::default(), 16.0);
        self.equal(Linear::of(view.height), Linear::default(), 16.0);
        self.equal(view.right(), parent.right(), -from_end);
        self.equal(view.middle(), row.middle(), 0.0);
        view
    }

    fn form(&mut self, section: View, rows: usize) -> View {
        let mut above: Option<View> = None;
        for _ in 0..rows {
            let label = self.text(section);
            self.equal(Linear::of(label.left), Linear::of(section.left), 12.0);
            self.below(label, above, section);
            let share = 0.2 + self.number(30) / 100.0;
            self.rule(Linear::of(label.width).plus_var(section.width, -share), Relation::AtMost, 2);
            let field = self.view(Some(section));
            self.equal(Linear::of(field.left), label.right(), 8.0);
            self.equal(field.right(), section.right(), -56.0);
            self.equal(Linear::of(field.height), Linear::default(), 20.0);
            self.equal(field.middle(), label.middle(), 0.0);
            let hint = self.mark(section, label, 32.0);
            self.mark(section, hint, 12.0);
            above = Some(label);
        }
        above.unwrap_or(section)
    }

    fn list(&mut self, section: View, rows: usize) -> View {
        let mut above: Option<View> = None;
        for _ in 0..rows {
            let row = self.view(Some(section));
            self.equal(Linear::of(row.left), Linear::of(section.left), 0.0);
            self.equal(Linear::of(row.width), Linear::of(section.width), 0.0);
            self.equal(Linear::of(row.height), Linear::default(), 40.0);
            self.below(row, above, section);
            let mark = self.mark(row, row, 12.0);
            let words = self.text(row);
            self.equal(Linear::of(words.left), Linear::of(row.left), 40.0);
            self.equal(words.middle(), row.middle(), 0.0);
            self.rule(minus(words.right(), Linear::of(mark.left)).plus(8.0), Relation::AtMost, 0);
            self.mark(row, row, 36.0);
            above = Some(row);
        }
        above.unwrap_or(section)
    }

    /// Cards side by side, each with a group of its own in it.
    fn dashboard(&mut self, section: View, cards: usize) -> View {
        let mut before: Option<View> = None;
        let gaps = 8.0 * (cards + 1) as f64;
        let share = 1.0 / cards as f64;
        for _ in 0..cards {
            let card = self.view(Some(section));
            self.equal(
                Linear::of(card.width),
                Linear::default().plus_var(section.width, share),
                -gaps * share,
            );
            self.equal(Linear::of(card.height), Linear::default().plus_var(card.width, 0.6), 24.0);
            self.below(card, None, section);
            match before {
                Some(b) => self.equal(Linear::of(card.left), b.right(), 8.0),
                None => self.equal(Linear::of(card.left), Linear::of(section.left), 8.0),
            }
            let group = self.view(Some(card));
            for (a, b, by) in [
                (Linear::of(group.left), Linear::of(card.left), 6.0),
                (group.right(), card.right(), -6.0),
                (Linear::of(group.top), Linear::of(card.top), 6.0),
                (group.bottom(), card.bottom(), -6.0),
            ] {
                self.equal(a, b, by);
            }
            let dial = self.view(Some(group));
            let largest = 24.0 + self.number(60);
            self.rule(Linear::of(dial.width).plus_var(group.width, -0.4), Relation::Equal, 2);
            self.rule(Linear::of(dial.width).plus(-largest), Relation::AtMost, 0);
            self.equal(Linear::of(dial.height), Linear::of(dial.width), 0.0);
            self.equal(dial.middle(), group.middle(), 0.0);
            self.equal(
                Linear::of(dial.left).plus_var(dial.width, 0.5),
                Linear::of(group.left).plus_var(group.width, 0.5),
                0.0,
            );
            before = Some(card);
        }
        before.unwrap_or(section)
    }

    /// A picture whose height follows its width, but not beyond half the display.
    fn picture(&mut self, section: View) -> View {
        let picture = self.view(Some(section));
        self.rule(minus(Linear::of(picture.width), Linear::of(section.width)).plus(24.0), Relation::Equal, 2);
        self.equal(Linear::of(picture.height), Linear::default().plus_var(picture.width, 0.5625), 0.0);
        let share = 0.3 + self.number(20) / 100.0;
        let room = Affine::default().plus_param(self.height, share);
        self.rule(Linear::of(picture.height) - room, Relation::AtMost, 0);
        self.equal(Linear::of(picture.left), Linear::of(section.left), 12.0);
        self.below(picture, None, section);
        picture
    }

    fn below(&mut self, view: View, above: Option<View>, section: View) {
        match above {
            Some(above) => self.equal(Linear::of(view.top), above.bottom(), 8.0),
            None => self.equal(Linear::of(view.top), Linear::of(section.top), 12.0),
        }
    }
}

/// A screen of about so many views.
pub fn workload(views: usize) -> Workload {
    let mut build = ProblemBuilder::new();
    let (width, height) = (build.parameter(), build.parameter());
    let insets: [ParamId; 4] = std::array::from_fn(|_| build.parameter());
    let params = vec![703.3, 901.7, 0.0, 24.0, 0.0, 16.0];
    let mut m = Maker { build, width, height, params, views: 0, seed: 417, rules: Vec::new() };
    let page = m.view(None);
    m.equal(Linear::of(page.left) - Affine::of(insets[0]), Linear::default(), 16.0);
    let far = Affine::of(m.width).plus_param(insets[2], -1.0);
    m.equal(page.right() - far, Linear::default(), -16.0);
    m.equal(Linear::of(page.top) - Affine::of(insets[1]), Linear::default(), 16.0);
    let global_rule = m.rules[m.rules.len() - 1];
    m.equal(page.bottom() - Affine::of(m.height), Linear::default(), -16.0);
    let mut local_rule = global_rule;
    let mut above: Option<View> = None;
    let mut kind = 0;
    while m.views < views {
        let section = m.view(Some(page));
        m.equal(Linear::of(section.left), Linear::of(page.left), 0.0);
        m.equal(Linear::of(section.width), Linear::of(page.width), 0.0);
        m.below(section, above, page);
        let last = match kind % 4 {
            0 => m.form(section, 5),
            1 => m.list(section, 5),
            2 => m.dashboard(section, 4),
            _ => m.picture(section),
        };
        m.equal(section.bottom(), last.bottom(), 12.0);
        // Where a view sits at the end of its row moves that view alone.
        let aside = m.mark(section, section, 0.0);
        local_rule = m.rules[m.rules.len() - 2];
        m.rule(Linear::of(aside.width).plus(-8.0), Relation::AtLeast, 0);
        above = Some(section);
        kind += 1;
    }
    Workload { problem: m.build.build(), params: m.params, views: m.views, local_rule, global_rule }
}

/// How large the children of [`list`] and [`cells`] are, and how far apart.
const SIZE: f64 = 44.0;
const APART: f64 = 8.0;
/// How many columns the cells have.
pub const COLUMNS: usize = 5;

/// A page as wide as the display whose height comes from what it holds: the rules that a row, a column or a
/// grid of the library comes down to.
fn holder(views: usize) -> (Maker, View) {
    let mut build = ProblemBuilder::new();
    let (width, height) = (build.parameter(), build.parameter());
    let mut m = Maker { build, width, height, params: vec![703.3, 901.7], views, seed: 0, rules: Vec::new() };
    let page = m.view(None);
    m.equal(Linear::of(page.left), Linear::default(), 0.0);
    m.equal(page.right() - Affine::of(m.width), Linear::default(), 0.0);
    m.equal(Linear::of(page.top), Linear::default(), 0.0);
    (m, page)
}

/// The page is as high as its children, and no higher.
fn held(mut m: Maker, page: View, last: &[View]) -> Workload {
    for view in last {
        m.rule(minus(page.bottom(), view.bottom()).plus(-APART), Relation::AtLeast, 1);
    }
    m.rule(Linear::of(page.height), Relation::AtMost, 2);
    let rule = m.rules[0];
    Workload {
        problem: m.build.build(),
        params: m.params,
        views: m.views,
        local_rule: rule,
        global_rule: rule,
    }
}

/// So many rows below one another, as wide as the page.
pub fn list(rows: usize) -> Workload {
    let (mut m, page) = holder(rows);
    let mut above: Option<View> = None;
    for _ in 0..rows {
        let row = m.view(Some(page));
        match above {
            Some(above) => m.equal(Linear::of(row.top), above.bottom(), APART),
            None => m.equal(Linear::of(row.top), Linear::of(page.top), APART),
        }
        m.equal(Linear::of(row.left), Linear::of(page.left), APART);
        m.equal(row.right(), page.right(), -APART);
        m.equal(Linear::of(row.height), Linear::default(), SIZE);
        above = Some(row);
    }
    held(m, page, above.as_slice())
}

/// So many cells in five columns that share the width.
pub fn cells(count: usize) -> Workload {
    let (mut m, page) = holder(count);
    let share = 1.0 / COLUMNS as f64;
    let mut last = Vec::new();
    for index in 0..count {
        let (column, row) = ((index % COLUMNS) as f64, (index / COLUMNS) as f64);
        let cell = m.view(Some(page));
        // Each column and the gap behind it take a share of the width.
        let edge =
            |k: f64| Linear::of(page.left).plus_var(page.width, k * share).plus(APART * (1.0 - k * share));
        m.equal(Linear::of(cell.left), edge(column), 0.0);
        m.equal(cell.right(), edge(column + 1.0), -APART);
        m.equal(Linear::of(cell.top), Linear::of(page.top), APART + row * (SIZE + APART));
        m.equal(cell.bottom(), Linear::of(page.top), (row + 1.0) * (SIZE + APART));
        if index + COLUMNS >= count {
            last.push(cell);
        }
    }
    held(m, page, &last)
}

/// The same list as plain arithmetic: four numbers for the page, then for each row.
pub fn list_by_hand(width: f64, out: &mut [f64]) {
    let rows = out.len() / 4 - 1;
    out[..4].copy_from_slice(&[0.0, 0.0, width, APART + rows as f64 * (SIZE + APART)]);
    let mut top = APART;
    for row in out[4..].chunks_exact_mut(4) {
        row.copy_from_slice(&[APART, top, width - 2.0 * APART, SIZE]);
        top += SIZE + APART;
    }
}

/// The same cells as plain arithmetic.
pub fn cells_by_hand(width: f64, out: &mut [f64]) {
    let rows = (out.len() / 4 - 1).div_ceil(COLUMNS);
    out[..4].copy_from_slice(&[0.0, 0.0, width, APART + rows as f64 * (SIZE + APART)]);
    let pitch = (width - APART) / COLUMNS as f64;
    for (row, cells) in out[4..].chunks_mut(4 * COLUMNS).enumerate() {
        let top = APART + row as f64 * (SIZE + APART);
        for (column, cell) in cells.chunks_exact_mut(4).enumerate() {
            cell.copy_from_slice(&[APART + column as f64 * pitch, top, pitch - APART, SIZE]);
        }
    }
}

/// Widths that each ask for at least as much as the one before: one knot of so many rules.
pub fn knot(rules: usize) -> Workload {
    let mut build = ProblemBuilder::new();
    let width = build.parameter();
    let count = rules / 4;
    let vars: Vec<VarId> = (0..count).map(|_| build.nonnegative_variable()).collect();
    let mut rule = |expr: Linear, relation, level: u32| {
        build.rule(expr, relation, Level::preference(level), 1.0).expect("numbers are finite")
    };
    let mut last = None;
    for (i, pair) in vars.windows(2).enumerate() {
        let wish = 20.0 + ((i * 37) % 101) as f64;
        rule(Linear::of(pair[0]).plus(-wish), Relation::Equal, 2);
        rule(Linear::of(pair[0]).plus_var(pair[1], -1.0), Relation::AtMost, 0);
        rule(Linear::of(pair[0]).plus_var(pair[1], -0.5).plus(-10.0), Relation::AtLeast, 1);
        last = Some(rule(Linear::of(pair[0]) - Affine::of(width), Relation::AtMost, 0));
    }
    let last = last.expect("a knot has rules");
    vars.iter().for_each(|&v| build.settle(Settle::least(v)).expect("the ids are this builder's"));
    let (problem, params) = (build.build(), vec![120.0]);
    Workload { problem, params, views: count, local_rule: last, global_rule: last }
}

fn minus(a: Linear, b: Linear) -> Linear {
    b.terms().iter().fold(a, |sum, &(var, c)| sum.plus_var(var, -c)).plus(-b.number())
}

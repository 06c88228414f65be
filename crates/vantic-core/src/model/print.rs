//! A screen printed as a screen file, and rules printed as they read.

use crate::geometry::axis::Axis;
use crate::geometry::frame::Frame;
use crate::model::arrangement::{Align, Arrangement, ColumnWidth, Item, Space, Spread};
use crate::model::band::{Band, Change};
use crate::model::builder::builder::CONTENT_BOX;
use crate::model::claim::{Claim, Claimed, RANGES};
use crate::model::coordinate::{Anchor, Coordinate, Side};
use crate::model::design::Design;
use crate::model::expectation::Expected;
use crate::model::expression::{Expr, MinMax, Term};
use crate::model::guide::Guide;
use crate::model::id::{LevelId, RuleId, ViewId};
use crate::model::rule::Relation;
use crate::model::screen::Screen;
use crate::model::scroll::Overflow;
use crate::model::setting::Setting;
use crate::model::view::Paint;
use std::fmt;
use std::fmt::{Display, Formatter, Write as _};

impl Screen {
    /// What the screen claims, in written order.
    pub fn claims(&self) -> &[Claim] {
        &self.claims
    }

    /// A claim as it reads.
    pub fn claim_text(&self, claim: &Claim) -> String {
        let path = self.path(claim.view);
        let place = |place: Anchor| {
            let text = self.coordinate_text(place, Coordinate::Left, None);
            text.strip_suffix(".left").unwrap_or("screen").to_owned()
        };
        let what = match claim.what {
            Claimed::Inside(of) => format!("{path} inside {}", place(of)),
            Claimed::ClearOf(of, 0.0) => format!("{path} clear of {}", self.path(of)),
            Claimed::ClearOf(of, by) => format!("{path} clear of {} by {by}", self.path(of)),
            Claimed::Whole => format!("{path} whole"),
            Claimed::Same(coordinate) => format!("{path}.{} same", coordinate.spelling()),
        };
        match &claim.over {
            Some((along, from, to)) => {
                // A parameter is called by its name.
                let known = RANGES.iter().find(|(_, of)| of == along);
                let of = known.map_or_else(|| along.name(), |(spelling, _)| *spelling);
                format!("claim {what} for {of} {from}..{to}")
            }
            None => format!("claim {what}"),
        }
    }
}

impl Display for Screen {
    /// Prints a screen file that gives this screen again.
    fn fmt(&self, f: &mut Formatter<'_>) -> fmt::Result {
        writeln!(f, "screen {} {{", self.name)?;
        if !self.ladder.is_empty() {
            writeln!(f, "    ladder {}", self.ladder.join(" > "))?;
        }
        if let Some(Design { size, turned, scaling }) = self.design {
            let or = turned.map_or_else(String::new, |(w, h)| format!(" or ({w}, {h})"));
            let (word, share) = scaling.word();
            let share = share.map_or_else(String::new, |share| format!(" {share}"));
            writeln!(f, "    design ({}, {}){or}, {word}{share}", size.0, size.1)?;
        }
        for state in &self.states {
            writeln!(f, "    state {}: {}", state.name, state.alternatives.join(", "))?;
        }
        // Those of states are declared with them.
        for band in self.bands.iter().filter(|b| !b.name.contains('.')) {
            writeln!(f, "    band {}: {}", band.name, band.condition)?;
        }
        for value in &self.values {
            match value.range {
                Some((from, to)) => {
                    writeln!(f, "    param {} = {} in {from}..{to}", value.name, value.number)?
                }
                None => writeln!(f, "    let {} = {}", value.name, value.number)?,
            }
        }
        self.print_rules(f, None, 1)?;
        for view in declared(&self.roots, &self.guides) {
            self.print_view(f, view, 1)?;
        }
        for (band, change) in self.changes.iter() {
            let band = &self.bands[band.index()].name;
            writeln!(f, "    when {band} {{ {} }}", self.change_text(change))?;
        }
        self.print_languages(f)?;
        self.print_expectations(f)?;
        self.print_drawings(f)?;
        for claim in self.claims.iter() {
            writeln!(f, "    {}", self.claim_text(claim))?;
        }
        for a in &self.acceptances {
            writeln!(f, "    accept {}: {} {}", a.code, a.names.join(", "), quoted(&a.reason))?;
        }
        writeln!(f, "}}")
    }
}

impl Screen {
    fn print_view(&self, f: &mut Formatter<'_>, id: ViewId, depth: usize) -> fmt::Result {
        let (view, pad) = (self.at(id), "    ".repeat(depth));
        let mut settings = Vec::new();
        match (&view.text, view.image) {
            (Some(text), _) => {
                writeln!(f, "{pad}text {} {} {{", view.name, quoted(&text.words))?;
                settings.push(Setting::Font(text.font));
                settings.extend(text.line.map(Setting::Line));
                settings.extend(text.lines.map(Setting::Lines));
                settings.extend(text.style.clone().map(Setting::Style));
            }
            (None, Some(image)) => {
                writeln!(f, "{pad}image {} {{", view.name)?;
                settings.push(Setting::Natural(image.width, image.height));
            }
            (None, None) if view.guide.as_deref() == Some(&Guide::ContentBox) => {
                writeln!(f, "{pad}in {CONTENT_BOX} {{")?
            }
            (None, None) if view.guide.is_some() => writeln!(f, "{pad}guide {} {{", view.name)?,
            (None, None) => writeln!(f, "{pad}view {} {{", view.name)?,
        }
        let (paint, plain) = (view.paint, Paint::default());
        settings.extend(
            (paint.origin != plain.origin).then_some(Setting::Origin(paint.origin.0, paint.origin.1)),
        );
        settings.extend((paint.rotate != 0.0).then_some(Setting::Rotate(paint.rotate)));
        settings.extend((paint.scale != plain.scale).then_some(Setting::Scale(paint.scale.0, paint.scale.1)));
        settings.extend((view.depth != 0.0).then_some(Setting::Depth(view.depth)));
        let guide = view.guide.clone().filter(|guide| !matches!(**guide, Guide::Plain | Guide::ContentBox));
        settings.extend(guide.map(Setting::Guide));
        settings.extend(view.arrangement.clone().map(Setting::Arrange));
        settings.extend(view.scroll.map(Setting::Scroll));
        settings.extend((view.overflow != Overflow::default()).then_some(Setting::Overflow(view.overflow)));
        settings.extend((!view.stick.is_empty()).then(|| Setting::Stick(view.stick.clone())));
        settings.extend(view.whole.map(|c| Setting::Whole(c.level, c.weight)));
        settings.extend(view.snug.map(|c| Setting::Snug(c.level, c.weight)));
        settings.extend(view.item.as_deref().into_iter().flat_map(item_settings));
        settings.extend(view.control.map(|c| Setting::Control(c.least)));
        settings.extend(view.floats.then_some(Setting::Floats));
        settings.extend(view.input.then_some(Setting::Input));
        settings
            .extend((!view.only_in_bands.is_empty()).then(|| Setting::OnlyIn(view.only_in_bands.clone())));
        for setting in settings {
            writeln!(f, "{pad}    {}", self.setting_text(&setting, Some(id)))?;
        }
        self.print_rules(f, Some(id), depth + 1)?;
        let mut spaces = view.spaces.iter().peekable();
        for inner in declared(&view.children, &view.guides) {
            // What it scrolls is there once it scrolls; only its rules are to be said.
            let is_content_box = view.content_box == Some(inner);
            if is_content_box && !self.rules().any(|(_, r)| r.owner == Some(inner) && r.band.is_none()) {
                continue;
            }
            let place = self.at(inner).sibling_index;
            let is_child = self.at(inner).guide.is_none();
            while let Some((_, space)) = spaces.next_if(|s| is_child && s.0 <= place) {
                writeln!(f, "{pad}    {}", self.space_text(space, id))?;
            }
            self.print_view(f, inner, depth + 1)?;
        }
        for (_, space) in spaces {
            writeln!(f, "{pad}    {}", self.space_text(space, id))?;
        }
        writeln!(f, "{pad}}}")
    }

    fn print_languages(&self, f: &mut Formatter<'_>) -> fmt::Result {
        for language in self.languages.iter() {
            let side = if language.right_to_left { ", right to left" } else { "" };
            if language.is_own {
                writeln!(f, "    language {}{side}", language.name)?;
                continue;
            }
            writeln!(f, "    language {}{side} {{", language.name)?;
            for (view, words) in &language.words {
                writeln!(f, "        {} {}", self.path(*view), quoted(words))?;
            }
            writeln!(f, "    }}")?;
        }
        Ok(())
    }

    fn print_expectations(&self, f: &mut Formatter<'_>) -> fmt::Result {
        for expectation in self.expectations.iter() {
            writeln!(f, "    expect on {}, within {} {{", quoted(&expectation.on), expectation.within)?;
            for (view, expected) in &expectation.expected {
                let path = self.path(*view);
                match expected {
                    Expected::Frame(Frame { left, top, width, height }) => {
                        writeln!(f, "        {path} = ({left}, {top}, {width}, {height})")?;
                    }
                    Expected::One(coordinate, value) => {
                        writeln!(f, "        {path}.{} = {value}", coordinate.spelling())?;
                    }
                    Expected::Hidden => writeln!(f, "        {path} hidden")?,
                }
            }
            writeln!(f, "    }}")?;
        }
        Ok(())
    }

    fn print_drawings(&self, f: &mut Formatter<'_>) -> fmt::Result {
        for drawing in self.drawings.iter() {
            writeln!(f, "    drawing {} {{", quoted(&drawing.on))?;
            for (view, Frame { left, top, width, height }) in &drawing.frames {
                writeln!(f, "        {} = ({left}, {top}, {width}, {height})", self.path(*view))?;
            }
            writeln!(f, "    }}")?;
        }
        Ok(())
    }

    fn print_rules(&self, f: &mut Formatter<'_>, owner: Option<ViewId>, depth: usize) -> fmt::Result {
        let pad = "    ".repeat(depth);
        let own = self.rules().filter(|(_, r)| r.owner == owner && r.band.is_none());
        own.into_iter().try_for_each(|(id, _)| writeln!(f, "{pad}{}", self.rule_text(id)))
    }

    pub(crate) fn change_text(&self, change: &Change) -> String {
        let inside = |owner: Option<ViewId>, what: String| match owner {
            Some(view) => format!("in {} {{ {what} }}", self.path(view)),
            None => what,
        };
        match change {
            Change::Add(rule) => inside(self.rule_at(*rule).owner, self.rule_text(*rule)),
            Change::Drop(rule) => match &self.rule_at(*rule).label {
                Some(label) => inside(self.rule_at(*rule).owner, format!("drop {label}")),
                None => format!("drop {}", self.rule_name(*rule)),
            },
            Change::Hide { view, keep_space, instead } => {
                let keep = if *keep_space { ", keep space" } else { "" };
                let show = instead.map_or_else(String::new, |v| format!(", show {}", self.path(v)));
                format!("hide {}{keep}{show}", self.path(*view))
            }
            Change::Show(view) => format!("show {}", self.path(*view)),
            Change::Set { view, setting } => inside(Some(*view), self.setting_text(setting, Some(*view))),
            Change::Value { value, number } => {
                format!("let {} = {number}", self.values[value.index()].name)
            }
        }
    }

    /// The rule as a line of a screen file, names written for the block it stands in.
    pub fn rule_text(&self, rule: RuleId) -> String {
        let Some(r) = self.rule(rule) else { return String::new() };
        let mut line = r.label.as_ref().map_or_else(String::new, |label| format!("{label}: "));
        match r.relations.as_slice() {
            [one] => self.write_relation(&mut line, one, r.owner),
            many if many.iter().any(|m| m.strength() != many[0].strength()) => {
                line.push_str(&self.compound_text(many, r.owner));
                return line;
            }
            many => match self.pin_text(many, r.owner).or_else(|| self.pair_text(many, r.owner)) {
                Some(text) => line.push_str(&text),
                None => {
                    line.push_str(&self.compound_text(many, r.owner));
                    return line;
                }
            },
        }
        if let Some(first) = r.relations.first() {
            line.push_str(&self.strength_text(first.level, first.weight));
        }
        line
    }

    fn strength_text(&self, level: Option<LevelId>, weight: f64) -> String {
        let mut text = level.map_or_else(String::new, |l| format!(" ~ {}", self.level_name(l)));
        if weight != 1.0 {
            let _ = write!(text, " weight {weight}");
        }
        text
    }

    /// How a view arranges its children, as a line of its block.
    pub(crate) fn arrangement_text(&self, arrangement: &Arrangement, owner: Option<ViewId>) -> String {
        let Arrangement { columns, rows, gap, wrap, padding, spread, align, .. } = arrangement;
        let of = |expr: &Expr| self.expr_text(expr, owner);
        let mut clauses = Vec::new();
        if let Some(columns) = columns {
            let count = columns.count.map_or_else(String::new, |count| format!(" {count}"));
            let width = match &columns.width {
                ColumnWidth::Equal => String::new(),
                ColumnWidth::Of(width) => format!(" of {}", of(width)),
                ColumnWidth::AtLeast(width) => format!(" at least {}", of(width)),
                ColumnWidth::Snug => " snug".to_owned(),
            };
            clauses.push(format!("columns{count}{width}"));
        }
        clauses.extend(rows.as_ref().map(|height| format!("rows of {}", of(height))));
        match wrap.as_ref().filter(|_| columns.is_some()) {
            Some(rows) => clauses.push(format!("gap ({}, {})", of(gap), of(rows))),
            None if *gap != Expr::default() => clauses.push(format!("gap {}", of(gap))),
            None => {}
        }
        if padding.iter().any(|side| *side != Expr::default()) {
            clauses.push(format!("padding {}", self.sides_text(padding, owner)));
        }
        if *spread != Spread::default() {
            clauses.push(format!("spread {}", spread.spelling()));
        }
        let usual = if columns.is_some() { Align::Stretch } else { Align::Start };
        if *align != usual {
            clauses.push(format!("align {}", align.spelling()));
        }
        let lines = wrap.as_ref().filter(|_| columns.is_none());
        clauses.extend(lines.map(|by| format!("wrap by {}", of(by))));
        [arrangement.word(), &clauses.join(", ")].join(" ").trim_end().to_owned()
    }

    /// What a guide is, as a line of its block.
    pub(crate) fn guide_text(&self, guide: &Guide, owner: Option<ViewId>) -> String {
        let of = |expr: &Expr| self.expr_text(expr, owner);
        let word = guide.word();
        match guide {
            Guide::Plain | Guide::ContentBox => String::new(),
            Guide::Padding(sides) => format!("padding {}", self.sides_text(sides, owner)),
            Guide::Mark(line) => {
                let axis = if line.axis == Axis::Across { "across" } else { "down" };
                let at = line.at.as_ref().map_or_else(String::new, |at| format!(" {}", of(at)));
                format!("{word} {axis}{at}{}", self.strength_text(line.level, line.weight))
            }
            Guide::Cells(cells) => {
                let mut text = word.to_owned();
                if let Some(count) = cells.count {
                    let _ = write!(text, " {count}");
                }
                if let Some(size) = &cells.size {
                    let _ = write!(text, " of {}", of(size));
                }
                for (word, value) in
                    [("margin", &cells.margin), ("gutter", &cells.gutter), ("offset", &cells.offset)]
                {
                    if *value != Expr::default() {
                        let _ = write!(text, ", {word} {}", of(value));
                    }
                }
                if cells.lean != 0.0 {
                    let _ = write!(text, ", lean {}", cells.lean);
                }
                text
            }
        }
    }

    /// A distance for all sides, or the four of them.
    fn sides_text(&self, sides: &[Expr; 4], owner: Option<ViewId>) -> String {
        let [first, rest @ ..] = sides;
        match rest.iter().any(|side| side != first) {
            true => {
                let sides: Vec<String> = sides.iter().map(|s| self.expr_text(s, owner)).collect();
                format!("({})", sides.join(", "))
            }
            false => self.expr_text(first, owner),
        }
    }

    fn space_text(&self, space: &Space, owner: ViewId) -> String {
        match space {
            Space::Fixed(length) => format!("space {}", self.expr_text(length, Some(owner))),
            Space::Flexible(1.0) => "space".to_owned(),
            Space::Flexible(weight) => format!("space share {weight}"),
        }
    }

    fn setting_text(&self, setting: &Setting, owner: Option<ViewId>) -> String {
        let word = setting.word();
        match *setting {
            Setting::Font(number) | Setting::Line(number) | Setting::Depth(number) => {
                format!("{word} {number}")
            }
            Setting::Lines(lines) => format!("{word} {lines}"),
            Setting::Style(ref style) => format!("{word} {style}"),
            Setting::Natural(x, y) | Setting::Scale(x, y) | Setting::Origin(x, y) => {
                format!("{word} ({x}, {y})")
            }
            Setting::Rotate(degrees) => format!("{word} {degrees}deg"),
            Setting::Whole(level, weight) | Setting::Snug(level, weight) => {
                format!("{word}{}", self.strength_text(level, weight))
            }
            Setting::Arrange(ref arrangement) => self.arrangement_text(arrangement, owner),
            Setting::Share(ref share) => {
                let mut text = format!("{word} {}", share.weight);
                for (bound, of) in [("at least", &share.least), ("at most", &share.most)] {
                    if let Some(of) = of {
                        let _ = write!(text, ", {bound} {}", self.expr_text(of, owner));
                    }
                }
                text
            }
            Setting::Guide(ref guide) => self.guide_text(guide, owner),
            Setting::Cells(across, down) => format!("{word} ({across}, {down})"),
            Setting::Apart
            | Setting::Spare(None)
            | Setting::Control(None)
            | Setting::Floats
            | Setting::Input => word.to_owned(),
            Setting::Control(Some(least)) => format!("{word} {least}"),
            Setting::Spare(Some(cut)) => format!("{word} cut {cut}"),
            Setting::Sit(align) => format!("{word} {}", align.spelling()),
            Setting::Scroll(scroll) => format!("{word} {}", scroll.spelling()),
            Setting::Overflow(overhang) => format!("{word} {}", overhang.spelling()),
            Setting::Stick(ref sides) => {
                let side = |(side, by): &(Side, f64)| {
                    let side = side.coordinate().spelling();
                    if *by == 0.0 { side.to_owned() } else { format!("{side} {by}") }
                };
                format!("{word} {}", sides.iter().map(side).collect::<Vec<_>>().join(", "))
            }
            Setting::OnlyIn(ref bands) => {
                let names = bands.iter().filter_map(|b| self.bands.get(b.index()));
                format!("{word} {}", names.map(Band::name).collect::<Vec<_>>().join(", "))
            }
        }
    }

    /// Two relations with one comparison, as pairs.
    fn pair_text(&self, relations: &[Relation], owner: Option<ViewId>) -> Option<String> {
        let [a, b] = relations else { return None };
        let side =
            |x: &Expr, y: &Expr| format!("({}, {})", self.expr_text(x, owner), self.expr_text(y, owner));
        (a.comparison == b.comparison).then(|| {
            let (left, right) = (side(&a.left, &b.left), side(&a.right, &b.right));
            format!("{left} {} {right}", a.comparison.spelling())
        })
    }

    /// Any relations as one rule: `{ top = 8; height <= 40 ~ fit }`.
    fn compound_text(&self, relations: &[Relation], owner: Option<ViewId>) -> String {
        let texts: Vec<String> = relations
            .iter()
            .map(|r| self.relation_text(r, owner) + &self.strength_text(r.level, r.weight))
            .collect();
        format!("{{ {} }}", texts.join("; "))
    }

    /// One relation in words of the language, seen from a view's block (or from the screen).
    pub fn relation_text(&self, relation: &Relation, owner: Option<ViewId>) -> String {
        let mut line = String::new();
        self.write_relation(&mut line, relation, owner);
        line
    }

    /// Relations that each tie one side of the view to the same side of one place.
    fn pin_text(&self, relations: &[Relation], owner: Option<ViewId>) -> Option<String> {
        let to = relations.first()?.right.terms.first()?.anchor;
        let mut sides = Vec::new();
        for relation in relations {
            let [own] = relation.left.terms.as_slice() else { return None };
            let side = Side::ALL.iter().find(|s| s.1 == own.coordinate)?.0;
            let by = relation.right.clone() - Expr::of(to, own.coordinate);
            let by = if Side::is_near(own.coordinate) { by } else { -by };
            let is_distance = by.terms.is_empty() && by.picks.is_empty();
            let pinned = Relation {
                level: relation.level,
                weight: relation.weight,
                ..side.pinned(owner?, to, by.clone())
            };
            if !is_distance || pinned != *relation {
                return None;
            }
            let by = if by == Expr::default() {
                String::new()
            } else {
                format!(" {}", self.expr_text(&by, owner))
            };
            sides.push(format!("{}{by}", own.coordinate.spelling()));
        }
        let place = self.coordinate_text(to, Coordinate::Left, owner);
        let place = place.strip_suffix(".left").unwrap_or("screen");
        Some(format!("pin {} to {place}", sides.join(", ")))
    }

    fn write_relation(&self, line: &mut String, relation: &Relation, owner: Option<ViewId>) {
        let (left, right) = (self.expr_text(&relation.left, owner), self.expr_text(&relation.right, owner));
        let _ = write!(line, "{left} {} {right}", relation.comparison.spelling());
    }

    /// An expression as it reads in a block.
    pub fn expr_text(&self, expr: &Expr, owner: Option<ViewId>) -> String {
        self.annotated_text(expr, owner, &|_| None)
    }

    /// The same, with a note behind parts of it: `header.bottom (56) + 12`.
    pub(crate) fn annotated_text(
        &self,
        expr: &Expr,
        owner: Option<ViewId>,
        note: &dyn Fn(&Expr) -> Option<String>,
    ) -> String {
        let note_of = |of: Expr| note(&of).map_or_else(String::new, |said| format!(" ({said})"));
        let mut text = String::new();
        let mut part = |coefficient: f64, of: String| {
            let coefficient = join(&mut text, coefficient);
            let percent = (coefficient * 1e6).round() / 1e4;
            if coefficient != 1.0 && coefficient < 1.0 && percent / 100.0 == coefficient {
                let _ = write!(text, "{percent}% of ");
            } else if coefficient != 1.0 {
                let _ = write!(text, "{coefficient} * ");
            }
            text.push_str(&of);
        };
        for Term { coefficient, anchor, coordinate } in &expr.terms {
            let said = note_of(Expr::of(*anchor, *coordinate));
            part(*coefficient, self.coordinate_text(*anchor, *coordinate, owner) + &said);
        }
        for (coefficient, value) in &expr.values {
            let name = self.values.get(value.index()).map_or_else(String::new, |v| v.name.clone());
            part(*coefficient, name + &note_of(Expr::of_value(*value)));
        }
        for picked in &expr.picks {
            let of: Vec<String> = picked.of.iter().map(|e| self.annotated_text(e, owner, note)).collect();
            let said = note_of(Expr {
                picks: vec![MinMax { coefficient: 1.0, ..picked.clone() }],
                ..Expr::default()
            });
            part(picked.coefficient, format!("{}({}){said}", picked.pick.spelling(), of.join(", ")));
        }
        if text.is_empty() {
            let _ = write!(text, "{}", expr.constant);
        } else if expr.constant != 0.0 {
            let constant = join(&mut text, expr.constant);
            let _ = write!(text, "{constant}");
        }
        text
    }

    /// A coordinate of a view by its path: `header.title.width`.
    pub fn coordinate_name(&self, view: ViewId, coordinate: Coordinate) -> String {
        format!("{}.{}", self.path(view), coordinate.spelling())
    }

    /// A coordinate as it reads in the block of a view.
    pub fn coordinate_text(&self, place: Anchor, coordinate: Coordinate, owner: Option<ViewId>) -> String {
        let spelling = coordinate.spelling();
        let place = match place {
            Anchor::Screen => "screen".to_owned(),
            Anchor::Safe => "safe".to_owned(),
            Anchor::Clear => "clear".to_owned(),
            Anchor::Cells { guide, first, last } => {
                let guide = if owner == Some(guide) {
                    self.at(guide).name.clone()
                } else {
                    self.path_from(owner, guide)
                };
                match first == last {
                    true => format!("{guide}[{first}]"),
                    false => format!("{guide}[{first}..{last}]"),
                }
            }
            Anchor::View(v) if owner == Some(v) => return spelling.to_owned(),
            Anchor::Prev(v) if owner == Some(v) => "prev".to_owned(),
            Anchor::Next(v) if owner == Some(v) => "next".to_owned(),
            Anchor::Prev(v) => format!("{}.prev", self.path(v)),
            Anchor::Next(v) => format!("{}.next", self.path(v)),
            Anchor::View(v) if owner.and_then(|o| self.view(o)).is_some_and(|o| o.parent == Some(v)) => {
                "parent".to_owned()
            }
            Anchor::View(v) => self.path_from(owner, v),
        };
        format!("{place}.{spelling}")
    }

    /// The shortest way to write a view from inside a block.
    fn path_from(&self, owner: Option<ViewId>, view: ViewId) -> String {
        let whole = self.path(view);
        let names: Vec<&str> = whole.split('.').collect();
        (0..names.len())
            .rev()
            .map(|from| names[from..].join("."))
            .find(|path| self.look_up(owner, path) == Some(view))
            .unwrap_or(whole)
    }

    /// Looks a path up from the inside out: among the children of the block, then of what is around it.
    pub(crate) fn look_up(&self, from: Option<ViewId>, path: &str) -> Option<ViewId> {
        let (first, rest) = path.split_once('.').map_or((path, None), |(f, r)| (f, Some(r)));
        let mut scope = from;
        loop {
            // What scrolls is named from its own block, or by path.
            let found = self.named(scope, first).filter(|_| first != CONTENT_BOX || scope == from);
            if let Some(found) = found {
                return rest.map_or(Some(found), |rest| self.find(&format!("{}.{rest}", self.path(found))));
            }
            scope = self.view(scope?)?.parent;
        }
    }
}

/// What is said of a view in the arrangement it stands in.
fn item_settings(item: &Item) -> impl Iterator<Item = Setting> {
    let share = item.share.clone().map(|share| Setting::Share(Box::new(share)));
    let cells = item.cells.map(|(across, down)| Setting::Cells(across, down));
    let apart = item.apart.then_some(Setting::Apart);
    let apart = apart.into_iter().chain(item.spare.then_some(Setting::Spare(item.cut)));
    share.into_iter().chain(apart).chain(item.sit.map(Setting::Sit)).chain(cells)
}

/// Views and guides in the order in which they were declared.
fn declared(views: &[ViewId], guides: &[ViewId]) -> Vec<ViewId> {
    let mut all = Vec::with_capacity(views.len() + guides.len());
    let mut guides = guides.iter().copied().peekable();
    for &view in views {
        all.extend(std::iter::from_fn(|| guides.next_if(|guide| *guide < view)));
        all.push(view);
    }
    all.extend(guides);
    all
}

/// Writes the sign that joins a term to what is before it; what is left of the number.
fn join(text: &mut String, number: f64) -> f64 {
    match (!text.is_empty(), number < 0.0) {
        (true, true) => text.push_str(" - "),
        (true, false) => text.push_str(" + "),
        (false, true) if number == -1.0 => {
            text.push('-');
        }
        (false, _) => return number,
    }
    number.abs()
}

/// Words between quotes, as they stand in a screen file.
pub fn quoted(words: &str) -> String {
    let mut text = String::from("\"");
    for c in words.chars() {
        match c {
            '"' => text.push_str("\\\""),
            '\\' => text.push_str("\\\\"),
            '\n' => text.push_str("\\n"),
            c => text.push(c),
        }
    }
    text.push('"');
    text
}

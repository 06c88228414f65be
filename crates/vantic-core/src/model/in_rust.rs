//! A screen as the calls of a builder that make it, for programs that have no file to read.

use crate::geometry::frame::Frame;
use crate::model::arrangement::{Arrangement, ColumnWidth, Columns, Share, Space};
use crate::model::band::Change;
use crate::model::claim::{Claim, Claimed};
use crate::model::condition::{Condition, TestedParameter};
use crate::model::coordinate::Anchor;
use crate::model::drawn_frames::DrawnFrames;
use crate::model::expectation::{Expectation, Expected};
use crate::model::expression::Expr;
use crate::model::guide::{Cells, Guide, Mark};
use crate::model::id::{BandId, LevelId, ViewId};
use crate::model::rule::{Relation, Rule, WHOLE};
use crate::model::screen::Screen;
use crate::model::setting::Setting;
use crate::model::view::{Control, View};
use std::fmt::Write as _;

/// How many calls stand in one function, so that compilers take them well.
const CALLS: usize = 200;

impl Screen {
    /// The functions of a Rust module that build it, with nothing to read at run time: `build()` gives the screen. The module has to have
    /// this library as `lib`. Names of views, rules and bands are those of the screen, and their ids count in the same order. What
    /// a file says and nothing uses is left out. `None` for a screen of which something was removed: read it from its text first.
    pub fn in_rust(&self) -> Option<String> {
        if self.views().count() < self.views.len() || self.rules().count() < self.rules.len() {
            return None;
        }
        let mut calls = Vec::new();
        self.tables(&mut calls);
        calls.extend(self.views().map(|(_, about)| view_call(about)));
        self.views().for_each(|(view, about)| setting_calls(view, about, &mut calls));
        self.rule_calls(&mut calls);
        self.section_calls(&mut calls);
        let mut out = String::from(
            "struct Made {\n    build: lib::model::ScreenBuilder,\n    levels: Vec<lib::model::LevelId>,\n    \
             numbers: Vec<lib::model::ValueId>,\n    views: Vec<lib::model::ViewId>,\n    rules: Vec<lib::model::RuleId>,\n    \
             bands: Vec<lib::model::BandId>,\n}\n",
        );
        let parts = calls.chunks(CALLS).enumerate();
        for (number, calls) in parts.clone() {
            let _ = writeln!(
                out,
                "\nfn part_{number}(made: &mut Made) -> Result<(), lib::model::BuildError> {{\n    use lib::model::*;\n    \
                 let Made {{ build, levels: l, numbers: n, views: v, rules: r, bands: b }} = made;"
            );
            calls.iter().for_each(|call| {
                let _ = writeln!(out, "    {call};");
            });
            out.push_str("    Ok(())\n}\n");
        }
        let _ = writeln!(
            out,
            "\nfn build() -> Result<lib::model::Screen, lib::model::BuildErrors> {{\n    \
             let build = lib::model::ScreenBuilder::new({:?});\n    \
             let (levels, numbers, views, rules, bands) = Default::default();\n    \
             let mut made = Made {{ build, levels, numbers, views, rules, bands }};",
            self.name
        );
        for (number, _) in parts {
            let _ = writeln!(
                out,
                "    part_{number}(&mut made).map_err(|error| lib::model::BuildErrors(vec![error]))?;"
            );
        }
        out.push_str("    made.build.finish()\n}\n");
        Some(out)
    }

    /// Levels, numbers, states and bands.
    fn tables(&self, calls: &mut Vec<String>) {
        if !self.ladder.is_empty() {
            let names = list(&self.ladder, |name| format!("{name:?}.into()"));
            calls.push(format!("build.set_ladder(vec!{names})?"));
        }
        let names = list(&self.levels, |name| format!("{name:?}"));
        calls.push(format!("l.extend({names}.iter().filter_map(|name| build.screen().level(name)))"));
        for value in &self.values {
            let (name, number) = (&value.name, value.number);
            calls.push(match value.range {
                Some(range) => format!("n.push(build.add_parameter({name:?}, {number:?}, {range:?})?)"),
                None => format!("n.push(build.add_value({name:?}, {number:?})?)"),
            });
        }
        for band in &self.bands {
            match &band.condition {
                // The alternatives of a state come with the first of them.
                Condition::State { state, first: true, .. } if self.is_alternative(&band.name) => {
                    let all = self.states.iter().find(|of| of.name == *state);
                    let all = all.map_or(&[][..], |state| &state.alternatives);
                    let (names, count) = (list(all, |name| format!("{name:?}")), all.len());
                    calls.push(format!(
                        "{{ build.add_state({state:?}, &{names})?; let bands = build.screen().bands_with_ids(); \
                         let last = bands.map(|(band, _)| band).collect::<Vec<_>>(); b.extend(&last[last.len() - {count}..]) }}"
                    ));
                }
                Condition::State { .. } if self.is_alternative(&band.name) => {}
                condition => {
                    let condition = condition_code(condition);
                    calls.push(format!("b.push(build.add_band({:?}, {condition})?)", band.name));
                }
            }
        }
    }

    /// Whether a band is an alternative of a state, and was made with it.
    fn is_alternative(&self, band: &str) -> bool {
        let Some((state, shown)) = band.split_once('.') else { return false };
        self.states.iter().any(|of| of.name == state && of.alternatives.iter().any(|name| name == shown))
    }

    /// The rules in their order, and in between what else bands change, in its own.
    fn rule_calls(&self, calls: &mut Vec<String>) {
        let mut changes = self.changes.iter().peekable();
        let mut push_until = |rule: Option<usize>, calls: &mut Vec<String>| {
            while let Some((band, change)) = changes.peek() {
                let change = match change {
                    Change::Add(of) if Some(of.index()) == rule => {
                        changes.next();
                        return;
                    }
                    Change::Add(_) => return,
                    Change::Drop(of) => format!("Drop(r[{}])", of.index()),
                    Change::Show(view) => format!("Show({})", id(*view)),
                    Change::Hide { view, keep_space, instead } => format!(
                        "Hide {{ view: {}, keep_space: {keep_space}, instead: {} }}",
                        id(*view),
                        instead.map_or("None".into(), |instead| format!("Some({})", id(instead)))
                    ),
                    Change::Set { view, setting } => {
                        format!("Set {{ view: {}, setting: {} }}", id(*view), setting_code(setting))
                    }
                    Change::Value { value, number } => {
                        format!("Value {{ value: n[{}], number: {number:?} }}", value.index())
                    }
                };
                calls.push(format!("build.add_change({}, Change::{change})", band_code(*band)));
                changes.next();
            }
        };
        for (index, rule) in self.rules.iter().enumerate() {
            if rule.band.is_some() {
                push_until(Some(index), calls);
            }
            calls.push(rule_code(rule));
        }
        push_until(None, calls);
    }

    /// What a screen has besides views and rules.
    fn section_calls(&self, calls: &mut Vec<String>) {
        if let Some(design) = self.design {
            let (word, share) = design.scaling.word();
            let share = share.map_or(String::new(), |share| format!("({share:?})"));
            let word = word[..1].to_uppercase() + &word[1..];
            calls.push(format!(
                "build.set_design(Design {{ size: {:?}, turned: {:?}, scaling: Scaling::{word}{share} }})?",
                design.size, design.turned
            ));
        }
        for (index, language) in self.languages.iter().enumerate() {
            calls.push(format!(
                "build.add_language({:?}, {}, {})?",
                language.name, language.right_to_left, language.is_own
            ));
            for (view, words) in &language.words {
                calls.push(format!("build.add_words({index}, {}, {words:?}.into())?", id(*view)));
            }
        }
        self.expectations.iter().for_each(|expectation| calls.push(expectation_code(expectation)));
        self.drawings.iter().for_each(|drawing| calls.push(drawing_code(drawing)));
        self.claims.iter().for_each(|claim| calls.push(claim_code(claim)));
        for of in &self.acceptances {
            let names = list(&of.names, |name| format!("{name:?}.into()"));
            calls.push(format!("build.add_acceptance({:?}, vec!{names}, {:?}.into())?", of.code, of.reason));
            if of.is_inherited {
                calls.push("build.inherited_acceptance()".into());
            }
        }
    }
}

fn view_call(about: &View) -> String {
    if let (Some(Guide::ContentBox), Some(parent)) = (about.guide(), about.parent) {
        return format!("v.push(build.add_content_box({})?)", id(parent));
    }
    let parent = about.parent.map_or("None".to_owned(), |parent| format!("Some({})", id(parent)));
    let content = match (&about.text, about.image, &about.guide) {
        (Some(text), ..) => format!("Content::Text(Text::new({:?}, {:?}))", text.words, text.font),
        (_, Some(image), _) => {
            format!("Content::Image(Image {{ width: {:?}, height: {:?} }})", image.width, image.height)
        }
        (.., Some(_)) => "Content::Guide".into(),
        _ => "Content::None".into(),
    };
    format!("v.push(build.add_view({:?}, {parent}, {content})?)", about.name)
}

fn setting_calls(view: ViewId, about: &View, calls: &mut Vec<String>) {
    for (behind, space) in &about.spaces {
        let space = match space {
            Space::Fixed(length) => format!("Space::Fixed({})", expr_code(length)),
            Space::Flexible(weight) => format!("Space::Flexible({weight:?})"),
        };
        calls.push(format!("build.add_space({}, {behind}, {space})?", id(view)));
    }
    for setting in settings(about) {
        calls.push(format!("build.add_setting(None, {}, {})?", id(view), setting_code(&setting)));
    }
}

/// Settings that make a view what it is, from one that was just added.
fn settings(about: &View) -> Vec<Setting> {
    let mut all = Vec::new();
    if let Some(text) = &about.text {
        all.extend(text.line.map(Setting::Line));
        all.extend(text.lines.map(Setting::Lines));
        all.extend(text.style.clone().map(Setting::Style));
    }
    let (paint, plain) = (about.paint, View::default().paint);
    all.extend((paint.origin != plain.origin).then_some(Setting::Origin(paint.origin.0, paint.origin.1)));
    all.extend((paint.rotate != plain.rotate).then_some(Setting::Rotate(paint.rotate)));
    all.extend((paint.scale != plain.scale).then_some(Setting::Scale(paint.scale.0, paint.scale.1)));
    all.extend((about.depth != 0.0).then_some(Setting::Depth(about.depth)));
    all.extend(about.arrangement.clone().map(Setting::Arrange));
    all.extend(about.whole.map(|of| Setting::Whole(of.level, of.weight)));
    all.extend(about.snug.map(|of| Setting::Snug(of.level, of.weight)));
    if let Some(item) = &about.item {
        all.extend(item.share.clone().map(|share| Setting::Share(Box::new(share))));
        all.extend(item.apart.then_some(Setting::Apart));
        all.extend(item.sit.map(Setting::Sit));
        all.extend(item.cells.map(|(across, down)| Setting::Cells(across, down)));
        all.extend(item.spare.then_some(Setting::Spare(item.cut)));
    }
    let guide = about.guide.clone().filter(|guide| **guide != Guide::ContentBox);
    all.extend(guide.map(Setting::Guide));
    all.extend(about.scroll.map(Setting::Scroll));
    all.extend((about.overflow != Default::default()).then_some(Setting::Overflow(about.overflow)));
    all.extend((!about.stick.is_empty()).then(|| Setting::Stick(about.stick.clone())));
    all.extend((!about.only_in_bands.is_empty()).then(|| Setting::OnlyIn(about.only_in_bands.clone())));
    all.extend(about.control.map(|Control { least }| Setting::Control(least)));
    all.extend(about.floats.then_some(Setting::Floats));
    all.extend(about.input.then_some(Setting::Input));
    all
}

fn id(view: ViewId) -> String {
    format!("v[{}]", view.index())
}

fn band_code(band: BandId) -> String {
    format!("b[{}]", band.index())
}

fn level_code(level: Option<LevelId>) -> String {
    level.map_or("None".into(), |level| format!("Some(l[{}])", level.index()))
}

fn list<T>(all: &[T], one: impl Fn(&T) -> String) -> String {
    format!("[{}]", all.iter().map(one).collect::<Vec<_>>().join(", "))
}

fn option<T>(of: Option<&T>, code: impl Fn(&T) -> String) -> String {
    of.map_or("None".into(), |of| format!("Some({})", code(of)))
}

fn anchor_code(anchor: Anchor) -> String {
    match anchor {
        Anchor::Screen | Anchor::Safe | Anchor::Clear => format!("Anchor::{anchor:?}"),
        Anchor::View(view) => format!("Anchor::View({})", id(view)),
        Anchor::Prev(view) => format!("Anchor::Prev({})", id(view)),
        Anchor::Next(view) => format!("Anchor::Next({})", id(view)),
        Anchor::Cells { guide, first, last } => {
            format!("Anchor::Cells {{ guide: {}, first: {first}, last: {last} }}", id(guide))
        }
    }
}

fn expr_code(expr: &Expr) -> String {
    let times = |of: String, by: f64| if by == 1.0 { of } else { format!("{of} * {by:?}") };
    let mut all: Vec<String> = Vec::new();
    all.extend(expr.terms.iter().map(|term| {
        let of = format!("Expr::of({}, Coordinate::{:?})", anchor_code(term.anchor), term.coordinate);
        times(of, term.coefficient)
    }));
    let value = |(by, value): &(f64, crate::model::id::ValueId)| {
        times(format!("Expr::of_value(n[{}])", value.index()), *by)
    };
    all.extend(expr.values.iter().map(value));
    all.extend(expr.picks.iter().map(|picked| {
        let of = format!("pick(MinMaxKind::{:?}, vec!{})", picked.pick, list(&picked.of, expr_code));
        times(of, picked.coefficient)
    }));
    match all.is_empty() {
        true => format!("Expr::from({:?})", expr.constant),
        false if expr.constant == 0.0 => all.join(" + "),
        false => format!("{} + {:?}", all.join(" + "), expr.constant),
    }
}

fn setting_code(setting: &Setting) -> String {
    match setting {
        Setting::Style(name) => format!("Setting::Style({name:?}.into())"),
        Setting::Whole(level, weight) | Setting::Snug(level, weight) => {
            let which = if setting.word() == WHOLE { "Whole" } else { "Snug" };
            format!("Setting::{which}({}, {weight:?})", level_code(*level))
        }
        Setting::Arrange(how) => format!("Setting::Arrange(Box::new({}))", arrangement_code(how)),
        Setting::Share(share) => {
            let Share { weight, least, most } = &**share;
            let (least, most) = (option(least.as_ref(), expr_code), option(most.as_ref(), expr_code));
            format!("Setting::Share(Box::new(Share {{ weight: {weight:?}, least: {least}, most: {most} }}))")
        }
        Setting::Sit(align) => format!("Setting::Sit(Align::{align:?})"),
        Setting::Guide(guide) => format!("Setting::Guide(Box::new({}))", guide_code(guide)),
        Setting::Scroll(scroll) => format!("Setting::Scroll(Scroll::{scroll:?})"),
        Setting::Overflow(overflow) => format!("Setting::Overflow(Overflow::{overflow:?})"),
        Setting::Stick(sides) => {
            let sides = list(sides, |(side, by)| format!("(Side::{side:?}, {by:?})"));
            format!("Setting::Stick(vec!{sides})")
        }
        Setting::OnlyIn(bands) => {
            format!("Setting::OnlyIn(vec!{})", list(bands, |band| band_code(*band)))
        }
        // What holds numbers only reads in Rust as it is shown.
        Setting::Font(_)
        | Setting::Line(_)
        | Setting::Lines(_)
        | Setting::Natural(..)
        | Setting::Origin(..)
        | Setting::Rotate(_)
        | Setting::Scale(..)
        | Setting::Depth(_)
        | Setting::Apart
        | Setting::Cells(..)
        | Setting::Spare(_)
        | Setting::Control(_)
        | Setting::Floats
        | Setting::Input => format!("Setting::{setting:?}"),
    }
}

fn arrangement_code(how: &Arrangement) -> String {
    let Arrangement { axis, columns, rows, gap, wrap, padding, spread, align } = how;
    let columns = option(columns.as_ref(), |Columns { count, width }| {
        let width = match width {
            ColumnWidth::Equal => "Equal".to_owned(),
            ColumnWidth::Of(width) => format!("Of({})", expr_code(width)),
            ColumnWidth::AtLeast(width) => format!("AtLeast({})", expr_code(width)),
            ColumnWidth::Snug => "Snug".to_owned(),
        };
        format!("Columns {{ count: {count:?}, width: ColumnWidth::{width} }}")
    });
    format!(
        "Arrangement {{ axis: lib::geometry::Axis::{axis:?}, columns: {columns}, rows: {}, gap: {}, wrap: {}, \
         padding: {}, spread: Spread::{spread:?}, align: Align::{align:?} }}",
        option(rows.as_ref(), expr_code),
        expr_code(gap),
        option(wrap.as_ref(), expr_code),
        list(padding, expr_code)
    )
}

fn guide_code(guide: &Guide) -> String {
    match guide {
        Guide::Plain => "Guide::Plain".into(),
        Guide::ContentBox => "Guide::ContentBox".into(),
        Guide::Padding(sides) => format!("Guide::Padding({})", list(sides, expr_code)),
        Guide::Cells(Cells { axis, count, size, margin, gutter, offset, lean }) => format!(
            "Guide::Cells(Cells {{ axis: lib::geometry::Axis::{axis:?}, count: {count:?}, size: {}, margin: {}, \
             gutter: {}, offset: {}, lean: {lean:?} }})",
            option(size.as_ref(), expr_code),
            expr_code(margin),
            expr_code(gutter),
            expr_code(offset)
        ),
        Guide::Mark(Mark { axis, at, level, weight }) => format!(
            "Guide::Mark(Mark {{ axis: lib::geometry::Axis::{axis:?}, at: {}, level: {}, weight: {weight:?} }})",
            option(at.as_ref(), expr_code),
            level_code(*level)
        ),
    }
}

fn rule_code(rule: &Rule) -> String {
    let one = |relation: &Relation| {
        let mut code = format!(
            "RuleDraft::new(vec![Relation::new({}, Comparison::{:?}, {})])",
            expr_code(&relation.left),
            relation.comparison,
            expr_code(&relation.right)
        );
        if let Some(level) = relation.level {
            let _ = write!(code, ".prefer(l[{}])", level.index());
        }
        if relation.weight != 1.0 {
            let _ = write!(code, ".weight({:?})", relation.weight);
        }
        code
    };
    let mut all = rule.relations.iter().map(one);
    let first = all.next().unwrap_or_default();
    let mut draft = all.fold(first, |draft, next| format!("{draft}.and({next})"));
    if let Some(label) = &rule.label {
        let _ = write!(draft, ".labelled({label:?})");
    }
    let owner = option(rule.owner.as_ref(), |owner| id(*owner));
    let band = option(rule.band.as_ref(), |band| band_code(*band));
    format!("r.push(build.add_rule({owner}, {band}, {draft})?)")
}

fn condition_code(condition: &Condition) -> String {
    match condition {
        Condition::Compare(property, order, number) => {
            format!("Condition::Compare(Property::{property:?}, Order::{order:?}, {number:?})")
        }
        Condition::Within(property, from, to) => {
            format!("Condition::Within(Property::{property:?}, {from:?}, {to:?})")
        }
        Condition::Parameter(of, order, number) => {
            format!("Condition::Parameter({}, Order::{order:?}, {number:?})", tested_code(of))
        }
        Condition::ParameterWithin(of, from, to) => {
            format!("Condition::ParameterWithin({}, {from:?}, {to:?})", tested_code(of))
        }
        Condition::State { state, shown, first } => {
            format!("Condition::State {{ state: {state:?}.into(), shown: {shown:?}.into(), first: {first} }}")
        }
        Condition::Not(of) => format!("Condition::Not(Box::new({}))", condition_code(of)),
        Condition::All(of) => format!("Condition::All(vec!{})", list(of, condition_code)),
        Condition::Any(of) => format!("Condition::Any(vec!{})", list(of, condition_code)),
        Condition::Portrait
        | Condition::Landscape
        | Condition::Touch
        | Condition::LeftToRight
        | Condition::RightToLeft
        | Condition::Everywhere => format!("Condition::{condition:?}"),
    }
}

fn tested_code(TestedParameter { name, usual, range }: &TestedParameter) -> String {
    format!("TestedParameter {{ name: {name:?}.into(), usual: {usual:?}, range: {range:?} }}")
}

fn frame_code(Frame { left, top, width, height }: Frame) -> String {
    format!("lib::geometry::Frame {{ left: {left:?}, top: {top:?}, width: {width:?}, height: {height:?} }}")
}

fn drawing_code(DrawnFrames { on, frames }: &DrawnFrames) -> String {
    let frames = list(frames, |(view, frame)| format!("({}, {})", id(*view), frame_code(*frame)));
    format!("build.add_drawing(lib::model::DrawnFrames {{ on: {on:?}.into(), frames: vec!{frames} }})?")
}

fn expectation_code(Expectation { on, within, expected }: &Expectation) -> String {
    let expected = list(expected, |(view, what)| {
        let what = match *what {
            Expected::Frame(frame) => format!("Frame({})", frame_code(frame)),
            Expected::One(coordinate, number) => format!("One(Coordinate::{coordinate:?}, {number:?})"),
            Expected::Hidden => "Hidden".into(),
        };
        format!("({}, Expected::{what})", id(*view))
    });
    format!(
        "build.add_expectation(Expectation {{ on: {on:?}.into(), within: {within:?}, expected: vec!{expected} }})?"
    )
}

fn claim_code(Claim { view, what, over }: &Claim) -> String {
    let what = match *what {
        Claimed::Inside(place) => format!("Inside({})", anchor_code(place)),
        Claimed::ClearOf(other, by) => format!("ClearOf({}, {by:?})", id(other)),
        Claimed::Whole => "Whole".into(),
        Claimed::Same(coordinate) => format!("Same(Coordinate::{coordinate:?})"),
    };
    let over = option(over.as_ref(), |(quantity, from, to)| {
        use crate::display::quantity::DisplayQuantity;
        let quantity = match quantity {
            DisplayQuantity::Parameter(name) => format!("Parameter({:?}.into())", &**name),
            other => format!("{other:?}"),
        };
        format!("(lib::display::DisplayQuantity::{quantity}, {from:?}, {to:?})")
    });
    format!("build.add_claim(Claim {{ view: {}, what: Claimed::{what}, over: {over} }})?", id(*view))
}

//! Rows, columns, grids and shares in one another, against a program of its own that is written from "What
//! an arrangement means" in `docs/language.md`: content from the inside out, then sizes from the outside
//! in; first widths, then heights.

use proptest::prelude::*;
use std::collections::HashMap;
use std::fmt::Write as _;
use vantic::display::Display;
use vantic::geometry::Direction;
use vantic::model::RuleRef;
use vantic::plan::{Placement, Plan};
use vantic::resolve::read;
use vantic::text::PlainText;

#[derive(Clone, Debug)]
enum Kind {
    /// A width and a height, each stated where nothing else gives it.
    Leaf(f64, f64),
    /// The lengths of its words, in characters of 10 x 25.
    Text(Vec<usize>),
    Line(Line),
    /// A row or column of children that are alike, of which as many are shown as fit.
    List(List),
    Grid {
        columns: usize,
        gap: f64,
        padding: f64,
        align: &'static str,
    },
}

#[derive(Clone, Debug)]
struct Line {
    down: bool,
    gap: f64,
    padding: f64,
    spread: &'static str,
    align: &'static str,
    /// Children go on in further lines, this far below.
    wrap: Option<f64>,
}

#[derive(Clone, Debug)]
struct List {
    down: bool,
    gap: f64,
    padding: f64,
    item: [f64; 2],
    least: usize,
    most: usize,
}

impl List {
    /// How long so many children are along it, or how large across.
    fn extent(&self, axis: usize, count: usize) -> f64 {
        let along = self.down == (axis == DOWN);
        let (items, gaps) = if along { (count as f64, self.gap * (count - 1) as f64) } else { (1.0, 0.0) };
        self.item[axis] * items + gaps + 2.0 * self.padding
    }

    fn shown(&self, at: [f64; 4]) -> usize {
        let axis = usize::from(self.down);
        let fits = |count: &usize| self.extent(axis, *count) <= at[2 + axis] + 1e-6;
        (self.least..=self.most).rev().find(fits).unwrap_or(self.least)
    }
}

#[derive(Clone, Debug)]
struct Share {
    weight: f64,
    least: Option<f64>,
    most: Option<f64>,
}

#[derive(Clone, Debug)]
struct Node {
    kind: Kind,
    share: Option<Share>,
    /// What stands before it: a length instead of the gap, or a weight in the space that is left.
    space: Option<Result<f64, f64>>,
    sit: Option<&'static str>,
    children: Vec<Node>,
    /// Whether its width, and its height, comes from outside.
    given: [bool; 2],
    /// Left, top, width, height, as the program below finds them.
    at: [f64; 4],
}

const ACROSS: usize = 0;
const DOWN: usize = 1;
const CHAR: f64 = 10.0;
const LINE: f64 = 25.0;

impl Node {
    fn axis(&self) -> Option<usize> {
        match &self.kind {
            Kind::Line(line) => Some(usize::from(line.down)),
            _ => None,
        }
    }

    fn align<'a>(&'a self, child: &'a Node) -> &'a str {
        let own = match &self.kind {
            Kind::Line(line) => line.align,
            Kind::Grid { align, .. } => align,
            _ => "start",
        };
        child.sit.unwrap_or(own)
    }

    fn padding(&self) -> f64 {
        match &self.kind {
            Kind::Line(line) => line.padding,
            Kind::List(list) => list.padding,
            Kind::Grid { padding, .. } => *padding,
            _ => 0.0,
        }
    }

    /// Whether the view around it gives it its size along an axis.
    fn fills(&self, around: &Node, axis: usize) -> bool {
        match (&around.kind, around.axis()) {
            (_, Some(along)) if along == axis => self.share.is_some(),
            (Kind::Line(Line { wrap: Some(_), .. }), _) => false,
            _ => around.align(self) == "stretch",
        }
    }

    fn lines_at(words: &[usize], width: f64) -> f64 {
        let (mut lines, mut taken) = (1.0, 0);
        for &word in words {
            if taken > 0 && CHAR * (taken + 1 + word) as f64 > width + 1e-6 {
                (lines, taken) = (lines + 1.0, word);
            } else {
                taken += word + usize::from(taken > 0);
            }
        }
        lines
    }

    /// How large its content is along an axis: as it would be, and what it needs at least. Heights once
    /// widths are known.
    fn content(&self, axis: usize, around: Option<&Node>) -> (f64, f64) {
        let is_stated = |value: f64| if around.is_none_or(|a| !self.fills(a, axis)) { value } else { 0.0 };
        match &self.kind {
            Kind::Leaf(width, height) => {
                let own = is_stated(if axis == ACROSS { *width } else { *height });
                (own, own)
            }
            Kind::Text(words) if axis == ACROSS => {
                let all = words.iter().sum::<usize>() + words.len() - 1;
                (CHAR * all as f64, CHAR * words.iter().copied().max().unwrap_or(0) as f64)
            }
            Kind::Text(words) => {
                let height = LINE * Self::lines_at(words, self.at[2]);
                (height, height)
            }
            Kind::List(list) => (list.extent(axis, list.least), list.extent(axis, list.least)),
            Kind::Line(Line { wrap: Some(by), .. }) if axis == DOWN => {
                let lines = self.wrapped();
                let highest = |line: &[usize]| {
                    line.iter().map(|&i| self.children[i].content(DOWN, Some(self)).0).fold(0.0, f64::max)
                };
                let all = lines.iter().map(|line| highest(line)).sum::<f64>() + by * (lines.len() - 1) as f64;
                (all + 2.0 * self.padding(), all + 2.0 * self.padding())
            }
            Kind::Line(line) => {
                let of = self.children.iter().map(|child| {
                    let (natural, need) = child.content(axis, Some(self));
                    match child.share.as_ref().filter(|_| line.down == (axis == DOWN)) {
                        Some(share) => {
                            let least = share.least.unwrap_or(0.0);
                            let most = share.most.unwrap_or(f64::INFINITY).max(least);
                            (natural.max(least).min(most), need.max(least).min(most))
                        }
                        None => (natural, need),
                    }
                });
                let (natural, need): (Vec<f64>, Vec<f64>) = of.unzip();
                let all = |sizes: Vec<f64>| match line.down == (axis == DOWN) && line.wrap.is_none() {
                    true => sizes.iter().sum::<f64>() + self.gaps(line.gap),
                    false => sizes.into_iter().fold(0.0, f64::max),
                };
                (all(natural) + 2.0 * line.padding, all(need) + 2.0 * line.padding)
            }
            Kind::Grid { columns, gap, padding, .. } if axis == ACROSS => {
                let widest = |of: fn((f64, f64)) -> f64| {
                    let each =
                        self.children.iter().map(|c| of(c.content(ACROSS, Some(self)))).fold(0.0, f64::max);
                    each * *columns as f64 + gap * (columns - 1) as f64 + 2.0 * padding
                };
                (widest(|c| c.0), widest(|c| c.1))
            }
            Kind::Grid { gap, padding, .. } => {
                let rows = self.rows();
                let all = rows.iter().sum::<f64>() + gap * (rows.len() - 1) as f64 + 2.0 * padding;
                (all, all)
            }
        }
    }

    /// What stands between its children, and before the first, at least.
    fn gaps(&self, gap: f64) -> f64 {
        (0..self.children.len()).map(|i| self.gap(i, gap)).sum()
    }

    fn gap(&self, index: usize, gap: f64) -> f64 {
        match self.children[index].space {
            Some(Ok(length)) => length,
            _ if index == 0 => 0.0,
            _ => gap,
        }
    }

    /// How high each row of a grid is.
    fn rows(&self) -> Vec<f64> {
        let Kind::Grid { columns, .. } = self.kind else { return Vec::new() };
        let high = |c: &Node| c.content(DOWN, Some(self)).0;
        self.children.chunks(columns).map(|row| row.iter().map(high).fold(0.0, f64::max)).collect()
    }

    /// Which children stand in each line of one that wraps.
    fn wrapped(&self) -> Vec<Vec<usize>> {
        let Kind::Line(line) = &self.kind else { return Vec::new() };
        let room = self.at[2] - 2.0 * line.padding;
        let (mut lines, mut taken): (Vec<Vec<usize>>, f64) = (Vec::new(), 0.0);
        for (i, child) in self.children.iter().enumerate() {
            let width = child.content(ACROSS, Some(self)).0;
            match lines.last_mut().filter(|_| taken + line.gap + width <= room + 1e-6) {
                Some(last) => {
                    last.push(i);
                    taken += line.gap + width;
                }
                None => {
                    lines.push(vec![i]);
                    taken = width;
                }
            }
        }
        lines
    }

    /// Gives it a place and a size along an axis, and then what is in it. `Err` where what stands beside
    /// shares, or in a row without any, has to give way: that is a question of levels, not of arithmetic.
    fn place(&mut self, axis: usize, at: f64, size: f64, is_given: bool) -> Result<(), ()> {
        (self.at[axis], self.at[2 + axis]) = (at, size);
        let (near, inner) = (at + self.padding(), size - 2.0 * self.padding());
        let this = self.clone();
        let content: Vec<(f64, f64)> = this.children.iter().map(|c| c.content(axis, Some(&this))).collect();
        match &this.kind {
            Kind::Leaf(..) | Kind::Text(_) | Kind::List(_) => Ok(()),
            Kind::Line(line) if line.wrap.is_some() => self.place_wrapped(axis, near, &content),
            Kind::Line(line) if line.down == (axis == DOWN) => {
                self.place_along(axis, near, inner, is_given, &content)
            }
            Kind::Line(_) => {
                for (i, child) in self.children.iter_mut().enumerate() {
                    across(&this, child, axis, (near, inner), content[i], is_given)?;
                }
                Ok(())
            }
            Kind::Grid { columns, gap, .. } if axis == ACROSS => {
                let width = (inner - gap * (columns - 1) as f64) / *columns as f64;
                for (i, child) in self.children.iter_mut().enumerate() {
                    let near = near + (i % columns) as f64 * (width + gap);
                    across(&this, child, axis, (near, width), content[i], is_given)?;
                }
                Ok(())
            }
            Kind::Grid { columns, gap, .. } => {
                let (rows, mut top) = (this.rows(), near);
                for (i, child) in self.children.iter_mut().enumerate() {
                    let row = i / columns;
                    if i > 0 && i % columns == 0 {
                        top += rows[row - 1] + gap;
                    }
                    across(&this, child, axis, (top, rows[row]), content[i], false)?;
                }
                Ok(())
            }
        }
    }

    fn place_wrapped(&mut self, axis: usize, near: f64, content: &[(f64, f64)]) -> Result<(), ()> {
        let Kind::Line(Line { gap, wrap: Some(by), align, .. }) = self.kind else { return Err(()) };
        let (mut top, room) = (near, self.at[2] - 2.0 * self.padding());
        for line in self.wrapped() {
            let highest = line.iter().map(|&i| content[i].0).fold(0.0, f64::max);
            let mut at = near;
            for i in line {
                let (size, child) = (content[i].0, &mut self.children[i]);
                if axis == ACROSS {
                    if size > room + 1e-6 && content[i].1 < size - 1e-6 {
                        return Err(());
                    }
                    child.place(axis, at, size, false)?;
                    at += size + gap;
                    continue;
                }
                let lead = match child.sit.unwrap_or(align) {
                    "center" => (highest - size) / 2.0,
                    "end" => highest - size,
                    _ => 0.0,
                };
                child.place(axis, top + lead, size, false)?;
            }
            top += highest + by;
        }
        Ok(())
    }

    fn place_along(
        &mut self,
        axis: usize,
        near: f64,
        inner: f64,
        is_given: bool,
        content: &[(f64, f64)],
    ) -> Result<(), ()> {
        let Kind::Line(line) = self.kind.clone() else { return Err(()) };
        let gaps = self.gaps(line.gap);
        let weight = |i: usize| self.children[i].space.and_then(Result::err).unwrap_or(0.0);
        let open: f64 = (0..content.len()).map(weight).sum();
        let own =
            |(child, content): (&Node, &(f64, f64))| if child.share.is_none() { content.0 } else { 0.0 };
        let room = inner - gaps - std::iter::zip(&self.children, content).map(own).sum::<f64>();
        // What each takes where one share comes to `unit`: within its limits, and not below what it needs.
        let size = |i: usize, unit: f64| {
            let Some(share) = &self.children[i].share else { return content[i].0 };
            let least = share.least.unwrap_or(0.0);
            let most = share.most.unwrap_or(f64::INFINITY).max(least);
            let need = if is_given { content[i].1 } else { content[i].0 };
            (share.weight * unit).max(need).max(least).min(most.max(least))
        };
        let shares: Vec<usize> =
            (0..self.children.len()).filter(|&i| self.children[i].share.is_some()).collect();
        let taken = |unit: f64| shares.iter().map(|&i| size(i, unit)).sum::<f64>() + open * unit;
        let may_yield = |i: usize| self.children[i].share.is_none() && content[i].1 < content[i].0 - 1e-6;
        let short = taken(0.0) - room;
        if short > 1e-6 && (0..content.len()).any(may_yield) {
            return Err(());
        }
        // In a row whose own size comes from its content, what may wrap does so where there is less space.
        // Which of several does is a question of levels.
        if short > 1e-6 && !is_given {
            let yielding: Vec<usize> =
                (0..content.len()).filter(|&i| content[i].1 < content[i].0 - 1e-6).collect();
            return match yielding.as_slice() {
                [] => Err(()),
                &[only] => {
                    let mut content = content.to_vec();
                    content[only].0 = (content[only].0 - short).max(content[only].1);
                    self.place_along(axis, near, inner, false, &content)
                }
                _ => Err(()),
            };
        }
        let (mut low, mut high) = (0.0, 1e5);
        for _ in 0..200 {
            let middle = (low + high) / 2.0;
            if taken(middle) > room { high = middle } else { low = middle }
        }
        let sizes: Vec<f64> = (0..content.len()).map(|i| size(i, low)).collect();
        // A most below what the content needs is a conflict, not a question of arithmetic.
        let is_cut = |&i: &usize| sizes[i] < content[i].1 - 1e-6;
        if shares.iter().any(is_cut) {
            return Err(());
        }
        let left = (inner - gaps - open * low - sizes.iter().sum::<f64>()).max(0.0);
        let fills = taken(1e5) >= room && (!shares.is_empty() || open > 0.0);
        // Only plain gaps grow.
        let is_plain = |i: usize| i > 0 && self.children[i].space.is_none();
        let count = (0..content.len()).filter(|&i| is_plain(i)).count() as f64;
        let (mut lead, mut gap) = (0.0, line.gap);
        if !fills && left > 0.0 {
            let all = left + count * line.gap;
            match line.spread {
                "center" => lead = left / 2.0,
                "end" => lead = left,
                "between" if count > 0.0 => gap = all / count,
                "around" if all / (count + 1.0) >= line.gap => {
                    (lead, gap) = (all / (count + 1.0) / 2.0, all / (count + 1.0));
                }
                "evenly" if all / (count + 2.0) >= line.gap => {
                    (lead, gap) = (all / (count + 2.0), all / (count + 2.0));
                }
                "around" | "evenly" => lead = left / 2.0,
                _ => {}
            }
        }
        let before = |i: usize| if is_plain(i) { gap } else { self.gap(i, line.gap) } + weight(i) * low;
        let before: Vec<f64> = (0..content.len()).map(before).collect();
        let mut at = near + lead;
        for (i, child) in self.children.iter_mut().enumerate() {
            at += before[i];
            child.place(axis, at, sizes[i], is_given && child.share.is_some())?;
            at += sizes[i];
        }
        Ok(())
    }

    /// Its block in a screen file.
    fn write(&self, name: &str, around: Option<&Node>, text: &mut String) {
        let words = |count: usize| "x".repeat(count);
        text.extend(self.space.map(|space| match space {
            Ok(length) => format!("space {length}\n"),
            Err(weight) => format!("space share {weight}\n"),
        }));
        match &self.kind {
            Kind::Text(lengths) => {
                let all: Vec<String> = lengths.iter().map(|&l| words(l)).collect();
                let _ = write!(text, "text {name} \"{}\" {{ font 20", all.join(" "));
            }
            _ => {
                let _ = write!(text, "view {name} {{ ");
            }
        }
        if let Some(share) = &self.share {
            let _ = write!(text, "; share {}", share.weight);
            text.extend(share.least.map(|least| format!(", at least {least}")));
            text.extend(share.most.map(|most| format!(", at most {most}")));
        }
        if let Some(sit) = self.sit {
            let _ = write!(text, "; sit {sit}");
        }
        match &self.kind {
            Kind::Leaf(width, height) => {
                for (axis, word, size) in [(ACROSS, "width", width), (DOWN, "height", height)] {
                    if around.is_none_or(|a| !self.fills(a, axis)) {
                        let _ = write!(text, "; {word} = {size}");
                    }
                }
            }
            Kind::Text(_) => {}
            Kind::List(List { down, gap, padding, item: [width, height], least, most, .. }) => {
                let word = if *down { "column" } else { "row" };
                let _ = write!(text, "; {word} gap {gap}, padding {padding}\nrepeat c ");
                *text += &if least == most {
                    format!("{least}")
                } else {
                    format!("at least {least}, at most {most}")
                };
                let _ = write!(text, " {{ width = {width}; height = {height} }}");
            }
            Kind::Line(Line { down, gap, padding, spread, align, wrap }) => {
                let word = if *down { "column" } else { "row" };
                let _ = write!(text, "; {word} gap {gap}, padding {padding}, spread {spread}, align {align}");
                text.extend(wrap.map(|by| format!(", wrap by {by}")));
            }
            Kind::Grid { columns, gap, padding, align } => {
                let _ = write!(text, "; grid columns {columns}, gap {gap}, padding {padding}, align {align}");
            }
        }
        text.push('\n');
        for (i, child) in self.children.iter().enumerate() {
            child.write(&format!("n{i}"), Some(self), text);
        }
        text.push_str("}\n");
    }

    /// The path and the place of each view in it; none where it is not shown.
    fn places(&self, path: &str, all: &mut Vec<(String, Option<[f64; 4]>)>) {
        all.push((path.to_owned(), Some(self.at)));
        for (i, child) in self.children.iter().enumerate() {
            child.places(&format!("{path}.n{i}"), all);
        }
        let Kind::List(list) = &self.kind else { return };
        let (shown, along) = (list.shown(self.at), usize::from(list.down));
        for i in 0..list.most {
            let corner = [self.at[0] + list.padding, self.at[1] + list.padding];
            let mut at = [corner[0], corner[1], list.item[0], list.item[1]];
            at[along] += (list.item[along] + list.gap) * i as f64;
            all.push((format!("{path}.c[{}]", i + 1), (i < shown).then_some(at)));
        }
    }
}

/// A child between two edges across its row, or in its cell.
fn across(
    around: &Node,
    child: &mut Node,
    axis: usize,
    (near, inner): (f64, f64),
    (natural, need): (f64, f64),
    is_given: bool,
) -> Result<(), ()> {
    let align = around.align(child).to_owned();
    if align == "stretch" {
        // What needs more than there is goes beyond the end, and the view around it with it.
        return if need > inner + 1e-6 { Err(()) } else { child.place(axis, near, inner, is_given) };
    }
    let size = natural.min(inner).max(need);
    let lead = match align.as_str() {
        "center" => (inner - size) / 2.0,
        "end" => inner - size,
        _ => 0.0,
    };
    if size > inner + 1e-6 {
        return Err(());
    }
    child.place(axis, near + lead, size, false)
}

fn number(range: std::ops::Range<u16>) -> impl Strategy<Value = f64> {
    range.prop_map(f64::from)
}

fn shares() -> impl Strategy<Value = Option<Share>> {
    let share =
        (1_u8..4, prop::option::weighted(0.2, number(0..120)), prop::option::weighted(0.2, number(20..200)))
            .prop_map(|(weight, least, most)| Share {
                weight: f64::from(weight),
                least,
                most: most.map(|most| most.max(least.unwrap_or(0.0))),
            });
    prop::option::weighted(0.45, share)
}

const ALIGNS: [&str; 4] = ["start", "center", "end", "stretch"];

fn lines() -> impl Strategy<Value = Line> {
    let spreads = prop::sample::select(vec!["start", "center", "end", "between", "around", "evenly"]);
    let aligns = prop::sample::select(ALIGNS.to_vec());
    (any::<bool>(), number(0..12), number(0..10), spreads, aligns, prop::option::weighted(0.1, number(0..9)))
        .prop_map(|(down, gap, padding, spread, align, wrap)| {
            let wrap = wrap.filter(|_| !down);
            // Lines that wrap begin at the start, and what is stretched in one has no height of its own.
            let (spread, align) = match wrap {
                Some(_) => ("start", if align == "stretch" { "end" } else { align }),
                None => (spread, align),
            };
            Line { down, gap, padding, spread, align, wrap }
        })
}

fn lists() -> impl Strategy<Value = List> {
    let item = (number(1..60), number(1..60)).prop_map(|(width, height)| [width, height]);
    (any::<bool>(), number(0..9), number(0..9), item, 1_usize..3, 0_usize..9).prop_map(
        |(down, gap, padding, item, least, more)| List {
            down,
            gap,
            padding,
            item,
            least,
            most: least + more,
        },
    )
}

fn nodes() -> impl Strategy<Value = Node> {
    let leaf = prop_oneof![
        (number(1..70), number(1..60)).prop_map(|(w, h)| Kind::Leaf(w, h)),
        prop::collection::vec(1_usize..9, 1..6).prop_map(Kind::Text),
        lists().prop_map(Kind::List),
    ];
    let space = || prop_oneof![number(0..20).prop_map(Ok), number(1..4).prop_map(Err)];
    let space = move || prop::option::weighted(0.12, space());
    let sit = || prop::option::weighted(0.15, prop::sample::select(ALIGNS.to_vec()));
    let leaf = (leaf, shares(), space(), sit()).prop_map(|(kind, share, space, sit)| Node {
        kind,
        share,
        space,
        sit,
        children: Vec::new(),
        given: [false; 2],
        at: [0.0; 4],
    });
    leaf.prop_recursive(4, 24, 4, move |inner| {
        let grid = (1_usize..4, number(0..9), number(0..9), prop::sample::select(ALIGNS.to_vec()))
            .prop_map(|(columns, gap, padding, align)| Kind::Grid { columns, gap, padding, align });
        let kind = prop_oneof![5 => lines().prop_map(Kind::Line), 1 => grid];
        (kind, shares(), space(), sit(), prop::collection::vec(inner, 1..5)).prop_map(
            |(kind, share, space, sit, children)| Node {
                kind,
                share,
                space,
                sit,
                children,
                given: [false; 2],
                at: [0.0; 4],
            },
        )
    })
}

/// Takes away what is not meant where it stands.
fn tidy(node: &mut Node, [is_width_given, is_height_given]: [bool; 2]) {
    let this = node.clone();
    for child in &mut node.children {
        if !matches!(&this.kind, Kind::Line(Line { wrap: None, .. })) {
            (child.share, child.space) = (None, None);
        }
        if matches!(&this.kind, Kind::Line(Line { wrap: Some(_), .. })) {
            child.sit = child.sit.filter(|sit| *sit != "stretch");
        }
        let width_given = is_width_given && child.fills(&this, ACROSS);
        let is_cell = matches!(this.kind, Kind::Grid { .. });
        let height_given = is_height_given && !is_cell && child.fills(&this, DOWN);
        child.given = [width_given, height_given];
        // How much fits into a list that comes from what is shown of it is another question.
        if let Kind::List(list) = &mut child.kind {
            let is_given = if list.down { height_given } else { width_given };
            list.most = if is_given { list.most } else { list.least };
        }
        // A row that wraps takes its width from outside.
        if let Kind::Line(line) = &mut child.kind {
            line.wrap = line.wrap.filter(|_| width_given);
        }
        tidy(child, [width_given, height_given]);
    }
}

/// The same, with lists of which as many are shown as fit wherever they stand.
fn tidy_but_lists(node: &mut Node, tall: bool) {
    let mut whole = node.clone();
    tidy(node, [true, tall]);
    let (mut tidied, mut asked) = (Vec::new(), Vec::new());
    lists_in(node, "all", &mut tidied);
    lists_in(&mut whole, "all", &mut asked);
    for ((_, list), (_, of)) in tidied.into_iter().zip(asked) {
        list.most = of.most;
    }
}

/// The screen with one view that holds all, as high as the display or as its content.
fn screen(root: &Node, tall: bool) -> String {
    let mut text = String::from("screen s {\n");
    root.write("all", None, &mut text);
    let pins = if tall { "pin left, right, top, bottom to screen" } else { "pin left, right, top to screen" };
    text.replacen("{ ;", &format!("{{ {pins};"), 1) + "}\n"
}

fn placed(text: &str, display: &Display) -> (Plan, Placement) {
    let plan = Plan::new(read(text).unwrap_or_else(|e| panic!("{text}\n{e}")).screen).unwrap();
    let placement = plan.place(display, &PlainText).unwrap();
    (plan, placement)
}

fn root_of(line: Line, children: Vec<Node>) -> Node {
    let kind = Kind::Line(Line { wrap: None, ..line });
    Node { kind, share: None, space: None, sit: None, children, given: [false; 2], at: [0.0; 4] }
}

/// The lists in it, with their paths.
fn lists_in<'a>(node: &'a mut Node, path: &str, all: &mut Vec<(String, &'a mut List)>) {
    if let Kind::List(list) = &mut node.kind {
        all.push((path.to_owned(), list));
    }
    for (i, child) in node.children.iter_mut().enumerate() {
        lists_in(child, &format!("{path}.n{i}"), all);
    }
}

/// The views on a path whose size along an axis comes from outside, the outermost of all left out.
fn given_on(root: &Node, path: &str, axis: usize) -> Vec<String> {
    let (mut node, mut at, mut all) = (root, "all".to_owned(), Vec::new());
    for name in path.split('.').skip(1) {
        let index: usize = name[1..].parse().unwrap();
        node = &node.children[index];
        at = format!("{at}.{name}");
        all.extend(node.given[axis].then(|| at.clone()));
    }
    all
}

proptest! {
    #![proptest_config(ProptestConfig { max_global_rejects: 1_000_000, ..vantic_testkit::cases(500) })]

    #[test]
    fn what_is_nested_is_where_a_recursion_puts_it(
        line in lines(),
        children in prop::collection::vec(nodes(), 1..5),
        (width, height) in (number(200..1400), number(200..1400)),
        (tall, mirrored) in (any::<bool>(), any::<bool>()),
    ) {
        let mut root = root_of(line, children);
        tidy(&mut root, [true, tall]);
        let text = screen(&root, tall);
        let across = root.place(ACROSS, 0.0, width, true);
        let down = across.and_then(|()| {
            let high = if tall { height } else { root.content(DOWN, None).0 };
            root.place(DOWN, 0.0, high, tall)
        });
        prop_assume!(down.is_ok());
        let direction = if mirrored { Direction::RightToLeft } else { Direction::LeftToRight };
        let display = Display::new(width, height).unwrap().with_direction(direction);
        let (plan, placement) = placed(&text, &display);
        let mut all = Vec::new();
        root.places("all", &mut all);
        for (path, at) in all {
            let frame = placement.frame(plan.screen().find(&path).unwrap());
            prop_assert_eq!(frame.is_some(), at.is_some(), "{} on {}x{}\n{}", path, width, height, text);
            let (Some(frame), Some([start, top, w, h])) = (frame, at) else { continue };
            let left = if mirrored { width - start - w } else { start };
            let off = [frame.left - left, frame.top - top, frame.width - w, frame.height - h];
            prop_assert!(
                off.iter().all(|by| by.abs() < 1e-3),
                "{path} on {width}x{height}: {frame:?}, not {:?}\n{text}", [left, top, w, h]
            );
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig { max_global_rejects: 1_000_000, ..vantic_testkit::cases(64) })]

    /// What is shown of lists goes together: with as many children as are shown, all is where it is; with
    /// one more in any of them, something is cut or has less space than its words want, that did not
    /// before, or more so.
    #[test]
    fn as_many_are_shown_as_fit_together(
        line in lines(),
        children in prop::collection::vec(nodes(), 1..5),
        (width, height) in (number(200..1400), number(200..1400)),
        tall in any::<bool>(),
    ) {
        let mut root = root_of(line, children);
        tidy_but_lists(&mut root, tall);
        let display = Display::new(width, height).unwrap();
        let (plan, placement) = placed(&screen(&root, tall), &display);
        let text = screen(&root, tall);
        let shown = |path: &str, most: usize| {
            (1..=most).filter(|i| plan.screen().find(&format!("{path}.c[{i}]")).is_some_and(|c| placement.frame(c).is_some())).count()
        };
        // Where something is cut as it is, one more may be cut with it.
        let is_cut = placement.missed.iter().any(|m| matches!(m.rule, RuleRef::Whole(_)));
        prop_assume!(!is_cut && placement.broken.is_empty() && placement.unsettled.is_empty());
        let mut fixed = root.clone();
        let mut lists = Vec::new();
        lists_in(&mut fixed, "all", &mut lists);
        prop_assume!(lists.iter().any(|(_, list)| list.least < list.most));
        let counts: Vec<(String, usize, usize)> = lists
            .into_iter()
            .map(|(path, list)| {
                let (count, most) = (shown(&path, list.most), list.most);
                (list.least, list.most) = (count, count);
                (path, count, most)
            })
            .collect();
        let gave_way = |plan: &Plan, p: &Placement| -> HashMap<String, f64> {
            p.missed.iter().chain(&p.broken).map(|m| (m.rule.name(plan.screen()), m.by)).collect()
        };
        let (same, as_shown) = placed(&screen(&fixed, tall), &display);
        for (view, _) in same.screen().views() {
            let path = same.screen().path(view);
            let was = placement.frame(plan.screen().find(&path).unwrap()).unwrap();
            let is = as_shown.frame(view).unwrap();
            let off = [is.left - was.left, is.top - was.top, is.width - was.width, is.height - was.height];
            prop_assert!(off.iter().all(|by| by.abs() < 1e-3), "{path} on {width}x{height}: {was:?}, {is:?}\n{text}");
        }
        let before = gave_way(&same, &as_shown);
        for (index, (path, count, _)) in counts.iter().enumerate().filter(|(_, (_, count, most))| count < most) {
            let mut more = fixed.clone();
            let mut lists = Vec::new();
            lists_in(&mut more, "all", &mut lists);
            (lists[index].1.least, lists[index].1.most) = (count + 1, count + 1);
            let axis = usize::from(lists[index].1.down);
            let (after, with_more) = placed(&screen(&more, tall), &display);
            // What a share, or what is stretched, would have to be larger for does not fit into it.
            let size = |plan: &Plan, p: &Placement, path: &str| {
                let frame = p.frame(plan.screen().find(path).unwrap()).unwrap();
                [frame.width, frame.height][axis]
            };
            let is_larger = given_on(&root, path, axis)
                .iter()
                .any(|path| size(&after, &with_more, path) > size(&same, &as_shown, path) + 1e-6);
            prop_assert!(
                is_larger || gave_way(&after, &with_more).iter().any(|(rule, by)| *by > before.get(rule).unwrap_or(&0.0) + 1e-6),
                "{path} has room for {} on {width}x{height}\n{text}", count + 1
            );
        }
    }
}

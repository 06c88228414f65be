//! Relations as lines of a screen file, and why they were chosen.

use crate::infer::rules::relation::{Point, Relation, Size, Target, What};
use crate::infer::rules::table::Table;
use vantic_core::geometry::Axis;
use vantic_core::words::number;

/// The words for the places and the size of a box along an axis.
struct Words {
    near: &'static str,
    far: &'static str,
    center: &'static str,
    size: &'static str,
}

fn words(axis: Axis) -> Words {
    match axis {
        Axis::Across => Words { near: "start", far: "end", center: "center_x", size: "width" },
        Axis::Down => Words { near: "top", far: "bottom", center: "center_y", size: "height" },
    }
}

fn point_word(axis: Axis, point: Point) -> &'static str {
    let Words { near, far, center, .. } = words(axis);
    match point {
        Point::Near => near,
        Point::Far => far,
        Point::Center => center,
    }
}

/// `+ 8`, `- 8` or nothing.
fn plus(by: f64) -> String {
    match by {
        0.0 => String::new(),
        by if by < 0.0 => format!(" - {}", number(-by)),
        by => format!(" + {}", number(by)),
    }
}

fn percent(factor: f64) -> String {
    let percent = (factor * 1e6).round() / 1e4;
    format!("{}%", number(percent))
}

/// Writes relations of the views of a table.
pub(super) struct Writer<'a> {
    pub(super) table: &'a Table,
}

impl Writer<'_> {
    /// How a view calls a box in its block: `parent`, or the path from the nearest block in which it is known.
    fn name(&self, from: usize, target: Target) -> String {
        let view = match target {
            Target::Screen => return "screen".into(),
            Target::Safe => return "safe".into(),
            Target::View(view) => view,
        };
        if self.table.views[from].parent == Some(view) {
            return "parent".into();
        }
        let ancestors =
            |of: usize| std::iter::successors(self.table.views[of].parent, |&p| self.table.views[p].parent);
        let outer: Vec<usize> = ancestors(from).collect();
        let path = &self.table.views[view].path;
        let common = ancestors(view).find(|around| outer.contains(around));
        let relative = match common {
            Some(around) => path[self.table.views[around].path.len() + 1..].to_owned(),
            None => path.clone(),
        };
        // A name that something further in has as well means that one.
        let first = relative.split('.').next().unwrap_or_default();
        let inner =
            std::iter::once(from).chain(outer.iter().copied().take_while(|&around| Some(around) != common));
        let is_hidden = inner.filter(|&around| Some(around) != common).any(|around| {
            self.table.views[around].children.iter().any(|&c| self.table.views[c].name == first)
        });
        if is_hidden { path.clone() } else { relative }
    }

    fn size(&self, view: usize, axis: Axis, size: &Size) -> String {
        match *size {
            Size::Fixed(size) => number(size),
            Size::Share { of, factor, plus: more } => {
                let whole = format!("{}.{}", self.name(view, of), words(axis).size);
                match factor {
                    1.0 => format!("{whole}{}", plus(more)),
                    _ => format!("{} of {whole}{}", percent(factor), plus(more)),
                }
            }
        }
    }

    /// A relation as a line for the block of its view; nothing for what needs no rule.
    pub(super) fn line(&self, relation: &Relation) -> Option<String> {
        let Relation { view, axis, what, .. } = relation;
        let (view, axis) = (*view, *axis);
        let Words { near, size, .. } = words(axis);
        Some(match what {
            What::Natural => return None,
            What::Is(is) => format!("{size} = {}", self.size(view, axis, is)),
            What::Least(a, b) => {
                format!("{size} = min({}, {})", self.size(view, axis, a), self.size(view, axis, b))
            }
            What::Greatest(a, b) => {
                format!("{size} = max({}, {})", self.size(view, axis, a), self.size(view, axis, b))
            }
            What::At { own, target, point, by } => self.place(view, axis, (*own, *target, *point, *by)),
            What::Fraction { own, target, factor } => {
                let box_ = self.name(view, *target);
                let own = point_word(axis, *own);
                format!("{own} = {box_}.{near} + {} of {box_}.{size}", percent(*factor))
            }
            What::Baseline { of } => format!("baseline = {}.baseline", self.name(view, Target::View(*of))),
            What::Ratio { width, height } => {
                format!("ratio width : height = {} : {}", number(*width), number(*height))
            }
            What::Until { target, point, by } => {
                let place = format!("{}.{}", self.name(view, *target), point_word(axis, *point));
                format!("{} <= {place}{}", words(axis).far, plus(-by))
            }
            What::Even { before, first } => {
                let name = |of: usize| self.name(view, Target::View(of));
                let way = if axis == Axis::Across { "across" } else { "down" };
                let own = &self.table.views[view].name;
                format!("spread {way} {}, {}, {own}", name(*first), name(*before))
            }
        })
    }

    fn place(
        &self,
        view: usize,
        axis: Axis,
        (own, target, point, by): (Point, Target, Point, f64),
    ) -> String {
        let name = self.name(view, target);
        let is_around = !matches!(target, Target::View(of) if self.table.views[view].parent != Some(of));
        let gap = |word: &str, by: f64| match by {
            0.0 => format!("{word} {name}"),
            by => format!("{word} {name} by {}", number(by)),
        };
        match (own, point) {
            (Point::Near, Point::Far) if !is_around => {
                gap(if axis == Axis::Across { "after" } else { "below" }, by)
            }
            (Point::Far, Point::Near) if !is_around => {
                gap(if axis == Axis::Across { "before" } else { "above" }, -by)
            }
            (Point::Near, Point::Near) | (Point::Far, Point::Far) if is_around => {
                let inwards = if own == Point::Near { by } else { -by };
                let distance = if inwards == 0.0 { String::new() } else { format!(" {}", number(inwards)) };
                format!("pin {}{distance} to {name}", point_word(axis, own))
            }
            _ => format!("{} = {name}.{}{}", point_word(axis, own), point_word(axis, point), plus(by)),
        }
    }

    /// The lines of some relations of one view, pins to the same box and sizes in one.
    pub(super) fn lines(&self, relations: &[&Relation]) -> Vec<String> {
        let mut lines: Vec<String> = Vec::new();
        let mut fixed: [Option<f64>; 2] = [None, None];
        for relation in relations {
            if let What::Is(Size::Fixed(size)) = relation.what {
                fixed[usize::from(relation.axis == Axis::Down)] = Some(size);
            }
        }
        let mut has_size = false;
        for relation in relations {
            if let (What::Is(Size::Fixed(_)), [Some(width), Some(height)]) = (&relation.what, fixed) {
                if !has_size {
                    lines.push(match width == height {
                        true => format!("size = {}", number(width)),
                        false => format!("size = ({}, {})", number(width), number(height)),
                    });
                }
                has_size = true;
                continue;
            }
            let Some(line) = self.line(relation) else { continue };
            // `pin start 8 to parent` and `pin top 4 to parent` are `pin start 8, top 4 to parent`.
            let split = |line: &str| {
                let (what, to) = line.strip_prefix("pin ")?.rsplit_once(" to ")?;
                Some((what.to_owned(), to.to_owned()))
            };
            let alike = split(&line).and_then(|(what, to)| {
                let known = lines.iter_mut().find(|l| split(l).is_some_and(|(_, other)| other == to))?;
                Some((known, what, to))
            });
            match alike {
                Some((known, what, to)) => {
                    let before = split(known).map(|(before, _)| before).unwrap_or_default();
                    let sides = format!("{before}, {what}");
                    let mut sides: Vec<&str> = sides.split(", ").collect();
                    let order = ["start", "end", "top", "bottom"];
                    sides.sort_by_key(|side| order.iter().position(|word| side.starts_with(word)));
                    *known = format!("pin {} to {to}", sides.join(", "));
                }
                None => lines.push(line),
            }
        }
        centered(lines)
    }

    /// Why a relation was chosen, as a clause.
    pub(super) fn reason(&self, relation: &Relation) -> String {
        let several = self.table.sheets.len() > 1;
        let everywhere = if several { " in every drawing" } else { "" };
        let Relation { view, axis, what, .. } = relation;
        let name = |target: Target| match target {
            Target::View(of) if self.table.views[*view].parent != Some(of) => {
                format!("`{}`", self.table.views[of].path)
            }
            Target::View(_) => "what is around it".into(),
            Target::Screen => "the screen".into(),
            Target::Safe => "the safe area".into(),
        };
        match what {
            What::Natural => "as large as its words".into(),
            What::Is(Size::Fixed(_)) => format!("the same {}{everywhere}", words(*axis).size),
            What::Is(Size::Share { of, factor: 1.0, plus: 0.0 }) => {
                format!("as large as {}{everywhere}", name(*of))
            }
            What::Is(Size::Share { of, .. }) => format!("a share of {}{everywhere}", name(*of)),
            What::Least(..) => "follows what is around it up to a limit".into(),
            What::Greatest(..) => "follows what is around it from a limit on".into(),
            What::At { own, target, point, by } if own == point && *by == 0.0 => {
                format!("on a line with {}{everywhere}", name(*target))
            }
            What::At { own, target, point, .. } if own == point => {
                format!("the same distance to {}{everywhere}", name(*target))
            }
            What::At { target, .. } => {
                format!("the same distance to {}, beside it{everywhere}", name(*target))
            }
            What::Fraction { target, .. } => format!("at the same share of {}{everywhere}", name(*target)),
            What::Baseline { of } => format!("on the baseline of `{}`", self.table.views[*of].path),
            What::Ratio { .. } => format!("the same proportions{everywhere}"),
            What::Until { target, .. } => format!("cut short at {} where there is no room", name(*target)),
            What::Even { .. } => "evenly spaced in every drawing".into(),
        }
    }
}

/// `center_x = a.center_x` and `center_y = a.center_y` are `center = a.center`.
fn centered(mut lines: Vec<String>) -> Vec<String> {
    let box_of = |line: &str, axis: &str| {
        let of = line.strip_prefix(&format!("{axis} = "))?.strip_suffix(&format!(".{axis}"))?;
        Some(of.to_owned())
    };
    let x = lines.iter().enumerate().find_map(|(at, line)| Some((at, box_of(line, "center_x")?)));
    let y = lines.iter().enumerate().find_map(|(at, line)| Some((at, box_of(line, "center_y")?)));
    if let (Some((x, of)), Some((y, other))) = (x, y)
        && of == other
    {
        lines[x] = format!("center = {of}.center");
        lines.remove(y);
    }
    lines
}

//! What somebody says of a view where the guess is not what was meant.

use crate::infer::rules::relation::{Point, Relation, Size, Target, What};
use crate::infer::rules::table::Table;
use vantic_core::geometry::Axis;

/// How a view is meant to follow what is around it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Wish {
    /// Its width is the same everywhere.
    KeepsWidth,
    /// Its height is.
    KeepsHeight,
    /// Its distance to the starting edge of what is around it is.
    FollowsStart,
    /// Its distance to the end is.
    FollowsEnd,
    /// Its distance to the top is.
    FollowsTop,
    /// Its distance to the bottom is.
    FollowsBottom,
    /// Both distances across are: it is wider where that is.
    Grows,
    /// Both distances down are: it is taller where that is.
    GrowsDown,
    /// It stays in the middle of what is around it, across.
    Centered,
}

impl Wish {
    /// All with their name.
    pub const ALL: [(&'static str, Wish); 9] = [
        ("keeps-width", Wish::KeepsWidth),
        ("keeps-height", Wish::KeepsHeight),
        ("follows-start", Wish::FollowsStart),
        ("follows-end", Wish::FollowsEnd),
        ("follows-top", Wish::FollowsTop),
        ("follows-bottom", Wish::FollowsBottom),
        ("grows", Wish::Grows),
        ("grows-down", Wish::GrowsDown),
        ("centered", Wish::Centered),
    ];

    /// The name.
    pub fn name(self) -> &'static str {
        Self::ALL.iter().find(|(_, wish)| *wish == self).map_or("", |(name, _)| name)
    }

    /// Whether a relation of the view is what is wished for.
    fn asks_for(self, relation: &Relation, table: &Table) -> bool {
        let around = table.views[relation.view].parent.map(Target::View);
        let is_around = |target: Target| match around {
            Some(parent) => target == parent,
            None => matches!(target, Target::Safe | Target::Screen),
        };
        let edge = |axis: Axis, near: bool| {
            let point = if near { Point::Near } else { Point::Far };
            relation.axis == axis
                && matches!(relation.what, What::At { own, target, point: of, .. }
                    if own == point && of == point && is_around(target))
        };
        let is_size = |axis: Axis| relation.axis == axis && matches!(relation.what, What::Is(Size::Fixed(_)));
        match self {
            Wish::KeepsWidth => is_size(Axis::Across),
            Wish::KeepsHeight => is_size(Axis::Down),
            Wish::FollowsStart => edge(Axis::Across, true),
            Wish::FollowsEnd => edge(Axis::Across, false),
            Wish::FollowsTop => edge(Axis::Down, true),
            Wish::FollowsBottom => edge(Axis::Down, false),
            Wish::Grows => edge(Axis::Across, true) || edge(Axis::Across, false),
            Wish::GrowsDown => edge(Axis::Down, true) || edge(Axis::Down, false),
            Wish::Centered => {
                relation.axis == Axis::Across
                    && matches!(relation.what, What::At { own: Point::Center, target, point: Point::Center, by: 0.0 }
                        if is_around(target))
            }
        }
    }
}

/// What is wished for of views, by their paths.
pub type Wishes<'a> = &'a [(String, Wish)];

/// The relations that are wished for, of those that hold, the likeliest of each kind first. Paths of views that are not drawn, and wishes
/// that the drawings do not allow, come back.
pub(super) fn wished(
    table: &Table,
    found: &[Relation],
    wishes: Wishes<'_>,
) -> Result<Vec<Relation>, (String, Wish)> {
    let mut all: Vec<Relation> = Vec::new();
    for (path, wish) in wishes {
        let view = table.views.iter().position(|view| view.path == *path);
        let own =
            found.iter().filter(|relation| Some(relation.view) == view && wish.asks_for(relation, table));
        let mut met: Vec<&Relation> = Vec::new();
        for relation in own {
            // Of several for one edge the likeliest.
            let is_same = |known: &&&Relation| match (&known.what, &relation.what) {
                (What::At { own: a, .. }, What::At { own: b, .. }) => a == b,
                _ => true,
            };
            if !met.iter().any(|known| is_same(&known)) {
                met.push(relation);
            }
        }
        let least = if matches!(wish, Wish::Grows | Wish::GrowsDown) { 2 } else { 1 };
        if met.len() < least {
            return Err((path.clone(), *wish));
        }
        all.extend(met.into_iter().cloned());
    }
    Ok(all)
}

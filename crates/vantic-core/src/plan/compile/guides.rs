//! The rules of guides: where their boxes are.

use crate::geometry::axis::Axis;
use crate::model::coordinate::{Anchor, Coordinate};
use crate::model::edges::{ACROSS, DOWN, Edges};
use crate::model::expression::Expr;
use crate::model::guide::Guide;
use crate::model::id::ViewId;
use crate::model::rule::{Relation, equal};
use crate::model::screen::Screen;
use crate::plan::compile::layout_rules::{LayoutRule, LayoutStrength};
use crate::plan::variant::{Variant, Visibility};
use std::collections::HashSet;

/// Along an axis for which a guide has no rules of its own it reaches from edge to edge of its parent, less
/// its padding.
pub(crate) fn rules(screen: &Screen, variant: &Variant) -> Vec<LayoutRule> {
    let is_guide = |id: ViewId| screen.at(id).guide.is_some();
    let there = |id: &ViewId| variant.visible[id.index()] != Visibility::Gone && is_guide(*id);
    let guides: Vec<ViewId> = screen.views().map(|(id, _)| id).filter(there).collect();
    if guides.is_empty() {
        return Vec::new();
    }
    // Per guide and axis: whether its own rules speak of it.
    let mut spoken: HashSet<(ViewId, bool)> = HashSet::new();
    for rule in variant.rules.iter().map(|&r| screen.rule_at(r)) {
        let Some(owner) = rule.owner.filter(|&o| is_guide(o)) else { continue };
        let terms = rule.relations.iter().flat_map(Relation::terms);
        let own = terms.filter(|t| t.anchor == Anchor::View(owner));
        spoken.extend(own.map(|t| (owner, t.coordinate.is_horizontal())));
    }
    let mut all = Vec::new();
    for view in guides {
        let Some(guide) = variant.view(screen, view).guide() else { continue };
        let around = screen.at(view).parent;
        let parent = around.map_or(Anchor::Screen, Anchor::View);
        let scrolls =
            |axis| around.is_some_and(|p| variant.view(screen, p).scroll.is_some_and(|s| s.goes(axis)));
        for (edges, axis, sides) in [(ACROSS, Axis::Across, [0, 2]), (DOWN, Axis::Down, [1, 3])] {
            let mut add = |relation: Relation| {
                let on = LayoutStrength::Required;
                all.push(LayoutRule { view, child: view, relation, on, hugs: None });
            };
            let own = |coordinate| Expr::of(view.into(), coordinate);
            let Edges { near, far, size } = edges;
            let has_rules = spoken.contains(&(view, axis == Axis::Across));
            match guide {
                Guide::Mark(line) if line.axis == axis => {
                    add(equal(own(size), Expr::default()));
                    let at = line.at.clone().or((!has_rules).then(Expr::default));
                    if let Some(at) = at {
                        let relation = equal(own(near), Expr::of(parent, near) + at);
                        add(Relation { level: line.level, weight: line.weight, ..relation });
                    }
                }
                // It is moved by how far the view around it is scrolled; along that way rules say how large
                // it is.
                Guide::ContentBox if scrolls(axis) => {
                    let by = if axis == Axis::Across { Coordinate::ScrolledX } else { Coordinate::ScrolledY };
                    add(equal(own(near), Expr::of(parent, near) - Expr::of(parent, by)));
                }
                _ if has_rules && *guide != Guide::ContentBox => {}
                _ => {
                    let padding = |side: usize| match guide {
                        Guide::Padding(all) => all[side].clone(),
                        _ => Expr::default(),
                    };
                    let [first, second] = sides.map(padding);
                    add(equal(own(near), Expr::of(parent, near) + first));
                    add(equal(own(far), Expr::of(parent, far) - second));
                }
            }
        }
    }
    all
}

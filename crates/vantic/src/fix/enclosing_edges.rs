//! An edge of a view that lies around its children, as far from the last of them as they keep from it on the
//! other side.

use crate::fix::context::{AxisWords, FixContext};
use crate::fix::rule_source::Pinned;
use crate::fix::weights::missing;
use crate::screen_ext::ScreenExt as _;
use vantic_core::model::ViewId;

/// How many children are asked, from either end.
const MAX_CHILDREN: usize = 4;

impl FixContext<'_> {
    /// The lines that would let a view end at one of its children, or begin at one.
    pub(crate) fn lines_around_children(&self, view: ViewId, across: bool) -> Vec<(String, f64)> {
        let AxisWords { near, far, .. } = AxisWords::of(across);
        let children = self.screen().at(view).children();
        let mut lines = Vec::new();
        for (from, to) in [(near, far), (far, near)] {
            let kept = children.iter().find_map(|&child| self.distance_to_parent(child, across, from));
            // What is tied to this edge already cannot give it its place.
            let rests = |child: ViewId| self.distance_to_parent(child, across, to).is_some();
            let mut ordered: Vec<ViewId> = children.to_vec();
            if to == far {
                ordered.reverse();
            }
            let free = ordered.into_iter().filter(|&child| !rests(child));
            for (rank, child) in free.take(MAX_CHILDREN).enumerate() {
                let name = self.screen().at(child).name();
                let weight =
                    if kept.is_some() { missing::AROUND_CHILD_WITH_GAP } else { missing::AROUND_CHILD }
                        - missing::AROUND_CHILD_STEP * rank as f64;
                // ` + 8` inside the one edge is ` + 8` beyond the child at the other.
                let by = kept.as_deref().unwrap_or_default();
                lines.push((format!("{to} = {name}.{to}{by}"), weight));
            }
        }
        lines
    }

    /// How far a child keeps from an edge of its parent, as it is written: ` + 8`; empty where it lies on it.
    fn distance_to_parent(&self, child: ViewId, across: bool, side: &str) -> Option<String> {
        let of_rule = |line: &String| {
            let rest = line.strip_prefix(side)?.strip_prefix(" = parent.")?.strip_prefix(side)?;
            (rest.is_empty() || rest.starts_with(" + ") || rest.starts_with(" - ")).then(|| rest.to_owned())
        };
        let written = self.lines_of(child, across).iter().find_map(of_rule);
        written.or_else(|| {
            let own = self.rules_outside_bands(child);
            let pins = own.filter_map(|(id, _)| self.statement(id)?.pin());
            let sides = pins.filter(|Pinned { to, .. }| to == "parent").flat_map(|pin| pin.sides);
            let sign = if matches!(side, "start" | "top") { '+' } else { '-' };
            let mut own = sides.filter(|(word, _)| word == side);
            own.next().map(|(_, by)| if by.is_empty() { by } else { format!(" {sign} {by}") })
        })
    }
}

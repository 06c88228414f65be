//! The unknowns and what is known of a display and its texts, and coordinates as sums of them.

use crate::geometry::direction::Direction;
use crate::model::coordinate::{Anchor, Coordinate};
use crate::model::expression::Expr;
use crate::model::guide::{Guide, divides, edges_of};
use crate::model::id::ViewId;
use crate::model::screen::Screen;
use crate::plan::parameters::{DisplayParams, ScrollParams, TextParams};
use crate::plan::variant::Variant;
use std::collections::{HashMap, HashSet};
use vantic_solver::{Affine, Linear, ParamId, VarId};

/// The unknowns of a view.
#[derive(Clone, Copy, Debug)]
pub(crate) struct ViewVars {
    pub(crate) left: VarId,
    pub(crate) top: VarId,
    pub(crate) width: VarId,
    pub(crate) height: VarId,
}

impl ViewVars {
    /// The unknown of a size.
    pub(crate) fn var(&self, size: Coordinate) -> VarId {
        if size == Coordinate::Height { self.height } else { self.width }
    }

    /// In the order in which free coordinates are walked.
    pub(crate) fn each(&self) -> [(Coordinate, VarId); 4] {
        [
            (Coordinate::Left, self.left),
            (Coordinate::Top, self.top),
            (Coordinate::Width, self.width),
            (Coordinate::Height, self.height),
        ]
    }
}

/// What expressions are read within: the screen, and what is left of it.
#[derive(Clone, Copy)]
pub(crate) struct ResolveContext<'a> {
    pub(crate) screen: &'a Screen,
    pub(crate) variant: &'a Variant,
}

/// Everything that a rule may read, in the solver's terms.
#[derive(Clone, Debug)]
pub(crate) struct Unknowns {
    pub(crate) direction: Direction,
    pub(crate) display: DisplayParams,
    /// Per view; `None` for one that is not there.
    pub(crate) boxes: Vec<Option<ViewVars>>,
    pub(crate) texts: Vec<Option<TextParams>>,
    /// How far views are scrolled: along the reading direction, and down.
    pub(crate) scrolls: HashMap<ViewId, ScrollParams>,
    /// Per named number: the parameter that it is, if the application sets it.
    pub(crate) named: Vec<Option<ParamId>>,
}

impl Unknowns {
    /// The parameters that are only known once a placement is: how tall texts are, and how far views are scrolled.
    pub(crate) fn settling_params(&self) -> HashSet<ParamId> {
        let heights = self.texts.iter().flatten().map(|text| text.height);
        heights.chain(self.scrolls.values().flatten().copied()).collect()
    }

    /// An expression in the solver's unknowns, without what is picked in it. `along`: the middle is
    /// measured along the reading direction too, since the rule speaks of start or end.
    pub(crate) fn linear(&self, within: ResolveContext<'_>, expr: &Expr, along: bool) -> Linear {
        let mut sum = LinearAccumulator { vars: Vec::new(), params: Vec::new(), constant: expr.constant };
        for term in &expr.terms {
            self.coordinate(within, term.anchor, term.coordinate, along, term.coefficient, &mut sum);
        }
        for &(c, value) in &expr.values {
            match self.named[value.index()] {
                Some(param) => sum.params.push((param, c)),
                None => sum.constant += c * within.variant.value(value),
            }
        }
        let known = Affine::constant(sum.constant);
        let constant = sum.params.into_iter().fold(known, |a, (p, c)| a.plus_param(p, c));
        Linear::new(sum.vars, constant)
    }

    fn coordinate(
        &self,
        within: ResolveContext<'_>,
        place: Anchor,
        coordinate: Coordinate,
        along: bool,
        c: f64,
        sum: &mut LinearAccumulator,
    ) {
        if self.of_cells(within, place, coordinate, along, c, sum) {
            return;
        }
        let mirrored = along && self.direction == Direction::RightToLeft;
        let mut own = |coordinate, c| self.coordinate(within, place, coordinate, false, c, sum);
        match coordinate {
            // From right to left: start = screen.width - right.
            Coordinate::Start if mirrored => own(Coordinate::Right, -c),
            Coordinate::End if mirrored => own(Coordinate::Left, -c),
            Coordinate::CenterX if mirrored => own(Coordinate::CenterX, -c),
            Coordinate::Start => return own(Coordinate::Left, c),
            Coordinate::End => return own(Coordinate::Right, c),
            _ => return self.plain(within, place, coordinate, c, sum),
        }
        sum.params.push((self.display.width, c));
    }

    /// A coordinate of columns or rows of a guide.
    fn of_cells(
        &self,
        within: ResolveContext<'_>,
        place: Anchor,
        coordinate: Coordinate,
        along: bool,
        c: f64,
        sum: &mut LinearAccumulator,
    ) -> bool {
        use Coordinate::{Bottom, CenterX, CenterY, End, Height, Left, Right, Start, Top, Width};
        let Anchor::Cells { guide, first, last } = place else { return false };
        let Some(Guide::Cells(cells)) = within.variant.view(within.screen, guide).guide() else {
            return false;
        };
        if !divides(cells, coordinate) {
            self.coordinate(within, guide.into(), coordinate, along, c, sum);
            return true;
        }
        let (near, far) = edges_of(cells, guide, first, last);
        // The edges are reported along the reading direction.
        let mirrored = self.direction == Direction::RightToLeft;
        let middle = |near: Expr, far: Expr| (near + far) * 0.5;
        let (expr, turned) = match coordinate {
            Start | Top => (near, false),
            End | Bottom | Coordinate::Baseline => (far, false),
            Width | Height => (far - near, false),
            Left if mirrored => (far, true),
            Right if mirrored => (near, true),
            Left => (near, false),
            Right => (far, false),
            CenterX if mirrored && !along => (middle(near, far), true),
            CenterX | CenterY => (middle(near, far), false),
            _ => return true,
        };
        if turned {
            sum.params.push((self.display.width, c));
        }
        let linear = self.linear(within, &expr, true);
        let c = if turned { -c } else { c };
        sum.vars.extend(linear.terms().iter().map(|&(var, k)| (var, k * c)));
        sum.params.extend(linear.affine().terms().iter().map(|&(param, k)| (param, k * c)));
        sum.constant += c * linear.number();
        true
    }

    fn plain(
        &self,
        within: ResolveContext<'_>,
        place: Anchor,
        coordinate: Coordinate,
        c: f64,
        sum: &mut LinearAccumulator,
    ) {
        let view = within.variant.view_at(within.screen, place);
        let Some((view, b)) = view.and_then(|v| Some((v, self.boxes[v.index()]?))) else {
            return self.of_display(place, coordinate, c, sum);
        };
        let image = within.variant.view(within.screen, view).image;
        match (coordinate, image) {
            (Coordinate::ContentWidth, Some(image)) => sum.constant += c * image.width,
            (Coordinate::ContentHeight, Some(image)) => sum.constant += c * image.height,
            (Coordinate::ScrolledX | Coordinate::ScrolledY, _) => {
                let which = usize::from(coordinate == Coordinate::ScrolledY);
                sum.params.extend(self.scrolls.get(&view).map(|params| (params[which], c)));
            }
            _ => self.of_view(b, self.texts[view.index()], coordinate, c, sum),
        }
    }

    fn of_view(
        &self,
        b: ViewVars,
        text: Option<TextParams>,
        coordinate: Coordinate,
        c: f64,
        sum: &mut LinearAccumulator,
    ) {
        match (coordinate, text) {
            (Coordinate::Left | Coordinate::Start, _) => sum.vars.push((b.left, c)),
            (Coordinate::Right | Coordinate::End, _) => sum.vars.extend([(b.left, c), (b.width, c)]),
            (Coordinate::CenterX, _) => sum.vars.extend([(b.left, c), (b.width, c / 2.0)]),
            (Coordinate::Top, _) => sum.vars.push((b.top, c)),
            (Coordinate::CenterY, _) => sum.vars.extend([(b.top, c), (b.height, c / 2.0)]),
            (Coordinate::Width, _) => sum.vars.push((b.width, c)),
            (Coordinate::Height, _) => sum.vars.push((b.height, c)),
            (Coordinate::Baseline, Some(t)) => {
                sum.vars.push((b.top, c));
                sum.params.push((t.ascent, c));
            }
            (Coordinate::Bottom | Coordinate::Baseline, _) => sum.vars.extend([(b.top, c), (b.height, c)]),
            (Coordinate::ContentWidth, Some(t)) => sum.params.push((t.width, c)),
            (Coordinate::ContentHeight, Some(t)) => sum.params.push((t.height, c)),
            (Coordinate::ContentWidth | Coordinate::ContentHeight, None)
            | (Coordinate::Pixel | Coordinate::ScrolledX | Coordinate::ScrolledY, _) => {}
        }
    }

    fn of_display(&self, place: Anchor, coordinate: Coordinate, c: f64, sum: &mut LinearAccumulator) {
        let d = &self.display;
        let safe = if place == Anchor::Screen { 0.0 } else { c };
        let bottom = if place == Anchor::Clear { d.cover } else { d.bottom };
        let mut add = |side: ParamId, inset_near: (ParamId, f64), inset_far: (ParamId, f64), share: f64| {
            sum.params.push((side, share * c));
            sum.params.extend([inset_near, inset_far].map(|(p, k)| (p, k * safe)));
        };
        match coordinate {
            Coordinate::Left | Coordinate::Start => add(d.width, (d.left, 1.0), (d.right, 0.0), 0.0),
            Coordinate::Right | Coordinate::End => add(d.width, (d.left, 0.0), (d.right, -1.0), 1.0),
            Coordinate::CenterX => add(d.width, (d.left, 0.5), (d.right, -0.5), 0.5),
            Coordinate::Width => add(d.width, (d.left, -1.0), (d.right, -1.0), 1.0),
            Coordinate::Top => add(d.height, (d.top, 1.0), (bottom, 0.0), 0.0),
            Coordinate::Bottom | Coordinate::Baseline => add(d.height, (d.top, 0.0), (bottom, -1.0), 1.0),
            Coordinate::CenterY => add(d.height, (d.top, 0.5), (bottom, -0.5), 0.5),
            Coordinate::Height => add(d.height, (d.top, -1.0), (bottom, -1.0), 1.0),
            Coordinate::Pixel => sum.params.push((d.pixel, c)),
            Coordinate::ContentWidth
            | Coordinate::ContentHeight
            | Coordinate::ScrolledX
            | Coordinate::ScrolledY => {}
        }
    }
}

struct LinearAccumulator {
    vars: Vec<(VarId, f64)>,
    params: Vec<(ParamId, f64)>,
    constant: f64,
}

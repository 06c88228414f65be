//! Placements with names instead of ids: the form that scripts rely on.

use crate::display::display::Display;
use crate::geometry::frame::Frame;
use crate::model::arrangement::VisibleSpares;
use crate::model::guide::Division;
use crate::model::id::ViewId;
use crate::model::screen::Screen;
use crate::model::scroll::{Scrolled, StickyOffset};
use crate::plan::place::placement::{Missed, Placement};
use crate::words::number::millionths;
use serde::ser::SerializeMap as _;
use serde::{Serialize, Serializer};
use std::collections::BTreeMap;

impl Placement {
    /// The placement in the form that scripts rely on, with the screen's names.
    pub fn named<'a>(&'a self, screen: &'a Screen) -> NamedPlacement<'a> {
        let named = |all: &[Missed]| {
            all.iter()
                .map(|m| NamedMissed {
                    rule: m.rule.name(screen),
                    level: m.rule.level(screen).map(str::to_owned),
                    by: millionths(m.by),
                })
                .collect()
        };
        let has_guides = screen.views().any(|(_, view)| view.guide().is_some());
        let frames = |kind| NamedFrames { placement: self, screen, kind };
        NamedPlacement {
            display: &self.display,
            frames: frames(NamedKind::Views),
            scale: self.scaled.is_some().then(|| millionths(self.scale())),
            device_frames: self.scaled.is_some().then(|| frames(NamedKind::OnDevice)),
            guides: has_guides.then(|| frames(NamedKind::Guides)),
            shown: self.listed(screen, |view| self.visible_spares.get(&view).copied()),
            grids: self.listed(screen, |view| self.grids.get(&view).map(|g| [g.columns, g.rows])),
            divisions: self.listed(screen, |view| self.divisions.get(&view).map(NamedDivision::of)),
            scroll: self.listed(screen, |view| self.scrolled.get(&view).map(NamedScroll::of)),
            stuck: self.listed(screen, |view| {
                let all = self.stuck.get(&view)?;
                Some(all.iter().map(|stuck| NamedStuck::of(stuck, screen)).collect())
            }),
            fits: self.listed(screen, |view| self.look(view).fits.map(|fit| millionths(fit.factor))),
            missed: named(&self.missed),
            broken: named(&self.broken),
            unsettled: self.unsettled.iter().map(|&view| screen.path(view)).collect(),
            lines: self.listed(screen, |view| self.text_size(view).map(|t| t.lines)),
            texts: self.listed(screen, |view| self.named_text(screen, view)),
            images: self.listed(screen, |view| {
                let natural = self.look(view).natural.filter(|_| self.frame(view).is_some());
                natural.map(|image| [millionths(image.width), millionths(image.height)])
            }),
            depths: self.listed(screen, |view| Some(self.look(view).depth).filter(|&depth| depth != 0.0)),
            painted: self
                .listed(screen, |view| self.painted_elsewhere(screen, view).map(|bounds| bounds.rounded())),
        }
    }

    /// A text as it is painted.
    fn named_text(&self, screen: &Screen, view: ViewId) -> Option<NamedText> {
        self.frame(view)?;
        let (words, look) = (screen.words_in(view, self.display.language())?, self.look(view));
        Some(NamedText {
            words: words.into_owned(),
            font: millionths(look.font?),
            line: look.line.map(millionths),
        })
    }

    /// What there is to say of views, by path.
    fn listed<T>(&self, screen: &Screen, of: impl Fn(ViewId) -> Option<T>) -> BTreeMap<String, T> {
        let known = screen.views().filter_map(|(view, _)| Some((view, of(view)?)));
        known.map(|(view, what)| (screen.path(view), what)).collect()
    }
}

/// A placement with names instead of ids.
#[derive(Clone, Debug, Serialize)]
pub struct NamedPlacement<'a> {
    display: &'a Display,
    frames: NamedFrames<'a>,
    /// How many logical pixels one unit of the screen is, where it is scaled.
    #[serde(skip_serializing_if = "Option::is_none")]
    scale: Option<f64>,
    /// The frames in logical pixels of the display, where the screen is scaled.
    #[serde(skip_serializing_if = "Option::is_none")]
    device_frames: Option<NamedFrames<'a>>,
    /// The boxes of guides.
    #[serde(skip_serializing_if = "Option::is_none")]
    guides: Option<NamedFrames<'a>>,
    /// How many children are shown that are shown only where there is room, and how many there are.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    shown: BTreeMap<String, VisibleSpares>,
    /// How many columns and rows grids have.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    grids: BTreeMap<String, [u32; 2]>,
    /// What guides are divided into.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    divisions: BTreeMap<String, NamedDivision>,
    /// How far views are scrolled, and how far they can be.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    scroll: BTreeMap<String, NamedScroll>,
    /// What sticks, and between which offsets.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    stuck: BTreeMap<String, Vec<NamedStuck>>,
    /// The factors by which views paint what they hold smaller.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    fits: BTreeMap<String, f64>,
    missed: Vec<NamedMissed>,
    broken: Vec<NamedMissed>,
    /// What does not converge.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    unsettled: Vec<String>,
    /// How many lines each text has, those that a limit hides included.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    lines: BTreeMap<String, u32>,
    /// The words and font sizes of texts.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    texts: BTreeMap<String, NamedText>,
    /// The natural sizes of images: width and height.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    images: BTreeMap<String, [f64; 2]>,
    /// How near views are to the reader, where that is said.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    depths: BTreeMap<String, f64>,
    /// The painted bounds of what is not painted as its frame.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    painted: BTreeMap<String, Frame>,
}

#[derive(Clone, Debug, Serialize)]
struct NamedText {
    words: String,
    /// With the reader's text scale.
    font: f64,
    #[serde(skip_serializing_if = "Option::is_none")]
    line: Option<f64>,
}

#[derive(Clone, Debug, Serialize)]
struct NamedDivision {
    count: u32,
    size: f64,
    gutter: f64,
    first: f64,
    cut: f64,
}

impl NamedDivision {
    fn of(division: &Division) -> Self {
        let Division { count, size, gutter, first, cut, .. } = *division;
        let [size, gutter, first, cut] = [size, gutter, first, cut].map(millionths);
        Self { count, size, gutter, first, cut }
    }
}

#[derive(Clone, Debug, Serialize)]
struct NamedScroll {
    offset: [f64; 2],
    most: [f64; 2],
}

impl NamedScroll {
    fn of(scrolled: &Scrolled) -> Self {
        let pair = |(across, down): (f64, f64)| [across, down].map(millionths);
        Self { offset: pair(scrolled.offset), most: pair(scrolled.most) }
    }
}

#[derive(Clone, Debug, Serialize)]
struct NamedStuck {
    side: &'static str,
    of: String,
    held: [f64; 2],
    by: f64,
}

impl NamedStuck {
    fn of(stuck: &StickyOffset, screen: &Screen) -> Self {
        let held = [stuck.held.0, stuck.held.1].map(millionths);
        let (side, of) = (stuck.side.coordinate().spelling(), screen.path(stuck.scroller));
        Self { side, of, held, by: millionths(stuck.by) }
    }
}

#[derive(Clone, Debug, Serialize)]
struct NamedMissed {
    rule: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    level: Option<String>,
    by: f64,
}

#[derive(Clone, Debug)]
struct NamedFrames<'a> {
    placement: &'a Placement,
    screen: &'a Screen,
    kind: NamedKind,
}

/// Which frames are reported.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum NamedKind {
    Views,
    /// Those of views, in logical pixels of the display.
    OnDevice,
    Guides,
}

impl Serialize for NamedFrames<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        let mut map = serializer.serialize_map(None)?;
        for (view, _) in self.screen.views() {
            let is_wanted = self.screen.at(view).guide.is_some() == (self.kind == NamedKind::Guides);
            let frame = match self.kind {
                NamedKind::OnDevice => self.placement.device_frame(view),
                NamedKind::Views | NamedKind::Guides => self.placement.frame(view),
            };
            if let Some(frame) = frame.filter(|_| is_wanted) {
                map.serialize_entry(&self.screen.path(view), &frame.rounded())?;
            }
        }
        map.end()
    }
}

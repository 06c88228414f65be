//! A drawing.

use std::collections::{HashMap, HashSet};
use vantic_core::display::{Display, DisplayError};
use vantic_core::geometry::Frame;
use vantic_core::limits::{MAX_NESTING, MAX_NUMBER};
use vantic_core::model::{BuildError, Screen, is_name, reserved_words};
use vantic_core::plan::Placement;

/// How many views a drawing has at most.
pub const MAX_DRAWN_VIEWS: usize = 1000;

/// What somebody drew: frames of named views on one display. Frames are in logical pixels from the top left corner of the
/// screen, y down.
#[derive(Clone, Debug, PartialEq)]
pub struct Drawing {
    /// The display that it was drawn for.
    pub display: Display,
    /// The views, parents before children, siblings in the order in which they are painted.
    pub(super) views: Vec<DrawnView>,
    /// What was left out, and why.
    pub notes: Vec<DrawingNote>,
}

/// A view of a drawing.
#[derive(Clone, Debug, PartialEq)]
pub struct DrawnView {
    /// Its path, such as `header.title`; what stands before the last point is the path of its parent.
    pub path: String,
    /// Where it was drawn.
    pub frame: Frame,
    /// What it shows.
    pub kind: DrawnKind,
}

/// What a drawn view shows.
#[derive(Clone, Debug, PartialEq)]
pub enum DrawnKind {
    /// A box, perhaps with others in it.
    Plain,
    /// A text.
    Text {
        /// The words.
        words: String,
        /// The font size in logical pixels.
        font: f64,
        /// The height of a line, where the engine's own is not meant.
        line: Option<f64>,
    },
    /// An image with a natural size.
    Image {
        /// Its width.
        width: f64,
        /// Its height.
        height: f64,
    },
}

impl DrawnKind {
    /// Whether a screen file can have it.
    fn is_usable(&self) -> bool {
        match self {
            DrawnKind::Plain => true,
            DrawnKind::Text { words, font, line } => {
                (1.0..=1e3).contains(font)
                    && line.is_none_or(|line| (1.0..=1e4).contains(&line))
                    && !words.contains('\0')
            }
            DrawnKind::Image { width, height } => {
                [width, height].into_iter().all(|side| (1.0..=1e5).contains(side))
            }
        }
    }
}

/// Something in a drawing that was left out.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("line {line}: {what}")]
pub struct DrawingNote {
    /// The line of the file, from 1.
    pub line: usize,
    /// What was left out, and why.
    pub what: String,
}

/// Why something is no drawing.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum DrawingError {
    /// It is no JSON, or no XML.
    #[error("line {line}, column {column}: {what}")]
    Syntax {
        /// From 1.
        line: usize,
        /// From 1.
        column: usize,
        /// What is wrong.
        what: String,
    },
    /// JSON that is no placement, SVG without a size and the like.
    #[error("{0}")]
    Shape(String),
    /// A display that cannot be.
    #[error(transparent)]
    Display(#[from] DisplayError),
    /// Two views of one name.
    #[error("two views are named `{0}`; give each a name of its own")]
    Twice(String),
    /// A name that a screen file cannot have.
    #[error(
        "`{0}` is no name for a view: names are letters, digits and underscores, and begin with a letter"
    )]
    Name(String),
    /// A name that a screen file uses as a word.
    #[error(transparent)]
    Reserved(BuildError),
    /// The parent is not drawn.
    #[error("`{path}` is in `{parent}`, which is not drawn")]
    NoParent {
        /// The view.
        path: String,
        /// What its path says it is in.
        parent: String,
    },
    /// A frame that no view can have.
    #[error(
        "the frame of `{0}` is not usable: sizes are 0 or more, and numbers are finite and at most {MAX_NUMBER}"
    )]
    Frame(String),
    /// A text or an image that no screen file can have.
    #[error(
        "`{0}` cannot be in a screen file: a font is 1 to 1000 pixels, a line 1 to 10000, the sides of an image 1 to 100000, and words have no zero character"
    )]
    Content(String),
    /// Too much of it.
    #[error("{views} views are drawn; the limit is {MAX_DRAWN_VIEWS}")]
    TooMany {
        /// How many there are.
        views: usize,
    },
    /// Views in views in views.
    #[error("`{0}` is nested too deeply; the limit is {MAX_NESTING} levels")]
    TooDeep(String),
    /// Nothing is drawn.
    #[error("no view is drawn")]
    Empty,
}

impl Drawing {
    /// A drawing of views, in any order.
    ///
    /// # Errors
    /// No views or too many, names that are no names or are there twice, a parent that is not drawn, impossible frames.
    ///
    /// ```
    /// use vantic::drawing::{Drawing, DrawnKind, DrawnView};
    /// use vantic::geometry::Frame;
    /// use vantic::prelude::*;
    ///
    /// let frame = Frame { left: 16.0, top: 16.0, width: 288.0, height: 48.0 };
    /// let bench = DrawnView { path: "bench".into(), frame, kind: DrawnKind::Plain };
    /// let drawing = Drawing::new(Display::new(320.0, 480.0)?, vec![bench])?;
    /// assert_eq!(drawing.frame("bench"), Some(frame));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn new(display: Display, views: Vec<DrawnView>) -> Result<Self, DrawingError> {
        if views.is_empty() {
            return Err(DrawingError::Empty);
        }
        if views.len() > MAX_DRAWN_VIEWS {
            return Err(DrawingError::TooMany { views: views.len() });
        }
        let mut known = HashSet::new();
        for view in &views {
            let name = view.path.rsplit('.').next().unwrap_or_default();
            if !is_name(name) {
                return Err(DrawingError::Name(name.to_owned()));
            }
            if reserved_words().any(|word| word == name) {
                return Err(DrawingError::Reserved(BuildError::reserved(name)));
            }
            if !known.insert(view.path.as_str()) {
                return Err(DrawingError::Twice(view.path.clone()));
            }
            if view.path.split('.').count() > MAX_NESTING {
                return Err(DrawingError::TooDeep(view.path.clone()));
            }
            let Frame { left, top, width, height } = view.frame;
            let mut numbers = [left, top, width, height, left + width, top + height].into_iter();
            if !numbers.all(|n| n.abs() <= MAX_NUMBER) || width < 0.0 || height < 0.0 {
                return Err(DrawingError::Frame(view.path.clone()));
            }
            if !view.kind.is_usable() {
                return Err(DrawingError::Content(view.path.clone()));
            }
        }
        for view in &views {
            if let Some((parent, _)) = view.path.rsplit_once('.')
                && !known.contains(parent)
            {
                return Err(DrawingError::NoParent { path: view.path.clone(), parent: parent.to_owned() });
            }
        }
        Ok(Self { display, views: parents_first(views), notes: Vec::new() })
    }

    /// What a placement looks like.
    pub fn of(placement: &Placement, screen: &Screen) -> Result<Self, DrawingError> {
        let scale = placement.display.text_scale();
        let drawn = |view| {
            let (look, words) = (placement.look(view), screen.words_in(view, placement.display.language()));
            let text = words.and_then(|words| {
                let line = look.line.map(|line| line / scale);
                Some(DrawnKind::Text { words: words.into_owned(), font: look.font? / scale, line })
            });
            let image = look.natural.map(|i| DrawnKind::Image { width: i.width, height: i.height });
            Some(DrawnView {
                path: drawn_path(&screen.path(view)),
                frame: placement.frame(view)?,
                kind: text.or(image).unwrap_or(DrawnKind::Plain),
            })
        };
        let views = screen.views().filter(|(_, about)| about.guide().is_none());
        Self::new(placement.display.clone(), views.filter_map(|(view, _)| drawn(view)).collect())
    }

    /// The views, parents before children.
    pub fn views(&self) -> &[DrawnView] {
        &self.views
    }

    /// Where a view was drawn.
    pub fn frame(&self, path: &str) -> Option<Frame> {
        self.views.iter().find(|view| view.path == path).map(|view| view.frame)
    }
}

/// The path of a view as a drawing has it: `boat[2]`, the second of several, is `boat_2`.
pub(crate) fn drawn_path(path: &str) -> String {
    path.replace('[', "_").replace(']', "")
}

/// Views with each behind what it is in, in the same order otherwise.
fn parents_first(views: Vec<DrawnView>) -> Vec<DrawnView> {
    let mut children: HashMap<String, Vec<DrawnView>> = HashMap::new();
    for view in views {
        let parent = view.path.rsplit_once('.').map_or("", |(parent, _)| parent).to_owned();
        children.entry(parent).or_default().push(view);
    }
    let mut order = Vec::new();
    let mut waiting: Vec<DrawnView> = children.remove("").unwrap_or_default();
    waiting.reverse();
    while let Some(view) = waiting.pop() {
        let inside = children.remove(&view.path).unwrap_or_default();
        waiting.extend(inside.into_iter().rev());
        order.push(view);
    }
    order
}

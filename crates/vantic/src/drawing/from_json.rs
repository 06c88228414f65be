//! Drawings from the JSON that `vantic place` prints.

use crate::drawing::drawn::{Drawing, DrawingError, DrawnKind, DrawnView, drawn_path};
use crate::drawing::nest::nested;
use serde::Deserialize;
use std::collections::{BTreeMap, HashMap};
use vantic_core::display::{Display, Insets};
use vantic_core::geometry::{Direction, Frame};

#[derive(Deserialize)]
struct File {
    placements: Vec<Placed>,
}

#[derive(Deserialize)]
struct Placed {
    display: On,
    frames: Frames,
    #[serde(default)]
    texts: HashMap<String, Text>,
    #[serde(default)]
    images: HashMap<String, [f64; 2]>,
}

#[derive(Deserialize)]
struct On {
    #[serde(default)]
    name: Option<String>,
    width: f64,
    height: f64,
    #[serde(default)]
    insets: Option<Sides>,
    #[serde(default = "one")]
    text_scale: f64,
    #[serde(default)]
    direction: Option<String>,
    #[serde(default)]
    states: BTreeMap<String, String>,
    #[serde(default)]
    parameters: BTreeMap<String, f64>,
    #[serde(default)]
    language: Option<String>,
    #[serde(default = "one")]
    density: f64,
    #[serde(default)]
    touch: bool,
    #[serde(default)]
    keyboard: f64,
    #[serde(default)]
    own_keyboard: f64,
    #[serde(default)]
    scroll: Vec<Scrolled>,
}

#[derive(Deserialize)]
struct Scrolled {
    view: String,
    across: f64,
    down: f64,
}

fn one() -> f64 {
    1.0
}

#[derive(Deserialize)]
struct Sides {
    left: f64,
    top: f64,
    right: f64,
    bottom: f64,
}

#[derive(Deserialize)]
struct Text {
    words: String,
    font: f64,
    #[serde(default)]
    line: Option<f64>,
}

/// Frames in written order, each name once as it is written, so that one that is there twice is found.
struct Frames(Vec<(String, Box_)>);

#[derive(Deserialize)]
struct Box_ {
    left: f64,
    top: f64,
    width: f64,
    height: f64,
}

impl<'de> Deserialize<'de> for Frames {
    fn deserialize<D: serde::Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        struct Visitor;
        impl<'de> serde::de::Visitor<'de> for Visitor {
            type Value = Frames;

            fn expecting(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
                f.write_str("an object of frames by path")
            }

            fn visit_map<M: serde::de::MapAccess<'de>>(self, mut map: M) -> Result<Frames, M::Error> {
                let mut all = Vec::new();
                while let Some(entry) = map.next_entry()? {
                    all.push(entry);
                }
                Ok(Frames(all))
            }
        }
        from.deserialize_map(Visitor)
    }
}

impl Drawing {
    /// Drawings from the JSON that `vantic place --format json` prints: one for each placement. Where no path has a point,
    /// frames decide what is in what.
    ///
    /// ```
    /// use vantic::drawing::Drawing;
    ///
    /// let drawn = r#"{"placements": [{"display": {"width": 320, "height": 480}, "frames": {
    ///     "bench": {"left": 16, "top": 16, "width": 288, "height": 48}}}]}"#;
    /// assert_eq!(Drawing::from_json(drawn)?[0].views()[0].path, "bench");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// What is no such JSON, and as for [`Drawing::new`].
    pub fn from_json(text: &str) -> Result<Vec<Self>, DrawingError> {
        let file: File = serde_json::from_str(text).map_err(|error| DrawingError::Syntax {
            line: error.line(),
            column: error.column().max(1),
            what: error.to_string().split(" at line ").next().unwrap_or_default().to_owned(),
        })?;
        if file.placements.is_empty() {
            return Err(DrawingError::Shape("there is no placement in it".into()));
        }
        file.placements.into_iter().map(drawing).collect()
    }
}

impl On {
    fn display(self) -> Result<Display, DrawingError> {
        let mut display = Display::new(self.width, self.height)?;
        if let Some(Sides { left, top, right, bottom }) = self.insets {
            display = display.with_insets(Insets { left, top, right, bottom })?;
        }
        if let Some(language) = self.language {
            display = display.with_language(language);
        }
        if self.direction.as_deref() == Some("right_to_left") {
            display = display.with_direction(Direction::RightToLeft);
        }
        for (state, alternative) in self.states {
            display = display.with_state(state, alternative);
        }
        for (parameter, to) in self.parameters {
            display = display.with_parameter(&parameter, to)?;
        }
        for Scrolled { view, across, down } in self.scroll {
            display = display.with_scroll(&view, across, down)?;
        }
        display = display.with_density(self.density)?.with_touch(self.touch);
        display = display.with_own_keyboard(self.own_keyboard)?.with_keyboard(self.keyboard)?;
        display = display.with_text_scale(self.text_scale)?;
        // Its name is what it was called.
        Ok(match self.name {
            Some(name) => display.named(name),
            None => display,
        })
    }
}

fn drawing(placed: Placed) -> Result<Drawing, DrawingError> {
    let display = placed.display.display()?;
    let scale = display.text_scale();
    let mut views: Vec<DrawnView> = Vec::new();
    for (path, Box_ { left, top, width, height }) in placed.frames.0 {
        let frame = Frame { left, top, width, height };
        let text = placed.texts.get(&path).map(|text| DrawnKind::Text {
            words: text.words.clone(),
            font: text.font / scale,
            line: text.line.map(|line| line / scale),
        });
        let image = placed.images.get(&path).map(|&[width, height]| DrawnKind::Image { width, height });
        let kind = text.or(image).unwrap_or(DrawnKind::Plain);
        views.push(DrawnView { path: drawn_path(&path), frame, kind });
    }
    nested(&mut views, |view| view.kind == DrawnKind::Plain);
    Drawing::new(display, views)
}

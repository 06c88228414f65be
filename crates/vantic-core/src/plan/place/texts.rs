//! What texts measure: asked of the engine, or known from the last display.

use crate::display::display::Display;
use crate::geometry::direction::Direction;
use crate::model::id::{Revision, ViewId};
use crate::model::screen::Screen;
use crate::plan::error::PlaceError;
use crate::plan::variant::Variant;
use crate::text::measure::{Measure, TextRequest, TextSize};
use crate::tolerance::WRAPPED;
use vantic_solver::work;

/// What it takes to measure a text, beside a unit for so many of its bytes.
const MEASURED: usize = 20;

/// How many bytes of a text are measured in a unit of work.
const BYTES: usize = 4;

/// The texts of a screen on a display, and the engine that measures them.
pub(crate) struct Texts<'a> {
    pub(crate) screen: &'a Screen,
    pub(crate) variant: &'a Variant,
    pub(crate) display: &'a Display,
    pub(crate) measure: &'a dyn Measure,
    /// Other whenever words in the language of the display are.
    translated: Revision,
}

impl<'a> Texts<'a> {
    pub(crate) fn new(
        screen: &'a Screen,
        variant: &'a Variant,
        display: &'a Display,
        measure: &'a dyn Measure,
    ) -> Self {
        let translated = display.language().and_then(|name| screen.language(name));
        let translated = translated.map(|language| language.revision).unwrap_or_default();
        Self { screen, variant, display, measure, translated }
    }

    /// Other whenever the words of a text are.
    fn revision(&self, view: ViewId) -> u64 {
        let own = self.screen.at(view).text.as_ref().map(|text| text.revision);
        own.unwrap_or_default().number(self.translated)
    }

    /// What the words of a text measure at a width, or on one line.
    fn measured(&self, view: ViewId, width: Option<f64>) -> Result<TextSize, PlaceError> {
        let Some(text) = self.variant.view(self.screen, view).text() else { return Ok(TextSize::default()) };
        let (display, scale) = (self.display, self.display.text_scale());
        let words = self.screen.words_in(view, display.language()).unwrap_or_default();
        let request = TextRequest {
            words: &words,
            font: text.font * scale,
            line: text.line.map(|line| line * scale),
            width,
            direction: display.direction(),
            language: display.language(),
            style: text.style.as_deref(),
            view: Some(view.index()),
            revision: self.revision(view),
        };
        work::spend(MEASURED + request.words.len() / BYTES);
        let mut size = self.measure.measure(&request);
        if let Some(shown) = text.lines.filter(|&most| most < size.lines) {
            size.height *= f64::from(shown) / f64::from(size.lines);
            size.hidden = size.lines - shown;
        }
        let numbers = [size.width, size.longest, size.height, size.ascent];
        if numbers.iter().all(|n| (0.0..=crate::limits::MAX_NUMBER).contains(n)) {
            Ok(size)
        } else {
            Err(PlaceError::Measure { view: self.screen.path(view) })
        }
    }

    /// What the words of a text measure at the width that it gets: on one line, where they fit.
    pub(crate) fn at(&self, view: ViewId, unwrapped: TextSize, width: f64) -> Result<TextSize, PlaceError> {
        match width >= unwrapped.width - WRAPPED {
            true => Ok(unwrapped),
            false => self.measured(view, Some(width.max(0.0) + WRAPPED)),
        }
    }
}

/// What all sizes depend on, beside the words.
#[derive(Debug, PartialEq)]
struct AskedOn {
    /// The engine's revision, and the reader's text scale.
    engine: (u64, u64),
    direction: Direction,
    language: Option<Box<str>>,
}

/// What a text measured last.
#[derive(Clone, Debug)]
struct KnownSize {
    revision: u64,
    unwrapped: TextSize,
    /// At a width.
    wrapped: Option<(f64, TextSize)>,
}

/// What the texts of a variant measured on the last display, for an engine that says when it measures otherwise.
#[derive(Debug, Default)]
pub(crate) struct KnownSizes {
    asked: Option<AskedOn>,
    /// Per view.
    sizes: Vec<Option<KnownSize>>,
}

impl KnownSizes {
    /// Forgets what does not hold on a display.
    pub(crate) fn begin(&mut self, texts: &Texts<'_>) {
        let (display, revision) = (texts.display, texts.measure.revision());
        let Some(revision) = revision else {
            *self = Self::default();
            return;
        };
        let engine = (revision, display.text_scale().to_bits());
        let holds = self.asked.as_ref().is_some_and(|asked| {
            asked.engine == engine
                && asked.direction == display.direction()
                && asked.language.as_deref() == display.language()
        });
        if !holds {
            let language = display.language().map(Box::from);
            self.asked = Some(AskedOn { engine, direction: display.direction(), language });
            self.sizes.clear();
        }
        self.sizes.resize(texts.screen.views.len(), None);
    }

    /// What a text measures on one line.
    pub(crate) fn on_one_line(&mut self, texts: &Texts<'_>, view: ViewId) -> Result<TextSize, PlaceError> {
        let revision = texts.revision(view);
        let slot = self.sizes.get_mut(view.index());
        if let Some(Some(known)) = &slot
            && known.revision == revision
        {
            work::spend(1);
            return Ok(known.unwrapped);
        }
        let unwrapped = texts.measured(view, None)?;
        if let Some(slot) = slot {
            *slot = Some(KnownSize { revision, unwrapped, wrapped: None });
        }
        Ok(unwrapped)
    }

    /// What a text measures at a width, after it was measured on one line.
    pub(crate) fn at(
        &mut self,
        texts: &Texts<'_>,
        view: ViewId,
        unwrapped: TextSize,
        width: f64,
    ) -> Result<TextSize, PlaceError> {
        let known = self.sizes.get_mut(view.index()).and_then(Option::as_mut);
        let Some(known) = known.filter(|_| width < unwrapped.width - WRAPPED) else {
            return texts.at(view, unwrapped, width);
        };
        if let Some((_, size)) = known.wrapped.filter(|(at, _)| *at == width) {
            work::spend(1);
            return Ok(size);
        }
        let size = texts.at(view, unwrapped, width)?;
        known.wrapped = Some((width, size));
        Ok(size)
    }
}

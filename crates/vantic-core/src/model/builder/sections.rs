//! The parts of a screen besides its views and rules: states, a drawn size, languages, expectations, claims,
//! acceptances.

use crate::display::quantity::DisplayQuantity;
use crate::limits::{MAX_BANDS, MAX_NESTING, MAX_NUMBER};
use crate::model::acceptance::Acceptance;
use crate::model::band::Band;
use crate::model::build_error::BuildError;
use crate::model::builder::builder::ScreenBuilder;
use crate::model::claim::{Claim, Claimed, RANGES};
use crate::model::code::Code;
use crate::model::condition::Condition;
use crate::model::coordinate::Anchor;
use crate::model::design::Design;
use crate::model::drawn_frames::DrawnFrames;
use crate::model::expectation::Expectation;
use crate::model::id::{BandId, ViewId};
use crate::model::state::State;
use crate::model::validate::check_words;
use std::sync::Arc;

impl ScreenBuilder {
    /// Claims that something is so over a whole range of displays.
    pub fn claim(&mut self, claim: Claim) -> &mut Self {
        let result = self.add_claim(claim);
        self.note(result)
    }

    /// Adds a claim.
    ///
    /// # Errors
    /// Ids of another screen, numbers out of range, too many claims.
    pub fn add_claim(&mut self, claim: Claim) -> Result<(), BuildError> {
        let is_known = |place: Anchor| match place {
            Anchor::Screen | Anchor::Safe | Anchor::Clear => true,
            Anchor::View(view) => self.screen.has_view(view),
            _ => false,
        };
        let of = match claim.what {
            Claimed::Inside(place) => place,
            Claimed::ClearOf(view, _) => view.into(),
            Claimed::Whole | Claimed::Same(_) => Anchor::Screen,
        };
        if !is_known(claim.view.into()) || !is_known(of) {
            return Err(BuildError::ForeignId { rule: "a claim".into() });
        }
        let numbers = claim.over.as_ref().map_or([0.0; 2], |(_, from, to)| [*from, *to]);
        let by = if let Claimed::ClearOf(_, by) = claim.what { by } else { 0.0 };
        let within = |n: f64| n.is_finite() && n.abs() <= MAX_NUMBER;
        match &claim.over {
            Some((DisplayQuantity::Parameter(name), from, to)) => {
                let Some((least, most)) = self.screen.parameter(name).and_then(|of| of.range) else {
                    return Err(BuildError::ClaimRange);
                };
                if *from < least || *to > most {
                    return Err(BuildError::ClaimBeyond { name: name.to_string(), least, most });
                }
            }
            Some((along, ..)) if RANGES.iter().all(|(_, of)| of != along) => {
                return Err(BuildError::ClaimRange);
            }
            _ => {}
        }
        if !numbers.iter().chain([&by]).all(|n| within(*n)) {
            return Err(BuildError::Number { rule: "a claim".into() });
        }
        Arc::make_mut(&mut self.screen.claims).push(claim);
        Ok(())
    }

    /// A named condition on the display.
    ///
    /// # Errors
    /// A name that is none or taken, a number that is not finite or out of range, conditions nested too deep,
    /// too many bands.
    pub fn add_band(&mut self, name: &str, condition: Condition) -> Result<BandId, BuildError> {
        if condition.nesting() > MAX_NESTING {
            // Dropped piece by piece, since even that would go as deep.
            condition.dismantle();
            return Err(BuildError::Limit { what: "conditions are nested too deep", limit: MAX_NESTING });
        }
        self.check_name(name)?;
        if !condition.numbers().iter().all(|n| n.abs() <= MAX_NUMBER) {
            return Err(BuildError::Number { rule: format!("band {name}") });
        }
        self.check_tested(&condition)?;
        if self.screen.bands.iter().any(|b| b.name == name) {
            return Err(BuildError::Taken { what: "band", name: name.into(), place: "the screen".into() });
        }
        if self.screen.bands.len() >= MAX_BANDS {
            return Err(BuildError::Limit { what: "too many bands", limit: MAX_BANDS });
        }
        self.screen.bands.push(Band { name: name.to_owned(), condition });
        Ok(BandId::new(self.screen.bands.len() - 1, self.screen.tag))
    }

    /// The band of the first alternative; those of the others follow it.
    pub fn add_state(&mut self, name: &str, alternatives: &[&str]) -> Result<BandId, BuildError> {
        let taken = |what, name: &str, place: &str| BuildError::Taken {
            what,
            name: name.into(),
            place: place.into(),
        };
        for (index, word) in [name].iter().chain(alternatives).enumerate() {
            self.check_name(word)?;
            if index > 1 && alternatives[..index - 1].contains(word) {
                return Err(taken("alternative", word, name));
            }
        }
        if self.screen.states.iter().any(|s| s.name == name) {
            return Err(taken("state", name, "the screen"));
        }
        if alternatives.len() < 2 {
            return Err(BuildError::OneAlternative { state: name.into() });
        }
        if self.screen.bands.len() + alternatives.len() > MAX_BANDS {
            return Err(BuildError::Limit { what: "too many bands", limit: MAX_BANDS });
        }
        let first = BandId::new(self.screen.bands.len(), self.screen.tag);
        for (index, shown) in alternatives.iter().enumerate() {
            let (state, shown) = (name.to_owned(), (*shown).to_owned());
            let band = format!("{state}.{shown}");
            let condition = Condition::State { state, shown, first: index == 0 };
            self.screen.bands.push(Band { name: band, condition });
        }
        let alternatives = alternatives.iter().map(|&a| a.to_owned()).collect();
        self.screen.states.push(State { name: name.to_owned(), alternatives });
        Ok(first)
    }

    /// The size that the screen is drawn for.
    ///
    /// # Errors
    /// A size or scaling that is out of range.
    pub fn set_design(&mut self, design: Design) -> Result<(), BuildError> {
        if let Some(message) = design.refused() {
            return Err(BuildError::Design { message });
        }
        self.screen.design = Some(design);
        Ok(())
    }

    /// The language of this name, added if it is new.
    pub fn add_language(
        &mut self,
        name: &str,
        right_to_left: bool,
        is_own: bool,
    ) -> Result<usize, BuildError> {
        self.check_name(name)?;
        let added = self.screen.add_language(name, right_to_left, is_own);
        added.map_err(|message| BuildError::Language { message })
    }

    /// Gives a text its words in a language, by the position that [`ScreenBuilder::add_language`] gave.
    ///
    /// # Errors
    /// A view that is no text of this screen, a language that it does not have.
    pub fn add_words(&mut self, language: usize, view: ViewId, words: String) -> Result<(), BuildError> {
        self.screen.set_words(language, view, words)
    }

    /// Adds what is expected to come out on a display.
    ///
    /// # Errors
    /// As for [`crate::model::Screen::with_expectation`].
    pub fn add_expectation(&mut self, expectation: Expectation) -> Result<(), BuildError> {
        self.screen.add_expectation(expectation)
    }

    /// Adds where views were drawn on a display.
    ///
    /// # Errors
    /// As for [`crate::model::Screen::with_drawing`].
    pub fn add_drawing(&mut self, drawing: DrawnFrames) -> Result<(), BuildError> {
        self.screen.add_drawing(drawing)
    }

    /// Accepts a finding on purpose.
    ///
    /// # Errors
    /// An unknown code.
    pub fn add_acceptance(
        &mut self,
        code: &str,
        names: Vec<String>,
        reason: String,
    ) -> Result<(), BuildError> {
        if Code::find(code).is_none() {
            let known = Code::ALL.map(|c| c.name()).join(", ");
            return Err(BuildError::Code { code: code.into(), known });
        }
        for words in names.iter().chain([&reason]) {
            check_words("accept", words)?;
        }
        self.screen.acceptances.push(Acceptance { code: code.into(), names, reason, is_inherited: false });
        Ok(())
    }
}

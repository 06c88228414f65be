//! Named numbers: those that bands change, and those that the application sets.

use crate::limits::MAX_RULES;
use crate::model::band::{Change, Value};
use crate::model::build_error::BuildError;
use crate::model::builder::builder::ScreenBuilder;
use crate::model::condition::{Condition, Tested, TestedParameter};
use crate::model::expression::Expr;
use crate::model::id::{BandId, ValueId};
use crate::model::validate::check_value;
use std::ops::RangeInclusive;

impl Value {
    /// Whether it may have this number: any number at all, and of a parameter one within its range.
    pub(super) fn check(&self, number: f64) -> Result<(), BuildError> {
        check_value(&self.name, number)?;
        match self.range {
            Some((from, to)) if !(from..=to).contains(&number) => {
                Err(BuildError::Range { name: self.name.clone(), number })
            }
            _ => Ok(()),
        }
    }
}

impl ScreenBuilder {
    /// A number with a name that bands may change, as an expression.
    ///
    /// ```
    /// use vantic_core::model::{Order, Property};
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let (margin_id, margin) = build.value("margin", 16.0);
    /// let wide = build.band("wide", Condition::Compare(Property::ScreenWidth, Order::AtLeast, 700.0));
    /// build.value_when(wide, margin_id, 48.0);
    /// let bench = build.view("bench");
    /// build.rule(bench, bench.left().equals(SCREEN.left() + margin.clone()));
    /// build.rule(bench, bench.right().equals(SCREEN.right() - margin));
    /// build.rule(bench, bench.pin([(Side::Top, 0.0), (Side::Bottom, 0.0)], SCREEN));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(800.0, 480.0)?, &PlainText)?;
    /// assert_eq!(placement.frame(bench).map(|f| f.width), Some(704.0));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn value(&mut self, name: &str, number: f64) -> (ValueId, Expr) {
        let added = self.add_value(name, number);
        self.noted_value(added)
    }

    fn noted_value(&mut self, added: Result<ValueId, BuildError>) -> (ValueId, Expr) {
        let value = added.unwrap_or_else(|error| {
            self.errors.push(error);
            ValueId::new(0, self.screen.tag)
        });
        (value, Expr::of_value(value))
    }

    /// A number that the application sets within a range, as an expression; `number` is what it is until then. Setting it
    /// ([`Display::with_parameter`]) is a step like a resize.
    ///
    /// [`Display::with_parameter`]: crate::display::Display::with_parameter
    pub fn parameter<T: Into<f64> + Copy>(
        &mut self,
        name: &str,
        number: T,
        range: RangeInclusive<T>,
    ) -> (ValueId, Expr) {
        let range = ((*range.start()).into(), (*range.end()).into());
        let added = self.add_parameter(name, number.into(), range);
        self.noted_value(added)
    }

    /// A parameter, for bands to look at: `build.band("slim", build.tested(rail).below(220))`.
    pub fn tested(&self, parameter: ValueId) -> TestedParameter {
        let known = self.screen.values.get(parameter.index()).filter(|_| self.screen.has_value(parameter));
        let value = known.filter(|value| value.range.is_some()).cloned();
        // What is none is refused where it is used.
        let value = value.unwrap_or_else(|| Value { name: String::new(), number: 0.0, range: None });
        TestedParameter { name: value.name, usual: value.number, range: value.range.unwrap_or_default() }
    }

    /// What a condition looks at is a parameter of the screen, and its numbers are ones that it may have.
    pub(super) fn check_tested(&self, condition: &Condition) -> Result<(), BuildError> {
        for part in condition.parts() {
            let Some((Tested::Parameter(of), numbers)) = part.borders() else { continue };
            let known = self.screen.parameter(&of.name);
            let Some(value) = known.filter(|value| (value.number, value.range) == (of.usual, Some(of.range)))
            else {
                return Err(BuildError::ForeignId { rule: "a parameter in a band".into() });
            };
            let ((from, to), name) = (of.range, value.name.clone());
            let is_met = match numbers[..] {
                [low, high] => low <= to && high > from,
                _ => numbers.iter().all(|number| (from..=to).contains(number)),
            };
            if !is_met {
                return Err(BuildError::TestedBeyond { name, number: numbers[0], from, to });
            }
        }
        Ok(())
    }

    /// The same, from what a file says.
    ///
    /// # Errors
    /// As for [`ScreenBuilder::add_value`], and a range that the number does not lie in.
    pub fn add_parameter(
        &mut self,
        name: &str,
        number: f64,
        (from, to): (f64, f64),
    ) -> Result<ValueId, BuildError> {
        check_value(name, from)?;
        check_value(name, to)?;
        self.add_named(Value { name: name.into(), number, range: Some((from, to)) })
    }

    /// In a band, gives a named number another value.
    pub fn value_when(&mut self, band: BandId, value: ValueId, number: f64) -> &mut Self {
        let result = self.set_value(band, value, number);
        self.note(result)
    }

    /// A number with a name that bands may change.
    ///
    /// # Errors
    /// A name that is none or taken, a number out of range.
    pub fn add_value(&mut self, name: &str, number: f64) -> Result<ValueId, BuildError> {
        self.add_named(Value { name: name.into(), number, range: None })
    }

    fn add_named(&mut self, value: Value) -> Result<ValueId, BuildError> {
        self.check_name(&value.name)?;
        value.check(value.number)?;
        if !self.register_mut().value_names.insert(value.name.clone()) {
            return Err(BuildError::Taken { what: "number", name: value.name, place: "the screen".into() });
        }
        if self.screen.values.len() >= MAX_RULES {
            return Err(BuildError::Limit { what: "too many named numbers", limit: MAX_RULES });
        }
        self.screen.values.push(value);
        Ok(ValueId::new(self.screen.values.len() - 1, self.screen.tag))
    }

    /// In a band, gives a named number another value.
    ///
    /// # Errors
    /// A band or number of another screen, a number out of range.
    pub fn set_value(&mut self, band: BandId, value: ValueId, number: f64) -> Result<(), BuildError> {
        let Some(known) = self.screen.values.get(value.index()).filter(|_| self.screen.has_value(value))
        else {
            return Err(BuildError::ForeignId { rule: "a named number".into() });
        };
        check_value(&known.name, number)?;
        if known.range.is_some() {
            return Err(BuildError::ParameterInBand { name: known.name.clone() });
        }
        self.add_change(band, Change::Value { value, number });
        Ok(())
    }
}

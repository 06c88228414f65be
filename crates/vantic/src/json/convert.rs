//! From text to the JSON form and back.

use crate::json::types::{Form, FormError};
use crate::syntax::error::{MAX_FILE_BYTES, SourceError, SourceErrors};
use crate::syntax::lexer::Kind;
use crate::syntax::parser::parser::parse;
use serde::{Deserialize as _, Serializer};

/// How deep objects and lists may be nested in a JSON form: enough for every nesting of views with
/// brackets within, and little enough for the stack of a thread.
const MAX_DEPTH: usize = 280;

impl Form {
    /// The form of a screen file. Only its grammar is looked at.
    ///
    /// ```
    /// use vantic::json::Form;
    ///
    /// let form = Form::of("screen quay { view a { left = 4 } }")?;
    /// let json = form.to_json();
    /// assert!(json.contains("\"left\""));
    /// assert_eq!(Form::from_json(&json)?.to_text()?, "screen quay {\n    view a { left = 4 }\n}\n");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// What is wrong with the file's grammar.
    pub fn of(text: &str) -> Result<Form, SourceErrors> {
        let (tree, errors) = parse(text);
        let item = tree.children().find(|n| n.kind() == Kind::ScreenItem);
        match (errors.is_empty(), item.and_then(|item| crate::json::from_tree::form(&item))) {
            (true, Some(form)) => Ok(form),
            (true, None) => {
                Err(SourceErrors::new(vec![SourceError::new(0..0, "there is no screen in the file")], text))
            }
            (false, _) => Err(SourceErrors::new(errors, text)),
        }
    }

    /// Reads a form from JSON.
    ///
    /// # Errors
    /// What is no JSON or not of the schema, with its line and column.
    pub fn from_json(json: &str) -> Result<Form, FormError> {
        let refuse = |message: String| FormError::Json { line: 1, column: 1, message };
        if json.len() > 4 * MAX_FILE_BYTES {
            return Err(refuse(format!("too large: the limit is {} bytes", 4 * MAX_FILE_BYTES)));
        }
        if depth(json) > MAX_DEPTH {
            return Err(refuse(format!("nested too deep: the limit is {MAX_DEPTH}")));
        }
        let mut reader = serde_json::Deserializer::from_str(json);
        // The depth has been looked at.
        reader.disable_recursion_limit();
        let form = Form::deserialize(&mut reader).and_then(|form| reader.end().map(|()| form));
        form.map_err(|error| {
            let (line, column) = (error.line(), error.column());
            let said = error.to_string();
            let message = said.split(" at line ").next().unwrap_or_default().to_owned();
            FormError::Json { line, column, message }
        })
    }

    /// This form as JSON.
    pub fn to_json(&self) -> String {
        // Numbers are finite and keys are words, so that nothing can be refused.
        serde_json::to_string_pretty(self).unwrap_or_default() + "\n"
    }

    /// This form as a screen file in the canonical layout.
    ///
    /// # Errors
    /// A name or number that a file cannot hold, and what is wrong with the grammar of the result.
    pub fn to_text(&self) -> Result<String, FormError> {
        let text = crate::json::print::text(self)?;
        crate::syntax::format::format(&text).map_err(FormError::Text)
    }

    /// The JSON Schema (2020-12) of forms.
    pub fn schema() -> String {
        let schema = schemars::schema_for!(Form);
        serde_json::to_string_pretty(&schema).unwrap_or_default() + "\n"
    }
}

/// How deep braces and brackets are nested outside of words.
fn depth(json: &str) -> usize {
    let (mut depth, mut deepest, mut in_words, mut escaped) = (0_usize, 0, false, false);
    for byte in json.bytes() {
        match byte {
            _ if escaped => escaped = false,
            b'\\' if in_words => escaped = true,
            b'"' => in_words = !in_words,
            b'{' | b'[' if !in_words => depth += 1,
            b'}' | b']' if !in_words => depth = depth.saturating_sub(1),
            _ => {}
        }
        deepest = deepest.max(depth);
    }
    deepest
}

/// Whole numbers without a point.
pub(crate) fn plainly<S: Serializer>(number: &f64, serializer: S) -> Result<S::Ok, S::Error> {
    let whole = *number as i64;
    if whole as f64 == *number { serializer.serialize_i64(whole) } else { serializer.serialize_f64(*number) }
}

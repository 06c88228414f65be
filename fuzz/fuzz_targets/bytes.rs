//! Any bytes as a screen file and as its JSON form: read, formatted, turned into the other form and back.

#![no_main]

use libfuzzer_sys::fuzz_target;
use vantic::json::Form;
use vantic::syntax::format;

fuzz_target!(|bytes: &[u8]| {
    let Ok(text) = std::str::from_utf8(bytes) else { return };
    let read = vantic::read(text);
    if let Ok(formatted) = format(text) {
        assert_eq!(format(&formatted).as_ref(), Ok(&formatted), "the layout is not canonical");
        assert_eq!(
            read.is_ok(),
            vantic::read(&formatted).is_ok(),
            "the layout changes whether it can be read"
        );
    }
    for form in [Form::of(text).ok(), Form::from_json(text).ok()].into_iter().flatten() {
        let json = form.to_json();
        let again = Form::from_json(&json).expect("what is written can be read");
        assert_eq!(again.to_json(), json, "the JSON form does not come back");
        if let Ok(text) = form.to_text() {
            Form::of(&text).expect("what is written can be parsed");
        }
    }
});

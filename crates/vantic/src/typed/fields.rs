//! Types with a field for each view, state and parameter of a screen.

use std::collections::BTreeSet;
use std::fmt::Write as _;
use vantic_core::model::{Screen, ViewId};

/// The keywords of Rust that a field may be called by all the same, and those that it may not.
const RAW: &str = "abstract as async await become box break const continue do dyn else enum extern false final fn for gen if impl in \
     let loop macro match mod move mut override priv pub ref return static struct trait true try type typeof \
     unsafe unsized use virtual where while yield";
const NEVER: &str = "crate self super Self";

/// The types of a module, and a constructor, behind the functions that build the screen.
pub(super) fn types(screen: &Screen) -> String {
    let mut types = Types { screen, taken: BTreeSet::new(), code: String::new() };
    let fields = types.fields(screen.roots().iter().chain(screen.guides()).copied());
    types.structure("Views", "All views and guides, in one another as in the screen.", &fields);
    let states = types.states();
    let parameters = types.parameters();
    let values = literal("Views", &fields, 0);
    let name = screen.name();
    format!(
        "{}
/// The screen `{name}`, and all of it that has a name.
#[derive(Clone, Debug)]
pub struct Screen {{
    /// The screen itself.
    pub screen: lib::model::Screen,
    /// Its views and guides.
    pub views: Views,
    /// Its states.
    pub states: States,
    /// Its parameters.
    pub parameters: Parameters,
}}

impl Screen {{
    /// The screen, built.
    pub fn new() -> Result<Self, lib::model::BuildErrors> {{
        let screen = build()?;
        let v: Vec<lib::model::ViewId> = screen.views().map(|(view, _)| view).collect();
        let views = {values};
        let (states, parameters) = ({states}, {parameters});
        Ok(Self {{ screen, views, states, parameters }})
    }}
}}
",
        types.code
    )
}

/// A field: its name, and what it holds.
struct Field {
    name: String,
    doc: String,
    holds: Holds,
}

enum Holds {
    View(usize),
    /// A view with others in it.
    Tree(String, Vec<Field>),
    /// One for each of those that `repeat` made.
    All(Vec<Holds>),
}

impl Holds {
    fn type_name(&self) -> String {
        match self {
            Holds::View(_) => "lib::model::ViewId".into(),
            Holds::Tree(name, _) => name.clone(),
            Holds::All(all) => format!("[{}; {}]", all[0].type_name(), all.len()),
        }
    }

    /// Whether two have the same fields, whatever their types are called.
    fn is_like(&self, other: &Holds) -> bool {
        match (self, other) {
            (Holds::View(_), Holds::View(_)) => true,
            (Holds::Tree(_, a), Holds::Tree(_, b)) => {
                let like = |(a, b): (&Field, &Field)| a.name == b.name && a.holds.is_like(&b.holds);
                a.len() == b.len() && std::iter::zip(a, b).all(like)
            }
            (Holds::All(a), Holds::All(b)) => a.len() == b.len() && a[0].is_like(&b[0]),
            _ => false,
        }
    }

    /// Takes the types of another one that is like it.
    fn call_as(&mut self, other: &Holds) {
        match (self, other) {
            (Holds::Tree(name, a), Holds::Tree(other, b)) => {
                name.clone_from(other);
                std::iter::zip(a, b).for_each(|(a, b)| a.holds.call_as(&b.holds));
            }
            (Holds::All(a), Holds::All(b)) => a.iter_mut().for_each(|a| a.call_as(&b[0])),
            _ => {}
        }
    }

    fn value(&self, depth: usize) -> String {
        match self {
            Holds::View(index) => format!("v[{index}]"),
            Holds::Tree(name, fields) => literal(name, fields, depth),
            Holds::All(all) => {
                let all: Vec<String> = all.iter().map(|one| one.value(depth + 1)).collect();
                format!("[{}]", all.join(", "))
            }
        }
    }
}

/// A struct with its values.
fn literal(name: &str, fields: &[Field], depth: usize) -> String {
    let indent = "    ".repeat(depth + 3);
    let fields =
        fields.iter().map(|field| format!("{indent}{}: {},\n", field.name, field.holds.value(depth + 1)));
    format!("{name} {{\n{}{}}}", fields.collect::<String>(), "    ".repeat(depth + 2))
}

struct Types<'a> {
    screen: &'a Screen,
    taken: BTreeSet<String>,
    code: String,
}

impl Types<'_> {
    /// Fields for views beside one another; those that `repeat` made are one field.
    fn fields(&mut self, views: impl Iterator<Item = ViewId>) -> Vec<Field> {
        let mut fields: Vec<Field> = Vec::new();
        let mut last: Option<(String, usize)> = None;
        for view in views {
            let Some(about) = self.screen.view(view) else { continue };
            let doc = format!("`{}`", self.screen.path(view));
            let of = about
                .name()
                .split_once('[')
                .and_then(|(base, number)| Some((base, number.strip_suffix(']')?.parse::<usize>().ok()?)));
            let mut holds = self.holds(view);
            let Some((base, number)) = of else {
                last = None;
                fields.push(Field { name: field_name(about.name()), doc, holds });
                continue;
            };
            let follows = last.take().is_some_and(|(of, before)| of == base && before + 1 == number);
            match fields.last_mut().map(|field| &mut field.holds) {
                Some(Holds::All(all)) if follows && all[0].is_like(&holds) => {
                    holds.call_as(&all[0]);
                    all.push(holds);
                    last = Some((base.to_owned(), number));
                }
                _ if number == 1 => {
                    let (name, doc) =
                        (field_name(base), format!("{doc} and those that follow it, counted from 0"));
                    fields.push(Field { name, doc, holds: Holds::All(vec![holds]) });
                    last = Some((base.to_owned(), number));
                }
                _ => fields.push(Field { name: format!("{base}_{number}"), doc, holds }),
            }
        }
        fields
    }

    fn holds(&mut self, view: ViewId) -> Holds {
        let Some(about) = self.screen.view(view) else { return Holds::View(view.index()) };
        let within: Vec<ViewId> = about.children().iter().chain(about.guides()).copied().collect();
        if within.is_empty() {
            return Holds::View(view.index());
        }
        let mut fields = vec![Field {
            name: "view".into(),
            doc: format!("`{}` itself", self.screen.path(view)),
            holds: Holds::View(view.index()),
        }];
        fields.extend(self.fields(within.into_iter()));
        let mut name = "View".to_owned();
        for part in self.screen.path(view).split(['.', '_']) {
            let mut letters = part.split('[').next().unwrap_or_default().chars();
            name.extend(letters.next().into_iter().flat_map(char::to_uppercase));
            name.extend(letters);
        }
        let number = (2..).map(|number| format!("{name}{number}"));
        let free = std::iter::once(name.clone()).chain(number).find(|name| self.taken.insert(name.clone()));
        Holds::Tree(free.unwrap_or(name), fields)
    }

    /// Writes a struct, and those of its fields.
    fn structure(&mut self, name: &str, doc: &str, fields: &[Field]) {
        let mut inner = Vec::new();
        let mut code = format!("\n/// {doc}\n#[derive(Clone, Copy, Debug)]\npub struct {name} {{\n");
        for field in fields {
            let _ = writeln!(
                code,
                "    /// {}.\n    pub {}: {},",
                field.doc,
                field.name,
                field.holds.type_name()
            );
            let mut of = &field.holds;
            while let Holds::All(all) = of {
                of = &all[0];
            }
            if let Holds::Tree(name, fields) = of {
                inner.push((name, fields));
            }
        }
        self.code.push_str(&(code + "}\n"));
        for (name, fields) in inner {
            self.structure(name, "A view with what is in it.", fields);
        }
    }

    /// Writes the types of states, and gives their value.
    fn states(&mut self) -> String {
        let mut values = Vec::new();
        let mut all = String::from("\n/// The states.\n#[derive(Clone, Copy, Debug)]\npub struct States {\n");
        for (number, state) in self.screen.states().iter().enumerate() {
            let (name, field) = (state.name(), field_name(state.name()));
            let _ = writeln!(all, "    /// `{name}`.\n    pub {field}: State{number},");
            let mut code = format!(
                "\n/// The alternatives of `{name}`; the first is shown where nothing is said.\n#[derive(Clone, Copy, Debug)]\npub struct State{number} {{\n"
            );
            let mut shown = Vec::new();
            for other in state.alternatives() {
                let alternative = field_name(other);
                let _ =
                    writeln!(code, "    /// `{other}`.\n    pub {alternative}: lib::display::Alternative,");
                shown.push(format!(
                    "{alternative}: lib::display::Alternative {{ state: {name:?}, name: {other:?} }}"
                ));
            }
            self.code.push_str(&(code + "}\n"));
            values.push(format!("{field}: State{number} {{ {} }}", shown.join(", ")));
        }
        self.code.push_str(&(all + "}\n"));
        format!("States {{ {} }}", values.join(", "))
    }

    fn parameters(&mut self) -> String {
        let mut values = Vec::new();
        let mut code =
            String::from("\n/// The parameters.\n#[derive(Clone, Copy, Debug)]\npub struct Parameters {\n");
        for value in self.screen.parameters() {
            let (name, field) = (value.name(), field_name(value.name()));
            let range = value.range().unwrap_or_default();
            let _ = writeln!(code, "    /// `{name}`.\n    pub {field}: lib::display::Parameter,");
            values.push(format!(
                "{field}: lib::display::Parameter {{ name: {name:?}, usual: {:?}, range: {range:?} }}",
                value.number()
            ));
        }
        self.code.push_str(&(code + "}\n"));
        format!("Parameters {{ {} }}", values.join(", "))
    }
}

/// The name of a field for something called so.
fn field_name(name: &str) -> String {
    let is_in = |all: &str| all.split_whitespace().any(|word| word == name);
    match () {
        () if is_in(RAW) => format!("r#{name}"),
        () if is_in(NEVER) => format!("{name}_"),
        () => name.to_owned(),
    }
}

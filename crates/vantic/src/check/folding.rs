//! One finding for one cause: what is found of each copy of a view, or of a part of the screen that is
//! repeated, is reported once, with the others named; so is what lies under the same inset in one parent.

use crate::finding::Finding;
use crate::screen_ext::ScreenExt as _;
use std::collections::HashMap;
use std::collections::hash_map::Entry;
use vantic_core::model::{Code, Coordinate, RuleRef, Screen, ViewId};
use vantic_core::words::number;

/// Puts findings that are the same of copies behind the first of them, which is the worst.
pub(crate) fn fold(screen: &Screen, findings: &mut Vec<Finding>) {
    let mut copies = Copies {
        screen,
        contents: HashMap::new(),
        signatures: HashMap::new(),
        families: HashMap::new(),
        rules: None,
    };
    let mut first_of: HashMap<_, usize> = HashMap::new();
    let mut folded: Vec<Finding> = Vec::with_capacity(findings.len());
    for finding in findings.drain(..) {
        let mut coordinates: Vec<Coordinate> =
            finding.coordinates.iter().map(|(_, coordinate)| *coordinate).collect();
        let names = match can_be_of_copies(&finding) {
            true if finding.code == Code::Covered => {
                coordinates = coordinates.into_iter().map(either_side).collect();
                copies.names_under_inset(&finding)
            }
            true if finding.code == Code::Conflict => {
                finding.rules.iter().map(|rule| of_any_copy(&rule.name(screen))).collect()
            }
            true => finding.views.iter().map(|&view| copies.name(view)).collect::<Vec<String>>(),
            false => Vec::new(),
        };
        if !names.iter().any(|name| name.contains(COPY)) {
            folded.push(finding);
            continue;
        }
        match first_of.entry((finding.code, finding.severity, names, coordinates)) {
            Entry::Occupied(at) => {
                let first = &mut folded[*at.get()];
                first.displays.extend(&finding.displays);
                first.displays.sort_unstable();
                first.displays.dedup();
                first.varies |= finding.varies || finding.amount != first.amount;
                first.copies.push(finding);
            }
            Entry::Vacant(new) => {
                new.insert(folded.len());
                folded.push(finding);
            }
        }
    }
    *findings = folded;
}

fn can_be_of_copies(finding: &Finding) -> bool {
    use Code::{Ambiguous, Bare, Collapse, Conflict, Missed, Tie};
    let of_rules = matches!(finding.code, Ambiguous | Collapse | Conflict | Missed | Bare | Tie);
    finding.accepted.is_none() && (of_rules || finding.code.is_of_frames())
}

/// A side, in place of which another stands in the other direction of reading, and at the other end.
pub(crate) fn either_side(side: Coordinate) -> Coordinate {
    if side == Coordinate::Right { Coordinate::Left } else { side }
}

/// Stands for what differs between the names of copies; no name has it.
const COPY: char = '*';

/// A name of what is repeated, without its numbers.
fn of_any_copy(name: &str) -> String {
    let mut out = String::with_capacity(name.len());
    let mut is_number = false;
    for c in name.chars() {
        if c == ']' {
            is_number = false;
        }
        if !is_number {
            out.push(c);
        }
        if c == '[' {
            is_number = true;
            out.push(COPY);
        }
    }
    out
}

/// Views that hold the same have the same number.
type Signature = usize;

/// The children of a view: their names, their rules and what they hold.
type Contents<'a> = Vec<(&'a str, Vec<String>, Signature)>;

/// What a screen holds several times.
struct Copies<'a> {
    screen: &'a Screen,
    contents: HashMap<Contents<'a>, Signature>,
    signatures: HashMap<ViewId, Signature>,
    /// Per parent: how many children hold the same.
    families: HashMap<Option<ViewId>, HashMap<Signature, usize>>,
    rules: Option<HashMap<ViewId, Vec<String>>>,
}

impl<'a> Copies<'a> {
    /// What lies as far under an inset as what stands beside it goes by the parent of both.
    fn names_under_inset(&mut self, finding: &Finding) -> Vec<String> {
        let parent = |view: &ViewId| self.screen.at(*view).parent();
        match finding.views.first().and_then(parent) {
            Some(parent) => vec![format!("{}.{COPY}", self.name(parent)), number(finding.amount)],
            None => finding.views.iter().map(|&view| self.name(view)).collect(),
        }
    }

    /// The path of a view, in which what is repeated goes by its name, and the outermost other copy by what it holds.
    fn name(&mut self, view: ViewId) -> String {
        let mut path: Vec<ViewId> = self.screen.with_ancestors(view).collect();
        path.reverse();
        let mut names = Vec::new();
        let mut is_copy = false;
        for at in path {
            let name = self.screen.at(at).name();
            let repeated = name.split_once('[').map(|(of, _)| format!("{of}{COPY}"));
            names.push(match repeated {
                Some(repeated) => {
                    is_copy = true;
                    repeated
                }
                None if is_copy => name.to_owned(),
                None if at != view && self.has_twin(at) => {
                    is_copy = true;
                    format!("{COPY}{}", self.signature(at))
                }
                None => name.to_owned(),
            });
        }
        names.join(".")
    }

    /// Whether a sibling of a view holds the same.
    fn has_twin(&mut self, view: ViewId) -> bool {
        let family = self.screen.at(view).parent();
        if !self.families.contains_key(&family) {
            let mut counts: HashMap<Signature, usize> = HashMap::new();
            for sibling in self.screen.siblings_of(view) {
                *counts.entry(self.signature(sibling)).or_default() += 1;
            }
            self.families.insert(family, counts);
        }
        let own = self.signature(view);
        self.families[&family].get(&own).is_some_and(|count| *count > 1)
    }

    /// The number of what a view holds, and of the rules of that.
    fn signature(&mut self, view: ViewId) -> Signature {
        if let Some(&known) = self.signatures.get(&view) {
            return known;
        }
        let screen: &'a Screen = self.screen;
        let mut contents: Contents<'a> = Vec::new();
        for &child in screen.at(view).children() {
            let within = self.signature(child);
            contents.push((screen.at(child).name(), self.rules_of(child), within));
        }
        let new = self.contents.len();
        let signature = *self.contents.entry(contents).or_insert(new);
        self.signatures.insert(view, signature);
        signature
    }

    fn rules_of(&mut self, view: ViewId) -> Vec<String> {
        let screen = self.screen;
        let rules = self.rules.get_or_insert_with(|| {
            let mut all: HashMap<ViewId, Vec<String>> = HashMap::new();
            for (id, rule) in screen.rules() {
                let Some(owner) = rule.owner() else { continue };
                let texts = (0..rule.relations().len())
                    .filter_map(|relation| RuleRef::Written { rule: id, relation }.text(screen));
                all.entry(owner).or_default().extend(texts);
            }
            all
        });
        rules.get(&view).cloned().unwrap_or_default()
    }
}

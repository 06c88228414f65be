//! Ideas in the order in which they are tried.

use crate::finding::Finding;
use crate::fix::breakpoint_fix::Border;
use crate::fix::change::Change;
use crate::fix::context::{Candidate, FixContext};
use crate::fix::weights::{breakpoint, offered};
use std::collections::HashSet;

/// Findings with more copies than this are fixed one by one.
const MAX_COPIES: usize = 6;

/// How many of the likeliest ideas are tried in all copies.
const MAX_JOINED: usize = 3;

/// More places behind the decimal point than this are not what somebody chose.
const MAX_DECIMALS: usize = 2;

/// The ideas for one finding that are still to be tried, the likeliest first, each change once.
pub(crate) struct Queue<'a> {
    source: &'a FixContext<'a>,
    finding: &'a Finding,
    ideas: Vec<Candidate>,
    met: HashSet<Vec<Change>>,
    has_bands: bool,
    left: usize,
}

impl<'a> Queue<'a> {
    /// At most so many.
    pub(crate) fn new(source: &'a FixContext<'a>, finding: &'a Finding, most: usize) -> Self {
        let (ideas, met) = (Vec::new(), HashSet::new());
        let mut queue = Self { source, finding, ideas, met, has_bands: false, left: most };
        let ideas = source.ideas(finding);
        queue.add(in_all_copies(source, finding, &ideas));
        queue.add(ideas);
        queue
    }

    fn add(&mut self, mut ideas: Vec<Candidate>) {
        // Of those that change the same, the likeliest; of those as likely, the one thought of first.
        let likeliest_first = |a: &Candidate, b: &Candidate| b.weight.total_cmp(&a.weight);
        ideas.sort_by(likeliest_first);
        ideas.retain(|idea| idea.changes.iter().all(|change| is_a_number_one_would_write(&change.new)));
        ideas.retain(|idea| self.met.insert(idea.changes.clone()));
        self.ideas.append(&mut ideas);
        self.ideas.sort_by(likeliest_first);
    }

    /// How many there are that may still be tried.
    pub(crate) fn len(&self) -> usize {
        self.left.min(self.ideas.len())
    }

    /// The next ones.
    pub(crate) fn next(&mut self, count: usize) -> Vec<Candidate> {
        let count = count.min(self.left).min(self.ideas.len());
        self.left -= count;
        self.ideas.drain(..count).collect()
    }

    /// Bands take long to think of, so that is put off until their turn has come: what is to be looked for,
    /// once.
    pub(crate) fn border(&mut self) -> Option<Border<'a>> {
        let has_come =
            !self.has_bands && self.ideas.first().is_none_or(|idea| idea.weight <= breakpoint::BAND);
        self.has_bands |= has_come;
        if has_come { self.source.border(self.finding) } else { None }
    }

    /// Takes in what was found.
    pub(crate) fn add_bands(&mut self, ends: f64) {
        self.add(self.source.banded(self.finding, ends));
    }
}

/// Whether what is written has no number that only a division gives.
fn is_a_number_one_would_write(new: &str) -> bool {
    let decimals = new.split('.').skip(1).map(|rest| rest.chars().take_while(char::is_ascii_digit).count());
    decimals.into_iter().all(|count| count <= MAX_DECIMALS)
}

/// Ideas for a finding with copies, each made in all of them at once.
fn in_all_copies(source: &FixContext<'_>, finding: &Finding, ideas: &[Candidate]) -> Vec<Candidate> {
    if finding.copies.is_empty() || finding.copies.len() > MAX_COPIES {
        return Vec::new();
    }
    let others: Vec<Vec<Candidate>> = finding.copies.iter().map(|copy| source.ideas(copy)).collect();
    let mut best: Vec<&Candidate> = ideas.iter().filter(|idea| !idea.lines.is_empty()).collect();
    best.sort_by(|a, b| b.weight.total_cmp(&a.weight));
    best.truncate(MAX_JOINED);
    let joined = best.into_iter().filter_map(|idea| {
        let mut changes = idea.changes.clone();
        for other in &others {
            let same =
                other.iter().find(|o| o.lines == idea.lines && o.changes.len() == idea.changes.len())?;
            changes.extend(same.changes.iter().filter(|change| !idea.changes.contains(change)).cloned());
        }
        changes.sort();
        changes.dedup();
        // What is written once for all of them is one change already.
        let places = idea.changes.len() * (others.len() + 1);
        let views = finding.copies.iter().filter_map(|copy| copy.views.first());
        let names: Vec<String> = views.map(|&view| format!("`{}`", source.screen().path(view))).collect();
        let said = format!("{}, and the same in {}", idea.said, names.join(", "));
        let weight = idea.weight + offered::ALL_COPIES;
        let idea = Candidate { lines: Vec::new(), ..idea.clone() }.because("they are alike");
        (changes.len() == places).then_some(Candidate { said, changes, weight, ..idea })
    });
    joined.collect()
}

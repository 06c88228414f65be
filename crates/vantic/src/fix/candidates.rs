//! What may be meant instead: other ways to write the rules that a finding is about.

use crate::check::attribution::deciding;
use crate::check::self_contradictory_rules::reads_itself;
use crate::finding::{Finding, Severity};
use crate::fix::change::{Change, changed};
use crate::fix::context::{AxisWords, Candidate, FixContext};
use crate::fix::progression::exact;
use crate::fix::rule_source::{Pinned, RewriteKind, Rewritten, Statement, added};
use crate::fix::usual::{MOST_GAP, is_far, is_near};
use crate::fix::weights::{conflict, limit, misplaced, outlier, relatives, suspect, tie};
use crate::screen_ext::ScreenExt as _;
use vantic_core::display::Display;
use vantic_core::model::{
    Anchor, Code, Comparison, Coordinate, Relation, Rule, RuleId, RuleRef, Screen, Strength, ViewId,
};
use vantic_core::plan::Placement;

/// How many rules are looked at for one finding.
const MAX_SUSPECTS: usize = 16;

/// How many other findings are asked what they have in common with one.
const MAX_OTHERS: usize = 12;

/// A wish that is missed by so much, in logical pixels, is as far off as any.
const FAR: f64 = 100.0;

/// How many other places a rule is tied to, to see whether one of them was meant.
const MAX_PLACES: usize = 6;

impl FixContext<'_> {
    pub(crate) fn screen(&self) -> &Screen {
        self.fixes.plan.screen()
    }

    pub(crate) fn text(&self) -> &str {
        self.fixes.files.text()
    }

    /// The rules of a view, those of bands included.
    pub(crate) fn rules_of(&self, view: ViewId) -> impl Iterator<Item = (RuleId, &Rule)> {
        let own = self.rules.get(&view).map(Vec::as_slice).unwrap_or_default();
        own.iter().map(|&id| (id, self.screen().rule_at(id)))
    }

    /// The rules of a view that no band adds.
    pub(crate) fn rules_outside_bands(&self, view: ViewId) -> impl Iterator<Item = (RuleId, &Rule)> {
        self.rules_of(view).filter(|(_, r)| r.band().is_none())
    }

    /// What is around a view, as its rules call it.
    pub(crate) fn around(&self, view: ViewId) -> &'static str {
        if self.screen().at(view).parent().is_some() { "parent" } else { "safe" }
    }

    pub(crate) fn statement(&self, rule: RuleId) -> Option<Statement<'_>> {
        Statement::at(&self.tree, self.text(), &self.fixes.map.rule(rule)?)
    }

    pub(crate) fn worst(&self, finding: &Finding) -> Option<(&Display, &Placement)> {
        let placement = self.report.placed(finding.worst?)?;
        Some((&placement.display, placement))
    }

    pub(crate) fn ideas(&self, finding: &Finding) -> Vec<Candidate> {
        [self.structural(finding), self.other_ideas(finding)].concat()
    }

    fn other_ideas(&self, finding: &Finding) -> Vec<Candidate> {
        match finding.code {
            Code::Ambiguous => self.missing(finding),
            Code::Conflict => self.contradicting(finding),
            Code::Tie => self.candidates_for_tie(finding),
            Code::Collapse => {
                [self.candidates_for_collapse(finding), self.candidates_for_circular_size(finding)].concat()
            }
            Code::Unmet => self.candidates_for_geometry(finding),
            code if code.is_of_frames() => self.candidates_for_geometry(finding),
            Code::Drift => self.as_drawn(finding),
            Code::Odd => self.as_others_say(finding),
            _ => Vec::new(),
        }
    }

    /// A change of a statement, described by what it reads then.
    pub(crate) fn reads(&self, statement: &Statement<'_>, change: Change, weight: f64) -> Option<Candidate> {
        let span = statement.span();
        let inside = Change {
            at: (change.at.0.checked_sub(span.start)?, change.at.1.checked_sub(span.start)?),
            new: change.new.clone(),
        };
        let new = changed(statement.source(), &[inside])?;
        if new == statement.source() {
            return None;
        }
        let two = change.new.contains('\n');
        let new = if two { new.replace('\n', "; ") } else { new };
        let said = format!("write `{}` instead of `{}`", one_line(&new), one_line(statement.source()));
        Some(Candidate::new(said, vec![change], weight).writing(&[new]))
    }

    pub(crate) fn taken_out(
        &self,
        statement: &Statement<'_>,
        relation: usize,
        weight: f64,
    ) -> Option<Candidate> {
        let change = statement.without(relation)?;
        let whole = change.at.0 <= statement.span().start && change.at.1 >= statement.span().end;
        if !whole {
            return self.reads(statement, change, weight);
        }
        let source = one_line(statement.source());
        Some(Candidate::new(format!("remove `{source}`"), vec![change], weight))
    }

    /// Lines put behind the last rule of a view, where that stands in a block for several views.
    pub(crate) fn put_with_others(&self, view: ViewId, lines: &[String], weight: f64) -> Option<Candidate> {
        let own = self.rules_outside_bands(view);
        let last = own.filter_map(|(id, _)| self.statement(id)).max_by_key(|s| s.span().start)?;
        let others = last.views_of()?;
        let said = format!("write `{}` in `each {others}`", lines.join("; "));
        Some(Candidate::new(said, vec![last.followed_by(lines)], weight).writing(lines))
    }

    /// Lines put into a view's block.
    pub(crate) fn put_in(&self, view: ViewId, lines: &[String], weight: f64) -> Option<Candidate> {
        let name = self.fixes.map.view(view)?;
        let change = added(&self.tree, self.text(), &name, lines)?;
        let said = format!("write `{}` in `{}`", lines.join("; "), self.screen().path(view));
        Some(Candidate::new(said, vec![change], weight).writing(lines))
    }

    /// Which of the levels a contradicting required rule could give way on: the weakest, declared where there
    /// is none.
    fn weakest(&self) -> Option<&str> {
        self.screen().ladder().last().map(String::as_str)
    }

    /// Required rules that cannot all hold: what was written last is the likeliest to be wrong.
    fn contradicting(&self, finding: &Finding) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        let mut parts: Vec<RuleRef> = finding.rules.clone();
        // In the order of the file; what came with a band, and what siblings say too, is less likely to be
        // wrong.
        parts.sort_by_key(|part| match part {
            RuleRef::Written { rule, relation } => (self.fixes.map.rule(*rule).map(|s| s.start), *relation),
            _ => (None, 0),
        });
        let count = parts.len().max(1) as f64;
        for (index, part) in parts.iter().enumerate() {
            let RuleRef::Written { rule, relation } = *part else { continue };
            let Some(statement) = self.statement(rule) else { continue };
            let mut weight = conflict::FIRST + conflict::LAST_MORE * (index + 1) as f64 / count;
            if self.screen().rule(rule).is_some_and(|r| r.label().is_some()) {
                weight *= conflict::LABELLED_FACTOR;
            }
            if self.screen().rule(rule).is_some_and(|r| r.band().is_some()) {
                weight *= conflict::BAND_FACTOR;
            }
            if self.is_usual(rule) {
                weight *= conflict::USUAL_FACTOR;
            }
            if statement.unlabelled().starts_with("ratio ") {
                weight *= conflict::RATIO_FACTOR;
            }
            weight *= 1.0 + conflict::OVERDETERMINED_EACH * self.overdetermination(rule, relation);
            ideas.extend(self.match_analogues(rule, &statement, conflict::AS_RELATIVES_FACTOR * weight));
            ideas.extend(self.taken_out(&statement, relation, weight));
            let level = self.weakest();
            let weaker = level.and_then(|level| statement.weakened(relation, Some(level)));
            ideas.extend(
                weaker.and_then(|change| self.reads(&statement, change, conflict::WEAKER_FACTOR * weight)),
            );
            for sign in ["<=", ">="] {
                let loosened = statement.compared(sign);
                ideas.extend(
                    loosened.and_then(|change| {
                        self.reads(&statement, change, conflict::INEQUALITY_FACTOR * weight)
                    }),
                );
            }
            for Rewritten { change, how } in self.rewritten(rule, &statement) {
                let factor = match how {
                    RewriteKind::Sign if self.goes_over(rule, relation) => conflict::SIGN_OVER_EDGE_FACTOR,
                    RewriteKind::Sign => conflict::SIGN_FACTOR,
                    RewriteKind::Unit | RewriteKind::Share => conflict::UNIT_OR_SHARE_FACTOR,
                    RewriteKind::Side => conflict::SIDE_FACTOR,
                    RewriteKind::Place(rank) if self.reads_itself(rule, relation) => {
                        conflict::PLACE_FOR_ITSELF_FACTOR - conflict::PLACE_STEP * f64::from(rank)
                    }
                    RewriteKind::Place(rank) => {
                        conflict::PLACE_FACTOR - conflict::PLACE_STEP * f64::from(rank)
                    }
                    RewriteKind::Level => conflict::LEVEL_FACTOR,
                };
                ideas.extend(self.reads(&statement, change, factor * weight));
            }
        }
        if self.screen().ladder().is_empty() {
            ideas.extend(self.with_a_ladder(&parts));
        }
        ideas
    }

    /// The rule of related views, for the one that differs.
    fn as_others_say(&self, finding: &Finding) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        for part in &finding.rules {
            let RuleRef::Written { rule, .. } = *part else { continue };
            let Some(statement) = self.statement(rule) else { continue };
            ideas.extend(self.match_analogues(rule, &statement, outlier::AS_RELATIVES));
            for Rewritten { change, how } in self.rewritten(rule, &statement) {
                let weight = match how {
                    RewriteKind::Place(rank) => outlier::PLACE - outlier::PLACE_STEP * f64::from(rank),
                    RewriteKind::Share => outlier::SHARE,
                    _ => continue,
                };
                ideas.extend(self.reads(&statement, change, weight));
            }
        }
        ideas
    }

    fn relation(&self, rule: RuleId, relation: usize) -> Option<&Relation> {
        RuleRef::Written { rule, relation }.relation(self.screen())
    }

    fn reads_itself(&self, rule: RuleId, relation: usize) -> bool {
        self.relation(rule, relation).is_some_and(reads_itself)
    }

    fn goes_over(&self, rule: RuleId, relation: usize) -> bool {
        self.relation(rule, relation).is_some_and(|r| self.screen().goes_over(r))
    }

    /// How many more required rules than two, which settle it, a rule's view has along its axis.
    fn overdetermination(&self, rule: RuleId, relation: usize) -> f64 {
        let screen = self.screen();
        let axis = |r: &Relation| r.terms().first().map(|t| t.coordinate.is_horizontal());
        let of = || {
            let about = screen.rule(rule)?;
            Some((about.owner()?, about.band(), axis(self.relation(rule, relation)?)?))
        };
        let Some((owner, band, across)) = of() else { return 0.0 };
        let own = self.rules_of(owner).filter(|(_, r)| r.band().is_none() || r.band() == band);
        let required = own.flat_map(|(_, r)| r.relations()).filter(|r| {
            r.comparison == Comparison::Equal && r.strength() == Strength::Required && axis(r) == Some(across)
        });
        (required.count().min(5) as f64 - 2.0).max(0.0)
    }

    /// A level declared, and the rule written last on it.
    fn with_a_ladder(&self, parts: &[RuleRef]) -> Option<Candidate> {
        let RuleRef::Written { rule, relation } = *parts.last()? else { return None };
        let statement = self.statement(rule)?;
        let change = statement.weakened(relation, Some("wish"))?;
        let open = self.text().find('{')? + 1;
        let ladder = Change::new(open..open, "\n    ladder wish");
        let mut idea = self.reads(&statement, change, conflict::NEW_LEVEL)?;
        idea.said += ", with `ladder wish` at the top of the screen";
        idea.changes.push(ladder);
        Some(idea)
    }

    /// Preferences on one level: each on another, or with a weight.
    fn candidates_for_tie(&self, finding: &Finding) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        let levels = self.screen().ladder().to_vec();
        for (index, part) in finding.rules.iter().enumerate().rev() {
            let RuleRef::Written { rule, relation } = *part else { continue };
            let Some(statement) = self.statement(rule) else { continue };
            let later = index as f64 / finding.rules.len() as f64;
            ideas.extend(self.match_analogues(rule, &statement, tie::AS_RELATIVES));
            let own = part.level(self.screen()).and_then(|name| levels.iter().position(|l| l == name));
            for (at, level) in levels.iter().enumerate() {
                // Further down first, and next to where it is now.
                let away = own.map_or(1.0, |own| {
                    if at > own { (at - own) as f64 } else { tie::UPWARDS + (own - at) as f64 }
                });
                let change = statement.weakened(relation, Some(level));
                ideas.extend(change.and_then(|c| {
                    self.reads(&statement, c, tie::OTHER_LEVEL + tie::LATER * later - tie::LEVEL_STEP * away)
                }));
            }
            if let Some(level) = part.level(self.screen()) {
                let change = statement.weakened(relation, Some(&format!("{level} weight 2")));
                ideas.extend(
                    change.and_then(|c| self.reads(&statement, c, tie::WEIGHTED - tie::LATER * later)),
                );
            }
            ideas.extend(self.taken_out(&statement, relation, tie::REMOVED + tie::LATER * later));
        }
        for part in &finding.rules {
            if let RuleRef::Snug(view) = *part {
                ideas.extend(self.put_in(view, &["snug weight 2".to_owned()], tie::SNUG_WEIGHTED));
                if let Some(level) = levels.last() {
                    ideas.extend(self.put_in(view, &[format!("snug ~ {level}")], tie::SNUG_ON_LEVEL));
                }
            }
        }
        ideas
    }

    /// The rules that may be at fault where something landed wrong, the likeliest first: those that decide
    /// where it is, what gave way, and what else its views say.
    fn suspects(&self, finding: &Finding) -> Vec<(RuleRef, f64)> {
        let Some((display, placement)) = self.worst(finding) else { return Vec::new() };
        // The trials begin from the same.
        let Self { fixes, measure, solved, .. } = self;
        let begin = |display: &Display| solved.on(fixes.plan, measure, display);
        let mut live = fixes.plan.live();
        live.begin_from(display, &begin);
        let mut suspects = deciding(&mut live, (display, placement), &self.measure, finding);
        // The further a wish is from what came out, the likelier it is wrong.
        let far = |by: f64| suspect::GAVE_WAY + suspect::GAVE_WAY_FAR_MORE * (by / FAR).min(1.0);
        let gave_way = placement.missed.iter().chain(&placement.broken).map(|m| (m.rule, far(m.by)));
        let own = finding.views.iter().flat_map(|&view| {
            let relations = |rule: &Rule| 0..rule.relations().len();
            self.rules_of(view).flat_map(move |(rule, of)| {
                relations(of).map(move |relation| (RuleRef::Written { rule, relation }, suspect::OWN_RULE))
            })
        });
        let others: Vec<(RuleRef, f64)> = gave_way.chain(own).collect();
        for (rule, weight) in others {
            if !suspects.iter().any(|(known, _)| *known == rule) {
                suspects.push((rule, weight));
            }
        }
        suspects.retain(|(rule, _)| matches!(rule, RuleRef::Written { .. }));
        // What other findings are about as well is likely to be behind all of them.
        let others = self.report.open().filter(|f| f.severity != Severity::Note && *f != finding);
        let others: Vec<&Finding> = others.take(MAX_OTHERS).collect();
        for (rule, likely) in &mut suspects {
            let owner = rule.owner(self.screen());
            let same_rule = |f: &&&Finding| f.rules.contains(rule);
            let about = |f: &&&Finding| owner.is_some_and(|owner| f.views.contains(&owner));
            let (same_rule, about) =
                (others.iter().filter(same_rule).count(), others.iter().filter(about).count());
            *likely += suspect::OTHER_FINDING_EACH * same_rule.min(3) as f64
                + suspect::OTHER_FINDING_OF_VIEW_EACH * about.min(3) as f64;
        }
        suspects.sort_by(|a, b| b.1.total_cmp(&a.1));
        suspects.truncate(MAX_SUSPECTS);
        suspects
    }

    /// What landed where it should not: the rules that put it there, each written otherwise.
    fn candidates_for_geometry(&self, finding: &Finding) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        let missed =
            self.worst(finding).map(|(_, placement)| placement.missed.as_slice()).unwrap_or_default();
        for (part, likely) in self.suspects(finding) {
            let RuleRef::Written { rule, relation } = part else { continue };
            let Some(statement) = self.statement(rule) else { continue };
            ideas.extend(self.match_analogues(rule, &statement, misplaced::AS_RELATIVES_FACTOR * likely));
            let likely = if self.is_usual(rule) { misplaced::USUAL_FACTOR * likely } else { likely };
            for Rewritten { change, how } in self.rewritten(rule, &statement) {
                let weight = match how {
                    RewriteKind::Sign if self.goes_over(rule, relation) => misplaced::SIGN_OVER_EDGE_FACTOR,
                    // A distance turned below zero would say that the overlap is meant.
                    RewriteKind::Sign if finding.code == Code::Overlap => continue,
                    RewriteKind::Sign => misplaced::SIGN_FACTOR,
                    RewriteKind::Place(rank) => {
                        misplaced::PLACE_FACTOR - misplaced::PLACE_STEP * f64::from(rank)
                    }
                    RewriteKind::Unit => misplaced::UNIT_FACTOR,
                    RewriteKind::Share if missed.iter().any(|m| m.rule == part && m.by > FAR) => {
                        misplaced::SHARE_FAR_OFF_FACTOR
                    }
                    RewriteKind::Share => misplaced::SHARE_FACTOR,
                    RewriteKind::Side => misplaced::SIDE_FACTOR,
                    RewriteKind::Level if missed.iter().any(|m| m.rule == part) => {
                        misplaced::LEVEL_GAVE_WAY_FACTOR
                    }
                    RewriteKind::Level => misplaced::LEVEL_FACTOR,
                };
                ideas.extend(self.reads(&statement, change, weight * likely));
            }
            let strength = self.relation(rule, relation).map(|r| r.strength());
            if let (Some(Strength::Required), Some(level)) = (strength, self.weakest()) {
                let weaker = statement.weakened(relation, Some(level));
                let weight = if statement.source().contains('%') {
                    misplaced::WEAKER_SHARE_FACTOR
                } else {
                    misplaced::WEAKER_FACTOR
                };
                ideas.extend(weaker.and_then(|c| self.reads(&statement, c, weight * likely)));
            }
            for sign in ["<=", ">="] {
                ideas.extend(
                    statement
                        .compared(sign)
                        .and_then(|c| self.reads(&statement, c, misplaced::INEQUALITY_FACTOR * likely)),
                );
            }
            ideas.extend(self.taken_out(&statement, relation, misplaced::REMOVED_FACTOR * likely));
            ideas.extend(self.tied_otherwise(rule, relation, &statement, likely));
        }
        for &view in &finding.views {
            for across in [true, false] {
                // What relatives of it say and it does not.
                for (line, weight) in
                    self.usual_lines(view, across).into_iter().filter(|(_, w)| *w > relatives::WORTH_ADDING)
                {
                    ideas.extend(self.put_in(view, &[line], weight));
                }
            }
        }
        ideas.extend(self.limits(finding));
        ideas
    }

    /// A view tied to another side, or to the middle, of what is around it: as its relatives are, or as they
    /// are mirrored.
    fn tied_otherwise(
        &self,
        rule: RuleId,
        relation: usize,
        statement: &Statement<'_>,
        likely: f64,
    ) -> Vec<Candidate> {
        let screen = self.screen();
        let of = || {
            let about = screen.rule(rule)?;
            let term = *self.relation(rule, relation)?.terms().first()?;
            let owner = about.owner().filter(|&o| term.anchor == Anchor::View(o))?;
            Some((owner, term.coordinate))
        };
        let Some((view, coordinate)) = of().filter(|(_, c)| c.is_position()) else { return Vec::new() };
        let across = coordinate.is_horizontal();
        let around = self.around(view);
        let AxisWords { near, far, middle, .. } = AxisWords::of(across);
        let mut lines: Vec<(String, f64)> = vec![
            (format!("{middle} = {around}.{middle}"), misplaced::MIDDLE),
            (format!("{near} = {around}.{near}"), misplaced::OTHER_SIDE),
            (format!("{far} = {around}.{far}"), misplaced::OTHER_SIDE),
        ];
        // A near edge at the far side of what is around it is the far edge.
        let reads_far = self.relation(rule, relation).is_some_and(|r| {
            matches!(r.right.terms(), [t] if is_far(t.coordinate, across) && self.is_around(view, t.anchor))
        });
        if reads_far && is_near(coordinate, across) {
            lines.push((format!("{far} = {around}.{far}"), misplaced::FAR_EDGE));
        }
        // A place by a large number is none of these, and a middle is meant.
        let is_far_off = self.relation(rule, relation).is_some_and(|r| r.right.constant().abs() > MOST_GAP);
        let is_bare = self.relation(rule, relation).is_some_and(|r| r.right.is_number());
        if is_far_off || is_bare || matches!(coordinate, Coordinate::CenterX | Coordinate::CenterY) {
            lines.clear();
        }
        let of_position = |line: &String| {
            let word = line.split(|c: char| !c.is_alphanumeric() && c != '_').next();
            Coordinate::SPELLINGS.iter().any(|(spelled, of)| Some(*spelled) == word && of.is_position())
        };
        for (line, weight) in self.usual_lines(view, across).into_iter().filter(|(line, _)| of_position(line))
        {
            lines.extend(mirrored(&line).map(|line| (line, misplaced::MIRRORED_FACTOR * weight)));
            lines.push((line, misplaced::LIKE_RELATIVE_FACTOR * weight));
        }
        let one = statement.compared("=").is_some();
        let pair = matches!(statement.pin(), Some(Pinned { sides, .. }) if sides.len() == 2
            && sides.iter().all(|(word, _)| [near, far, "left", "right"].contains(&word.as_str())));
        if !one && !pair {
            return Vec::new();
        }
        let ideas = lines
            .into_iter()
            .filter_map(|(line, weight)| self.reads(statement, statement.replaced(&line), weight * likely));
        ideas.collect()
    }

    /// A view kept within what is around it, or clear of another.
    fn limits(&self, finding: &Finding) -> Vec<Candidate> {
        let (mut ideas, mut more) = (Vec::new(), Vec::new());
        let mut put =
            |view: ViewId, line: String, weight: f64| ideas.extend(self.put_in(view, &[line], weight));
        match (finding.code, finding.views.as_slice()) {
            (Code::Outside, [view, ..]) => {
                let around = self.around(*view);
                for (_, coordinate) in finding.coordinates.iter().copied() {
                    let (sign, apart) = match coordinate {
                        Coordinate::Left | Coordinate::Top => (">=", "+"),
                        _ => ("<=", "-"),
                    };
                    let along_reading = self.edge_read(*view, |c| c == Coordinate::Start).is_some();
                    let side = match coordinate {
                        Coordinate::Right if along_reading => Coordinate::End.spelling(),
                        _ => coordinate.spelling(),
                    };
                    let margin = self.margin_of(*view).filter(|by| *by > 0.0).map_or("8".to_owned(), exact);
                    let with_gap = format!("{side} {sign} {around}.{side} {apart} {margin}");
                    put(*view, with_gap.clone(), limit::INSIDE_WITH_GAP);
                    put(*view, format!("{side} {sign} {around}.{side}"), limit::INSIDE);
                    // On as many lines as it takes, in a box that grows round them.
                    if let Some(idea) = self.put_in(*view, &[with_gap], limit::INSIDE_WITH_GAP) {
                        let unlimited = self.on_any_lines(*view, idea.clone());
                        more.extend(self.with_grown_parent(*view, unlimited.clone().unwrap_or(idea)));
                        more.extend(unlimited);
                    }
                }
            }
            (Code::Covered, [view]) => {
                for (_, coordinate) in finding.coordinates.iter().copied() {
                    let side = coordinate.spelling();
                    let sign =
                        if matches!(coordinate, Coordinate::Left | Coordinate::Top) { ">=" } else { "<=" };
                    put(*view, format!("{side} {sign} safe.{side}"), limit::SAFE);
                }
            }
            (Code::Small, [view]) => put(*view, "size >= 24".to_owned(), limit::TARGET_SIZE),
            (Code::Uncovered, [view]) => {
                put(*view, "pin left, right, top, bottom to screen".to_owned(), limit::WHOLE_SCREEN)
            }
            (Code::Cut, [view]) => {
                put(*view, "height >= content.height".to_owned(), limit::CONTENT_HEIGHT);
                put(*view, "width >= content.width".to_owned(), limit::CONTENT_WIDTH);
            }
            (Code::Overlap, &[below, above]) => {
                let name = |view: ViewId| self.screen().at(view).name().to_owned();
                let texts = |view: ViewId| self.screen().at(view).text().is_some();
                if let Some((_, placement)) = self.worst(finding)
                    && let (Some(a), Some(b)) = (placement.frame(below), placement.frame(above))
                {
                    let (first, second) = if a.left <= b.left { (below, above) } else { (above, below) };
                    let reading =
                        placement.display.direction() == vantic_core::geometry::Direction::LeftToRight;
                    let (near, far) = if reading { (first, second) } else { (second, first) };
                    let text = if texts(near) { limit::TEXT_ENDS_BEFORE } else { limit::APART };
                    put(near, format!("end <= {}.start - 8", name(far)), text);
                    let text = if texts(far) { limit::TEXT_STARTS_AFTER } else { limit::APART };
                    put(far, format!("start >= {}.end + 8", name(near)), text);
                    let (upper, lower) = if a.top <= b.top { (below, above) } else { (above, below) };
                    put(upper, format!("bottom <= {}.top - 8", name(lower)), limit::APART);
                    put(lower, format!("top >= {}.bottom + 8", name(upper)), limit::APART);
                }
            }
            _ => {}
        }
        ideas.append(&mut more);
        ideas
    }

    /// Other ways to write a rule.
    pub(crate) fn rewritten(&self, rule: RuleId, statement: &Statement<'_>) -> Vec<Rewritten> {
        let Some(owner) = self.screen().rule(rule).and_then(|r| r.owner()) else { return Vec::new() };
        let siblings: Vec<ViewId> = self.screen().siblings_of(owner).collect();
        let at = siblings.iter().position(|s| *s == owner).unwrap_or(0);
        let mut beside: Vec<String> = Vec::new();
        if at > 0 {
            beside.push("prev".into());
        }
        // The nearest before, then the nearest behind.
        let others = siblings[..at].iter().rev().chain(siblings.get(at + 1..).unwrap_or_default());
        beside.extend(others.take(MAX_PLACES).map(|&view| self.screen().at(view).name().to_owned()));
        let around = self.around(owner);
        beside.push(around.into());
        let level = |name: &String| (*name).clone();
        let levels: Vec<String> = self.screen().ladder().iter().map(level).collect();
        let levels: Vec<&str> = levels.iter().map(String::as_str).collect();
        let mut all = statement.rewritten(&beside, around, &levels);
        // A number is no share, and a share no number, unless a sibling has it so.
        let has = |share: bool| {
            let others = siblings.iter().filter(|&&sibling| sibling != owner);
            let mut lines = others.flat_map(|&sibling| {
                let own = self.rules_of(sibling).filter_map(|(id, _)| self.statement(id));
                own.map(|other| (other.subject().to_owned(), other.source().contains('%')))
            });
            lines.any(|(subject, is_share)| is_share == share && subject == statement.subject())
        };
        let (shares, numbers) = (has(true), has(false));
        all.retain(|rewritten| match rewritten.how {
            RewriteKind::Share => shares,
            RewriteKind::Unit => numbers,
            _ => true,
        });
        all
    }
}

/// A text on one line.
fn one_line(text: &str) -> String {
    text.split_whitespace().collect::<Vec<_>>().join(" ")
}

/// A rule about one side as it would be about the other: `start = safe.start + 16` as `end = safe.end - 16`.
pub(crate) fn mirrored(line: &str) -> Option<String> {
    const OTHER: [(&str, &str); 3] = [("start", "end"), ("left", "right"), ("top", "bottom")];
    let other = |word: &str| {
        let both = OTHER.iter().flat_map(|&(a, b)| [(a, b), (b, a)]);
        both.into_iter().find(|(from, _)| *from == word).map(|(_, to)| to)
    };
    let mut out = String::new();
    let mut turned = 0;
    let mut word = String::new();
    for c in line.chars().chain(['\n']) {
        if c.is_alphanumeric() || c == '_' {
            word.push(c);
            continue;
        }
        match other(&word) {
            Some(to) => {
                turned += 1;
                out.push_str(to);
            }
            None => out.push_str(&word),
        }
        word.clear();
        out.push(match c {
            '+' => '-',
            '-' => '+',
            c => c,
        });
    }
    (turned == 2 && line.contains(" = ")).then(|| out.trim_end().to_owned())
}

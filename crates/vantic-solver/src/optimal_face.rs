//! All the points that are as good as the one found: its best face.
//!
//! A tight row that nothing holds on some side, up to a stage, can move that way without making
//! anything worse. Those rows span the face; the rows that move with them bound it. Usually there
//! are none, or a few at a time, so each part that hangs together is a small dense [`Table`].

use crate::lex::Stage;
use crate::problem::{Relation, RuleId};
use crate::rows::{Row, RowIs, Use};
use crate::simplex::Search;
use crate::table::{MAX_TABLE_CELLS, Stopped, Table};
use crate::tolerance::LENGTH;
use crate::work;
use std::collections::BTreeMap;

/// The least and greatest value of a variable; `None` where there is no bound.
pub type Range = (Option<f64>, Option<f64>);

pub(crate) struct OptimalFace {
    parts: Vec<Part>,
    /// Per slot that can move: its part, and its rate per quantity of that part.
    moving: BTreeMap<u32, (usize, Vec<(usize, f64)>)>,
    scale: f64,
}

struct Part {
    table: Table,
    /// Preferences that can move, with their quantities.
    rules: Vec<(u32, Relation, usize)>,
}

/// A tight row that can move.
struct Column {
    row: Row,
    up: bool,
    down: bool,
    rows: Vec<(Row, f64)>,
    slots: Vec<(u32, f64)>,
}

impl OptimalFace {
    /// The face that is best on all stages that count.
    pub(crate) fn new(
        search: &mut Search,
        counts: impl Fn(Stage) -> bool + Copy,
    ) -> Result<OptimalFace, Stopped> {
        let columns = open_columns(search, counts)?;
        // What shares a row or a variable hangs together.
        let mut part_of: Vec<usize> = (0..columns.len()).collect();
        fn root(part_of: &mut [usize], mut at: usize) -> usize {
            while part_of[at] != at {
                part_of[at] = part_of[part_of[at]];
                at = part_of[at];
            }
            at
        }
        let mut first: BTreeMap<(bool, u32), usize> = BTreeMap::new();
        for (index, column) in columns.iter().enumerate() {
            let rows = column.rows.iter().map(|(r, _)| (true, r.0));
            for key in rows.chain(column.slots.iter().map(|s| (false, s.0))) {
                let other = *first.entry(key).or_insert(index);
                let (a, b) = (root(&mut part_of, index), root(&mut part_of, other));
                part_of[a.max(b)] = a.min(b);
            }
        }
        let mut members: BTreeMap<usize, Vec<usize>> = BTreeMap::new();
        for index in 0..columns.len() {
            let part = root(&mut part_of, index);
            members.entry(part).or_default().push(index);
        }
        let mut face = OptimalFace { parts: Vec::new(), moving: BTreeMap::new(), scale: search.scale };
        for columns_of_part in members.values() {
            let columns = columns_of_part.iter().map(|&i| &columns[i]);
            face.add_part(search, columns.collect())?;
        }
        Ok(face)
    }

    fn add_part(&mut self, search: &Search, columns: Vec<&Column>) -> Result<(), Stopped> {
        let mut table = Table::new(search.scale);
        let mut rules = Vec::new();
        let mut rows: BTreeMap<Row, Vec<(usize, f64)>> = BTreeMap::new();
        let part = self.parts.len();
        for column in &columns {
            let quantity = table.add_column(!column.down, !column.up);
            rules.extend(preference(search, column.row).map(|(n, r)| (n, r, quantity)));
            for &(row, rate) in &column.rows {
                rows.entry(row).or_default().push((quantity, rate));
            }
            for &(slot, rate) in &column.slots {
                self.moving.entry(slot).or_insert((part, Vec::new())).1.push((quantity, rate));
            }
        }
        if rows.len().saturating_mul(columns.len()) > MAX_TABLE_CELLS {
            return Err(Stopped);
        }
        for (row, terms) in rows {
            let quantity = table.add_row(&terms, search.row_value(row));
            let side = search.state.side(row);
            // It may not come to the side it does not pull for.
            if search.rows.stage(row, true).is_some() && side <= 0 || side < 0 {
                table.close_above(quantity);
            }
            if search.rows.stage(row, false).is_some() && side >= 0 || side > 0 {
                table.close_below(quantity);
            }
            rules.extend(preference(search, row).map(|(n, r)| (n, r, quantity)));
        }
        rules.sort_unstable_by_key(|r| r.0);
        table.tighten();
        self.parts.push(Part { table, rules });
        Ok(())
    }

    /// The range of a variable that is at a value now, if it is wider than nothing.
    pub(crate) fn range(&mut self, slot: u32, value: f64) -> Result<Option<Range>, Stopped> {
        let Some((part, terms)) = self.moving.get(&slot) else { return Ok(None) };
        let table = &mut self.parts[*part].table;
        let range = match table.range_without_rows(terms, value) {
            Some(range) => range,
            None if table.is_sum_plainly_fixed(terms) => return Ok(None),
            None => table.range_of(terms, value)?,
        };
        let wide = match range {
            (Some(low), Some(high)) => high - low > LENGTH * self.scale,
            _ => true,
        };
        Ok(wide.then_some(range))
    }

    /// Whether a variable can move.
    pub(crate) fn can_move(&mut self, slot: u32) -> Result<bool, Stopped> {
        let Some((part, terms)) = self.moving.get(&slot) else { return Ok(false) };
        match self.parts[*part].table.moves_plainly(terms) {
            Some(moves) => Ok(moves),
            None => Ok(self.range(slot, 0.0)?.is_some()),
        }
    }

    /// Keeps a variable at the value it has now.
    pub(crate) fn fix(&mut self, slot: u32) -> Result<(), Stopped> {
        let Some((part, terms)) = self.moving.get(&slot) else { return Ok(()) };
        let table = &mut self.parts[*part].table;
        if let &[(quantity, _)] = terms.as_slice()
            && table.close_column(quantity)
        {
            return Ok(());
        }
        if !table.is_sum_plainly_fixed(terms) {
            let row = table.add_row(terms, 0.0);
            table.set_cost(row, 1.0, 1.0);
            table.finish_search()?;
        }
        Ok(())
    }

    /// The part a variable can move in.
    pub(crate) fn part_of(&self, slot: u32) -> Option<usize> {
        self.moving.get(&slot).map(|m| m.0)
    }

    /// The preferences near a variable whose violations can differ.
    pub(crate) fn trading(&mut self, slot: u32) -> Result<Vec<RuleId>, Stopped> {
        let Some(part) = self.part_of(slot) else { return Ok(Vec::new()) };
        let Part { table, rules } = &mut self.parts[part];
        let mut trading = Vec::new();
        for &(number, relation, quantity) in rules.iter() {
            let (low, high) = table.range(quantity)?;
            let (low, high) = (low.unwrap_or(f64::NEG_INFINITY), high.unwrap_or(f64::INFINITY));
            let least = match relation {
                Relation::Equal if low <= 0.0 && high >= 0.0 => 0.0,
                Relation::Equal => low.abs().min(high.abs()),
                Relation::AtMost => low.max(0.0),
                Relation::AtLeast => (-high).max(0.0),
            };
            let worst = relation.violation(low).max(relation.violation(high));
            if worst - least > LENGTH * self.scale {
                trading.push(RuleId(number));
            }
        }
        Ok(trading)
    }
}

/// The tight rows that can move without a loss on the stages that count, with all that they move.
fn open_columns(search: &mut Search, counts: impl Fn(Stage) -> bool) -> Result<Vec<Column>, Stopped> {
    let mut columns = Vec::new();
    let mut size = 0;
    for slot in search.rows.variables() {
        if counts(search.state.guard(slot)) {
            continue;
        }
        let row = search.state.basis.row_at(slot);
        let open = |up| search.state.slack(&search.rows, row, up).up_to(&counts).is_zero();
        let (up, down) = (open(true), open(false));
        if up || down {
            let Search { rows, state, scratch, .. } = &mut *search;
            let slots = state.basis.moved_by(rows, row, |_| true, scratch);
            let mut moved = state.rows_moved_by(rows, row, false, |_| true, scratch);
            moved.retain(|(r, _)| search.rows.is_required(*r) || search.rule_number(*r).is_some());
            size += slots.len() + moved.len();
            if size > MAX_TABLE_CELLS || work::is_short() {
                return Err(Stopped);
            }
            columns.push(Column { row, up, down, rows: moved, slots });
        }
    }
    Ok(columns)
}

fn preference(search: &Search, row: Row) -> Option<(u32, Relation)> {
    let RowIs::Stored(index) = row.is() else { return None };
    let stored = search.rows.stored(index);
    (stored.used == Use::Rule && stored.level > 0).then_some((stored.number, stored.relation))
}

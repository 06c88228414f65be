//! Conditions as a screen file has them.

use crate::model::condition::{Condition, Order, Property};
use std::fmt::{self, Display, Formatter};

fn joined(parts: &[Condition], word: &str) -> String {
    parts.iter().map(|p| format!("({p})")).collect::<Vec<_>>().join(word)
}

impl Display for Condition {
    fn fmt(&self, f: &mut Formatter<'_>) -> fmt::Result {
        let property = |p: &Property| Property::SPELLINGS[*p as usize].0;
        match self {
            Condition::Compare(p, order, number) => {
                let order = Order::SPELLINGS[*order as usize].0;
                write!(f, "{} {order} {number}", property(p))
            }
            Condition::Within(p, from, to) => write!(f, "{} {from}..{to}", property(p)),
            Condition::Parameter(of, order, number) => {
                write!(f, "{} {} {number}", of.name, Order::SPELLINGS[*order as usize].0)
            }
            Condition::ParameterWithin(of, from, to) => write!(f, "{} {from}..{to}", of.name),
            Condition::State { state, shown, .. } => write!(f, "{state}.{shown}"),
            Condition::Not(inner) => write!(f, "not ({inner})"),
            Condition::All(parts) => f.write_str(&joined(parts, " and ")),
            Condition::Any(parts) => f.write_str(&joined(parts, " or ")),
            word => {
                let spelled = Condition::WORDS.iter().find(|(_, c)| c == word);
                f.write_str(spelled.map_or("", |w| w.0))
            }
        }
    }
}

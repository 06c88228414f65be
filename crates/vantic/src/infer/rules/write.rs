//! A screen file of what was chosen.

use crate::drawing::DrawnKind;
use crate::infer::rules::arranged::Line;
use crate::infer::rules::bands::{Band, Bands, Labelled};
use crate::infer::rules::lines::Writer;
use crate::infer::rules::relation::Relation;
use crate::infer::rules::table::Table;
use vantic_core::model::quoted;
use vantic_core::words::number;

/// What goes into a file.
#[derive(Clone, Copy)]
pub(super) struct Chosen<'a> {
    pub(super) table: &'a Table,
    /// What holds on every display.
    pub(super) common: &'a [Relation],
    pub(super) bands: &'a Bands,
    /// The rows and columns.
    pub(super) lines: &'a [Line],
    /// What somebody said of views.
    pub(super) wished: &'a [Relation],
}

impl Chosen<'_> {
    /// The file. `reasons`: with why as comments.
    pub(super) fn file(&self, name: &str, reasons: bool) -> String {
        let mut out = format!("screen {name} {{\n");
        for band in &self.bands.bands {
            out += &format!("    band {}: {}\n", band.name, band.condition);
        }
        if !self.bands.bands.is_empty() {
            out.push('\n');
        }
        let roots = (0..self.table.views.len()).filter(|&view| self.table.views[view].parent.is_none());
        for view in roots {
            self.view(view, 1, reasons, &mut out);
        }
        for band in &self.bands.bands {
            self.band(band, &mut out);
        }
        out + "}\n"
    }

    /// Why a relation was chosen.
    pub(super) fn reason(&self, relation: &Relation) -> String {
        match self.wished.contains(relation) {
            true => "you asked for it".into(),
            false => Writer { table: self.table }.reason(relation),
        }
    }

    fn view(&self, view: usize, depth: usize, reasons: bool, out: &mut String) {
        let of = &self.table.views[view];
        let indent = "    ".repeat(depth);
        let (head, mut body) = match &of.kind {
            DrawnKind::Plain => (format!("view {}", of.name), Vec::new()),
            DrawnKind::Text { words, .. } => {
                let first = self.bands.base_sheets.iter().map(|&sheet| &self.table.sheets[sheet]);
                let mut sheets = first.chain(&self.table.sheets);
                let content = sheets.find_map(|sheet| sheet.contents[view].as_ref());
                let font = content.map(|content| format!("font {}", number(content.font)));
                let line = content.and_then(|c| c.line).map(|line| format!("line {}", number(line)));
                (format!("text {} {}", of.name, quoted(words)), font.into_iter().chain(line).collect())
            }
            DrawnKind::Image { width, height } => {
                let natural = format!("natural ({}, {})", number(*width), number(*height));
                (format!("image {}", of.name), vec![natural])
            }
        };
        if let Some(line) = self.lines.iter().find(|line| line.parent == view) {
            if reasons {
                body.push(format!("// {}: {}", line.text(), Line::REASON));
            }
            body.push(line.text());
        }
        if self.lines.iter().any(|line| line.apart.contains(&view)) {
            body.push("apart".into());
        }
        let writer = Writer { table: self.table };
        let own: Vec<&Relation> = self.common.iter().filter(|r| r.view == view).collect();
        let mut own_lines = writer.lines(&own);
        if reasons {
            let why = own.iter().filter_map(|r| Some((writer.line(r)?, self.reason(r))));
            let why: Vec<String> = why.map(|(line, reason)| format!("// {line}: {reason}")).collect();
            own_lines = why.into_iter().chain(own_lines).collect();
        }
        body.extend(own_lines);
        body.extend(self.labelled(&self.bands.base, view));
        if body.is_empty() && of.children.is_empty() {
            *out += &format!("{indent}{head} {{}}\n");
            return;
        }
        let short = format!("{indent}{head} {{ {} }}\n", body.join("; "));
        if of.children.is_empty() && body.len() <= 4 && short.len() <= 110 && !reasons {
            *out += &short;
            return;
        }
        *out += &format!("{indent}{head} {{\n");
        for line in body {
            *out += &format!("{indent}    {line}\n");
        }
        let line = self.lines.iter().find(|line| line.parent == view);
        for &child in line.map_or(&of.children, |line| &line.painted) {
            self.view(child, depth + 1, reasons, out);
        }
        *out += &format!("{indent}}}\n");
    }

    /// The rules of a view that have labels, or stand in a band.
    fn labelled<'b>(&'b self, rules: &'b [Labelled], view: usize) -> impl Iterator<Item = String> + 'b {
        let writer = Writer { table: self.table };
        rules.iter().filter(move |rule| rule.relation.view == view).filter_map(move |rule| {
            let line = writer.line(&rule.relation)?;
            Some(match &rule.label {
                Some(label) => format!("{label}: {line}"),
                None => line,
            })
        })
    }

    fn band(&self, band: &Band, out: &mut String) {
        let mut blocks = String::new();
        for (view, of) in self.table.views.iter().enumerate() {
            let mut body = Vec::new();
            let font = band.fonts.iter().find(|(text, _)| *text == view);
            if let Some((_, (font, line))) = font {
                body.push(format!("font {}", number(*font)));
                body.extend(line.map(|line| format!("line {}", number(line))));
            }
            let dropped = band.dropped.iter().filter(|(of, _)| *of == view);
            body.extend(dropped.map(|(_, label)| format!("drop {label}")));
            body.extend(self.labelled(&band.rules, view));
            if band.hidden.contains(&view) {
                blocks += &format!("        hide {}\n", of.path);
            } else if !body.is_empty() {
                blocks += &format!("        in {} {{\n", of.path);
                body.iter().for_each(|line| blocks += &format!("            {line}\n"));
                blocks += "        }\n";
            }
        }
        if !blocks.is_empty() {
            *out += &format!("\n    when {} {{\n{blocks}    }}\n", band.name);
        }
    }
}

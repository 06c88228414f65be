//! A page for a review: every display with what is found on it, in one file that needs nothing else.
//!
//! It holds no script and loads nothing from elsewhere. Each display is drawn once, large, and
//! shown small on the sheet at the top; words are as wide as they were measured, whatever font the reader
//! has.

use crate::canvas::{Area, Canvas, escaped};
use crate::drawing::{Drawing, here, mark, verdict_words, worst_of};
use crate::palette::{BEZEL, ERROR, FAINT, GLASS, GOOD, INK, PAPER, SOFT_INK, WARNING};
use crate::text::{FAMILY, FontText};
use std::fmt::Write as _;
use vantic::check::Report;
use vantic::display::Insets;
use vantic::finding::{Finding, Severity};
use vantic::geometry::within;
use vantic::model::Screen;
use vantic::plan::Placement;
use vantic::words::number;

/// The most displays of one page, fewer of a screen of more than 150 views; further ones are counted.
pub const MAX_PAGE_DISPLAYS: usize = 200;

/// How many views are drawn on one page, all displays together; of a large screen, fewer displays are shown.
const MAX_PAGE_VIEWS: usize = 30_000;

/// How many of the findings of one display are marked and listed there.
const MAX_HERE: usize = 100;

/// How many findings are listed at the top; each is on many displays, so that a page of all of them would be too large to
/// be opened.
const MAX_LISTED: usize = 1000;

/// To how many displays a finding has links.
const MAX_LINKS: usize = 40;

/// Room around a drawn display, in logical pixels of it.
const AROUND: f64 = 10.0;

/// The largest side of a display in the page, in pixels.
const LARGEST: f64 = 900.0;

/// The page for a report, as HTML.
///
/// ```
/// use vantic::prelude::*;
/// use vantic_draw::{FontText, review_page};
///
/// let source = vantic::read("screen quay { text sign \"Quay 4\" { font 24; center = safe.center } }")?;
/// let plan = Plan::new(source.screen)?;
/// let fonts = FontText::new();
/// let displays = [Display::new(390.0, 844.0)?, Display::new(844.0, 390.0)?];
/// let report = vantic::check(&plan, &displays, &fonts)?;
/// let page = review_page(plan.screen(), &report, &fonts);
/// assert!(page.starts_with("<!DOCTYPE html>") && page.contains("844x390"));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn review_page(screen: &Screen, report: &Report, fonts: &FontText) -> String {
    let most = (MAX_PAGE_VIEWS / screen.views().count().max(1)).clamp(1, MAX_PAGE_DISPLAYS);
    let shown = &report.placements[..report.placements.len().min(most)];
    let numbered: Vec<(usize, &Finding)> =
        report.open().filter(|f| f.severity != Severity::Note).enumerate().map(|(i, f)| (i + 1, f)).collect();
    let name = escaped(screen.name());
    let mut out = format!(
        "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n\
         <meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n\
         <title>{name}: {} displays</title>\n<style>{}</style>\n</head>\n<body id=\"top\">\n",
        report.placements.len(),
        style()
    );
    let mut on: Vec<Vec<(usize, &Finding)>> = vec![Vec::new(); report.placements.len()];
    for &(number, finding) in &numbered {
        for &display in &finding.displays {
            // What is found on a display of its own is reported at the top.
            if let Some(here) = on.get_mut(display) {
                here.push((number, finding));
            }
        }
    }
    let clean = on.iter().filter(|here| here.is_empty()).count();
    let _ = writeln!(
        out,
        "<header><h1>{name}</h1><p>{}</p><p>{} displays, {clean} clean{}</p></header>",
        verdict(numbered.iter().map(|(_, f)| *f)),
        report.placements.len(),
        if shown.len() < report.placements.len() {
            format!("; the first {most} are shown")
        } else {
            String::new()
        }
    );
    findings(&mut out, screen, report, &numbered, shown);
    out.push_str("<main>\n<h2>Displays</h2>\n<nav class=\"sheet\" aria-label=\"Displays\">\n");
    for (index, placement) in shown.iter().enumerate() {
        let (width, height) = drawn_size(placement);
        let display = &placement.display;
        let _ = writeln!(
            out,
            "<a class=\"small\" href=\"#d{index}\"><svg viewBox=\"0 0 {width} {height}\" role=\"img\" \
             aria-label=\"{0}\"><use href=\"#p{index}\"/></svg>\
             <span>{0}</span><span>{1}</span></a>",
            escaped(display.name()),
            verdict(on[index].iter().map(|(_, f)| *f))
        );
    }
    out.push_str("</nav>\n");
    for (index, placement) in shown.iter().enumerate() {
        one(&mut out, screen, report, fonts, index, placement, &on[index]);
    }
    out.push_str("</main>\n</body>\n</html>\n");
    out
}

/// How many errors and warnings there are.
fn verdict<'a>(findings: impl Iterator<Item = &'a Finding>) -> String {
    let (words, worst) = verdict_words(findings);
    format!("<b class=\"{}\">{words}</b>", worst.map_or("good", Severity::name))
}

/// The findings, each with the displays that it is on.
fn findings(
    out: &mut String,
    screen: &Screen,
    report: &Report,
    numbered: &[(usize, &Finding)],
    shown: &[Placement],
) {
    if numbered.is_empty() {
        return;
    }
    out.push_str("<section class=\"findings\">\n<h2>Findings</h2>\n<ol>\n");
    for (number, finding) in numbered.iter().take(MAX_LISTED) {
        let _ = write!(out, "<li id=\"f{number}\">{}", said(screen, finding));
        let spread = report.spread(finding);
        let on_page = finding.displays.iter().filter_map(|&index| Some((index, shown.get(index)?)));
        let count = on_page.clone().count();
        let mut links: Vec<String> = on_page
            .take(MAX_LINKS)
            .map(|(index, p)| format!("<a href=\"#d{index}\">{}</a>", escaped(p.display.name())))
            .collect();
        if count > links.len() {
            links.push(format!("and {} more", count - links.len()));
        }
        let on = if count == finding.displays.len() {
            escaped(&spread.words())
        } else {
            let mut names: Vec<&str> = report.names_of(finding).take(MAX_LINKS).collect();
            let more = format!("and {} more", finding.displays.len() - names.len());
            if finding.displays.len() > names.len() {
                names.push(&more);
            }
            escaped(&names.join(", "))
        };
        let _ = write!(out, "<div class=\"soft\">On {on}{}", if links.is_empty() { "." } else { ": " });
        let few = links.len() <= 6;
        if few {
            out.push_str(&links.join(", "));
        } else {
            let _ = write!(out, "<details><summary>show them</summary>{}</details>", links.join(", "));
        }
        if let Some(worst) = finding.worst.filter(|_| finding.varies) {
            let _ = write!(out, "; values shown for <code>{}</code>", escaped(report.display_name(worst)));
        }
        let _ = writeln!(out, "</div><p class=\"soft\">Next: {}</p></li>", code_marks(&finding.help(screen)));
    }
    out.push_str("</ol>\n");
    if numbered.len() > MAX_LISTED {
        let more = numbered.len() - MAX_LISTED;
        let _ =
            writeln!(out, "<p>and {more} more; <code>vantic check --format json</code> lists them all</p>");
    }
    out.push_str("</section>\n");
}

/// A finding in words.
fn said(screen: &Screen, finding: &Finding) -> String {
    let (sign, _) = mark(finding.severity);
    let (severity, code) = (finding.severity.name(), finding.code.name());
    format!("<b class=\"{severity}\">{sign} {severity} {code}</b> {}", code_marks(&finding.message(screen)))
}

/// Words in which what stands between backquotes is set apart.
fn code_marks(words: &str) -> String {
    let parts = escaped(words);
    let mut out = String::new();
    for (index, part) in parts.split('`').enumerate() {
        match index % 2 {
            0 => out.push_str(part),
            _ => {
                let _ = write!(out, "<code>{part}</code>");
            }
        }
    }
    out
}

/// How large a display is drawn, room around it included.
fn drawn_size(placement: &Placement) -> (f64, f64) {
    let canvas = placement.canvas();
    (canvas.width() + 2.0 * AROUND, canvas.height() + 2.0 * AROUND)
}

/// One display, large, with the findings that are on it.
fn one(
    out: &mut String,
    screen: &Screen,
    report: &Report,
    fonts: &FontText,
    index: usize,
    placement: &Placement,
    found: &[(usize, &Finding)],
) {
    let display = &placement.display;
    let (width, height) = drawn_size(placement);
    let here_found = here(report, index);
    let glass = Area { x: AROUND, y: AROUND, width: width - 2.0 * AROUND, height: height - 2.0 * AROUND };
    let drawing = Drawing {
        screen,
        placement,
        findings: &here_found,
        fonts,
        scale: 1.0,
        glass,
        worst: worst_of(&here_found),
    };
    let mut canvas = Canvas::part(format!("p{index}-"));
    drawing.boxes(&mut canvas, false);
    drawing.words(&mut canvas, false);
    let own = &found[..found.len().min(MAX_HERE)];
    let size = (width.max(height) / LARGEST).max(1.0) * 9.0;
    let mut taken: Vec<Area> = Vec::new();
    for (number, finding) in own {
        let Some(frame) = finding.views.iter().find_map(|&view| placement.frame(view)) else { continue };
        let at = drawing.area(&frame);
        // At the corner of the view, on the picture, and beside marks that are there already.
        let (x, y) = (within(at.x, size, width - size), within(at.y, size, height - size));
        let mut spot = Area { x: x - size, y: y - size, width: 2.0 * size, height: 2.0 * size };
        while taken.iter().any(|other| other.touches(&spot)) && spot.right() < width {
            spot.x += 2.0 * size;
        }
        taken.push(spot);
        let (_, colour) = mark(finding.severity);
        canvas.numbered(spot.x + size, spot.y + size, size, *number, colour);
    }
    let insets = display.insets();
    let mut about = format!("{} × {}", number(display.width()), number(display.height()));
    if insets != Insets::default() {
        let all = [insets.left, insets.top, insets.right, insets.bottom].map(number).join(", ");
        let _ = write!(about, " · insets {all}");
    }
    if placement.scaled.is_some() {
        let _ = write!(about, " · drawn × {}", number(placement.scale()));
    }
    let shown = (width.max(height)).min(LARGEST) / width.max(height);
    let _ = write!(
        out,
        "<section class=\"display\" id=\"d{index}\">\n<h3>{}</h3>\n<p class=\"soft\">{}</p>\n<div \
         class=\"pair\">\n\
         <svg viewBox=\"0 0 {width} {height}\" style=\"width:{}px\" role=\"img\" aria-label=\"{0}, \
                        drawn\"><g id=\"p{index}\">{}</g></svg>\n",
        escaped(display.name()),
        escaped(&about),
        (width * shown).round(),
        canvas.into_part()
    );
    if own.is_empty() {
        out.push_str("<p><b class=\"good\">✓ clean</b></p>\n");
    } else {
        out.push_str("<ol>\n");
        for (number, finding) in own {
            let what = said(screen, finding);
            let _ = match *number <= MAX_LISTED {
                true => writeln!(out, "<li value=\"{number}\"><a href=\"#f{number}\">{what}</a></li>"),
                false => writeln!(out, "<li value=\"{number}\">{what}</li>"),
            };
        }
        out.push_str("</ol>\n");
    }
    if found.len() > own.len() {
        let more = found.len() - own.len();
        let at_top = match found.last() {
            Some((number, _)) if *number > MAX_LISTED => "",
            _ => ", in the list at the top",
        };
        let _ = writeln!(out, "<p>and {more} more{at_top}</p>");
    }
    out.push_str("</div>\n<p><a href=\"#top\">to the top</a></p>\n</section>\n");
}

fn style() -> String {
    format!(
        "*{{box-sizing:border-box}}\
         body{{margin:0 auto;padding:24px 20px;max-width:1240px;background:{PAPER};color:{INK};\
         font:15px/1.45 \"{FAMILY}\",system-ui,sans-serif}}\
         h1{{margin:0;font-size:26px}}h2{{font-size:19px;margin:32px 0 12px}}h3{{font-size:17px;margin:0}}\
         header p{{margin:4px 0;font-size:16px}}p{{margin:6px 0}}a{{color:inherit}}\
         .soft{{color:{SOFT_INK};font-size:14px}}.error{{color:{ERROR}}}.warning{{color:{WARNING}}}\
         .good{{color:{GOOD}}}\
         code{{font:13px \"DejaVu Sans Mono\",ui-monospace,monospace;background:{GLASS};padding:1px 4px;\
         border-radius:3px;overflow-wrap:anywhere}}\
         ol{{padding-left:30px;margin:8px 0}}li{{margin:0 0 14px}}.display li a{{text-decoration:none}}\
         .display li a:hover{{text-decoration:underline}}.soft a{{white-space:nowrap}}\
         details{{display:inline}}summary{{display:inline;cursor:pointer;text-decoration:underline}}\
         .sheet{{display:grid;grid-template-columns:repeat(auto-fill,minmax(132px,1fr));gap:18px;\
         align-items:end}}\
         .small{{display:flex;flex-direction:column;gap:2px;text-decoration:none;font-size:13px;\
         overflow-wrap:anywhere}}\
         .small svg{{width:100%;max-height:200px}}.small:hover span{{text-decoration:underline}}\
         .display{{margin:36px 0 0;padding:18px 0 0;border-top:1px solid {FAINT};scroll-margin-top:8px}}\
         .display:target{{border-top:3px solid {BEZEL}}}\
         .pair{{display:flex;flex-wrap:wrap;gap:24px;align-items:flex-start}}\
         .pair svg{{max-width:100%;height:auto;flex:none}}.pair ol,.pair>p{{flex:1 1 260px;margin:0}}\
         @media print{{.display{{break-inside:avoid}}}}"
    )
}

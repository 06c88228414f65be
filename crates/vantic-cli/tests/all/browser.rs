//! The page for a review, in a browser, as a person meets it: wide and on a handset, without scripts of its
//! own.
//!
//! Needs Chromium, which `.ci/run` installs; without it the test says that it is skipped.

use std::path::{Path, PathBuf};
use std::process::Command;

/// The browser, if there is one; where it has to be there, its absence is a failure.
fn browser() -> Option<PathBuf> {
    let found = ["/usr/bin/chromium", "/usr/bin/chromium-browser"]
        .map(PathBuf::from)
        .into_iter()
        .find(|p| p.exists());
    assert!(
        found.is_some() || std::env::var_os("VANTIC_NEEDS_BROWSER").is_none(),
        "Chromium is not installed"
    );
    if found.is_none() {
        println!("skipped: no Chromium here; .ci/run installs it");
    }
    found
}

fn run(browser: &Path, page: &Path, arguments: &[&str]) -> Vec<u8> {
    let profile = tempfile::tempdir().unwrap();
    let output = Command::new(browser)
        .args([
            "--headless",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--hide-scrollbars",
        ])
        .args(["--disable-background-networking", "--disable-component-update", "--disable-sync"])
        .arg(format!("--user-data-dir={}", profile.path().display()))
        .args(arguments)
        .arg(format!("file://{}", page.display()))
        .output()
        .unwrap();
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    output.stdout
}

/// What probes, added to a copy of the page, find there.
fn probed(browser: &Path, folder: &Path, text: &str, width: u32, probes: &[String]) -> Vec<String> {
    let script =
        format!("<script>document.title = [{}].map(String).join('; ')</script></body>", probes.join(", "));
    let copy = folder.join("probed.html");
    std::fs::write(&copy, text.replace("</body>", &script)).unwrap();
    let dom = run(browser, &copy, &[&format!("--window-size={width},900"), "--dump-dom"]);
    let dom = String::from_utf8(dom).unwrap();
    let title = dom.split_once("<title>").unwrap().1.split_once("</title>").unwrap().0;
    title.split("; ").map(str::to_owned).collect()
}

#[test]
fn the_page_for_a_review_is_legible_wide_and_on_a_handset() {
    let Some(browser) = browser() else { return };
    let folder = tempfile::tempdir().unwrap();
    let page = folder.path().join("review.html");
    let screen = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/faults/overlap.vantic");
    let drawn = Command::new(env!("CARGO_BIN_EXE_vantic"))
        .args(["draw", screen.to_str().unwrap(), "-o", page.to_str().unwrap(), "--text-scale", "1,1.3"])
        .status();
    assert!(drawn.unwrap().success());
    let text = std::fs::read_to_string(&page).unwrap();

    for width in [1280, 500] {
        let all = "[...document.querySelectorAll('.display svg, .small svg')]";
        let size = "svg => svg.getBoundingClientRect()";
        let large = "document.querySelector('#d0 svg').getBoundingClientRect().width";
        let small = "document.querySelector('.small svg').getBoundingClientRect().width";
        let words = "document.querySelector('#d0 text[textLength]')";
        let probes = [
            ("nothing is wider than the window", "document.documentElement.scrollWidth <= window.innerWidth".to_owned()),
            ("each display is drawn large and small", format!("{all}.length === 52")),
            ("no picture is tiny", format!("{all}.map({size}).every(b => b.width >= 40 && b.height >= 30)")),
            ("large ones are larger", format!("{large} > 2 * {small} || {width} < 1000 && {large} > 300")),
            (
                "a line of words is as wide as it was measured",
                format!("Math.abs({words}.getComputedTextLength() - {words}.getAttribute('textLength')) < 1"),
            ),
            (
                "every link leads somewhere",
                "[...document.querySelectorAll('a')].every(a => document.querySelector(a.getAttribute('href')))"
                    .to_owned(),
            ),
        ];
        let found = probed(&browser, folder.path(), &text, width, &probes.clone().map(|(_, probe)| probe));
        assert_eq!(found.len(), probes.len(), "{found:?}");
        for ((what, _), found) in std::iter::zip(&probes, found) {
            assert_eq!(found, "true", "{what}, at {width}");
        }
    }
    let shot = folder.path().join("page.png");
    run(&browser, &page, &["--window-size=1280,800", &format!("--screenshot={}", shot.display())]);
    let picture = std::fs::read(&shot).unwrap();
    assert!(picture.starts_with(b"\x89PNG\r\n\x1a\n") && picture.len() > 20_000, "the picture is empty");
}

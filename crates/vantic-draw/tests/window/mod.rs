//! The example window, as a person meets it: opened, and dragged to three sizes, on a display server of its
//! own.
//!
//! Needs Xvfb, xdotool and ImageMagick, which `.ci/run` installs; without them the test says that it is
//! skipped.

use crate::example;
use std::collections::HashMap;
use std::io::{BufRead, BufReader};
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::sync::mpsc::{Receiver, channel};
use std::time::Duration;
use tiny_skia::Pixmap;
use vantic::display::Display;
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::PlainText;

/// A program that ends with the test.
struct Running(Child);

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// The lines that a program prints, as they come.
fn lines(from: impl std::io::Read + Send + 'static) -> Receiver<String> {
    let (send, receive) = channel();
    std::thread::spawn(move || {
        BufReader::new(from).lines().map_while(Result::ok).all(|line| send.send(line).is_ok());
    });
    receive
}

const PATIENCE: Duration = Duration::from_secs(30);

fn are_there(programs: &[&str]) -> bool {
    let is_there = |name: &&str| Path::new("/usr/bin").join(name).exists();
    let all = programs.iter().all(is_there);
    assert!(
        all || std::env::var_os("VANTIC_NEEDS_DISPLAY").is_none(),
        "not all of {programs:?} are installed"
    );
    if !all {
        println!("skipped: not all of {programs:?} are here; .ci/run installs them");
    }
    all
}

/// The frames that a line tells, by view.
fn told(line: &str) -> (String, HashMap<String, [f64; 4]>) {
    let (size, frames) = line.split_once(": ").unwrap();
    let frames = frames.split(';').filter_map(|f| f.trim().split_once(' ')).map(|(view, numbers)| {
        let numbers: Vec<f64> = numbers.split(',').map(|n| n.parse().unwrap()).collect();
        (view.to_owned(), numbers.try_into().unwrap())
    });
    (size.to_owned(), frames.collect())
}

#[test]
fn a_window_is_laid_out_live_while_it_is_dragged() {
    if !are_there(&["Xvfb", "xdotool", "import"]) {
        return;
    }
    let mut server = Command::new("Xvfb")
        .args(["-displayfd", "1", "-screen", "0", "1400x1000x24"])
        .stdout(Stdio::piped())
        .stderr(Stdio::null())
        .spawn()
        .unwrap();
    let number = lines(server.stdout.take().unwrap()).recv_timeout(PATIENCE).unwrap();
    let _server = Running(server);
    let on = format!(":{number}");
    let mut window = Command::new(example::built("window"))
        .arg("--tell")
        .env("DISPLAY", &on)
        .env_remove("WAYLAND_DISPLAY")
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    let painted = lines(window.stdout.take().unwrap());
    let _window = Running(window);
    painted.recv_timeout(PATIENCE).unwrap();
    let run = |program: &str, arguments: &[&str]| {
        let output = Command::new(program).args(arguments).env("DISPLAY", &on).output().unwrap();
        assert!(output.status.success(), "{program}: {}", String::from_utf8_lossy(&output.stderr));
        String::from_utf8(output.stdout).unwrap()
    };
    let id = run("xdotool", &["search", "--sync", "--name", "placed by Vantic"]);
    let id = id.split_whitespace().next().unwrap().to_owned();
    let plan = Plan::new(read(include_str!("../../../../demo/departures.vantic")).unwrap().screen).unwrap();
    let folder = tempfile::tempdir().unwrap();

    for (width, height) in [(520_u32, 700_u32), (900, 560), (360, 860)] {
        run("xdotool", &["windowsize", &id, &width.to_string(), &height.to_string()]);
        let wanted = format!("{width}x{height}");
        let frames = loop {
            let (size, frames) = told(&painted.recv_timeout(PATIENCE).unwrap());
            if size == wanted {
                break frames;
            }
        };
        // What does not depend on the words is where any measurer puts it.
        let display = Display::new(f64::from(width), f64::from(height)).unwrap();
        let placement = plan.place(&display, &PlainText).unwrap();
        for name in ["header", "board.heads"] {
            let frame = placement.frame(plan.screen().find(name).unwrap()).unwrap();
            assert_eq!(
                frames[name],
                [frame.left, frame.top, frame.width, frame.height],
                "{name} at {wanted}"
            );
        }
        // It is painted there, as soon as the server has shown it: ink in the frames of its words, and
        // nowhere else.
        let shot = folder.path().join("window.png");
        let looked = (0..50).map(|_| {
            run("import", &["-window", &id, shot.to_str().unwrap()]);
            let found = painted_well(&Pixmap::load_png(&shot).unwrap(), (width, height), &frames);
            if found.is_err() {
                std::thread::sleep(Duration::from_millis(200));
            }
            found
        });
        let mut last = Err("nothing was looked at".to_owned());
        for found in looked {
            last = found;
            if last.is_ok() {
                break;
            }
        }
        assert_eq!(last, Ok(()), "at {wanted}");
    }
}

/// Whether a picture of the window shows the words of the header in their frames, and no ink elsewhere in it.
fn painted_well(
    picture: &Pixmap,
    size: (u32, u32),
    frames: &HashMap<String, [f64; 4]>,
) -> Result<(), String> {
    if (picture.width(), picture.height()) != size {
        return Err(format!("the picture is {} x {}", picture.width(), picture.height()));
    }
    let [left, top, across, down] = frames["header"];
    let dark = |x: u32, y: u32| picture.pixel(x, y).is_some_and(|p| p.red() < 150);
    let words = ["header.title", "header.clock"].map(|name| frames[name]);
    let mut inked = 0;
    for y in (top as u32 + 1)..((top + down) as u32 - 1) {
        for x in (left as u32 + 1)..((left + across) as u32 - 1) {
            let (px, py) = (f64::from(x), f64::from(y));
            let is_word = words.iter().any(|w| {
                px >= w[0] - 1.0 && px <= w[0] + w[2] + 1.0 && py >= w[1] - 1.0 && py <= w[1] + w[3] + 1.0
            });
            inked += u32::from(is_word && dark(x, y));
            if !is_word && dark(x, y) {
                return Err(format!("there is ink at {x}, {y}"));
            }
        }
    }
    if inked > 200 { Ok(()) } else { Err(format!("{inked} points of ink in the words")) }
}

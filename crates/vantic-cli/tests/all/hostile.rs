//! Files, names and arguments that would harm: what is no file is not read, nothing that is said acts on a terminal,
//! and nothing of what somebody has is lost.

#![cfg(unix)]

use std::ffi::{OsStr, OsString};
use std::os::unix::ffi::OsStringExt as _;
use std::os::unix::fs::{PermissionsExt as _, symlink};
use std::path::Path;
use std::process::{Command, Output, Stdio};

const BOX: &str = "screen pier { view box { left = 30; top = 30; size = 20 } }\n";

fn vantic(folder: &Path, arguments: &[&OsStr]) -> Output {
    let mut command = Command::new(env!("CARGO_BIN_EXE_vantic"));
    command.args(arguments).current_dir(folder).stdin(Stdio::null()).output().unwrap()
}

/// What is said on both outputs, with the exit code.
fn told(folder: &Path, arguments: &[&str]) -> (i32, String) {
    let arguments: Vec<&OsStr> = arguments.iter().map(OsStr::new).collect();
    let Output { status, stdout, stderr } = vantic(folder, &arguments);
    let said = String::from_utf8(stdout).unwrap() + &String::from_utf8(stderr).unwrap();
    (status.code().unwrap(), said)
}

fn write(folder: &Path, name: &str, text: &str) {
    std::fs::write(folder.join(name), text).unwrap();
}

#[test]
fn only_regular_files_are_read_through_bases_and_side_files_too() {
    let folder = tempfile::tempdir().unwrap();
    let at = folder.path();
    assert!(Command::new("mkfifo").arg(at.join("pipe.vantic")).status().unwrap().success());
    let _socket = std::os::unix::net::UnixListener::bind(at.join("plug.vantic")).unwrap();
    symlink("/dev/zero", at.join("zero.vantic")).unwrap();
    std::fs::create_dir(at.join("room.vantic")).unwrap();
    for (file, what) in [("pipe", "named pipe"), ("plug", "socket"), ("zero", "device"), ("room", "folder")] {
        let (code, said) = told(at, &["check", &format!("{file}.vantic")]);
        assert!(code == 2 && said.contains(what), "{said}");
        write(at, "based.vantic", &format!("screen based from \"{file}.vantic\" {{ }}"));
        // A link leads where it leads.
        let (code, said) = told(at, &["check", "based.vantic", "--bases", "/dev"]);
        assert!(code == 2 && said.contains(what), "{said}");
        let (code, said) = told(at, &["check", "pier.vantic", "--displays", &format!("{file}.vantic")]);
        assert_eq!(code, 2, "{said}");
    }
    write(at, "based.vantic", "screen based from \"zero.vantic\" { }");
    let (code, said) = told(at, &["check", "based.vantic"]);
    assert!(code == 2 && said.contains("outside of the folder"), "{said}");
    // Larger than any screen file, whatever it says of itself.
    std::fs::File::create(at.join("huge.vantic")).unwrap().set_len(1 << 40).unwrap();
    let (code, said) = told(at, &["check", "huge.vantic"]);
    assert!(code == 2 && said.contains("too large"), "{said}");
}

#[test]
fn bases_stay_in_their_folder_and_are_told_in_their_own_file() {
    let folder = tempfile::tempdir().unwrap();
    let at = folder.path();
    std::fs::create_dir(at.join("inner")).unwrap();
    write(at, "pier.vantic", BOX);
    write(at, "inner/page.vantic", "screen page from \"../pier.vantic\" { }");
    let (code, said) = told(at, &["check", "inner/page.vantic"]);
    assert!(code == 2 && said.contains("--bases inner/.."), "{said}");
    assert_eq!(told(at, &["check", "inner/page.vantic", "--bases", "inner/.."]).0, 0);
    write(at, "page.vantic", "screen page from \"base.vantic\" { }");
    for (bytes, what) in [
        (&b"screen base { view \0 }"[..], "base.vantic: this is not a text file: byte 19 is zero"),
        (b"", "base.vantic: there is no screen in this file"),
        (b"// nothing\n", "base.vantic: there is no screen in this file"),
        (b"screen base {\n\xff }", "base.vantic is not a text file: line 2 is not UTF-8"),
    ] {
        std::fs::write(at.join("base.vantic"), bytes).unwrap();
        let (code, said) = told(at, &["check", "page.vantic"]);
        assert!(code == 2 && said.contains(what), "{said}");
    }
}

/// Whether something in a text would act on a terminal, or is not seen.
fn harms(text: &str) -> bool {
    text.chars().any(|c| {
        c != '\n' && (c.is_control() || ('\u{200b}'..='\u{200f}').contains(&c))
            || ('\u{202a}'..='\u{202e}').contains(&c)
            || ('\u{2066}'..='\u{2069}').contains(&c)
    })
}

#[test]
fn what_files_names_and_arguments_say_is_shown_and_never_acts() {
    let folder = tempfile::tempdir().unwrap();
    let at = folder.path();
    let evil = "\u{1b}[2J\u{1b}]0;owned\u{7}\u{9b}31m\u{202e}\u{200d}";
    let screen = format!(
        "screen pier {{\n    text a \"{evil}\" {{ font 12; left = 390; top = 0; width = 4; height = 4 }}\n    \
         view b {{ left = 500; top = 30; size = 20 }}\n    accept outside: b \"{evil}\"\n}}\n"
    );
    let name = format!("pier{evil}.vantic");
    write(at, &name, &screen);
    write(at, "wrong.vantic", &format!("screen pier {{ view a {{ left = {evil}; top = \"{evil}\" }} }}"));
    let mut ran = 0;
    for format in ["text", "json", "sarif", "junit"] {
        let (_, said) = told(at, &["check", &name, "-d", "390x844", "--format", format]);
        assert!(!harms(&said), "{format}: {said:?}");
        // JSON still says what it said.
        if format == "json" {
            let value: serde_json::Value = serde_json::from_str(&said).unwrap();
            assert!(value["findings"].to_string().contains(r"\u001b[2J"), "{value}");
        }
        ran += 1;
    }
    for arguments in [
        &["check", &name, "--fix", "1a", "--preview"][..],
        &["check", "wrong.vantic"],
        &["check", &format!("none{evil}.vantic")],
        &["place", &name, "-d", evil],
        &["place", &name, "-d", "390x844", "--format", "json"],
        &["why", &name, evil],
        &["show", "rules", &name, evil],
        &["compare", &name, &name],
        &["sweep", &name, "--width", evil],
        &["fmt", &name, "--check"],
        &["about", evil],
        &[evil],
        &["check", &name, &format!("--{evil}")],
        &["draw", &name, "-o", &format!("{evil}.png"), "-d", "390x844"],
    ] {
        let (code, said) = told(at, arguments);
        assert!(!harms(&said) && code != 101, "{arguments:?}: {said:?}");
        ran += 1;
    }
    assert_eq!(ran, 18);
    // A file goes into a pipe as it is.
    let (_, said) = told(at, &["fmt", &name]);
    assert!(said.contains(evil));
}

#[test]
fn nobody_listening_is_no_reason_to_fall_over() {
    let folder = tempfile::tempdir().unwrap();
    let at = folder.path();
    write(at, "pier.vantic", BOX);
    let full = || Stdio::from(std::fs::OpenOptions::new().write(true).open("/dev/full").unwrap());
    for (file, error, code) in [("none.vantic", true, 2), ("pier.vantic", false, 2), ("pier.vantic", true, 0)]
    {
        let mut command = Command::new(env!("CARGO_BIN_EXE_vantic"));
        command.args(["check", file]).current_dir(at);
        if error {
            command.stdout(Stdio::null()).stderr(full())
        } else {
            command.stdout(full()).stderr(full())
        };
        assert_eq!(command.status().unwrap().code(), Some(code), "{file} {error}");
        let closed = format!("'{}' check {file} 2>&- >/dev/null", env!("CARGO_BIN_EXE_vantic"));
        let status = Command::new("sh").args(["-c", &closed]).current_dir(at).status().unwrap();
        assert_ne!(status.code(), Some(101), "{closed}");
    }
}

#[test]
fn files_are_written_where_links_lead_and_nothing_is_lost() {
    let folder = tempfile::tempdir().unwrap();
    let at = folder.path();
    let ragged = "screen pier{view box{left=30;top=30;size=20}}";
    // A link stays a link, and its target keeps its mode.
    write(at, "real.vantic", ragged);
    std::fs::set_permissions(at.join("real.vantic"), std::fs::Permissions::from_mode(0o640)).unwrap();
    symlink("real.vantic", at.join("link.vantic")).unwrap();
    assert_eq!(told(at, &["fmt", "--write", "link.vantic"]).0, 0);
    assert!(std::fs::symlink_metadata(at.join("link.vantic")).unwrap().is_symlink());
    let about = std::fs::metadata(at.join("real.vantic")).unwrap();
    assert_eq!(about.permissions().mode() & 0o777, 0o640);
    assert_ne!(std::fs::read_to_string(at.join("real.vantic")).unwrap(), ragged);
    // Read-only is refused by everything that writes.
    write(at, "fixed.vantic", ragged);
    write(at, "fixed.png", "old");
    for name in ["fixed.vantic", "fixed.png"] {
        std::fs::set_permissions(at.join(name), std::fs::Permissions::from_mode(0o444)).unwrap();
    }
    for arguments in [&["fmt", "--write", "fixed.vantic"][..], &["draw", "fixed.vantic", "-o", "fixed.png"]] {
        let (code, said) = told(at, arguments);
        assert!(code == 2 && said.contains("read-only"), "{said}");
    }
    assert_eq!(std::fs::read_to_string(at.join("fixed.vantic")).unwrap(), ragged);
    // A name need not be UTF-8, and two of them may look alike.
    let odd = |byte: u8| OsString::from_vec(vec![b'p', byte, b'.', b'v', b'a', b'n', b't', b'i', b'c']);
    let moored = "screen pier { view box { left = 30; top = 30; size = 20; size = 24 } }\n";
    std::fs::write(at.join(odd(0xff)), moored).unwrap();
    std::fs::write(at.join(odd(0xfe)), BOX).unwrap();
    std::fs::set_permissions(at.join(odd(0xff)), std::fs::Permissions::from_mode(0o600)).unwrap();
    let of = [OsStr::new("check"), &odd(0xff), OsStr::new("--fix"), OsStr::new("1a")];
    assert_eq!(vantic(at, &of).status.code(), Some(0));
    assert_ne!(std::fs::read_to_string(at.join(odd(0xff))).unwrap(), moored);
    assert_eq!(std::fs::read_to_string(at.join(odd(0xfe))).unwrap(), BOX);
    // What is kept of a private file is private, too.
    for ending in ["", ".old", ".undo"] {
        let mut name = odd(0xff);
        name.push(ending);
        let mode = std::fs::metadata(at.join(&name)).unwrap().permissions().mode();
        assert_eq!(mode & 0o777, 0o600, "{ending}");
    }
    let (code, said) = told(at, &["draw", "link.vantic", "-o", "nowhere/pier.svg"]);
    assert!(code == 2 && said.contains("there is no folder nowhere"), "{said}");
    let undo = vantic(at, &[OsStr::new("check"), &odd(0xff), OsStr::new("--undo")]);
    assert!(String::from_utf8_lossy(&undo.stdout).contains("restored"));
    assert_eq!(std::fs::read_to_string(at.join(odd(0xff))).unwrap(), moored);
    // A picture that cannot be written is no reason to say nothing of what was found.
    write(
        at,
        "claim.vantic",
        "screen pier { view box { left = 900; top = 30; size = 20 }; claim box inside screen }",
    );
    write(at, "shut", "");
    let (code, said) = told(at, &["check", "claim.vantic", "-d", "390x844", "--pictures", "shut/in"]);
    assert!(code == 2 && said.contains("`box`") && said.contains("could not be"), "{said}");
    let left = std::fs::read_dir(at)
        .unwrap()
        .filter(|e| e.as_ref().unwrap().file_name().to_string_lossy().starts_with(".tmp"));
    assert_eq!(left.count(), 0);
}

#[test]
fn interrupted_it_ends_and_leaves_nothing_behind() {
    let folder = tempfile::tempdir().unwrap();
    let at = folder.path();
    // With so much work it would go on for long.
    let seeds = "screen tray { view tray { pin left, right, top to screen; row gap 1, wrap
        repeat seed 400 { size = 7 } } }\n";
    write(at, "tray.vantic", seeds);
    let arguments = ["sweep", "tray.vantic", "--effort", "1000", "-o", "tray.svg"];
    let mut child = Command::new(env!("CARGO_BIN_EXE_vantic"))
        .args(arguments)
        .current_dir(at)
        .stdout(Stdio::null())
        .spawn()
        .unwrap();
    // It has begun once it reads the file; whenever it is interrupted, the same holds.
    std::thread::sleep(std::time::Duration::from_millis(300));
    assert!(child.try_wait().unwrap().is_none(), "it has come to an end already");
    assert!(Command::new("kill").args(["-INT", &child.id().to_string()]).status().unwrap().success());
    let status = child.wait().unwrap();
    assert_eq!(status.code(), Some(130), "{status:?}");
    let left: Vec<_> = std::fs::read_dir(at).unwrap().map(|entry| entry.unwrap().file_name()).collect();
    assert_eq!(left, ["tray.vantic"]);
}

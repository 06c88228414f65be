//! The command-line tool of Vantic.
//!
//! Exit code 0: clean. 1: findings of severity error (with `--strict`: any). 2: the input could not
//! be used, or an output could not be written.

mod about;
mod across;
mod args;
mod check;
mod compare;
mod demo;
mod displays;
mod draw;
mod fmt;
mod formats;
mod input;
mod mend;
mod output;
mod overview;
mod place;
mod room;
mod sweep;
mod ties;
mod why;
mod without;
mod wrong;

use args::{Arguments, Command};
use clap::Parser;
use std::process::ExitCode;

/// What a command came to: done, or done and something is wrong with the screen.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Verdict {
    Clean,
    Findings,
}

fn main() -> ExitCode {
    let result = match Arguments::parse().command {
        Command::Demo(args) => demo::run(&args),
        Command::Check(args) => check::run(&args),
        Command::Place(args) => place::run(&args),
        Command::Why(args) => why::run(&args),
        Command::Sweep(args) => sweep::run(&args),
        Command::Draw(args) => draw::run(&args),
        Command::Compare(args) => compare::run(&args),
        Command::Fmt(args) => fmt::run(&args),
        Command::Displays(args) => displays::run(&args),
        Command::About(args) => about::run(&args),
    };
    match result {
        Ok(Verdict::Clean) => ExitCode::SUCCESS,
        Ok(Verdict::Findings) => ExitCode::from(1),
        Err(error) => {
            output::complain(&error);
            ExitCode::from(2)
        }
    }
}

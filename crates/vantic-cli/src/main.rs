//! The command-line tool of Vantic.
//!
//! `args` says what can be asked, a file of `commands` (or of `show`) answers it. What commands share stands
//! beside them: `session` reads screens and displays, `checking` checks them, `findings` and `display_table`
//! put reports into text, `report` into open formats, `output` prints, and `shown` sees to it that nothing of it acts.
//!
//! Exit code 0: clean. 1: findings of severity error (with `--strict`: any). 2: the input could not
//! be used, or an output could not be written.

mod apply_fix;
mod args;
mod checking;
mod commands;
mod common_args;
mod display_table;
mod drawing_args;
mod drawings;
mod edit_args;
mod edits;
mod files;
mod findings;
mod new_findings;
mod output;
mod picture;
mod progress;
mod report;
mod rewrite;
mod rule_removal;
mod session;
mod show;
mod shown;
mod source_errors;
mod text_slack;
mod verdict;

use args::{Arguments, Command};
use clap::FromArgMatches;
use std::ffi::OsString;
use std::process::ExitCode;
use verdict::Verdict;

fn main() -> ExitCode {
    files::leave_nothing_behind();
    let matches = args::command().try_get_matches().unwrap_or_else(|error| refused(&error));
    let arguments = Arguments::from_arg_matches(&matches).unwrap_or_else(|error| refused(&error));
    progress::begin();
    let result = match arguments.command {
        Command::Demo(args) => commands::demo::run(&args),
        Command::Infer(args) => commands::infer::run(&args),
        Command::Drift(args) => commands::drift::run(&args),
        Command::Edit(args) => commands::edit::run(&args),
        Command::Check(args) => commands::check::run(&args),
        Command::Place(args) => commands::place::run(&args),
        Command::Show(args) => show::run(&args),
        Command::Why(args) => commands::why::run(&args),
        Command::Sweep(args) => commands::sweep::run(&args),
        Command::Draw(args) => commands::draw::run(&args),
        Command::Compare(args) => commands::compare::run(&args),
        Command::Fmt(args) => commands::fmt::run(&args),
        Command::Displays(args) => commands::displays::run(&args),
        Command::About(args) => commands::about::run(&args),
    };
    match result {
        Ok(Verdict::Clean) => ExitCode::SUCCESS,
        Ok(Verdict::Findings) => ExitCode::from(1),
        Err(error) => {
            source_errors::print_errors(&error);
            ExitCode::from(2)
        }
    }
}

/// Says what is wrong with the arguments, or what was asked of them, and ends. What somebody wrote among them is
/// shown so that it does not act.
fn refused(error: &clap::Error) -> ! {
    let acts = |argument: OsString| argument.to_string_lossy().contains(vantic::words::acts);
    if error.use_stderr() && std::env::args_os().any(acts) {
        output::print_error(error.render().to_string().trim_end());
        std::process::exit(error.exit_code());
    }
    error.exit()
}

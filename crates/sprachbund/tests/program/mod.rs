//! The built program, driven on files in a temporary folder.

use std::fs;
use std::path::Path;
use std::process::{Command, Output};

use tempfile::TempDir;

/// What a run gave.
pub(crate) struct Run {
    pub(crate) status: i32,
    pub(crate) out: String,
    pub(crate) err: String,
}

/// Runs the program in a folder.
pub(crate) fn sprachbund(folder: &Path, arguments: &[&str]) -> Run {
    let Output { status, stdout, stderr } = Command::new(env!("CARGO_BIN_EXE_sprachbund"))
        .args(arguments)
        .current_dir(folder)
        .env("NO_COLOR", "1")
        .output()
        .expect("the program runs");
    let text = |bytes: Vec<u8>| String::from_utf8_lossy(&bytes).into_owned();
    Run { status: status.code().unwrap_or(-1), out: text(stdout), err: text(stderr) }
}

/// A folder with these files.
pub(crate) fn folder(files: &[(&str, &[u8])]) -> TempDir {
    let folder = TempDir::new().expect("a temporary folder");
    for (path, content) in files {
        let path = folder.path().join(path);
        fs::create_dir_all(path.parent().expect("a folder")).expect("a folder");
        fs::write(path, content).expect("a file");
    }
    folder
}

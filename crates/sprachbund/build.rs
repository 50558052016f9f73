//! Lists the demo project's files for `include!`, so that the folder is the only list of them.

use std::fmt::Write as _;
use std::path::{Path, PathBuf};
use std::{env, fs};

fn main() {
    let demo = PathBuf::from(env::var("CARGO_MANIFEST_DIR").expect("cargo sets it")).join("demo");
    println!("cargo::rerun-if-changed={}", demo.display());
    let mut files = Vec::new();
    collect(&demo, &mut files);
    files.sort();
    let mut list = String::from("[\n");
    for file in &files {
        let name = file
            .strip_prefix(&demo)
            .expect("inside the folder")
            .to_string_lossy()
            .replace('\\', "/");
        let path = fs::canonicalize(file).expect("an existing file");
        writeln!(list, "    ({name:?}, include_str!({:?})),", path.display())
            .expect("a string grows");
    }
    list.push_str("]\n");
    fs::write(
        PathBuf::from(env::var("OUT_DIR").expect("cargo sets it")).join("demo_files.rs"),
        list,
    )
    .expect("the output folder");
}

fn collect(folder: &Path, files: &mut Vec<PathBuf>) {
    for entry in fs::read_dir(folder).into_iter().flatten().flatten() {
        let path = entry.path();
        match path.is_dir() {
            true if path.ends_with("__pycache__") => {}
            true => collect(&path, files),
            false => files.push(path),
        }
    }
}

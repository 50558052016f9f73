//! The ratios that the project promises, measured in one run and written to docs/benchmarks.md.

mod project;

use std::path::Path;
use std::time::Instant;

use project::{bare, dialects, files, idle_files, on, schema};

/// Rounds of measuring.
const ROUNDS: usize = 12;

/// Seconds of one run; letting the result go is not counted.
fn seconds<T>(run: impl FnOnce() -> T) -> f64 {
    let start = Instant::now();
    let result = run();
    let seconds = start.elapsed().as_secs_f64();
    drop(result);
    seconds
}

fn bytes(files: &[(String, String)]) -> f64 {
    files.iter().map(|(_, text)| text.len() as f64).sum()
}

/// Highest memory of this process so far, in megabytes (Linux).
fn peak() -> Option<f64> {
    let status = std::fs::read_to_string("/proc/self/status").ok()?;
    let line = status.lines().find(|line| line.starts_with("VmHWM:"))?;
    Some(line.split_whitespace().nth(1)?.parse::<f64>().ok()? / 1024.0)
}

fn main() {
    let mut rows = Vec::new();
    if let Some(dialect) = std::env::args().nth(1).and_then(|id| dialects().iter().find(|dialect| dialect.id == id)) {
        // A process of its own, for its peak of memory.
        let project = files(dialect, 10_000);
        let reading = schema(dialect, &project);
        println!("{} {}", reading.schema.entities.len(), peak().unwrap_or_default());
        return;
    }
    for dialect in dialects() {
        let (project, large, idle) = (files(dialect, 1_000), files(dialect, 10_000), idle_files(dialect, 200));
        // The quickest of several rounds, in which all take turns: other work on the machine only ever adds.
        let mut best = [f64::MAX; 6];
        for round in 0..ROUNDS {
            let large = (round % 4 == 0).then(|| seconds(|| on(1, || schema(dialect, &large))));
            let times = [
                seconds(|| on(1, || bare(dialect, &project))),
                seconds(|| on(1, || schema(dialect, &project))),
                seconds(|| on(2, || bare(dialect, &project))),
                seconds(|| on(2, || schema(dialect, &project))),
                seconds(|| on(1, || schema(dialect, &idle))),
                large.unwrap_or(f64::MAX),
            ];
            best.iter_mut().zip(times).for_each(|(best, time)| *best = best.min(time));
        }
        let [bare_one, read_one, bare_two, read_two, idle_one, read_large] = best;
        let idle_gain = (read_one / bytes(&project)) / (idle_one / bytes(&idle));
        let output = std::process::Command::new(std::env::current_exe().expect("this program")).arg(dialect.id).output().expect("it runs");
        let memory = String::from_utf8_lossy(&output.stdout).trim().rsplit(' ').next().unwrap_or_default().to_owned();
        let memory: f64 = memory.parse().unwrap_or_default();
        let mut row = |what: &str, value: f64, wanted: &str| rows.push(format!("| {} | {what} | {value:.2} | {wanted} |", dialect.id));
        row("bytes to schema / bare syntax tree, one core", read_one / bare_one, "at most 1.5");
        row("gain of two cores / gain of the bare syntax tree", (read_one / read_two) / (bare_one / bare_two), "at least 0.9");
        row("cost per byte with declarations / without", idle_gain, "at least 20");
        row("10 times the entities / time", read_large / read_one, "at most 11");
        row("peak memory at 10,000 entities, MB", memory, "under 200");
    }
    let text = format!(
        "# Benchmarks\n\nRatios of one run on a generated project (1,000 entities in 200 files; 12 fields, 2 relations and an index each).\n\
         Run them again with `cargo bench --bench ratios`, which writes this page; `cargo bench --bench reading` gives the times.\n\n\
         | dialect | ratio | measured | wanted |\n| --- | --- | --- | --- |\n{}\n",
        rows.join("\n")
    );
    print!("{text}");
    let page = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/benchmarks.md");
    std::fs::write(page, text).expect("docs/benchmarks.md is writable");
}

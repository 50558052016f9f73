//! The ratios that the project promises, measured in one run and written to docs/benchmarks.md.

mod project;

use std::path::Path;
use std::time::Instant;

use project::{bare, dialects, files, idle_files, on, schema};
use sprachbund_core::compare::{Side, compare};
use sprachbund_core::dialect::{Dialect, Settings};
use sprachbund_core::dialects::by_id;
use sprachbund_core::elide::printed;
use sprachbund_core::fit::fit;
use sprachbund_core::lint::{LintSettings, Linting, lint};
use sprachbund_core::reading::{Reading, read_scripts};
use sprachbund_core::schema::Database;

/// Rounds of measuring.
const ROUNDS: usize = 15;

/// Seconds of one run on this many threads; preparing its input and letting its result go are not counted.
fn seconds<I: Send, T: Send>(threads: usize, input: I, run: impl FnOnce(I) -> T + Send) -> f64 {
    let start = Instant::now();
    let result = on(threads, || run(input));
    let seconds = start.elapsed().as_secs_f64();
    drop(result);
    seconds
}

fn median(mut values: Vec<f64>) -> f64 {
    values.sort_by(f64::total_cmp);
    values[values.len() / 2]
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

/// Keeps files for another process: their paths in the first line of each.
fn keep(files: &[(String, String)], folder: &Path) {
    std::fs::create_dir_all(folder).expect("a folder of our own");
    for (at, (path, text)) in files.iter().enumerate() {
        std::fs::write(folder.join(at.to_string()), format!("{path}\n{text}")).expect("a writable folder");
    }
}

/// The files that another process kept.
fn kept(folder: &Path) -> Vec<(String, String)> {
    let read = |at: usize| std::fs::read_to_string(folder.join(at.to_string())).ok();
    let files = (0..).map_while(read);
    files.filter_map(|text| text.split_once('\n').map(|(path, text)| (path.to_owned(), text.to_owned()))).collect()
}

/// How many findings all rules have.
fn findings(dialect: &Dialect, reading: &Reading) -> usize {
    let (settings, nothing_set) = (Settings::default(), LintSettings::default());
    let linting = Linting {
        schema: &reading.schema,
        conventions: &(dialect.conventions)(&settings),
        sources: &reading.sources,
        raised: &reading.diagnostics,
        target: None,
        beside: None,
        settings: &nothing_set,
    };
    lint(&linting).len()
}

fn main() {
    let mut rows = Vec::new();
    if let Some(dialect) = std::env::args().nth(1).and_then(|id| dialects().into_iter().find(|dialect| dialect.id == id)) {
        // A process of its own, for its peak of memory.
        let reading = schema(dialect, kept(Path::new(&std::env::args().nth(2).unwrap_or_default())));
        println!("{} {}", reading.schema.entities.len(), peak().unwrap_or_default());
        return;
    }
    for dialect in dialects() {
        let (project, large, idle) = (files(dialect, 1_000), files(dialect, 10_000), idle_files(dialect, 200));
        // The median of the ratios of many rounds, each measured back to back: a machine that slows down slows both.
        let mut ratios: [Vec<f64>; 4] = Default::default();
        for round in 0..ROUNDS {
            let bare_one = seconds(1, &project, |project| bare(dialect, project));
            let read_one = seconds(1, project.clone(), |project| schema(dialect, project));
            let read_two = seconds(2, project.clone(), |project| schema(dialect, project));
            let bare_two = seconds(2, &project, |project| bare(dialect, project));
            let idle_one = seconds(1, idle.clone(), |idle| schema(dialect, idle));
            ratios[0].push(read_one / bare_one);
            ratios[1].push((read_one / read_two) / (bare_one / bare_two));
            ratios[2].push((read_one / bytes(&project)) / (idle_one / bytes(&idle)));
            if round % 3 == 0 {
                let read_large = seconds(1, large.clone(), |large| schema(dialect, large));
                let again = seconds(1, project.clone(), |project| schema(dialect, project));
                ratios[3].push(read_large * 2.0 / (read_one + again));
            }
        }
        let [to_bare, two_cores, idle_gain, tenfold] = ratios.map(median);
        let readings = [&project, &large].map(|files| schema(dialect, files.clone()));
        let linting = |size: usize| seconds(1, &readings[size], |reading| findings(dialect, reading));
        let rounds: Vec<(f64, f64)> = (0..ROUNDS / 3)
            .map(|_| {
                let lint = linting(1);
                (lint / seconds(1, large.clone(), |large| schema(dialect, large)), lint / linting(0))
            })
            .collect();
        let (to_reading, lint_tenfold): (Vec<f64>, Vec<f64>) = rounds.into_iter().unzip();
        let folder = std::env::temp_dir().join(format!("sprachbund-bench-{}-{}", dialect.id, std::process::id()));
        keep(&large, &folder);
        let program = std::env::current_exe().expect("this program");
        let output = std::process::Command::new(program).arg(dialect.id).arg(&folder).output().expect("it runs");
        std::fs::remove_dir_all(&folder).expect("a folder of our own");
        let memory = String::from_utf8_lossy(&output.stdout).trim().rsplit(' ').next().unwrap_or_default().to_owned();
        let memory: f64 = memory.parse().unwrap_or_default();
        let mut row = |what: &str, value: f64, wanted: &str| rows.push(format!("| {} | {what} | {value:.2} | {wanted} |", dialect.id));
        row("bytes to schema / bare syntax tree, one core", to_bare, "at most 1.5");
        row("gain of two cores / gain of the bare syntax tree", two_cores, "at least 0.9");
        row("cost per byte with declarations / without", idle_gain, "at least 20");
        row("10 times the entities / time", tenfold, "at most 11");
        row("lint / reading of 10,000 entities", median(to_reading), "at most 0.5");
        row("lint: 10 times the entities / time", median(lint_tenfold), "at most 11");
        row("peak memory at 10,000 entities / their text", memory * 1024.0 * 1024.0 / bytes(&large), "at most 35");
        row("peak memory at 10,000 entities, MB", memory, "under 200");
    }
    let (django, sql, settings) = (dialects()[0], by_id("sql").expect("a dialect"), Settings::default());
    let pairs = [1_000, 10_000].map(|entities| [0, 1].map(|_| schema(django, files(django, entities)).schema));
    let capabilities = (django.capabilities)(&settings);
    let side = |schema| Side { schema, capabilities: &capabilities };
    let comparing = |size: usize| seconds(1, &pairs[size], |[left, right]| compare(&side(left), &side(right), Database::PostgreSql));
    let texts = [0, 1].map(|size: usize| {
        let fitted = fit(&pairs[size][0], sql, &settings).schema;
        printed(sql, &fitted, &(sql.conventions)(&settings)).remove(0).text
    });
    let read = |text: String| read_scripts(vec![("tables.sql".into(), text)], sql, &mut Settings::default());
    let reading = |size: usize| seconds(1, texts[size].clone(), read);
    for (what, run) in [("compare", &comparing as &dyn Fn(usize) -> f64), ("read a script", &reading)] {
        let tenfold = median((0..ROUNDS / 2).map(|_| run(1) / ((run(0) + run(0)) / 2.0)).collect());
        rows.push(format!("| sql | {what}: 10 times the entities / time | {tenfold:.2} | at most 11 |"));
    }
    let text = format!(
        "# Benchmarks\n\nRatios of one run on a generated project (1,000 entities in 200 files; 12 fields, 2 relations and an index each).\n\
         Run them again with `cargo bench --bench ratios`, which writes this page; `cargo bench --bench reading` gives the times.\n\
         Django and TypeORM are written as people write them; the others are what Sprachbund itself emits for the same entities, \
         whose text is up to four times as long (Sequelize declares each attribute twice): their memory is over 200 MB, at up to 32 \
         bytes for a byte of text where Django takes 18. Prisma's syntax tree is made by a parser of our own, which costs so little \
         that all that comes after it, lint too, weighs several times as much. Mongoose and SQLAlchemy are a little over 1.5: their \
         readers evaluate calls that stand anywhere in a file. Lint finds up to 90,000 things in 10,000 entities, more than a cache \
         holds: that is where up to 12 times the time comes from (an entity costs half as much again among 20,000 as among 1,000).\n\n\
         | dialect | ratio | measured | wanted |\n| --- | --- | --- | --- |\n{}\n",
        rows.join("\n")
    );
    print!("{text}");
    let page = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/benchmarks.md");
    std::fs::write(page, text).expect("docs/benchmarks.md is writable");
}

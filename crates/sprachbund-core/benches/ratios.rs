//! The ratios that the project promises, measured in one run and written to docs/benchmarks.md.
//! `cargo bench --bench ratios -- DIALECT` measures one dialect and writes nothing.

mod project;

use std::path::Path;
use std::time::Instant;

use project::{bare, dialects, files, idle_files, on, schema};
use sprachbund_core::dialect::{Dialect, Settings};
use sprachbund_core::dialects::by_id;
use sprachbund_core::elide::printed;
use sprachbund_core::fit::fit;
use sprachbund_core::reading::read_scripts;
use sprachbund_core::schema::{Database, json};
use sprachbund_core::session::{LintRequest, Read, Session, suggest, suggested};
use sprachbund_core::source::NoFiles;

/// Rounds of measuring.
const ROUNDS: usize = 7;

/// Entities of a project, and of one ten times as large.
const SIZES: [usize; 2] = [1_000, 10_000];

/// The same where each entity is printed and read several times.
const SIZES_OF_FIXES: [usize; 2] = [50, 500];

/// Files of a project, by path and text.
type Files = Vec<(String, String)>;

/// A ratio: what is measured, the value, and what it should be.
struct Ratio {
    dialect: &'static str,
    what: &'static str,
    value: f64,
    wanted: Wanted,
}

#[derive(Clone, Copy)]
enum Wanted {
    AtMost(f64),
    AtLeast(f64),
}

impl Ratio {
    fn line(&self) -> String {
        let Ratio { dialect, what, value, wanted } = self;
        let (words, met) = match wanted {
            Wanted::AtMost(most) => (format!("at most {most}"), value <= most),
            Wanted::AtLeast(least) => (format!("at least {least}"), value >= least),
        };
        let mark = if met { "" } else { " **missed**" };
        format!("| {dialect} | {what} | {value:.2} | {words}{mark} |")
    }
}

/// Seconds of one run on this many threads; preparing its input and letting its result go are not
/// counted.
fn seconds<I: Send, T: Send>(threads: usize, input: I, run: impl FnOnce(I) -> T + Send) -> f64 {
    let start = Instant::now();
    let result = on(threads, || run(input));
    let seconds = start.elapsed().as_secs_f64();
    drop(result);
    seconds
}

/// The median of the ratios of many rounds, each measured back to back: a machine that slows down
/// slows both.
fn median(round: impl FnMut(usize) -> f64) -> f64 {
    let mut values: Vec<f64> = (0..ROUNDS).map(round).collect();
    values.sort_by(f64::total_cmp);
    values[values.len() / 2]
}

fn bytes(files: &[(String, String)]) -> f64 {
    files.iter().map(|(_, text)| text.len() as f64).sum()
}

/// What `parse` does.
fn parse(dialect: &'static Dialect, files: Files) -> usize {
    json::write(&read(dialect, files).schema).len()
}

fn read(dialect: &'static Dialect, files: Files) -> Read {
    let session = Session::new(&NoFiles);
    session.read(files, dialect, Settings::default()).expect("it is covered")
}

/// What `lint` does, with the fixes that it shows.
fn lint(dialect: &'static Dialect, files: Files) -> usize {
    let read = read(dialect, files);
    let findings = Session::new(&NoFiles).lint(&read, &LintRequest::default());
    let shown = suggested(&findings.found, false);
    findings.found.len() + suggest(&read, &findings.found, shown).len()
}

/// The findings alone.
fn findings(read: &Read) -> usize {
    Session::new(&NoFiles).lint(read, &LintRequest::default()).found.len()
}

/// What `lint --mend --preview` does after linting.
fn fix(read: &Read) -> usize {
    let session = Session::new(&NoFiles);
    let findings = session.lint(read, &LintRequest::default());
    session.fix(read, &findings.found, &[]).files.len()
}

/// What `lint --format sarif` does after linting.
fn fixes(read: &Read) -> usize {
    let session = Session::new(&NoFiles);
    let findings = session.lint(read, &LintRequest::default());
    session.fixes(read, &findings.found, &[]).len()
}

/// Ten times the entities by the time that they take.
fn tenfold<I: Sync>(sizes: &[I; 2], run: impl Fn(&I) -> usize + Sync) -> f64 {
    median(|_| {
        let large = seconds(1, &sizes[1], &run);
        large / ((seconds(1, &sizes[0], &run) + seconds(1, &sizes[0], &run)) / 2.0)
    })
}

fn of_reading(dialect: &'static Dialect, project: &Files, idle: &Files) -> Vec<Ratio> {
    let one =
        |files: &Files, threads| seconds(threads, files.clone(), |files| schema(dialect, files));
    let tree = |threads| seconds(threads, project, |project| bare(dialect, project));
    let to_bare = median(|_| one(project, 1) / tree(1));
    let cores = median(|_| (one(project, 1) / one(project, 2)) / (tree(1) / tree(2)));
    let idle_gain = median(|_| (one(project, 1) / bytes(project)) / (one(idle, 1) / bytes(idle)));
    // Prisma's trees are made by a parser of our own, which costs next to nothing.
    let most = if dialect.language.parse("").is_some() { 1.5 } else { 4.0 };
    let ratio = |what, value, wanted| Ratio { dialect: dialect.id, what, value, wanted };
    vec![
        ratio("bytes to schema / bare syntax tree, one core", to_bare, Wanted::AtMost(most)),
        ratio("gain of two cores / gain of the bare syntax tree", cores, Wanted::AtLeast(0.9)),
        ratio("cost per byte with declarations / without", idle_gain, Wanted::AtLeast(20.0)),
    ]
}

fn of_size(dialect: &'static Dialect, projects: &[Files; 2]) -> Vec<Ratio> {
    let verb = |threads, run: fn(&'static Dialect, Files) -> usize| {
        seconds(threads, projects[0].clone(), |files| run(dialect, files))
    };
    let beside_parse = |threads| median(|_| verb(threads, lint) / verb(threads, parse));
    let (one, two) = (beside_parse(1), beside_parse(2));
    let reading = tenfold(projects, |files| schema(dialect, files.clone()).schema.entities.len());
    let reads = [0, 1].map(|size: usize| read(dialect, projects[size].clone()));
    let linting = tenfold(&reads, findings);
    let ratio = |what, value, wanted| Ratio { dialect: dialect.id, what, value, wanted };
    vec![
        ratio("lint / parse, one core", one, Wanted::AtMost(1.5)),
        ratio("lint / parse, two cores", two, Wanted::AtMost(1.5)),
        ratio("10 times the entities / time", reading, Wanted::AtMost(10.5)),
        ratio("lint: 10 times the entities / time", linting, Wanted::AtMost(10.5)),
    ]
}

fn of_fixes(dialect: &'static Dialect) -> Vec<Ratio> {
    let reads = SIZES_OF_FIXES.map(|entities| read(dialect, files(dialect, entities)));
    let ratio =
        |what, value| Ratio { dialect: dialect.id, what, value, wanted: Wanted::AtMost(10.5) };
    vec![
        ratio("trying fixes: 10 times the entities / time", tenfold(&reads, fix)),
        ratio("SARIF with fixes: 10 times the entities / time", tenfold(&reads, fixes)),
    ]
}

/// Highest memory of this process so far, in megabytes (Linux).
fn peak() -> Option<f64> {
    let status = std::fs::read_to_string("/proc/self/status").ok()?;
    let line = status.lines().find(|line| line.starts_with("VmHWM:"))?;
    Some(line.split_whitespace().nth(1)?.parse::<f64>().ok()? / 1024.0)
}

/// The word by which this program is asked to measure its own memory.
const MEMORY: &str = "--memory-of";

fn of_memory(dialect: &'static Dialect, large: &Files) -> Vec<Ratio> {
    let program = std::env::current_exe().expect("this program");
    let output = std::process::Command::new(program).args([MEMORY, dialect.id]).output();
    let told = String::from_utf8(output.expect("it runs").stdout).expect("a number");
    let megabytes: f64 = told.trim().parse().expect("a number");
    let per_byte = megabytes * 1024.0 * 1024.0 / bytes(large);
    let ratio = |what, value, most| Ratio {
        dialect: dialect.id,
        what,
        value,
        wanted: Wanted::AtMost(most),
    };
    vec![
        ratio("peak memory at 10,000 entities / their text", per_byte, 35.0),
        ratio("peak memory at 10,000 entities, MB", megabytes, 300.0),
    ]
}

fn of_scripts() -> Vec<Ratio> {
    let (django, sql, settings) =
        (dialects()[0], by_id("sql").expect("a dialect"), Settings::default());
    let pairs = SIZES.map(|entities| [0, 1].map(|_| read(django, files(django, entities))));
    let comparing = tenfold(&pairs, |[left, right]| {
        let session = Session::new(&NoFiles);
        session.compare(left, right, Some(Database::PostgreSql)).comparison.found.len()
    });
    let texts = [0, 1].map(|size: usize| {
        let fitted = fit(&pairs[size][0].schema, sql, &settings).schema;
        printed(sql, &fitted, &(sql.conventions)(&settings)).remove(0).text
    });
    let reading = tenfold(&texts, |text| {
        let script = vec![("tables.sql".to_owned(), text.clone())];
        read_scripts(script, sql, &mut Settings::default()).schema.entities.len()
    });
    let ratio = |what, value| Ratio { dialect: "sql", what, value, wanted: Wanted::AtMost(10.5) };
    vec![
        ratio("compare: 10 times the entities / time", comparing),
        ratio("read a script: 10 times the entities / time", reading),
    ]
}

/// The lines of the page, told as soon as they are measured: all of them take half an hour.
fn told(ratios: Vec<Ratio>) -> Vec<String> {
    let lines: Vec<String> = ratios.iter().map(Ratio::line).collect();
    lines.iter().for_each(|line| eprintln!("{line}"));
    lines
}

fn of_dialect(dialect: &'static Dialect) -> Vec<String> {
    let (projects, idle) = (SIZES.map(|size| files(dialect, size)), idle_files(dialect, 200));
    let mut lines = told(of_reading(dialect, &projects[0], &idle));
    lines.extend(told(of_size(dialect, &projects)));
    lines.extend(told(of_fixes(dialect)));
    lines.extend(told(of_memory(dialect, &projects[1])));
    lines
}

fn main() {
    let mut asked: Vec<String> =
        std::env::args().skip(1).filter(|word| word != "--bench").collect();
    if let Some(at) = asked.iter().position(|word| word == MEMORY) {
        let dialect = by_id(&asked.remove(at + 1)).expect("a dialect");
        // A process of its own, for its peak of memory. The texts are part of it, as they are of
        // the command's.
        drop(schema(dialect, files(dialect, SIZES[1])));
        println!("{}", peak().unwrap_or_default());
        return;
    }
    let all = asked.is_empty();
    let chosen = dialects().into_iter().filter(|one| all || asked.iter().any(|id| *id == one.id));
    let mut lines: Vec<String> = chosen.flat_map(of_dialect).collect();
    if all || asked.iter().any(|id| id == "sql") {
        lines.extend(told(of_scripts()));
    }
    let text = format!(
        "# Benchmarks\n\nRatios of one run on a generated project, written as people write it \
         in each dialect (1,000 entities in 200 files; 12 fields, 2 relations and an index \
         each; for fixes 50 entities).\nRun them again with `cargo bench --bench ratios`, \
         which writes this page; `cargo bench --bench reading` gives the times.\n\
         Prisma's syntax tree is made by a parser of our own, which costs so little that all \
         that comes after it weighs several times as much.\n\n\
         | dialect | ratio | measured | wanted |\n| --- | --- | --- | --- |\n{}\n",
        lines.join("\n")
    );
    if all {
        let page = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/benchmarks.md");
        std::fs::write(page, text).expect("docs/benchmarks.md is writable");
    }
}

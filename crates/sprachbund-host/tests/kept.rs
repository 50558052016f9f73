//! What files are lowered to is kept by their texts: a project reads the same with and without, and
//! only what changed is lowered again.

use sprachbund_host::language::Language;
use sprachbund_host::project::{Outlines, Project, Wanted};
use sprachbund_host::python::PYTHON;
use sprachbund_host::typescript::TYPESCRIPT;
use sprachbund_schema::source::{FileId, FileProvider, NoFiles};

fn wanted(language: &'static Language) -> Wanted<'static> {
    Wanted { language, marks: &["Berth", "Quay"], stand_ins: &[], is_framework: |_| false }
}

fn files(texts: &[(&str, &str)]) -> Vec<(String, String)> {
    texts.iter().map(|(path, text)| ((*path).to_owned(), (*text).to_owned())).collect()
}

const QUAY: &str = "class Quay:\n    depth = 3\n";
const BERTH: &str = "from quay import Quay\n\n\nclass Berth(Quay):\n    code = 'a'\n";

/// What is known of a project, as text: the classes of each file with their members and places.
fn told(project: &Project) -> Vec<String> {
    let lines = project.files().flat_map(|(file, outline)| {
        let path = project.path(file).to_owned();
        outline.classes.iter().map(move |class| format!("{path}: {class:?}"))
    });
    lines.collect()
}

#[test]
fn a_project_reads_the_same_with_what_is_kept() {
    let inputs = files(&[("quay.py", QUAY), ("berth.py", BERTH)]);
    let kept = Outlines::default();
    let fresh = told(&Project::load(inputs.clone(), &wanted(&PYTHON), &NoFiles));
    assert_eq!(fresh.len(), 2);
    for _ in 0..3 {
        let again = Project::load_keeping(inputs.clone(), &wanted(&PYTHON), &NoFiles, Some(&kept));
        assert_eq!(told(&again), fresh);
    }
}

/// Each text after the one before, with what was kept of it.
#[test]
fn what_changes_is_lowered_anew() {
    let kept = Outlines::default();
    let deeper = QUAY.replace('3', "30");
    for (quay, berth) in [
        (QUAY, BERTH),
        (deeper.as_str(), BERTH),
        ("class Quay:\n    depth = (\n", BERTH),
        (QUAY, "class Berth:\n    pass\n"),
        (QUAY, BERTH),
    ] {
        let inputs = files(&[("quay.py", quay), ("berth.py", berth)]);
        let fresh = told(&Project::load(inputs.clone(), &wanted(&PYTHON), &NoFiles));
        let again = Project::load_keeping(inputs, &wanted(&PYTHON), &NoFiles, Some(&kept));
        assert_eq!(told(&again), fresh);
    }
}

#[test]
fn files_that_come_and_go_do_not_take_each_others_place() {
    let kept = Outlines::default();
    for texts in [
        &[("quay.py", QUAY), ("berth.py", BERTH)][..],
        &[("berth.py", BERTH)],
        &[("berth.py", BERTH), ("quay.py", QUAY)],
        // The same text under another path has places in another file.
        &[("pier.py", QUAY), ("berth.py", BERTH)],
    ] {
        let fresh = told(&Project::load(files(texts), &wanted(&PYTHON), &NoFiles));
        let again = Project::load_keeping(files(texts), &wanted(&PYTHON), &NoFiles, Some(&kept));
        assert_eq!(told(&again), fresh);
        assert_eq!(again.path(FileId(0)), texts[0].0);
    }
}

#[test]
fn one_text_in_two_languages_is_two_outlines() {
    let kept = Outlines::default();
    let text = files(&[("quay", "class Quay {}\n")]);
    for language in [&PYTHON, &TYPESCRIPT, &PYTHON] {
        let fresh = told(&Project::load(text.clone(), &wanted(language), &NoFiles));
        let again = Project::load_keeping(text.clone(), &wanted(language), &NoFiles, Some(&kept));
        assert_eq!(told(&again), fresh, "{}", language.id);
    }
}

/// A file that is imported, in two editions.
struct Shelf(&'static str);

impl FileProvider for Shelf {
    fn read(&self, path: &str) -> Option<String> {
        (path == "quay.py").then(|| self.0.to_owned())
    }

    fn roots(&self) -> &[String] {
        &[]
    }
}

#[test]
fn imported_files_are_kept_by_their_texts_too() {
    let kept = Outlines::default();
    let inputs = || files(&[("berth.py", BERTH)]);
    for shelf in [Shelf(QUAY), Shelf("class Quay:\n    width = 4\n"), Shelf(QUAY)] {
        let fresh = told(&Project::load(inputs(), &wanted(&PYTHON), &shelf));
        let again = Project::load_keeping(inputs(), &wanted(&PYTHON), &shelf, Some(&kept));
        assert_eq!(told(&again), fresh);
        assert_eq!(fresh.len(), 2);
    }
}

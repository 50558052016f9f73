//! Emitted files on their way into a folder: nothing of a person's is lost.

use std::fs;
use std::path::Path;

use sprachbund_core::dialect::PrintedFile;
use sprachbund_project::delivery::{Delivery, State};

fn printed(files: &[(&str, &str)]) -> Vec<PrintedFile> {
    let one =
        |(path, text): &(&str, &str)| PrintedFile { path: (*path).into(), text: (*text).into() };
    files.iter().map(one).collect()
}

fn write(folder: &Path, files: &[(&str, &str)]) -> Result<Delivery, String> {
    Delivery::write(folder, printed(files), false, false).map_err(|error| error.to_string())
}

fn refused(found: Result<Delivery, impl ToString>) -> String {
    match found {
        Ok(_) => panic!("it was done"),
        Err(error) => error.to_string(),
    }
}

fn states(delivery: &Delivery) -> Vec<State> {
    delivery.files.iter().map(|file| file.state).collect()
}

#[test]
fn each_file_is_told_by_how_it_stands_to_the_one_at_its_place() {
    let folder = tempfile::tempdir().expect("a folder");
    let (quay, berth) = (("harbour/quay.ts", "quay"), ("harbour/berth.ts", "berth"));
    let first = write(folder.path(), &[quay, berth]).expect("it is written");
    assert_eq!(states(&first), [State::New, State::New]);
    let again = write(folder.path(), &[quay, ("harbour/berth.ts", "a longer berth")]);
    assert_eq!(states(&again.expect("it is ours")), [State::Unchanged, State::Changes]);
    fs::write(folder.path().join("harbour/quay.ts"), "by hand").expect("a file");
    let planned = Delivery::plan(folder.path(), printed(&[quay, berth])).expect("a plan");
    assert_eq!(states(&planned), [State::ChangedByHand, State::Changes]);
    assert_eq!(planned.files[0].before, b"by hand");
    assert_eq!((planned.count(State::ChangedByHand), planned.count(State::New)), (1, 0));
}

#[test]
fn nothing_is_written_over_a_persons_changes_unless_it_is_asked_for() {
    let folder = tempfile::tempdir().expect("a folder");
    let path = folder.path().join("quay.ts");
    fs::write(&path, "mine").expect("a file");
    let files = &[("quay.ts", "emitted"), ("berth.ts", "emitted")];
    let error = refused(write(folder.path(), files));
    assert!(error.contains("changed by hand") && error.contains("--overwrite"), "{error}");
    assert_eq!(fs::read_to_string(&path).expect("it stays"), "mine");
    assert!(!folder.path().join("berth.ts").exists(), "all or none");
    Delivery::write(folder.path(), printed(files), true, false).expect("it was asked for");
    assert_eq!(fs::read_to_string(&path).expect("a file"), "emitted");
    write(folder.path(), files).expect("it is ours from then on");
}

#[test]
fn files_of_an_earlier_run_stay_until_they_are_to_go() {
    let folder = tempfile::tempdir().expect("a folder");
    let at = |name: &str| folder.path().join(name);
    write(folder.path(), &[("quay.ts", "q"), ("berth.ts", "b"), ("tide.ts", "t")]).expect("files");
    fs::write(at("tide.ts"), "by hand").expect("a file");
    let names = |delivery: &Delivery| -> Vec<(String, bool)> {
        delivery.stale.iter().map(|file| (file.relative.clone(), file.by_hand)).collect()
    };
    let stale = [("berth.ts".to_owned(), false), ("tide.ts".to_owned(), true)];
    let kept = write(folder.path(), &[("quay.ts", "q")]).expect("files");
    assert_eq!(names(&kept), stale);
    assert!(at("berth.ts").exists());
    let gone = Delivery::write(folder.path(), printed(&[("quay.ts", "q")]), false, true);
    assert_eq!(names(&gone.expect("files")), stale);
    assert!(!at("berth.ts").exists() && at("tide.ts").exists(), "what somebody changed is theirs");
}

#[test]
fn paths_that_cannot_be_meant_are_refused() {
    let folder = tempfile::tempdir().expect("a folder");
    for (files, wanted) in [
        (&[("quay.ts", "a"), ("Quay.ts", "b")][..], "two elements would be written into one file"),
        (&[("quay.ts", "a"), ("quay.ts", "b")], "the file `quay.ts`"),
        (&[("../quay.ts", "a")], "would leave the output folder"),
        (&[("/quay.ts", "a")], "would leave the output folder"),
        (&[("harbour/../../quay.ts", "a")], "would leave the output folder"),
    ] {
        for found in [
            write(folder.path(), files).map(|_| ()),
            Delivery::plan(folder.path(), printed(files)).map(|_| ()).map_err(|e| e.to_string()),
        ] {
            let error = found.expect_err(wanted);
            assert!(error.contains(wanted), "{wanted} in {error}");
        }
    }
    let left = fs::read_dir(folder.path()).expect("a folder").count();
    assert_eq!(left, 0, "nothing was written");
}

#[cfg(unix)]
#[test]
fn a_link_is_not_followed_out_of_the_folder() {
    let (folder, outside) = (tempfile::tempdir().expect("a"), tempfile::tempdir().expect("b"));
    std::os::unix::fs::symlink(outside.path(), folder.path().join("harbour")).expect("a link");
    let error = refused(write(folder.path(), &[("harbour/quay.ts", "a")]));
    assert!(error.contains("is a link"), "{error}");
    assert_eq!(fs::read_dir(outside.path()).expect("a folder").count(), 0);
}

#[test]
fn a_damaged_record_makes_every_file_a_persons_own() {
    let folder = tempfile::tempdir().expect("a folder");
    write(folder.path(), &[("quay.ts", "a")]).expect("files");
    fs::write(folder.path().join(".sprachbund-emitted.json"), "{").expect("a file");
    let planned = Delivery::plan(folder.path(), printed(&[("quay.ts", "b")])).expect("a plan");
    assert_eq!(states(&planned), [State::ChangedByHand]);
}

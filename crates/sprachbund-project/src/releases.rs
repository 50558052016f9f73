//! The release of a framework that a project has: what its lock files say, else what its manifests
//! ask for.

use std::path::{Path, PathBuf};

use serde_json::Value as Json;
use sprachbund_core::dialect::Dialect;
use sprachbund_core::dialect::release::is_release;

use crate::files;

/// Folders above the inputs in which a project's files are looked for.
const HIGHEST: usize = 6;

/// Largest file that is read for a release.
const LARGEST: u64 = 32 * 1024 * 1024;

/// A release, and the file that names it.
#[derive(Debug, PartialEq, Eq)]
pub(crate) struct ProjectRelease {
    pub release: String,
    pub file: PathBuf,
}

/// How a file names the release of a package.
type ReleaseReader = fn(text: &str, package: &str) -> Option<String>;

/// Files that name releases: those of what is installed before those of what is asked for.
const FILES: &[(&str, ReleaseReader)] = &[
    ("uv.lock", of_toml_lock),
    ("poetry.lock", of_toml_lock),
    ("Pipfile.lock", of_pipfile_lock),
    ("package-lock.json", of_package_lock),
    ("yarn.lock", of_yarn_lock),
    ("requirements.txt", of_requirements),
    ("requirements/base.txt", of_requirements),
    ("pyproject.toml", of_pyproject),
    ("package.json", of_package_json),
];

/// The release of a dialect's framework in the project that a folder belongs to.
pub(crate) fn of_project(folder: &Path, dialect: &Dialect) -> Option<ProjectRelease> {
    let folder = folder.canonicalize().ok()?;
    folder.ancestors().take(HIGHEST).find_map(|folder| {
        FILES.iter().find_map(|(name, read)| {
            let file = folder.join(name);
            let text = file.is_file().then(|| files::read(&file, LARGEST).ok()).flatten()?;
            let text = String::from_utf8(text).ok()?;
            let release =
                dialect.details.packages.iter().find_map(|package| read(&text, package))?;
            Some(ProjectRelease { release, file })
        })
    })
}

/// The first release that a condition names: `^0.3.20`, `>=4.2,<5`, `~=5.2`. What excludes releases
/// names none.
fn first_of(condition: &str) -> Option<String> {
    let begin = condition.find(|letter: char| letter.is_ascii_digit())?;
    if condition[..begin].contains(['<', '!']) {
        return None;
    }
    let rest = &condition[begin..];
    let end =
        rest.find(|letter: char| !(letter.is_ascii_digit() || letter == '.')).unwrap_or(rest.len());
    let release = rest[..end].trim_end_matches('.');
    is_release(release).then(|| release.to_owned())
}

/// A package's name as registries compare it: `Flask_SQLAlchemy` is `flask-sqlalchemy`.
fn plain(package: &str) -> String {
    package.to_lowercase().replace(['_', '.'], "-")
}

/// `[[package]]` with a name and a version.
fn of_toml_lock(text: &str, package: &str) -> Option<String> {
    let lock: toml::Table = text.parse().ok()?;
    let found = lock
        .get("package")?
        .as_array()?
        .iter()
        .find(|one| one.get("name").and_then(|name| name.as_str()) == Some(package))?;
    first_of(found.get("version")?.as_str()?)
}

fn of_pipfile_lock(text: &str, package: &str) -> Option<String> {
    let lock: Json = serde_json::from_str(text).ok()?;
    first_of(lock["default"][package]["version"].as_str()?)
}

/// Both forms: by place of installation, and (of the first edition) by name.
fn of_package_lock(text: &str, package: &str) -> Option<String> {
    let lock: Json = serde_json::from_str(text).ok()?;
    let by_place = lock["packages"][format!("node_modules/{package}")]["version"].as_str();
    first_of(by_place.or_else(|| lock["dependencies"][package]["version"].as_str())?)
}

/// An entry's head at the left margin, its version below it.
fn of_yarn_lock(text: &str, package: &str) -> Option<String> {
    let of_package = |line: &&str| {
        line.trim_start_matches('"').strip_prefix(package).is_some_and(|rest| rest.starts_with('@'))
    };
    let mut lines = text.lines().skip_while(|line| !of_package(line)).skip(1);
    let version = lines
        .by_ref()
        .take_while(|line| line.starts_with(' '))
        .find(|line| line.trim_start().starts_with("version"))?;
    first_of(version)
}

/// Lines of a name and a condition.
fn of_requirements(text: &str, package: &str) -> Option<String> {
    text.lines().find_map(|line| {
        let line = line.split(['#', ';']).next().unwrap_or_default().trim();
        let end = line.find(|letter: char| {
            !(letter.is_ascii_alphanumeric() || matches!(letter, '-' | '_' | '.'))
        })?;
        // What an extra asks for besides stands in brackets.
        let condition = line[end..].rsplit(']').next().unwrap_or_default();
        (plain(&line[..end]) == package).then(|| first_of(condition)).flatten()
    })
}

/// Dependencies as a list of requirements, or as a table of names.
fn of_pyproject(text: &str, package: &str) -> Option<String> {
    let project: toml::Table = text.parse().ok()?;
    let listed = project
        .get("project")
        .and_then(|project| project.get("dependencies"))
        .and_then(|list| list.as_array());
    let by_list =
        listed.into_iter().flatten().find_map(|one| of_requirements(one.as_str()?, package));
    let by_name = || {
        let table = project.get("tool")?.get("poetry")?.get("dependencies")?.as_table()?;
        let (_, condition) = table.iter().find(|(name, _)| plain(name) == package)?;
        first_of(condition.as_str().or_else(|| condition.get("version")?.as_str())?)
    };
    by_list.or_else(by_name)
}

fn of_package_json(text: &str, package: &str) -> Option<String> {
    let manifest: Json = serde_json::from_str(text).ok()?;
    let asked = ["dependencies", "devDependencies", "peerDependencies"]
        .iter()
        .find_map(|kind| manifest[kind][package].as_str())?;
    first_of(asked)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// What reads a file, the file, a package, and the release that it names.
    const CASES: &[(ReleaseReader, &str, &str, Option<&str>)] = &[
        (of_requirements, "harbour==1\nDjango==4.2.16  # of the quay\n", "django", Some("4.2.16")),
        (of_requirements, "Django[argon2]>=4.2,<5 ; python_version > '3.8'", "django", Some("4.2")),
        (of_requirements, "django-filter==24.1\n", "django", None),
        (of_requirements, "django<5\n", "django", None),
        (of_requirements, "django\n", "django", None),
        (
            of_toml_lock,
            "[[package]]\nname = \"django\"\nversion = \"5.2.1\"\n",
            "django",
            Some("5.2.1"),
        ),
        (of_toml_lock, "no lock", "django", None),
        (
            of_pipfile_lock,
            r#"{"default": {"django": {"version": "==4.2.7"}}}"#,
            "django",
            Some("4.2.7"),
        ),
        (
            of_pyproject,
            "[project]\ndependencies = [\"psycopg\", \"Django~=5.2\"]\n",
            "django",
            Some("5.2"),
        ),
        (of_pyproject, "[tool.poetry.dependencies]\nDjango = \"^4.2\"\n", "django", Some("4.2")),
        (
            of_pyproject,
            "[tool.poetry.dependencies]\ndjango = { version = \"4.2.3\" }\n",
            "django",
            Some("4.2.3"),
        ),
        (
            of_package_lock,
            r#"{"packages": {"node_modules/typeorm": {"version": "0.3.20"}}}"#,
            "typeorm",
            Some("0.3.20"),
        ),
        (
            of_package_lock,
            r#"{"dependencies": {"typeorm": {"version": "0.2.45"}}}"#,
            "typeorm",
            Some("0.2.45"),
        ),
        (of_package_json, r#"{"devDependencies": {"prisma": "^6.1.0"}}"#, "prisma", Some("6.1.0")),
        (of_package_json, r#"{"dependencies": {"typeorm": "latest"}}"#, "typeorm", None),
        (
            of_yarn_lock,
            "tslib@^2:\n  version \"2.1.0\"\n\ntypeorm@^0.3.1:\n  version \"0.3.17\"\n",
            "typeorm",
            Some("0.3.17"),
        ),
        (of_yarn_lock, "\"typeorm@npm:^0.3.1\":\n  version: 0.3.17\n", "typeorm", Some("0.3.17")),
        (of_yarn_lock, "typeorm-extension@^2:\n  version \"2.1.0\"\n", "typeorm", None),
    ];

    #[test]
    fn each_kind_of_file_names_the_release() {
        for (read, text, package, expected) in CASES {
            assert_eq!(read(text, package).as_deref(), *expected, "{text}");
        }
    }
}

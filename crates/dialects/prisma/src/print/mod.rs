//! Declarations to schema files, laid out as Prisma's own formatter does. One module is one file,
//! which also says the datasource and the generator; several share a file for that.

mod block;
mod field;
mod relation;
mod value;

use std::collections::{BTreeMap, HashMap, HashSet};

use super::read::is_identified;
use super::{PROJECT_FILE, SILENT_NAMESPACE};
use crate::declaration::{Attribute, Declarations, Form, Model};
use crate::dialect::release::at_least;
use crate::dialect::{Conventions, PrintedFile};
use crate::literal::text as quoted;
use crate::schema::{Database, EnumType};

/// Prints every model and enumeration.
pub(super) fn print(declarations: &Declarations, conventions: &Conventions) -> Vec<PrintedFile> {
    let printer = Printer::of(declarations, conventions);
    let mut blocks: BTreeMap<&str, Vec<String>> = BTreeMap::new();
    for enumeration in &declarations.enums {
        blocks.entry(&enumeration.module).or_default().push(printer.enumeration(enumeration));
    }
    for model in &declarations.models {
        blocks.entry(&model.module).or_default().push(printer.model(model));
    }
    let project = printer.project();
    if blocks.len() == 1 {
        blocks.values_mut().for_each(|blocks| blocks.insert(0, project.clone()));
    } else {
        blocks.insert(PROJECT_FILE, vec![project]);
    }
    blocks
        .into_iter()
        .map(|(module, blocks)| PrintedFile {
            path: format!("{module}.prisma"),
            text: blocks.join("\n"),
        })
        .collect()
}

struct Printer<'d> {
    declarations: &'d Declarations,
    conventions: &'d Conventions,
    models: HashMap<&'d str, &'d Model>,
    /// How many relations each pair of models has.
    pairs: HashMap<(&'d str, &'d str), usize>,
    /// Models whose records are not read.
    ignored: HashSet<&'d str>,
    several_namespaces: bool,
}

impl<'d> Printer<'d> {
    fn of(declarations: &'d Declarations, conventions: &'d Conventions) -> Self {
        let models: HashMap<&str, &Model> =
            declarations.models.iter().map(|model| (model.id.as_str(), model)).collect();
        let mut pairs: HashMap<(&str, &str), usize> = HashMap::new();
        for model in &declarations.models {
            for attribute in &model.attributes {
                if let Attribute::Relation(relation) = attribute {
                    *pairs.entry(pair(&model.id, &relation.target)).or_default() += 1;
                }
            }
        }
        let unread = |model: &&Model| model.extras.contains_key("ignored") || !is_identified(model);
        let ignored =
            declarations.models.iter().filter(unread).map(|model| model.id.as_str()).collect();
        let several_namespaces = declarations.models.iter().any(|model| model.namespace.is_some());
        Printer { declarations, conventions, models, pairs, ignored, several_namespaces }
    }

    /// The blocks of the project as a whole.
    fn project(&self) -> String {
        // All of 5 and 6 take what is written for them; some of 6 know the later generator, and
        // several schemas without a word.
        let newest = at_least(&self.conventions.version, (7, 0));
        let mut generator = match newest {
            true => {
                vec![
                    ("provider", quoted("prisma-client")),
                    ("output", quoted("../generated/prisma")),
                ]
            }
            false => vec![("provider", quoted("prisma-client-js"))],
        };
        let mut early = Vec::new();
        if self.declarations.models.iter().any(|model| model.form == Form::View) {
            early.push(quoted("views"));
        }
        if self.several_namespaces && !newest {
            early.push(quoted("multiSchema"));
        }
        if !early.is_empty() {
            generator.push(("previewFeatures", format!("[{}]", early.join(", "))));
        }
        let provider = match self.conventions.database {
            Database::PostgreSql | Database::MongoDb => "postgresql",
            Database::MySql | Database::MariaDb => "mysql",
            Database::Sqlite => "sqlite",
        };
        let mut datasource = vec![("provider", quoted(provider))];
        if !newest {
            // Later releases have the address in a file of its own, and refuse it here.
            datasource.push(("url", format!("env({})", quoted("DATABASE_URL"))));
        }
        if !self.conventions.references.enforced {
            datasource.push(("relationMode", quoted("prisma")));
        }
        if self.several_namespaces {
            let mut names: Vec<&str> = self
                .declarations
                .models
                .iter()
                .map(|model| model.namespace.as_deref().unwrap_or(SILENT_NAMESPACE))
                .collect();
            names.push(SILENT_NAMESPACE);
            names.sort_unstable();
            names.dedup();
            datasource.push((
                "schemas",
                format!("[{}]", names.into_iter().map(quoted).collect::<Vec<_>>().join(", ")),
            ));
        }
        format!(
            "{}\n{}",
            settings("generator client", &generator),
            settings("datasource db", &datasource)
        )
    }

    fn enumeration(&self, enumeration: &EnumType) -> String {
        let rows: Vec<Vec<String>> = enumeration
            .members
            .iter()
            .map(|member| {
                let value =
                    member.value.as_str().map_or_else(|| member.value.to_string(), str::to_owned);
                let mapped = (value != member.name).then(|| format!("@map({})", quoted(&value)));
                [Some(member.name.clone()), mapped].into_iter().flatten().collect()
            })
            .collect();
        let mut ends: Vec<String> =
            enumeration.stored_name.iter().map(|name| format!("@@map({})", quoted(name))).collect();
        if self.several_namespaces {
            ends.push(format!("@@schema({})", quoted(SILENT_NAMESPACE)));
        }
        block(&format!("enum {}", enumeration.name), &[], &[rows], &ends)
    }

    fn model(&self, model: &Model) -> String {
        let (mut fields, mut relations) = (Vec::new(), Vec::new());
        for attribute in &model.attributes {
            let (rows, extras, row) = match attribute {
                Attribute::Field(field) => (&mut fields, &field.extras, self.field(model, field)),
                Attribute::Relation(relation) => {
                    (&mut relations, &relation.extras, self.relation(model, relation))
                }
                Attribute::Inverse(inverse) => {
                    (&mut relations, &inverse.extras, self.inverse(model, inverse))
                }
                Attribute::Removed(_) => continue,
            };
            rows.extend(documentation(extras).into_iter().map(|line| vec![line]));
            rows.push(row);
        }
        let keyword = if model.form == Form::View { "view" } else { "model" };
        let head = format!("{keyword} {}", model.name);
        block(
            &head,
            &documentation(&model.extras),
            &[fields, relations],
            &self.block_attributes(model),
        )
    }

    fn model_of(&self, id: &str) -> Option<&'d Model> {
        self.models.get(id).copied()
    }
}

/// A pair of models, in whichever order.
fn pair<'a>(left: &'a str, right: &'a str) -> (&'a str, &'a str) {
    (left.min(right), left.max(right))
}

/// The lines of a `///` text.
fn documentation(extras: &crate::schema::Extras) -> Vec<String> {
    let text = extras.get("documentation").and_then(|text| text.as_str());
    text.map_or(Vec::new(), |text| {
        text.split('\n').map(|line| format!("/// {line}").trim_end().to_owned()).collect()
    })
}

/// `key = value` lines, their values in one column.
fn settings(head: &str, entries: &[(&str, String)]) -> String {
    let width = entries.iter().map(|(key, _)| key.len()).max().unwrap_or(0);
    let lines: String =
        entries.iter().map(|(key, value)| format!("  {key:width$} = {value}\n")).collect();
    format!("{head} {{\n{lines}}}\n")
}

/// A block of groups of rows, each aligned in columns, and what is said of it as a whole; with
/// blank lines between them.
fn block(
    head: &str,
    documentation: &[String],
    groups: &[Vec<Vec<String>>],
    ends: &[String],
) -> String {
    let mut parts: Vec<String> =
        groups.iter().filter(|rows| !rows.is_empty()).map(|rows| aligned(rows)).collect();
    if !ends.is_empty() {
        parts.push(ends.iter().map(|end| format!("  {end}\n")).collect());
    }
    let before: String = documentation.iter().map(|line| format!("{line}\n")).collect();
    format!("{before}{head} {{\n{}}}\n", parts.join("\n"))
}

fn aligned(rows: &[Vec<String>]) -> String {
    let mut widths = [0usize; 2];
    for row in rows.iter().filter(|row| !is_documentation(row)) {
        for (width, cell) in widths.iter_mut().zip(row) {
            *width = (*width).max(cell.chars().count());
        }
    }
    let line = |row: &Vec<String>| {
        let cells = row.iter().enumerate().map(|(at, cell)| {
            let width = widths.get(at).copied().filter(|_| at + 1 < row.len()).unwrap_or(0);
            format!("{cell:width$}")
        });
        format!("  {}\n", cells.collect::<Vec<_>>().join(" "))
    };
    rows.iter().map(line).collect()
}

fn is_documentation(row: &[String]) -> bool {
    matches!(row, [only] if only.starts_with("///"))
}

use crate::declaration::Spelling;
use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::Conventions;
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::rule::{PLAIN, Rule, django};
use crate::schema::Type;

pub(super) const RULE: Rule = Rule {
    name: "same-word-other-type",
    severity: Severity::Warning,
    finds: "a column of a dialect's plain word for texts, numbers or times, where the other dialect's plain word means another type (with --to)",
    consequence: "Carried over word by word, a text gets (or loses) a greatest length, a time loses its zone, a decimal its places. Values that \
                  fitted are refused or cut.",
    sql: "INSERT INTO vessels (name) VALUES (repeat('x', 300));  -- accepted before; after: value too long for type character varying(255)",
    cure: "Say the length, the digits or the zone in the target.",
    exception: "When `emit` writes the declarations: it says what must be said.",
    wrong: django("class PortCall(models.Model):\n    arrived_at = models.DateTimeField()\n").to("typeorm"),
    right: django("class PortCall(models.Model):\n    arrived_at = models.DateTimeField()\n").to("sequelize"),
    check,
    ..PLAIN
};

/// What people reach for first: a kind of value and each dialect's word for it, when nothing more is said.
const PLAIN_WORDS: &[(&str, &[(&str, &str)])] = &[
    ("text", &[("django", "CharField"), ("prisma", "String"), ("sequelize", "STRING"), ("sqlalchemy", "String"), ("typeorm", "varchar")]),
    (
        "time",
        &[("django", "DateTimeField"), ("prisma", "DateTime"), ("sequelize", "DATE"), ("sqlalchemy", "DateTime"), ("typeorm", "timestamp")],
    ),
    ("decimal", &[("prisma", "Decimal"), ("sequelize", "DECIMAL"), ("sqlalchemy", "Numeric"), ("typeorm", "decimal")]),
    ("number", &[("django", "IntegerField"), ("prisma", "Int"), ("sequelize", "INTEGER"), ("sqlalchemy", "Integer"), ("typeorm", "int")]),
    ("fraction", &[("django", "FloatField"), ("prisma", "Float"), ("sequelize", "FLOAT"), ("sqlalchemy", "Float"), ("typeorm", "float")]),
];

/// The word of a dialect and what it means when nothing more is said.
fn meaning(conventions: &Conventions, words: &[(&'static str, &'static str)]) -> Option<(&'static str, Type)> {
    let (_, word) = words.iter().find(|(dialect, _)| *dialect == conventions.dialect)?;
    let on_server = |row: &&crate::dialect::type_table::TypeRow| row.only_on.is_none_or(|only| only == conventions.database);
    let row = conventions.types.iter().filter(on_server).find(|row| row.word == *word)?;
    Some((word, row.read(&Spelling::word(*word))))
}

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target else { return };
    for (_, words) in PLAIN_WORDS {
        let Some(((word, here), (other_word, there))) = meaning(context.conventions, words).zip(meaning(&target.conventions, words)) else {
            continue;
        };
        if here == there {
            continue;
        }
        for (entity, field) in context.columns().filter(|(_, field)| field.r#type == here && field.origin.span().is_some()) {
            let framework = target.dialect.framework;
            found.push(
                RULE.of_column(
                    entity,
                    field,
                    format!("`{word}` of `{}` is a {here}; `{other_word}` of {framework} is a {there}", place(entity, field)),
                )
                .at(field.origin.span(), format!("`{here}` without saying so"))
                .because(format!("carried over word by word, it turns from {here} to {there}"))
                .with_help(format!("say what makes it a {here} in {framework}")),
            );
        }
    }
}

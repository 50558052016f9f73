use foldhash::HashMap;

use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::naming::Case;
use crate::lint::Context;
use crate::lint::context::{is_reference, place};
use crate::lint::examples::{mongoose, sql};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Entity, Field};

pub(super) const RULE: Rule = Rule {
    name: "reference-in-name-only",
    severity: Severity::Warning,
    finds: "a column called after another entity and its key that refers to nothing",
    consequence: "Nothing keeps the value to rows that exist: after a deletion it leads \
                  nowhere, and a mistyped number is stored. Neither the code nor a reader of \
                  the tables sees the relation.",
    sql: "INSERT INTO berths (quay_id) VALUES (99);  -- accepted, there is no quay 99",
    cure: "Declare the relation. Rows that lead nowhere must be mended before the foreign key \
           is accepted.",
    exception: "When the number is another system's.",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer NOT NULL);\n"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer NOT NULL \
                REFERENCES quays (id));\n"),
    cases: &[
        (0, sql("CREATE TABLE berths (id integer PRIMARY KEY, radio_id integer);")),
        (
            0,
            sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                 CREATE TABLE berths (id integer PRIMARY KEY, quay_id text);"),
        ),
        (
            1,
            mongoose(
                "mongoose.model('Quay', new mongoose.Schema({ depth: Number }));\n\
                 mongoose.model('Berth', new \
                 mongoose.Schema({ quayId: mongoose.Types.ObjectId }));\n",
            ),
        ),
    ],
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let named: HashMap<String, &Entity> =
        context.entities().map(|entity| (Case::Snake.apply(&entity.name), entity)).collect();
    for (entity, field) in context.fields() {
        if is_reference(entity, &field.column) {
            continue;
        }
        let Some((target, key)) = meant(&named, field) else { continue };
        // A number of its own kind is one that somebody else gives it.
        if target.id == entity.id
            || key.r#type != field.r#type
            || (entity.key_columns() == [field.column.as_str()])
        {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "`{}` is called after `{}`, and refers to nothing",
                    place(entity, field),
                    target.name
                ),
            )
            .at(
                field.origin.span(),
                format!("a `{}`, like the key of `{}`", field.r#type, target.name),
            )
            .and_at(target.origin.span(), "meant, perhaps")
            .because(format!("a value without a row in `{}` is accepted", target.table))
            .with_help(format!("declare a relation to `{}`", target.name)),
        );
    }
}

/// The entity whose name and key the column's name is made of.
fn meant<'s>(
    named: &HashMap<String, &'s Entity>,
    field: &Field,
) -> Option<(&'s Entity, &'s Field)> {
    let snake = Case::Snake.apply(&field.column);
    let (stem, key) = snake.rsplit_once('_')?;
    let target = named.get(stem)?;
    let [column] = target.key_columns() else { return None };
    let key = Some(target.field(column)?)
        .filter(|_| Case::Snake.apply(column).trim_start_matches('_') == key)?;
    Some((target, key))
}

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::keys;
use crate::lint::examples::{django, sql};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::index_element;
use crate::schema::{Change, Entity, Index};
use crate::source::Span;

pub(super) const RULE: Rule = Rule {
    name: "index-said-twice",
    severity: Severity::Warning,
    finds: "an index over the same columns as another index, a unique constraint or the key",
    consequence: "Every insert, and every update of those columns, writes both. No query gets \
                  faster by the second.",
    sql: "CREATE TABLE quays (code varchar(9) UNIQUE);\n\
          CREATE INDEX ON quays (code);  -- accepted, and never used",
    cure: "Drop the plain one. No row changes.",
    exception: "Never, unless the two differ in a way that is not declared.",
    wrong: django(
        "class Quay(models.Model):
    depth = models.IntegerField(db_index=True)

    class Meta:
        indexes = [models.Index(fields=[\"depth\"], name=\"by_depth\")]
",
    ),
    right: django("class Quay(models.Model):\n    depth = models.IntegerField(db_index=True)\n"),
    cases: &[
        (
            1,
            sql("CREATE TABLE quays (id integer PRIMARY KEY, code varchar(9) UNIQUE);\n\
                 CREATE INDEX by_code ON quays (code);"),
        ),
        (1, sql("CREATE TABLE quays (id integer PRIMARY KEY);\nCREATE INDEX by_id ON quays (id);")),
        (
            0,
            sql("CREATE TABLE quays (id integer PRIMARY KEY, code varchar(9));\n\
                 CREATE INDEX a ON quays (code);\nCREATE INDEX b ON quays (code DESC);"),
        ),
        (
            0,
            sql("CREATE TABLE quays (id integer PRIMARY KEY, code text);\n\
                 CREATE INDEX a ON quays (code);\nCREATE INDEX b ON quays (code) WHERE code <> \
                 '';"),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.entities() {
        for (at, index) in
            entity.indexes.iter().enumerate().filter(|(_, index)| !index.parts.is_empty())
        {
            let Some((first, place)) = first(entity, index, at) else { continue };
            let message = format!("{first} of `{}` is over `{}` already", entity.name, keys(index));
            found.push(
                superfluous(&RULE, entity, index, message, ("the same again", "the first", place))
                    .because("each write keeps both, and no query is faster by it")
                    .with_help("leave the second one out"),
            );
        }
    }
}

/// A finding that an index can be done without: what it is, what makes it so, and where that
/// stands.
pub(super) fn superfluous(
    rule: &Rule,
    entity: &Entity,
    index: &Index,
    message: String,
    (own, other, place): (&str, &str, Option<Span>),
) -> Diagnostic {
    rule.finding(entity, index_element(index), message)
        .at(index.origin.span().or(entity.origin.span()), own)
        .and_at(place.filter(|place| Some(*place) != index.origin.span()), other)
        .curable(Change::RemoveIndex { entity: entity.id.clone(), index: index_element(index) })
}

/// What has the same columns before: its kind and its place.
fn first(entity: &Entity, index: &Index, at: usize) -> Option<(&'static str, Option<Span>)> {
    let same = |other: &Index| {
        (&other.parts, &other.condition, &other.method, other.unique || !index.unique)
            == (&index.parts, &index.condition, &index.method, true)
    };
    if let Some(other) = entity.indexes[..at].iter().find(|other| same(other)) {
        return Some(("an index", other.origin.span()));
    }
    let later = |(place, other): &(usize, &Index)| {
        *place > at && other.unique && !index.unique && same(other)
    };
    if let Some((_, other)) = entity.indexes.iter().enumerate().find(later) {
        return Some(("a unique index", other.origin.span()));
    }
    let plain = index.parts.iter().all(crate::schema::IndexPart::is_plain)
        && index.condition.is_none()
        && index.method.is_none();
    let columns = if plain && !index.unique { index.plain_columns() } else { return None };
    if entity.key_columns() == columns {
        return Some(("the key", entity.primary_key.as_ref().and_then(|key| key.origin.span())));
    }
    let unique = entity.uniques.iter().find(|unique| unique.columns == columns)?;
    Some(("a unique constraint", unique.origin.span()))
}

use foldhash::HashMap;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Entity, Inheritance, Inherits};

pub(super) const RULE: Rule = Rule {
    name: "table-declared-twice",
    severity: Severity::Warning,
    finds: "two entities over one table, neither of which extends the other",
    consequence: "Each declares columns that the other does not know. What makes the tables \
                  makes it once, after one of them, or is refused at the second; each class \
                  saves rows without the other's columns.",
    sql: "CREATE TABLE quay (id integer);\nCREATE TABLE quay (id integer);  -- refused: \
          relation \"quay\" already exists",
    cure: "Give one of them another table, or let it extend the other.",
    exception: "When one of them only reads.",
    raised: &["declared-twice"],
    wrong: django(
        "class Quay(models.Model):
    depth = models.IntegerField()

    class Meta:
        db_table = \"quay\"


class OldQuay(models.Model):
    length = models.IntegerField()

    class Meta:
        db_table = \"quay\"
",
    ),
    right: django(
        "class Quay(models.Model):
    depth = models.IntegerField()

    class Meta:
        db_table = \"quay\"


class OldQuay(models.Model):
    length = models.IntegerField()

    class Meta:
        db_table = \"old_quay\"
",
    ),
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let mut seen: HashMap<String, &Entity> = HashMap::default();
    let shares = |entity: &Entity| {
        let shared =
            |how: Inheritance| matches!(how, Inheritance::SingleTable | Inheritance::SameTable);
        matches!(&entity.inherits, Some(Inherits { how, .. }) if shared(*how))
            || entity.owned_by.is_some()
    };
    for entity in context.entities().filter(|entity| !shares(entity)) {
        let Some(first) = seen.insert(entity.address(), entity) else { continue };
        found.push(
            RULE.finding(
                entity,
                "",
                format!(
                    "`{}` and `{}` are both over the table `{}`",
                    first.name,
                    entity.name,
                    entity.address()
                ),
            )
            .at(entity.origin.span(), "over it, too")
            .and_at(first.origin.span(), "over it")
            .because("each saves rows without the columns that only the other knows")
            .with_help("give one of them another table, or let it extend the other"),
        );
    }
}

use foldhash::HashSet;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "order-by-nothing",
    severity: Severity::Warning,
    finds: "a natural order of records by an attribute that the entity does not have",
    consequence: "Every query that does not name an order of its own fails, or comes back in \
                  any order.",
    sql: "SELECT * FROM quay ORDER BY dept;  -- refused: column \"dept\" does not exist",
    cure: "Mend the name, or leave the order out.",
    exception: "When the attribute is computed by the query.",
    wrong: django(
        "class Quay(models.Model):
    depth = models.IntegerField()

    class Meta:
        ordering = [\"dept\"]
",
    ),
    right: django(
        "class Quay(models.Model):
    depth = models.IntegerField()

    class Meta:
        ordering = [\"depth\"]
",
    ),
    cases: &[(
        0,
        django(
            "class Harbour(models.Model):
    name = models.CharField(max_length=9)


class Quay(models.Model):
    harbour = models.ForeignKey(Harbour, on_delete=models.PROTECT)

    class Meta:
        ordering = [\"harbour__name\", \"-pk\", \"harbour_id\"]
",
        ),
    )],
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let relations = context.schema.entities.iter().flat_map(|entity| &entity.relations);
    let inverses: HashSet<(&str, &str)> = relations
        .filter_map(|relation| Some((relation.target.as_str(), relation.inverse.as_deref()?)))
        .collect();
    for entity in context.entities().filter(|entity| entity.inherits.is_none()) {
        for key in &entity.order {
            // A path over relations begins with the relation; what is no plain word is an
            // expression.
            let first = key
                .field
                .split("__")
                .next()
                .unwrap_or_default()
                .split('.')
                .next()
                .unwrap_or_default();
            let plain = first.chars().all(|letter| letter.is_alphanumeric() || letter == '_')
                && !first.is_empty();
            let known = entity
                .fields
                .iter()
                .any(|field| field.name.as_deref() == Some(first) || field.column == first)
                || entity.relations.iter().any(|relation| relation.name.as_deref() == Some(first))
                || matches!(first, "pk" | "id" | "_order")
                || inverses.contains(&(entity.id.as_str(), first));
            if known || !plain {
                continue;
            }
            let near = crate::dialect::nearest(
                first,
                entity.fields.iter().filter_map(|field| field.name.as_deref()),
            );
            found.push(
                RULE.finding(
                    entity,
                    format!("order {first}"),
                    format!("`{}` is ordered by `{first}`, which it does not have", entity.name),
                )
                .at(entity.origin.span(), "its records have an order of their own")
                .because("queries without an order of their own fail")
                .with_help(
                    near.map_or("leave it out".into(), |near| format!("did you mean `{near}`?")),
                ),
            );
        }
    }
}

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::reference_name;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::EnforcedBy;
use crate::schema::facts::foreign_key_element;

pub(super) const RULE: Rule = Rule {
    name: "reference-without-constraint",
    severity: Severity::Warning,
    finds: "a relation between tables for which no foreign key is made",
    consequence: "Any value is stored. A deletion by hand, by a script or by a second \
                  application leaves references that lead nowhere, and the code that follows \
                  them fails later.",
    sql: "DELETE FROM quay WHERE id = 1;  -- accepted; its berths now refer to nothing",
    cure: "Let the database hold the foreign key. Rows that lead nowhere must be mended first.",
    exception: "When the tables are in different databases, or rows arrive in any order from \
                elsewhere.",
    wrong: django(
        "class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.CASCADE, db_constraint=False)
",
    ),
    right: django(
        "class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.CASCADE)
",
    ),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        for key in entity.foreign_keys.iter().filter(|key| key.enforced == EnforcedBy::Application)
        {
            let name = reference_name(entity, key);
            found.push(
                RULE.finding(
                    entity,
                    foreign_key_element(key),
                    format!(
                        "only the application keeps `{}.{name}` to rows that exist",
                        entity.name
                    ),
                )
                .at(key.origin.span(), "no foreign key is made")
                .because(format!(
                    "a deletion in `{}` by anything else leaves references that lead nowhere",
                    key.references.table
                ))
                .with_help("let the database hold the foreign key"),
            );
        }
    }
}

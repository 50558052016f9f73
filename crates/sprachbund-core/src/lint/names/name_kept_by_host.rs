use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::Dialect;
use crate::lint::Context;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "name-kept-by-host",
    severity: Severity::Note,
    finds: "an attribute that is called like a member of every record of the framework, or of \
            the one it is to be carried to",
    consequence: "The attribute hides the framework's own method (or is refused): saving, \
                  validating or deleting a record then does something else, or nothing.",
    sql: "-- record.save() now reads a column",
    cure: "Choose another name for the attribute; the column may keep its own.",
    exception: "When the framework is known to allow it.",
    wrong: django("class Pilot(models.Model):\n    save = models.BooleanField(default=False)\n"),
    right: django(
        "class Pilot(models.Model):\n    is_saved = models.BooleanField(default=False, \
         db_column=\"save\")\n",
    ),
    cases: &[(
        1,
        django("class Pilot(models.Model):\n    metadata = models.JSONField(default=dict)\n")
            .to("sqlalchemy"),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let own = context.conventions.dialect;
    let dialects: Vec<&Dialect> =
        std::iter::once(own).chain(context.target.map(|target| target.dialect)).collect();
    for entity in context.entities().filter(|entity| entity.mapped.code) {
        let fields = entity
            .fields
            .iter()
            .filter_map(|field| Some((field.name.as_deref()?, field.origin.span())));
        let relations = entity
            .relations
            .iter()
            .filter_map(|relation| Some((relation.name.as_deref()?, relation.origin.span())));
        for (name, span) in fields.chain(relations) {
            let Some(dialect) =
                dialects.iter().find(|dialect| dialect.details.names.members.contains(&name))
            else {
                continue;
            };
            found.push(
                RULE.finding(
                    entity,
                    format!("attribute {name}"),
                    format!("`{}.{name}` hides a member of {}", entity.name, dialect.framework),
                )
                .at(span, "called like a member of every record")
                .because("code of the framework finds the attribute where it expects its own")
                .with_help("choose another name; the column may keep its own"),
            );
        }
    }
}

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Part;

pub(super) const RULE: Rule = Rule {
    name: "other-side-not-made-there",
    severity: Severity::Note,
    finds: "a relation whose other side is there without a word, and must be declared in the \
            dialect that it is carried to (with --to)",
    consequence: "Code that follows the relation backwards has no attribute to do it with.",
    sql: "SELECT * FROM berths WHERE quay_id = 1;  -- what `quay.berth_set` asked for",
    cure: "Declare the other side in the target.",
    exception: "When `emit` writes the declarations: it writes both sides.",
    wrong: django(
        "class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.PROTECT)
",
    )
    .to("typeorm"),
    right: django(
        "class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.PROTECT, related_name=\"berths\")
",
    )
    .to("typeorm"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target.filter(|target| target.conventions.names.inverse.is_none())
    else {
        return;
    };
    for entity in context.entities() {
        for relation in
            entity.relations.iter().filter(|relation| relation.implied.has(Part::Inverse))
        {
            let Some(inverse) = &relation.inverse else { continue };
            let other = context
                .entity(&relation.target)
                .map_or(relation.target.as_str(), |other| &other.name);
            let framework = target.dialect.framework;
            found.push(
                RULE.of_relation(
                    entity,
                    relation,
                    format!("`{other}.{inverse}` is there without a word, and not in {framework}"),
                )
                .at(relation.origin.span(), format!("gives `{other}` an attribute `{inverse}`"))
                .because("code that uses it fails after the move")
                .with_help(format!("declare the other side in {framework}")),
            );
        }
    }
}

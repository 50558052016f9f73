use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::rule::{PLAIN, Rule, django, typeorm};

pub(super) const RULE: Rule = Rule {
    name: "relation-known-to-one-side",
    severity: Severity::Note,
    finds: "a relation that its target does not know, in a dialect that makes no other side by itself",
    consequence: "Nothing in the target says that records refer to it: its readers do not see what a deletion takes along, and \
                  queries from its side must be written by hand.",
    sql: "DELETE FROM quay WHERE id = 1;  -- what becomes of its berths is written in another class",
    cure: "Declare the other side in the target. No table changes.",
    exception: "When the target is a class of common use (a currency, a country) that should not list everything around it.",
    wrong: typeorm(
        "@Entity()\nexport class Quay {\n  @PrimaryColumn()\n  id!: number;\n}\n\n@Entity()\nexport class Berth {\n  @PrimaryColumn()\n  id!: number;\n\n  @ManyToOne(() => Quay)\n  quay!: Quay | null;\n}\n",
    ),
    right: typeorm(
        "@Entity()\nexport class Quay {\n  @PrimaryColumn()\n  id!: number;\n\n  @OneToMany(() => Berth, (berth) => berth.quay)\n  berths!: Berth[];\n}\n\n@Entity()\nexport class Berth {\n  @PrimaryColumn()\n  id!: number;\n\n  @ManyToOne(() => Quay, (quay) => quay.berths)\n  quay!: Quay | null;\n}\n",
    ),
    cases: &[(
        0,
        django(
            "class Quay(models.Model):\n    pass\nclass Berth(models.Model):\n    quay = models.ForeignKey(Quay, on_delete=models.CASCADE, related_name=\"+\")\n",
        ),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    if context.conventions.inverse.is_some() {
        return;
    }
    for entity in context.tables() {
        for relation in entity.relations.iter().filter(|relation| relation.inverse.is_none()) {
            let Some(name) = &relation.name else { continue };
            let target = context.schema.entity(&relation.target).map_or(relation.target.as_str(), |target| &target.name);
            found.push(
                RULE.of_relation(entity, relation, format!("`{target}` does not know that `{}.{name}` refers to it", entity.name))
                    .at(relation.origin.span(), format!("a {} to `{target}`, seen from here only", relation.kind.word()))
                    .with_help(format!("declare the other side in `{target}`")),
            );
        }
    }
}

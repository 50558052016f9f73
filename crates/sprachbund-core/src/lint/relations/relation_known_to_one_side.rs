use std::cell::LazyCell;

use foldhash::HashSet;

use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::naming::plural;
use crate::lint::Context;
use crate::lint::examples::{django, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Change, Entity, Relation, RelationKind};

pub(super) const RULE: Rule = Rule {
    name: "relation-known-to-one-side",
    severity: Severity::Note,
    finds: "a relation that its target does not know, in a dialect that makes no other side by \
            itself",
    consequence: "Nothing in the target says that records refer to it: its readers do not see \
                  what a deletion takes along, and queries from its side must be written by \
                  hand.",
    sql: "DELETE FROM quay WHERE id = 1;  -- what becomes of its berths is written in another \
          class",
    cure: "Declare the other side in the target. No table changes.",
    exception: "When the target is a class of common use (a currency, a country) that should \
                not list everything around it.",
    wrong: typeorm(
        "@Entity()
export class Quay {
  @PrimaryColumn()
  id!: number;
}

@Entity()
export class Berth {
  @PrimaryColumn()
  id!: number;

  @ManyToOne(() => Quay)
  quay!: Quay | null;
}
",
    ),
    right: typeorm(
        "@Entity()
export class Quay {
  @PrimaryColumn()
  id!: number;

  @OneToMany(() => Berth, (berth) => berth.quay)
  berths!: Berth[];
}

@Entity()
export class Berth {
  @PrimaryColumn()
  id!: number;

  @ManyToOne(() => Quay, (quay) => quay.berths)
  quay!: Quay | null;
}
",
    ),
    cases: &[(
        0,
        django(
            "class Quay(models.Model):
    pass
class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.CASCADE, related_name=\"+\")
",
        ),
    )],
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    if context.conventions.names.inverse.is_some() {
        return;
    }
    let taken = LazyCell::new(|| attributes(context));
    for entity in context.tables() {
        for relation in entity.relations.iter().filter(|relation| relation.inverse.is_none()) {
            let Some(name) = &relation.name else { continue };
            let known = context.entity(&relation.target);
            let target = known.map_or(relation.target.as_str(), |target| &target.name);
            let mut diagnostic = RULE
                .of_relation(
                    entity,
                    relation,
                    format!("`{target}` does not know that `{}.{name}` refers to it", entity.name),
                )
                .at(
                    relation.origin.span(),
                    format!("a {} to `{target}`, seen from here only", relation.kind.word()),
                )
                .with_help(format!("declare the other side in `{target}`"));
            if let Some(inverse) = known.and_then(|target| {
                other_side(context, &taken, entity, relation).filter(|_| !target.external)
            }) {
                diagnostic = diagnostic.curable(Change::NameInverse {
                    entity: entity.id.clone(),
                    relation: name.clone(),
                    inverse,
                });
            }
            found.push(diagnostic);
        }
    }
}

/// Attributes by entity: columns, relations and other sides of relations.
fn attributes<'s>(context: &Context<'s>) -> HashSet<(&'s str, &'s str)> {
    let mut taken = HashSet::default();
    for entity in context.entities() {
        taken.extend(
            entity
                .fields
                .iter()
                .filter_map(|field| Some((entity.id.as_str(), field.name.as_deref()?))),
        );
        for relation in &entity.relations {
            taken.extend(relation.name.as_deref().map(|name| (entity.id.as_str(), name)));
            taken.extend(relation.inverse.as_deref().map(|name| (relation.target.as_str(), name)));
        }
    }
    taken
}

/// What the other side could be called: after the entity, as attributes of the dialect's language
/// are written; nothing where the target has an attribute of that name, or would get it twice.
fn other_side(
    context: &Context<'_>,
    taken: &HashSet<(&str, &str)>,
    entity: &Entity,
    relation: &Relation,
) -> Option<String> {
    let dialect = context.conventions.dialect;
    let one = dialect.language.attribute_case.apply(&entity.name);
    let name = if relation.kind == RelationKind::OneToOne { one } else { plural(&one) };
    let several =
        entity.relations.iter().filter(|other| other.target == relation.target).count() > 1;
    let free = !several
        && !taken.contains(&(relation.target.as_str(), name.as_str()))
        && !dialect.details.names.members.contains(&name.as_str());
    free.then_some(name)
}

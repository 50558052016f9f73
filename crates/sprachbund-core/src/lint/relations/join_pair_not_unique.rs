use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::RelationKind;

pub(super) const RULE: Rule = Rule {
    name: "join-pair-not-unique",
    severity: Severity::Warning,
    finds: "a join table in which the same two records may be joined twice",
    consequence: "A record shows up twice on the other side, sums over the join count it twice, \
                  and taking the link away once leaves another behind (or takes both).",
    sql: "INSERT INTO owners_vessels (owner_id, vessel_id) VALUES (1, 7), (1, 7);  -- accepted",
    cure: "Make both references together the key, or unique. Pairs that stand twice must go first.",
    exception: "When the same two may be joined several times, each for a reason of its own.",
    wrong: sql("CREATE TABLE owners (id integer PRIMARY KEY);
CREATE TABLE vessels (id integer PRIMARY KEY);
CREATE TABLE owners_vessels (owner_id integer NOT NULL REFERENCES owners (id), vessel_id integer \
             NOT NULL REFERENCES vessels (id));
"),
    right: sql("CREATE TABLE owners (id integer PRIMARY KEY);
CREATE TABLE vessels (id integer PRIMARY KEY);
CREATE TABLE owners_vessels (owner_id integer NOT NULL REFERENCES owners (id), vessel_id integer \
             NOT NULL REFERENCES vessels (id), PRIMARY KEY (owner_id, vessel_id));
"),
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let relations = context.tables().flat_map(|entity| entity.relations.iter());
    let through = relations
        .filter(|relation| relation.kind == RelationKind::ManyToMany)
        .filter_map(|relation| relation.through.as_deref());
    let through: foldhash::HashSet<&str> = through.collect();
    for entity in context.tables() {
        let bare = entity.foreign_keys.len() == 2 && entity.fields.len() == 2;
        if !(entity.join || bare || through.contains(entity.id.as_str())) {
            continue;
        }
        let [first, second, ..] = entity.foreign_keys.as_slice() else { continue };
        let pair: Vec<String> = first.columns.iter().chain(&second.columns).cloned().collect();
        let within = |columns: &[String]| {
            !columns.is_empty() && columns.iter().all(|column| pair.contains(column))
        };
        let held = within(entity.key_columns())
            || entity.uniques.iter().any(|unique| within(&unique.columns))
            || entity.indexes.iter().any(|index| {
                index.unique && index.condition.is_none() && within(&index.plain_columns())
            });
        if held {
            continue;
        }
        let pair = pair.join(", ");
        found.push(
            RULE.finding(
                entity,
                "key",
                format!("`{}` may join the same two records twice", entity.table),
            )
            .at(
                entity.origin.span().or(first.origin.span()),
                format!("`{pair}` is neither the key nor unique"),
            )
            .because("a record that is joined twice is counted twice")
            .with_help(format!("make `{pair}` unique")),
        );
    }
}

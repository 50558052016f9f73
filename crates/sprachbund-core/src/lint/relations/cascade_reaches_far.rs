use foldhash::HashMap;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Parameter, Rule, Value};
use crate::schema::facts::foreign_key_element;
use crate::schema::{Action, Entity, ForeignKey};

pub(super) const RULE: Rule = Rule {
    name: "cascade-reaches-far",
    severity: Severity::Note,
    finds: "a deletion that takes along rows which take along rows, several tables deep",
    consequence: "Deleting one row empties tables that nobody thought of, in one statement, \
                  without a question. All of them are locked while it runs.",
    sql: "DELETE FROM harbours WHERE id = 1;  -- and its quays, their berths, their port calls, \
          their invoices",
    cure: "Refuse the deletion at one of the steps (RESTRICT), where what is taken along has a \
           worth of its own.",
    exception: "When the rows mean nothing without those above them.",
    parameters: &[Parameter {
        name: "steps",
        says: "tables that a deletion may go through before it is found",
        value: Value::Number(3),
    }],
    wrong: sql("CREATE TABLE harbours (id integer PRIMARY KEY);
CREATE TABLE quays (id integer PRIMARY KEY, harbour_id integer NOT NULL REFERENCES harbours (id) \
         ON \
         DELETE CASCADE);
CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer NOT NULL REFERENCES quays (id) ON \
         DELETE CASCADE);
CREATE TABLE port_calls (id integer PRIMARY KEY, berth_id integer NOT NULL REFERENCES berths (id) \
         ON DELETE CASCADE);
"),
    right: sql("CREATE TABLE harbours (id integer PRIMARY KEY);
CREATE TABLE quays (id integer PRIMARY KEY, harbour_id integer NOT NULL REFERENCES harbours (id) \
         ON \
         DELETE CASCADE);
CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer NOT NULL REFERENCES quays (id) ON \
         DELETE CASCADE);
CREATE TABLE port_calls (id integer PRIMARY KEY, berth_id integer NOT NULL REFERENCES berths (id) \
         ON DELETE RESTRICT);
"),
    whole: true,
    check,
    ..PLAIN
};

/// Whether deleting the target takes rows along, whoever does it.
pub(super) fn cascades(entity: &Entity, key: &ForeignKey) -> bool {
    let relation = entity.relation_over(&key.columns);
    key.on_delete == Action::Cascade
        || relation.is_some_and(|relation| relation.on_delete == Some(Action::Cascade))
}

/// A reference whose deletions cascade, with the table that goes first and the one that goes along.
struct Step<'s> {
    from: &'s Entity,
    to: &'s Entity,
    key: &'s ForeignKey,
}

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let limit = context.number(&RULE, "steps");
    let mut below: HashMap<&str, Vec<Step<'_>>> = HashMap::default();
    let mut reached: foldhash::HashSet<&str> = Default::default();
    for entity in context.tables() {
        for key in entity.foreign_keys.iter().filter(|key| cascades(entity, key)) {
            let Some(target) =
                context.referenced(&key.references).filter(|target| target.id != entity.id)
            else {
                continue;
            };
            below.entry(&target.id).or_default().push(Step { from: target, to: entity, key });
            reached.insert(&entity.id);
        }
    }
    // Depth of what lies below each table, computed once; a circle counts as nothing here and has a
    // rule of its own.
    let mut depths: HashMap<&str, usize> = HashMap::default();
    for top in context.tables().filter(|entity| !reached.contains(entity.id.as_str())) {
        let path = deepest(&top.id, &below, &mut depths, limit);
        if path.len() < limit {
            continue;
        }
        let tables: Vec<&str> = path.iter().map(|step| step.to.table.as_str()).collect();
        let last = path[path.len() - 1];
        found.push(
            RULE.finding(
                last.to,
                foreign_key_element(last.key),
                format!("deleting one of `{}` reaches `{}`", top.table, last.to.table),
            )
            .at(last.key.origin.span(), "the last step")
            .and_at(
                path[0].key.origin.span(),
                format!("the first step, from `{}`", path[0].from.table),
            )
            .because(format!("it takes along {}", tables.join(", then ")))
            .with_help("refuse the deletion where rows have a worth of their own"),
        );
    }
}

/// The longest way down from a table, as far as twice the limit.
fn deepest<'m, 's>(
    top: &str,
    below: &'m HashMap<&str, Vec<Step<'s>>>,
    depths: &mut HashMap<&'s str, usize>,
    limit: usize,
) -> Vec<&'m Step<'s>> {
    let mut path: Vec<&Step<'_>> = Vec::new();
    let mut at = top;
    while let Some(steps) = below.get(at).filter(|_| path.len() < limit * 2) {
        let next = steps.iter().max_by_key(|step| depth(&step.to.id, below, depths, limit * 2));
        let Some(step) = next else { break };
        path.push(step);
        at = &step.to.id;
    }
    path
}

fn depth<'s>(
    table: &'s str,
    below: &HashMap<&str, Vec<Step<'s>>>,
    depths: &mut HashMap<&'s str, usize>,
    room: usize,
) -> usize {
    if let Some(known) = depths.get(table) {
        return *known;
    }
    let steps = below.get(table).filter(|_| room > 0).map_or(&[] as &[Step<'s>], Vec::as_slice);
    let deepest =
        steps.iter().map(|step| 1 + depth(&step.to.id, below, depths, room - 1)).max().unwrap_or(0);
    depths.insert(table, deepest);
    deepest
}

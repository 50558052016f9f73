use foldhash::HashMap;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::foreign_key_element;
use crate::schema::{Deferrable, EnforcedBy, Entity, ForeignKey};

pub(super) const RULE: Rule = Rule {
    name: "rows-need-each-other",
    severity: Severity::Error,
    finds: "two tables each of whose rows must refer to one of the other, checked at each \
            statement",
    consequence: "No first row can be inserted in either table: it would refer to a row that is \
                  not there yet.",
    sql: "INSERT INTO vessels (id, certificate_id) VALUES (1, 1);  -- refused, there is no \
          certificate 1\nINSERT INTO certificates (id, vessel_id) VALUES (1, 1);  -- refused, \
          there is no vessel 1",
    cure: "Let one of the two be null, or keep only one of the references. Where the server \
           can, check one of them at commit.",
    exception: "Never: the tables stay empty.",
    wrong: sql("CREATE TABLE vessels (id integer PRIMARY KEY, certificate_id integer NOT NULL);
CREATE TABLE certificates (id integer PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessels \
         (id));
ALTER TABLE vessels ADD FOREIGN KEY (certificate_id) REFERENCES certificates (id);
"),
    right: sql("CREATE TABLE vessels (id integer PRIMARY KEY);
CREATE TABLE certificates (id integer PRIMARY KEY, vessel_id integer NOT NULL UNIQUE REFERENCES \
         vessels (id));
"),
    cases: &[
        (
            0,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, certificate_id integer NOT \
                 NULL);
CREATE TABLE certificates (id integer PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessels \
                 (id));
ALTER TABLE vessels ADD FOREIGN KEY (certificate_id) REFERENCES certificates (id) DEFERRABLE \
                 INITIALLY DEFERRED;
"),
        ),
        (
            0,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, certificate_id integer);
CREATE TABLE certificates (id integer PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessels \
                 (id));
ALTER TABLE vessels ADD FOREIGN KEY (certificate_id) REFERENCES certificates (id);
"),
        ),
    ],
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let mut known: HashMap<(&str, &str), &ForeignKey> = HashMap::default();
    for entity in context.tables() {
        for key in entity.foreign_keys.iter().filter(|key| is_needed_at_once(entity, key)) {
            let Some(target) =
                context.referenced(&key.references).filter(|target| target.id != entity.id)
            else {
                continue;
            };
            if let Some(back) = known.get(&(target.id.as_str(), entity.id.as_str())) {
                let message = format!(
                    "every row of `{}` needs one of `{}`, and the other way round",
                    target.table, entity.table
                );
                found.push(
                    RULE.finding(entity, foreign_key_element(key), message)
                        .at(key.origin.span(), format!("needs a row of `{}`", target.table))
                        .and_at(back.origin.span(), format!("needs a row of `{}`", entity.table))
                        .because("neither table can get its first row")
                        .with_help("let one of the two be null, or drop one of the references"),
                );
            }
            known.insert((&entity.id, &target.id), key);
        }
    }
}

fn is_needed_at_once(entity: &Entity, key: &ForeignKey) -> bool {
    let required =
        key.columns.iter().filter_map(|column| entity.field(column)).all(|field| !field.nullable);
    required
        && key.enforced == EnforcedBy::Database
        && key.deferrable != Some(Deferrable::InitiallyDeferred)
}

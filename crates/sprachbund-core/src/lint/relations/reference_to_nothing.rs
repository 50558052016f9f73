use foldhash::{HashMap, HashSet};

use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::nearest;
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::ForeignKey;
use crate::schema::facts::foreign_key_element;

pub(super) const RULE: Rule = Rule {
    name: "reference-to-nothing",
    severity: Severity::Warning,
    finds: "a foreign key to a table that nothing in the inputs declares",
    consequence: "If the table does not exist, the foreign key is refused and its table with \
                  it. If it belongs to another application, that one may change it without \
                  knowing of this reference.",
    sql: "CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer REFERENCES quays);  -- \
          refused: relation \"quays\" does not exist",
    cure: "Add the declarations of that table to the inputs, or name their package with \
           --follow. Mend the name if it is misspelt.",
    exception: "When the table is another application's and the inputs leave it out on purpose.",
    raised: &["undeclared-target"],
    wrong: sql(
        "CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer REFERENCES quay (id));\n",
    ),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer REFERENCES quays \
                (id));\n"),
    whole: true,
    check,
    ..PLAIN
};

/// Tables of which so many are missing are left out of the inputs, not misspelt.
const LEFT_OUT: usize = 50;

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let missing = |key: &&ForeignKey| context.referenced(&key.references).is_none();
    let keys = context.tables().flat_map(|entity| &entity.foreign_keys);
    let tables: HashSet<String> =
        keys.filter(missing).map(|key| key.references.address()).collect();
    let known = || context.schema.entities.iter().map(|entity| entity.table.as_str());
    let near = |table: &String| nearest(table, known()).filter(|near| near != table);
    let meant: HashMap<&str, &str> = match tables.len() {
        ..LEFT_OUT => {
            tables.iter().filter_map(|table| Some((table.as_str(), near(table)?))).collect()
        }
        _ => HashMap::default(),
    };
    for entity in context.tables() {
        for key in entity.foreign_keys.iter().filter(missing) {
            let table = key.references.address();
            let help = match meant.get(table.as_str()) {
                Some(near) => {
                    format!("did you mean `{near}`? Else add what declares `{table}` to the inputs")
                }
                None => format!("add what declares `{table}` to the inputs"),
            };
            found.push(
                RULE.finding(
                    entity,
                    foreign_key_element(key),
                    format!("`{}` refers to `{table}`, which nothing declares", entity.name),
                )
                .at(key.origin.span(), "leads to no table that is known")
                .because(format!(
                    "where `{table}` does not exist, `{}` cannot be made",
                    entity.table
                ))
                .with_help(help),
            );
        }
    }
}

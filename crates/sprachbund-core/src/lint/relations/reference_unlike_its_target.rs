use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{mongoose, sql};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::foreign_key_element;
use crate::schema::{Database, EnforcedBy, Type};

pub(super) const RULE: Rule = Rule {
    name: "reference-unlike-its-target",
    severity: Severity::Error,
    finds: "a reference whose column is of another kind of type than the column that it refers to",
    consequence: "The database refuses the foreign key, and the table with it; MySQL and \
                  MariaDB do so where numbers differ in width alone. SQLite makes it, and may \
                  find no row that is equal.",
    sql: "CREATE TABLE berths (quay_id varchar(20) REFERENCES quays (id));\n\
          -- refused: foreign key constraint \"berths_quay_id_fkey\" cannot be implemented; \
          one is a varchar, the other an integer",
    cure: "Give the reference the type of its target. A filled column must be converted.",
    exception: "Never for a foreign key of the database.",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY, quay_id varchar(20) REFERENCES \
                quays (id));\n"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer REFERENCES quays \
                (id));\n"),
    cases: &[
        (
            1,
            sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                 CREATE TABLE berths (id integer PRIMARY KEY, quay_id numeric(9) REFERENCES \
                 quays (id));"),
        ),
        (
            0,
            sql("CREATE TABLE tides (day date PRIMARY KEY);\n\
                 CREATE TABLE calls (id integer PRIMARY KEY, day timestamp REFERENCES tides \
                 (day));"),
        ),
        (
            1,
            sql("CREATE TABLE quays (id bigint PRIMARY KEY);\n\
                 CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer, FOREIGN KEY \
                 (quay_id) REFERENCES quays (id));")
            .on(Database::MariaDb),
        ),
        (
            0,
            sql("CREATE TABLE quays (id bigint PRIMARY KEY);\n\
                 CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer REFERENCES quays \
                 (id));"),
        ),
        (
            0,
            sql("CREATE TABLE flags (code char(2) PRIMARY KEY);\n\
                 CREATE TABLE vessels (id integer PRIMARY KEY, flag varchar(2) REFERENCES \
                 flags);"),
        ),
        (
            0,
            mongoose(
                "const Quay = mongoose.model('Quay', new mongoose.Schema({ depth: Number }));\n\
                 const Berth = mongoose.model('Berth', new mongoose.Schema({ quay: \
                 { type: mongoose.Types.ObjectId, ref: 'Quay' } }));\n",
            ),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let database = context.database();
    for entity in context.tables() {
        for key in entity.foreign_keys.iter().filter(|key| key.enforced == EnforcedBy::Database) {
            let Some(target) = context.referenced(&key.references) else { continue };
            let pairs = key.columns.iter().zip(&key.references.columns);
            for (own, other) in
                pairs.filter_map(|(own, other)| Some((entity.field(own)?, target.field(other)?)))
            {
                if can_refer(database, &own.r#type, &other.r#type) {
                    continue;
                }
                let message = format!(
                    "`{}` is a {}, and refers to `{}`, a {}",
                    place(entity, own),
                    own.r#type,
                    place(target, other),
                    other.r#type
                );
                let finding = RULE.finding(entity, foreign_key_element(key), message);
                let finding = match database.server().refuses_unlike_references {
                    true => {
                        finding.because(format!("{} refuses the foreign key", database.title()))
                    }
                    false => Diagnostic { severity: Severity::Warning, ..finding }
                        .because(format!("{} finds no row that is equal", database.title())),
                };
                found.push(
                    finding
                        .at(own.origin.span().or(key.origin.span()), format!("`{}`", own.r#type))
                        .and_at(other.origin.span(), format!("`{}`", other.r#type))
                        .with_help(format!("give it the type {}", other.r#type)),
                );
            }
        }
    }
}

/// Whether a server makes a foreign key from a column of one type to a column of another.
fn can_refer(database: Database, own: &Type, target: &Type) -> bool {
    let native = |ty: &Type| matches!(ty, Type::Native(_));
    let both = |kind: fn(&Type) -> bool| kind(own) && kind(target);
    let is_time = |ty: &Type| matches!(ty, Type::Timestamp { .. });
    if own == target || native(own) || native(target) || both(Type::is_text) || both(is_time) {
        return true;
    }
    (database.server().can_refer)(own, target)
}

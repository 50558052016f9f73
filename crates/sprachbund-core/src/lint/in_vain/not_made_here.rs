use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::keys;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Database;
use crate::schema::facts::index_element;

pub(super) const RULE: Rule = Rule {
    name: "not-made-here",
    severity: Severity::Warning,
    finds: "an index, a unique constraint or a foreign key that the framework leaves out \
            without a word, on the server in use or in a circle",
    consequence: "Its author believes in an index, in uniqueness or in a reference that the \
                  database does not hold. Nothing is said when the tables are made.",
    sql: "INSERT INTO port_call (berth, status) VALUES (7, 'open'), (7, 'open');  -- accepted: \
          the index with a condition was not made",
    cure: "Declare what the server can hold, or check it in the application.",
    exception: "When the project runs on several servers, and the rule matters on the others only.",
    raised: &["not-held"],
    wrong: django(
        "class PortCall(models.Model):\n    berth = models.IntegerField()\n    status = \
         models.CharField(max_length=9)\n\
         \n    class Meta:\n        constraints = [models.UniqueConstraint(fields=[\"berth\"], \
         condition=models.Q(status=\"open\"), name=\"one_open\")]\n",
    )
    .on(Database::MariaDb),
    right: django(
        "class PortCall(models.Model):
    berth = models.IntegerField(unique=True)
    status = models.CharField(max_length=9)
",
    )
    .on(Database::MariaDb),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let database = context.database();
    for entity in context.tables() {
        for index in &entity.indexes {
            let Some(only_on) = index
                .only_on
                .as_ref()
                .filter(|only_on| !only_on.contains(&database) && index.origin.is_declared())
            else {
                continue;
            };
            let servers: Vec<&str> = only_on.iter().map(|server| server.title()).collect();
            found.push(
                RULE.finding(
                    entity,
                    index_element(index),
                    format!(
                        "the index of `{}` over `{}` is not made on {}",
                        entity.name,
                        keys(index),
                        database.title()
                    ),
                )
                .at(index.origin.span(), format!("made on {} only", servers.join(" and ")))
                .because("nothing is said when the tables are made")
                .with_help("declare what the server can hold"),
            );
        }
    }
}

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::prisma;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "relation-named-like-its-column",
    severity: Severity::Note,
    finds: "a relation that is called like the column that carries it",
    consequence: "One name means a record in the code and a key in the database. In frameworks \
                  that give the column an attribute of its own the two collide, and one hides \
                  the other.",
    sql: "SELECT quay FROM berths;  -- a number, where the code says `berth.quay` and gets a \
          record",
    cure: "Call the column after the relation and the key (`quay_id`). Renaming a column needs \
           a migration.",
    exception: "When the tables are not yours to change.",
    wrong: prisma(
        "model Quay {
  id     Int     @id
  berths Berth[]
}

model Berth {
  id     Int  @id
  quayId Int  @map(\"quay\")
  quay   Quay @relation(fields: [quayId], references: [id])
}
",
    ),
    right: prisma(
        "model Quay {
  id     Int     @id
  berths Berth[]
}

model Berth {
  id     Int  @id
  quayId Int  @map(\"quay_id\")
  quay   Quay @relation(fields: [quayId], references: [id])
}
",
    ),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        for relation in &entity.relations {
            let ([column], Some(name)) = (relation.columns.as_slice(), &relation.name) else {
                continue;
            };
            if name != column {
                continue;
            }
            found.push(
                RULE.of_relation(
                    entity,
                    relation,
                    format!("`{}.{name}` is called like its column", entity.name),
                )
                .at(relation.origin.span(), format!("a relation over the column `{column}`"))
                .because("the same name is a record in the code and a key in the database")
                .with_help(format!("call the column `{column}_id`")),
            );
        }
    }
}

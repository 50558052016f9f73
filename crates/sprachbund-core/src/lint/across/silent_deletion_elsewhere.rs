use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::{django, prisma};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::EnforcedBy;
use crate::schema::facts::foreign_key_element;

pub(super) const RULE: Rule = Rule {
    name: "silent-deletion-elsewhere",
    severity: Severity::Warning,
    finds: "a relation whose action on delete is what silence means here, and something else in \
            the dialect that it is carried to (with --to)",
    consequence: "Carried over word by word, a deletion that was refused sets references to \
                  null or takes rows along, or the reverse.",
    sql: "DELETE FROM quays WHERE id = 1;  -- refused before; after the move berths lose their \
          quay",
    cure: "Say the action in the target.",
    exception: "When `emit` writes the declarations: it says what must be said.",
    wrong: prisma(
        "model Quay {
  id     Int     @id
  berths Berth[]
}

model Berth {
  id     Int   @id
  quayId Int?
  quay   Quay? @relation(fields: [quayId], references: [id])
}
",
    )
    .to("typeorm"),
    right: prisma(
        "model Quay {
  id     Int     @id
  berths Berth[]
}

model Berth {
  id     Int   @id
  quayId Int?
  quay   Quay? @relation(fields: [quayId], references: [id], onDelete: NoAction)
}
",
    )
    .to("typeorm"),
    cases: &[(
        0,
        django(
            "class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.PROTECT)
",
        )
        .to("typeorm"),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target else { return };
    let (here, there) = (context.conventions.delete.silent, target.conventions.delete.silent);
    for entity in context.tables().filter(|entity| !entity.join) {
        for key in entity.foreign_keys.iter().filter(|key| key.enforced == EnforcedBy::Database) {
            let said = entity
                .relation_over(&key.columns)
                .is_some_and(|relation| relation.on_delete.is_some());
            let optional = key
                .columns
                .iter()
                .all(|column| entity.field(column).is_some_and(|field| field.nullable));
            let (now, then) = (here.on_delete(optional), there.on_delete(optional));
            if said || key.on_delete != now || now == then {
                continue;
            }
            let framework = target.dialect.framework;
            let columns = key.columns.join(", ");
            let message = format!(
                "silent here, deleting the target of `{}.{columns}` does {}; silent in \
                 {framework} {}",
                entity.name,
                now.sql(),
                then.sql()
            );
            found.push(
                RULE.finding(entity, foreign_key_element(key), message)
                    .at(key.origin.span(), format!("ON DELETE {} by silence", now.sql()))
                    .because(format!("carried over word by word, it turns {}", then.sql()))
                    .with_help(format!("say {} in {framework}", now.sql())),
            );
        }
    }
}

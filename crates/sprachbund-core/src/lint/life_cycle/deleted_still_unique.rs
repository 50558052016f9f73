use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::{sql, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::unique_element;

pub(super) const RULE: Rule = Rule {
    name: "deleted-still-unique",
    severity: Severity::Warning,
    finds: "a unique constraint on an entity whose records are marked as deleted instead of \
            being deleted",
    consequence: "A deleted record keeps its value: whoever makes it again is told that it \
                  exists, and cannot see where.",
    sql: "UPDATE quay SET deleted_at = now() WHERE code = 'N1';\n\
          INSERT INTO quay (code) VALUES ('N1');  -- refused: duplicate key value",
    cure: "Make it a unique index with the condition that the row is not deleted (PostgreSQL, \
           SQLite). No row changes.",
    exception: "When a value must never be used again.",
    wrong: typeorm(
        "@Entity()
export class Quay {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column({ length: 9, unique: true })
  code!: string;

  @DeleteDateColumn()
  deletedAt!: Date | null;
}
",
    ),
    right: typeorm(
        "@Entity()
@Index('quay_code', ['code'], { unique: true, where: '\"deletedAt\" IS NULL' })
export class Quay {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column({ length: 9 })
  code!: string;

  @DeleteDateColumn()
  deletedAt!: Date | null;
}
",
    ),
    cases: &[(0, sql("CREATE TABLE quays (id integer PRIMARY KEY, code varchar(9) UNIQUE);"))],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.entities() {
        let Some(mark) = entity.soft_delete.as_ref().and_then(|name| {
            entity
                .fields
                .iter()
                .find(|field| field.name.as_ref() == Some(name) || field.column == *name)
        }) else {
            continue;
        };
        for unique in entity.uniques.iter().filter(|unique| !unique.columns.contains(&mark.column))
        {
            let columns = unique.columns.join(", ");
            found.push(
                RULE.finding(
                    entity,
                    unique_element(unique),
                    format!("a deleted `{}` keeps its `{columns}`", entity.name),
                )
                .at(
                    unique.origin.span().or(entity.origin.span()),
                    "unique among the deleted ones, too",
                )
                .and_at(
                    mark.origin.span().filter(|span| Some(*span) != unique.origin.span()),
                    "marks a record as deleted",
                )
                .because("whoever makes it again is told that it exists")
                .with_help(format!(
                    "make it a unique index with the condition that `{}` is not set",
                    mark.column
                )),
            );
        }
    }
}

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::{django, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Action, Change};

pub(super) const RULE: Rule = Rule {
    name: "set-null-on-required",
    severity: Severity::Error,
    finds: "a relation that is to be set to null when its target is deleted, over a column that \
            cannot be null",
    consequence: "The first deletion of a target that is referred to fails: the action writes a \
                  null that the column refuses.",
    sql: "DELETE FROM quay WHERE id = 1;\n-- refused: null value in column \"quayId\" of \
          relation \"berth\" violates not-null constraint",
    cure: "Make the column nullable if a record may outlive its target; else choose another \
           action (refuse, or delete along).",
    exception: "Never: the declaration contradicts itself.",
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

  @ManyToOne(() => Quay, { nullable: false, onDelete: 'SET NULL' })
  quay!: Quay;
}
",
    ),
    right: typeorm(
        "@Entity()
export class Quay {
  @PrimaryColumn()
  id!: number;
}

@Entity()
export class Berth {
  @PrimaryColumn()
  id!: number;

  @ManyToOne(() => Quay, { onDelete: 'SET NULL' })
  quay!: Quay | null;
}
",
    ),
    cases: &[
        (
            1,
            django(
                "class Quay(models.Model):
    pass
class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.SET_NULL)
",
            ),
        ),
        (
            0,
            django(
                "class Quay(models.Model):
    pass
class Berth(models.Model):
    quay = models.ForeignKey(Quay, null=True, on_delete=models.SET_NULL)
",
            ),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        for relation in &entity.relations {
            let key = entity.foreign_keys.iter().find(|key| key.columns == relation.columns);
            let by = match (relation.on_delete, key.map(|key| key.on_delete)) {
                (Some(Action::SetNull), _) => "the application",
                (_, Some(Action::SetNull)) => "the database",
                _ => continue,
            };
            let refusing = relation
                .columns
                .iter()
                .filter_map(|column| entity.field(column))
                .find(|field| !field.nullable);
            let Some(column) = refusing else { continue };
            let name = relation.name.as_deref().unwrap_or(&column.column);
            let message = format!(
                "`{}.{name}` is set to null on deletion by {by}, but `{}.{}` is NOT NULL",
                entity.name, entity.table, column.column
            );
            found.push(
                RULE.of_relation(entity, relation, message)
                    .at(relation.origin.span(), "set to null on deletion")
                    .because("deleting the target fails as soon as one record refers to it")
                    .with_help("allow null in the column, or choose another action")
                    .curable_by_hand(Change::Nullable {
                        entity: entity.id.clone(),
                        columns: relation.columns.clone(),
                        nullable: true,
                    }),
            );
        }
    }
}

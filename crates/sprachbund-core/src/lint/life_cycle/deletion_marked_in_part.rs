use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::typeorm;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "deletion-marked-in-part",
    severity: Severity::Note,
    finds: "an entity whose records are marked as deleted, while those that cannot be without \
            it are not",
    consequence: "A deleted record disappears from queries, its parts do not: lists and sums go \
                  on counting what belongs to something that nobody sees any more.",
    sql: "SELECT count(*) FROM berth;  -- counts the berths of quays that are marked as deleted",
    cure: "Mark the parts as well, or let queries for them go over the whole.",
    exception: "When the parts are to stay visible.",
    wrong: typeorm(
        "@Entity()
export class Quay {
  @PrimaryGeneratedColumn()
  id!: number;

  @DeleteDateColumn()
  deletedAt!: Date | null;
}

@Entity()
export class Berth {
  @PrimaryGeneratedColumn()
  id!: number;

  @ManyToOne(() => Quay, { nullable: false, onDelete: 'CASCADE' })
  quay!: Quay;
}
",
    ),
    right: typeorm(
        "@Entity()
export class Quay {
  @PrimaryGeneratedColumn()
  id!: number;

  @DeleteDateColumn()
  deletedAt!: Date | null;
}

@Entity()
export class Berth {
  @PrimaryGeneratedColumn()
  id!: number;

  @DeleteDateColumn()
  deletedAt!: Date | null;

  @ManyToOne(() => Quay, { nullable: false, onDelete: 'CASCADE' })
  quay!: Quay;
}
",
    ),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.entities().filter(|entity| entity.soft_delete.is_none() && !entity.join) {
        for relation in &entity.relations {
            let required =
                |column: &String| entity.field(column).is_some_and(|field| !field.nullable);
            let Some(whole) =
                context.entity(&relation.target).filter(|whole| whole.soft_delete.is_some())
            else {
                continue;
            };
            let key = entity.foreign_keys.iter().find(|key| key.columns == relation.columns);
            let along = relation.on_delete == Some(crate::schema::Action::Cascade)
                || key.is_some_and(|key| key.on_delete == crate::schema::Action::Cascade);
            if relation.columns.is_empty() || !relation.columns.iter().all(required) || !along {
                continue;
            }
            found.push(
                RULE.of_relation(
                    entity,
                    relation,
                    format!(
                        "`{}` is marked as deleted, `{}` of it is not",
                        whole.name, entity.name
                    ),
                )
                .at(relation.origin.span(), format!("a part of `{}`", whole.name))
                .and_at(whole.origin.span(), "its records are only marked as deleted")
                .because(format!(
                    "queries for `{}` still find what belongs to deleted records",
                    entity.name
                ))
                .with_help(format!("mark `{}` as well", entity.name)),
            );
        }
    }
}

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{begins_an_index, reference_name};
use crate::lint::examples::{django, mongoose, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::foreign_key_element;
use crate::schema::{Change, EnforcedBy};

pub(super) const RULE: Rule = Rule {
    name: "reference-without-index",
    severity: Severity::Warning,
    finds: "a foreign key whose columns start no index, unique constraint or primary key",
    consequence: "Following the relation backwards reads the whole table, and so does the \
                  server at each deletion of a target, while it holds locks.",
    sql: "DELETE FROM quay WHERE id = 1;  -- reads all of berth, once for each deleted row",
    cure: "Add an index over the columns of the reference. It costs a little at each insert and \
           some space.",
    exception: "When the table stays small, or the target is never deleted and never looked up \
                from.",
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

  @ManyToOne(() => Quay)
  quay!: Quay | null;
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

  @Index()
  @ManyToOne(() => Quay)
  quay!: Quay | null;
}
",
    ),
    cases: &[
        (
            0,
            django(
                "class Quay(models.Model):
    pass
class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.CASCADE)
",
            ),
        ),
        (
            1,
            django(
                "class Quay(models.Model):
    pass
class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.CASCADE, db_index=False)
",
            ),
        ),
        (
            0,
            django(
                "class Quay(models.Model):
    pass
class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.CASCADE, db_index=False)
    number = models.IntegerField()
    class Meta:
        unique_together = [[\"quay\", \"number\"]]
",
            ),
        ),
        (
            1,
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
    if context.schema.source.database.server().indexes_references {
        return;
    }
    for entity in context.entities() {
        for key in &entity.foreign_keys {
            if begins_an_index(entity, &key.columns) {
                continue;
            }
            let name = reference_name(entity, key);
            let message = format!(
                "`{}.{name}` refers to `{}` without an index on `{}`",
                entity.name,
                key.references.table,
                key.columns.join(", ")
            );
            found.push(
                RULE.finding(entity, foreign_key_element(key), message)
                    .at(key.origin.span(), "no index makes this reference quick to follow back")
                    .because(match key.enforced {
                        EnforcedBy::Database => format!(
                            "each deletion in `{}` reads all of `{}`",
                            key.references.table, entity.table
                        ),
                        EnforcedBy::Application => {
                            format!(
                                "looking up what refers to one of `{}` reads all of `{}`",
                                key.references.table, entity.table
                            )
                        }
                    })
                    .with_help("add an index over the reference")
                    .curable(Change::AddIndex {
                        entity: entity.id.clone(),
                        columns: key.columns.clone(),
                    }),
            );
        }
    }
}

use super::{Context, Example, Rule};
use crate::diagnostic::{Diagnostic, Severity};
use crate::schema::EnforcedBy;

pub(super) const RULE: Rule = Rule {
    name: "reference-without-index",
    severity: Severity::Warning,
    finds: "a foreign key whose columns start no index, unique constraint or primary key",
    consequence: "Following the relation backwards reads the whole table, and so does the server at each deletion of a target, \
                  while it holds locks.",
    cure: "Add an index over the columns of the reference. It costs a little at each insert and some space.",
    exception: "When the table stays small, or the target is never deleted and never looked up from.",
    wrong: Example {
        dialect: "typeorm",
        text: "@Entity()\nexport class Quay {\n  @PrimaryColumn()\n  id!: number;\n}\n\n@Entity()\nexport class Berth {\n  @PrimaryColumn()\n  id!: number;\n\n  @ManyToOne(() => Quay)\n  quay!: Quay | null;\n}\n",
    },
    right: Example {
        dialect: "typeorm",
        text: "@Entity()\nexport class Quay {\n  @PrimaryColumn()\n  id!: number;\n}\n\n@Entity()\nexport class Berth {\n  @PrimaryColumn()\n  id!: number;\n\n  @Index()\n  @ManyToOne(() => Quay)\n  quay!: Quay | null;\n}\n",
    },
    cases: &[
        (
            Example {
                dialect: "django",
                text: "class Quay(models.Model):\n    pass\nclass Berth(models.Model):\n    quay = models.ForeignKey(Quay, on_delete=models.CASCADE)\n",
            },
            0,
        ),
        (
            Example {
                dialect: "django",
                text: "class Quay(models.Model):\n    pass\nclass Berth(models.Model):\n    quay = models.ForeignKey(Quay, on_delete=models.CASCADE, db_index=False)\n",
            },
            1,
        ),
        (
            Example {
                dialect: "django",
                text: "class Quay(models.Model):\n    pass\nclass Berth(models.Model):\n    quay = models.ForeignKey(Quay, on_delete=models.CASCADE, db_index=False)\n    number = models.IntegerField()\n    class Meta:\n        unique_together = [[\"quay\", \"number\"]]\n",
            },
            0,
        ),
        (
            Example {
                dialect: "mongoose",
                text: "const Quay = mongoose.model('Quay', new mongoose.Schema({ depth: Number }));\nconst Berth = mongoose.model('Berth', new mongoose.Schema({ quay: { type: mongoose.Types.ObjectId, ref: 'Quay' } }));\n",
            },
            1,
        ),
    ],
    check,
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    if context.schema.source.database.is_mysql() {
        return;
    }
    for entity in context.tables() {
        for key in &entity.foreign_keys {
            let starts = |columns: &[String]| {
                columns.len() >= key.columns.len() && key.columns.iter().all(|column| columns[..key.columns.len()].contains(column))
            };
            let served = starts(entity.key_columns())
                || entity.uniques.iter().any(|unique| starts(&unique.columns))
                || entity.indexes.iter().any(|index| index.condition.is_none() && starts(&index.plain_columns()));
            if served {
                continue;
            }
            let relation = entity.relation_over(&key.columns);
            let name = relation.and_then(|relation| relation.name.clone()).unwrap_or_else(|| key.columns.join(", "));
            let message =
                format!("`{}.{name}` refers to `{}` without an index on `{}`", entity.name, key.references.table, key.columns.join(", "));
            found.push(
                Diagnostic::new(RULE.name, RULE.severity, message)
                    .at(key.origin.span(), "no index makes this reference quick to follow back")
                    .because(match key.enforced {
                        EnforcedBy::Database => format!("each deletion in `{}` reads all of `{}`", key.references.table, entity.table),
                        EnforcedBy::Application => {
                            format!("looking up what refers to one of `{}` reads all of `{}`", key.references.table, entity.table)
                        }
                    })
                    .with_help("add an index over the reference"),
            );
        }
    }
}

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::{django, sequelize, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Change, RelationKind};

pub(super) const RULE: Rule = Rule {
    name: "one-to-one-not-unique",
    severity: Severity::Error,
    finds: "a one-to-one whose columns nothing in the database keeps unique",
    consequence: "Two records can refer to the same target. The code, which expects one, then \
                  takes any of them.",
    sql: "INSERT INTO certificates (vessel_id) VALUES (7);\n\
          INSERT INTO certificates (vessel_id) VALUES (7);  -- accepted",
    cure: "Add a unique constraint over the columns. Rows that already share a target must be \
           told apart first.",
    exception: "Never: without uniqueness it is a many-to-one.",
    wrong: sequelize(
        "const Vessel = sequelize.define('Vessel', {});
const Certificate = sequelize.define('Certificate', {});
Vessel.hasOne(Certificate, { as: 'certificate', foreignKey: 'vesselId' });
Certificate.belongsTo(Vessel, { as: 'vessel', foreignKey: 'vesselId' });
",
    ),
    right: django(
        "class Vessel(models.Model):
    pass


class Certificate(models.Model):
    vessel = models.OneToOneField(Vessel, on_delete=models.CASCADE)
",
    ),
    cases: &[(
        0,
        typeorm(
            "@Entity()
class Vessel {
  @PrimaryColumn()
  id!: number;
}
@Entity()
class Certificate {
  @PrimaryColumn()
  id!: number;
  @OneToOne(() => Vessel)
  @JoinColumn()
  vessel!: Vessel;
}",
        ),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        let ones =
            entity.relations.iter().filter(|relation| relation.kind == RelationKind::OneToOne);
        for relation in ones.filter(|relation| !entity.is_unique(&relation.columns)) {
            let name = relation.name.as_deref().unwrap_or_default();
            let message = format!(
                "`{}.{name}` is a one-to-one, but `{}` is not unique",
                entity.name,
                relation.columns.join(", ")
            );
            found.push(
                RULE.of_relation(entity, relation, message)
                    .at(relation.origin.span(), "one-to-one")
                    .because("a second record with the same target is accepted")
                    .with_help("add a unique constraint over its columns")
                    .curable_by_hand(Change::AddUnique {
                        entity: entity.id.clone(),
                        columns: relation.columns.clone(),
                    }),
            );
        }
    }
}

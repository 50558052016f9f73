use super::{Context, Example, Rule};
use crate::diagnostic::{Diagnostic, Severity};
use crate::schema::RelationKind;

pub(super) const RULE: Rule = Rule {
    name: "one-to-one-not-unique",
    severity: Severity::Error,
    finds: "a one-to-one whose columns nothing in the database keeps unique",
    consequence: "Two records can refer to the same target. The code, which expects one, then takes any of them.",
    cure: "Add a unique constraint over the columns. Rows that already share a target must be told apart first.",
    exception: "Never: without uniqueness it is a many-to-one.",
    wrong: Example {
        dialect: "schema",
        text: r#"{"sprachbund":1,"source":{"dialect":"django","version":"5.2"},"entities":[
            {"id":"h.Vessel","name":"Vessel","module":"h","table":"vessels","mapped":{"table":true,"code":true},
             "fields":[{"name":"id","column":"id","type":"integer","nullable":false}],"primary_key":{"columns":["id"]}},
            {"id":"h.Certificate","name":"Certificate","module":"h","table":"certificates","mapped":{"table":true,"code":true},
             "fields":[{"name":null,"column":"vessel_id","type":"integer","nullable":false}],
             "relations":[{"name":"vessel","kind":"one-to-one","target":"h.Vessel","columns":["vessel_id"]}]}]}"#,
    },
    right: Example {
        dialect: "django",
        text: "class Vessel(models.Model):\n    pass\n\n\nclass Certificate(models.Model):\n    vessel = models.OneToOneField(Vessel, on_delete=models.CASCADE)\n",
    },
    cases: &[(
        Example {
            dialect: "typeorm",
            text: "@Entity()\nclass Vessel {\n  @PrimaryColumn()\n  id!: number;\n}\n@Entity()\nclass Certificate {\n  @PrimaryColumn()\n  id!: number;\n  @OneToOne(() => Vessel)\n  @JoinColumn()\n  vessel!: Vessel;\n}",
        },
        0,
    )],
    check,
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        let ones = entity.relations.iter().filter(|relation| relation.kind == RelationKind::OneToOne);
        for relation in ones.filter(|relation| !entity.is_unique(&relation.columns)) {
            let name = relation.name.as_deref().unwrap_or_default();
            let message = format!("`{}.{name}` is a one-to-one, but `{}` is not unique", entity.name, relation.columns.join(", "));
            found.push(
                Diagnostic::new(RULE.name, RULE.severity, message)
                    .at(relation.origin.span(), "one-to-one")
                    .because("a second record with the same target is accepted")
                    .with_help("add a unique constraint over its columns"),
            );
        }
    }
}

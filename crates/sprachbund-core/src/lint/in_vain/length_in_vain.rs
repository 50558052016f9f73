use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::rule::{PLAIN, Rule, django, typeorm};

pub(super) const RULE: Rule = Rule {
    name: "length-in-vain",
    severity: Severity::Warning,
    finds: "a length, or numbers of digits, said of a type that takes none",
    consequence: "Its author believes that longer texts or larger numbers are refused. The column takes whatever the type takes.",
    sql: "INSERT INTO vessels (masts) VALUES (123456);  -- accepted: the length of an integer is no limit",
    cure: "Leave it out, or use a type that has one. Values that do not fit must be mended first.",
    exception: "When a plugin or a form hears it.",
    raised: &["length-in-vain"],
    wrong: typeorm(
        "@Entity()\nexport class Vessel {\n  @PrimaryGeneratedColumn()\n  id!: number;\n\n  @Column('int', { length: 5 })\n  masts!: number;\n}\n",
    ),
    right: typeorm(
        "@Entity()\nexport class Vessel {\n  @PrimaryGeneratedColumn()\n  id!: number;\n\n  @Column('int')\n  masts!: number;\n}\n",
    ),
    cases: &[
        (1, django("class Vessel(models.Model):\n    masts = models.IntegerField(max_digits=2)\n")),
        (0, django("class Vessel(models.Model):\n    tonnage = models.DecimalField(max_digits=9, decimal_places=2)\n")),
    ],
    check,
    ..PLAIN
};

/// Words that say a length or numbers of digits, which a reader keeps where the type does not take them.
const LENGTHS: &[&str] = &["length", "max_digits", "decimal_places", "precision", "scale"];

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.columns() {
        let Some(word) = field.extras.keys().find(|word| LENGTHS.contains(&word.as_str())) else { continue };
        found.push(
            RULE.of_column(entity, field, format!("`{word}` of `{}` does nothing: a {} has none", place(entity, field), field.r#type))
                .at(field.origin.span(), format!("`{}`", field.r#type))
                .because("any value of the type is taken")
                .with_help(format!("leave `{word}` out, or use a type that has one")),
        );
    }
}

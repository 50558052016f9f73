use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, mongoose, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{EntityKind, Field, Purpose};

pub(super) const RULE: Rule = Rule {
    name: "presence-disagrees",
    severity: Severity::Warning,
    finds: "a column whose nullability, type in the code and input validation disagree on \
            whether a value may be missing",
    consequence: "Either a record that passed validation is refused by the database (NOT NULL \
                  violated), or the code meets a null that its type does not allow, or nobody \
                  can enter the null that the column was made nullable for.",
    sql: "INSERT INTO pilot (radio_name) VALUES (NULL);  -- accepted, and the code that reads \
          it allows no null",
    cure: "Decide once whether the value may be missing, and say it in every voice. Making a \
           column NOT NULL needs a value for the rows that hold null.",
    exception: "When the code fills in the value between validation and saving.",
    wrong: typeorm(
        "@Entity()
export class Pilot {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column({ nullable: true })
  radioName!: string;
}
",
    ),
    right: typeorm(
        "@Entity()
export class Pilot {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column({ type: 'varchar', nullable: true })
  radioName!: string | null;
}
",
    ),
    cases: &[
        (1, django("class Quay(models.Model):\n    depth = models.IntegerField(blank=True)\n")),
        (1, django("class Quay(models.Model):\n    depth = models.IntegerField(null=True)\n")),
        (
            0,
            django(
                "class Quay(models.Model):\n    depth = models.IntegerField(null=True, \
                 blank=True)\n",
            ),
        ),
        (
            0,
            django(
                "class Quay(models.Model):\n    depth = models.IntegerField(blank=True, \
                 default=0)\n",
            ),
        ),
        (
            0,
            django(
                "class Quay(models.Model):\n    note = models.CharField(max_length=9, \
                 blank=True)\n",
            ),
        ),
        (0, django("class Quay(models.Model):\n    seen = models.DateTimeField(auto_now=True)\n")),
        (
            1,
            typeorm(
                "@Entity()
class Quay {
  @PrimaryColumn()
  id!: number;
  @Column()
  depth?: number;
}",
            ),
        ),
        (
            0,
            mongoose(
                "export const Quay = mongoose.model('Quay', new mongoose.Schema({ depth: \
                 { type: Number, required: true } }));\n",
            ),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    // A database of documents holds no nullability that could disagree.
    for (entity, field) in
        context.columns().filter(|(entity, _)| entity.kind != EntityKind::Document)
    {
        let key = entity.key_columns().contains(&field.column);
        let filled = field.identity.is_some()
            || field.generated.is_some()
            || field.defaults.database.is_some()
            || field.defaults.application.is_some()
            || matches!(
                field.purpose,
                Some(Purpose::CreationTime | Purpose::UpdateTime | Purpose::Version)
            );
        let (message, reason, help) = match disagreement(field, filled) {
            Some(texts) if !key => texts,
            _ => continue,
        };
        found.push(
            RULE.of_column(entity, field, format!("`{}` {message}", place(entity, field)))
                .at(field.origin.span(), "the voices disagree here")
                .because(reason)
                .with_help(help),
        );
    }
}

fn disagreement(field: &Field, filled: bool) -> Option<(&'static str, &'static str, &'static str)> {
    let empty_text = field.r#type.is_text();
    match (field.nullable, field.required_on_input, field.optional_in_code) {
        (false, Some(false), _) if !filled && !empty_text => Some((
            "may be left out on input, but its column is NOT NULL",
            "a form that leaves it out passes validation and then fails in the database",
            "allow null in the column, give a default, or require it on input",
        )),
        (true, Some(true), _) if !filled => Some((
            "may be null in its column, but input must give it",
            "the null that the column allows can only come from code that skips validation",
            "allow it to be left out on input, or make the column NOT NULL",
        )),
        (true, _, Some(false)) => Some((
            "may be null in its column, but its type in the code does not allow null",
            "reading a row with null gives the code a value that its type rules out",
            "add null to the type, or make the column NOT NULL",
        )),
        (false, _, Some(true)) if !filled => Some((
            "may be missing in the code, but its column is NOT NULL and has no default",
            "saving a record without it fails in the database",
            "require it in the type, allow null in the column, or give a default",
        )),
        _ => None,
    }
}

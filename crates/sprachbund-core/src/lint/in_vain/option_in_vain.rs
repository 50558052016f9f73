use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{mongoose, typeorm};
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "option-in-vain",
    severity: Severity::Warning,
    finds: "an option that the framework does not hear: misspelt, of another method or dialect, \
            or at the wrong place",
    consequence: "Its author believes in a length, a default, an index or a NOT NULL that is \
                  not there. Nothing fails until a value comes that should have been refused.",
    sql: "INSERT INTO pilots (name) VALUES (NULL);  -- accepted: the option was called `requierd`",
    cure: "Write the option as the framework spells it, where it is heard, or take it out.",
    exception: "When a plugin hears it.",
    raised: &["said-in-vain", "option-in-vain", "unread-option"],
    wrong: mongoose(
        "mongoose.model('Pilot', new mongoose.Schema({ name: { type: String, requierd: true } \
         }));\n",
    ),
    right: mongoose(
        "mongoose.model('Pilot', new mongoose.Schema({ name: { type: String, required: true } \
         }));\n",
    ),
    cases: &[(
        1,
        typeorm(
            "@Entity()
export class Pilot {
  @PrimaryColumn({ unqiue: true })
  id!: number;
}
",
        ),
    )],
    check,
    ..PLAIN
};

/// Words that options of columns have in one dialect or another.
const OPTIONS: &[&str] = &[
    "allowNull",
    "autoIncrement",
    "collation",
    "comment",
    "default",
    "defaultValue",
    "expires",
    "generated",
    "immutable",
    "index",
    "indexed",
    "length",
    "lowercase",
    "match",
    "maxlength",
    "minlength",
    "nullable",
    "onDelete",
    "onUpdate",
    "precision",
    "primary",
    "primaryKey",
    "references",
    "refPath",
    "required",
    "scale",
    "select",
    "sparse",
    "transformer",
    "unique",
    "unsigned",
    "uppercase",
    "validate",
];

/// What a reader kept because it does not know it, and is a known word but for a letter or two.
fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.fields() {
        for word in
            field.extras.keys().filter(|word| word.len() > 4 && !OPTIONS.contains(&word.as_str()))
        {
            let near = OPTIONS
                .iter()
                .find(|known| (1..=2).contains(&strsim::damerau_levenshtein(word, known)));
            let Some(meant) = near else { continue };
            found.push(
                RULE.of_column(
                    entity,
                    field,
                    format!("`{word}` of `{}` is no option", place(entity, field)),
                )
                .at(field.origin.span(), format!("says `{word}`"))
                .because(format!(
                    "it is ignored, or refused when the program starts; it does not do what \
                     `{meant}` does"
                ))
                .with_help(format!("did you mean `{meant}`?")),
            );
        }
    }
}

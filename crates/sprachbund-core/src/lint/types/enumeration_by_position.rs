use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "enumeration-by-position",
    severity: Severity::Note,
    finds: "an enumeration that is stored as the numbers 0, 1, 2 ... or 1, 2, 3 ...",
    consequence: "The numbers say nothing to who reads the table. A member that is put in \
                  between, or taken out, gives all rows after it another meaning, and nothing \
                  fails.",
    sql: "SELECT status FROM port_call;  -- 0, 2, 1",
    cure: "Store the words. Rows must be rewritten, once.",
    exception: "When the numbers are somebody else's code, or sort by them.",
    wrong: django(
        "class PortCall(models.Model):
    class Status(models.IntegerChoices):
        PLANNED = 0
        MOORED = 1
        SAILED = 2

    status = models.IntegerField(choices=Status.choices)
",
    ),
    right: django(
        "class PortCall(models.Model):
    class Status(models.TextChoices):
        PLANNED = \"planned\"
        MOORED = \"moored\"
        SAILED = \"sailed\"

    status = models.CharField(max_length=9, choices=Status.choices)
",
    ),
    cases: &[(
        0,
        django(
            "class PortCall(models.Model):
    class Status(models.IntegerChoices):
        PLANNED = 10
        MOORED = 20

    status = models.IntegerField(choices=Status.choices)
",
        ),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.fields() {
        let Some(choices) = field.choices.as_ref().and_then(|name| context.enumeration(name))
        else {
            continue;
        };
        let numbers: Option<Vec<i64>> =
            choices.members.iter().map(|member| member.value.as_i64()).collect();
        let Some(numbers) = numbers.filter(|numbers| numbers.len() > 1) else { continue };
        let first = numbers[0];
        if !(0..=1).contains(&first)
            || numbers.iter().zip(first..).any(|(number, place)| *number != place)
        {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "`{}` stores places in `{}`, not its values",
                    place(entity, field),
                    choices.name
                ),
            )
            .at(field.origin.span(), "stored as a number")
            .and_at(choices.origin.span(), "counted from the first")
            .because("a member put in between gives stored rows another meaning")
            .with_help("store the words"),
        );
    }
}

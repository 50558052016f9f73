use super::{Context, Example, Rule, place};
use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::naming::Case;
use crate::schema::Type;

/// Words of a name that mean an amount of money.
const MONEY_WORDS: &[&str] = &[
    "amount", "balance", "charge", "charges", "cost", "costs", "due", "dues", "fee", "fees", "fine", "money", "paid", "payment", "price",
    "prices", "salary", "sum", "tariff", "tax", "total",
];

pub(super) const RULE: Rule = Rule {
    name: "money-in-binary-float",
    severity: Severity::Warning,
    finds: "a column that by its name holds money and by its type a binary floating-point number",
    consequence: "Amounts such as 0.10 have no exact binary form: sums drift by fractions of a cent, and two equal amounts may \
                  compare as different.",
    cure: "Use an exact decimal with as many places as the currency has. Converting a filled column rounds each value once.",
    exception: "When the column only estimates, such as a forecast.",
    wrong: Example { dialect: "django", text: "class Invoice(models.Model):\n    harbour_fee = models.FloatField()\n" },
    right: Example {
        dialect: "django",
        text: "class Invoice(models.Model):\n    harbour_fee = models.DecimalField(max_digits=12, decimal_places=2)\n",
    },
    cases: &[
        (
            Example {
                dialect: "django",
                text: "class Vessel(models.Model):\n    feedback = models.FloatField()\n    draught = models.FloatField()\n",
            },
            0,
        ),
        (
            Example {
                dialect: "typeorm",
                text: "@Entity()\nclass Invoice {\n  @PrimaryColumn()\n  id!: number;\n  @Column('float')\n  totalDue!: number;\n  @Column('integer')\n  totalInCents!: number;\n}",
            },
            1,
        ),
    ],
    check,
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.columns().filter(|(_, field)| matches!(field.r#type, Type::Real | Type::Double)) {
        let snake = Case::Snake.apply(field.name.as_deref().unwrap_or(&field.column));
        let Some(word) = snake.split('_').find(|word| MONEY_WORDS.contains(word)) else { continue };
        found.push(
            Diagnostic::new(RULE.name, RULE.severity, format!("`{}` holds money in a `{}`", place(entity, field), field.r#type))
                .at(field.origin.span(), format!("`{word}` means money"))
                .because("a binary number cannot hold 0.10 exactly; sums drift")
                .with_help("use an exact decimal, such as numeric(12,2)"),
        );
    }
}

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{place, words_of};
use crate::lint::examples::{django, typeorm};
use crate::lint::rule::{PLAIN, Parameter, Rule, Value};
use crate::schema::{Change, Type};

/// Words of a name that mean an amount of money.
const MONEY_WORDS: &[&str] = &[
    "amount", "balance", "charge", "charges", "cost", "costs", "due", "dues", "fee", "fees",
    "fine", "money", "paid", "payment", "price", "prices", "salary", "sum", "tariff", "tax",
    "total",
];

pub(super) const RULE: Rule = Rule {
    name: "money-in-binary-float",
    severity: Severity::Warning,
    finds: "a column that by its name holds money and by its type a binary floating-point number",
    consequence: "Amounts such as 0.10 have no exact binary form: sums drift by fractions of a \
                  cent, and two equal amounts may compare as different.",
    sql: "SELECT 0.1::float8 + 0.2::float8 = 0.3::float8;  -- false",
    cure: "Use an exact decimal with as many places as the currency has. Converting a filled \
           column rounds each value once.",
    exception: "When the column only estimates, such as a forecast.",
    parameters: &[Parameter {
        name: "words",
        says: "words of a name that mean an amount of money",
        value: Value::Words(MONEY_WORDS),
    }],
    wrong: django("class Invoice(models.Model):\n    harbour_fee = models.FloatField()\n"),
    right: django(
        "class Invoice(models.Model):\n    harbour_fee = models.DecimalField(max_digits=12, \
         decimal_places=2)\n",
    ),
    cases: &[
        (
            0,
            django(
                "class Vessel(models.Model):
    feedback = models.FloatField()
    draught = models.FloatField()
",
            ),
        ),
        (
            1,
            typeorm(
                "@Entity()
class Invoice {
  @PrimaryColumn()
  id!: number;
  @Column('float')
  totalDue!: number;
  @Column('integer')
  totalInCents!: number;
}",
            ),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let money = context.words(&RULE, "words");
    for (entity, field) in
        context.columns().filter(|(_, field)| matches!(field.r#type, Type::Real | Type::Double))
    {
        let words = words_of(field);
        let Some(word) = words.split('_').find(|word| money.contains(word)) else { continue };
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("`{}` holds money in a `{}`", place(entity, field), field.r#type),
            )
            .at(field.origin.span(), format!("`{word}` means money"))
            .because("a binary number cannot hold 0.10 exactly; sums drift")
            .with_help("use an exact decimal, such as numeric(12,2)")
            .curable_by_hand(Change::Retype {
                entity: entity.id.clone(),
                column: field.column.clone(),
                to: Type::Numeric { precision: Some(12), scale: Some(2) },
            }),
        );
    }
}

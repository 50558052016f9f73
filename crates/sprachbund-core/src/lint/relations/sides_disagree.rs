use crate::diagnostic::Severity;
use crate::lint::examples::prisma;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "sides-disagree",
    severity: Severity::Error,
    finds: "two sides of a relation that do not belong together: one lacks the other, or they \
            name different columns, kinds or targets",
    consequence: "The framework refuses to start, or follows one of the two and ignores the \
                  other: a list stays empty although rows refer to the record.",
    sql: "SELECT * FROM berths WHERE quay_id = 1;  -- rows that `quay.berths` does not show",
    cure: "Let each side name the other.",
    exception: "Never.",
    raised: &["one-sided-relation", "two-targets", "relation-without-reference", "sides-disagree"],
    wrong: prisma(
        "model Quay {
  id     Int     @id
  berths Berth[]
}

model Berth {
  id Int @id
}
",
    ),
    right: prisma(
        "model Quay {
  id     Int     @id
  berths Berth[]
}

model Berth {
  id     Int  @id
  quayId Int
  quay   Quay @relation(fields: [quayId], references: [id])
}
",
    ),
    ..PLAIN
};

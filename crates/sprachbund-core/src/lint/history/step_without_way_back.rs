use crate::diagnostic::Severity;
use crate::lint::examples::sequelize;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "step-without-way-back",
    severity: Severity::Note,
    finds: "a migration that nothing takes back",
    consequence: "A release that must be taken back leaves the tables of the new one behind, \
                  with columns that the old code does not fill.",
    sql: "INSERT INTO berths (id) VALUES (1);  -- the old code; refused: null value in column \
          \"draught\" of relation \"berths\"; it is of the new release",
    cure: "Write the steps back. Where there are none, raise an error there, so that nobody \
           believes in them.",
    exception: "When releases are never taken back, only followed by another one.",
    raised: &["one-way-step"],
    wrong: sequelize(
        "module.exports = {
  async up(queryInterface) {
    await queryInterface.createTable('berths', { id: { type: DataTypes.INTEGER, primaryKey: true } \
             });
  },
};
",
    ),
    right: sequelize(
        "module.exports = {
  async up(queryInterface) {
    await queryInterface.createTable('berths', { id: { type: DataTypes.INTEGER, primaryKey: true } \
             });
  },
  async down(queryInterface) {
    await queryInterface.dropTable('berths');
  },
};
",
    ),
    ..PLAIN
};

// Every data type that both servers take, in the forms that projects write.
'use strict';

const text = (length) => ({ type: require('sequelize').DataTypes.STRING(length), allowNull: false });

module.exports = (sequelize, DataTypes) => {
  const { BOOLEAN, SMALLINT, INTEGER, BIGINT } = DataTypes;
  const numbers = { tiny: SMALLINT, whole: INTEGER, large: { type: BIGINT }, yes: { type: BOOLEAN, defaultValue: true } };
  const Cargo = sequelize.define('cargo', {
    ...numbers,
    exact: DataTypes.DECIMAL,
    measured: { type: DataTypes.DECIMAL(10, 2), defaultValue: 7.5, comment: "it's measured" },
    real: DataTypes.REAL,
    double: { type: DataTypes.DOUBLE, defaultValue: 2.5 },
    name: DataTypes.STRING,
    code: text(12),
    letters: DataTypes.CHAR(3),
    remarks: { type: DataTypes.TEXT, defaultValue: "it's \"said\"" },
    blob: DataTypes.BLOB,
    at: DataTypes.DATE,
    atMilli: DataTypes.DATE(3),
    day: { type: DataTypes.DATEONLY, defaultValue: '2026-01-02' },
    hour: DataTypes.TIME,
    mark: { type: DataTypes.UUID, defaultValue: DataTypes.UUIDV4 },
    extra: { type: DataTypes.JSON, allowNull: false },
    kind: { type: DataTypes.ENUM('dry', 'liquid'), defaultValue: 'dry', allowNull: false },
    grade: { type: DataTypes.ENUM, values: ['a', 'b'] },
    loadedAt: { type: DataTypes.DATE, defaultValue: sequelize.literal('CURRENT_TIMESTAMP') },
    weight: { type: DataTypes.VIRTUAL, get() { return this.measured; } },
  });
  return Cargo;
};

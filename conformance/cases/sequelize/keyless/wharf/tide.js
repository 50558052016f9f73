// A table without a key.
'use strict';

module.exports = (sequelize, DataTypes) => {
  const Tide = sequelize.define('Tide', { low: DataTypes.DATE, high: DataTypes.DATE }, { timestamps: false });
  Tide.removeAttribute('id');
};

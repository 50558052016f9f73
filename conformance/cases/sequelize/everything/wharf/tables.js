// How tables and columns are called, what the framework keeps, keys, uniques and indexes.
'use strict';

const { Model, Op } = require('sequelize');

class SignalMast extends Model {
  static initialise(sequelize, DataTypes) {
    return super.init(
      {
        mastNumber: { type: DataTypes.INTEGER, primaryKey: true },
        builtIn: { type: DataTypes.INTEGER, unique: true },
        height: { type: DataTypes.INTEGER, field: 'tall' },
        side: { type: DataTypes.STRING(1), unique: 'place' },
        pier: { type: DataTypes.STRING(5), unique: 'place' },
      },
      {
        sequelize,
        modelName: 'signalMast',
        underscored: true,
        paranoid: true,
        version: true,
        comment: 'masts of the wharf',
        indexes: [
          { fields: ['tall', { name: 'side', order: 'DESC' }] },
          { name: 'mast_by_year', unique: true, fields: ['built_in', 'pier'], where: { tall: { [Op.gt]: 3 }, side: null } },
          { name: 'mast_by_pier', fields: [sequelize.fn('lower', sequelize.col('pier'))], where: sequelize.literal('tall > 2') },
        ],
      },
    );
  }
}

module.exports = (sequelize, DataTypes) => {
  SignalMast.initialise(sequelize, DataTypes);
  sequelize.define('Person', { number: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true } }, { createdAt: 'made', updatedAt: false });
  sequelize.define('Category', { word: DataTypes.STRING(8) }, { freezeTableName: true, timestamps: false });
  sequelize.define('Bus', { word: { type: DataTypes.STRING(8), primaryKey: true } }, { timestamps: false });
  sequelize.define('Pair', { one: { type: DataTypes.INTEGER, primaryKey: true }, two: { type: DataTypes.INTEGER, primaryKey: true } }, { timestamps: false });
};

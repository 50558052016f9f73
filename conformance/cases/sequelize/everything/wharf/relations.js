// Associations of all four kinds, and references that no association makes.
'use strict';

const plain = { timestamps: false };

module.exports = (sequelize, DataTypes) => {
  const Quay = sequelize.define('Quay', { name: { type: DataTypes.STRING(20), unique: true } }, plain);
  const Berth = sequelize.define('Berth', {
    quayId: { type: DataTypes.INTEGER, allowNull: false },
    fallbackId: DataTypes.INTEGER,
    spareId: { type: DataTypes.INTEGER, allowNull: true },
    lastId: { type: DataTypes.INTEGER, references: { model: 'Quays', key: 'id' } },
    nextId: { type: DataTypes.INTEGER, references: { model: Quay, key: 'id' }, onDelete: 'cascade', onUpdate: 'RESTRICT' },
  }, plain);
  const Crane = sequelize.define('Crane', { reach: DataTypes.INTEGER }, { ...plain, underscored: true });
  const Shift = sequelize.define('Shift', { hours: DataTypes.INTEGER }, plain);
  const Watch = sequelize.define('Watch', { id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true } }, plain);
  const Keeper = sequelize.define('Keeper', { name: DataTypes.STRING(40) }, plain);

  Berth.belongsTo(Quay, { as: 'quay', foreignKey: 'quayId' });
  Berth.belongsTo(Quay, { as: 'fallback', foreignKey: 'fallbackId', onDelete: 'SET NULL' });
  Berth.belongsTo(Quay, { as: 'spare', foreignKey: 'spareId' });
  Quay.hasMany(Berth, { as: 'berths', foreignKey: 'quayId' });
  Crane.belongsTo(Quay);
  Crane.belongsTo(Quay, { as: 'byName', foreignKey: 'quayName', targetKey: 'name' });
  Crane.belongsTo(Berth, { as: 'unchecked', foreignKey: 'berthId', constraints: false });
  Quay.hasOne(Keeper, { as: 'keeper', foreignKey: { name: 'quayId', allowNull: false } });
  Keeper.belongsTo(Keeper, { as: 'chief', foreignKey: 'chiefId' });
  Keeper.hasMany(Keeper, { as: 'mates', foreignKey: 'chiefId' });
  Crane.belongsToMany(Keeper, { as: 'drivers', through: Shift });
  Keeper.belongsToMany(Crane, { as: 'cranes', through: Shift });
  Keeper.belongsToMany(Berth, { as: 'watched', through: Watch });
  Berth.belongsToMany(Keeper, { as: 'guards', through: 'guardings', timestamps: false });
  Quay.belongsToMany(Crane, { as: 'reserve', through: 'reserves' });
  Keeper.belongsToMany(Keeper, { as: 'tutors', through: 'lessons', foreignKey: 'pupil', otherKey: 'tutor', timestamps: false });
};

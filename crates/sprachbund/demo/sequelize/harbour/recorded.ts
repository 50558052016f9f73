import { DataTypes } from 'sequelize';

/** What every record of the register keeps about itself. */
export const recorded = {
  recordedAt: { type: DataTypes.DATE, field: 'recorded_at', allowNull: false },
  changedAt: { type: DataTypes.DATE, field: 'changed_at', allowNull: false },
};

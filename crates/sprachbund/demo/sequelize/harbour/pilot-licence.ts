import { DataTypes, Model } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { Harbour } from './harbour';
import type { Pilot } from './pilot';

export class PilotLicence extends Model<InferAttributes<PilotLicence>, InferCreationAttributes<PilotLicence>> {
  declare id: CreationOptional<string>;
  declare pilotId: string;
  declare harbourCode: string;
  declare validUntil: string;
  declare pilot?: NonAttribute<Pilot>;
  declare harbour?: NonAttribute<Harbour>;

  static declareIn(sequelize: Sequelize): void {
    PilotLicence.init(
      {
        id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
        pilotId: { type: DataTypes.BIGINT, field: 'pilot_id', allowNull: false },
        harbourCode: { type: DataTypes.STRING(5), field: 'harbour_code', allowNull: false },
        validUntil: { type: DataTypes.DATEONLY, field: 'valid_until', allowNull: false },
      },
      {
        sequelize,
        tableName: 'pilot_licences',
        timestamps: false,
        indexes: [
          { fields: ['pilot_id'] },
        ],
      },
    );
  }
}

import { DataTypes, Model } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { PilotLicence } from './pilot-licence';

export class Pilot extends Model<InferAttributes<Pilot>, InferCreationAttributes<Pilot>> {
  declare id: CreationOptional<string>;
  declare name: string;
  declare radioName: string | null;
  declare grade: CreationOptional<number>;
  declare licences?: NonAttribute<PilotLicence[]>;

  static declareIn(sequelize: Sequelize): void {
    Pilot.init(
      {
        id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
        name: { type: DataTypes.STRING(80), allowNull: false },
        radioName: { type: DataTypes.STRING(20), field: 'radio_name', unique: true },
        grade: { type: DataTypes.SMALLINT, allowNull: false, defaultValue: 1 },
      },
      { sequelize, tableName: 'pilots', timestamps: false },
    );
  }
}

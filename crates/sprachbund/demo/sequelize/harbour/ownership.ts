import { DataTypes, Model } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { Owner } from './owner';
import type { Vessel } from './vessel';

export class Ownership extends Model<InferAttributes<Ownership>, InferCreationAttributes<Ownership>> {
  declare id: CreationOptional<string>;
  declare vesselId: string;
  declare ownerId: string;
  declare share: CreationOptional<string>;
  declare vessel?: NonAttribute<Vessel>;
  declare owner?: NonAttribute<Owner>;

  static declareIn(sequelize: Sequelize): void {
    Ownership.init(
      {
        id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
        vesselId: {
          type: DataTypes.BIGINT,
          field: 'vessel_id',
          allowNull: false,
          unique: 'vesselId_ownerId',
        },
        ownerId: {
          type: DataTypes.BIGINT,
          field: 'owner_id',
          allowNull: false,
          unique: 'vesselId_ownerId',
        },
        share: { type: DataTypes.DECIMAL(5, 4), allowNull: false, defaultValue: '1' },
      },
      { sequelize, tableName: 'ownerships', timestamps: false },
    );
  }
}

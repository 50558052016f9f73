import { DataTypes, Model } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { Ownership } from './ownership';
import { recorded } from './recorded';

export class Owner extends Model<InferAttributes<Owner>, InferCreationAttributes<Owner>> {
  declare recordedAt: CreationOptional<Date>;
  declare changedAt: CreationOptional<Date>;
  declare id: CreationOptional<string>;
  declare name: string;
  declare email: string;
  declare country: CreationOptional<string>;
  declare shares?: NonAttribute<Ownership[]>;

  static declareIn(sequelize: Sequelize): void {
    Owner.init(
      {
        ...recorded,
        id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
        name: { type: DataTypes.STRING(120), allowNull: false },
        email: { type: DataTypes.STRING(254), allowNull: false, unique: true },
        country: { type: DataTypes.STRING(2), allowNull: false, defaultValue: 'unknown' },
      },
      { sequelize, tableName: 'owners', createdAt: 'recordedAt', updatedAt: 'changedAt' },
    );
  }
}

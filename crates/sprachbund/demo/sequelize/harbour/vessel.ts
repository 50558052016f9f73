import { DataTypes, Model } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { Certificate } from './certificate';
import type { Ownership } from './ownership';
import type { PortCall } from './port-call';
import { recorded } from './recorded';

export class Vessel extends Model<InferAttributes<Vessel>, InferCreationAttributes<Vessel>> {
  declare recordedAt: CreationOptional<Date>;
  declare changedAt: CreationOptional<Date>;
  declare id: CreationOptional<string>;
  declare imoNumber: string;
  declare name: string;
  declare flag: string;
  declare length: string;
  declare draught: string;
  declare certificate?: NonAttribute<Certificate>;
  declare shares?: NonAttribute<Ownership[]>;
  declare portCalls?: NonAttribute<PortCall[]>;

  static declareIn(sequelize: Sequelize): void {
    Vessel.init(
      {
        ...recorded,
        id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
        imoNumber: {
          type: DataTypes.STRING(7),
          field: 'imo_number',
          allowNull: false,
          unique: true,
        },
        name: { type: DataTypes.TEXT, allowNull: false },
        flag: { type: DataTypes.STRING(2), allowNull: false },
        length: { type: DataTypes.DECIMAL(6, 2), allowNull: false },
        draught: { type: DataTypes.DECIMAL(4, 2), allowNull: false },
      },
      {
        sequelize,
        tableName: 'vessels',
        createdAt: 'recordedAt',
        updatedAt: 'changedAt',
        indexes: [
          { fields: ['flag'] },
          { name: 'vessel_by_name', fields: ['name', 'length'] },
        ],
      },
    );
  }
}

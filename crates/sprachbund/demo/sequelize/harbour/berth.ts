import { DataTypes, Model } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { PortCall } from './port-call';
import type { Quay } from './quay';

export class Berth extends Model<InferAttributes<Berth>, InferCreationAttributes<Berth>> {
  declare id: CreationOptional<string>;
  declare quayId: string;
  declare besideId: string | null;
  declare number: number;
  declare length: string;
  declare maxDraught: string;
  declare shorePower: CreationOptional<boolean>;
  declare quay?: NonAttribute<Quay>;
  declare beside?: NonAttribute<Berth>;
  declare neighbours?: NonAttribute<Berth[]>;
  declare portCalls?: NonAttribute<PortCall[]>;

  static declareIn(sequelize: Sequelize): void {
    Berth.init(
      {
        id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
        quayId: {
          type: DataTypes.BIGINT,
          field: 'quay_id',
          allowNull: false,
          unique: 'quayId_number',
        },
        besideId: { type: DataTypes.BIGINT, field: 'beside_id' },
        number: { type: DataTypes.SMALLINT, allowNull: false, unique: 'quayId_number' },
        length: { type: DataTypes.DECIMAL(6, 2), allowNull: false },
        maxDraught: { type: DataTypes.DECIMAL(4, 2), field: 'max_draught', allowNull: false },
        shorePower: {
          type: DataTypes.BOOLEAN,
          field: 'shore_power',
          allowNull: false,
          defaultValue: false,
        },
      },
      {
        sequelize,
        tableName: 'berths',
        timestamps: false,
        indexes: [
          { fields: ['beside_id'] },
        ],
      },
    );
  }
}

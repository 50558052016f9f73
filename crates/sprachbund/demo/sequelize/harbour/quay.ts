import { DataTypes, Model } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { Berth } from './berth';
import type { Harbour } from './harbour';

export class Quay extends Model<InferAttributes<Quay>, InferCreationAttributes<Quay>> {
  declare id: CreationOptional<string>;
  declare harbourCode: string;
  declare name: string;
  declare depth: string | null;
  declare harbour?: NonAttribute<Harbour>;
  declare berths?: NonAttribute<Berth[]>;

  static declareIn(sequelize: Sequelize): void {
    Quay.init(
      {
        id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
        harbourCode: { type: DataTypes.STRING(5), field: 'harbour_code', allowNull: false },
        name: { type: DataTypes.STRING(40), allowNull: false },
        depth: DataTypes.DECIMAL(5, 2),
      },
      {
        sequelize,
        tableName: 'quays',
        timestamps: false,
        indexes: [
          { name: 'quay_name_in_harbour', unique: true, fields: ['harbour_code', 'name'] },
          { fields: ['harbour_code'] },
        ],
      },
    );
  }
}

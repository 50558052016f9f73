import { DataTypes, Model } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { Harbour } from './harbour';

export class TideWindow extends Model<InferAttributes<TideWindow>, InferCreationAttributes<TideWindow>> {
  declare id: CreationOptional<string>;
  declare harbourCode: string;
  declare opensAt: Date;
  declare closesAt: Date;
  declare harbour?: NonAttribute<Harbour>;

  static declareIn(sequelize: Sequelize): void {
    TideWindow.init(
      {
        id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
        harbourCode: {
          type: DataTypes.STRING(5),
          field: 'harbour_code',
          allowNull: false,
          unique: 'harbourCode_opensAt',
        },
        opensAt: {
          type: DataTypes.DATE,
          field: 'opens_at',
          allowNull: false,
          unique: 'harbourCode_opensAt',
        },
        closesAt: { type: DataTypes.DATE, field: 'closes_at', allowNull: false },
      },
      { sequelize, tableName: 'tide_windows', timestamps: false },
    );
  }
}

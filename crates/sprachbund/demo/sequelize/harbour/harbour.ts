import { DataTypes, Model } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { Quay } from './quay';
import type { TideWindow } from './tide-window';

export class Harbour extends Model<InferAttributes<Harbour>, InferCreationAttributes<Harbour>> {
  declare code: string;
  declare name: string;
  declare timeZone: CreationOptional<string>;
  declare quays?: NonAttribute<Quay[]>;
  declare tideWindows?: NonAttribute<TideWindow[]>;

  static declareIn(sequelize: Sequelize): void {
    Harbour.init(
      {
        code: { type: DataTypes.STRING(5), primaryKey: true },
        name: { type: DataTypes.STRING(80), allowNull: false, unique: true },
        timeZone: {
          type: DataTypes.STRING(40),
          field: 'time_zone',
          allowNull: false,
          defaultValue: 'UTC',
        },
      },
      { sequelize, tableName: 'harbours', timestamps: false },
    );
  }
}

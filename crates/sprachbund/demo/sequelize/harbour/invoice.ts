import { DataTypes, Model } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { PortCall } from './port-call';
import { recorded } from './recorded';

export class Invoice extends Model<InferAttributes<Invoice>, InferCreationAttributes<Invoice>> {
  declare recordedAt: CreationOptional<Date>;
  declare changedAt: CreationOptional<Date>;
  declare id: CreationOptional<string>;
  declare portCallId: string;
  declare number: string;
  declare harbourFee: number;
  declare pilotFee: CreationOptional<number>;
  declare total: string;
  declare paidAt: Date | null;
  declare portCall?: NonAttribute<PortCall>;

  static declareIn(sequelize: Sequelize): void {
    Invoice.init(
      {
        ...recorded,
        id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
        portCallId: {
          type: DataTypes.BIGINT,
          field: 'port_call_id',
          allowNull: false,
          unique: true,
        },
        number: { type: DataTypes.STRING(20), allowNull: false, unique: true },
        harbourFee: { type: DataTypes.DOUBLE, field: 'harbour_fee', allowNull: false },
        pilotFee: {
          type: DataTypes.DOUBLE,
          field: 'pilot_fee',
          allowNull: false,
          defaultValue: 0,
        },
        total: { type: DataTypes.DECIMAL(12, 2), allowNull: false },
        paidAt: { type: DataTypes.DATE, field: 'paid_at' },
      },
      { sequelize, tableName: 'invoices', createdAt: 'recordedAt', updatedAt: 'changedAt' },
    );
  }
}

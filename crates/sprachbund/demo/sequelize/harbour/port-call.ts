import { DataTypes, Model, literal } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { Berth } from './berth';
import { CallStatus } from './call-status.enum';
import type { Invoice } from './invoice';
import type { Pilot } from './pilot';
import { recorded } from './recorded';
import type { TideWindow } from './tide-window';
import type { Vessel } from './vessel';

export class PortCall extends Model<InferAttributes<PortCall>, InferCreationAttributes<PortCall>> {
  declare recordedAt: CreationOptional<Date>;
  declare changedAt: CreationOptional<Date>;
  declare id: CreationOptional<string>;
  declare reference: string;
  declare vesselId: string;
  declare berthId: string | null;
  declare pilotId: string;
  declare tideWindowId: string | null;
  declare status: CreationOptional<CallStatus>;
  declare arrivesAt: CreationOptional<Date>;
  declare remarks: CreationOptional<string>;
  declare vessel?: NonAttribute<Vessel>;
  declare berth?: NonAttribute<Berth>;
  declare pilot?: NonAttribute<Pilot>;
  declare tideWindow?: NonAttribute<TideWindow>;
  declare invoice?: NonAttribute<Invoice>;

  static declareIn(sequelize: Sequelize): void {
    PortCall.init(
      {
        ...recorded,
        id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
        reference: { type: DataTypes.STRING(24), allowNull: false, unique: true },
        vesselId: { type: DataTypes.BIGINT, field: 'vessel_id', allowNull: false },
        berthId: { type: DataTypes.BIGINT, field: 'berth_id' },
        pilotId: { type: DataTypes.BIGINT, field: 'pilot_id', allowNull: false },
        tideWindowId: { type: DataTypes.BIGINT, field: 'tide_window_id' },
        status: {
          type: DataTypes.STRING(16),
          allowNull: false,
          defaultValue: CallStatus.Expected,
          validate: { isIn: [Object.values(CallStatus)] },
        },
        arrivesAt: {
          type: DataTypes.DATE,
          field: 'arrives_at',
          allowNull: false,
          defaultValue: DataTypes.NOW,
        },
        remarks: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
      },
      {
        sequelize,
        tableName: 'port_calls',
        createdAt: 'recordedAt',
        updatedAt: 'changedAt',
        indexes: [
          { fields: ['vessel_id'] },
          { fields: ['pilot_id'] },
          { fields: ['tide_window_id'] },
          { name: 'call_by_status', fields: ['status', 'arrives_at'] },
          { name: 'call_moored', fields: ['berth_id'], where: literal('"status" = \'moored\'') },
        ],
      },
    );
  }
}

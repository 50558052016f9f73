import type { Sequelize } from 'sequelize';
import { Berth } from './harbour/berth';
import { Certificate } from './harbour/certificate';
import { Harbour } from './harbour/harbour';
import { Invoice } from './harbour/invoice';
import { Owner } from './harbour/owner';
import { Ownership } from './harbour/ownership';
import { PilotLicence } from './harbour/pilot-licence';
import { Pilot } from './harbour/pilot';
import { PortCall } from './harbour/port-call';
import { Quay } from './harbour/quay';
import { TideWindow } from './harbour/tide-window';
import { Vessel } from './harbour/vessel';

/** Tells a connection of every model, and the models of each other. */
export function register(sequelize: Sequelize): void {
  Berth.declareIn(sequelize);
  Certificate.declareIn(sequelize);
  Harbour.declareIn(sequelize);
  Invoice.declareIn(sequelize);
  Owner.declareIn(sequelize);
  Ownership.declareIn(sequelize);
  PilotLicence.declareIn(sequelize);
  Pilot.declareIn(sequelize);
  PortCall.declareIn(sequelize);
  Quay.declareIn(sequelize);
  TideWindow.declareIn(sequelize);
  Vessel.declareIn(sequelize);

  Berth.belongsTo(Quay, { as: 'quay', foreignKey: 'quayId', onDelete: 'RESTRICT' });
  Berth.belongsTo(Berth, { as: 'beside', foreignKey: 'besideId', onDelete: 'SET NULL' });
  Certificate.belongsTo(Vessel, { as: 'vessel', foreignKey: 'vesselId', onDelete: 'CASCADE' });
  Invoice.belongsTo(PortCall, { as: 'portCall', foreignKey: 'portCallId', onDelete: 'RESTRICT' });
  Ownership.belongsTo(Vessel, { as: 'vessel', foreignKey: 'vesselId', onDelete: 'CASCADE' });
  Ownership.belongsTo(Owner, { as: 'owner', foreignKey: 'ownerId', onDelete: 'RESTRICT' });
  PilotLicence.belongsTo(Pilot, { as: 'pilot', foreignKey: 'pilotId', onDelete: 'CASCADE' });
  PilotLicence.belongsTo(Harbour, {
    as: 'harbour',
    foreignKey: 'harbourCode',
    onDelete: 'CASCADE',
  });
  PortCall.belongsTo(Vessel, { as: 'vessel', foreignKey: 'vesselId', onDelete: 'RESTRICT' });
  PortCall.belongsTo(Berth, { as: 'berth', foreignKey: 'berthId', onDelete: 'RESTRICT' });
  PortCall.belongsTo(Pilot, { as: 'pilot', foreignKey: 'pilotId', onDelete: 'SET NULL' });
  PortCall.belongsTo(TideWindow, {
    as: 'tideWindow',
    foreignKey: 'tideWindowId',
    onDelete: 'SET NULL',
  });
  Quay.belongsTo(Harbour, { as: 'harbour', foreignKey: 'harbourCode', onDelete: 'CASCADE' });
  TideWindow.belongsTo(Harbour, { as: 'harbour', foreignKey: 'harbourCode', onDelete: 'CASCADE' });

  Berth.hasMany(Berth, { as: 'neighbours', foreignKey: 'besideId' });
  Berth.hasMany(PortCall, { as: 'portCalls', foreignKey: 'berthId' });
  Harbour.hasMany(Quay, { as: 'quays', foreignKey: 'harbourCode' });
  Harbour.hasMany(TideWindow, { as: 'tideWindows', foreignKey: 'harbourCode' });
  Owner.hasMany(Ownership, { as: 'shares', foreignKey: 'ownerId' });
  Pilot.hasMany(PilotLicence, { as: 'licences', foreignKey: 'pilotId' });
  PortCall.hasOne(Invoice, { as: 'invoice', foreignKey: 'portCallId' });
  Quay.hasMany(Berth, { as: 'berths', foreignKey: 'quayId' });
  Vessel.hasOne(Certificate, { as: 'certificate', foreignKey: 'vesselId' });
  Vessel.hasMany(Ownership, { as: 'shares', foreignKey: 'vesselId' });
  Vessel.hasMany(PortCall, { as: 'portCalls', foreignKey: 'vesselId' });
}

import { DataTypes, Model } from 'sequelize';
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  NonAttribute,
  Sequelize,
} from 'sequelize';
import type { Vessel } from './vessel';

export class Certificate extends Model<InferAttributes<Certificate>, InferCreationAttributes<Certificate>> {
  declare id: CreationOptional<string>;
  declare vesselId: string;
  declare number: string;
  declare issuedOn: string;
  declare expiresOn: string | null;
  declare vessel?: NonAttribute<Vessel>;

  static declareIn(sequelize: Sequelize): void {
    Certificate.init(
      {
        id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
        vesselId: { type: DataTypes.BIGINT, field: 'vessel_id', allowNull: false, unique: true },
        number: { type: DataTypes.UUID, allowNull: false, unique: true },
        issuedOn: { type: DataTypes.DATEONLY, field: 'issued_on', allowNull: false },
        expiresOn: { type: DataTypes.DATEONLY, field: 'expires_on' },
      },
      { sequelize, tableName: 'certificates', timestamps: false },
    );
  }
}

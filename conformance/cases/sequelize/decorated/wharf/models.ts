import {
  AllowNull,
  AutoIncrement,
  BelongsTo,
  BelongsToMany,
  Column,
  Comment,
  CreatedAt,
  DataType,
  Default,
  ForeignKey,
  HasMany,
  Index,
  Model,
  PrimaryKey,
  Sequelize,
  Table,
  Unique,
} from 'sequelize-typescript';

@Table({ timestamps: false })
export class Quay extends Model {
  @Unique
  @AllowNull(false)
  @Column(DataType.STRING(20))
  declare name: string;

  @HasMany(() => Berth)
  declare berths: Berth[];

  @BelongsToMany(() => Crane, () => Reach)
  declare cranes: Crane[];
}

@Table({ tableName: 'berths', underscored: true, updatedAt: false })
export class Berth extends Model {
  @PrimaryKey
  @AutoIncrement
  @Column(DataType.BIGINT)
  declare number: string;

  @Default(DataType.NOW)
  @Column
  declare builtAt: Date;

  @Index('by_depth')
  @Comment('in metres')
  @Column
  declare depth: number;

  @Column({ type: DataType.STRING(24), field: 'said', allowNull: false, defaultValue: "it's" })
  declare reference: string;

  @Index
  @Column
  declare lit: boolean;

  @CreatedAt
  declare made: Date;

  @ForeignKey(() => Quay)
  @Column
  declare quayId: number;

  @BelongsTo(() => Quay)
  declare quay: Quay;
}

@Table({ timestamps: false })
export class Crane extends Model {
  @Column
  declare reach?: number;
}

@Table({ timestamps: false })
export class Reach extends Model {
  @ForeignKey(() => Quay)
  @Column
  declare quayId: number;

  @ForeignKey(() => Crane)
  @Column
  declare craneId: number;
}

export function register(sequelize: Sequelize): void {
  sequelize.addModels([Quay, Berth, Crane, Reach]);
}

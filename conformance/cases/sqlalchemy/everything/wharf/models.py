"""Every construct that all servers have: styles, types, defaults, keys, mixins, inheritance, tables."""

import datetime
import decimal
import enum
import uuid
from typing import Annotated, Any, List, Literal, Optional

import sqlalchemy as sa
from sqlalchemy.orm import (
    DeclarativeBase,
    Mapped,
    MappedAsDataclass,
    backref,
    column_property,
    declared_attr,
    deferred,
    mapped_column,
    relationship,
    synonym,
)
from sqlalchemy.types import TypeDecorator

metadata = sa.MetaData(
    naming_convention={
        "ix": "ix_%(column_0_label)s",
        "ck": "ck_%(table_name)s_%(constraint_name)s",
        "fk": "fk_%(table_name)s_%(column_0_name)s",
    }
)


class Base(DeclarativeBase):
    metadata = metadata
    type_annotation_map = {bytes: sa.LargeBinary, str: sa.String(60)}


class CallStatus(enum.Enum):
    EXPECTED = "expected"
    MOORED = "it's moored"


class Weather(enum.IntEnum):
    CALM = 1
    STORM = 12


ShortText = Annotated[str, mapped_column(sa.String(12))]
Key = Annotated[int, mapped_column(primary_key=True)]
Counted = Annotated[Optional[int], mapped_column(index=True)]


class Trimmed(TypeDecorator):
    impl = sa.String(20)
    cache_ok = True


class Bounded(TypeDecorator):
    impl = sa.String
    cache_ok = True


Document = sa.JSON().with_variant(sa.Text(), "oracle")


def today():
    return datetime.date.today()


class Stamped:
    recorded_at: Mapped[datetime.datetime] = mapped_column(server_default=sa.func.now())
    changed_at = sa.Column(sa.DateTime, default=datetime.datetime.utcnow, onupdate=datetime.datetime.utcnow)

    @declared_attr
    def harbour_id(cls) -> Mapped[Optional[int]]:
        return mapped_column(sa.ForeignKey("harbours.id", ondelete="SET NULL"))


class Numbered:
    id: Mapped[int] = mapped_column(sa.BigInteger().with_variant(sa.Integer, "sqlite"), primary_key=True)

    @declared_attr.directive
    def __tablename__(cls) -> str:
        return cls.__name__.lower() + "s"


class Harbour(Base):
    __tablename__ = "harbours"
    __table_args__ = {"comment": "it's a harbour"}

    id: Mapped[Key]
    code: Mapped[str] = mapped_column("harbour_code", sa.CHAR(5), unique=True)
    title: Mapped[ShortText]
    quays: Mapped[List["Quay"]] = relationship("Quay", back_populates="harbour", order_by="Quay.name")


class Quay(Numbered, Stamped, Base):
    name: Mapped[str]
    depth: Mapped[Counted]
    harbour: Mapped[Optional[Harbour]] = relationship(back_populates="quays")


class AllTypes(Base):
    __tablename__ = "all_types"

    id = sa.Column(sa.Integer, primary_key=True)
    small = sa.Column(sa.SmallInteger, nullable=False)
    big = sa.Column(sa.BigInteger())
    truth = sa.Column(sa.Boolean, nullable=False, default=False, server_default=sa.true())
    floating = sa.Column(sa.Float)
    double = sa.Column(sa.Double, server_default=sa.text("0.5"))
    numeric = sa.Column(sa.Numeric(12, 2), default=decimal.Decimal("7.50"), server_default="7.50")
    whole = sa.Column(sa.Numeric(8))
    bounded = sa.Column(sa.String(30), server_default="it's")
    unicode = sa.Column(sa.Unicode(10))
    decorated = sa.Column(Trimmed)
    measured = sa.Column(Bounded(14))
    fixed = sa.Column(sa.CHAR(4))
    long = sa.Column(sa.Text)
    longer = sa.Column(sa.UnicodeText())
    raw = sa.Column(sa.LargeBinary)
    pickled = sa.Column(sa.PickleType)
    day = sa.Column(sa.Date, default=today, server_default=sa.func.current_date())
    moment = sa.Column(sa.DateTime, default=sa.func.now())
    clock = sa.Column(sa.Time)
    span = sa.Column(sa.Interval)
    identifier = sa.Column(sa.Uuid, default=uuid.uuid4)
    document = sa.Column(sa.JSON, default=dict)
    variant = sa.Column(Document)
    status = sa.Column(sa.Enum(CallStatus), default=CallStatus.EXPECTED)
    weather = sa.Column(sa.Enum("calm", "storm", name="weather_kind"), nullable=False)
    text_status = sa.Column(sa.Enum(CallStatus, native_enum=False, length=40))
    checked_status = sa.Column(sa.Enum("open", "shut", native_enum=False, create_constraint=True, name="gate"))
    by_value = sa.Column(sa.String(9))
    generated = sa.Column(sa.Integer, sa.Computed("small * 2", persisted=True))
    note = sa.Column("the note", sa.String(9), comment="says \"so\"")
    later = deferred(sa.Column(sa.String(9)))
    same = synonym("note")
    twice = column_property(small * 2)


class Inferred(Base):
    __tablename__ = "inferred"

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    whole: Mapped[int]
    truth: Mapped[bool | None]
    number: Mapped["float"]
    exact: Mapped[Optional[decimal.Decimal]]
    text: Mapped[str]
    optional_text: Mapped["Optional[str]"]
    day: Mapped[datetime.date]
    moment: Mapped[datetime.datetime]
    clock: Mapped[datetime.time]
    span: Mapped[datetime.timedelta]
    identifier: Mapped[uuid.UUID]
    status: Mapped[CallStatus]
    wind: Mapped[Literal["north", "south"]]
    forced: Mapped[Optional[int]] = mapped_column(nullable=False)
    freed: Mapped[int] = mapped_column(nullable=True)
    bare = mapped_column(sa.Integer)


class Keyed(Base):
    __tablename__ = "keyed"
    __table_args__ = (
        sa.PrimaryKeyConstraint("second", "first", name="keyed_key"),
        sa.UniqueConstraint("third", "first", name="keyed_pair"),
        sa.UniqueConstraint("third", "fourth"),
        sa.CheckConstraint("third > 0", name="positive"),
        sa.Index("keyed_down", "third", sa.text("fourth DESC")),
        sa.Index(None, "third", "fourth"),
    )

    first = sa.Column(sa.String(10))
    second = sa.Column(sa.Integer)
    third = sa.Column(sa.Integer, nullable=False)
    fourth = sa.Column(sa.Integer, index=True, unique=True)


class Referring(Base):
    __tablename__ = "referring"
    __table_args__ = (
        sa.ForeignKeyConstraint(["keyed_second", "keyed_first"], ["keyed.second", "keyed.first"], ondelete="CASCADE", onupdate="CASCADE"),
        sa.ForeignKeyConstraint(["by_code"], ["harbours.harbour_code"], name="referring_by_code"),
    )

    id: Mapped[Key]
    keyed_first: Mapped[Optional[str]] = mapped_column(sa.String(10))
    keyed_second: Mapped[Optional[int]]
    by_code: Mapped[str] = mapped_column(sa.CHAR(5))
    home_id: Mapped[int] = mapped_column(sa.ForeignKey(Harbour.id, ondelete="cascade"))
    guest_id = mapped_column(sa.ForeignKey("harbours.id"), nullable=False)
    parent_id: Mapped[Optional[int]] = mapped_column(sa.ForeignKey("referring.id"))

    keyed: Mapped[Optional[Keyed]] = relationship()
    home: Mapped[Harbour] = relationship(foreign_keys=[home_id], backref=backref("residents", cascade="all, delete-orphan"))
    guest: Mapped[Harbour] = relationship(foreign_keys="Referring.guest_id", primaryjoin="Referring.guest_id == Harbour.id")
    parent: Mapped[Optional["Referring"]] = relationship(remote_side="Referring.id", back_populates="children")
    children: Mapped[List["Referring"]] = relationship(back_populates="parent")


class Vessel(Base):
    __tablename__ = "vessels"

    id: Mapped[Key]
    kind: Mapped[str] = mapped_column(sa.String(20))
    name: Mapped[str] = mapped_column(sa.String(50), index=True)
    version: Mapped[int] = mapped_column(sa.Integer)

    __mapper_args__ = {"polymorphic_on": kind, "polymorphic_identity": "vessel", "version_id_col": version}


class Tug(Vessel):
    __mapper_args__ = {"polymorphic_identity": "tug"}

    pull: Mapped[Optional[int]] = mapped_column()


class Ferry(Vessel):
    __tablename__ = "ferries"
    __mapper_args__ = {"polymorphic_identity": "ferry"}

    id: Mapped[int] = mapped_column(sa.ForeignKey("vessels.id"), primary_key=True)
    seats: Mapped[int]


class Barge(Base):
    __tablename__ = "barges"

    id: Mapped[Key]
    load: Mapped[int]


class DumbBarge(Barge):
    __tablename__ = "dumb_barges"
    __mapper_args__ = {"concrete": True}

    id: Mapped[Key]
    tow: Mapped[str] = mapped_column(sa.String(10))


class Dated(MappedAsDataclass, Base):
    __tablename__ = "dated"

    id: Mapped[int] = mapped_column(init=False, primary_key=True)
    title: Mapped[str] = mapped_column(sa.String(9), default="untitled")
    filed: Mapped[datetime.datetime] = mapped_column(insert_default=sa.func.now(), init=False)


ownerships = sa.Table(
    "ownerships",
    Base.metadata,
    sa.Column("vessel_id", sa.ForeignKey("vessels.id", ondelete="CASCADE"), primary_key=True),
    sa.Column("owner_id", sa.Integer, sa.ForeignKey("owners.id"), primary_key=True, index=True),
    sa.Column("share", sa.Numeric(5, 4), nullable=False, server_default=sa.text("1")),
)


class Owner(Base):
    __tablename__ = "owners"

    id: Mapped[Key]
    name: Mapped[str] = mapped_column(sa.String(50))
    vessels: Mapped[List[Vessel]] = relationship(secondary=ownerships, backref="owners")


sa.Index("owner_by_name", Owner.name, unique=True)


class Tide:
    pass


tides = sa.Table("tides", Base.metadata, sa.Column("id", sa.Integer, primary_key=True), sa.Column("height", sa.Numeric(4, 2), nullable=False))

Base.registry.map_imperatively(Tide, tides)


class Logged(Base):
    __table__ = sa.Table(
        "logged",
        Base.metadata,
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("line", sa.String(80), nullable=False, index=True),
    )

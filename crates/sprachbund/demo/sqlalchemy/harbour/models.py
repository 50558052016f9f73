import enum
import uuid
from datetime import date, datetime
from decimal import Decimal
from typing import List, Optional

from sqlalchemy import (
    CheckConstraint,
    Column,
    DateTime,
    Enum,
    Float,
    ForeignKey,
    Index,
    Numeric,
    SmallInteger,
    String,
    Table,
    Text,
    UniqueConstraint,
    false,
    func,
    text,
)
from sqlalchemy.orm import Mapped, backref, mapped_column, relationship

from .base import Base, BigKey, HarbourCode, Recorded


class CallStatus(enum.Enum):
    EXPECTED = "expected"
    MOORED = "moored"
    DEPARTED = "departed"
    CANCELLED = "cancelled"


pilot_harbours = Table(
    "pilot_harbours",
    Base.metadata,
    Column("pilot_id", ForeignKey("pilots.id", ondelete="CASCADE"), primary_key=True),
    Column("harbour_code", ForeignKey("harbours.code", ondelete="CASCADE"), primary_key=True),
)


class Harbour(Base):
    __tablename__ = "harbours"

    code: Mapped[HarbourCode] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80), unique=True)
    time_zone: Mapped[str] = mapped_column(String(40), default="UTC", server_default="UTC")

    quays: Mapped[List["Quay"]] = relationship(back_populates="harbour", cascade="all, delete-orphan")
    pilots: Mapped[List["Pilot"]] = relationship(secondary=pilot_harbours, back_populates="harbours")


class Quay(Base):
    __tablename__ = "quays"
    __table_args__ = (UniqueConstraint("harbour_code", "name", name="quay_name_in_harbour"),)

    id: Mapped[BigKey]
    harbour_code: Mapped[str] = mapped_column(ForeignKey(Harbour.code, ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(String(40))
    depth: Mapped[Optional[Decimal]] = mapped_column(Numeric(5, 2))

    harbour: Mapped[Harbour] = relationship(back_populates="quays")
    berths: Mapped[List["Berth"]] = relationship(back_populates="quay")


class Berth(Base):
    __tablename__ = "berths"
    __table_args__ = (
        UniqueConstraint("quay_id", "number"),
        CheckConstraint("length > 0", name="has_length"),
    )

    id: Mapped[BigKey]
    quay_id: Mapped[int] = mapped_column(ForeignKey("quays.id", ondelete="RESTRICT"))
    beside_id: Mapped[Optional[int]] = mapped_column(ForeignKey("berths.id", ondelete="SET NULL"))
    number: Mapped[int] = mapped_column(SmallInteger)
    length: Mapped[Decimal] = mapped_column(Numeric(6, 2))
    max_draught: Mapped[Optional[Decimal]] = mapped_column(Numeric(4, 2), nullable=False)
    shore_power: Mapped[bool] = mapped_column(default=False, server_default=false())

    quay: Mapped[Quay] = relationship(back_populates="berths")
    beside: Mapped[Optional["Berth"]] = relationship(remote_side="Berth.id", backref="neighbours")


class Owner(Recorded, Base):
    __tablename__ = "owners"

    id: Mapped[BigKey]
    name: Mapped[str] = mapped_column(String(120))
    email: Mapped[str] = mapped_column(String(254), unique=True)
    country: Mapped[str] = mapped_column(String(2), default="unknown")

    shares: Mapped[List["Ownership"]] = relationship(back_populates="owner")


class Vessel(Recorded, Base):
    __tablename__ = "vessels"

    id: Mapped[BigKey]
    imo_number: Mapped[str] = mapped_column(String(7), unique=True)
    name: Mapped[str] = mapped_column(String)
    flag: Mapped[str] = mapped_column(String(2), index=True)
    length: Mapped[Decimal] = mapped_column(Numeric(6, 2))
    draught: Mapped[Decimal] = mapped_column(Numeric(4, 2))

    shares: Mapped[List["Ownership"]] = relationship(back_populates="vessel", cascade="all, delete")
    owners: Mapped[List[Owner]] = relationship(secondary="ownerships", viewonly=True)
    certificate: Mapped[Optional["Certificate"]] = relationship(back_populates="vessel")

    __table_args__ = (
        CheckConstraint((draught > 0) & (length > 0), name="has_size"),
        Index("vessel_by_name", name, length.desc()),
    )


class Ownership(Base):
    __tablename__ = "ownerships"

    vessel_id: Mapped[int] = mapped_column(ForeignKey("vessels.id", ondelete="CASCADE"), primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("owners.id", ondelete="RESTRICT"), primary_key=True)
    share: Mapped[Decimal] = mapped_column(Numeric(5, 4), default=Decimal("1"))

    vessel: Mapped[Vessel] = relationship(back_populates="shares")
    owner: Mapped[Owner] = relationship(back_populates="shares")


class Certificate(Base):
    __tablename__ = "certificates"

    id: Mapped[BigKey]
    vessel_id: Mapped[int] = mapped_column(ForeignKey("vessels.id", ondelete="CASCADE"))
    number: Mapped[uuid.UUID] = mapped_column(default=uuid.uuid4, unique=True)
    issued_on: Mapped[date]
    expires_on: Mapped[Optional[date]]

    vessel: Mapped[Vessel] = relationship(back_populates="certificate")


class Pilot(Base):
    __tablename__ = "pilots"

    id: Mapped[BigKey]
    name: Mapped[str] = mapped_column(String(80))
    radio_name: Mapped[Optional[str]] = mapped_column(String(20), unique=True)
    grade: Mapped[int] = mapped_column(SmallInteger, default=40000)

    harbours: Mapped[List[Harbour]] = relationship(secondary=pilot_harbours, back_populates="pilots")


class PilotLicence(Base):
    __tablename__ = "pilot_licences"

    id: Mapped[BigKey]
    pilot_id: Mapped[int] = mapped_column(ForeignKey("pilots.id", ondelete="CASCADE"), index=True)
    harbour_code: Mapped[str] = mapped_column(ForeignKey("harbours.code", ondelete="CASCADE"))
    valid_until: Mapped[date]

    pilot: Mapped[Pilot] = relationship(backref=backref("licences", cascade="all, delete-orphan"))


class TideWindow(Base):
    __tablename__ = "tide_windows"
    __table_args__ = (UniqueConstraint("harbour_code", "opens_at"),)

    id: Mapped[BigKey]
    harbour_code: Mapped[str] = mapped_column(ForeignKey("harbours.code", ondelete="CASCADE"))
    opens_at: Mapped[datetime] = mapped_column(DateTime)
    closes_at: Mapped[datetime] = mapped_column(DateTime)

    harbour: Mapped[Harbour] = relationship()


class PortCall(Recorded, Base):
    __tablename__ = "port_calls"

    id: Mapped[BigKey]
    reference: Mapped[str] = mapped_column(String(24), unique=True)
    vessel_id: Mapped[int] = mapped_column(ForeignKey("vessels.id", ondelete="RESTRICT"), index=True)
    berth_id: Mapped[Optional[int]] = mapped_column(ForeignKey("berths.id", ondelete="RESTRICT"), index=True)
    pilot_id: Mapped[int] = mapped_column(ForeignKey("pilots.id", ondelete="SET NULL"))
    tide_window_id: Mapped[Optional[int]] = mapped_column(ForeignKey("tide_windows.id", ondelete="SET NULL"), index=True)
    status: Mapped[CallStatus] = mapped_column(
        Enum(CallStatus, values_callable=lambda kind: [member.value for member in kind]),
        default=CallStatus.EXPECTED,
    )
    arrives_at: Mapped[datetime] = mapped_column(server_default=func.now())
    remarks = mapped_column(Text, nullable=False, server_default="")

    vessel: Mapped[Vessel] = relationship(backref="port_calls")
    berth: Mapped[Optional[Berth]] = relationship(backref="port_calls")
    pilot: Mapped[Pilot] = relationship(backref="port_calls")
    tide_window: Mapped[Optional[TideWindow]] = relationship(backref="port_calls")
    invoice: Mapped[Optional["Invoice"]] = relationship(back_populates="port_call")

    __table_args__ = (
        Index("call_by_status", "status", "arrives_at"),
        Index("call_moored", "berth_id", postgresql_where=text("status = 'moored'"), sqlite_where=text("status = 'moored'")),
    )


class Invoice(Recorded, Base):
    __tablename__ = "invoices"

    id: Mapped[BigKey]
    port_call_id: Mapped[int] = mapped_column(ForeignKey("port_calls.id", ondelete="RESTRICT"), unique=True)
    number: Mapped[str] = mapped_column(String(20), unique=True)
    harbour_fee: Mapped[float]
    pilot_fee: Mapped[float] = mapped_column(Float, default=0.0)
    total: Mapped[Decimal] = mapped_column(Numeric(12, 2))
    paid_at: Mapped[Optional[datetime]]

    port_call: Mapped[PortCall] = relationship(back_populates="invoice")

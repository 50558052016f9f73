//! Declarations, read and written again: what stays as it was written, and what is written in the
//! usual way.

#[path = "../../printing.rs"]
mod printing;

use printing::{Class, check};

/// What is written, and what is written again; nothing where it is the same.
const CASES: &[(&str, &str)] = &[
    ("depth: Mapped[int]", ""),
    ("depth: Mapped[Optional[int]] = mapped_column(sa.SmallInteger)", ""),
    ("note: Mapped[str] = mapped_column(sa.String(40), unique=True)", ""),
    (
        "note: Mapped[str] = mapped_column('note_text', sa.Text, index=True)",
        "note: Mapped[str] = mapped_column(\"note_text\", sa.Text, index=True)",
    ),
    (
        "price: Mapped[decimal.Decimal] = mapped_column(sa.Numeric(6, 2), \
         server_default=sa.text('1.5'))",
        "price: Mapped[Decimal] = mapped_column(sa.Numeric(6, 2), server_default=sa.text(\"1.5\"))",
    ),
    (
        "at: Mapped[datetime.datetime] = mapped_column(sa.DateTime(timezone=True), \
         server_default=sa.func.now())",
        "at: Mapped[datetime.datetime] = mapped_column(\nsa.DateTime(timezone=True),\n\
         server_default=sa.func.now(),\n)",
    ),
    (
        "at: Mapped[datetime.datetime] = mapped_column(default=sa.func.now(), \
         onupdate=sa.func.now())",
        "",
    ),
    ("kind: Mapped[Kind]", "kind: Mapped[Kind] = mapped_column(sa.Enum(Kind))"),
    (
        "key: Mapped[uuid.UUID] = mapped_column(default=uuid.uuid4)",
        "key: Mapped[UUID] = mapped_column(default=uuid4)",
    ),
    ("depth: Mapped[int] = mapped_column(default=3)", ""),
    (
        "deep: Mapped[int] = mapped_column(sa.Computed('id + 1', persisted=True))",
        "deep: Mapped[int] = mapped_column(sa.Computed('\"id\" + 1', persisted=True))",
    ),
    (
        "note: Mapped[str] = mapped_column(sa.String(9, collation='C'), comment='what it is')",
        "note: Mapped[str] = mapped_column(sa.String(9, collation=\"C\"), comment=\"what it is\")",
    ),
    (
        "quay_id: Mapped[int] = mapped_column(sa.ForeignKey('quays.id'))",
        "quay_id: Mapped[int] = mapped_column(sa.ForeignKey(\"quays.id\"))",
    ),
    (
        "quay_id: Mapped[Optional[int]] = mapped_column(sa.ForeignKey('quays.id', \
         ondelete='CASCADE', name='by_quay'))\nquay: Mapped[Optional['Quay']] = relationship()",
        "quay_id: Mapped[Optional[int]] = mapped_column(\n\
         sa.ForeignKey(\"quays.id\", ondelete=\"CASCADE\", name=\"by_quay\"),\n)\n\
         quay: Mapped[Optional[\"Quay\"]] = relationship()",
    ),
    (
        "quay_id: Mapped[int] = mapped_column(sa.ForeignKey('quays.id', deferrable=True, \
         initially='DEFERRED'))",
        "quay_id: Mapped[int] = mapped_column(\nsa.ForeignKey(\"quays.id\", deferrable=True, \
         initially=\"DEFERRED\"),\n)",
    ),
    (
        "a: Mapped[int]\nb: Mapped[int]\n__table_args__ = (sa.UniqueConstraint('a', 'b', \
         name='both'),)",
        "__table_args__ = (sa.UniqueConstraint(\"a\", \"b\", name=\"both\"),)\na: Mapped[int]\n\
         b: Mapped[int]",
    ),
    (
        "a: Mapped[int]\n__table_args__ = (sa.CheckConstraint('a > 0', name='positive'), \
         sa.Index('by_a', 'a', unique=True))",
        "__table_args__ = (\nsa.CheckConstraint('\"a\" > 0', name=\"positive\"),\n\
         sa.Index(\"by_a\", \"a\", unique=True),\n)\na: Mapped[int]",
    ),
    (
        "a: Mapped[int]\n__table_args__ = (sa.Index('some', sa.text('a DESC'), \
         postgresql_where=sa.text('a > 1')), \
         {'schema': 'port', 'comment': 'where vessels lie'})",
        "__table_args__ = (\n\
         sa.Index(\"some\", sa.text('\"a\" DESC'), postgresql_where=sa.text('\"a\" > 1')),\n\
         {\"schema\": \"port\", \"comment\": \"where vessels lie\"},\n)\na: Mapped[int]",
    ),
];

const CLASS: Class = Class {
    path: "harbour/models.py",
    head: "import datetime
import decimal
import enum
import uuid
from typing import List, Optional

import sqlalchemy as sa
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


class Base(DeclarativeBase):
    pass


class Kind(enum.Enum):
    BULK = 'bulk'
    CONTAINER = 'container'


class Quay(Base):
    __tablename__ = 'quays'
    id: Mapped[int] = mapped_column(primary_key=True)


",
    before: "class Berth(Base):
    __tablename__ = 'berths'
    id: Mapped[int] = mapped_column(primary_key=True)
",
    indentation: "    ",
    after: "",
    first_line: "class Berth",
};

#[test]
fn what_is_read_is_written_again() {
    check(&sprachbund_sqlalchemy::DIALECT, &CLASS, CASES);
}

from datetime import datetime, timezone
from typing import Annotated

from sqlalchemy import BigInteger, DateTime, MetaData, String
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

CODE_LENGTH = 5

BigKey = Annotated[int, mapped_column(BigInteger, primary_key=True)]
HarbourCode = Annotated[str, mapped_column(String(CODE_LENGTH))]


def utc_now():
    return datetime.now(timezone.utc)


class Base(DeclarativeBase):
    metadata = MetaData(naming_convention={"ix": "ix_%(column_0_label)s", "ck": "ck_%(table_name)s_%(constraint_name)s"})
    type_annotation_map = {datetime: DateTime(timezone=True)}


class Recorded:
    """What every record of the register keeps about itself."""

    recorded_at: Mapped[datetime] = mapped_column(default=utc_now)
    changed_at: Mapped[datetime] = mapped_column(default=utc_now, onupdate=utc_now)

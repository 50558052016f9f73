"""Tables without a key, which table objects may be."""

import sqlalchemy as sa
from sqlalchemy.orm import declarative_base

Base = declarative_base()

soundings = sa.Table(
    "soundings",
    Base.metadata,
    sa.Column("depth", sa.Integer),
    sa.Column("place", sa.String(5), nullable=False),
    sa.UniqueConstraint("depth", "place"),
)

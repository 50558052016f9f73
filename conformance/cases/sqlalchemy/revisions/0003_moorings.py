"""A branch beside the berths."""

import sqlalchemy as sa
from alembic import op

revision = "c3"
down_revision = "a1"


def upgrade():
    op.create_table("mooring", sa.Column("id", sa.Integer(), nullable=False), sa.Column("quay_id", sa.BigInteger(), nullable=True))
    op.create_primary_key("mooring_key", "mooring", ["id"])
    op.create_foreign_key("mooring_quay", "mooring", "quay", ["quay_id"], ["id"], ondelete="SET NULL", deferrable=True, initially="DEFERRED")

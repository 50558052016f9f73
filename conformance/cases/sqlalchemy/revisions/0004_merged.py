"""Both branches together."""

import sqlalchemy as sa
from alembic import op

revision = "d4"
down_revision = ("b2", "c3")


def upgrade():
    with op.batch_alter_table("berth", schema=None) as batch_op:
        batch_op.add_column(sa.Column("number", sa.SmallInteger(), nullable=False, server_default=sa.text("1")))
        batch_op.alter_column("gone", existing_type=sa.Boolean(), nullable=False)
        batch_op.create_unique_constraint("berth_number", ["quay_id", "number"])
        batch_op.create_index("ix_berth_number", ["number"], postgresql_where=sa.text("number > 3"))
        batch_op.drop_index("ix_berth_quay_id")
    op.rename_table("mooring", "buoy")
    op.drop_column("quay", "length")
    op.alter_column("harbour", "code", server_default=None)
    op.create_table_comment("buoy", "in the open water")

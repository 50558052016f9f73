"""Harbours and quays."""

import sqlalchemy as sa
from alembic import op

revision = "a1"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "harbour",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=80), nullable=False),
        sa.Column("depth", sa.Float(), nullable=True),
        sa.Column("opened", sa.Date(), server_default=sa.text("CURRENT_DATE"), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_harbour")),
        sa.UniqueConstraint("name", name=op.f("uq_harbour_name")),
    )
    op.create_table(
        "quay",
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("harbour", sa.Integer(), nullable=False),
        sa.Column("label", sa.String(40)),
        sa.Column("length", sa.Numeric(6, 2), server_default="12.50"),
        sa.ForeignKeyConstraint(["harbour"], ["harbour.id"], name="quay_of_harbour", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index(op.f("ix_quay_label"), "quay", ["label"], unique=False)
    op.create_index("quay_by_length", "quay", [sa.text("length DESC"), "harbour"], unique=True)
    op.create_table("log", sa.Column("line", sa.Text(), nullable=False))


def downgrade() -> None:
    op.drop_table("log")
    op.drop_table("quay")
    op.drop_table("harbour")

"""Berths; the quay's reference gets its usual name."""

import sqlalchemy as sa
from alembic import op

revision: str = "b2"
down_revision: str = "a1"


def upgrade() -> None:
    op.drop_table("log")
    op.create_table(
        "berth",
        sa.Column("id", sa.Integer(), sa.Identity(), primary_key=True),
        sa.Column("quay_id", sa.BigInteger(), sa.ForeignKey("quay.id"), nullable=False, index=True),
        sa.Column("status", sa.Enum("free", "taken", name="berth_status"), server_default="free", nullable=False),
        sa.Column("gone", sa.Boolean()),
        comment="where vessels lie",
    )
    op.add_column("harbour", sa.Column("code", sa.String(5), nullable=True))
    op.alter_column("harbour", "code", existing_type=sa.String(5), nullable=False, server_default="XX")
    op.alter_column("harbour", "depth", type_=sa.Numeric(5, 2), existing_type=sa.Float(), existing_nullable=True)
    op.alter_column("quay", "harbour", new_column_name="harbour_id")
    op.create_unique_constraint("harbour_code", "harbour", ["code"])
    op.drop_constraint("uq_harbour_name", "harbour", type_="unique")
    op.create_check_constraint("deep_enough", "harbour", "depth > 0")


def downgrade() -> None:
    raise NotImplementedError

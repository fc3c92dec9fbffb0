"""Variants of sets, their channel and purpose, and what was measured on pictures of files"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("sets", sa.Column("channel", sa.String(20), server_default="icons", nullable=False))
    op.add_column("sets", sa.Column("purpose", sa.Text(), server_default="", nullable=False))
    op.add_column(
        "sets", sa.Column("original_id", sa.Uuid(), sa.ForeignKey("sets.id", ondelete="CASCADE"), nullable=True)
    )
    op.create_index("ix_sets_original_id", "sets", ["original_id"])
    op.add_column("sets", sa.Column("edition_id", sa.Uuid(), sa.ForeignKey("editions.id"), nullable=True))
    op.add_column("assets", sa.Column("measured", JSONB(), server_default="{}", nullable=False))


def downgrade() -> None:
    op.drop_column("assets", "measured")
    op.drop_column("sets", "edition_id")
    op.drop_index("ix_sets_original_id", "sets")
    op.drop_column("sets", "original_id")
    op.drop_column("sets", "purpose")
    op.drop_column("sets", "channel")

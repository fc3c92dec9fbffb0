"""Plans saved by name, to be used on other sets"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "saved_plans",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("kit_id", sa.Uuid(), sa.ForeignKey("kits.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("who", sa.String(80), nullable=False),
        sa.Column("body", JSONB(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.text("clock_timestamp()"), nullable=False),
        sa.UniqueConstraint("kit_id", "name"),
    )
    op.create_index("ix_saved_plans_kit_id", "saved_plans", ["kit_id"])


def downgrade() -> None:
    op.drop_table("saved_plans")

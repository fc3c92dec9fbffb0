"""Which channel's sets would take a file that was refused, and which files of an archive are wanted"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("refusals", sa.Column("channel", sa.String(20), server_default="", nullable=False))
    op.add_column("arrivals", sa.Column("only", postgresql.JSONB(), nullable=True))


def downgrade() -> None:
    op.drop_column("arrivals", "only")
    op.drop_column("refusals", "channel")

"""In which window a change was made: one person may have several open"""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("records", sa.Column("window", sa.String(40), server_default="", nullable=False))


def downgrade() -> None:
    op.drop_column("records", "window")

"""Where a file came from, who made it, and what may be done with it"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("assets", sa.Column("rights", JSONB(), server_default="{}", nullable=False))


def downgrade() -> None:
    op.drop_column("assets", "rights")

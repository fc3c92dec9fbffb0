"""Files that belong to others, such as the pictures of a drawing"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("assets", sa.Column("beside", JSONB(), server_default="{}", nullable=False))


def downgrade() -> None:
    op.drop_column("assets", "beside")

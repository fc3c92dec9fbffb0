"""How many colors a drop brought that were planned, and how many stayed as they were"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("drops", sa.Column("planned", sa.Integer(), server_default="0", nullable=False))
    op.add_column("drops", sa.Column("stood", sa.Integer(), server_default="0", nullable=False))


def downgrade() -> None:
    op.drop_column("drops", "stood")
    op.drop_column("drops", "planned")

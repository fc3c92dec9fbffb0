"""Links show a draft as it was too, and the sets that were chosen for them"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("links", sa.Column("kit_id", sa.Uuid(), sa.ForeignKey("kits.id"), nullable=True))
    op.execute("UPDATE links SET kit_id = (SELECT kit_id FROM editions WHERE editions.id = links.edition_id)")
    op.alter_column("links", "kit_id", nullable=False)
    op.create_index("ix_links_kit_id", "links", ["kit_id"])
    op.alter_column("links", "edition_id", nullable=True)
    op.add_column("links", sa.Column("body", JSONB(), nullable=True))
    op.create_table(
        "link_sets",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("link_id", sa.Uuid(), sa.ForeignKey("links.id", ondelete="CASCADE"), nullable=False, index=True),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("plan", JSONB(), nullable=False),
    )
    op.create_table(
        "link_files",
        sa.Column("id", sa.BigInteger(), sa.Identity(), primary_key=True),
        sa.Column("of_id", sa.Uuid(), sa.ForeignKey("link_sets.id", ondelete="CASCADE"), nullable=False, index=True),
        sa.Column("name", sa.String(240), nullable=False),
        sa.Column("digest", sa.String(64), sa.ForeignKey("contents.digest"), nullable=False, index=True),
        sa.Column("paints", JSONB(), nullable=False),
        sa.Column("beside", JSONB(), server_default="{}", nullable=False),
    )


def downgrade() -> None:
    op.drop_table("link_files")
    op.drop_table("link_sets")
    op.execute("DELETE FROM links WHERE edition_id IS NULL")
    op.drop_column("links", "body")
    op.alter_column("links", "edition_id", nullable=False)
    op.drop_index("ix_links_kit_id", "links")
    op.drop_column("links", "kit_id")

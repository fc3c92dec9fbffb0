"""Exports, and the queue of work in a schema of its own"""

from pathlib import Path

import procrastinate
import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "exports",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("set_id", sa.Uuid(), sa.ForeignKey("sets.id", ondelete="CASCADE"), nullable=False),
        sa.Column("who", sa.String(80), nullable=False),
        sa.Column("wanted", JSONB(), nullable=False),
        sa.Column("plan", JSONB(), nullable=False),
        sa.Column("kit", JSONB(), nullable=False),
        sa.Column("state", sa.String(12), nullable=False),
        sa.Column("done", sa.Integer(), nullable=False),
        sa.Column("total", sa.Integer(), nullable=False),
        sa.Column("notes", JSONB(), nullable=False),
        sa.Column("claim", sa.Uuid(), nullable=True),
        sa.Column("result", sa.LargeBinary(), nullable=True),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.text("clock_timestamp()"), nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
    )
    op.create_index("ix_exports_set_id", "exports", ["set_id"])
    # The queue is a package's own; it brings its tables, which nothing here names.
    queue = (Path(procrastinate.__file__).parent / "sql" / "schema.sql").read_text()
    connection = op.get_bind().connection.driver_connection
    assert connection is not None
    connection.execute("CREATE SCHEMA queue")
    connection.execute("SET LOCAL search_path TO queue")
    connection.execute(queue)
    connection.execute("SET LOCAL search_path TO DEFAULT")


def downgrade() -> None:
    op.execute("DROP SCHEMA queue CASCADE")
    op.drop_table("exports")

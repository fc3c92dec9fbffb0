"""Contents in pieces; drops with what has arrived; exports as contents"""
# ruff: noqa: S608 (nothing in these statements comes from outside)

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

_NOW = sa.text("clock_timestamp()")
_PIECE = 1024 * 1024


def upgrade() -> None:
    op.create_table(
        "contents",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("digest", sa.String(64), nullable=True, unique=True),
        sa.Column("size", sa.BigInteger(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=_NOW, nullable=False),
    )
    op.create_table(
        "pieces",
        sa.Column("content_id", sa.Uuid(), sa.ForeignKey("contents.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("data", sa.LargeBinary(), nullable=False),
    )
    # What comes is mostly packed already: stored as it is, a piece is read without unpacking.
    op.execute("ALTER TABLE pieces ALTER COLUMN data SET STORAGE EXTERNAL")
    op.execute("INSERT INTO contents (id, digest, size) SELECT gen_random_uuid(), digest, length(data) FROM blobs")
    op.execute(
        f"INSERT INTO pieces (content_id, number, data) SELECT c.id, n, substring(b.data FROM n * {_PIECE} + 1 "
        f"FOR {_PIECE}) FROM blobs b JOIN contents c USING (digest), "
        f"generate_series(0, greatest((length(b.data) - 1) / {_PIECE}, 0)) AS n WHERE length(b.data) > 0"
    )
    op.drop_constraint("assets_digest_fkey", "assets", type_="foreignkey")
    op.create_foreign_key("assets_digest_fkey", "assets", "contents", ["digest"], ["digest"])
    op.create_index("ix_assets_digest", "assets", ["digest"])
    op.drop_table("blobs")
    op.create_table(
        "drops",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("set_id", sa.Uuid(), sa.ForeignKey("sets.id", ondelete="CASCADE"), nullable=False),
        sa.Column("who", sa.String(80), nullable=False),
        sa.Column("state", sa.String(12), nullable=False),
        sa.Column("expected", sa.Integer(), nullable=False),
        sa.Column("read", sa.Integer(), nullable=False),
        sa.Column("taken", sa.Integer(), nullable=False),
        sa.Column("claim", sa.Uuid(), nullable=True),
        sa.Column("tries", sa.Integer(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=_NOW, nullable=False),
        sa.Column("seen_at", sa.DateTime(timezone=True), server_default=_NOW, nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
    )
    op.create_index("ix_drops_set_id", "drops", ["set_id"])
    op.create_table(
        "arrivals",
        sa.Column("id", sa.BigInteger(), sa.Identity(), primary_key=True),
        sa.Column("drop_id", sa.Uuid(), sa.ForeignKey("drops.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("size", sa.BigInteger(), nullable=False),
        sa.Column("digest", sa.String(64), sa.ForeignKey("contents.digest"), nullable=True),
        sa.Column("content_id", sa.Uuid(), sa.ForeignKey("contents.id"), nullable=True),
        sa.Column("rights", JSONB(), server_default="{}", nullable=False),
        sa.Column("members", sa.Integer(), nullable=False),
        sa.Column("done", sa.Boolean(), nullable=False),
    )
    op.create_index("ix_arrivals_drop_id", "arrivals", ["drop_id"])
    op.create_index("ix_arrivals_digest", "arrivals", ["digest"])
    op.create_table(
        "refusals",
        sa.Column("id", sa.BigInteger(), sa.Identity(), primary_key=True),
        sa.Column("drop_id", sa.Uuid(), sa.ForeignKey("drops.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("reason", sa.Text(), nullable=False),
    )
    op.create_index("ix_refusals_drop_id", "refusals", ["drop_id"])
    op.add_column("pictures", sa.Column("reason", sa.Text(), server_default="", nullable=False))
    op.add_column("exports", sa.Column("tries", sa.Integer(), server_default="0", nullable=False))
    op.add_column("exports", sa.Column("digest", sa.String(64), sa.ForeignKey("contents.digest"), nullable=True))
    op.execute(
        "INSERT INTO contents (id, digest, size) SELECT DISTINCT ON (d) gen_random_uuid(), d, length(result) FROM "
        "(SELECT encode(sha256(result), 'hex') AS d, result FROM exports WHERE result IS NOT NULL) AS made "
        "WHERE NOT EXISTS (SELECT 1 FROM contents WHERE digest = d)"
    )
    op.execute("UPDATE exports SET digest = encode(sha256(result), 'hex') WHERE result IS NOT NULL")
    op.execute(
        f"INSERT INTO pieces (content_id, number, data) SELECT c.id, n, substring(e.result FROM n * {_PIECE} + 1 "
        f"FOR {_PIECE}) FROM (SELECT DISTINCT ON (digest) digest, result FROM exports WHERE result IS NOT NULL) AS e "
        f"JOIN contents c USING (digest), generate_series(0, (length(e.result) - 1) / {_PIECE}) AS n "
        "ON CONFLICT DO NOTHING"
    )
    op.drop_column("exports", "result")


def downgrade() -> None:
    op.add_column("exports", sa.Column("result", sa.LargeBinary(), nullable=True))
    whole = "(SELECT string_agg(data, ''::bytea ORDER BY number) FROM pieces p WHERE p.content_id = c.id)"
    op.execute(f"UPDATE exports SET result = {whole} FROM contents c WHERE c.digest = exports.digest")
    op.drop_column("exports", "digest")
    op.drop_column("exports", "tries")
    op.drop_column("pictures", "reason")
    for table in ("refusals", "arrivals", "drops"):
        op.drop_table(table)
    op.create_table(
        "blobs",
        sa.Column("digest", sa.String(64), primary_key=True),
        sa.Column("data", sa.LargeBinary(), nullable=False),
    )
    op.execute(
        f"INSERT INTO blobs (digest, data) SELECT digest, coalesce({whole}, ''::bytea) FROM contents c "
        "WHERE digest IS NOT NULL"
    )
    op.drop_constraint("assets_digest_fkey", "assets", type_="foreignkey")
    op.drop_index("ix_assets_digest", "assets")
    op.create_foreign_key("assets_digest_fkey", "assets", "blobs", ["digest"], ["digest"])
    op.drop_table("pieces")
    op.drop_table("contents")

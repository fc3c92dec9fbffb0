"""People, the record of changes, editions and links to them"""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None

#: Rows of these are never changed nor removed, whoever asks.
_APPEND_ONLY = ("records", "comments", "editions")


def _when(name: str, *, now: bool = True, nullable: bool = False) -> sa.Column[Any]:
    default = sa.text("clock_timestamp()") if now else None
    return sa.Column(name, sa.DateTime(timezone=True), server_default=default, nullable=nullable)


def _numbered() -> sa.Column[Any]:
    return sa.Column("id", sa.BigInteger(), sa.Identity(), primary_key=True)


def upgrade() -> None:
    op.add_column("kits", sa.Column("active", sa.Boolean(), server_default="false", nullable=False))
    op.add_column("kits", _when("archived_at", now=False, nullable=True))
    op.execute("UPDATE kits SET active = true WHERE id = (SELECT id FROM kits ORDER BY made_at, id LIMIT 1)")
    op.create_table(
        "users",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("email", sa.String(254), nullable=False, unique=True),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("role", sa.String(20), nullable=False),
        sa.Column("secret", sa.Text(), nullable=False),
        sa.Column("active", sa.Boolean(), server_default="true", nullable=False),
        _when("made_at"),
    )
    op.create_table(
        "sign_ins",
        sa.Column("digest", sa.String(64), primary_key=True),
        sa.Column("user_id", sa.Uuid(), sa.ForeignKey("users.id", ondelete="CASCADE"), nullable=False, index=True),
        _when("made_at"),
        _when("ends_at", now=False),
    )
    op.create_table("attempts", _numbered(), sa.Column("of", sa.String(64), nullable=False, index=True), _when("at"))
    op.create_table(
        "records",
        _numbered(),
        sa.Column("kit_id", sa.Uuid(), sa.ForeignKey("kits.id"), nullable=False, index=True),
        sa.Column("user_id", sa.Uuid(), sa.ForeignKey("users.id"), nullable=True),
        sa.Column("who", sa.String(80), nullable=False),
        sa.Column("what", sa.Text(), nullable=False),
        sa.Column("places", JSONB(), nullable=False),
        _when("at"),
    )
    op.create_table(
        "comments",
        _numbered(),
        sa.Column("kit_id", sa.Uuid(), sa.ForeignKey("kits.id"), nullable=False, index=True),
        sa.Column("who", sa.String(80), nullable=False),
        sa.Column("about", sa.Text(), nullable=False),
        sa.Column("text", sa.Text(), nullable=False),
        _when("at"),
    )
    op.create_table(
        "editions",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("kit_id", sa.Uuid(), sa.ForeignKey("kits.id"), nullable=False, index=True),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("who", sa.String(80), nullable=False),
        sa.Column("body", JSONB(), nullable=False),
        sa.Column("digest", sa.String(64), nullable=False),
        _when("made_at"),
        sa.UniqueConstraint("kit_id", "number"),
    )
    op.create_table(
        "links",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("digest", sa.String(64), nullable=False, unique=True),
        sa.Column("edition_id", sa.Uuid(), sa.ForeignKey("editions.id"), nullable=False, index=True),
        sa.Column("who", sa.String(80), nullable=False),
        _when("made_at"),
        _when("ends_at", now=False),
        _when("revoked_at", now=False, nullable=True),
    )
    op.execute("""
        CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS
        $$ BEGIN RAISE EXCEPTION 'rows of % are never changed', TG_TABLE_NAME; END $$
    """)
    for table in _APPEND_ONLY:
        op.execute(f"""
            CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON {table}
            FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()
        """)


def downgrade() -> None:
    for table in ("links", *reversed(_APPEND_ONLY), "attempts", "sign_ins", "users"):
        op.drop_table(table)
    op.execute("DROP FUNCTION refuse_change()")
    op.drop_column("kits", "archived_at")
    op.drop_column("kits", "active")

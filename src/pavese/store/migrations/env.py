"""Runs migrations on the connection that `pavese.store.database.migrate` hands over."""

from alembic import context

from pavese.store.models import Base

context.configure(connection=context.config.attributes["connection"], target_metadata=Base.metadata)
with context.begin_transaction():
    context.run_migrations()

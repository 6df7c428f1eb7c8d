"""What Alembic runs: the scripts go over the connection that is handed over, inside its transaction."""

from alembic import context

context.configure(connection=context.config.attributes["connection"], transactional_ddl=False)
context.run_migrations()

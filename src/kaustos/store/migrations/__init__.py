"""Migrations as Alembic finds them: a script for each layout under versions, shipped inside the package."""

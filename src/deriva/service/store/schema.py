"""Bringing the schema of a database up to date."""

from pathlib import Path

from alembic import command
from alembic.config import Config


def alembic_config(database_url: str) -> Config:
    """Return Alembic's configuration for a database; asyncpg addresses are turned to psycopg's."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("sqlalchemy.url", database_url.replace("+asyncpg", "+psycopg").replace("%", "%%"))
    return config


def migrate(database_url: str) -> None:
    """Bring the schema to the newest revision."""
    command.upgrade(alembic_config(database_url), "head")

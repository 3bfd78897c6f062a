"""Bringing the schema of a database up to date."""

from pathlib import Path

from alembic import command
from alembic.config import Config

from deriva.service.store.address import without_pooler


def alembic_config(database_url: str) -> Config:
    """Return Alembic's configuration for a database; asyncpg addresses are turned to psycopg's."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    url, _ = without_pooler(database_url)
    told = url.set(drivername="postgresql+psycopg").render_as_string(hide_password=False)
    config.set_main_option("sqlalchemy.url", told.replace("%", "%%"))
    return config


def migrate(database_url: str) -> None:
    """Bring the schema to the newest revision."""
    command.upgrade(alembic_config(database_url), "head")

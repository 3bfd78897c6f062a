"""The database connection, and bringing its schema up to date."""

from pathlib import Path

import asyncpg
from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import text
from sqlalchemy.exc import DBAPIError, InterfaceError, OperationalError, SQLAlchemyError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from sqlalchemy.ext.asyncio import AsyncEngine, AsyncSession, async_sessionmaker, create_async_engine

MIGRATIONS = Path(__file__).parent / "migrations"

Sessions = async_sessionmaker[AsyncSession]


UNREACHABLE: tuple[type[Exception], ...] = (
    OperationalError, InterfaceError, PoolTimeout, ConnectionError, asyncpg.PostgresError, asyncpg.InterfaceError,
)  # fmt: skip
"""What is raised while the database does not answer: the driver's own where no connection is had, and not wrapped."""


STATES = ("08", "53", "55000", "57", "3D")
"""SQLSTATEs, by how they begin, of a server that is not there, full, going down, or not letting anybody in."""


def unreachable(error: DBAPIError) -> bool:
    """Return whether the database did not answer, rather than refuse what it was asked."""
    state = str(getattr(error.orig, "sqlstate", None) or "")
    return error.connection_invalidated or isinstance(error, UNREACHABLE) or state.startswith(STATES)


def connect(database_url: str) -> tuple[AsyncEngine, Sessions]:
    """Return an engine and a maker of sessions; connections are tested before use, so a restart is survived."""
    engine = create_async_engine(
        database_url, pool_pre_ping=True, pool_size=8, max_overflow=8, hide_parameters=True
    )
    return engine, async_sessionmaker(engine, expire_on_commit=False)


def alembic_config(database_url: str) -> Config:
    """Return Alembic's configuration for a database; asyncpg addresses are turned to psycopg's."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.set_main_option("sqlalchemy.url", database_url.replace("+asyncpg", "+psycopg").replace("%", "%%"))
    return config


def migrate(database_url: str) -> None:
    """Bring the schema to the newest revision."""
    command.upgrade(alembic_config(database_url), "head")


async def readiness(sessions: Sessions) -> str | None:
    """Return what keeps the database from being used, or None."""
    wanted = ScriptDirectory.from_config(alembic_config("")).get_current_head()
    try:
        async with sessions() as session:
            found = (
                await session.execute(text("select version_num from alembic_version"))
            ).scalar_one_or_none()
    except (SQLAlchemyError, OSError, asyncpg.PostgresError):
        return "The database does not answer."
    return None if found == wanted else f"The database has schema {found}; {wanted} is wanted."

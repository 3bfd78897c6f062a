"""The database connection, and whether its schema is the one that this code was written for."""

from pathlib import Path
from typing import Any
from uuid import uuid4

import asyncpg
from asyncpg.exceptions import InternalClientError
from sqlalchemy import text
from sqlalchemy.exc import DBAPIError, InterfaceError, OperationalError, SQLAlchemyError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from sqlalchemy.ext.asyncio import AsyncEngine, AsyncSession, async_sessionmaker, create_async_engine

from deriva.service.store.address import without_pooler

MIGRATIONS = Path(__file__).parent / "migrations" / "versions"

SCHEMA = max(file.name for file in MIGRATIONS.glob("0*.py"))[:4]
"""The newest revision. Files are named by what they are, so that no start has to load what runs them."""

Sessions = async_sessionmaker[AsyncSession]


UNREACHABLE: tuple[type[Exception], ...] = (
    OperationalError, InterfaceError, PoolTimeout, ConnectionError, asyncpg.PostgresError, asyncpg.InterfaceError,
    InternalClientError,
)  # fmt: skip
"""What is raised while the database does not answer: the driver's own where no connection is had, and not wrapped. Where the
server has said its last word and has not yet hung up, the driver takes it for a fault of its own.
"""


STATES = ("08", "53", "55000", "57", "3D")
"""SQLSTATEs, by how they begin, of a server that is not there, full, going down, or not letting anybody in."""


def unreachable(error: DBAPIError) -> bool:
    """Return whether the database did not answer, rather than refuse what it was asked."""
    state = str(getattr(error.orig, "sqlstate", None) or "")
    return error.connection_invalidated or isinstance(error, UNREACHABLE) or state.startswith(STATES)


CLOCK = {"timezone": "UTC"}
"""What an hour, a day or a year is must not hang on where a host keeps its database. A pooler hands it on."""

SETTINGS = {**CLOCK, "jit": "off", "work_mem": "32MB", "random_page_cost": "1.1"}
"""To compile a query of some milliseconds takes the server half a second; what is counted is sorted on disk, in the order of a
language, where less memory is allowed. A pooler is told the same (docs/settings.md).
"""

UNPREPARED: dict[str, Any] = {
    "server_settings": CLOCK,
    "statement_cache_size": 0,
    "prepared_statement_cache_size": 0,
    # the next transaction may be on a connection where this name is taken
    "prepared_statement_name_func": lambda: f"deriva_{uuid4()}",
}


def connect(database_url: str) -> tuple[AsyncEngine, Sessions]:
    """Return an engine and a maker of sessions; connections are tested before use, so a restart is survived."""
    url, pooled = without_pooler(database_url)
    engine = create_async_engine(
        url,
        pool_pre_ping=True,
        pool_size=8,
        max_overflow=8,
        hide_parameters=True,
        connect_args=UNPREPARED if pooled else {"server_settings": SETTINGS},
    )
    return engine, async_sessionmaker(engine, expire_on_commit=False)


async def readiness(sessions: Sessions) -> str | None:
    """Return what keeps the database from being used, or None."""
    try:
        async with sessions() as session:
            found = (
                await session.execute(text("select version_num from alembic_version"))
            ).scalar_one_or_none()
    except (SQLAlchemyError, OSError, asyncpg.PostgresError):
        return "The database does not answer."
    return None if found == SCHEMA else f"The database has schema {found}; {SCHEMA} is wanted."

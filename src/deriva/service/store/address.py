"""Where a database is, as each of PostgreSQL's clients wants to be told it: one address, or several of one database."""

import psycopg
from sqlalchemy.engine import URL, make_url

from deriva.core.errors import Impossible

DEFAULT_PORT = "5432"

POOLER = "pooler"
"""What an address says (``?pooler=transaction``) where a pooler stands in front that hands every transaction to whichever of
its connections is free: nothing outlives a transaction there, no setting and no prepared statement.
"""


def without_pooler(database_url: str) -> tuple[URL, bool]:
    """Return an address without what it says of a pooler, and whether there is one. Raises Impossible for another kind.

    >>> without_pooler("postgresql+asyncpg://a@h:1/d?pooler=transaction")
    (postgresql+asyncpg://a@h:1/d, True)
    """
    url = make_url(database_url)
    kinds = set(url.normalized_query.get(POOLER, ()))
    if kinds - {"transaction"}:
        text = f"{POOLER} = {', '.join(kinds)} in the database's address: write transaction, or nothing where there is none"
        raise Impossible(text, field=POOLER)
    return url.difference_update_query([POOLER]), bool(kinds)


def _hosts(url: URL) -> list[tuple[str, str]]:
    """Return hosts with their ports; several are in the query (``?host=first:5432&host=second:5432``)."""
    several = url.normalized_query.get("host", ())
    if not several:
        return [(url.host or "127.0.0.1", str(url.port or DEFAULT_PORT))]
    parts = (one.partition(":") for one in several)
    return [(host, port or DEFAULT_PORT) for host, _, port in parts]


def sync_url(database_url: str) -> str:
    """Return an address as libpq takes it.

    >>> sync_url("postgresql+asyncpg://a:b@h:1/d")
    'postgresql://a:b@h:1/d'
    >>> sync_url("postgresql+asyncpg://a@/d?host=h:1&host=k:2&target_session_attrs=primary")
    'postgresql://a@h:1,k:2/d?target_session_attrs=primary'
    """
    url, _ = without_pooler(database_url)
    plain = url.set(drivername="postgresql", query={k: v for k, v in url.query.items() if k != "host"})
    if "host" not in url.query:
        return plain.render_as_string(hide_password=False)
    told, _, rest = plain.render_as_string(hide_password=False).partition("@")
    hosts = ",".join(f"{host}:{port}" for host, port in _hosts(url))
    return f"{told}@{hosts}{rest[rest.index('/') :]}"


def sync_connect(database_url: str, *, autocommit: bool = False) -> psycopg.Connection:
    """Connect by libpq; behind a pooler nothing is prepared."""
    _, pooled = without_pooler(database_url)
    connection = psycopg.connect(sync_url(database_url), autocommit=autocommit)
    if pooled:
        connection.prepare_threshold = None
    return connection


def environment(database_url: str) -> dict[str, str]:
    """Return the variables by which PostgreSQL's own tools find a database. Raises Impossible for one behind a pooler: what
    they set for themselves must outlive a transaction.

    >>> told = environment("postgresql+asyncpg://a:b@/d?host=h:1&host=k&target_session_attrs=primary")
    >>> told["PGHOST"], told["PGPORT"], told["PGTARGETSESSIONATTRS"]
    ('h,k', '1,5432', 'primary')
    """
    url, pooled = without_pooler(database_url)
    if pooled:
        raise Impossible("This is done past the pooler: give the address of PostgreSQL itself", field=POOLER)
    hosts = _hosts(url)
    told = {
        "PGHOST": ",".join(host for host, _ in hosts),
        "PGPORT": ",".join(port for _, port in hosts),
        "PGUSER": url.username or "deriva",
        "PGDATABASE": url.database or "deriva",
    }
    if url.password is not None:
        told["PGPASSWORD"] = str(url.password)  # not on the command line, where everybody may read it
    for wanted in url.normalized_query.get("target_session_attrs", ()):
        told["PGTARGETSESSIONATTRS"] = wanted
    return told

"""Where a database is, as each of PostgreSQL's clients wants to be told it: one address, or several of one database."""

from sqlalchemy.engine import URL, make_url

DEFAULT_PORT = "5432"


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
    url = make_url(database_url)
    if "host" not in url.query:
        return database_url.replace("+asyncpg", "")
    plain = url.set(drivername="postgresql", query={k: v for k, v in url.query.items() if k != "host"})
    told, _, rest = plain.render_as_string(hide_password=False).partition("@")
    hosts = ",".join(f"{host}:{port}" for host, port in _hosts(url))
    return f"{told}@{hosts}{rest[rest.index('/') :]}"


def environment(database_url: str) -> dict[str, str]:
    """Return the variables by which PostgreSQL's own tools find a database.

    >>> told = environment("postgresql+asyncpg://a:b@/d?host=h:1&host=k&target_session_attrs=primary")
    >>> told["PGHOST"], told["PGPORT"], told["PGTARGETSESSIONATTRS"]
    ('h,k', '1,5432', 'primary')
    """
    url = make_url(database_url)
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

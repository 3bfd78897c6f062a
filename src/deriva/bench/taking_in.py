"""Taking in a gauge's file, against the database's own COPY of the same rows."""

import tempfile
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import psycopg

from deriva.bench.seed import Seed
from deriva.service.formats.gauge_csv import parse_csv
from deriva.service.store.address import sync_url
from deriva.service.store.bulk import COLUMNS, copy_samples
from deriva.service.store.cluster import Cluster, ClusterError, data_folder
from deriva.service.store.schema import migrate

ROWS = 200_000
"""Values in the file: about two years of quarter hours of three parameters."""

WHAT = "taking in a gauge's file, rows per second against bare COPY"


def taking_in() -> list[dict[str, Any]]:
    """Time taking in a CSV file against COPY of the same rows alone, on a throw-away PostgreSQL."""
    with tempfile.TemporaryDirectory() as folder:
        Path(folder).chmod(0o711)
        cluster = Cluster(data_folder(Path(folder) / "pg"))
        try:
            cluster.start()
        except ClusterError as error:
            return [{"what": WHAT, "ratio": None, "raw": f"not run: {error}"}]
        try:
            bare, timed = _timed(cluster)
        finally:
            cluster.destroy()
    return [
        {
            "what": f"{WHAT}, {which}",
            "ratio": bare / took,
            "raw": f"{ROWS / took:,.0f} rows/s against {ROWS / bare:,.0f} rows/s, {ROWS:,} rows",
        }
        for which, took in timed.items()
    ]


def _timed(cluster: Cluster) -> tuple[float, dict[str, float]]:
    """Return the seconds that COPY alone takes, and those of taking in: what is new, and what is there already."""
    cluster.create("bench")
    url = cluster.url("bench")
    migrate(url)
    start = datetime(2000, 1, 1, tzinfo=UTC)
    values = [(start + timedelta(minutes=15 * k), 1 + k % 97 / 10) for k in range(ROWS)]
    lines = ["time,flow[m3/s]", *(f"{at.isoformat()},{value}" for at, value in values)]
    with psycopg.connect(sync_url(url), autocommit=True) as rows:
        seed = Seed(rows)
        angler = seed.angler("b")
        gauge = seed.gauge(angler, seed.river(angler))
        rows.execute("create table bare (like gauge_value including all)")
        began = time.perf_counter()
        with rows.cursor() as cursor, cursor.copy(f"copy bare ({COLUMNS}) from stdin") as copy:
            for at, value in values:
                copy.write_row((angler, gauge, False, "flow", at, value, "good", ""))
        bare = time.perf_counter() - began
    timed: dict[str, float] = {}
    for which in ("all of it new", "all of it there already"):
        began = time.perf_counter()
        copy_samples(url, (angler, gauge), parse_csv(lines), daily=False, report=lambda _: None)
        timed[which] = time.perf_counter() - began
    return bare, timed

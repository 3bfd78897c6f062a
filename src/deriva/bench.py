"""Speed as ratios to something measured in the same run. Never a test: machines differ and are shared."""

import statistics
import time
from collections.abc import Callable
from typing import Any

from deriva.core._jit import COMPILED
from deriva.core.choose.candidates import candidates, families
from deriva.core.choose.candidates import settings as depth_settings
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.drift import steady as steady_module
from deriva.core.drift.scenario import LineSection, Scenario, Top
from deriva.core.drift.steady import steady_drift
from deriva.core.drift.transient import transient_drift
from deriva.core.model.column import Column
from deriva.core.model.rig import RIG_KINDS
from deriva.core.model.situation import Fish, Place, Situation
from deriva.core.model.water import Water
from deriva.core.tackle.body import Body

SCENARIO = Scenario(
    Column(1.0, 0.7, 0.1, 10.0),
    Top("float", mass_kg=0.00027, drag_area_m2=0.565e-4),
    (LineSection(0.9, 0.0001524, 1780.0),),
    (Body(0.9, 0.0003, 0.0045),),
)
SITUATION = Situation(Water(1.2, 0.9, "run", 0.25, "cobble", 1.2, 11.0), Place(6.0), Fish())
SITUATIONS = (
    SITUATION,
    Situation(Water(1.1, 0.3, "glide", 0.2), Place(9.0)),
    Situation(Water(1.6, 0.6, "pool", 0.3, "boulder"), Place(7.0)),
    Situation(Water(0.5, 1.1, "riffle", 0.1, "cobble"), Place(5.0)),
    Situation(Water(2.2, 0.5, "pool_head", 0.5), Place(8.0)),
)
PLANS_EACH = 8
DRIFT_S = 8.0


def median_seconds(action: Callable[[], object], repeats: int) -> float:
    """Return the median wall time of ``action`` over ``repeats`` runs, after one that is not counted."""
    action()
    times = []
    for _ in range(repeats):
        start = time.perf_counter()
        action()
        times.append(time.perf_counter() - start)
    return statistics.median(times)


def warm_kernels() -> None:
    """Touch every compiled path once: float and tip, steady and transient, and the sweep over settings."""
    advise(SITUATION, wide)
    transient_drift(SCENARIO, duration_s=0.2)
    tip = Top("tip", height_m=1.0, speed_m_s=0.6)
    transient_drift(
        Scenario(SCENARIO.water, tip, (LineSection(1.9, 0.00015, 1780.0),), (Body(1.9, 0.0003, 0.0045),)),
        duration_s=0.2,
    )


def _plain_steady() -> float:
    """Time one steady drift with every kernel as plain Python, as on the phone, in a process of its own."""
    import subprocess  # noqa: PLC0415
    import sys  # noqa: PLC0415

    code = (
        "import sys; sys.modules['numba'] = None\n"
        "import deriva.bench as b\n"
        "print(b.median_seconds(lambda: b.steady_drift(b.SCENARIO), 20))"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)  # noqa: S603
    return float(done.stdout)


ROWS = 200_000
"""Values in the file that is taken in: about two years of quarter hours of three parameters."""


def _import_rows() -> list[dict[str, Any]]:
    """Time taking in a CSV file of a gauge against COPY of the same rows alone, on a throw-away PostgreSQL."""
    import tempfile  # noqa: PLC0415 - only this part needs a database
    from datetime import UTC, datetime, timedelta  # noqa: PLC0415
    from pathlib import Path  # noqa: PLC0415
    from uuid import UUID, uuid4  # noqa: PLC0415

    import psycopg  # noqa: PLC0415

    from deriva.service.formats.gauge_csv import parse_csv  # noqa: PLC0415
    from deriva.service.store.bulk import copy_samples, sync_url  # noqa: PLC0415
    from deriva.service.store.cluster import Cluster, ClusterError, data_folder  # noqa: PLC0415
    from deriva.service.store.engine import migrate  # noqa: PLC0415

    with tempfile.TemporaryDirectory() as folder:
        Path(folder).chmod(0o711)
        cluster = Cluster(data_folder(Path(folder) / "pg"))
        try:
            cluster.start()
        except ClusterError as error:
            return [
                {
                    "what": "taking in a gauge's file against bare COPY",
                    "ratio": None,
                    "raw": f"not run: {error}",
                }
            ]
        try:
            cluster.create("bench")
            url = cluster.url("bench")
            migrate(url)
            start = datetime(2000, 1, 1, tzinfo=UTC)
            times = [start + timedelta(minutes=15 * k) for k in range(ROWS)]
            lines = [
                "time,flow[m3/s]",
                *(f"{at.isoformat()},{1 + k % 97 / 10}" for k, at in enumerate(times)),
            ]
            with psycopg.connect(sync_url(url), autocommit=True) as rows:
                gauge = UUID(str(uuid4()))
                angler, river = uuid4(), uuid4()
                rows.execute(
                    "insert into angler (id, name, units, school, demo) values (%s, 'b', 'metric', '{}', false)",
                    (angler,),
                )
                rows.execute("insert into river (id, angler_id, name) values (%s, %s, 'b')", (river, angler))
                rows.execute(
                    "insert into gauge (id, angler_id, river_id, name, format, url) values (%s, %s, %s, 'b', 'csv', '')",
                    (gauge, angler, river),
                )
                rows.execute("create table bare (like gauge_value including all)")
                ready = [
                    (gauge, "flow", False, at, 1 + k % 97 / 10, "good", "") for k, at in enumerate(times)
                ]
                began = time.perf_counter()
                with rows.cursor() as cursor, cursor.copy("copy bare from stdin") as copy:
                    for row in ready:
                        copy.write_row(row)
                bare = time.perf_counter() - began
            began = time.perf_counter()
            copy_samples(url, gauge, parse_csv(lines), daily=False, report=lambda _: True)
            whole = time.perf_counter() - began
        finally:
            cluster.destroy()
    return [
        {
            "what": "taking in a gauge's file, rows per second against bare COPY",
            "ratio": bare / whole,
            "raw": f"{ROWS / whole:,.0f} rows/s against {ROWS / bare:,.0f} rows/s, {ROWS:,} rows",
        }
    ]


def _other_engines(drift_s: float) -> list[dict[str, Any]]:
    """Time the same drift in `moordyn` and by `scipy`'s stiff integrator, where they are installed."""
    from deriva.bench_lines import INNER_STEP_S, Rig, stiff_drift  # noqa: PLC0415 - libraries of the bench alone

    segments = 20
    rows: list[dict[str, Any]] = []
    try:
        rig = Rig(SCENARIO, speed_m_s=0.61, segments=segments)
        began = time.perf_counter()
        rig.run(DRIFT_S)
        theirs = time.perf_counter() - began
        said = f"{theirs:.2f} s against {1e3 * drift_s:.1f} ms; steps of {1e3 * INNER_STEP_S:g} ms, {segments} segments"
        rows.append({"what": "transient drift against moordyn", "ratio": theirs / drift_s, "raw": said})
    except ImportError:
        rows.append({"what": "transient drift against moordyn", "ratio": None, "raw": "moordyn is not here"})
    began = time.perf_counter()
    stiff_drift(SCENARIO, seconds=DRIFT_S, segments=segments)
    theirs = time.perf_counter() - began
    said = f"{theirs:.2f} s against {1e3 * drift_s:.1f} ms; BDF, {segments} segments"
    return [
        *rows,
        {"what": "transient drift against scipy's stiff BDF", "ratio": theirs / drift_s, "raw": said},
    ]


def _growth() -> dict[str, Any]:
    """Say how the time of a drift grows with its segments and bodies."""

    def timed(segments: int, flies: int) -> float:
        bodies = tuple(Body(0.9 - 0.2 * k, 0.0003, 0.0045) for k in range(flies))
        scenario = Scenario(SCENARIO.water, SCENARIO.top, SCENARIO.line, bodies)
        return median_seconds(lambda: transient_drift(scenario, duration_s=DRIFT_S, segments=segments), 9)

    one, two, three = timed(20, 1), timed(40, 1), timed(20, 3)
    return {
        "what": "transient drift with twice the segments",
        "ratio": two / one,
        "raw": f"{1e3 * one:.1f} ms with 20, {1e3 * two:.1f} ms with 40; {1e3 * three:.1f} ms with three bodies",
    }


def _plans(steady_s: float) -> list[dict[str, Any]]:
    """Time full plans in several waters, and say how a sweep grows with its settings."""
    times: list[float] = []
    for _ in range(PLANS_EACH):
        for situation in SITUATIONS:
            began = time.perf_counter()
            advise(situation, wide)
            times.append(time.perf_counter() - began)
    times.sort()
    settings = min(sum(len(list(candidates(one, kind))) for kind in RIG_KINDS) for one in SITUATIONS)
    middle, p95 = statistics.median(times), times[int(0.95 * len(times))]
    rows = [
        {
            "what": f"full plan, at least {settings} settings over 5 waters (a tight line 15), against as many steady drifts",
            "ratio": 5 * settings * steady_s / middle,
            "raw": f"median {1e3 * middle:.0f} ms, p95 {1e3 * p95:.0f} ms of {len(times)} plans in {len(SITUATIONS)} waters",
        }
    ]
    if COMPILED:
        from deriva.core.choose.sweep import sweep  # noqa: PLC0415 - needs numba

        kin, lengths = list(families(SITUATION, "indicator")), depth_settings(SITUATION, "indicator")
        whole = median_seconds(lambda: sweep(kin, lengths, SITUATION), 9)
        fewer = median_seconds(lambda: sweep(kin[::2], lengths, SITUATION), 9)
        coarser = median_seconds(lambda: sweep(kin, lengths[::2], SITUATION), 9)
        said = f"{1e3 * whole:.1f} ms; half the families {1e3 * fewer:.1f} ms, half the settings of each {1e3 * coarser:.1f} ms"
        rows.append(
            {"what": "a sweep against one of half as many families", "ratio": whole / fewer, "raw": said}
        )
    return rows


def _memory_mb() -> float:
    """Return the memory of this process, MB."""
    import resource  # noqa: PLC0415

    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024.0


def run() -> list[dict[str, Any]]:
    """Return the rows of the bench: what, ratio, raw."""
    warm_kernels()
    steady = median_seconds(lambda: steady_drift(SCENARIO), 400)
    plain = _plain_steady()
    drift = median_seconds(lambda: transient_drift(SCENARIO, duration_s=DRIFT_S), 20)
    plans = _plans(steady)
    memory = _memory_mb()
    return [
        {
            "what": f"steady drift, compiled against plain Python (numba {'on' if COMPILED else 'off'})",
            "ratio": plain / steady,
            "raw": f"{1e6 * steady:.0f} µs against {1e3 * plain:.2f} ms, {steady_module.PIECES} pieces",
        },
        {
            "what": "transient drift against real time",
            "ratio": DRIFT_S / drift,
            "raw": f"{1e3 * drift:.1f} ms for {DRIFT_S:g} s",
        },
        *plans,
        _growth(),
        *_other_engines(drift),
        {
            "what": "memory of a process that ranks and drifts, of the 400 MB allowed",
            "ratio": memory / 400.0,
            "raw": f"{memory:.0f} MB",
        },
        *_import_rows(),
    ]

"""How fast a drift and a plan are, as ratios to something measured in the same run."""

import statistics
import time
from collections.abc import Callable
from typing import Any

from deriva.bench.engines import other_engines
from deriva.core._jit import COMPILED
from deriva.core.choose.candidates import candidates, families
from deriva.core.choose.candidates import settings as depth_settings
from deriva.core.choose.search import advise, best_of
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
from deriva.service.usecases.rigging import warm

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


def _plain_steady() -> float:
    """Time one steady drift with every kernel as plain Python, as on the phone, in a process of its own."""
    import subprocess  # noqa: PLC0415
    import sys  # noqa: PLC0415

    code = (
        "import sys; sys.modules['numba'] = None\n"
        "import deriva.bench.speed as b\n"
        "print(b.median_seconds(lambda: b.steady_drift(b.SCENARIO), 20))"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)  # noqa: S603
    return float(done.stdout)


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
            best_of.cache_clear()
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


def speed() -> list[dict[str, Any]]:
    """Return the rows: what, ratio, raw."""
    warm()
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
        *other_engines(SCENARIO, DRIFT_S, drift),
        {
            "what": "memory of a process that ranks and drifts, of the 400 MB allowed",
            "ratio": memory / 400.0,
            "raw": f"{memory:.0f} MB",
        },
    ]

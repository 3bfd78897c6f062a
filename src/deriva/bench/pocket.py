"""What a device works out without signal, in plain Python in a process of its own, as ratios to a steady drift solved there."""

import json
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from typing import Any

from deriva.core._jit import COMPILED
from deriva.core.choose.search import advise
from deriva.core.drift.steady import steady_drift
from deriva.core.model.situation import Place, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.portable import answer
from deriva.core.read import write_noun
from deriva.core.rigs.assemble import assemble
from deriva.core.rigs.packed import pack
from deriva.core.rigs.resolve import resolve

WATERS = (
    Water(1.2, 0.9, "run", 0.25, "cobble", 1.2, 11.0),
    Water(1.1, 0.3, "glide", 0.2),
    Water(0.6, 0.8, "riffle", 0.1, "cobble", 1.5, 15.0),
)
SETTING_M, BEAD_MM = 1.0, 3.0
WALK = ("clean", "clean", "tick", "clean", "hung", "clean", "tick", "clean", *("clean",) * 12)
READ_AGAIN = 1.4
"""So many times deeper the water is found to be."""

Question = dict[str, Any]


def _timed(action: Callable[..., object], *given: object) -> float:
    start = time.perf_counter()
    action(*given)
    return time.perf_counter() - start


def _words(lie: Question) -> list[float]:
    """Return the seconds of a coach's word after each drift of a walk."""
    tuning, fished, took = lie["tunings"][0], [], []
    at = {"depth_setting_m": tuning["depth_setting_m"], "point_bead_mm": tuning["point_bead_mm"]}
    for outcome in WALK:
        fished.append(at | {"outcome": outcome})
        asked = {
            "situation": lie["situation"],
            "rig": tuning["rig"],
            "drifts": list(fished),
            "tuning": tuning,
        }
        took.append(_timed(answer, "coach", {"asked": asked, "tunings": lie["tunings"]}))
    return took


def here(lies: list[Question]) -> dict[str, Any]:
    """Time each lie without its marches, then with them, then read again."""
    situation = Situation(WATERS[0], Place(6.0))
    rig = resolve(Tuning("indicator", SETTING_M, BEAD_MM), situation)
    scenario = assemble(rig, situation.water.column())
    solved = statistics.median(_timed(steady_drift, scenario) for _ in range(20))
    alone = [_words(lie)[0] for lie in lies if not lie["marches"]]
    first: list[float] = []
    later: list[float] = []
    again: list[float] = []
    for lie in lies:
        if lie["marches"]:
            answer("keep", lie["marches"])
            one, *rest = _words(lie)
            first.append(one)
            later += rest
            water = lie["situation"]["water"]
            deeper = {**lie["situation"], "water": {**water, "depth_m": READ_AGAIN * water["depth_m"]}}
            again.append(_timed(answer, "advise", {"situation": deeper, "tunings": lie["tunings"]}))
    return {"solved": solved, "alone": alone, "first": first, "later": later, "again": again}


def _in_plain_python(lies: list[Question]) -> dict[str, Any]:
    code = (
        "import sys, json; sys.modules['numba'] = None\n"
        "from deriva.bench.pocket import here\n"
        "print(json.dumps(here(json.load(sys.stdin))))"
    )
    done = subprocess.run(  # noqa: S603 - itself
        [sys.executable, "-c", code], input=json.dumps(lies), capture_output=True, text=True, check=True
    )
    found: dict[str, Any] = json.loads(done.stdout)
    return found


def pocket() -> list[dict[str, Any]]:
    """Return the rows: what, ratio, raw."""
    from deriva.core.choose.sweep import wide  # noqa: PLC0415 - not where nothing is compiled

    lies: list[Question] = []
    making: list[float] = []
    sizes: list[int] = []
    for water in WATERS:
        situation = Situation(water, Place(6.0))
        tunings = [Tuning.of(one.rig) for one in advise(situation, wide).usable]
        making.append(_timed(pack, situation, tunings))
        marches = write_noun(pack(situation, tunings))
        sizes.append(len(json.dumps(marches)))
        plain = {"situation": write_noun(situation), "tunings": write_noun(tuple(tunings))}
        lies.append({**plain, "marches": marches})
    took = _in_plain_python(lies)
    bare = _in_plain_python([{**one, "marches": None} for one in lies])["alone"]
    solved = took["solved"]

    def row(what: str, seconds: float, raw: str) -> dict[str, Any]:
        return {"what": f"{what}, in steady drifts solved there", "ratio": seconds / solved, "raw": raw}

    ms = 1e3
    later = sorted(took["later"])
    p95 = later[int(0.95 * (len(later) - 1))]
    return [
        row(
            "plain Python: a coach's first word at a lie that was packed",
            max(took["first"]),
            f"at most {ms * max(took['first']):.0f} ms; {ms * max(bare):.0f} ms where it was not; a drift {ms * solved:.1f} ms",
        ),
        row(
            "plain Python: its later words",
            p95,
            f"p95 {ms * p95:.0f} ms, median {ms * statistics.median(later):.0f} ms",
        ),
        row(
            "plain Python: advice for water that was read again",
            max(took["again"]),
            f"at most {ms * max(took['again']):.0f} ms",
        ),
        {
            "what": f"marches of a lie against the 150 kB allowed (compiled: {COMPILED})",
            "ratio": max(sizes) / 150e3,
            "raw": f"at most {max(sizes) / 1e3:.0f} kB before it is pressed, {ms * max(making):.0f} ms to make the slowest",
        },
    ]

"""The search card: what the coach will say next, and after how many drifts of a kind; for paper, and to look ahead."""

from dataclasses import dataclass, replace

from deriva.core.choose.search import Search
from deriva.core.coach.ask import MOST_DRIFTS, Asked, coached, word
from deriva.core.coach.next import Advised
from deriva.core.coach.options import Action
from deriva.core.errors import DerivaError
from deriva.core.model.logged import Fished, Outcome
from deriva.core.model.quantity import qty

LIKELY: tuple[Outcome, ...] = ("clean", "tick", "hung")
RUNS: dict[Outcome, str] = {"clean": "clean", "tick": "ticked", "hung": "hung up"}

IN_A_ROW = 6
"""So many drifts that end alike are looked ahead: no touch in about six is what an angler changes after (common practice)."""

DEEP = 2
"""Changes that are looked ahead."""


@dataclass(frozen=True, slots=True)
class Step:
    """What is said once ``times`` drifts in a row have ended in ``outcome``, fished as was said before, and what after that.

    Where they say ``hold``, so many in a row change nothing. ``float_`` is the float or dry that it comes with, where the one
    that is on by then would go under.
    """

    outcome: Outcome
    times: int
    action: Action
    depth_setting_m: float
    point_bead_mm: float | None
    reason: str
    float_: str | None = None
    then: tuple["Step", ...] = ()

    @property
    def said(self) -> str:
        """The step in one line, with marked quantities."""
        return self.words(qty(self.depth_setting_m, "m"))

    def words(self, setting: str) -> str:
        """Return the step in one line, its setting as it is given."""
        run = f"{self.times} {RUNS[self.outcome]}" + (" in a row" if self.times > 1 else "")
        if self.action in ("hold", "change_fly", "change_rig", "move_on"):
            return f"{run}: {self.action.replace('change_', 'another ').replace('_', ' ')}"
        bead = "no bead" if self.point_bead_mm is None else f"{self.point_bead_mm:.1f} mm"
        return f"{run}: {self.action} to {setting} with {bead}" + (
            f" and the {self.float_}" if self.float_ else ""
        )


def search_card(
    asked: Asked,
    search: Search,
    deep: int = DEEP,
    likely: tuple[Outcome, ...] = LIKELY,
    *,
    as_tied: bool = False,
) -> tuple[Step, ...]:
    """Return what will be said after each likely run of drifts that are fished as the coach says now, or, ``as_tied``, with the
    rig told of whatever the coach would begin with; ``likely`` are the ways in which the first run may end. Raises the core's
    errors for a rig that cannot hang.
    """
    now = (coached if as_tied else word)(asked, search).advice
    return _steps(asked, now, search, deep, likely)


def _steps(
    asked: Asked, now: Advised, search: Search, deep: int, likely: tuple[Outcome, ...] = LIKELY
) -> tuple[Step, ...]:
    tuning = asked.tuning and replace(
        asked.tuning,
        depth_setting_m=now.depth_setting_m,
        point_bead_mm=now.point_bead_mm,
        float_=now.float_ or asked.tuning.float_,
    )
    here, found = asked.here, list[Step]()
    for outcome in likely:
        drift = Fished(now.depth_setting_m, now.point_bead_mm, outcome, lane=here.lane, stance=here.stance)
        for times in range(1, IN_A_ROW + 1):
            after = replace(asked, drifts=(*asked.drifts, *(drift,) * times)[-MOST_DRIFTS:], tuning=tuning)
            try:
                said = word(after, search).advice
            except DerivaError:
                break  # no rig can be hung so: nothing is said of it
            if said.action != "hold" or times == IN_A_ROW:
                then = (
                    ()
                    if deep <= 1 or said.action in ("hold", "move_on", "change_rig")
                    else _steps(after, said, search, deep - 1)
                )
                found.append(
                    Step(
                        outcome,
                        times,
                        said.action,
                        said.depth_setting_m,
                        said.point_bead_mm,
                        said.reason,
                        said.float_,
                        then,
                    )
                )
                break
    return tuple(found)


def written(steps: tuple[Step, ...]) -> list[dict[str, object]]:
    """Return the steps as plain data; sentences keep their marked quantities."""
    return [
        {
            "outcome": one.outcome,
            "times": one.times,
            "action": one.action,
            "depth_setting_m": one.depth_setting_m,
            "point_bead_mm": one.point_bead_mm,
            "reason": one.reason,
            "float": one.float_,
            "said": one.said,
            "then": written(one.then),
        }
        for one in steps
    ]

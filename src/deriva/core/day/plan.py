"""The day at a beat: which lies, with how many drifts and until when, in the time that there is; planned again as it slips.

The judgements are the trade's, stated as numbers so that they can be read and argued with: common practice, no source.
"""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated

from deriva.core.check import Checked
from deriva.core.day.lies import LEAST_DRIFTS, MINUTES_A_DRIFT
from deriva.core.errors import Impossible
from deriva.core.model.quantity import qty
from deriva.core.ranges import AHEAD_MIN, DAY_MIN, LIE_DRIFTS, SHARE, Most, Text

MOVE_MIN = 5.0
"""From the last drift at a lie to the first at the next: out, along the bank, a look at the water, the rig set for it."""

PAUSE_MIN = 15.0
"""What lies longer between two drifts at a lie was no fishing: a knot, a fish and a dried dry take less."""

OWN_PACE = 20
"""Drifts of the day that weigh as much as the usual pace (stated here)."""

OTHER_PACE = 1.25
"""A pace so far off the usual is said (stated here)."""

SPARE_MIN = 20.0
"""Time left over from which it is said what to do with it (stated here)."""

OUTING_MIN, LEAST_MIN = 240.0, 60.0
"""An outing of which nothing is known, and the least of the best hours, or of daylight, for which one is made (stated here)."""

NOT_TODAY = "No hour of the next day is worth it, or may be fished: nothing is planned."

MOST_LIES, MOST_MADE = 1000, 1500
"""More than a beat has, and than anybody fishes in a day."""


@dataclass(frozen=True, slots=True)
class Due(Checked):
    """A lie to be fished: what it is worth today, and the drifts that it deserves."""

    lie: Annotated[str, Text(least=1)]
    name: Annotated[str, Text(least=1)]
    score: Annotated[float, SHARE]
    drifts: Annotated[int, LIE_DRIFTS]


@dataclass(frozen=True, slots=True)
class Made(Checked):
    """A drift made today: where, and how many minutes ago."""

    lie: Annotated[str, Text(least=1)]
    ago_min: Annotated[float, DAY_MIN]


@dataclass(frozen=True, slots=True)
class DayAsked(Checked):
    """The lies in the order of working them, each once; the drifts made today, oldest first; and the lie at which one stands,
    None before the first.

    Minutes are from now: when the angler means to begin and to end, None where he has not said; the best hours of the day, and
    when it is dark, as far as they are known. ``worth_it``: whether any hour ahead is, and may be fished;
    ``moves_on``: whether the lie at which one stands is left now, whatever it deserves.
    """

    lies: Annotated[tuple[Due, ...], Most(MOST_LIES)]
    made: Annotated[tuple[Made, ...], Most(MOST_MADE)] = ()
    here: Annotated[str, Text(least=1)] | None = None
    begins_min: Annotated[float, AHEAD_MIN] | None = None
    ends_min: Annotated[float, AHEAD_MIN] | None = None
    best_from_min: Annotated[float, AHEAD_MIN] | None = None
    best_until_min: Annotated[float, AHEAD_MIN] | None = None
    dark_min: Annotated[float, AHEAD_MIN] | None = None
    worth_it: bool = True
    moves_on: bool = False

    def __post_init__(self) -> None:
        """Check the fields, and that no lie stands there twice."""
        Checked.__post_init__(self)
        twice = [lie for lie, times in Counter(one.lie for one in self.lies).items() if times > 1]
        if twice:
            raise Impossible(f"lies: {twice[0]} stands there twice", field="lies")

    @property
    def hours_min(self) -> tuple[float, float]:
        """From when until when one fishes: as said, else over the best hours, else until it is dark. Who fishes has begun."""
        means_to = self.best_from_min if self.begins_min is None else self.begins_min
        begins = 0.0 if self.here is not None else max(0.0, means_to or 0.0)
        if self.ends_min is not None and self.ends_min > begins:
            return begins, self.ends_min
        known = (one for one in (self.best_until_min, self.dark_min) if one is not None)
        return begins, next((one for one in known if one >= begins + LEAST_MIN), begins + OUTING_MIN)

    @property
    def pace_min(self) -> float:
        """Minutes a drift, all that goes with it: the usual, and what today's took, the more of them the more."""
        gaps = [
            before.ago_min - after.ago_min for before, after in pairwise(self.made) if before.lie == after.lie
        ]
        fished = [gap for gap in gaps if 0.0 <= gap <= PAUSE_MIN]
        return (OWN_PACE * MINUTES_A_DRIFT + sum(fished)) / (OWN_PACE + len(fished))


@dataclass(frozen=True, slots=True)
class Leg:
    """A stay at a lie: the drifts to make, of how many that it deserves still, and its minutes from now."""

    lie: str
    drifts: int
    of: int
    begins_min: float
    ends_min: float


@dataclass(frozen=True, slots=True)
class DayPlan:
    """From when until when, in minutes from now; the stays in their order; by lie what is left out, has had its drifts, or was
    fished for less and left; the minutes to spare; and all of it in words.
    """

    begins_min: float
    ends_min: float
    legs: tuple[Leg, ...]
    left_out: tuple[str, ...]
    done: tuple[str, ...]
    left: tuple[str, ...]
    spare_min: float
    pace_min: float
    said: str


@dataclass(frozen=True, slots=True)
class _Wanted:
    """A lie that has drifts to come: how many, whether one has gone past it, and the minutes that it takes to be there."""

    due: Due
    drifts: int
    passed: bool
    move_min: float

    @property
    def rank(self) -> tuple[bool, float]:
        """What comes first is fished first where time is short: what lies ahead, then what is worth most."""
        return self.passed, -self.due.score

    def takes_min(self, drifts: int, pace_min: float) -> float:
        return self.move_min + drifts * pace_min


def _wanted(asked: DayAsked, had: Mapping[str, int]) -> list[_Wanted]:
    """Return the lies that have drifts to come, in the order of working them from where one stands.

    What was gone past unfished comes after all that is ahead; what was fished and left is not gone back to.
    """
    at = next((k for k, one in enumerate(asked.lies) if one.lie == asked.here), 0)
    found: list[_Wanted] = []
    for k in (*range(at, len(asked.lies)), *range(at)):
        due = asked.lies[k]
        left, passed = due.drifts - had[due.lie], k < at
        here = due.lie == asked.here
        if left > 0 and not (passed and had[due.lie]) and not (here and asked.moves_on):
            found.append(_Wanted(due, left, passed, 0.0 if here else MOVE_MIN))
    return found


def _granted(wanted: Sequence[_Wanted], for_min: float, pace_min: float) -> dict[str, int]:
    """Return the drifts that each lie gets: by rank, all of them as long as there is time, and what is left of it the next."""
    left, granted = for_min, dict[str, int]()
    for one in sorted(wanted, key=lambda it: it.rank):
        drifts = min(one.drifts, int((left - one.move_min) / pace_min + 1e-9))
        if drifts >= min(one.drifts, LEAST_DRIFTS):
            granted[one.due.lie] = drifts
            left -= one.takes_min(drifts, pace_min)
    return granted


def plan_day(asked: DayAsked) -> DayPlan:
    """Plan what is left of a day: the lies that are worth most, worked in their order, each with the drifts that it deserves.

    Where time is short the least of them get fewer or none: twenty drifts at a prime lie are better than five at four others.
    """
    had = Counter(one.lie for one in asked.made)
    pace, wanted = asked.pace_min, _wanted(asked, had)
    begins, ends = asked.hours_min
    done = tuple(one.lie for one in asked.lies if had[one.lie] >= one.drifts)
    going_on = {*done, *(one.due.lie for one in wanted)}
    left = tuple(one.lie for one in asked.lies if one.lie not in going_on)
    if not asked.worth_it and asked.here is None and asked.ends_min is None:
        return DayPlan(begins, begins, (), (), done, left, 0.0, pace, NOT_TODAY)
    granted = _granted(wanted, ends - begins, pace)
    legs, at = list[Leg](), begins
    for one in wanted:
        drifts = granted.get(one.due.lie)
        if drifts is not None:
            there = at + one.move_min
            at += one.takes_min(drifts, pace)
            legs.append(Leg(one.due.lie, drifts, one.drifts, there, at))
    out = [one for one in wanted if one.due.lie not in granted]
    spare = ends - at
    said = (*_pace_said(asked), _said(asked, legs, out, spare))
    return DayPlan(
        begins, ends, tuple(legs), tuple(one.due.lie for one in out), done, left, spare, pace, " ".join(said)
    )


def _pace_said(asked: DayAsked) -> Iterable[str]:
    if max(asked.pace_min / MINUTES_A_DRIFT, MINUTES_A_DRIFT / asked.pace_min) >= OTHER_PACE:
        yield f"You take {qty(asked.pace_min, 'min', 1)} a drift."


def _said(asked: DayAsked, legs: Sequence[Leg], out: Sequence[_Wanted], spare_min: float) -> str:
    lies = asked.lies
    names = {one.lie: one.name for one in lies}
    fewer = [f"{one.drifts} of {one.of} drifts for {names[one.lie]}" for one in legs if one.drifts < one.of]
    if not lies:
        return "No lie here has been read."
    if not legs and not out:
        return "Nothing is left to be worked. Rest the best of it, and go over it again."
    if not legs:
        return "No time for another lie."
    if not out and not fewer:
        again = max((one for one in lies if one.lie in {leg.lie for leg in legs}), key=lambda one: one.score)
        rest = (
            f", and {_time(spare_min)} to spare: go over {again.name} again" if spare_min >= SPARE_MIN else ""
        )
        return f"Time for all {'that is left' if asked.made else 'of it'}{rest}."
    least, passed = ([one.due.name for one in out if one.passed == gone] for gone in (False, True))
    said = [
        f"Only {_a_few(fewer)}." if fewer else "",
        f"No time for {_a_few(least)}, worth least today." if least else "",
        f"No time to go back to {_a_few(passed)}." if passed else "",
    ]
    return " ".join(part for part in said if part)


def _time(minutes: float) -> str:
    """Return a stretch of the day as it is said.

    >>> _time(33.0), _time(100.0)
    ('⟦35 min⟧', '⟦1.7 h⟧')
    """
    return qty(5.0 * round(minutes / 5.0), "min", 0) if minutes < 90.0 else qty(minutes / 60.0, "h", 1)


def _a_few(names: Sequence[str], most: int = 3) -> str:
    """Return names as they are said, and of many how many more there are.

    >>> _a_few(["Pool"]), _a_few(["Pool", "Run"]), _a_few(["a", "b", "c", "d", "e"])
    ('Pool', 'Pool and Run', 'a, b, c and 2 more')
    """
    said = [*names[:most], *([f"{len(names) - most} more"] if len(names) > most else [])]
    return " and ".join([", ".join(said[:-1]), said[-1]] if len(said) > 1 else said)

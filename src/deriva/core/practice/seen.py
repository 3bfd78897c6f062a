"""What shows of a drift above the water: the float or sighter among the bubbles, a stutter, a stop, a dip; a knock in the hand.

Nobody is told what made it: a stone, weed, or a fish.
"""

import math
from dataclasses import dataclass

import numpy as np

from deriva.core.practice.river import Luck, Ran
from deriva.core.practice.world import Array, Bools, World

FRAME_S = 0.08
"""Time between two pictures: half of the engine's, and still smooth."""

TOUCH = 0.05
"""From so deep among the stones a fly is said to touch them (stated here)."""

MOST_TOUCHES = 4

STONE_DIP, STONE_LASTS_S = (0.12, 0.45), (0.1, 0.35)
"""How far a stone pulls a float under (1: gone), and for how long (stated here)."""

FISH_DIP, FISH_HOLDS_S = (0.35, 1.0), (0.5, 1.6)
"""The same of a fish, until it spits the fly out; the gentlest look like stones (stated here)."""

HUNG_LASTS_S = 0.8
"""A fly that is lifted off its stone has stood so long (stated here)."""

STUTTER_DIP, GONE_DIP = 0.4, 0.85
"""Below the one it is called a stutter, above the other gone."""

SETTLE_S = 0.4
"""What comes sooner is the splash of the cast."""


@dataclass(frozen=True)
class Take:
    """A fish that takes: when, how long it holds on, how far it pulls, and which fly, by its place from the bottom."""

    at_s: float
    holds_s: float
    dip: float
    fly: int


@dataclass(frozen=True)
class Event:
    """Something that shows: when, for how long, and how far it pulls (1: under)."""

    at_s: float
    lasts_s: float
    dip: float


@dataclass(frozen=True, order=True)
class Remark:
    """What shows at a moment, in words."""

    at_s: float
    words: str


@dataclass(frozen=True)
class Shown:
    """What is to be seen of one drift: pictures ``frame_s`` apart of how far the float or sighter has come (``x_m``), how far
    it is pulled under or held (``dip``, 0..1), beside bubbles of ``bubbles_m_s``. ``knock_s``: knocks in the hand.
    ``wake_s``: from when it pulls a wake. ``said``: the same in words, for those who hear the screen.
    """

    frame_s: float
    x_m: tuple[float, ...]
    dip: tuple[float, ...]
    bubbles_m_s: float
    knock_s: tuple[float, ...]
    wake_s: float | None
    ends_s: float
    said: tuple[Remark, ...]


def _between(low_high: tuple[float, float], share: float) -> float:
    return low_high[0] + (low_high[1] - low_high[0]) * share


def touches(ran: Ran) -> list[tuple[float, float]]:
    """Return when the lowest fly met stones, and for how long, s."""
    on = ran.inside > TOUCH
    edges = np.nonzero(np.diff(on.astype(int)))[0] + 1
    if on[0]:
        edges = np.concatenate([[0], edges])
    ends = edges[1::2] if len(edges) % 2 == 0 else np.append(edges[1::2], len(on) - 1)
    return [
        (float(ran.t_s[a]), float(ran.t_s[b] - ran.t_s[a])) for a, b in zip(edges[::2], ends, strict=True)
    ]


def events(ran: Ran, luck: Luck, take: Take | None, world: World) -> list[Event]:
    """Return all that shows in a drift, in time."""
    found: list[Event] = []
    chance = np.random.default_rng(luck.stones + 1)
    if ran.felt:
        for at, lasts in touches(ran)[:MOST_TOUCHES]:
            dip, least = _between(STONE_DIP, chance.uniform()), _between(STONE_LASTS_S, chance.uniform())
            if at > SETTLE_S:
                found.append(Event(at, min(least, max(STONE_LASTS_S[0], lasts)), dip))
    elif luck.chances[3] < world.weed:
        found.append(Event(max(SETTLE_S, ran.until_s * float(luck.chances[2])), 0.3, 0.3))
    if ran.hung_s is not None:
        rest = float(ran.t_s[-1]) - ran.hung_s
        found.append(Event(ran.hung_s, rest if ran.until_s <= ran.hung_s else min(rest, HUNG_LASTS_S), 0.8))
    if take is not None:
        found.append(Event(take.at_s, take.holds_s, take.dip))
    return sorted((one for one in found if one.at_s <= ran.t_s[-1]), key=lambda one: one.at_s)


def _says(event: Event, *, tip: bool) -> str:
    if tip:
        return "a knock" if event.dip < STUTTER_DIP else "the sighter stops"
    if event.dip < STUTTER_DIP:
        return "the float stutters"
    return "the float goes under" if event.dip > GONE_DIP else "the float dips and stops"


def shown(ran: Ran, luck: Luck, take: Take | None, world: World, *, tip: bool) -> Shown:
    """Return what shows of a drift, to its end if nobody strikes."""
    happens = events(ran, luck, take, world)
    t, top = ran.t_s, ran.top_x_m
    dip: Array = np.zeros(len(t))
    for one in happens:
        inside = (t >= one.at_s) & (t <= one.at_s + one.lasts_s)
        # it comes at once and goes as it came
        rise = np.minimum(1.0, np.minimum(t - one.at_s, one.at_s + one.lasts_s - t) / 0.1 + 0.4)
        dip = np.where(inside, np.maximum(dip, one.dip * rise), dip)
    speed = np.gradient(top, t) * (1.0 - np.minimum(1.0, 1.2 * dip))
    if ran.drags_s is not None:
        speed = np.where(t > ran.drags_s, 1.25 * speed, speed)
    x = float(top[0]) + np.concatenate([[0.0], np.cumsum(speed[1:] * np.diff(t))])
    every = max(1, round(FRAME_S / float(t[1] - t[0])))
    ends = float(t[-1])
    said = [Remark(round(one.at_s, 2), _says(one, tip=tip)) for one in happens]
    if ran.drags_s is not None:
        said.append(Remark(round(ran.drags_s, 2), "the float pulls a wake"))
    return Shown(
        frame_s=every * float(t[1] - t[0]),
        x_m=tuple(float(v) for v in np.round(x[::every], 3)),
        dip=tuple(float(v) for v in np.round(dip[::every], 2)),
        bubbles_m_s=round(ran.speed_m_s, 3),
        knock_s=tuple(round(one.at_s, 2) for one in happens) if tip else (),
        wake_s=None if ran.drags_s is None else round(ran.drags_s, 2),
        ends_s=round(ends, 2),
        said=tuple(sorted(said)),
    )


def takes(ran: Ran, at_home: int, keen: float, near: Bools, chance: np.random.Generator) -> Take | None:
    """Return when a fish takes, if one does: the longer a fly passes near them in the zone, the likelier.

    ``near`` (T): whether the lowest fly is where they lie. The same numbers are drawn whether or not anybody is at home.
    """
    when, holds, dip, which = chance.uniform(size=4)
    step = float(ran.t_s[1] - ran.t_s[0])
    passed = np.cumsum((ran.in_zone & near) * step) * keen * at_home
    over = np.nonzero(passed > -math.log(max(1e-12, when)))[0]
    if not len(over):
        return None
    k = int(over[0])
    zone = ran.zone
    there = [b for b, one in enumerate(ran.heights_m[:, k]) if zone.low_m <= one <= zone.high_m]
    fly = there[int(which * len(there))] if there else 0
    return Take(float(ran.t_s[k]), _between(FISH_HOLDS_S, holds), _between(FISH_DIP, dip), fly)

"""What a log answers: one sentence with its certainty, then the parts with their intervals, then what confounds it."""

import math
from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import compress
from typing import Any, Literal, NamedTuple

import numpy as np

from deriva.core.learn.dimensions import DIMENSIONS, Dimension, DimensionName, within
from deriva.core.learn.effort import MOST_OUTINGS
from deriva.core.learn.pooled import Between, Contrast, Pooled, Rows, counted, pooled
from deriva.core.learn.question import PER_WORDS, WORDS, Question
from deriva.core.learn.strata import Mixed, Two, mixed_up
from deriva.core.model.quantity import percent

SURE, LIKELY = 0.95, 0.8

NEVER_ALL = 0.99

MOST_PARTS = 20
"""Of what has more parts, such as flies, those that were fished most are compared."""

FEW_SPREADS = 8
"""Within similar water the spreads are not sought anew: so many that the log made likeliest are tried."""

TOO_MANY = 5000
"""Drifts that nobody will fish to settle a question."""

Numbers = Any
"""A numpy array, one number a row."""

Certainty = Literal["sure", "likely", "open", "alone", "empty"]


class Row(NamedTuple):
    """What one outing had at one part in one water: ``water`` has a part of every dimension of :func:`within`, in its order."""

    outing: int
    part: str
    water: tuple[str, ...]
    hits: int
    drifts: int
    hours: float


class Tally(NamedTuple):
    """The same of many, column by column, all equally long: much of a log is handed about so in a tenth of the time."""

    outing: Sequence[int]
    part: Sequence[str]
    water: Sequence[tuple[str, ...]]
    hits: Sequence[int]
    drifts: Sequence[int]
    hours: Sequence[float]

    @classmethod
    def of(cls, rows: Sequence[Row]) -> "Tally":
        """Return rows by columns."""
        return cls(*(zip(*rows, strict=True) if rows else ((),) * len(cls._fields)))

    def rows(self) -> list[Row]:
        """Return the rows one by one."""
        return [Row._make(row) for row in zip(*self, strict=True)]


@dataclass(frozen=True, slots=True)
class Part:
    """One part with what was counted, and the rates that this says: of drifts, or an hour."""

    key: str
    label: str
    outings: int
    drifts: int
    hours: float
    count: int
    rate: Between
    """As it was fished."""
    alike: Between
    """As if every part had been fished in the same mix of water."""


@dataclass(frozen=True, slots=True)
class Answer:
    """An answer. ``chance``: that ``best`` is better than ``other`` within similar water, by ``more`` a drift (an hour).

    ``more_drifts``: so many more, spread over both, would tell; None where it is told, or no number would.
    """

    question: str
    sentence: str
    certainty: Certainty
    rests_on: str
    also: str | None = None
    """What else is sure."""
    chance: float | None = None
    best: str | None = None
    other: str | None = None
    more: Between | None = None
    more_drifts: int | None = None
    confounds: tuple[str, ...] = ()
    parts: tuple[Part, ...] = ()
    left_out: int = 0
    """Parts that were fished too little to be compared."""


class _Coded(NamedTuple):
    """The rows in numbers, column by column."""

    outing: Numbers
    level: Numbers
    stratum: Numbers
    waters: Sequence[tuple[str, ...]]
    """What each stratum is."""
    hits: Numbers
    drifts: Numbers
    hours: Numbers
    effort: Numbers
    """Drifts or hours, as it is asked."""


def _coded(question: Question, tally: Tally, keys: Sequence[str]) -> _Coded:
    """Return the rows of some parts, and of those that took time where that is the effort."""
    code = {key: k for k, key in enumerate(keys)}
    level = np.array([code.get(one, -1) for one in tally.part])
    hits, drifts, hours = (np.array(one, dtype=np.float64) for one in (tally.hits, tally.drifts, tally.hours))
    kept = (level >= 0) & ((question.per == "drift") | (hours > 0.0))
    effort = drifts if question.per == "drift" else hours
    water = list(compress(tally.water, kept))
    waters = sorted(set(water))
    place = {one: s for s, one in enumerate(waters)}
    stratum = np.array([place[one] for one in water], dtype=np.int64)
    return _Coded(
        np.array(tally.outing)[kept], level[kept], stratum, waters, hits[kept], drifts[kept], hours[kept], effort[kept]
    )  # fmt: skip


def answer(question: Question, tally: Tally, names: Mapping[str, str]) -> Answer:
    """Answer from what was counted; ``names`` says what lies and beats are called."""
    dimension = DIMENSIONS[question.by]
    drifts: Counter[str] = Counter()
    for part, count in zip(tally.part, tally.drifts, strict=True):
        drifts[part] += count
    most = sorted(drifts, key=lambda key: (-drifts[key], key))[:MOST_PARTS]
    keys = dimension.ordered(most)
    if not keys:
        return _empty(question, names)
    coded = _coded(question, tally, keys)
    if not coded.waters:  # none of it took time of the kind that is asked for
        return _empty(question, names)
    as_fished = pooled(_summed(coded, question, len(keys)))
    alike = as_fished
    if len(coded.waters) > 1 and len(keys) > 1:
        spreads = [fit.spreads for fit in as_fished.fits[:FEW_SPREADS]]
        alike = pooled(_summed(coded, question, len(keys), by_water=True), spreads)
    parts = tuple(
        Part(key, dimension.label(key, names), *_effort(coded, k), as_fished.rate(k), alike.rate(k))
        for k, key in enumerate(keys)
    )
    if len(parts) == 1:
        return _alone(question, names, parts[0], left_out=len(drifts) - 1)
    best, other = _pair(question, parts)
    contrast = alike.contrast(best, other)
    chance = _chance(question, alike, best, other)
    worse = [
        k for k in range(len(keys)) if k not in (best, other) and _chance(question, alike, best, k) >= SURE
    ]
    more = _more_drifts(contrast, _fished(question, (parts[best], parts[other])))
    pair = _Pair(question, parts[best], parts[other])
    mixed = _mixed(question, coded, best, other)
    return Answer(
        question=question.words(names),
        sentence=pair.sentence(chance, more),
        also=_also(pair, parts, worse),
        certainty="sure" if chance >= SURE else "likely" if chance >= LIKELY else "open",
        chance=chance,
        best=keys[best],
        other=keys[other],
        more=contrast.more,
        more_drifts=None if chance >= SURE else more,
        rests_on=_rests_on(question, parts, len(np.unique(coded.outing))),
        confounds=tuple(pair.confound(*one) for one in mixed),
        parts=parts,
        left_out=len(drifts) - len(parts),
    )


def _effort(coded: _Coded, level: int) -> tuple[int, int, float, int]:
    """Return outings, drifts, hours and hits of a part."""
    of = coded.level == level
    hours = float(coded.hours[of].sum())
    return len(np.unique(coded.outing[of])), int(coded.drifts[of].sum()), hours, int(coded.hits[of].sum())


def _together(question: Question) -> Callable[[Iterable[float]], float]:
    """Return how the efforts of parts add up: what is known of fish alone was fished in the same drifts."""
    return max if DIMENSIONS[question.by].of_fish else sum


def _fished(question: Question, parts: Sequence[Part]) -> int:
    return int(_together(question)(part.drifts for part in parts))


def _summed(coded: _Coded, question: Question, levels: int, *, by_water: bool = False) -> Rows:
    """Return the rows added up by outing and level, and by water where that is wanted."""
    count = len(coded.waters) if by_water else 1
    code = (coded.outing * levels + coded.level) * count + (coded.stratum if by_water else 0)
    found, where = np.unique(code, return_inverse=True)
    hits = np.bincount(where, weights=coded.hits)
    effort = np.bincount(where, weights=coded.effort)
    times = question.per != "drift"
    return counted(
        hits.tolist(), effort.tolist(), (found // (levels * count)).tolist(),
        ((found // count) % levels).tolist(), levels=levels, stratum=(found % count).tolist(), strata=count, times=times,
    )  # fmt: skip


def _pair(question: Question, parts: Sequence[Part]) -> tuple[int, int]:
    """Return which part is best within similar water, and which it is held against: the other that is fished most."""
    sign = -1.0 if question.measure == "hung" else 1.0
    best = max(range(len(parts)), key=lambda k: sign * parts[k].alike.median)
    return best, max((k for k in range(len(parts)) if k != best), key=lambda k: parts[k].drifts)


def _chance(question: Question, alike: Pooled, one: int, other: int) -> float:
    """Return how likely one part is better than another: of hang-ups, fewer are."""
    more = alike.chance(one, other)
    return 1.0 - more if question.measure == "hung" else more


def _more_drifts(contrast: Contrast, drifts: int) -> int | None:
    """Return how many drifts more would make a difference as large as it looks sure: the spread shrinks with their root."""
    if contrast.mean == 0.0:
        return None
    wanted = 1.645 * contrast.sd / abs(contrast.mean)
    needed = drifts * (wanted * wanted - 1.0)
    if needed > TOO_MANY:
        return None
    return max(10, math.ceil(needed / 10.0) * 10)


def _number(question: Question, rate: float) -> str:
    if question.per != "drift":
        return f"{rate:.1f}"
    count = 100.0 * rate
    return f"{count:.0f}" if count >= 9.5 else f"{count:.1f}"


def _per(question: Question, rate: Between) -> str:
    _, many = WORDS[question.measure]
    per = "in 100 drifts" if question.per == "drift" else PER_WORDS[question.per]
    return f"{_number(question, rate.median)} {many} {per}"


def _between(question: Question, rate: Between) -> str:
    return f"{_number(question, rate.low)} to {_number(question, rate.high)}"


def _sure(chance: float) -> str:
    return f"{percent(chance)} sure" if chance < NEVER_ALL else f"More than {percent(NEVER_ALL)} sure"


def _upper(text: str) -> str:
    return text[:1].upper() + text[1:]


@dataclass(frozen=True, slots=True)
class _Pair:
    """Two parts held against each other, to be put into words."""

    question: Question
    best: Part
    other: Part

    @property
    def dimension(self) -> Dimension:
        return DIMENSIONS[self.question.by]

    def named(self, part: Part) -> str:
        return self.dimension.of.format(part.label)

    def sentence(self, chance: float, more: int | None) -> str:
        """Say which is better, how sure that is, and what would tell."""
        first, second = self.named(self.best), self.named(self.other)
        held_against = _number(self.question, self.other.alike.median)
        rates = f"{_per(self.question, self.best.alike)} against {held_against}, in similar water"
        better = "hangs less" if self.question.measure == "hung" else "does better"
        would_tell = f"About {more} drifts more would tell."
        is_so, may_be = f"{first} {better} than {second}", f"{first} likely {better} than {second}"
        if self.dimension.of_fish:
            is_so, may_be = (f"more fish {took} {first} than {second}" for took in ("took", "likely took"))
        if chance >= SURE:
            return f"{_upper(is_so)}: {rates}. {_sure(chance)}."
        if more is None:
            return f"No difference to be seen between {first} and {second}: {rates}."
        if chance >= LIKELY:
            return f"{_upper(may_be)}: {rates}. {_sure(chance)}. {would_tell}"
        return f"Not enough to say whether {is_so}: {rates}. {would_tell}"

    def confound(self, name: DimensionName, key: str, one: Mixed) -> str:
        """Say what the two were mixed up with."""
        water = DIMENSIONS[name]
        where = water.of.format(water.label(key, {})) if key else f"a {water.words} that was not said"
        left = {
            "gone": "the difference is gone",
            "only there": "there is a difference, and over all there is none",
            "turned": "it is the other way round",
            "smaller": "the difference is smaller",
            "larger": "the difference is larger",
        }[one.left]
        return (
            f"{_upper(self.named(self.best))} was fished in {where} in {percent(one.share)} of its drifts, "
            f"{self.named(self.other)} in {percent(one.other_share)}; within the same {water.words} {left}."
        )


def _also(pair: _Pair, parts: Sequence[Part], worse: Sequence[int]) -> str | None:
    if not worse:
        return None
    said = [pair.named(parts[k]) for k in worse]
    listed = " and ".join([", ".join(said[:-1]), said[-1]] if len(said) > 1 else said)
    worse_so = (
        "hangs more" if pair.question.measure == "hung" else "fewer" if pair.dimension.of_fish else "worse"
    )
    return f"Clearly {worse_so} than {pair.named(pair.best)}: {listed}."


def _rests_on(question: Question, parts: Sequence[Part], outings: int) -> str:
    drifts, hours = _fished(question, parts), _together(question)(part.hours for part in parts)
    where = "in the zone" if question.per == "zone_hour" else "of fishing"
    return (
        f"{drifts} drifts in {hours:.0f} hours {where} on {outings} outing{'' if outings == 1 else 's'}, of the newest "
        f"{MOST_OUTINGS}. Drifts of one outing count as alike, and what was fished little is drawn towards the rest."
    )


def _empty(question: Question, names: Mapping[str, str]) -> Answer:
    return Answer(question.words(names), "No drift in the log answers that.", "empty", rests_on="Nothing.")


def _alone(question: Question, names: Mapping[str, str], part: Part, *, left_out: int) -> Answer:
    sentence = (
        f"All of it was {_Pair(question, part, part).named(part)}: {_per(question, part.rate)} "
        f"({_between(question, part.rate)}, 9 times in 10). There is nothing to hold it against."
    )
    return Answer(
        question.words(names), sentence, "alone", best=part.key, rests_on=_rests_on(question, (part,), part.outings),
        parts=(part,), left_out=left_out,
    )  # fmt: skip


def _mixed(
    question: Question, coded: _Coded, best: int, other: int
) -> list[tuple[DimensionName, str, Mixed]]:
    """Return with what the two were mixed up: what it is, which part of it, and how much."""
    found: list[tuple[DimensionName, str, Mixed]] = []
    effort = np.maximum(coded.effort, coded.hits)
    of_best, of_other = coded.level == best, coded.level == other
    for name, parts in zip(within(question.by), zip(*coded.waters, strict=True), strict=True):
        keys = sorted(set(parts))
        which = np.array([keys.index(part) for part in parts])[coded.stratum]
        sums = [
            np.bincount(which[of], weights=counts[of], minlength=len(keys)).tolist()
            for of in (of_best, of_other)
            for counts in (coded.hits, effort)
        ]
        # whichever of the two was the more in some water: it is said of that one
        one = mixed_up([Two(*table) for table in zip(*sums, strict=True)])
        if one is not None:
            found.append((name, keys[one.stratum], one))
    return found

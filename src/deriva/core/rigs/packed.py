"""Marches as they travel: what was reckoned for a lie's rigs where that is quick, for a device where it is slow."""

import math
import sys
import zlib
from array import array
from base64 import b64decode, b64encode
from binascii import Error as NotBase64
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import chain
from operator import sub
from typing import Annotated

from deriva.core.check import Checked
from deriva.core.drift.marches import CLOSER_BY_THE_BED, HEIGHTS, LYING, MARKS, NONE, UNIT
from deriva.core.errors import DerivaError, NotRead
from deriva.core.model.rig import Rig
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import SPEED_SD_SHARE, Water
from deriva.core.ranges import DEPTH_M, SURFACE_SPEED_M_S, Most, Text
from deriva.core.rigs.hung import (
    DEPTH_STEP,
    PIECES,
    REACH,
    SPACING_STEP_M,
    SPEED_STEP,
    Family,
    FamilyKey,
    March,
    Node,
    corners,
    family,
    waters_about,
)
from deriva.core.rigs.offers import points
from deriva.core.rigs.resolve import resolve

FIELDS = len(March._fields)
NOWHERE = March(*(array("H", (NONE,) * MARKS) for _ in range(FIELDS)))
"""Stands for a water that the rig cannot be in."""

MADE = " ".join(
    str(one) for one in (2, HEIGHTS, LYING, CLOSER_BY_THE_BED, DEPTH_STEP, SPEED_STEP, PIECES, REACH, UNIT)
)
"""How marches are made: those that were made otherwise are not read. The first number goes up with the physics."""

DEEPER, FASTER = 2.0, 1.6
"""Waters packed reach so many times deeper and shallower, faster and slower than read, for when it is read again."""

REACH_SD, SPEED_REACH_SD = 3.0, 2.0
"""And at least as far as a belief reaches that was begun from the reading, in standard deviations."""

WIDEST, FASTEST = 3.0, 2.0
"""And no further, whatever is not known: so much is marched for one question, and no more."""

PRESSED = 7
"""How hard the texts are pressed: by half a hundredth less than they can be, in a quarter of the time."""

MOST_RIGS, MOST_KIN, MOST_TEXT = 4, 24, 60_000

MOST_LIES = 16
"""Lies of which it is remembered what travels with them."""


@dataclass(frozen=True, slots=True)
class PackedRig(Checked):
    """A rig on every bead that it may be given, each as one text."""

    tuning: Tuning
    marches: Annotated[tuple[Annotated[str, Text(most=MOST_TEXT)], ...], Most(MOST_KIN)]


@dataclass(frozen=True, slots=True)
class Packed(Checked):
    """What was reckoned for some rigs at a lie, and how it was made."""

    situation: Situation
    made: Annotated[str, Text()]
    rigs: Annotated[tuple[PackedRig, ...], Most(MOST_RIGS)]


def pack(situation: Situation, tunings: Sequence[Tuning]) -> Packed:
    """Reckon the marches of some rigs, on every bead, in the waters that a lie may be."""
    return together(situation, [pack_rig(situation, tuning) for tuning in tunings])


def pack_rig(situation: Situation, tuning: Tuning) -> PackedRig:
    """Reckon the marches of one rig. Raises :class:`DerivaError` for one that cannot be set here."""
    resolve(tuning, situation)  # said now and not by silence
    waters = _waters(situation.water)
    return PackedRig(tuning, tuple(packed(one, waters) for one in _kin(tuning, situation)))


def together(situation: Situation, rigs: Sequence[PackedRig]) -> Packed:
    """Return the rigs of a lie as they travel."""
    return Packed(situation, MADE, tuple(rigs))


def unpack(given: Packed) -> int:
    """Keep what was packed for when it is asked for; return how many families. Raises :class:`NotRead` for what was made
    otherwise than here.
    """
    if given.made != MADE:
        raise NotRead(f"made = {given.made!r}: marches are made {MADE!r} here", field="made")
    waters = _waters(given.situation.water)
    count = 0
    for k, rig in enumerate(given.rigs):
        kin = _kin(rig.tuning, given.situation)
        if len(kin) != len(rig.marches):
            raise NotRead(
                f"rigs.{k}.marches has {len(rig.marches)} entries; {len(kin)} are wanted",
                field=f"rigs.{k}.marches",
            )
        for one, text in zip(kin, rig.marches, strict=True):
            unpacked(text, one, waters)
        count += len(kin)
    return count


@dataclass(frozen=True, slots=True)
class Along:
    """What travels with some rigs of a lie: which families, and in which waters."""

    families: frozenset[FamilyKey]
    waters: frozenset[Node]

    def has(self, rig: Rig, water: Water) -> bool:
        """Return whether the marches of a rig in the water believed are among them."""
        return family(rig, water.bed, water.temperature_c).key in self.families and self.waters.issuperset(
            corners(water.column())
        )


@lru_cache(maxsize=MOST_LIES)
def along(situation: Situation, tunings: tuple[Tuning, ...]) -> Along:
    """Return what :func:`pack` packs of some rigs, without reckoning it."""
    kin = (one for tuning in tunings for one in _kin(tuning, situation))
    return Along(frozenset(one.key for one in kin), frozenset(_waters(situation.water)))


def _waters(water: Water) -> list[Node]:
    wide = min(WIDEST, max(DEEPER, math.exp(REACH_SD * water.spread_m / water.depth_m)))
    sd = SPEED_SD_SHARE if water.speed_sd_m_s is None else water.speed_sd_m_s / water.surface_speed_m_s
    fast = min(FASTEST, max(FASTER, math.exp(SPEED_REACH_SD * sd)))
    return waters_about(
        water,
        depth_m=(DEPTH_M.clamp(water.depth_m / wide), DEPTH_M.clamp(water.depth_m * wide)),
        speed_m_s=(
            SURFACE_SPEED_M_S.clamp(water.surface_speed_m_s / fast),
            SURFACE_SPEED_M_S.clamp(water.surface_speed_m_s * fast),
        ),
    )


def _kin(tuning: Tuning, situation: Situation) -> list[Family]:
    """Return the families that a rig may be changed into by its bead and by inches of line, each once."""
    found: dict[Family, None] = {}
    for bead in (tuning.point_bead_mm, *points(situation)):
        try:
            rig = resolve(replace(tuning, point_bead_mm=bead, float_=None), situation)
        except DerivaError:
            continue  # no float carries it, or the flies do not fit
        for one in _closer(rig):
            found[family(one, situation.water.bed, situation.water.temperature_c)] = None
    return list(found)[:MOST_KIN]


def _closer(rig: Rig) -> list[Rig]:
    """Return a rig, and with its two flies closer together, as a shorter line has them."""
    spacing = rig.dropper_spacing_m or 0.0
    steps = max(1, round(spacing / SPACING_STEP_M))
    return [rig, *(replace(rig, dropper_spacing_m=SPACING_STEP_M * k) for k in range(1, steps))]


def packed(kin: Family, waters: Sequence[Node]) -> str:
    """Return a family's marches in some waters as a text. From water to water they differ by little: that is kept, pressed."""
    marches = array("H", b"".join(chain.from_iterable(march or NOWHERE for march in kin.in_waters(waters))))
    steps = array("i")
    for k in range(FIELDS * MARKS):
        row = marches[k :: FIELDS * MARKS]
        steps.extend(map(sub, row, chain((0,), row)))
    if sys.byteorder == "big":
        steps.byteswap()
    data = steps.tobytes()
    low, high = data[:: steps.itemsize], data[1 :: steps.itemsize]
    return b64encode(zlib.compress(low + high, PRESSED)).decode()


def unpacked(text: str, kin: Family, waters: Sequence[Node]) -> None:
    """Give a family the marches that were packed for it in the same waters; raises :class:`NotRead` where they are others."""
    wanted = FIELDS * MARKS * len(waters)
    try:
        press = zlib.decompressobj()
        data = press.decompress(b64decode(text, validate=True), 2 * wanted + 1)
    except (zlib.error, NotBase64) as error:
        raise NotRead(f"marches: {error}", field="marches") from None
    if len(data) != 2 * wanted:
        raise NotRead(f"marches hold {len(data)} bytes; {2 * wanted} are wanted", field="marches")
    values: list[int] = []
    for k in range(0, wanted, len(waters)):
        value = 0
        for n in range(k, k + len(waters)):
            value = (value + data[n] + 256 * data[wanted + n]) % 65536
            values.append(value)
    marches: dict[Node, March | None] = {}
    for n, node in enumerate(waters):
        row = values[n :: len(waters)]
        march = March(*(array("H", row[field * MARKS : (field + 1) * MARKS]) for field in range(FIELDS)))
        marches[node] = None if march == NOWHERE else march
    kin.take(marches)

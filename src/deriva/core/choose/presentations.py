"""Other ways to show a nymph, where they win: how each is fished, and why here. All of it common practice, no source."""

from collections.abc import Callable, Collection
from dataclasses import dataclass

from deriva.core.model.quantity import qty
from deriva.core.model.rig import RIG_KINDS, RigKind
from deriva.core.model.situation import Situation
from deriva.core.water.warmth import CHASES_C


@dataclass(frozen=True, slots=True)
class Presentation:
    """A way to fish, with which rig, how, and why here."""

    name: str
    rig: RigKind
    how: str
    why: str


Judge = Callable[[Situation], str | None]
"""Says why a presentation wins in a situation, or None where it does not."""


def _short_line(s: Situation) -> str | None:
    water = s.water
    near = s.place.distance_m <= 5.0 and water.depth_m <= 1.0
    if near and water.surface_speed_m_s >= 0.7 and water.kind in ("pocket", "pool_head", "riffle", "run"):
        return f"fast broken water at {qty(s.place.distance_m, 'm', 1)}: a tight short line feels the take before it is over"
    return None


def _inverted(s: Situation) -> str | None:
    if s.water.undertow:
        return "the bottom outruns the top: with the tip still the flies pass under it at their own pace"
    if (
        s.water.kind in ("seam", "drop_off")
        and s.place.distance_m <= 7.0
        and s.water.surface_speed_m_s >= 0.3
    ):
        return "fish hold on an edge: a tip that stops lets the flies come on and rise before them"
    return None


def _lifted(s: Situation) -> str | None:
    if s.water.surface_speed_m_s <= 0.15 or s.water.kind == "eddy":
        return f"at {qty(s.water.surface_speed_m_s, 'm/s')} nothing moves the fly but you"
    return None


def _floated_sighter(s: Situation) -> str | None:
    if 7.0 < s.place.distance_m <= 11.0 and s.water.surface_speed_m_s <= 0.7:
        return f"at {qty(s.place.distance_m, 'm', 1)} there is more line out than a tip holds off the water"
    if s.place.wind_m_s >= 5.0 and s.place.distance_m <= 11.0:
        return f"wind of {qty(s.place.wind_m_s, 'm/s air', 0)} takes a hanging sighter; its end in the water anchors it"
    return None


def _two_dries(s: Situation) -> str | None:
    if s.fish.level == "surface" and s.rules.max_flies >= 2 and s.water.surface_speed_m_s <= 0.9:
        return "fish take at the top: the large one marks where the small one is, and any rise beside it is struck"
    return None


def _pupa_under_dry(s: Situation) -> str | None:
    if s.fish.rises == "no_bubbles" and s.rules.max_flies >= 2:
        return "rises that leave no bubble are to food just under the surface"
    return None


def _followed_bugs(s: Situation) -> str | None:
    high = s.water.flow_class in ("above_normal", "much_above_normal")
    if high and s.water.clarity_m < 0.6 and s.rules.added_weight:
        return "in a coloured spate fish lie close in and the flies must stay where they cannot see far"
    return None


def _upstream_light(s: Situation) -> str | None:
    water = s.water
    if water.clarity_m >= 2.0 and water.depth_m <= 0.7 and 0.15 <= water.surface_speed_m_s <= 0.7:
        return f"clear water {qty(water.depth_m, 'm')} deep: nothing heavy may land near them, and you stay behind them"
    return None


def _jigged(s: Situation) -> str | None:
    water = s.water
    deep = water.depth_m >= 0.9 and water.kind in ("pocket", "pool_head", "undercut", "drop_off")
    if deep and CHASES_C[0] <= water.temperature_c < CHASES_C[1]:
        return (
            f"a hole of {qty(water.depth_m, 'm')} may hold one large fish that does not leave it for a nymph"
        )
    return None


def _is_swung_across(s: Situation) -> bool:
    """Return whether a fly can swing through, and whether fish see it come and leave their place for it."""
    water = s.water
    steady = not water.undertow and 0.25 <= water.surface_speed_m_s <= 0.9
    chased = water.clarity_m >= 0.5 and CHASES_C[0] <= water.temperature_c < CHASES_C[1]
    return steady and chased and not s.place.tight_casting


def _two_wets(s: Situation) -> str | None:
    water = s.water
    broad = water.kind in ("riffle", "run", "seam", "glide", "tail_out") and water.depth_m <= 1.2
    if broad and s.rules.max_flies >= 2 and _is_swung_across(s):
        return f"steady water at {qty(water.surface_speed_m_s, 'm/s')}: where nymphs fail, it is soon searched so"
    return None


def _swung_streamer(s: Situation) -> str | None:
    water = s.water
    roomy = water.kind in ("run", "pool", "pool_head", "tail_out", "undercut", "bank_edge")
    if roomy and water.depth_m >= 0.7 and _is_swung_across(s):
        return f"at {qty(water.temperature_c, '°C', 0)} a large fish chases: where nymphs fail, it may be provoked"
    return None


WAYS: tuple[tuple[str, tuple[RigKind, ...], str, Judge], ...] = (
    (
        "Short line, led", ("euro",),
        "One heavy nymph under the tip; lead it a little faster than the current, and lift at every stop.", _short_line,
    ),
    ("Inverted drift", ("euro",), "Hold the tip still over them and let the sighter pass under it.", _inverted),
    (
        "Lifted nymph", ("dry_dropper", "indicator"),
        "Let it sink, then lift the rod a few centimetres, and again: a dry on its own tag stays put, the nymph dances.",
        _lifted,
    ),
    (
        "Sighter on the water", ("euro",),
        "Grease the sighter and lay its end on the water; mend it like a fly line.", _floated_sighter,
    ),
    ("Two dries", ("dry_dropper",), "The small dry 15 to 40 cm behind the large; no nymph.", _two_dries),
    (
        "Pupa under the dry", ("dry_dropper",),
        "A soft-hackle pupa 30 to 45 cm under the dry: three drifts of it before anything else.", _pupa_under_dry,
    ),
    (
        "Weighted bugs, followed round", ("euro",),
        "A weighted leader and a long rod, no float: cast a little up and across, follow them round close to the bank, and "
        "slip in slack as they swing if they are not deep enough.",
        _followed_bugs,
    ),
    (
        "Light nymphs, upstream", ("euro",),
        "Unweighted or 2.0 mm, straight up on a greased line tip; strip at the pace of the current.", _upstream_light,
    ),
    (
        "Small streamer, jigged", ("euro",),
        "First cast jigged through the hole, the next dead-drifted through the same.", _jigged,
    ),
    (
        "Two wet flies, down and across", RIG_KINDS,
        "No float, two soft-hackled flies: cast across and a little down, let them swing round on a tight line, then take two "
        "steps down.",
        _two_wets,
    ),
    (
        "Small streamer, swung", RIG_KINDS,
        "No float, one streamer: cast across, let it sink, let it swing past cover on a tight line with a twitch now and then.",
        _swung_streamer,
    ),
)  # fmt: skip


def presentations(situation: Situation, usable: Collection[RigKind] = RIG_KINDS) -> tuple[Presentation, ...]:
    """Return the presentations that win in a situation, with the reason; none of a kind of rig that is of no use there."""
    found = []
    for name, rigs, how, judge in WAYS:
        rig = next((kind for kind in rigs if kind in usable), None)
        why = judge(situation) if rig is not None else None
        if why is not None and rig is not None:
            found.append(Presentation(name, rig, how, why[0].upper() + why[1:] + "."))
    return tuple(found)

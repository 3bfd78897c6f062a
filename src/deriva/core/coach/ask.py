"""A coach's question as it comes in, from the wire or from the phone itself, and the answer to it."""

from dataclasses import asdict, dataclass, replace
from typing import Annotated

from deriva.core.check import Checked
from deriva.core.choose.judge import NotHere
from deriva.core.choose.search import Search, advise
from deriva.core.coach.belief import at_spot
from deriva.core.coach.evidence import FEED_FASTER, HELD_RUN, lifted, why_feed_faster, why_over_weed
from deriva.core.coach.next import Advised, Coaching, begun, coach, first_setting
from deriva.core.errors import DerivaError, Impossible
from deriva.core.model.logged import Fished, LoggedDrift
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import AsRead
from deriva.core.ranges import LANE, STANCE, Most
from deriva.core.rigs.resolve import TOO_HEAVY, resolve
from deriva.core.water.bottom import FIRST, Bottom, Spot

MOST_DRIFTS = 400
"""A day at one lie has not so many."""

MOST_SPOTS = int(LANE.hi * STANCE.hi)
"""Every spot of a lie: what is known of each is said once."""


@dataclass(frozen=True, slots=True)
class Asked(Checked):
    """The drifts at a lie, oldest first; ``tuning`` is the whole rig that is on, None where depth and bead say enough.

    ``lane`` and ``stance`` are where one stands now, None where the last drift was fished; ``bottom`` is what is
    known of it spot by spot. The situation is that of the lie, read at its first spot. Before the first drift, ``hangs`` says
    whether the rig is on the rod already, so that another bead costs a knot, or is only thought of.
    """

    situation: Situation
    rig: RigKind
    drifts: Annotated[tuple[Fished, ...], Most(MOST_DRIFTS)] = ()
    tuning: Tuning | None = None
    lane: Annotated[int, LANE] | None = None
    stance: Annotated[int, STANCE] | None = None
    bottom: Annotated[tuple[Bottom, ...], Most(MOST_SPOTS)] = ()
    hangs: bool = True

    @property
    def told(self) -> tuple[Fished, ...]:
        """The drifts that tell something: with weed on a hook neither the bed was felt nor a fly shown (common practice:
        a strand of weed ends the drift), and flies that their line lifts were not where they are reckoned to have been.
        """
        return tuple(one for one in self.drifts if not one.weed and not lifted(one, self.rig))

    @property
    def here(self) -> Spot:
        """Where one stands."""
        last = self.drifts[-1].spot if self.drifts else FIRST
        return Spot(self.lane or last.lane, self.stance or last.stance)


MOST_SETTINGS = 24
"""So many different settings of one stop, each under its reading, are weighed, the newest: each has to be worked out in every
water that the lie may be, and no angler changes so often (a bound on the work; on seeded waters the coach itself sets fewer
than ten in twenty drifts)."""


def _newest(drifts: tuple[Fished, ...]) -> tuple[Fished, ...]:
    """Return the drifts since the settings that are weighed."""
    settings: set[tuple[float, float | None, AsRead | None]] = set()
    for k in range(len(drifts) - 1, -1, -1):
        settings.add((drifts[k].depth_setting_m, drifts[k].point_bead_mm, drifts[k].read))
        if len(settings) > MOST_SETTINGS:
            return drifts[k + 1 :]
    return drifts


_TAKE = {"indicator": "take", "dry": "tie on"}


def _so_set(one: Fished | Tuning | Advised) -> tuple[float, float | None]:
    """Return depth setting, m, and bead, mm."""
    return one.depth_setting_m, one.point_bead_mm


def _rig(asked: Asked, setting: float, bead: float | None) -> Rig:
    tuning = Tuning(asked.rig, setting, bead)
    if asked.tuning is not None and asked.tuning.rig == asked.rig:
        # the float is chosen anew for the weight
        tuning = replace(asked.tuning, depth_setting_m=setting, point_bead_mm=bead, float_=None)
    return resolve(tuning, asked.situation)


def coached(asked: Asked, search: Search) -> Coaching:
    """Coach; raises the core's errors for a rig that cannot hang, naming the drift."""
    rigs: dict[tuple[float, float | None], Rig] = {}
    drifts = _newest(asked.told)
    last = asked.drifts[-1:] if asked.tuning is None else ()
    for one in (*drifts, *last):
        key = _so_set(one)
        try:
            rigs.setdefault(key, _rig(asked, *key))
        except DerivaError as error:
            k = asked.drifts.index(one)
            raise Impossible(f"drifts.{k}: {error.message}", field=f"drifts.{k}") from None
    # a rig is hung with the dry that would be chosen for it: the one that is on has to be told
    dry = asked.tuning.float_ if asked.tuning is not None and asked.rig == "dry_dropper" else None
    seen = [
        LoggedDrift(
            rigs[_so_set(one)],
            one.outcome,
            one.told,
            one.fly,
            one.phase,
            one.pattern,
            one.dried,
            one.dry or dry,
            one.spot,
            one.in_bottom,
            None if one.read is None else one.read.before(asked.situation.water),
        )
        for one in drifts
    ]
    here = asked.here
    situation = at_spot(asked.situation, asked.bottom, here)
    if asked.tuning is not None:
        on = _rig(asked, asked.tuning.depth_setting_m, asked.tuning.point_bead_mm)
    elif last:
        on = rigs[_so_set(last[0])]
    else:
        best = advise(situation, search).of(asked.rig)
        if isinstance(best, NotHere):
            raise Impossible(f"rig = {asked.rig}: {best.why}", field="rig")
        on = first_setting(situation, best.rig)
    done = coach(situation, on, seen, search, here)
    weed = why_over_weed(asked.drifts)
    return replace(done, notes=(weed, *done.notes)) if weed else done


def word(asked: Asked, search: Search) -> Coaching:
    """Return the coach's word: after the drifts so far; before the first, what to begin with in place of the rig told of.

    While the line holds every drift back, nothing is let down further or made heavier: it is to be fed faster first. What the
    float that is on would not carry comes with one that does.
    """
    done = _afloat(_reckoned(asked, search), asked)
    why, action = why_feed_faster(asked.drifts, asked.rig), done.advice.action
    if why is None or action not in ("hold", "deeper", "heavier"):
        return done
    on = _so_set(asked.tuning or asked.drifts[-1])
    if any(_so_set(one) != on or one.spot != asked.here for one in asked.drifts[-HELD_RUN:]):
        return done
    return replace(done, advice=Advised("hold", asked.rig, *on, why), notes=(FEED_FASTER, *done.notes))


def _reckoned(asked: Asked, search: Search) -> Coaching:
    """Return what follows from the drifts that tell something; before the first, what to begin with. So also where a spot was
    found before, or its water has changed, and it has not been fished since: what one stands there with may be set for another.
    One clean drift takes nothing of that back.
    """
    done, on = coached(asked, search), asked.tuning
    if on is None:
        return done
    here = asked.here
    if done.fished == 0:
        known = done.belief.changed or any(one.spot == here for one in asked.bottom)
        return done if asked.told and not known else _begun(done, asked, on)
    if done.fished > 1 or done.advice.action != "hold" or not _is_clean(asked.told[-1], on, here):
        return done
    still = _begun(done, asked, on)
    if still.advice.action == "hold":
        return done
    before = replace(asked, drifts=asked.told[:-1], lane=here.lane, stance=here.stance)
    return done if _reckoned(before, search).advice.action == "hold" else still


def _begun(done: Coaching, asked: Asked, on: Tuning) -> Coaching:
    rig = _rig(asked, on.depth_setting_m, on.point_bead_mm)
    return begun(done, at_spot(asked.situation, asked.bottom, asked.here), rig, hangs=asked.hangs)


def _afloat(done: Coaching, asked: Asked) -> Coaching:
    """Return the same with the float or dry that carries what is to be tied on, where the one that is on would go under."""
    advice, on = done.advice, asked.tuning
    if on is None or on.float_ is None or advice.rig != on.rig or advice.point_bead_mm == on.point_bead_mm:
        return done
    setting, bead = _so_set(advice)
    try:
        resolve(replace(on, depth_setting_m=setting, point_bead_mm=bead), asked.situation)
    except Impossible as fault:
        if fault.field != TOO_HEAVY:
            return done  # of a float that nobody knows nothing can be said
    else:
        return done  # it carries that too
    larger = _rig(asked, setting, bead).float_
    if larger is None:
        return done
    reason = f"{advice.reason} It would pull the {on.float_} under: {_TAKE[larger.kind]} the {larger.name}."
    return replace(done, advice=replace(advice, reason=reason, float_=larger.name))


def _is_clean(one: Fished, on: Tuning, here: Spot) -> bool:
    """Return whether a drift was clean, here, and with the rig that is on."""
    return one.outcome == "clean" and one.spot == here and _so_set(one) == _so_set(on)


def written(done: Coaching) -> dict[str, object]:
    """Return a coaching as plain data; sentences keep their marked quantities."""
    advice, thumb, belief = done.advice, done.thumb, done.belief
    return {
        "depth_belief_m": {f"p{p}": belief.depth(p / 100.0) for p in (10, 50, 90)},
        "advice": {
            "action": advice.action,
            "rig": advice.rig,
            "depth_setting_m": advice.depth_setting_m,
            "point_bead_mm": advice.point_bead_mm,
            "reason": advice.reason,
            "point_form": advice.point_form,
            "point_hook": advice.point_hook,
            "point_dressing": advice.point_dressing,
            "start_setting_m": advice.start_setting_m,
            "start_bead_mm": advice.start_bead_mm,
            "float": advice.float_,
        },
        "rule_of_thumb": None
        if thumb is None
        else {
            "action": thumb.action,
            "depth_setting_m": thumb.depth_setting_m,
            "point_bead_mm": thumb.point_bead_mm,
            "reason": thumb.reason,
        },
        "in_zone": done.in_zone,
        "taking_fish": done.taking_fish,
        "odds": asdict(done.odds),
        "notes": list(done.notes),
        "learned": None
        if done.learned is None
        else {"depth_m": done.learned.depth_m, "depth_sd_m": done.learned.depth_sd_m},
    }

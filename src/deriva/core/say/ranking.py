"""The three rigs for a situation with all that is said beside them, and as plain data for whoever shows them."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from deriva.core.choose.criteria import ZONE_WEIGHT
from deriva.core.choose.evaluate import Evaluation
from deriva.core.choose.judge import Judged, NotHere, Reason, Usable
from deriva.core.choose.presentations import Presentation, presentations
from deriva.core.choose.relax import relaxations
from deriva.core.choose.schools import Question, matters
from deriva.core.choose.search import Advice, Search, best_of, ordered
from deriva.core.choose.single_dry import SingleDry
from deriva.core.model.caution import Caution
from deriva.core.model.rig import NAMES, RIG_KINDS, RigKind
from deriva.core.model.setup import DrySetup, Setup
from deriva.core.model.situation import Situation
from deriva.core.read import write_noun
from deriva.core.rigs.limits import limits
from deriva.core.say.cautions import cautions
from deriva.core.say.picture import picture
from deriva.core.say.why import explain
from deriva.core.trade.casts import CastHere, casts_for

Plain = dict[str, object]


@dataclass(frozen=True, slots=True)
class Ranking:
    """An advice with what stands beside it: cautions, other ways to fish, questions of school whose answer can change it, and
    what to give up where nothing can be advised.
    """

    situation: Situation
    advice: Advice
    cautions: tuple[Caution, ...]
    presentations: tuple[Presentation, ...]
    casts: tuple[CastHere, ...]
    schools: tuple[Question, ...]
    relax: tuple[str, ...]


def rank(situation: Situation, search: Search) -> Ranking:
    """Rank the three rigs, each the best that a search finds."""
    return ranked(situation, [best_of(kind, situation, search) for kind in RIG_KINDS], search)


def ranked(situation: Situation, found: Sequence[Judged], search: Search) -> Ranking:
    """Rank what was found of each kind, and say what stands beside it."""
    advice = ordered(situation, found)
    usable = [one.kind for one in advice.usable]
    return Ranking(
        situation=situation,
        advice=advice,
        cautions=cautions(situation),
        presentations=presentations(situation, usable),
        casts=casts_for(situation),
        schools=matters(situation),
        relax=relaxations(situation, advice, search),
    )


def written(found: Ranking) -> Plain:
    """Return an advice as plain data; sentences keep their marked quantities."""
    ranked = [written_rig(judged, found.situation) for judged in found.advice.ranked]
    dry = found.advice.single_dry
    return {
        "ranked": ranked,
        "cautions": [one.text for one in found.cautions],
        "heed": write_noun(found.cautions),
        "rule_of_thumb": ranked[0]["rule_of_thumb"],
        "presentations": write_noun(found.presentations),
        "casts": write_noun(found.casts),
        "relax": list(found.relax),
        "schools": list(found.schools),
        "single_dry": None if dry is None else _written_dry(dry),
    }


def written_rig(judged: Judged, situation: Situation) -> Plain:
    """Return one judged rig as plain data. What is None could not be computed, because it cannot be used here."""
    beside = {
        "rig": judged.kind,
        "name": NAMES[judged.kind],
        "answer": judged.answer,
        "limits": _limits(situation, judged.kind),
        "zone_weight": ZONE_WEIGHT,
    }
    return beside | (_usable(judged, situation) if isinstance(judged, Usable) else _not_here(judged))


def _usable(judged: Usable, situation: Situation) -> Plain:
    e = judged.evaluation
    return {
        "score": judged.score,
        "zone_share": e.zone_share,
        "zone_share_low": e.zone_share_low,
        "zone_share_high": e.zone_share_high,
        "first_setting": e.is_first_setting,
        "reasons": _reasons(judged.reasons),
        "warnings": list(judged.warnings),
        "criteria": write_noun(judged.criteria),
        "loses_on": judged.loses_on,
        "setup": write_noun(Setup.of(e.rig, lead_m=e.lead_m)),
        "numbers": numbers(e),
        "picture": write_noun(picture(e)),
        "why": write_noun(explain(e, situation)),
        "rule_of_thumb": {"depth_setting_m": list(judged.thumb_m), "note": judged.thumb_note},
    }


def _not_here(judged: NotHere) -> Plain:
    return {
        "score": 0.0,
        "zone_share": 0.0,
        "zone_share_low": 0.0,
        "zone_share_high": 0.0,
        "first_setting": False,
        "reasons": _reasons([Reason(False, judged.why)]),
        "warnings": [judged.why],
        "criteria": [],
        "loses_on": None,
        "setup": None,
        "numbers": None,
        "picture": None,
        "why": [],
        "rule_of_thumb": {"depth_setting_m": list(judged.thumb_m), "note": ""},
    }


def numbers(e: Evaluation) -> Plain:
    """Return the figures of a rig in its water as plain data."""
    return {
        "fly_depth_m": e.steady.body_depth_m[0],
        "pace": e.steady.top_speed_ratio,
        "lean_deg": e.steady.top_angle_deg,
        "time_to_zone_s": e.time_to_zone_s,
        "hang_chance": e.hang_chance,
        "drift_m": e.drift_m,
        "drift_s": e.drift_s,
        "passes_s": e.passes_s,
        "carry": e.carry if math.isfinite(e.carry) else None,
        "grounded": e.steady.grounded,
        "lifted": e.steady.lifted,
    }


def _limits(situation: Situation, kind: RigKind) -> Plain:
    by_hand = limits(situation, kind)
    line = by_hand.depth_setting_m
    return {
        "beads_mm": list(by_hand.beads_mm),
        "least_m": line.lo,
        "most_m": line.hi,
        "step_m": by_hand.step_m,
        "heaviest_x": int(by_hand.tippet_x.lo),
        "finest_x": int(by_hand.tippet_x.hi),
        "fastest_pace": by_hand.tip_pace.hi,
        "flies": list(by_hand.flies),
        "floats": list(by_hand.floats),
        "point_flies": [
            {"form": one.words, "hook": one.hook, "dressing": one.dressing, "bead_mm": one.bead_mm}
            for one in by_hand.point_flies
        ],
        "own_flies": situation.box is not None and situation.box.flies is not None,
    }


def _reasons(reasons: Sequence[Reason]) -> list[Plain]:
    return [{"for": reason.speaks_for, "text": reason.text} for reason in reasons]


def _written_dry(one: SingleDry) -> Plain:
    return {
        "name": "Single dry",
        "setup": write_noun(DrySetup(float_=one.dry.name, tippet_x=one.tippet_x)),
        "score": one.score,
        "reasons": _reasons(one.reasons),
    }

"""The fly box, as it goes over the wire: what each thing in it weighs, sinks at and carries."""

from collections.abc import Sequence

from deriva.core.choose.missing import Missing
from deriva.core.drift.settling import settling_velocity
from deriva.core.rigs.offers import HOOK_FOR_BEAD
from deriva.core.tackle.flies import NYMPH_HOOKS, fly_body, shank_mm
from deriva.core.tackle.floats import DRIES, INDICATORS
from deriva.core.tackle.food import FORMS
from deriva.core.tackle.starter import STARTER_FLIES
from deriva.core.water.properties import GRAVITY_M_S2
from deriva.service.schemas.box import BoxItemOut, BoxOut, MissingOut
from deriva.service.store.models import BoxItem
from deriva.service.usecases.box import fly_of

STILL_C = 10.0
"""The temperature of the still water in which a fly's sinking is told."""


def box_out(there: Sequence[tuple[BoxItem, int]]) -> BoxOut:
    """Return the wire form of a box, each kind with how many of it were lost, and the words there are for what may go in."""
    forms = [form for form, _ in FORMS.values()] + [stock.fly.form for stock in STARTER_FLIES]
    return BoxOut(
        items=[_out(item, lost) for item, lost in there],
        beads_mm=sorted(HOOK_FOR_BEAD),
        hooks=list(NYMPH_HOOKS),
        forms=sorted(set(forms)),
        dries=[one.name for one in DRIES],
        floats_mm=[one.size_mm for one in INDICATORS],
    )


def _out(item: BoxItem, lost: int) -> BoxItemOut:
    sinks = mass = shank = dressed = carries = None
    if item.kind == "nymph":
        body = fly_body(fly_of(item), along_m=1.0)
        sinks, mass = settling_velocity(body=body, temperature_c=STILL_C), 1000.0 * body.mass_kg
        shank, dressed = shank_mm(hook=item.hook or 14), 1000.0 * body.dressing_diameter_m
    else:
        one = next((f for f in (*DRIES, *INDICATORS) if f.name == item.form), None)
        carries = None if one is None else 1000.0 * one.carries_n / GRAVITY_M_S2
    return BoxItemOut.model_validate(
        {
            **{name: getattr(item, name) for name in BoxItemOut.model_fields if hasattr(item, name)},
            "words": item.form if item.kind != "nymph" else fly_of(item).words,
            "lost": lost,
            "left": max(0, item.count - lost),
            "sinks_m_s": sinks,
            "mass_g": mass,
            "shank_mm": shank,
            "dressed_mm": dressed,
            "carries_g": carries,
        }
    )


def missing_out(one: Missing) -> MissingOut:
    """Return the wire form of a fly that the box lacks."""
    return MissingOut(fly=one.fly, gain=one.gain)

"""Waters and rigs as they were written down once. What is stored says of which form it is, and is read here as it is meant now.

Form 2: a school's float set "computed" and flies with a brighter part of their own. In form 1 "long" was what computing gave,
and a bright collar made a form of fly of its own.
"""

from collections.abc import Callable, Mapping
from typing import Any, cast

from deriva.core.tackle.flies import Fly

FORM = 2
"""What is written now. Raised when an older writing would be read amiss, with a step from the one before."""

Written = Mapping[str, Any]

COLLARED = "bright-collar stonefly nymph"
STONEFLY: dict[str, Any] = {"form": "stonefly nymph", "tone": "bright", "mark": "collar"}


def form_of(situation: Written) -> int:
    """Return of which form a situation is that does not say: the first knew no winter in a school."""
    school = situation.get("school")
    return 1 if isinstance(school, dict) and "winter" not in school else FORM


def _situation_of_1(written: Written) -> Written:
    school, box = written.get("school"), written.get("box")
    found = dict(written)
    if isinstance(school, dict) and cast("Written", school).get("depth") == "long":
        found["school"] = {**school, "depth": "computed"}
    flies = cast("Written", box).get("flies") if isinstance(box, dict) else None
    if isinstance(flies, list):
        known = [
            {**one, **STONEFLY} if isinstance(one, dict) and one.get("form") == COLLARED else one
            for one in flies
        ]
        found["box"] = {**cast("Written", box), "flies": known}
    return found


def _setup_of_1(written: Written) -> Written:
    words = Fly(hook=8, bead_mm=None, **STONEFLY).words
    return {
        name: words if name in ("point_form", "dropper_form") and value == COLLARED else value
        for name, value in written.items()
    }


SITUATIONS: dict[int, Callable[[Written], Written]] = {1: _situation_of_1}
SETUPS: dict[int, Callable[[Written], Written]] = {1: _setup_of_1}


def _read(steps: Mapping[int, Callable[[Written], Written]], written: Written, form: int) -> dict[str, Any]:
    for one in range(form, FORM):
        written = steps[one](written)
    return dict(written)


def situation_now(written: Written, form: int) -> dict[str, Any]:
    """Return a situation of some form as it is written now."""
    return _read(SITUATIONS, written, form)


def setup_now(written: Written, form: int) -> dict[str, Any]:
    """Return a rig, or a single dry, of some form as it is written now."""
    return _read(SETUPS, written, form)

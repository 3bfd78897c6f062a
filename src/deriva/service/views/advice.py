"""An advice, a judged rig and a coaching, as they go over the wire. Sentences keep their marked quantities."""

from typing import Any

from deriva.core.choose.judge import Judged
from deriva.core.coach import card
from deriva.core.coach.ask import written
from deriva.core.coach.card import Step
from deriva.core.coach.next import Coaching
from deriva.core.model.quantity import plain
from deriva.core.model.situation import Situation
from deriva.core.say import ranking
from deriva.core.say.ranking import Ranking, written_rig
from deriva.service.schemas.advise import AdviceOut, RankedOut
from deriva.service.schemas.coach import CoachOut, StepOut


def ranked_out(judged: Judged, situation: Situation) -> RankedOut:
    """Return the wire form of one judged rig."""
    return RankedOut.model_validate(written_rig(judged, situation))


def advice_out(found: Ranking) -> AdviceOut:
    """Return the wire form of an advice."""
    return AdviceOut.model_validate(ranking.written(found))


def headless_advice(found: Ranking) -> dict[str, Any]:
    """Return an advice as `deriva advise` writes it: the single dry stands among the ranked rigs, where its score puts it."""
    said = advice_out(found).model_dump(by_alias=True)
    dry = said.pop("single_dry")
    if dry is not None:
        setup = {"flies": 0, "depth_setting_m": None, **dry["setup"]}
        answer = f"{dry['name']} · {setup['float']} · {setup['tippet_x']}X"
        entry = {
            "rig": "dry",
            **{key: dry[key] for key in ("name", "score", "reasons")},
            "answer": answer,
            "setup": setup,
        }
        entry |= {"zone_share": None, "warnings": []}
        ranked = said["ranked"]
        place = next((k for k, one in enumerate(ranked) if one["score"] < dry["score"]), len(ranked))
        ranked.insert(place, entry)
    return said


def steps_out(steps: tuple[Step, ...]) -> list[StepOut]:
    """Return the wire form of the search card."""
    return [StepOut.model_validate(one) for one in card.written(steps)]


def coach_out(done: Coaching) -> CoachOut:
    """Return the wire form of a coaching."""
    return CoachOut.model_validate(written(done))


def plain_json(value: object) -> object:
    """Return JSON-like data with the marks taken off every sentence, for readers without units to choose."""
    if isinstance(value, str):
        return plain(value)
    if isinstance(value, list | tuple):
        return [plain_json(item) for item in value]
    if isinstance(value, dict):
        return {key: plain_json(item) for key, item in value.items()}
    return value

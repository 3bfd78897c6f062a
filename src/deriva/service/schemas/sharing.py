"""What an angler lets another read."""

from datetime import datetime
from typing import Annotated, Self
from uuid import UUID

from pydantic import model_validator

from deriva.core.ranges import BLUR_M
from deriva.service.schemas.account import Email
from deriva.service.schemas.base import Wire, Within
from deriva.service.schemas.log import LedgerOut
from deriva.service.schemas.places import BeatRulesNoun


class ShareIn(Wire):
    """A beat or an outing, for whoever has an address; places are moved by up to ``blur_m``, 0 leaves them where they are."""

    reader: Email
    beat_id: UUID | None = None
    outing_id: UUID | None = None
    blur_m: Annotated[float, Within(BLUR_M)] = 5000.0

    @model_validator(mode="after")
    def one_thing(self) -> Self:
        """Refuse both and neither."""
        if (self.beat_id is None) == (self.outing_id is None):
            raise ValueError("either beat_id or outing_id is wanted")
        return self


class ShareOut(Wire):
    """A share as its owner sees it."""

    id: UUID
    reader: str
    beat_id: UUID | None
    outing_id: UUID | None
    name: str
    blur_m: float
    shared_at: datetime


class SharedWithMeOut(Wire):
    """A share as its reader finds it."""

    id: UUID
    owner: str
    kind: str
    name: str
    shared_at: datetime


class SharedLieOut(Wire):
    """A lie of a beat that is shared; where along it lies is left out where places are moved."""

    name: str
    kind: str
    bed: str
    along_m: float | None
    depth_m: float | None
    surface_speed_m_s: float | None


class SharedBeatOut(Wire):
    """A beat that is shared, its place moved by up to the share's distance."""

    name: str
    river: str
    rules: BeatRulesNoun
    rules_text: str
    wading_allowed: bool
    latitude: float | None
    longitude: float | None
    lies: list[SharedLieOut]


class SharedOut(Wire):
    """What a share holds: a beat or an outing, to be read and no more."""

    owner: str
    blur_m: float
    beat: SharedBeatOut | None
    outing: LedgerOut | None

"""The rows of a file of everything: each table's, as it is written and as it is taken in again, possibly by another angler.

What else stands in a row (what the database works out itself, how a gauge was last read) is passed over.
"""

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import (
    UUID7,
    AwareDatetime,
    BaseModel,
    ConfigDict,
    Field,
    StringConstraints,
    TypeAdapter,
    ValidationError,
    field_serializer,
    model_validator,
)
from pydantic.json_schema import models_json_schema
from pydantic_core import PydanticCustomError

from deriva.core import ranges as r
from deriva.core.errors import DerivaError
from deriva.core.practice.cast import MOST_CASTS, SEED, Cast, DrillName
from deriva.core.ranges import FLOW_M3_S
from deriva.core.record.forms import FORM, form_of, setup_now, situation_now
from deriva.core.tackle.flies import HOOK, BeadMaterial, DressingClass, Fly, Mark, Tone
from deriva.core.tackle.floats import DRIES, INDICATORS
from deriva.core.water.flow import FlowClass
from deriva.service.schemas.base import Moment, Name, Wire, Within
from deriva.service.schemas.box import COUNT, TankIn
from deriva.service.schemas.log import (
    CatchIn,
    Conditions,
    DriftLogIn,
    DrySettingIn,
    NoteIn,
    OutingIn,
    SettingIn,
    SoundingIn,
    StopIn,
)
from deriva.service.schemas.nouns import Noun, SchoolNoun
from deriva.service.schemas.places import BeatIn, GaugeIn, LieIn, RiverIn
from deriva.service.schemas.sync import Kind, Position, Zone, read_record

FORMAT: Literal[4] = 4
DIALECT = "https://json-schema.org/draft/2020-12/schema"


class Row(Wire):
    """A row, under the id that its writer made."""

    model_config = ConfigDict(extra="ignore")
    id: UUID7


class RiverRow(RiverIn, Row):
    """A river."""

    model_config = ConfigDict(extra="ignore")


class GaugeRow(GaugeIn, Row):
    """A river's gauge."""

    model_config = ConfigDict(extra="ignore")


class GaugeValueRow(Wire):
    """A value of a gauge, SI; null where it is missing."""

    model_config = ConfigDict(extra="ignore")
    gauge_id: UUID7
    parameter: Literal["flow", "stage", "temperature", "turbidity"]
    daily: bool
    at: AwareDatetime
    value: float | None
    worth: Literal["good", "provisional", "estimated", "ice", "missing"]
    code: Annotated[str, StringConstraints(max_length=40, pattern=r"^[^\x00-\x1f\x7f]*$")]


class BeatRow(BeatIn, Row):
    """A beat."""

    model_config = ConfigDict(extra="ignore")


class LieRow(LieIn, Row):
    """A lie, and the school that holds there if it is not the angler's own."""

    model_config = ConfigDict(extra="ignore")
    school: SchoolNoun | None = None


class BoxRow(Row):
    """A kind of nymph, dry or float in the box."""

    model_config = ConfigDict(extra="ignore")
    kind: Literal["nymph", "dry", "float"]
    form: Name
    hook: Annotated[int, Within(HOOK)] | None
    bead_mm: Annotated[float, Within(r.BEAD_MM)] | None
    material: BeadMaterial
    dressing: DressingClass | None
    tone: Tone
    mark: Mark
    size_mm: float | None
    count: Annotated[int, Within(COUNT)]
    counted_at: Moment
    tank: TankIn | None
    drag_factor: float | None
    gone: bool

    @model_validator(mode="after")
    def there_is_one(self) -> "BoxRow":
        """Refuse what is no fly, dry or float that is known here."""
        if self.kind == "nymph":
            try:
                Fly(self.form, self.hook or 0, self.bead_mm, self.dressing or "dubbed", self.drag_factor)
            except DerivaError as error:
                raise PydanticCustomError("core", "{message}", {"message": error.message}) from None
        elif self.kind == "dry" and self.form not in [one.name for one in DRIES]:
            raise PydanticCustomError("dry", "there is no dry of that name")
        elif self.kind == "float" and self.size_mm not in [one.size_mm for one in INDICATORS]:
            raise PydanticCustomError("float", "there is no float of that size")
        return self


class ReadingRow(Conditions, Row):
    """A reading, with the spreads that followed from how it was taken, and the flow of its time."""

    model_config = ConfigDict(extra="ignore")
    lie_id: UUID7
    at: Moment
    depth_m: Annotated[float, Within(r.DEPTH_M)]
    depth_sd_m: Annotated[float, Within(r.DEPTH_SD_M)]
    surface_speed_m_s: Annotated[float, Within(r.SURFACE_SPEED_M_S)]
    speed_error_m_s: Annotated[float, Within(r.SPEED_SD_M_S)] | None
    speed_how: Literal["typed", "bubbles"]
    flow_m3_s: Annotated[float, Within(FLOW_M3_S)] | None


class SoundingRow(SoundingIn, Row):
    """What the bottom was found to be at a spot, and the flow of its time."""

    model_config = ConfigDict(extra="ignore")
    flow_m3_s: Annotated[float, Within(FLOW_M3_S)] | None


class Frozen(Wire):
    """The conditions at an outing's start."""

    read_at: AwareDatetime | None = None
    clarity_m: Annotated[float, Within(r.CLARITY_M)] | None = None
    temperature_c: Annotated[float, Within(r.TEMPERATURE_C)] | None = None
    flow_class: FlowClass | None = None
    wind_m_s: Annotated[float, Within(r.WIND_M_S)] | None = None

    @field_serializer("read_at")
    def as_written(self, at: datetime | None) -> str | None:
        """Return the time as it is kept among them."""
        return None if at is None else at.isoformat()


class OutingRow(OutingIn, Row):
    """An outing."""

    model_config = ConfigDict(extra="ignore")
    conditions: Frozen


class NoteRow(NoteIn, Row):
    """A note."""

    model_config = ConfigDict(extra="ignore")


Form = Annotated[int, Field(ge=1, le=FORM)]
"""Of which form a water or a rig is written."""


class StopRow(StopIn, Row):
    """A stay at a lie."""

    model_config = ConfigDict(extra="ignore")
    form: Form = FORM

    @model_validator(mode="before")
    @classmethod
    def as_now(cls, row: Any) -> Any:  # noqa: ANN401 - whatever stands in the file
        """Read the water as it is written now; a file of before forms were written does not say which it is of."""
        situation = row.get("situation") if isinstance(row, dict) else None
        if not isinstance(situation, dict):
            return row
        form = row.get("form", form_of(situation))
        return (
            row | {"situation": situation_now(situation, form), "form": FORM}
            if form in range(1, FORM)
            else row
        )


class SettingRow(SettingIn, Row):
    """A rig as set."""

    model_config = ConfigDict(extra="ignore")
    form: Form = FORM

    @model_validator(mode="before")
    @classmethod
    def as_now(cls, row: Any) -> Any:  # noqa: ANN401
        """Read the rig as it is written now."""
        setup = row.get("setup") if isinstance(row, dict) else None
        if not isinstance(setup, dict):
            return row
        form = row.get("form", FORM)
        return row | {"setup": setup_now(setup, form), "form": FORM} if form in range(1, FORM) else row


class DrySettingRow(DrySettingIn, Row):
    """A single dry as tied on."""

    model_config = ConfigDict(extra="ignore")


class DriftRow(DriftLogIn, Row):
    """A drift."""

    model_config = ConfigDict(extra="ignore")


class CatchRow(CatchIn, Row):
    """A fish."""

    model_config = ConfigDict(extra="ignore")
    undone: bool = False


class PracticeGameRow(Row):
    """A game of practice that was played."""

    model_config = ConfigDict(extra="ignore")
    at: Moment
    drill: DrillName
    seed: Annotated[int, Within(SEED)]
    casts: Annotated[list[Annotated[Cast, Noun()]], Field(max_length=MOST_CASTS)]
    zone_s: Annotated[float, Field(ge=0)]
    best_s: Annotated[float, Field(ge=0)]
    share: Annotated[float, Field(ge=0)]
    low: Annotated[float, Field(ge=0)]
    high: Annotated[float, Field(ge=0)]
    passed: bool


class ChangeRow(Row):
    """One writing of a record of the log, kept for good: what it was before it was corrected, and when that was."""

    model_config = ConfigDict(extra="ignore")
    device: UUID7
    sequence: Position
    kind: Kind
    record: UUID7
    at: Moment
    zone: Zone
    body: dict[str, Any]

    @property
    def is_read(self) -> bool:
        """Whether it is a record that can be read now: what was valid once need not be."""
        try:
            read_record(self.kind, self.body)
        except ValidationError:
            return False
        return True


ROWS: dict[str, TypeAdapter[Any]] = {
    "river": TypeAdapter(RiverRow),
    "gauge": TypeAdapter(GaugeRow),
    "gauge_value": TypeAdapter(GaugeValueRow),
    "beat": TypeAdapter(BeatRow),
    "box_item": TypeAdapter(BoxRow),
    "lie": TypeAdapter(LieRow),
    "reading": TypeAdapter(ReadingRow),
    "sounding": TypeAdapter(SoundingRow),
    "outing": TypeAdapter(OutingRow),
    "stop": TypeAdapter(StopRow),
    "setting": TypeAdapter(Annotated[SettingRow | DrySettingRow, Field(discriminator="rig")]),
    "drift": TypeAdapter(DriftRow),
    "catch": TypeAdapter(CatchRow),
    "note": TypeAdapter(NoteRow),
    "practice_game": TypeAdapter(PracticeGameRow),
    "change": TypeAdapter(ChangeRow),
}
"""The tables that are taken in, what they hang under before them."""

PARENTS: dict[str, dict[str, str]] = {
    "gauge": {"river_id": "river"},
    "gauge_value": {"gauge_id": "gauge"},
    "beat": {"river_id": "river"},
    "lie": {"beat_id": "beat"},
    "reading": {"lie_id": "lie"},
    "sounding": {"lie_id": "lie"},
    "outing": {"beat_id": "beat"},
    "stop": {"outing_id": "outing", "lie_id": "lie"},
    "setting": {"stop_id": "stop"},
    "drift": {"setting_id": "setting"},
    "catch": {"drift_id": "drift"},
    "note": {"outing_id": "outing", "stop_id": "stop", "catch_id": "catch"},
}
"""What a row hangs under, by the column that says so."""


KEPT: dict[Kind, str] = {
    "lies": "lie", "readings": "reading", "soundings": "sounding", "outings": "outing", "stops": "stop",
    "settings": "setting", "drifts": "drift", "catches": "catch", "notes": "note",
}  # fmt: skip
"""The tables whose rows have a history, by the kind of record that it speaks of."""


def values_of(row: Wire) -> dict[str, Any]:
    """Return a row as the database takes it, in JSON."""
    values = row.model_dump(mode="json", by_alias=True)
    if isinstance(row, OutingRow):  # as they were: what was not said is not there
        values["conditions"] = row.conditions.model_dump(mode="json", exclude_none=True)
    return values


def schema() -> dict[str, Any]:
    """Return the JSON Schema of a file of everything."""
    models: list[type[BaseModel]] = [
        RiverRow, GaugeRow, GaugeValueRow, BeatRow, BoxRow, LieRow, ReadingRow, SoundingRow, OutingRow, StopRow,
        SettingRow, DrySettingRow, DriftRow, CatchRow, NoteRow, PracticeGameRow,
        ChangeRow,
    ]  # fmt: skip
    wanted: list[tuple[type[BaseModel], Literal["validation"]]] = [(model, "validation") for model in models]
    refs, definitions = models_json_schema(wanted, ref_template="#/$defs/{model}")
    by_table: dict[str, Any] = {}
    names = iter(models)
    for table in ROWS:
        model = next(names)
        one = refs[model, "validation"]
        if table == "setting":
            one = {"oneOf": [one, refs[next(names), "validation"]]}
        by_table[table] = {"type": "array", "items": one}
    return {
        "$schema": DIALECT,
        "title": "Everything of an angler's, as Deriva writes it",
        "description": "Rows stand under their tables; what a row hangs under stands before it. Tables and fields that are not "
        "named here may be there, and are not taken in.",
        "type": "object",
        "required": ["format", "tables"],
        "properties": {
            "format": {"const": FORMAT},
            "version": {"type": "string"},
            "exported_at": {"type": "string", "format": "date-time"},
            "angler": {"type": "object"},
            "tables": {"type": "object", "properties": by_table},
        },
        **definitions,
    }

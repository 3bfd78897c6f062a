"""What every schema shares: strict write models, bounded numbers, and faults that a person can act on."""

import re
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Annotated, Any

from pydantic import (
    AfterValidator,
    AwareDatetime,
    BaseModel,
    ConfigDict,
    GetCoreSchemaHandler,
    GetJsonSchemaHandler,
    StringConstraints,
    ValidationError,
)
from pydantic_core import CoreSchema, PydanticCustomError, core_schema

from deriva.core.errors import OutOfRange
from deriva.core.ranges import Range


class Wire(BaseModel):
    """Base of every model: unknown fields are refused, so that a misspelt one is not silently dropped."""

    model_config = ConfigDict(extra="forbid", frozen=True)


@dataclass(frozen=True)
class Within:
    """Annotation that bounds a number by a :class:`Range` of the core, in validation and in the JSON schema."""

    range: Range

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:  # noqa: ANN401
        """Accept numbers only (no text that looks like one), then check the range."""

        def check(value: float) -> float:
            try:
                return self.range.check("", value)
            except OutOfRange as error:
                raise PydanticCustomError(
                    "out_of_range",
                    "{value} is outside {lo} to {hi} {unit}",
                    {"value": f"{value:g}", "lo": f"{error.lo:g}", "hi": f"{error.hi:g}", "unit": error.unit},
                ) from None

        return core_schema.no_info_after_validator_function(
            check,
            core_schema.int_schema(strict=True) if source is int else core_schema.float_schema(strict=True),
        )

    def __get_pydantic_json_schema__(
        self, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        """Publish the bounds and the unit."""
        json = dict(handler(schema))
        return {
            **json,
            "minimum": self.range.lo,
            "maximum": self.range.hi,
            "description": f"in {self.range.unit}",
        }


Words = Annotated[str, StringConstraints(max_length=80, pattern=r"^[^\x00-\x1f\x7f]*$")]
"""A short text without control characters, which a database cannot keep and a screen cannot show."""

Name = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80, pattern=r"^[^\x00-\x1f\x7f]+$")
]
"""What a person calls a place."""

Prose = Annotated[
    str, StringConstraints(strip_whitespace=True, max_length=2000, pattern=r"^[^\x00-\x08\x0b-\x1f\x7f]*$")
]
"""Some sentences, with line breaks if need be."""

EARLIEST, LATEST = datetime(2000, 1, 1, tzinfo=UTC), datetime(2100, 1, 1, tzinfo=UTC)


def _in_our_time(at: datetime) -> datetime:
    if not EARLIEST <= at < LATEST:
        raise PydanticCustomError(
            "out_of_range", "{at} is outside the years 2000 to 2099", {"at": f"{at:%Y-%m-%d}"}
        )
    return at


Moment = Annotated[AwareDatetime, AfterValidator(_in_our_time)]
"""A time with its offset, in years that a clock on a river can show."""


class Fault(Wire):
    """One thing wrong with what came in: where, what, and what would be right."""

    code: str
    field: str | None
    message: str


_CODES = {
    "out_of_range": "OUT_OF_RANGE",
    "missing": "MISSING",
    "extra_forbidden": "UNKNOWN_FIELD",
    "literal_error": "NOT_ONE_OF",
    "enum": "NOT_ONE_OF",
    "json_invalid": "NOT_JSON",
}


SECRET = re.compile(r"(^|\.)(password|old|new|ticket)$")


def _shown(value: Any) -> str:  # noqa: ANN401
    text = ascii(value) if isinstance(value, str) and not value.isprintable() else repr(value)
    return text if len(text) <= 60 else text[:57] + "..."


def _sendable(text: str) -> str:
    """Return the text with what UTF-8 cannot carry (half of a surrogate pair) written as an escape."""
    return text.encode("utf-8", "backslashreplace").decode("utf-8")


def faults_of(errors: list[Any]) -> list[Fault]:
    """Turn Pydantic's error list into faults that name the field, what came and what is allowed."""
    faults: list[Fault] = []
    for error in errors:
        where = [_sendable(str(part))[:60] for part in error["loc"] if part not in ("body", "path", "query")]
        field = ".".join(where) or None
        code = _CODES.get(error["type"], "WRONG_TYPE")
        name = field or "the body"
        if code == "MISSING":
            message = f"{name} is missing"
        elif code == "UNKNOWN_FIELD":
            message = f"{name} is not a field here"
        elif code == "NOT_JSON":
            field, message = (
                None,
                "this is not JSON: " + str(error.get("ctx", {}).get("error", "it could not be read")),
            )
        elif code == "OUT_OF_RANGE":
            message = f"{name} = {error['msg']}"
        elif SECRET.search(name):
            message = f"{name}: {error['msg'][0].lower()}{error['msg'][1:]}"  # what was typed is not said
        else:
            message = f"{name} = {_shown(error.get('input'))}: {error['msg'][0].lower()}{error['msg'][1:]}"
        faults.append(Fault(code=code, field=field, message=message))
    return faults


def faults_of_validation(error: ValidationError) -> list[Fault]:
    """Turn a Pydantic validation error into faults."""
    return faults_of(list(error.errors(include_url=False)))

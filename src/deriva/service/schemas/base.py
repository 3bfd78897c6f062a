"""What every schema shares: strict write models, bounded numbers, and faults that a person can act on."""

import re
from collections.abc import Sequence
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
    model_validator,
)
from pydantic_core import CoreSchema, PydanticCustomError, core_schema

from deriva.core.errors import DerivaError, OutOfRange
from deriva.core.ranges import Range
from deriva.core.read import KINDS, one_of, shown

MOST_FIELDS = 100
"""No model here has so many: what has more is not looked at one by one, which would hold up everybody else."""


class Wire(BaseModel):
    """Base of every model: unknown fields are refused, so that a misspelt one is not silently dropped."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    @model_validator(mode="before")
    @classmethod
    def few(cls, given: Any) -> Any:  # noqa: ANN401 - whatever came
        """Refuse a crowd of fields as one."""
        if isinstance(given, dict) and len(given) > MOST_FIELDS:
            raise PydanticCustomError(
                "too_many_fields", "{count} fields came, where there are {known}",
                {"count": len(given), "known": len(cls.model_fields)},
            )  # fmt: skip
        return given


def refused(error: DerivaError) -> PydanticCustomError:
    """Return what the core refuses in a form that goes out through Pydantic: its field lies under the one that is read."""
    return PydanticCustomError(
        "core", "{message}", {"message": error.message, "code": error.code, "field": error.field or ""}
    )


@dataclass(frozen=True)
class Within:
    """Annotation that bounds a number by a :class:`Range` of the core, in validation and in the JSON schema."""

    range: Range

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:  # noqa: ANN401
        """Accept numbers only (no text that looks like one), then check the range."""

        def check(value: float) -> float:
            try:
                return self.range.check("", value)
            except OverflowError:  # an integer of hundreds of digits is no float
                raise PydanticCustomError(
                    "out_of_range",
                    "that number is outside {lo} to {hi} {unit}",
                    {"lo": f"{self.range.lo:g}", "hi": f"{self.range.hi:g}", "unit": self.range.unit},
                ) from None
            except OutOfRange:
                raise PydanticCustomError(
                    "out_of_range",
                    "{value} is outside {lo} to {hi} {unit}",
                    {
                        "value": f"{value:g}",
                        "lo": f"{self.range.lo:g}",
                        "hi": f"{self.range.hi:g}",
                        "unit": self.range.unit,
                    },
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


NO_CONTROL = r"^[^\x00-\x1f\x7f]*$"

Words = Annotated[str, StringConstraints(max_length=80, pattern=NO_CONTROL)]
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


def _sendable(text: str) -> str:
    """Return the text with what UTF-8 cannot carry (half of a surrogate pair) written as an escape."""
    return text.encode("utf-8", "backslashreplace").decode("utf-8")


WANTED = {
    "float_type": KINDS[float], "int_type": KINDS[int], "bool_type": KINDS[bool], "string_type": KINDS[str],
    "tuple_type": KINDS[tuple], "list_type": KINDS[tuple], "model_type": KINDS[dict], "dict_type": KINDS[dict],
    "model_attributes_type": KINDS[dict], "dataclass_type": KINDS[dict], "float_parsing": KINDS[float],
    "int_parsing": KINDS[int], "bool_parsing": KINDS[bool], "finite_number": KINDS[float], "int_from_float": KINDS[int],
}  # fmt: skip
"""What Pydantic misses, in the words of the core's own door."""


def _choices(expected: str) -> str:
    """Return Pydantic's list of choices ('a', 'b' or 'c') in the core's words."""
    return one_of(tuple(re.findall(r"'([^']*)'", expected)))


LENGTHS = ("string_too_short", "string_too_long", "too_short", "too_long")


def _length(error: Any) -> str:  # noqa: ANN401 - one of Pydantic's
    """Say how long something may be, in letters or in what there is of it."""
    given = error.get("ctx", {})
    least, most = given.get("min_length"), given.get("max_length")
    of = "" if isinstance(error.get("input"), list | tuple) else " letters"
    return f"has fewer than {least}{of}" if least is not None else f"has more than {most}{of}"


MOST_FAULTS = 20
"""So many are said: nobody reads more, and a body of a megabyte can have a hundred thousand."""


def _core(error: Any, name: str, field: str | None) -> Fault:  # noqa: ANN401 - one of Pydantic's
    """Return what the core refused, its field under the path to what was read."""
    given, message = error["ctx"], str(error["ctx"]["message"])
    own = str(given["field"])
    if own == "this":
        return Fault(code=given["code"], field=field, message=name + message.removeprefix(own))
    path = ".".join(part for part in (field, own) if part) or None
    if own and message.startswith(own):
        message = f"{path}{message.removeprefix(own)}"
    return Fault(code=given["code"], field=path, message=message)


def _message(error: Any, code: str, name: str) -> str:  # noqa: ANN401
    """Return what is wrong with a field, in the words that the core's own door has for it."""
    kind = error["type"]
    plain = {
        "missing": f"{name} is missing",
        "extra_forbidden": f"{name} is not a field here",
        "too_many_fields": f"{name}: {error['msg']}",
        **dict.fromkeys(LENGTHS, f"{name} {_length(error)}"),
    }
    if kind in plain:
        return plain[kind]
    if kind == "string_pattern_mismatch" and error["ctx"]["pattern"] == NO_CONTROL:
        return f"{name} has signs in it that cannot be shown"
    if code == "OUT_OF_RANGE":
        return f"{name} = {error['msg']}".rstrip()
    # what is secret is not said again
    came = name if SECRET.search(name) else f"{name} = {shown(error.get('input'))}"
    if kind in WANTED:
        return f"{came}: {WANTED[kind]} is wanted"
    if kind == "literal_error":
        return f"{came}: {_choices(error['ctx']['expected'])}"
    return f"{came}: {error['msg'][0].lower()}{error['msg'][1:]}"


def _fault(error: Any) -> Fault:  # noqa: ANN401
    where = [_sendable(str(part))[:60] for part in error["loc"] if part not in ("body", "path", "query")]
    field = ".".join(where) or None
    name = field or "the body"
    if error["type"] == "core":
        return _core(error, name, field)
    code = _CODES.get(error["type"], "WRONG_TYPE")
    if code == "NOT_JSON":
        why = str(error.get("ctx", {}).get("error", "it could not be read"))
        return Fault(code=code, field=None, message=f"this is not JSON: {why}")
    return Fault(code=code, field=field, message=_message(error, code, name))


def faults_of(errors: Sequence[Any]) -> list[Fault]:
    """Turn Pydantic's error list into faults that name the field, what came and what is allowed."""
    faults = [_fault(error) for error in errors[:MOST_FAULTS]]
    more = len(errors) - MOST_FAULTS
    if more > 0:
        faults.append(Fault(code="MORE", field=None, message=f"and {more} more things are wrong"))
    return faults


def faults_of_validation(error: ValidationError) -> list[Fault]:
    """Turn a Pydantic validation error into faults."""
    return faults_of(list(error.errors(include_url=False)))

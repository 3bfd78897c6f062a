"""The doors of the core where there is nothing but Python: plain data in, plain data out.

The phone has no signal and no Pydantic. Here the same data that goes over the wire becomes the core's own dataclasses, by
their declared types; the dataclasses check their own numbers.
"""

import types
from collections.abc import Callable
from dataclasses import MISSING, asdict, fields, is_dataclass
from typing import Any, Literal, TypeVar, Union, cast, get_args, get_origin, get_type_hints

from deriva.core.advice.advisor import Tuning, tuned_rig
from deriva.core.advice.evaluate import evaluate
from deriva.core.advice.hanging import picture, setup
from deriva.core.advice.situation import Situation
from deriva.core.coach.ask import Asked, coached, written
from deriva.core.errors import DerivaError

Made = TypeVar("Made")

WIRE_NAMES = {"kind": "rig", "float_": "float"}
"""What the wire calls the fields of a :class:`Tuning` that go by another name in the core."""


class NotRead(DerivaError):
    """A field is missing, unknown or of the wrong kind."""

    code = "WRONG_TYPE"


def _field(kind: type, name: str) -> str:
    return WIRE_NAMES.get(name, name) if kind is Tuning else name


def _record(kind: type[Made], value: object, where: str) -> Made:
    if not isinstance(value, dict):
        raise NotRead(f"{where or 'this'} = {value!r}: an object is wanted", field=where)
    given = cast("dict[str, object]", value)
    hints = get_type_hints(kind)
    known = {_field(kind, one.name): one for one in fields(cast("Any", kind))}
    for name in given:
        if name not in known:
            raise NotRead(f"{where}.{name} is not a field here", field=f"{where}.{name}")
    made: dict[str, object] = {}
    for name, one in known.items():
        path = f"{where}.{name}" if where else name
        if name in given:
            made[one.name] = read(hints[one.name], given[name], path)
        elif one.default is MISSING and one.default_factory is MISSING:
            raise NotRead(f"{path} is missing", field=path)
    return kind(**made)


def _accepts(kind: object, value: object) -> bool:
    if kind is float:
        return isinstance(value, (int, float)) and not isinstance(value, bool)
    if kind is int:
        return isinstance(value, int) and not isinstance(value, bool)
    return isinstance(value, cast("type", kind))


def read(kind: Any, value: object, where: str = "") -> Any:  # noqa: ANN401 - as wide as JSON
    """Return a JSON value as the type that a field declares; raises :class:`NotRead`, naming the field."""
    origin, inner = get_origin(kind), get_args(kind)
    if is_dataclass(kind):
        return _record(cast("type[object]", kind), value, where)
    if origin in (Union, types.UnionType):
        if value is None and type(None) in inner:
            return None
        return read(next(one for one in inner if one is not type(None)), value, where)
    if origin is Literal:
        if value not in inner:
            raise NotRead(f"{where} = {value!r}: one of {', '.join(map(str, inner))}", field=where)
        return value
    if origin is tuple:
        if not isinstance(value, list):
            raise NotRead(f"{where} = {value!r}: a list is wanted", field=where)
        return tuple(read(inner[0], one, f"{where}.{k}") for k, one in enumerate(cast("list[object]", value)))
    if not _accepts(kind, value):
        raise NotRead(f"{where} = {value!r}: {kind.__name__} is wanted", field=where)
    return float(cast("float", value)) if kind is float else value


def _coach(asked: object) -> dict[str, object]:
    return written(coached(read(Asked, asked)))


def _hang(asked: object) -> dict[str, object]:
    """A rig as the angler sets it, settled in its water: written out and drawn."""
    given = cast("dict[str, object]", asked if isinstance(asked, dict) else {})
    situation = read(Situation, given.get("situation"), "situation")
    e = evaluate(tuned_rig(read(Tuning, given.get("tuning"), "tuning"), situation), situation)
    written_out = asdict(setup(e))
    return {
        "setup": {WIRE_NAMES.get(name, name): value for name, value in written_out.items()},
        "picture": asdict(picture(e)),
    }


DOORS: dict[str, Callable[[object], dict[str, object]]] = {"coach": _coach, "hang": _hang}


def answer(door: str, asked: object) -> dict[str, object]:
    """Answer what was asked: ``{"answer": ...}``, or ``{"fault": {code, field, message}}`` in words for a person."""
    try:
        return {"answer": DOORS[door](asked)}
    except DerivaError as error:
        return {"fault": {"code": error.code, "field": error.field, "message": error.message}}

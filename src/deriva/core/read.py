"""Plain data to nouns, by the types that their fields declare: the door where there is nothing but Python.

The service's schemas read the same fields with Pydantic, and refuse the same things with the same words.
"""

from dataclasses import is_dataclass
from functools import cache
from types import UnionType
from typing import Any, Literal, Union, cast, get_args, get_origin

from deriva.core.check import bare, fields_of
from deriva.core.errors import DerivaError, NotRead
from deriva.core.ranges import Bound

KINDS: dict[object, str] = {
    float: "a number", int: "a whole number", bool: "true or false", str: "a text", tuple: "a list", dict: "an object",
}  # fmt: skip
"""What is wanted, in words."""


def wanted(path: str, value: object, what: str) -> NotRead:
    """Return the error for a value of the wrong kind."""
    return NotRead(f"{path or 'this'} = {shown(value)}: {what} is wanted", field=path or None)


def shown(value: object) -> str:
    """Return a value as a person may see it, short."""
    if isinstance(value, dict | list):
        return "a group of fields" if isinstance(value, dict) else "a list"
    if isinstance(value, int) and not -(10**60) < value < 10**60:
        return "a number of very many digits"
    if isinstance(value, str):
        value = value[:80]
    text = ascii(value) if isinstance(value, str) and not value.isprintable() else repr(value)
    return text if len(text) <= 60 else text[:57] + "..."


def one_of(values: tuple[object, ...]) -> str:
    """Return the choices there are, in words."""
    return "one of " + ", ".join(str(value) for value in values)


def read_noun(noun: Any, value: object, path: str = "") -> Any:  # noqa: ANN401 - as many nouns as there are
    """Return a JSON object as a noun; raises the core's errors, naming the field by its whole path."""
    if not isinstance(value, dict):
        raise wanted(path, value, KINDS[dict])
    given = cast("dict[str, object]", value)
    known = {one.wire_name: one for one in fields_of(noun)}
    for name in given:
        if name not in known:
            at = _under(path, name)
            raise NotRead(f"{at} is not a field here", field=at)
    made: dict[str, object] = {}
    for name, one in known.items():
        at = _under(path, name)
        if name in given:
            made[one.name] = _read(one.kind, one.bounds, one.optional, given[name], at)
        elif one.required:
            raise NotRead(f"{at} is missing", field=at)
    try:
        return noun(**made)
    except DerivaError as error:
        raise error.under(path) from None


def _under(path: str, name: str | int) -> str:
    return f"{path}.{name}" if path else str(name)


def _read(kind: Any, bounds: tuple[Bound, ...], optional: bool, value: object, path: str) -> Any:  # noqa: ANN401
    if value is None and optional:
        return None
    if is_dataclass(kind):
        return read_noun(kind, value, path)
    origin = get_origin(kind)
    if origin is Literal:
        choices = get_args(kind)
        if value not in choices:
            raise NotRead(f"{path} = {shown(value)}: {one_of(choices)}", field=path)
        return value
    if origin is tuple:
        if not isinstance(value, list):
            raise wanted(path, value, KINDS[tuple])
        inner, inside, null = bare(get_args(kind)[0])
        found: Any = tuple(
            _read(inner, inside, null, one, _under(path, k))
            for k, one in enumerate(cast("list[object]", value))
        )
    else:
        assert origin not in (Union, UnionType)  # noqa: S101 - a field is of one kind, or null
        found = _plain(kind, value, path)
    for bound in bounds:
        bound.check(path, found)
    return found


def _plain(kind: Any, value: object, path: str) -> object:  # noqa: ANN401
    number = isinstance(value, int | float) and not isinstance(value, bool)
    fits = {
        float: number,
        int: number and (isinstance(value, int) or cast("float", value).is_integer()),
        bool: isinstance(value, bool),
        str: isinstance(value, str),
    }
    if not fits[kind]:
        raise wanted(path, value, KINDS[kind])
    try:
        return kind(value)
    except OverflowError:  # an integer of hundreds of digits is no float
        raise wanted(path, value, KINDS[kind]) from None


def write_noun(value: Any) -> Any:  # noqa: ANN401 - as wide as JSON
    """Return a noun as plain data, as :func:`read_noun` reads it."""
    kind: Any = type(value)
    names = _names(kind)
    if names is not None:
        return {on_the_wire: write_noun(getattr(value, name)) for name, on_the_wire in names}
    return [write_noun(one) for one in value] if isinstance(value, tuple) else value


@cache
def _names(kind: Any) -> tuple[tuple[str, str], ...] | None:  # noqa: ANN401 - any type
    """Return the fields of a noun, in the core and on the wire; None for what is none."""
    noun: Any = kind if is_dataclass(kind) else None
    return None if noun is None else tuple((one.name, one.wire_name) for one in fields_of(noun))

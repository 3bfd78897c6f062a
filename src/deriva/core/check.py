"""Ranges that stand on the fields of the nouns, and the one walker that checks them.

A field that is bounded says so in its type: ``depth_m: Annotated[float, DEPTH_M]``. Every noun checks itself when it is made;
the service's schemas are made from the same fields, and the phone reads JSON by them, so that all doors refuse the same.
"""

from dataclasses import dataclass, fields
from functools import cache
from types import NoneType, UnionType
from typing import Annotated, Any, Union, get_args, get_origin, get_type_hints

from deriva.core.ranges import Bound


@dataclass(frozen=True, slots=True)
class Field:
    """A field of a noun: its name in the core and on the wire, its type with and without what bounds it, and whether it may be
    null.
    """

    name: str
    wire_name: str
    kind: Any
    bounds: tuple[Bound, ...]
    optional: bool
    required: bool


def bare(kind: Any) -> tuple[Any, tuple[Bound, ...], bool]:  # noqa: ANN401 - any type a field may declare
    """Return a declared type without its bounds and its null, the bounds, and whether it may be null."""
    optional = False
    if get_origin(kind) in (Union, UnionType):
        inner = [one for one in get_args(kind) if one is not NoneType]
        optional = len(inner) < len(get_args(kind))
        kind = inner[0]
    if get_origin(kind) is not Annotated:
        return kind, (), optional
    inner_kind, *notes = get_args(kind)
    found, more, null = bare(inner_kind)
    return found, (*(note for note in notes if isinstance(note, Bound)), *more), optional or null


@cache
def fields_of(noun: Any) -> tuple[Field, ...]:  # noqa: ANN401 - the class of any noun
    """Return the fields of a noun. On the wire a name goes without the underscore that keeps it from a word of Python."""
    hints = get_type_hints(noun, include_extras=True)
    found: list[Field] = []
    for one in fields(noun):
        kind, bounds, optional = bare(hints[one.name])
        required = one.default is one.default_factory  # both are missing
        found.append(Field(one.name, one.name.rstrip("_"), kind, bounds, optional, required))
    return tuple(found)


@cache
def _bounded(noun: Any) -> tuple[tuple[str, tuple[Bound, ...]], ...]:  # noqa: ANN401
    return tuple((one.name, one.bounds) for one in fields_of(noun) if one.bounds)


def check(noun: object) -> None:
    """Check every bounded field of a noun; raises :class:`OutOfRange`, naming the field. What is null is not checked."""
    kind: Any = type(noun)
    for name, bounds in _bounded(kind):
        value = getattr(noun, name)
        if value is not None:
            for bound in bounds:
                bound.check(name.rstrip("_"), value)


class Checked:
    """Base of a noun that checks its fields when it is made."""

    __slots__ = ()

    def __post_init__(self) -> None:
        """Check every bounded field."""
        check(self)

"""The core's nouns on the wire: schemas made from the very fields, ranges and defaults that the core declares.

A field or a body of type ``Annotated[Situation, Noun()]`` is a :class:`Situation` of the core to whoever handles it, and an
object with the same fields to whoever sends it.
"""

from dataclasses import MISSING, dataclass, fields, is_dataclass
from functools import cache
from typing import Annotated, Any, get_args, get_origin

from pydantic import AfterValidator, GetCoreSchemaHandler, StrictBool, StringConstraints, create_model
from pydantic import Field as PydanticField
from pydantic_core import CoreSchema, core_schema

from deriva.core.check import bare, fields_of
from deriva.core.errors import DerivaError
from deriva.core.model.caution import Caution
from deriva.core.model.setup import DrySetup, Setup
from deriva.core.model.situation import Rules, School, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.ranges import Bound, Most, Range, Text
from deriva.core.tackle.flies import Fly
from deriva.core.tackle.food import Found
from deriva.core.tackle.rod import Rod
from deriva.core.water.bottom import Bottom
from deriva.service.schemas.base import NO_CONTROL, Wire, Within, refused


@dataclass(frozen=True)
class Noun:
    """Annotation that reads and writes a noun of the core by the fields that it declares."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:  # noqa: ANN401
        """Validate as a model with the noun's fields, then make the noun of it; write it out the same way."""
        model = mirror(source)
        names = tuple(one.name for one in fields(source))
        wire = handler.generate_schema(model)

        def made(value: Any, validate: core_schema.ValidatorFunctionWrapHandler) -> Any:  # noqa: ANN401
            if isinstance(value, source):
                return value
            read = validate(value)
            try:
                return source(**{name: getattr(read, name) for name in names})
            except DerivaError as error:
                raise refused(error) from None

        def written(noun: Any) -> Any:  # noqa: ANN401
            return model.model_construct(**{name: getattr(noun, name) for name in names})

        return core_schema.no_info_wrap_validator_function(
            made,
            wire,
            serialization=core_schema.plain_serializer_function_ser_schema(written, return_schema=wire),
        )


@cache
def mirror(noun: Any) -> type[Wire]:  # noqa: ANN401 - the class of any noun
    """Return the model of a noun's fields."""
    found: dict[str, Any] = {}
    for one, declared in zip(fields_of(noun), fields(noun), strict=True):
        kind = _kind(one.kind, one.bounds)
        said: dict[str, Any] = {}
        if declared.default is not MISSING:
            said["default"] = declared.default
        elif declared.default_factory is not MISSING:
            said["default_factory"] = declared.default_factory
        if one.wire_name != one.name:
            said["alias"] = one.wire_name
        found[one.name] = (kind | None if one.optional else kind, PydanticField(**said))
    return create_model(noun.__name__, __base__=Wire, __doc__=noun.__doc__, **found)


def _kind(kind: Any, bounds: tuple[Bound, ...]) -> Any:  # noqa: ANN401 - types in, types out
    if is_dataclass(kind):
        return Annotated[kind, Noun()]
    if get_origin(kind) is tuple:
        inner, inside, null = bare(get_args(kind)[0])
        one: Any = _kind(inner, inside)
        one = one | None if null else one
        kind = tuple[one, ...]
    if kind is bool:
        return StrictBool  # "yes" and 1 are not true to the core either
    for bound in bounds:
        kind = Annotated[kind, _note(bound)]
    return kind


def _note(bound: Bound) -> Any:  # noqa: ANN401 - Pydantic's annotations share no type
    if isinstance(bound, Range):
        return Within(bound)
    if isinstance(bound, Most):
        return PydanticField(max_length=bound.count)
    assert isinstance(bound, Text)  # noqa: S101 - there are three kinds
    if bound.pattern is not None:
        return AfterValidator(lambda value: _within(bound, value))
    return StringConstraints(min_length=bound.least or None, max_length=bound.most, pattern=NO_CONTROL)


def _within(bound: Bound, value: Any) -> Any:  # noqa: ANN401 - whatever is bounded
    try:
        return bound.check("this", value)
    except DerivaError as error:
        raise refused(error) from None


SituationNoun = Annotated[Situation, Noun()]
TuningNoun = Annotated[Tuning, Noun()]
SetupNoun = Annotated[Setup, Noun()]
DrySetupNoun = Annotated[DrySetup, Noun()]
SchoolNoun = Annotated[School, Noun()]
RodNoun = Annotated[Rod, Noun()]
RulesNoun = Annotated[Rules, Noun()]
FlyNoun = Annotated[Fly, Noun()]
FoundNoun = Annotated[Found, Noun()]
BottomNoun = Annotated[Bottom, Noun()]
CautionNoun = Annotated[Caution, Noun()]

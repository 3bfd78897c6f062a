"""The errors of the core. Each names what was wrong, where, and what would be right."""

from typing import Any, Self, TypeVar

Kind = TypeVar("Kind", bound="DerivaError")


class DerivaError(Exception):
    """Base of every error that a person may see.

    ``code`` is stable and machine-readable; ``field`` is the dotted path of the input at fault, if one is.
    """

    code = "DERIVA"

    def __init__(self, message: str, *, field: str | None = None) -> None:
        super().__init__(message)
        self.message = message
        self.field = field

    def under(self, where: str) -> Self:
        """Return the error as it is told from outside: ``where`` is the path to what holds the field at fault."""
        if not where or self.field is None:
            return self
        field = f"{where}.{self.field}"
        said = self.message
        if said.startswith(self.field):
            said = field + said.removeprefix(self.field)
        return _told(type(self), said, field)

    def __reduce__(self) -> tuple[Any, ...]:
        """Pickle what is said, whatever it was made of."""
        return _told, (type(self), self.message, self.field)


def _told(kind: type[Kind], message: str, field: str | None) -> Kind:
    error = kind.__new__(kind)
    DerivaError.__init__(error, message, field=field)
    return error


class OutOfRange(DerivaError):
    """A number lies outside the range in which the calculation holds."""

    code = "OUT_OF_RANGE"

    def __init__(self, field: str, value: float, lo: float, hi: float, unit: str) -> None:
        super().__init__(f"{field} = {value:g} is outside {lo:g} to {hi:g} {unit}".rstrip(), field=field)


class NotRead(DerivaError):
    """A field is missing, unknown or of the wrong kind."""

    code = "WRONG_TYPE"


class Impossible(DerivaError):
    """Numbers that are each in range but cannot be true together, such as a fly beyond the end of its line."""

    code = "IMPOSSIBLE"


class NotConverged(DerivaError):
    """A solver stopped without an answer; the message says with what residual."""

    code = "NOT_CONVERGED"

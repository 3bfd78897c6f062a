"""The errors of the core. Each names what was wrong, where, and what would be right."""


class DerivaError(Exception):
    """Base of every error that a person may see.

    ``code`` is stable and machine-readable; ``field`` is the dotted path of the input at fault, if one is.
    """

    code = "DERIVA"

    def __init__(self, message: str, *, field: str | None = None) -> None:
        super().__init__(message)
        self.message = message
        self.field = field


class OutOfRange(DerivaError):
    """A number lies outside the range in which the calculation holds."""

    code = "OUT_OF_RANGE"

    def __init__(self, field: str, value: float, lo: float, hi: float, unit: str) -> None:
        super().__init__(f"{field} = {value:g} is outside {lo:g}..{hi:g} {unit}".rstrip(), field=field)
        self.value, self.lo, self.hi, self.unit = value, lo, hi, unit


class Impossible(DerivaError):
    """Numbers that are each in range but cannot be true together, such as a fly beyond the end of its line."""

    code = "IMPOSSIBLE"


class NotConverged(DerivaError):
    """A solver stopped without an answer; the message says with what residual."""

    code = "NOT_CONVERGED"

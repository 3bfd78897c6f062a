"""The rules of a beat: those that bind a rig, and when it may be fished."""

from dataclasses import dataclass, fields
from typing import Annotated

from deriva.core.model.situation import Rules
from deriva.core.ranges import Text

MONTHS = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November",
    "December",
)  # fmt: skip

MonthDay = tuple[int, int]
"""Month and day of the month."""

DAY_OF_YEAR = Text(
    5,
    pattern=r"^(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$",
    says="a day of the year, month first, such as 03-15,",
)


@dataclass(frozen=True, slots=True)
class Season:
    """First and last day on which a beat may be fished; the last may lie in the next year."""

    first: MonthDay
    last: MonthDay

    def is_open(self, day: MonthDay) -> bool:
        """Return whether a day lies in the season."""
        if self.first <= self.last:
            return self.first <= day <= self.last
        return day >= self.first or day <= self.last

    @property
    def words(self) -> str:
        """The season in words."""
        (m0, d0), (m1, d1) = self.first, self.last
        return f"{d0} {MONTHS[m0 - 1]} to {d1} {MONTHS[m1 - 1]}"


def _month_day(day: str) -> MonthDay:
    month, day_of_month = day.split("-")
    return int(month), int(day_of_month)


@dataclass(frozen=True, slots=True)
class BeatRules(Rules):
    """The rules of a beat: those that bind a rig, and the season, from its first day to its last."""

    season_first: Annotated[str, DAY_OF_YEAR] | None = None
    season_last: Annotated[str, DAY_OF_YEAR] | None = None

    @property
    def season(self) -> Season | None:
        """The season; None where both ends are not entered."""
        if self.season_first is None or self.season_last is None:
            return None
        return Season(_month_day(self.season_first), _month_day(self.season_last))

    @property
    def of_a_rig(self) -> Rules:
        """The rules that bind a rig."""
        return Rules(**{one.name: getattr(self, one.name) for one in fields(Rules)})

"""Everything of an angler's as one file of JSON, read back: row by row, with the place of each in the file.

The file is an object with ``tables``, an object of arrays of rows. Line and column of what is wrong are those of its row.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from json import JSONDecodeError, JSONDecoder
from typing import IO, Any, NoReturn

from deriva.service.formats.samples import Malformed

FORMATS = (3, 4)
"""What was written by this version and by those before; what is newer is not known here."""

BLANK = re.compile(r"[ \t\n\r]*")


@dataclass(frozen=True, slots=True)
class Found:
    """A row of a table, and where it stands in the file."""

    table: str
    row: Any
    line: int
    column: int


def _no_number(text: str) -> NoReturn:
    raise ValueError(f"{text} is no number of JSON")


class _Text:
    """A text that is taken apart from the front, and knows on which line it is."""

    def __init__(self, text: str) -> None:
        self.text, self.at = text, 0
        self.decoder = JSONDecoder(parse_constant=_no_number)
        self.line, self.line_at = 1, 0

    def where(self, at: int | None = None) -> tuple[int, int]:
        """Return line and column of a place not before the last that was asked for."""
        at = self.at if at is None else at
        self.line += self.text.count("\n", self.line_at, at)
        self.line_at = max(self.line_at, at)
        return self.line, at - self.text.rfind("\n", 0, at)

    def wrong(self, message: str, at: int | None = None) -> NoReturn:
        raise Malformed(*self.where(at), message)

    def blank(self) -> None:
        """Go on to the next sign."""
        found = BLANK.match(self.text, self.at)
        self.at = self.at if found is None else found.end()

    def takes(self, sign: str) -> bool:
        """Take a sign if it is the next."""
        self.blank()
        if not self.text.startswith(sign, self.at):
            return False
        self.at += len(sign)
        return True

    def wants(self, sign: str) -> None:
        """Take a sign that has to be the next."""
        if not self.takes(sign):
            self.wrong(f"“{sign}” is wanted here" if self.at < len(self.text) else "the file ends too early")

    def value(self) -> Any:  # noqa: ANN401 - as wide as JSON
        """Take a value."""
        self.blank()
        try:
            value, self.at = self.decoder.raw_decode(self.text, self.at)
        except JSONDecodeError as error:
            self.wrong(f"this is not JSON: {error.msg}", error.pos)
        except ValueError as error:  # a number that is none, or one of thousands of digits
            self.wrong(str(error))
        except RecursionError:
            self.wrong("this is nested too deeply")
        return value

    def members(self) -> Iterator[str]:
        """Take an object apart: its names, whose values are to be taken."""
        self.wants("{")
        if self.takes("}"):
            return
        while True:
            self.blank()
            name = self.value()
            if not isinstance(name, str):
                self.wrong("a name in quotes is wanted here")
            self.wants(":")
            yield name
            if not self.takes(","):
                break
        self.wants("}")

    def items(self) -> Iterator[tuple[Any, int, int]]:
        """Take an array apart: its values, with line and column."""
        self.wants("[")
        if self.takes("]"):
            return
        while True:
            self.blank()
            where = self.where()
            yield (self.value(), *where)
            if not self.takes(","):
                break
        self.wants("]")


def read(file: IO[bytes]) -> Iterator[Found]:
    """Yield the rows of a file. Raises Malformed, with line and column, for what is not such a file."""
    raw = file.read()
    try:
        text = _Text(raw.decode("utf-8-sig"))
    except UnicodeDecodeError as error:
        line = raw.count(b"\n", 0, error.start) + 1
        column = error.start - raw.rfind(b"\n", 0, error.start)
        raise Malformed(line, column, "this is not UTF-8 text") from None
    del raw
    known = False
    seen: set[str] = set()
    for name in text.members():
        if name in seen:
            text.wrong(f"“{name}” stands here twice")
        seen.add(name)
        if name == "format":
            known = text.value() in FORMATS
            if not known:
                text.wrong(f"this is not a format that is known here: {' and '.join(map(str, FORMATS))} are")
        elif name == "tables":
            if not known:
                text.wrong("this is not a file of everything: its format is not said before its tables")
            for table in text.members():
                for row, line, column in text.items():
                    yield Found(table, row, line, column)
        else:
            text.value()
    text.blank()
    if text.at < len(text.text):
        text.wrong("nothing is wanted behind the end")
    if "tables" not in seen:
        text.wrong("this is not a file of everything: there are no tables in it")

"""All that is explained of the trade as plain data, for whoever shows it without a service."""

from dataclasses import asdict
from typing import Any

from deriva.core.glossary import WORDS
from deriva.core.trade import first_hour
from deriva.core.trade.at_a_lie import AT_A_LIE
from deriva.core.trade.casts import CASTS
from deriva.core.trade.knots import KNOTS
from deriva.core.trade.lists import FIRST_WORD, LISTS
from deriva.core.trade.troubles import TROUBLES


def written() -> dict[str, Any]:
    """Return words with the forms in which they are met, knots, what is done at a lie, casts, troubles and lists."""
    return {
        "words": [
            {"word": one.word, "meaning": one.meaning, "forms": list(one.forms), "drawing": one.drawing}
            for one in WORDS
            if one.forms
        ],
        "knots": [asdict(one) for one in KNOTS],
        "at_a_lie": [asdict(one) for one in AT_A_LIE],
        "casts": [asdict(one) for one in CASTS],
        "troubles": [asdict(one) for one in TROUBLES],
        "lists": [asdict(one) for one in LISTS],
        "first_word": FIRST_WORD,
    }


def written_first_hour() -> dict[str, Any]:
    """Return what a first hour is taught and fished with: a page of its own, since the bank needs it and none of the rest."""
    keys = ({"outcome": outcome, "name": name, "what": what} for outcome, name, what in first_hour.KEYS)
    return {
        "steps": [{"title": title, "words": words} for title, words in first_hour.STEPS],
        "rig": first_hour.RIG,
        "school": asdict(first_hour.SCHOOL),
        "turns": [list(first_hour.turns(k + 1)) for k in range(first_hour.MOST_LANES)],
        "keys": list(keys),
        "begin": first_hour.BEGIN,
        "further": first_hour.FURTHER,
        "done": first_hour.DONE,
        "after": first_hour.AFTER,
    }

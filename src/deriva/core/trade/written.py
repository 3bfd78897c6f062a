"""All that is explained of the trade as plain data, for whoever shows it without a service."""

from dataclasses import asdict
from typing import Any

from deriva.core.glossary import WORDS
from deriva.core.trade.casts import CASTS
from deriva.core.trade.knots import KNOTS
from deriva.core.trade.lists import FIRST_HOUR, FIRST_WORD, LISTS
from deriva.core.trade.troubles import TROUBLES


def written() -> dict[str, Any]:
    """Return words with the forms in which they are met, knots, casts, troubles, lists and the first hour."""
    return {
        "words": [
            {"word": one.word, "meaning": one.meaning, "forms": list(one.forms), "drawing": one.drawing}
            for one in WORDS
            if one.forms
        ],
        "knots": [asdict(one) for one in KNOTS],
        "casts": [asdict(one) for one in CASTS],
        "troubles": [asdict(one) for one in TROUBLES],
        "lists": [asdict(one) for one in LISTS],
        "first_word": FIRST_WORD,
        "first_hour": [{"title": title, "words": words} for title, words in FIRST_HOUR],
    }

"""The water column of a situation, as it goes over the wire."""

from deriva.core.model.situation import Situation
from deriva.core.read import write_noun
from deriva.core.say.column import drawn_column
from deriva.service.schemas.column import ColumnOut


def column_out(situation: Situation) -> ColumnOut:
    """Return the column of a situation for drawing."""
    return ColumnOut.model_validate(write_noun(drawn_column(situation)))

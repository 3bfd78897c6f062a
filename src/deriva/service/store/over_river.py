"""The time of day and of year over a river, in SQL: as the sun has it there, wherever the database is kept."""

from datetime import datetime
from typing import Any

from sqlalchemy import ColumnElement, SQLColumnExpression, and_, func, select

from deriva.service.store.models import Beat, Outing, River

SECONDS_PER_DEG = 240.0
"""The sun goes around in a day."""

AT_RIVER = and_(Beat.angler_id == River.angler_id, Beat.river_id == River.id)


def over_river(
    at: SQLColumnExpression[datetime], longitude: SQLColumnExpression[Any]
) -> ColumnElement[datetime]:
    """Return a time, without a zone, as the sun has it at a longitude, degrees; null where that is."""
    return func.timezone("UTC", at) + func.make_interval(0, 0, 0, 0, 0, 0, SECONDS_PER_DEG * longitude)


def outing_began() -> ColumnElement[datetime]:
    """Return when an outing began as the sun had it there; by Greenwich where the river's place is not known."""
    longitude = (
        select(River.longitude)
        .join(Beat, AT_RIVER)
        .where(Beat.angler_id == Outing.angler_id, Beat.id == Outing.beat_id)
        .correlate(Outing)
        .scalar_subquery()
    )
    return over_river(Outing.started_at, func.coalesce(longitude, 0.0))

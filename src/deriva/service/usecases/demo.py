"""The demo: an invented angler on the invented river Marrowen."""

from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID, uuid5

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.schemas.log import ReadingIn
from deriva.service.store import queries
from deriva.service.store.models import Angler, Beat, Lie, Reading, River
from deriva.service.usecases.reading import reading_values

SPACE = UUID("01935b00-0000-7000-8000-000000000000")


def _id(*path: str) -> UUID:
    return uuid5(SPACE, "/".join(path))


BEATS: tuple[dict[str, Any], ...] = (
    {
        "name": "Sallow Bend",
        "rules": {"max_flies": 2, "added_weight": True, "barbless": True},
        "rules_text": "Two flies at most. Barbless hooks. No lead. Catch and release.",
        "wading_allowed": True,
        "lies": (
            # name, kind, bed, along m, depth m, how, speed m/s, clarity m, distance m, feeding, wind m/s, notes
            ("Alder tail", "tail_out", "gravel", 20, 0.55, "staff", 0.35, 2.2, 10, "mixed", 1.5, "Fish drop back here at dusk."),
            ("Long glide", "glide", "gravel", 75, 1.0, "eye", 0.30, 2.2, 11, "bottom", 2.0, "Weed along the far side."),
            ("Bend pool", "pool", "gravel", 140, 2.1, "eye", 0.38, 2.0, 13, "bottom", 3.0, "Deepest under the sallows."),
            ("Throat", "pool_head", "cobble", 165, 0.9, "staff", 0.85, 2.0, 5, "bottom", 2.0, "Drops off after two rod lengths."),
            ("Staircase", "pocket", "boulder", 210, 0.6, "staff", 0.95, 2.0, 4, "bottom", 2.0, "One drift behind each stone."),
        ),
    },
    {
        "name": "Cinder Weir",
        "rules": {"max_flies": 3, "added_weight": False, "barbless": True},
        "rules_text": "Three flies at most, no added weight. Barbless. No wading within 30 m of the weir.",
        "wading_allowed": True,
        "lies": (
            ("Ash run", "run", "cobble", 30, 1.15, "staff", 0.80, 1.4, 6, "bottom", 2.5, ""),
            ("Wall seam", "seam", "gravel", 80, 1.3, "eye", 0.55, 1.4, 8, "bottom", 3.0, "Best on the slow side."),
            ("Back eddy", "eddy", "sand", 95, 1.1, "eye", 0.15, 1.4, 7, "mid", 2.0, "Runs upstream along the wall."),
            ("Weir apron", "riffle", "cobble", 120, 0.45, "staff", 0.75, 1.4, 5, "bottom", 2.0, ""),
        ),
    },
    {
        "name": "Long Shelf",
        "rules": {"max_flies": 1, "added_weight": False, "barbless": True},
        "rules_text": "One fly. No wading.",
        "wading_allowed": False,
        "lies": (
            ("Shelf edge", "drop_off", "gravel", 40, 1.4, "eye", 0.50, 1.8, 9, "bottom", 2.0, "Pale to dark: they line the edge."),
            ("Ranunculus channel", "weed_channel", "gravel", 110, 0.7, "eye", 0.40, 1.8, 8, "bottom", 2.0, ""),
        ),
    },
)  # fmt: skip
"""Downstream to upstream, as one would work them."""


async def seed(session: AsyncSession) -> Angler:
    """Make the demo angler with river, beats, lies and a reading of each; does nothing where that is already there."""
    angler = await queries.demo_angler(session)
    if angler is not None:
        return angler
    angler = Angler(id=_id("angler"), name="Demo angler", demo=True, school={}, units="metric")
    session.add(angler)
    await session.flush()
    river = River(id=_id("marrowen"), angler_id=angler.id, name="Marrowen")
    session.add(river)
    await session.flush()
    read_at = datetime.now(UTC) - timedelta(hours=2)
    for position, beat in enumerate(BEATS):
        row = Beat(
            id=_id(beat["name"]),
            angler_id=angler.id,
            river_id=river.id,
            position=position,
            **{name: beat[name] for name in ("name", "rules", "rules_text", "wading_allowed")},
        )
        session.add(row)
        await session.flush()
        for name, kind, bed, along, depth, how, speed, clarity, distance, feeding, wind, notes in beat[
            "lies"
        ]:
            lie = Lie(
                id=_id(beat["name"], name), angler_id=angler.id, beat_id=row.id, name=name, kind=kind, bed=bed,
                along_m=along, notes=notes,
            )  # fmt: skip
            session.add(lie)
            await session.flush()
            reading = ReadingIn.model_validate(
                {
                    "lie_id": lie.id, "at": read_at, "depth_m": depth, "depth_how": how,
                    "speed": {"how": "typed", "surface_speed_m_s": speed}, "clarity_m": clarity, "temperature_c": 12.5,
                    "distance_m": distance, "wind_m_s": wind, "feeding": feeding,
                }
            )  # fmt: skip
            session.add(
                Reading(id=_id(beat["name"], name, "reading"), angler_id=angler.id, **reading_values(reading))
            )
    await session.flush()
    return angler

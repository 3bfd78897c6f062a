"""Anglers who have fished for many years, written by the database itself: what a log looks like when it has grown."""

import json
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from uuid import UUID

import psycopg

from deriva.bench.seed import Seed
from deriva.core.learn.foretell import ENGINE
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.read import write_noun
from deriva.core.tackle.starter import STARTER_FLIES
from deriva.service.usecases.rigging import tune

LIES, STOPS, SETTINGS, DRIFTS = 12, 4, 2, 25
DRIFTS_AN_OUTING = STOPS * SETTINGS * DRIFTS
"""An outing stays at so many of the lies, sets so many rigs at each, and makes so many drifts with each."""

COUNTED = timedelta(days=365)
"""The box was counted so long ago."""


@dataclass(frozen=True, slots=True)
class Grown:
    """An angler with a log: who, the beat, an outing in the middle of it, and the last rig that was set."""

    angler: UUID
    beat: UUID
    middle: UUID
    setting: UUID


ROWS = (Path(__file__).parent / "grown.sql").read_text().split(";\n\n")


def _made(kind: int, place: int) -> UUID:
    """Return an id as the statements make them."""
    return UUID(f"{kind:012x}70008{place:015x}")


def grow(rows: psycopg.Connection, token: str, *, outings: int) -> Grown:
    """Write an angler with so many outings, whom the token signs in."""
    seed, now = Seed(rows), datetime.now(UTC)
    angler = seed.angler(token)
    seed.session(angler, token)
    beat = seed.beat(angler, seed.river(angler))
    lies = [seed.lie(angler, beat) for _ in range(LIES)]
    for stock in STARTER_FLIES:
        seed.fly(angler, stock, counted_at=now - COUNTED)
    situation = Situation(Water(depth_m=0.8, surface_speed_m_s=0.5))
    judged = tune(situation, Tuning("euro", 1.0, 3.0))
    told = {
        "angler": angler, "beat": beat, "lies": lies, "outings": outings, "now": now, "engine": ENGINE,
        "stops": STOPS, "settings": SETTINGS, "drifts": DRIFTS,
        "situation": json.dumps(write_noun(situation)),
        "setup": json.dumps(write_noun(Setup.of(judged.rig, lead_m=judged.evaluation.lead_m))),
    }  # fmt: skip
    for statement in ROWS:
        rows.execute(statement, told)
    last = outings * STOPS * SETTINGS - 1
    return Grown(angler, beat, _made(1, outings // 2), _made(4, last))

"""Rows for a bench or a test, written straight into a database: an angler and what hangs under one, each by its noun."""

import hashlib
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

import psycopg
from uuid_utils.compat import uuid7

from deriva.core.tackle.starter import Stock


@dataclass(frozen=True, slots=True)
class Seed:
    """Writes rows over a connection that commits by itself; each method returns the id of what it wrote."""

    rows: psycopg.Connection

    def _new(self, table: str, **values: object) -> UUID:
        made = uuid7()
        columns, holes = ", ".join(("id", *values)), ", ".join(["%s"] * (1 + len(values)))
        self.rows.execute(f"insert into {table} ({columns}) values ({holes})", (made, *values.values()))  # noqa: S608
        return UUID(str(made))

    def angler(self, name: str) -> UUID:
        """An angler."""
        return self._new("angler", name=name, units="metric", school="{}", demo=False)

    def session(self, angler: UUID, token: str) -> str:
        """A session that is good for a day; returns the token for its cookie."""
        self.rows.execute(
            "insert into sign_in (token_hash, angler_id, expires_at) values (%s, %s, now() + interval '1 day')",
            (hashlib.sha256(token.encode()).hexdigest(), angler),
        )
        return token

    def river(self, angler: UUID) -> UUID:
        """A river."""
        return self._new("river", angler_id=angler, name="R")

    def gauge(self, angler: UUID, river: UUID) -> UUID:
        """A gauge that is not read."""
        return self._new("gauge", angler_id=angler, river_id=river, name="G", format="csv", url="")

    def beat(self, angler: UUID, river: UUID) -> UUID:
        """A beat without rules."""
        return self._new(
            "beat", angler_id=angler, river_id=river, name="B", position=0, rules="{}", rules_text="",
            wading_allowed=True,
        )  # fmt: skip

    def lie(self, angler: UUID, beat: UUID) -> UUID:
        """A lie that was never read."""
        return self._new(
            "lie", angler_id=angler, beat_id=beat, name="L", kind="run", bed="gravel", along_m=1.0, notes=""
        )

    def fly(self, angler: UUID, stock: Stock, *, counted_at: datetime) -> UUID:
        """A kind of nymph in the box."""
        fly = stock.fly
        return self._new(
            "box_item", angler_id=angler, kind="nymph", form=fly.form, hook=fly.hook, bead_mm=fly.bead_mm,
            material=fly.material, dressing=fly.dressing, tone=fly.tone, mark=fly.mark, count=stock.count,
            counted_at=counted_at, gone=False,
        )  # fmt: skip

    def outing(self, angler: UUID, beat: UUID) -> UUID:
        """An outing that is under way."""
        return self._new("outing", angler_id=angler, beat_id=beat, started_at="now", conditions="{}")

    def stop(self, angler: UUID, outing: UUID, lie: UUID) -> UUID:
        """A stay at a lie."""
        return self._new("stop", angler_id=angler, outing_id=outing, lie_id=lie, at="now", situation="{}")

    def setting(self, angler: UUID, stop: UUID) -> UUID:
        """A rig as set."""
        return self._new(
            "setting", angler_id=angler, stop_id=stop, at="now", rig="euro", depth_setting_m=1.0, point_bead_mm=3.0,
            setup="{}",
        )  # fmt: skip

"""What is shared, as it goes over the wire to the owner and to the reader."""

from dataclasses import replace

from deriva.core.model.beat import BeatRules
from deriva.core.read import read_noun
from deriva.service.schemas.sharing import SharedBeatOut, SharedLieOut, SharedOut, SharedWithMeOut, ShareOut
from deriva.service.store.models import Lie, Reading, Share
from deriva.service.usecases.sharing import Shared, SharedBeat, SharedWithMe
from deriva.service.views.log import ledger_out


def share_out(share: Share, name: str) -> ShareOut:
    """Return the wire form of a share, to its owner."""
    stored = {field: getattr(share, field) for field in ShareOut.model_fields if field != "name"}
    return ShareOut.model_validate(stored | {"name": name})


def shared_with_me_out(one: SharedWithMe) -> SharedWithMeOut:
    """Return the wire form of what another shares."""
    return SharedWithMeOut(
        id=one.share.id, owner=one.owner, kind=one.kind, name=one.name, shared_at=one.share.shared_at
    )


def shared_out(found: Shared) -> SharedOut:
    """Return the wire form of what a share holds."""
    exact = found.share.blur_m == 0.0
    return SharedOut(
        owner=found.owner,
        blur_m=found.share.blur_m,
        beat=_beat_out(found.beat, exact=exact) if found.beat else None,
        # what the owner noted is the owner's
        outing=ledger_out(replace(found.outing, notes=())) if found.outing else None,
    )


def _beat_out(one: SharedBeat, *, exact: bool) -> SharedBeatOut:
    latitude, longitude = one.place or (None, None)
    return SharedBeatOut(
        name=one.beat.name,
        river=one.river,
        rules=read_noun(BeatRules, one.beat.rules),
        rules_text=one.beat.rules_text,
        wading_allowed=one.beat.wading_allowed,
        latitude=latitude,
        longitude=longitude,
        lies=[_lie_out(lie, reading, exact=exact) for lie, reading in one.lies],
    )


def _lie_out(lie: Lie, reading: Reading | None, *, exact: bool) -> SharedLieOut:
    """Return a lie; along how much of the beat it lies would give a place away that was to be hidden."""
    return SharedLieOut(
        name=lie.name,
        kind=lie.kind,
        bed=lie.bed,
        along_m=lie.along_m if exact else None,
        depth_m=reading and reading.depth_m,
        surface_speed_m_s=reading and reading.surface_speed_m_s,
    )

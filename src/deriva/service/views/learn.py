"""How right it was, as it is sent."""

from dataclasses import asdict

from deriva.core.learn.calibration import bands, eye, length, touches
from deriva.service.schemas.learn import CalibrationOut
from deriva.service.usecases.calibration import Found


def calibration_out(found: Found, own_error: float | None) -> CalibrationOut:
    """Judge what was found, and write it out; ``own_error``: of the angler's eye, where it is reckoned with."""
    return CalibrationOut(
        **asdict(found.counts),
        carried=bands(found.carried, "Depths carried to the flow of the day"),
        by_eye=bands(found.by_eye, "Depths by eye"),
        eye=eye(found.by_eye),
        own_error=own_error,
        lengths=length(found.lengths),
        touches=touches(found.forecasts),
    )

"""Tables. Every row belongs to an angler, and is found by angler and id; every reference carries the angler with it, so that
the database itself refuses to hang one angler's row under another's, and all that is an angler's can lie on one machine.

A row hangs under its parent alone, and the parents under the angler: what is removed goes down the same way.
"""

from deriva.service.store.models.base import Base, Owned
from deriva.service.store.models.beside import BoxItem, Job, PracticeGame
from deriva.service.store.models.log import (
    Catch,
    Caught,
    Drift,
    Effort,
    Foretold,
    LogEntry,
    Note,
    Outing,
    Setting,
    Stop,
)
from deriva.service.store.models.people import (
    Account,
    Angler,
    Attempt,
    Blur,
    KnownPlace,
    Mail,
    Share,
    SignIn,
    Ticket,
)
from deriva.service.store.models.river import (
    Beat,
    Gauge,
    GaugeValue,
    Lie,
    Reading,
    River,
    Sounding,
    WeatherHour,
)

__all__ = [
    "Account",
    "Angler",
    "Attempt",
    "Base",
    "Beat",
    "Blur",
    "BoxItem",
    "Catch",
    "Caught",
    "Drift",
    "Effort",
    "Foretold",
    "Gauge",
    "GaugeValue",
    "Job",
    "KnownPlace",
    "Lie",
    "LogEntry",
    "Mail",
    "Note",
    "Outing",
    "Owned",
    "PracticeGame",
    "Reading",
    "River",
    "Setting",
    "Share",
    "SignIn",
    "Sounding",
    "Stop",
    "Ticket",
    "WeatherHour",
]

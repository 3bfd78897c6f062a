"""What all tables share: stable names, the key of what an angler owns, and how rows hang under each other."""

from datetime import datetime
from typing import Any, ClassVar
from uuid import UUID

from sqlalchemy import (
    DateTime,
    ForeignKeyConstraint,
    Index,
    MetaData,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Declarative base with stable constraint names, for migrations."""

    metadata = MetaData(
        naming_convention={
            "pk": "pk_%(table_name)s",
            "fk": "fk_%(table_name)s_%(referred_table_name)s",
            "uq": "uq_%(table_name)s",
            "ix": "ix_%(table_name)s_%(column_0_name)s",
        }
    )
    type_annotation_map: ClassVar = {
        datetime: DateTime(timezone=True),
        dict[str, Any]: JSONB(none_as_null=True),
        list[dict[str, Any]]: JSONB,
        list[str]: JSONB,
    }


class Owned:
    """The key of every row of an angler's; the id is made by whoever writes it (UUIDv7), and is the angler's own affair."""

    angler_id: Mapped[UUID] = mapped_column(primary_key=True)
    id: Mapped[UUID] = mapped_column(primary_key=True)


def of_angler() -> ForeignKeyConstraint:
    """Reference the angler: for what hangs under nothing else."""
    return ForeignKeyConstraint(["angler_id"], ["angler.id"], ondelete="CASCADE")


def under(table: str, column: str) -> ForeignKeyConstraint:
    """Reference a parent of the same angler."""
    return ForeignKeyConstraint(
        ["angler_id", column], [f"{table}.angler_id", f"{table}.id"], ondelete="CASCADE"
    )


def by(name: str, *columns: str, **options: Any) -> Index:  # noqa: ANN401
    """Find an angler's rows by something."""
    return Index(f"ix_{name}", "angler_id", *columns, **options)

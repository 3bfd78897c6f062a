"""The command line: thin faces on the core that need no database and no network."""

import json
import sys
from pathlib import Path
from typing import Annotated, TypeVar

import orjson
import typer
from pydantic import BaseModel, ValidationError

from deriva.core.advice.advisor import advise as core_advise
from deriva.core.advice.wording import plain
from deriva.core.drift.transient import transient_drift
from deriva.core.errors import DerivaError
from deriva.service.schemas.advise import SituationModel, advice_out, plain_json
from deriva.service.schemas.base import faults_of_validation
from deriva.service.schemas.coach import CoachIn, coached_out
from deriva.service.schemas.drift import DriftIn, DriftOut

app = typer.Typer(add_completion=False, no_args_is_help=True, pretty_exceptions_enable=False, help=__doc__)
Input = Annotated[str, typer.Argument(metavar="FILE", help="a JSON file, or - for standard input")]
Model = TypeVar("Model", bound=BaseModel)


def _refuse(*lines: str) -> typer.Exit:
    for line in lines:
        print(line, file=sys.stderr)
    return typer.Exit(2)


def _read(source: str, model: type[Model]) -> Model:
    try:
        text = sys.stdin.read() if source == "-" else Path(source).read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        raise _refuse(f"{source}: could not be read: {error}") from None
    try:
        return model.model_validate_json(text)
    except ValidationError as error:
        raise _refuse(*(fault.message for fault in faults_of_validation(error))) from None


def _write(document: object) -> None:
    sys.stdout.buffer.write(orjson.dumps(document, option=orjson.OPT_INDENT_2) + b"\n")


@app.command()
def drift(file: Input) -> None:
    """One rig in one column: its steady drift, and the drift from the flies landing."""
    request = _read(file, DriftIn)
    try:
        scenario = request.scenario()
        result = transient_drift(scenario, duration_s=request.duration_s)
    except DerivaError as error:
        raise _refuse(error.message) from None
    _write(DriftOut.of(result, scenario).model_dump())


@app.command()
def advise(file: Input) -> None:
    """A situation in, the three rigs ranked."""
    request = _read(file, SituationModel)
    try:
        situation = request.situation()
        advice = core_advise(situation)
    except DerivaError as error:
        raise _refuse(error.message) from None
    _write(plain_json(advice_out(advice, situation).model_dump(by_alias=True)))


@app.command()
def coach(file: Input) -> None:
    """Drifts so far in, the next change out."""
    request = _read(file, CoachIn)
    try:
        done = coached_out(request)
    except DerivaError as error:
        raise _refuse(plain(error.message)) from None
    _write(plain_json(done.model_dump()))


@app.command()
def bench(as_json: Annotated[bool, typer.Option("--json", help="write JSON")] = False) -> None:
    """Speed and skill, each figure a ratio to something measured in the same run, with the raw ones beside it."""
    from deriva.bench import run  # noqa: PLC0415 - only this command needs it
    from deriva.bench_coach import skill  # noqa: PLC0415
    from deriva.bench_load import load  # noqa: PLC0415

    rows = [*run(), *skill(), *load()]
    if as_json:
        print(json.dumps(rows, indent=2))
        return
    for row in rows:
        ratio = "      none" if row["ratio"] is None else f"{row['ratio']:>10.3g}"
        print(f"{row['what']:<62} {ratio} ×   {row['raw']}")


@app.command()
def warm() -> None:
    """Compile the numeric kernels, so that the first request does not wait for it."""
    from deriva.bench import warm_kernels  # noqa: PLC0415

    warm_kernels()


def _database_url() -> str:
    from deriva.service.settings import Settings  # noqa: PLC0415 - only these commands need a database

    return Settings().database_url


@app.command()
def migrate() -> None:
    """Bring the schema of DERIVA_DATABASE_URL up to date."""
    from deriva.service.store.engine import migrate as upgrade  # noqa: PLC0415

    upgrade(_database_url())


@app.command()
def backup(file: Annotated[Path, typer.Argument(help="where to write it")]) -> None:
    """Write the database of DERIVA_DATABASE_URL into one file."""
    from deriva.service.store import backup as tools  # noqa: PLC0415

    try:
        tools.backup(_database_url(), file)
    except (tools.BackupError, OSError, RuntimeError) as error:
        raise _refuse(f"no backup was made: {error}") from None
    print(f"{file}: {file.stat().st_size} bytes")


@app.command()
def restore(file: Annotated[Path, typer.Argument(help="a backup")]) -> None:
    """Put a backup in the place of what is in the database of DERIVA_DATABASE_URL."""
    from deriva.service.store import backup as tools  # noqa: PLC0415

    try:
        tools.restore(_database_url(), file)
    except (tools.BackupError, OSError, RuntimeError) as error:
        raise _refuse(f"nothing was put back: {error}") from None
    print(f"{file} is put back")


def main() -> None:
    """Run the command line."""
    app()

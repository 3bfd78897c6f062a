"""The command line: thin faces on the core that need no database and no network, and running the service."""

import asyncio
import contextlib
import json
import sys
from collections.abc import Callable, Coroutine
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import click
import orjson
import typer
from pydantic import TypeAdapter, ValidationError

from deriva.core.coach.ask import Asked
from deriva.core.drift.transient import transient_drift
from deriva.core.errors import DerivaError
from deriva.core.model.quantity import plain
from deriva.core.model.situation import Situation
from deriva.service.schemas.base import faults_of_validation
from deriva.service.schemas.coach import AskedNoun
from deriva.service.schemas.drift import DriftIn
from deriva.service.schemas.nouns import SituationNoun
from deriva.service.usecases import rigging
from deriva.service.views.advice import coach_out, headless_advice, plain_json, steps_out
from deriva.service.views.drift import drift_out

if TYPE_CHECKING:
    from deriva.service.settings import Settings

app = typer.Typer(add_completion=False, no_args_is_help=True, pretty_exceptions_enable=False, help=__doc__)
Input = Annotated[str, typer.Argument(metavar="FILE", help="a JSON file, or - for standard input")]


def _refuse(*lines: str) -> typer.Exit:
    for line in lines:
        print(line, file=sys.stderr)
    return typer.Exit(2)


def _read(source: str, kind: Any) -> Any:  # noqa: ANN401 - a model, or a noun of the core
    try:
        text = sys.stdin.read() if source == "-" else Path(source).read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        raise _refuse(f"{source}: could not be read: {error}") from None
    try:
        return TypeAdapter(kind).validate_json(text)
    except ValidationError as error:
        raise _refuse(*(fault.message for fault in faults_of_validation(error))) from None


def _write(document: object) -> None:
    sys.stdout.buffer.write(orjson.dumps(document, option=orjson.OPT_INDENT_2) + b"\n")


Lines = Annotated[
    bool, typer.Option("--lines", help="one JSON question a line in, one JSON answer a line out, in order")
]


def _drift(asked: DriftIn) -> object:
    scenario = asked.scenario()
    return drift_out(transient_drift(scenario, duration_s=asked.duration_s), scenario).model_dump()


def _advise(asked: Situation) -> object:
    return plain_json(headless_advice(rigging.rank(asked)))


def _coach(asked: Asked) -> dict[str, Any]:
    found: dict[str, Any] = plain_json(coach_out(rigging.coach(asked)).model_dump(by_alias=True))  # type: ignore[assignment]
    return found


def _coach_ahead(asked: Asked) -> dict[str, Any]:
    """With the search card: it takes dozens of times as long, so that many questions in one process go without."""
    return _coach(asked) | {
        "next": [plain_json(one.model_dump(by_alias=True)) for one in steps_out(rigging.search_ahead(asked))]
    }


def _answer(source: str, kind: Any, work: Callable[[Any], object], *, lines: bool) -> None:  # noqa: ANN401
    """Answer what a file asks, or each of its lines; a faulty line is answered by its faults, and the next one is read."""
    if not lines:
        asked = _read(source, kind)
        try:
            answer = work(asked)
        except DerivaError as error:
            raise _refuse(plain(error.message)) from None
        _write(answer)
        return
    adapter: TypeAdapter[Any] = TypeAdapter(kind)
    try:
        with (
            contextlib.nullcontext(sys.stdin)
            if source == "-"
            else Path(source).open(encoding="utf-8") as file
        ):
            for line in file:
                if line.strip():
                    sys.stdout.buffer.write(orjson.dumps(_one(adapter, work, line)) + b"\n")
                    sys.stdout.buffer.flush()
    except (OSError, UnicodeDecodeError) as error:
        raise _refuse(f"{source}: could not be read: {error}") from None


def _one(adapter: TypeAdapter[Any], work: Callable[[Any], object], line: str) -> object:
    try:
        return work(adapter.validate_json(line))
    except ValidationError as error:
        found = [(fault.field, fault.message) for fault in faults_of_validation(error)]
    except DerivaError as error:
        found = [(error.field, plain(error.message))]
    return {"faults": [{"field": field, "message": message} for field, message in found]}


@app.command()
def drift(file: Input, lines: Lines = False) -> None:
    """One rig in one column: its steady drift, and the drift from the flies landing."""
    _answer(file, DriftIn, _drift, lines=lines)


@app.command()
def advise(file: Input, lines: Lines = False) -> None:
    """A situation in, the three rigs ranked."""
    _answer(file, SituationNoun, _advise, lines=lines)


@app.command()
def coach(file: Input, lines: Lines = False) -> None:
    """Drifts so far in, the next change out, and what will be said after each likely drift."""
    _answer(file, AskedNoun, _coach if lines else _coach_ahead, lines=lines)


@app.command()
def explain(file: Input) -> None:
    """How an advice came about: what was tried of each rig, what its trouble is reckoned at, and every criterion."""
    situation: Situation = _read(file, SituationNoun)
    try:
        found = rigging.explained(situation)
    except DerivaError as error:
        raise _refuse(plain(error.message)) from None
    print("\n".join(found))


@app.command()
def bench(as_json: Annotated[bool, typer.Option("--json", help="write JSON")] = False) -> None:
    """Speed and skill, each figure a ratio to something measured in the same run, with the raw ones beside it."""
    from deriva.bench import rows as measured  # noqa: PLC0415 - only this command needs it

    rows = measured()
    if as_json:
        print(json.dumps(rows, indent=2))
        return
    for row in rows:
        ratio = "      none" if row["ratio"] is None else f"{row['ratio']:>10.3g}"
        print(f"{row['what']:<62} {ratio} ×   {row['raw']}")


@app.command()
def warm() -> None:
    """Compile the numeric kernels, so that the first request does not wait for it."""
    from deriva.service.usecases import learn, practice  # noqa: PLC0415 - they bring the database with them

    rigging.warm()
    learn.warm()
    practice.warm()


def _settings() -> "Settings":
    from deriva.service.settings import Settings  # noqa: PLC0415 - only these commands need it

    try:
        return Settings()
    except ValidationError as error:
        raise _refuse(
            *(
                f"DERIVA_{fault.field or ''}".upper() + f": {fault.message}"
                for fault in faults_of_validation(error)
            )
        ) from None


def _reached(error: Exception) -> str:
    from sqlalchemy.engine import make_url  # noqa: PLC0415

    where = make_url(_settings().database_url).render_as_string(hide_password=True)
    last = str(error).strip().splitlines()
    return f"the database at {where} cannot be used: {last[0] if last else type(error).__name__}"


@app.command()
def serve(
    host: Annotated[str, typer.Option(envvar="DERIVA_HOST", help="address to listen at")] = "127.0.0.1",
    port: Annotated[int, typer.Option(envvar="DERIVA_PORT", help="port to listen at")] = 8420,
    workers: Annotated[int, typer.Option(help="processes, about the cores there are")] = 1,
) -> None:
    """Run the web application, on the settings in the environment (see docs/settings.md)."""
    from deriva.service import serve as serving  # noqa: PLC0415

    try:
        serving.serve(_settings(), host=host, port=port, workers=workers)
    except serving.NotReady as error:
        raise _refuse(str(error)) from None


@app.command()
def migrate() -> None:
    """Make the schema of DERIVA_DATABASE_URL, or bring it up to date."""
    from sqlalchemy.exc import SQLAlchemyError  # noqa: PLC0415

    from deriva.service.store.schema import migrate as upgrade  # noqa: PLC0415

    try:
        upgrade(_settings().database_url)
    except (SQLAlchemyError, OSError) as error:
        raise _refuse(_reached(error)) from None
    print("the schema is up to date")


@app.command()
def backup(file: Annotated[Path, typer.Argument(help="where to write it")]) -> None:
    """Write the database of DERIVA_DATABASE_URL into one file."""
    from deriva.service.store import backup as tools  # noqa: PLC0415

    try:
        tools.backup(_settings().database_url, file)
    except (tools.BackupError, OSError, RuntimeError) as error:
        raise _refuse(f"no backup was made: {error}") from None
    print(f"{file}: {file.stat().st_size} bytes")


@app.command()
def restore(
    file: Annotated[Path, typer.Argument(help="a backup")],
    yes: Annotated[bool, typer.Option("--yes", help="do not ask")] = False,
) -> None:
    """Put a backup in the place of what is in the database of DERIVA_DATABASE_URL."""
    from deriva.service.store import backup as tools  # noqa: PLC0415

    url = _settings().database_url
    try:
        there = 0 if yes else tools.accounts_in(url)
        if there:
            typer.confirm(
                f"{there} accounts and all they wrote are replaced by what is in {file}. Go on?", abort=True
            )
        tools.restore(url, file)
    except (tools.BackupError, OSError, RuntimeError) as error:
        if isinstance(error, click.Abort):
            raise _refuse("nothing was put back") from None
        raise _refuse(f"nothing was put back: {error}") from None
    print(f"{file} is put back")


@app.command()
def move(
    address: Annotated[str, typer.Argument(metavar="ADDRESS", help="the mail address of the account")],
    to: Annotated[str, typer.Option("--to", metavar="URL", help="the database they go to")],
) -> None:
    """Move one angler, with all that is theirs, from the database of DERIVA_DATABASE_URL to another, while taps arrive."""
    import psycopg  # noqa: PLC0415

    from deriva.service.store.moving import NotMoved  # noqa: PLC0415
    from deriva.service.store.moving import move as moved  # noqa: PLC0415

    try:
        done = moved(_settings().database_url, to, address)
    except (NotMoved, psycopg.Error, ValueError) as error:
        last = str(error).strip().splitlines()
        raise _refuse(f"nobody was moved: {last[0] if last else type(error).__name__}") from None
    print(
        f"{address} is moved: {done.rows['outing']} outings, {done.rows['drift']} drifts, {sum(done.rows.values())} rows"
    )


accounts = typer.Typer(no_args_is_help=True, help="Accounts: for whoever runs the service.")
app.add_typer(accounts, name="account")
Address = Annotated[str, typer.Argument(metavar="ADDRESS", help="the mail address of the account")]


def _done(work: Callable[["Settings"], Coroutine[Any, Any, str]]) -> None:
    from sqlalchemy.exc import SQLAlchemyError  # noqa: PLC0415

    from deriva.service.usecases.keeping import NoSuchAccount  # noqa: PLC0415

    try:
        print(asyncio.run(work(_settings())))
    except (NoSuchAccount, ValueError) as error:
        raise _refuse(str(error)) from None
    except (SQLAlchemyError, OSError) as error:
        raise _refuse(_reached(error)) from None


@accounts.command("add")
def account_add(
    address: Address, name: Annotated[str, typer.Option(help="what the angler is called")] = ""
) -> None:
    """Make an account; the link that is printed sets its password, and is good for a day."""
    from deriva.service.usecases import keeping  # noqa: PLC0415

    _done(lambda settings: keeping.add(settings, address, name))


@accounts.command("confirm")
def account_confirm(address: Address) -> None:
    """Confirm the address of somebody who has signed up."""
    from deriva.service.usecases import keeping  # noqa: PLC0415

    _done(lambda settings: keeping.confirm(settings, address))


@accounts.command("reset")
def account_reset(address: Address) -> None:
    """Print a link that sets a new password, good for a day."""
    from deriva.service.usecases import keeping  # noqa: PLC0415

    _done(lambda settings: keeping.reset(settings, address))


@accounts.command("list")
def account_list() -> None:
    """List the accounts."""
    from deriva.service.usecases import keeping  # noqa: PLC0415

    _done(keeping.listed)


@accounts.command("disable")
def account_disable(
    address: Address, undo: Annotated[bool, typer.Option("--undo", help="let in again")] = False
) -> None:
    """Let an account sign in no more, and end its sessions; what it wrote stays."""
    from deriva.service.usecases import keeping  # noqa: PLC0415

    _done(lambda settings: keeping.disable(settings, address, undo=undo))


def main() -> None:
    """Run the command line."""
    try:
        app()
    except DerivaError as error:
        raise SystemExit(error.message) from None


if __name__ == "__main__":
    main()

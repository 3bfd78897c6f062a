"""Every exception that reaches a client becomes a status and a list of faults here, and nowhere else."""

import logging
from concurrent.futures import BrokenExecutor

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from sqlalchemy.exc import DBAPIError
from starlette.exceptions import HTTPException as StarletteHTTPException

from deriva.core.errors import DerivaError, NotConverged
from deriva.service.api.turns import Busy, Unwanted
from deriva.service.schemas.base import Fault, Wire, faults_of
from deriva.service.store.engine import UNREACHABLE, unreachable
from deriva.service.store.owned import NotYours
from deriva.service.usecases import account, caps, export, imports, passwords
from deriva.service.usecases.places import Fished
from deriva.service.usecases.sync import OtherAngler

log = logging.getLogger(__name__)


class Problem(Wire):
    """The body of every refusal."""

    faults: list[Fault]


RESPONSES: dict[int | str, dict[str, object]] = {
    400: {"model": Problem, "description": "The body could not be read"},
    401: {"model": Problem, "description": "Nobody is signed in, or address or password is not right"},
    403: {
        "model": Problem,
        "description": "It may not be done: from another site, or before the address is confirmed",
    },
    404: {"model": Problem, "description": "There is nothing of yours here"},
    413: {"model": Problem, "description": "The body is too large"},
    429: {"model": Problem, "description": "Too much or too often: come back when Retry-After says"},
    503: {"model": Problem, "description": "It took too long, or the database does not answer"},
    422: {"model": Problem, "description": "A field is wrong: which, what came, what is allowed"},
}


RETRY_S = 2

HUNG_UP = 499
"""No standard status says so; several servers write this one into their log. Nobody is there to read it."""


class SignedOut(Exception):
    """The request needs an angler and has none."""


def refusal(status: int, *faults: Fault) -> Response:
    """Return a refusal."""
    return JSONResponse(Problem(faults=list(faults)).model_dump(), status_code=status)


def one(status: int, code: str, message: str, field: str | None = None) -> Response:
    """Return a refusal of one fault."""
    return refusal(status, Fault(code=code, field=field, message=message))


def unexpected(error: Exception) -> Response:
    """Return the answer to what nothing else turns into one, and write it down."""
    log.error("unexpected", exc_info=error)
    return one(
        500, "UNEXPECTED", "Something went wrong here, not with what you sent. What you logged is kept."
    )


def unavailable(error: Exception) -> Response:
    """Return the answer while the database does not answer."""
    log.warning("the database does not answer: %s", type(error).__name__)
    answer = one(
        503, "NO_DATABASE", "The log cannot be reached just now. What you logged is kept on your device."
    )
    answer.headers["Retry-After"] = str(RETRY_S)
    return answer


def install(app: FastAPI) -> None:
    """Teach the app what each exception means."""

    @app.exception_handler(RequestValidationError)
    async def _(_: Request, error: RequestValidationError) -> Response:
        faults = faults_of(error.errors())
        return refusal(400 if any(fault.code == "NOT_JSON" for fault in faults) else 422, *faults)

    @app.exception_handler(NotConverged)
    async def _(_: Request, error: NotConverged) -> Response:
        log.warning("a drift did not converge: %s", error.message)
        return one(422, error.code, f"{error.message}. A shorter or heavier rig will.", error.field)

    @app.exception_handler(DerivaError)
    async def _(_: Request, error: DerivaError) -> Response:
        return one(422, error.code, error.message, error.field)

    @app.exception_handler(NotYours)
    async def _(_: Request, error: NotYours) -> Response:
        return one(404, "NOT_FOUND", f"There is no such {error.what} of yours.")

    @app.exception_handler(Fished)
    async def _(_: Request, error: Fished) -> Response:  # noqa: ARG001
        text = "Something was fished there, and stays in the ledger. Retire it: it goes out of every list."
        return one(409, "FISHED", text)

    @app.exception_handler(OtherAngler)
    async def _(_: Request, error: OtherAngler) -> Response:  # noqa: ARG001
        return one(403, "OTHER_ANGLER", "This was written by another angler, who has to sign in to send it.")

    @app.exception_handler(account.NoDemo)
    async def _(_: Request, error: account.NoDemo) -> Response:  # noqa: ARG001
        return one(404, "NOT_FOUND", "There is no demo angler here: this is not the demo start.")

    @app.exception_handler(account.WrongSignIn)
    async def _(_: Request, error: account.WrongSignIn) -> Response:  # noqa: ARG001
        return one(
            401, "WRONG_SIGN_IN", "Address or password is not right, or the address is not confirmed yet."
        )

    @app.exception_handler(passwords.WeakPassword)
    async def _(_: Request, error: passwords.WeakPassword) -> Response:
        text = f"{error.why.rstrip('.')}. Four words that do not belong together are hard to guess."
        return one(422, "WEAK_PASSWORD", text, "password")

    @app.exception_handler(account.OldTicket)
    async def _(_: Request, error: account.OldTicket) -> Response:  # noqa: ARG001
        return one(422, "OLD_TICKET", "This link is used or over. Ask for another.", "ticket")

    @app.exception_handler(account.SignUpClosed)
    async def _(_: Request, error: account.SignUpClosed) -> Response:  # noqa: ARG001
        return one(403, "CLOSED", "New accounts are not made here. Ask whoever runs this.")

    @app.exception_handler(account.NoLetters)
    async def _(_: Request, error: account.NoLetters) -> Response:  # noqa: ARG001
        text = "No letters are sent from here. Whoever runs this makes you a link: `deriva account reset ADDRESS`."
        return one(503, "NO_LETTERS", text)

    @app.exception_handler(account.TooMany)
    async def _(_: Request, error: account.TooMany) -> Response:
        minutes = -(-error.retry_s // 60)
        answer = one(429, "TOO_OFTEN", f"Tried too often. Try again in {minutes} min.")
        answer.headers["Retry-After"] = str(error.retry_s)
        return answer

    @app.exception_handler(Busy)
    async def _(_: Request, error: Busy) -> Response:  # noqa: ARG001
        answer = one(
            429, "BUSY", "Too many are asking for plans just now. Try again in a moment; logging goes on."
        )
        answer.headers["Retry-After"] = str(RETRY_S)
        return answer

    @app.exception_handler(BrokenExecutor)
    async def _(_: Request, error: BrokenExecutor) -> Response:  # noqa: ARG001
        log.error("what computed was killed, twice")
        return one(503, "BROKEN_OFF", "What worked this out was broken off. Try again in a moment.")

    @app.exception_handler(Unwanted)
    async def _(_: Request, error: Unwanted) -> Response:  # noqa: ARG001
        return one(HUNG_UP, "HUNG_UP", "Nobody waits for this any more.")

    @app.exception_handler(export.TakingAway)
    async def _(_: Request, error: export.TakingAway) -> Response:  # noqa: ARG001
        answer = one(429, "BUSY", "All that is yours is being written out already. Wait until that is done.")
        answer.headers["Retry-After"] = str(RETRY_S)
        return answer

    @app.exception_handler(caps.Full)
    async def _(_: Request, error: caps.Full) -> Response:
        return one(422, "FULL", str(error))

    @app.exception_handler(imports.TooManyFiles)
    async def _(_: Request, error: imports.TooManyFiles) -> Response:  # noqa: ARG001
        text = "Files of yours are still being taken in. Send the next when they are done."
        answer = one(429, "TOO_MANY_FILES", text)
        answer.headers["Retry-After"] = "10"
        return answer

    @app.exception_handler(SignedOut)
    async def _(_: Request, error: SignedOut) -> Response:  # noqa: ARG001
        return one(401, "SIGNED_OUT", "Nobody is signed in. Sign in and try again; nothing typed is lost.")

    @app.exception_handler(DBAPIError)
    async def _(_: Request, error: DBAPIError) -> Response:
        return unavailable(error) if unreachable(error) else unexpected(error)

    async def lost(_: Request, error: Exception) -> Response:
        return unavailable(error)

    for kind in UNREACHABLE:
        app.add_exception_handler(kind, lost)

    @app.exception_handler(StarletteHTTPException)
    async def _(_: Request, error: StarletteHTTPException) -> Response:
        return one(error.status_code, f"HTTP_{error.status_code}", str(error.detail))

"""Taking outings away as files."""

from typing import Annotated
from zoneinfo import ZoneInfo

from fastapi import APIRouter, Query
from fastapi.responses import FileResponse, JSONResponse, Response
from starlette.background import BackgroundTask

from deriva.service.api.deps import Caller, Making
from deriva.service.api.files import new_file
from deriva.service.formats.registry import FORMATS
from deriva.service.schemas import everything
from deriva.service.schemas.files import FileIn, FormatName, FormatOut
from deriva.service.usecases import files

router = APIRouter(tags=["formats"])


@router.get("/formats")
async def list_formats(caller: Caller) -> list[FormatOut]:  # noqa: ARG001
    """List what a log can be written as and read from, and what each keeps and loses."""
    return [
        FormatOut.model_validate(
            {name: getattr(one, name) for name in FormatOut.model_fields if name != "writes"}
            | {"writes": one.writer is not None}
        )
        for one in FORMATS.values()
    ]


@router.get(
    "/formats/json/schema",
    response_class=Response,
    responses={200: {"content": {"application/schema+json": {}}}},
)
async def read_schema(caller: Caller) -> Response:  # noqa: ARG001
    """Return the JSON Schema of a file of everything."""
    return JSONResponse(everything.schema(), media_type="application/schema+json")


@router.get(
    "/files/{name}",
    response_class=Response,
    responses={200: {"content": {one.media.split(";")[0]: {} for one in FORMATS.values() if one.writer}}},
)
async def write_file(
    caller: Caller, making: Making, name: FormatName, how: Annotated[FileIn, Query()]
) -> Response:
    """Return one outing, or all that fit some words, in a format."""
    path = new_file()
    try:
        async with making.begin() as session:
            known, title = await files.write(
                session,
                caller,
                name,
                path,
                outing=how.outing,
                find=how.find,
                exact=how.exact,
                zone=ZoneInfo(how.zone),
            )
    except BaseException:
        path.unlink(missing_ok=True)
        raise
    return FileResponse(
        path, media_type=known.media, filename=title, background=BackgroundTask(path.unlink, missing_ok=True)
    )

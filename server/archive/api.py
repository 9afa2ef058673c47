"""Routes: everything a person has, out as one archive and back in."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from common.job_limiter import jobs
from common.problems import Problem
from common.throttles import AtMost
from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import Field, File, Query, Router, Schema, Status, UploadedFile

from accounts.auth import AnglersOwn
from accounts.people import person
from archive import services
from archive.models import Restore

router = Router(tags=["archive"])
SESSION = AnglersOwn()
# Each reads all that a person has.
WHOLE = AtMost("60/h", group="archives")
Mode = Literal["merge", "replace"]


class RestoreIn(Schema):
    size: Annotated[int, Field(ge=1, le=10_000_000_000)]


class FoundRowOut(Schema):
    """Of one kind: `new` come in; `same` are here as they are in the archive; `differs` are here otherwise, and stay so."""

    kind: str
    new: int
    same: int
    differs: int


class FaultOut(Schema):
    """Which file of the archive is not taken, where in it, and why."""

    file: str
    where: str
    why: str


class FoundOut(Schema):
    """What taking an archive in does. `faults` are the first fifty of what is refused."""

    username: str
    written_at: datetime
    rows: list[FoundRowOut]
    refused: int
    faults: list[FaultOut]


class RestoreOut(Schema):
    """How much of an archive came, and how far it is looked at or taken in: `done` of its `of` files."""

    id: UUID
    came: int
    size: int
    done: int
    of: int


class LookIn(Schema):
    """`merge` adds what is not here, and lets what is here stand; `replace` makes the account what the archive is."""

    mode: Mode = "merge"


class TakeIn(LookIn):
    """`leave_out`: what is refused may be left out; else, where anything is, nothing is taken."""

    leave_out: bool = False


def _shown(restore: Restore) -> dict[str, Any]:
    done, of = services.progress(restore)
    return {"id": restore.pk, "came": restore.came, "size": restore.size, "done": done, "of": of}


@router.get("/archive.zip", operation_id="export_archive", throttle=WHOLE, response={200: None})
def export_archive(request: HttpRequest) -> HttpResponse:
    """Give everything that the person has as one zip: JSON by a published schema, and pictures."""
    owner = person(request)
    file = jobs.do(owner.pk, ("archive", id(request)), lambda: services.archive_of(owner))
    name = f"still-thread-{datetime.now():%Y-%m-%d}.zip"
    return FileResponse(file, as_attachment=True, filename=name, content_type="application/zip")  # type: ignore[return-value]


@router.get("/archive.schema.json", auth=None, operation_id="get_archive_schema", response={200: dict[str, Any]})
def get_archive_schema(request: HttpRequest) -> dict[str, Any]:
    """Give the JSON Schema of the archive."""
    from archive.shapes import json_schema

    return json_schema()


@router.post("/restores", auth=SESSION, operation_id="create_restore", throttle=WHOLE, response={201: RestoreOut, 413: Problem})
def create_restore(request: HttpRequest, payload: RestoreIn) -> Status[object]:
    """Announce an archive; send it in parts then. One that waited already goes."""
    return Status(201, _shown(services.begin(person(request), payload.size)))


@router.get("/restores/{restore_id}", auth=SESSION, operation_id="get_restore", response={200: RestoreOut, 404: Problem})
def get_restore(request: HttpRequest, restore_id: UUID) -> object:
    """Say how far it is."""
    return _shown(services.restore_of(person(request), restore_id))


@router.post(
    "/restores/{restore_id}/parts", auth=SESSION, operation_id="add_restore_part", response={200: RestoreOut, 404: Problem}
)
def add_restore_part(
    request: HttpRequest, restore_id: UUID, offset: Annotated[int, Query(ge=0)], file: File[UploadedFile]
) -> object:
    """Take the bytes that belong at `offset`; the same part twice is the same."""
    return _shown(services.add_part(services.restore_of(person(request), restore_id), offset, file.read()))


@router.post(
    "/restores/{restore_id}/looks",
    auth=SESSION,
    operation_id="look_at_restore",
    throttle=WHOLE,
    response={200: FoundOut, 404: Problem},
)
def look_at_restore(request: HttpRequest, restore_id: UUID, payload: LookIn) -> object:
    """Say what taking it in would do; nothing is stored."""
    owner = person(request)
    restore = services.restore_of(owner, restore_id)
    return jobs.do(
        owner.pk, ("look", restore_id, restore.came, payload.mode), lambda: services.look(owner, restore, payload.mode)
    )


@router.post(
    "/restores/{restore_id}/takes",
    auth=SESSION,
    operation_id="take_restore",
    throttle=WHOLE,
    response={200: FoundOut, 404: Problem},
)
def take_restore(request: HttpRequest, restore_id: UUID, payload: TakeIn) -> object:
    """Take it in: all of it, or nothing."""
    owner = person(request)
    restore = services.restore_of(owner, restore_id)

    def work() -> dict[str, Any]:
        return services.take(owner, restore, payload.mode, leave_out=payload.leave_out)

    return jobs.do(owner.pk, ("take", restore_id, payload.mode, payload.leave_out), work)


@router.delete("/restores/{restore_id}", auth=SESSION, operation_id="delete_restore", response={204: None, 404: Problem})
def delete_restore(request: HttpRequest, restore_id: UUID) -> Status[None]:
    """Let it go."""
    services.drop(services.restore_of(person(request), restore_id))
    return Status(204, None)

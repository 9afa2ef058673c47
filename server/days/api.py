"""Routes: the log. A PUT with the device's own id answers 201 the first time and 200 to every resend."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from common.job_limiter import jobs
from common.paging import Limit, Offset, page
from common.problems import Problem
from common.throttles import AtMost
from django.http import HttpRequest, HttpResponse
from ninja import Header, Query, Router, Status

from accounts.people import person
from advice.api import PLANS
from advice.choice_schemas import ChoicesIn
from advice.search_schemas import MovesIn, MovesOut, OwnChangesOut, SearchOut
from days import editing, finding, photos, services, thinking
from days.schemas import (
    CatchPage,
    ChangedPage,
    DayChangeIn,
    DayIn,
    DayOut,
    DayPage,
    DaysQuery,
    DeviceClockIn,
    EntryChangeIn,
    EntryIn,
    EntryOut,
    EntryPage,
    LoggedPresentationIn,
    LoggedPresentationOut,
    LoggedPresentationPage,
    PhotoIn,
    PhotoOut,
)

router = Router(tags=["log"])


@router.get("/days", operation_id="list_days", response=DayPage)
def list_days(request: HttpRequest, query: Query[DaysQuery], limit: Limit = 30, offset: Offset = 0) -> dict[str, Any]:
    """List your days, newest first, with what came of each; all of them, or those that a query is about."""
    return page(finding.find_days(person(request), query), limit, offset, services.show_day)


@router.get("/days/{day_id}", operation_id="get_day", response={200: DayOut, 404: Problem})
def get_day(request: HttpRequest, day_id: UUID) -> dict[str, Any]:
    """Show one day."""
    return services.show_day(services.day_of(person(request), day_id))


@router.put(
    "/days/{day_id}", operation_id="put_day", response={200: DayOut, 201: DayOut, 404: Problem, 409: Problem, 422: Problem}
)
def put_day(request: HttpRequest, day_id: UUID, payload: DayIn, clock: Header[DeviceClockIn]) -> Status[Any]:
    """Begin a day."""
    day, new = services.put_day(owner=person(request), day_id=day_id, payload=payload, clock=services.clock_of(clock))
    return Status(201 if new else 200, services.show_day(day))


@router.patch("/days/{day_id}", operation_id="change_day", response={200: DayOut, 404: Problem, 422: Problem})
def change_day(request: HttpRequest, day_id: UUID, payload: DayChangeIn) -> dict[str, Any]:
    """Write notes on a day, or put right what was read as it began. What stood there before is kept."""
    return services.show_day(editing.change_day(owner=person(request), day_id=day_id, payload=payload))


@router.delete("/days/{day_id}", operation_id="delete_day", response={204: None, 404: Problem, 409: Problem})
def delete_day(request: HttpRequest, day_id: UUID) -> Status[None]:
    """Take a day out of the log on which nothing was logged."""
    editing.delete_day(owner=person(request), day_id=day_id)
    return Status(204, None)


@router.get("/days/{day_id}/catches", operation_id="list_catches", response={200: CatchPage, 404: Problem})
def list_catches(request: HttpRequest, day_id: UUID, limit: Limit = 100, offset: Offset = 0) -> dict[str, Any]:
    """List the fish of a day that came with another log."""
    return page(services.day_of(person(request), day_id).catches.all(), limit, offset)


@router.delete("/days/{day_id}/catches/{catch_id}", operation_id="delete_catch", response={204: None, 404: Problem})
def delete_catch(request: HttpRequest, day_id: UUID, catch_id: UUID) -> Status[None]:
    """Take a fish that came with another log out again."""
    editing.delete_catch(owner=person(request), day_id=day_id, catch_id=catch_id)
    return Status(204, None)


@router.get("/days/{day_id}/changes", operation_id="list_changes", response={200: ChangedPage, 404: Problem})
def list_changes(request: HttpRequest, day_id: UUID, limit: Limit = 100, offset: Offset = 0) -> dict[str, Any]:
    """List what was changed of a day afterwards, the latest first."""
    return page(editing.changes_of_day(person(request), day_id), limit, offset)


@router.get(
    "/days/{day_id}/presentations", operation_id="list_presentations", response={200: LoggedPresentationPage, 404: Problem}
)
def list_presentations(request: HttpRequest, day_id: UUID, limit: Limit = 100, offset: Offset = 0) -> dict[str, Any]:
    """List what was fished on a day, in order."""
    fished = services.presentations_of(person(request), day_id)
    changes = finding.changes_on(day_id)
    return page(fished, limit, offset, lambda one: services.show_presentation(one, changes.get(one.pk)))


@router.put(
    "/days/{day_id}/presentations/{presentation_id}",
    operation_id="put_presentation",
    response={200: LoggedPresentationOut, 201: LoggedPresentationOut, 404: Problem, 409: Problem, 422: Problem},
)
def put_presentation(
    request: HttpRequest, day_id: UUID, presentation_id: UUID, payload: LoggedPresentationIn, clock: Header[DeviceClockIn]
) -> Status[Any]:
    """Start fishing a presentation."""
    stored, new = services.put_presentation(
        owner=person(request),
        day_id=day_id,
        presentation_id=presentation_id,
        payload=payload,
        clock=services.clock_of(clock),
    )
    return Status(201 if new else 200, services.show_presentation(stored))


@router.get("/days/{day_id}/entries", operation_id="list_entries", response={200: EntryPage, 404: Problem})
def list_entries(request: HttpRequest, day_id: UUID, limit: Limit = 200, offset: Offset = 0) -> dict[str, Any]:
    """List what happened on a day, in order."""
    return page(services.entries_of(person(request), day_id), limit, offset, services.show_entry)


@router.put(
    "/days/{day_id}/entries/{entry_id}",
    operation_id="put_entry",
    response={200: EntryOut, 201: EntryOut, 404: Problem, 409: Problem, 422: Problem},
)
def put_entry(
    request: HttpRequest, day_id: UUID, entry_id: UUID, payload: EntryIn, clock: Header[DeviceClockIn]
) -> Status[Any]:
    """Log a cast, or what came of it."""
    entry, new = services.put_entry(
        owner=person(request), day_id=day_id, entry_id=entry_id, payload=payload, clock=services.clock_of(clock)
    )
    return Status(201 if new else 200, services.show_entry(entry))


@router.patch(
    "/days/{day_id}/entries/{entry_id}", operation_id="change_entry", response={200: EntryOut, 404: Problem, 422: Problem}
)
def change_entry(request: HttpRequest, day_id: UUID, entry_id: UUID, payload: EntryChangeIn) -> dict[str, Any]:
    """Put an entry right: what came of the cast, when, and what the fish was. What stood there before is kept."""
    entry = editing.change_entry(owner=person(request), day_id=day_id, entry_id=entry_id, payload=payload)
    return services.show_entry(entry)


@router.put(
    "/days/{day_id}/entries/{entry_id}/photo",
    operation_id="put_photo",
    throttle=AtMost("60/m", group="photos"),
    response={200: PhotoOut, 201: PhotoOut, 404: Problem, 409: Problem, 422: Problem},
)
def put_photo(request: HttpRequest, day_id: UUID, entry_id: UUID, payload: PhotoIn) -> Status[Any]:
    """Keep a picture of a landed fish: made small, and stripped of where it was taken."""
    photo, new = photos.put_photo(owner=person(request), day_id=day_id, entry_id=entry_id, data=payload.image)
    return Status(201 if new else 200, photo)


@router.get(
    "/days/{day_id}/entries/{entry_id}/photo",
    operation_id="get_photo",
    response={200: None, 404: Problem},
    openapi_extra={"responses": {200: {"content": {"image/jpeg": {"schema": {"type": "string", "format": "binary"}}}}}},
)
def get_photo(request: HttpRequest, day_id: UUID, entry_id: UUID) -> HttpResponse:
    """Show the picture."""
    photo = photos.photo_of(person(request), day_id, entry_id)
    return HttpResponse(bytes(photo.jpeg), content_type="image/jpeg")


@router.delete("/days/{day_id}/entries/{entry_id}/photo", operation_id="delete_photo", response={204: None, 404: Problem})
def delete_photo(request: HttpRequest, day_id: UUID, entry_id: UUID) -> Status[None]:
    """Take the picture away."""
    photos.photo_of(person(request), day_id, entry_id).delete()
    return Status(204, None)


@router.delete("/days/{day_id}/entries/{entry_id}", operation_id="undo_entry", response={204: None, 404: Problem})
def undo_entry(request: HttpRequest, day_id: UUID, entry_id: UUID) -> Status[None]:
    """Take an entry back."""
    services.undo_entry(owner=person(request), day_id=day_id, entry_id=entry_id)
    return Status(204, None)


@router.post("/searches", operation_id="create_search", throttle=PLANS, response={200: SearchOut, 404: Problem, 422: Problem})
def create_search(request: HttpRequest, payload: ChoicesIn) -> dict[str, Any]:
    """Plan from the box, and give what goes to the water with the plan: the table that `POST /days/{id}/moves` thinks with.

    What changes cost is told by the times of your own log."""
    owner = person(request)
    return jobs.do(owner.pk, ("search", payload.model_dump_json()), lambda: thinking.make_search(owner, payload))


@router.post(
    "/days/{day_id}/moves",
    operation_id="create_moves",
    throttle=AtMost("300/m", group="moves"),
    response={200: MovesOut, 404: Problem, 422: Problem},
)
def create_moves(request: HttpRequest, day_id: UUID, payload: MovesIn) -> dict[str, Any]:
    """Think with the day's log so far: where they feed by now, and what to do next. `table` is that of `POST /searches`.

    Without a `log` it is the day's own, as far as it has come."""
    owner = person(request)
    day = services.day_of(owner, day_id)
    return jobs.do(owner.pk, object(), lambda: thinking.think(day, payload))


@router.post(
    "/days/{day_id}/own-changes",
    operation_id="create_own_changes",
    throttle=AtMost("300/m", group="moves"),
    response={200: OwnChangesOut, 404: Problem, 422: Problem},
)
def create_own_changes(request: HttpRequest, day_id: UUID, payload: MovesIn) -> dict[str, Any]:
    """List what may be changed by hand from what is tied on: a count, a float, a pace, a fly on a seat, the line.

    Each comes with what is expected of it. Asked as `POST /days/{day_id}/moves` is."""
    owner = person(request)
    day = services.day_of(owner, day_id)
    return jobs.do(owner.pk, object(), lambda: thinking.own_changes(day, payload))

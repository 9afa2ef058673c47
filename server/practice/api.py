"""Routes: practice days against a hidden lake, and drills."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from common.job_limiter import jobs
from common.paging import Limit, Offset, page
from common.problems import Problem
from common.throttles import AtMost
from django.http import HttpRequest
from ninja import Path, Router, Status

from accounts.people import person
from advice.api import PLANS
from practice import drilling, packs, services
from practice.models import Drill, PracticeDay
from practice.schemas import (
    ActIn,
    DrillAnswerIn,
    DrillIn,
    DrillOut,
    DrillPage,
    PackOut,
    PracticeAdviceOut,
    PracticeDayIn,
    PracticeDayOut,
    PracticePage,
    PracticePlanOut,
    SchoolTakesOut,
    ShotIn,
    ShotOut,
)

router = Router(tags=["practice"])
ActNumber = Annotated[int, Path(ge=0, le=2000)]
FISHED = AtMost("240/m", group="practice")


@router.get("/practice-days", operation_id="list_practice_days", response={200: PracticePage})
def list_practice_days(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List practice days, the newest first."""
    return page(PracticeDay.objects.filter(owner=person(request)), limit, offset, services.show_row)


@router.put(
    "/practice-days/{day_id}",
    operation_id="put_practice_day",
    throttle=PLANS,
    response={200: PracticeDayOut, 201: PracticeDayOut, 404: Problem, 409: Problem, 422: Problem},
)
def put_practice_day(request: HttpRequest, day_id: UUID, payload: PracticeDayIn) -> Status[dict[str, Any]]:
    """Deal a day, under an id of the device's making."""
    day, made = services.put_day(person(request), day_id, payload)
    return Status(201 if made else 200, services.show_day(day))


@router.get("/practice-days/{day_id}", operation_id="get_practice_day", response={200: PracticeDayOut, 404: Problem})
def get_practice_day(request: HttpRequest, day_id: UUID) -> dict[str, Any]:
    """Return a day as far as it has been fished; the truth once it has ended."""
    return services.show_day(services.day_of(person(request), day_id))


@router.delete("/practice-days/{day_id}", operation_id="delete_practice_day", response={204: None, 404: Problem})
def delete_practice_day(request: HttpRequest, day_id: UUID) -> Status[None]:
    """Forget a practice day."""
    services.day_of(person(request), day_id).delete()
    return Status(204, None)


@router.put(
    "/practice-days/{day_id}/acts/{number}",
    operation_id="put_practice_act",
    throttle=FISHED,
    response={200: PracticeDayOut, 404: Problem, 409: Problem, 422: Problem},
)
def put_practice_act(request: HttpRequest, day_id: UUID, number: ActNumber, payload: ActIn) -> dict[str, Any]:
    """Do the act of this number, from 0: read, move, cast, or end the day and be told what was hidden. Sent again it is done
    once."""
    owner = person(request)
    if payload.kind != "end":
        return services.show_day(services.do_act(owner, day_id, number, payload))
    ended = jobs.do(
        owner.pk,
        ("practice end", str(day_id), number, payload.model_dump_json()),
        lambda: services.do_act(owner, day_id, number, payload),
    )
    return services.show_day(ended)


@router.post(
    "/practice-days/{day_id}/pack",
    operation_id="take_practice_day",
    throttle=PLANS,
    response={200: PackOut, 404: Problem, 409: Problem},
)
def take_practice_day(request: HttpRequest, day_id: UUID) -> dict[str, Any]:
    """Take the day along, to play it with no connection; its truth goes with it, sealed."""
    owner = person(request)
    return jobs.do(owner.pk, ("practice pack", str(day_id)), lambda: packs.take_along(owner, day_id))


@router.post(
    "/practice-days/{day_id}/shots",
    operation_id="make_practice_shot",
    throttle=FISHED,
    response={200: ShotOut, 404: Problem, 409: Problem, 422: Problem},
)
def make_practice_shot(request: HttpRequest, day_id: UUID, payload: ShotIn) -> dict[str, Any]:
    """Work out what a rig is as fish see it, for a day that was taken along; nothing is cast."""
    return services.make_shot(person(request), day_id, payload)


@router.get(
    "/practice-days/{day_id}/plan",
    operation_id="get_practice_plan",
    throttle=PLANS,
    response={200: PracticePlanOut, 404: Problem},
)
def get_practice_plan(request: HttpRequest, day_id: UUID) -> dict[str, Any]:
    """Plan from the starter box, for the water as it has been read so far."""
    owner = person(request)
    return jobs.do(owner.pk, ("practice", str(day_id)), lambda: services.show_plan(owner, day_id))


@router.get(
    "/practice-days/{day_id}/advice",
    operation_id="get_practice_advice",
    throttle=FISHED,
    response={200: PracticeAdviceOut, 404: Problem},
)
def get_practice_advice(request: HttpRequest, day_id: UUID) -> dict[str, Any]:
    """Say what the app would do next, from what the angler knows."""
    owner = person(request)
    return jobs.do(owner.pk, ("practice advice", str(day_id)), lambda: services.show_advice(owner, day_id))


@router.get(
    "/practice-days/{day_id}/schools/{school}",
    operation_id="get_practice_school",
    throttle=PLANS,
    response={200: SchoolTakesOut, 404: Problem, 409: Problem, 422: Problem},
)
def get_practice_school(request: HttpRequest, day_id: UUID, school: str) -> dict[str, Any]:
    """Say what the app would have taken by another school, once the day has ended."""
    owner = person(request)
    return jobs.do(owner.pk, ("school", str(day_id), school), lambda: services.by_school(owner, day_id, school))


@router.get("/drills", operation_id="list_drills", response={200: DrillPage})
def list_drills(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List drills that were answered, the newest first."""
    rows = Drill.objects.filter(owner=person(request), points__isnull=False)
    return page(rows, limit, offset, drilling.show_drill)


@router.post("/drills", operation_id="create_drill", throttle=FISHED, response={201: DrillOut, 409: Problem, 422: Problem})
def create_drill(request: HttpRequest, payload: DrillIn) -> Status[dict[str, Any]]:
    """Ask one thing."""
    return Status(201, drilling.show_drill(drilling.make_drill(person(request), payload.kind)))


@router.post(
    "/drills/{drill_id}/answer",
    operation_id="answer_drill",
    throttle=FISHED,
    response={200: DrillOut, 404: Problem, 422: Problem},
)
def answer_drill(request: HttpRequest, drill_id: UUID, payload: DrillAnswerIn) -> dict[str, Any]:
    """Answer it: the first answer counts."""
    return drilling.show_drill(drilling.answer_drill(person(request), drill_id, payload.answer))

"""Routes: what the core works out. Nothing here is stored."""

from __future__ import annotations

from typing import Any, Literal

from common.job_limiter import jobs
from common.problems import Problem
from common.throttles import AtMost
from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, UploadedFile

from accounts.people import person
from advice import choices, serializers, services
from advice.choice_schemas import CalendarIn, ChoicesIn, ChoicesOut, LeaderBuildIn, LeaderBuildOut, RankedOut, WeighingIn
from advice.condition_schemas import ConditionsIn, ProfileFileOut
from advice.day_schemas import DayStripIn, DayStripOut
from advice.picture_schemas import PictureOut, StartsOut, WorthsOut
from advice.run_schemas import RunIn, RunOut, SimulationIn, SimulationOut
from advice.trade_schemas import TradeOut
from stillthread.api import PROFILE_CSV_MOST_BYTES, BadFile, read_profile_csv

router = Router(tags=["advice"])
# More than a hand can turn the dials; less than what would keep others waiting.
PLANS = AtMost("90/m", group="plans")
LONG = AtMost("60/m", group="long work")
SHORT = AtMost("300/m", group="short work")


@router.get("/trade", operation_id="get_trade", response=TradeOut)
def get_trade(request: HttpRequest) -> dict[str, Any]:
    """Show the tables behind the forms."""
    return serializers.trade_tables()


@router.post("/pictures", operation_id="create_picture", throttle=SHORT, response={200: PictureOut, 404: Problem, 422: Problem})
def create_picture(request: HttpRequest, payload: ConditionsIn) -> dict[str, Any]:
    """Read the water: profile, layers, comfort, light and the belief over feeding depth."""
    return services.read_picture(person(request), payload)


@router.post("/worths", operation_id="create_worths", throttle=SHORT, response={200: WorthsOut, 404: Problem, 422: Problem})
def create_worths(request: HttpRequest, payload: ConditionsIn) -> dict[str, Any]:
    """Say by how much a deeper reading, or a sample, would narrow the water to be searched."""
    return services.find_worths(person(request), payload)


@router.post(
    "/day-strips", operation_id="create_day_strip", throttle=LONG, response={200: DayStripOut, 404: Problem, 422: Problem}
)
def create_day_strip(request: HttpRequest, payload: DayStripIn) -> dict[str, Any]:
    """Read the whole day, hour by hour: light, likely food and likely feeding depth."""
    owner = person(request)
    return jobs.do(owner.pk, ("day strip", payload.model_dump_json()), lambda: services.make_day_strip(owner, payload))


@router.post("/starts", operation_id="create_starts", throttle=LONG, response={200: StartsOut, 404: Problem, 422: Problem})
def create_starts(request: HttpRequest, payload: ConditionsIn) -> dict[str, Any]:
    """Rank the water's marks for the present conditions."""
    owner = person(request)
    return jobs.do(owner.pk, ("starts", payload.model_dump_json()), lambda: services.find_starts(owner, payload))


@router.post("/choices", operation_id="create_choices", throttle=PLANS, response={200: ChoicesOut, 404: Problem, 422: Problem})
def create_choices(request: HttpRequest, payload: ChoicesIn) -> dict[str, Any]:
    """Plan from the box: the best of every method, with how to tie it, its weak point, and the ladder when nothing comes."""
    owner = person(request)
    return jobs.do(owner.pk, ("choices", payload.model_dump_json()), lambda: choices.make_choices(owner, payload))


@router.post(
    "/weighings", operation_id="create_weighing", throttle=SHORT, response={200: RankedOut, 404: Problem, 422: Problem}
)
def create_weighing(request: HttpRequest, payload: WeighingIn) -> dict[str, Any]:
    """Weigh one way to fish: a choice of the plan with its count, pace, float or boat changed."""
    return choices.weigh_one(person(request), payload)


@router.post("/leader-builds", operation_id="create_leader_build", throttle=SHORT, response={200: LeaderBuildOut, 422: Problem})
def create_leader_build(request: HttpRequest, payload: LeaderBuildIn) -> dict[str, Any]:
    """Work out what to cut for a leader of a length of your own. Nothing is stored."""
    return choices.build_one(person(request), payload)


@router.post("/calendars", operation_id="create_calendar", throttle=LONG, response={200: None, 404: Problem, 422: Problem})
def create_calendar(request: HttpRequest, payload: CalendarIn) -> HttpResponse:
    """Save the day's windows as iCalendar."""
    data = choices.make_calendar(person(request), payload)
    name = 'attachment; filename="day.ics"'
    return HttpResponse(data, content_type="text/calendar; charset=utf-8", headers={"Content-Disposition": name})


@router.post(
    "/simulations",
    operation_id="create_simulation",
    throttle=SHORT,
    response={200: SimulationOut, 404: Problem, 422: Problem},
)
def create_simulation(request: HttpRequest, payload: SimulationIn) -> dict[str, Any]:
    """Simulate one cast."""
    return services.simulate_one(person(request), payload)


@router.post("/runs", operation_id="create_run", throttle=SHORT, response={200: RunOut, 422: Problem})
def create_run(request: HttpRequest, payload: RunIn) -> dict[str, Any]:
    """Simulate one presentation by any method in any water: a cast, a drift under an indicator, or a troll."""
    return services.run_one(payload)


@router.post("/profile-files", operation_id="create_profile_file", throttle=LONG, response={200: ProfileFileOut, 422: Problem})
def create_profile_file(
    request: HttpRequest,
    file: File[UploadedFile],
    depth_unit: Form[Literal["m", "ft"] | None] = None,
    temperature_unit: Form[Literal["C", "F"] | None] = None,
) -> dict[str, Any]:
    """Read a temperature profile from CSV, at most 1 MB, and return it in SI."""
    if (file.size or 0) > PROFILE_CSV_MOST_BYTES:
        raise BadFile(
            f"The file is larger than {PROFILE_CSV_MOST_BYTES // 1_000_000} MB. Send one cast of readings.", field="profile"
        )
    found = read_profile_csv(file.read(), depth_unit=depth_unit, temperature_unit=temperature_unit)
    return {
        "readings": [serializers.show_reading(r) for r in found.readings],
        "oxygen": [{"depth_m": r.depth_m, "oxygen_mgl": r.oxygen_mgl} for r in found.oxygen],
        "notes": list(found.notes),
    }

"""Routes: what the log knows."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from common.paging import Limit, Offset, page
from common.problems import Problem
from common.throttles import AtMost
from django.http import HttpRequest
from ninja import Query, Router, Status

from accounts.people import person
from advice.condition_schemas import ConditionsIn
from days.schemas import DaysQuery
from lookback import alike, audit, lines, rates, years
from lookback.schemas import (
    AlikeOut,
    AnswersOut,
    AuditOut,
    By,
    LineRateOut,
    Of,
    RatesOut,
    TakenOut,
    TrialIn,
    TrialOut,
    TrialPage,
    YearOut,
)

router = Router(tags=["look back"])
CHARTS = AtMost("240/m", group="charts")


@router.get("/in-short", operation_id="get_answers", throttle=CHARTS, response={200: AnswersOut, 422: Problem})
def get_answers(request: HttpRequest, query: Query[DaysQuery]) -> dict[str, Any]:
    """Say how deep, on what and when they took, by hours fished there."""
    return rates.find_answers(person(request), query)


@router.get("/rates", operation_id="get_rates", throttle=CHARTS, response={200: RatesOut, 422: Problem})
def get_rates(request: HttpRequest, by: By, query: Query[DaysQuery], of: Of = "takes") -> dict[str, Any]:
    """Show takes, or fish landed, an hour in one grouping, with intervals and whether the log can tell."""
    return rates.find_rates(person(request), by, of, query)


@router.post("/alike", operation_id="create_alike", throttle=CHARTS, response={200: AlikeOut, 404: Problem, 422: Problem})
def create_alike(request: HttpRequest, payload: ConditionsIn) -> dict[str, Any]:
    """Find days like this one: what worked on them, and how they lean the belief."""
    return alike.find_alike(person(request), payload)


@router.get("/audit", operation_id="get_audit", throttle=CHARTS, response={200: AuditOut, 404: Problem, 422: Problem})
def get_audit(request: HttpRequest, query: Query[DaysQuery]) -> dict[str, Any]:
    """Hold the advice against what came."""
    return audit.find_audit(person(request), query)


@router.put(
    "/waters/{water_id}/correction", operation_id="put_correction", response={200: TakenOut, 404: Problem, 409: Problem}
)
def put_correction(request: HttpRequest, water_id: int) -> Any:
    """Have promised takes at a water corrected by your log, where it is sure enough."""
    return audit.take_correction(person(request), water_id)


@router.delete("/waters/{water_id}/correction", operation_id="delete_correction", response={204: None, 404: Problem})
def delete_correction(request: HttpRequest, water_id: int) -> Status[None]:
    """Have promises said uncorrected again."""
    audit.leave_correction(person(request), water_id)
    return Status(204, None)


@router.get("/waters/{water_id}/year", operation_id="get_year", throttle=CHARTS, response={200: YearOut, 404: Problem})
def get_year(request: HttpRequest, water_id: int) -> dict[str, Any]:
    """Show a water through the year: temperature, thermocline, food, first and last days."""
    return years.find_year(person(request), water_id)


@router.get("/lines/{line_id}/trials", operation_id="list_trials", response={200: TrialPage, 404: Problem})
def list_trials(request: HttpRequest, line_id: int, limit: Limit = 100, offset: Offset = 0) -> dict[str, Any]:
    """List a line's timed trials."""
    return page(lines.trials_of(person(request), line_id), limit, offset)


@router.put(
    "/lines/{line_id}/trials/{trial_id}",
    operation_id="put_trial",
    response={200: TrialOut, 201: TrialOut, 404: Problem, 409: Problem, 422: Problem},
)
def put_trial(request: HttpRequest, line_id: int, trial_id: UUID, payload: TrialIn) -> Status[Any]:
    """Keep a timed trial."""
    trial, new = lines.put_trial(owner=person(request), line_id=line_id, trial_id=trial_id, payload=payload)
    return Status(201 if new else 200, trial)


@router.delete("/lines/{line_id}/trials/{trial_id}", operation_id="undo_trial", response={204: None, 404: Problem})
def undo_trial(request: HttpRequest, line_id: int, trial_id: UUID) -> Status[None]:
    """Take a trial back."""
    lines.undo_trial(owner=person(request), line_id=line_id, trial_id=trial_id)
    return Status(204, None)


@router.get("/lines/{line_id}/rate", operation_id="get_line_rate", response={200: LineRateOut, 404: Problem, 422: Problem})
def get_line_rate(request: HttpRequest, line_id: int) -> dict[str, Any]:
    """Say what a line really sinks at, by its label, its trials and casts that touched the bottom."""
    return _show(*lines.find_rate(person(request), line_id))


@router.put(
    "/lines/{line_id}/rate",
    operation_id="use_line_rate",
    response={200: LineRateOut, 404: Problem, 409: Problem, 422: Problem},
)
def use_line_rate(request: HttpRequest, line_id: int) -> dict[str, Any]:
    """Have every simulation use what the trials say."""
    lines.use_rate(owner=person(request), line_id=line_id)
    return _show(*lines.find_rate(person(request), line_id))


@router.delete("/lines/{line_id}/rate", operation_id="use_line_label", response={204: None, 404: Problem})
def use_line_label(request: HttpRequest, line_id: int) -> Status[None]:
    """Have the line sink as its label says again."""
    lines.use_label(owner=person(request), line_id=line_id)
    return Status(204, None)


def _show(line: Any, found: Any, rows: list[dict[str, Any]]) -> dict[str, Any]:
    names = ("label_mps", "rate_mps", "spread", "low_mps", "high_mps")
    return {
        **{name: getattr(found, name) for name in names},
        "used": line.label_mps is not None,
        "enough": sum(row["stray"] < 0.5 for row in rows) >= lines.LEAST_TRIALS,
        "timed": rows,
    }

"""Find days again, and say what was changed from one presentation to the next."""

from __future__ import annotations

from itertools import pairwise
from typing import Any
from uuid import UUID

from django.db.models import Q, QuerySet

from accounts.models import User
from days.models import Day, Presentation
from days.schemas import DaysQuery
from days.services import days_of
from days.tally import tally
from stillthread.api import Phrase, Setup, changed, changed_words


def find_days(owner: User, query: DaysQuery) -> QuerySet[Day]:
    """Return the days that a query is about, newest first. What was logged since is worked out before."""
    days = days_of(owner)
    where = where_of(query)
    if where:
        tally(owner)
    return days.filter(where)


def where_of(query: DaysQuery, facts: str = "facts__") -> Q:
    """Return a query as a condition on facts that are reached by this prefix."""
    exact = {
        "water_id": query.water_id,
        "on__gte": query.from_date,
        "on__lte": query.to_date,
        "on__month__in": query.months or None,
        "surface_c__gte": query.least_c,
        "surface_c__lte": query.most_c,
        "wind_mps__gte": query.least_wind_mps,
        "wind_mps__lte": query.most_wind_mps,
    }
    where = Q(**{f"{facts}{name}": value for name, value in exact.items() if value is not None})
    for word in query.text.lower().split():
        where &= Q(**{f"{facts}words__contains": word})
    return where


def changes_on(day_id: UUID) -> dict[Any, Phrase | None]:
    """Return what was changed at each presentation of a day from the one before it."""
    fished = list(Presentation.objects.filter(day_id=day_id).only("line", "leader", "flies", "action", "started_at"))
    return {after.pk: changed_words(changed(_fished(before), _fished(after))) for before, after in pairwise(fished)}


def _fished(one: Presentation) -> Setup:
    action = one.action
    return Setup(
        line=one.line["name"],
        leader=one.leader["name"],
        flies=tuple(placed["fly"]["name"] for placed in one.flies),
        kind=action["kind"],
        retrieve=action.get("retrieve_key"),
        pace_mps=action.get("retrieve_mps"),
        count_s=action.get("count_s"),
        set_depth_m=action.get("set_depth_m"),
    )

"""Keep the log: every write is one transaction, and the same id twice is stored once."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

import numpy as np
from common.problems import Refused
from django.db import transaction
from django.db.models import Prefetch, QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone
from pydantic import TypeAdapter

from accounts.models import User
from advice.action_schemas import ActionIn, CastIn, HangIn, TowIn
from advice.condition_schemas import ConditionsIn
from advice.payloads import action_of, conditions_of, rig_of
from advice.run_shows import frames_of, show_action
from days.models import Day, Entry, Presentation
from days.schemas import DayIn, EntryIn, LoggedPresentationIn
from stillthread.depth.picture import read_water
from stillthread.log.depths import depth_of_take
from stillthread.plan.actions import reach_m, simulate_action_spread
from stillthread.plan.casting_water import check_leader_fits, water_for
from stillthread.sinking.cast import Cast
from stillthread.water.comfort import species_named
from waters.services import water_of

CLOCK_ERROR = timedelta(minutes=5)
_ACTION: TypeAdapter[CastIn | HangIn | TowIn] = TypeAdapter(ActionIn)
FISH_KINDS = (Entry.Kind.TAKE, Entry.Kind.LOST, Entry.Kind.LANDED)


def days_of(owner: User) -> QuerySet[Day]:
    # What was tied on, and its simulated path, are long, and no list shows them.
    fished = Prefetch("presentations", Presentation.objects.only("day_id", "started_at"))
    days = Day.objects.filter(owner=owner).select_related("water")
    return days.prefetch_related(fished, "presentations__entries")


def day_of(owner: User, day_id: UUID) -> Day:
    return get_object_or_404(days_of(owner), pk=day_id)


def _refuse_future(at: datetime, now: datetime, field: str) -> None:
    if at > now + CLOCK_ERROR:
        text = f"{at:%d %B %Y %H:%M} UTC lies ahead. The log takes what has happened."
        raise Refused(422, "future", text, {field: text})


def _taken(kind: str) -> Refused:
    return Refused(409, "id_taken", f"Another {kind} has this id. Make a new one.")


@transaction.atomic
def put_day(*, owner: User, day_id: UUID, payload: DayIn, now: datetime | None = None) -> tuple[Day, bool]:
    """Store a day under the device's id; return it and whether it is new. A resend changes nothing."""
    now = now or timezone.now()
    known = Day.objects.filter(pk=day_id).first()
    if known:
        if known.owner_id != owner.pk:
            raise _taken("day")
        return day_of(owner, day_id), False
    conditions = conditions_of(owner, payload, now=now)
    _refuse_future(conditions.at, now, "at_local")
    read_water(conditions)  # refuses what can't be read
    # Clock time there, and the species by name: what is stored says the same when the water is changed later.
    clock = conditions.at.replace(tzinfo=None)
    stored = payload.model_copy(update={"at_local": clock, "species": conditions.species.key})
    water = water_of(owner, payload.water_id)
    Day.objects.create(
        id=day_id, owner=owner, water=water, at=conditions.at, conditions=stored.model_dump(mode="json")
    )  # fmt: skip
    return day_of(owner, day_id), True


@transaction.atomic
def put_presentation(
    *, owner: User, day_id: UUID, presentation_id: UUID, payload: LoggedPresentationIn
) -> tuple[Presentation, bool]:
    """Store what is fished from now on, with the depths that the simulation gives it."""
    day = day_of(owner, day_id)
    known = Presentation.objects.filter(pk=presentation_id).select_related("day").first()
    if known:
        if known.day.owner_id != owner.pk:
            raise _taken("presentation")
        return known, False
    _refuse_future(payload.started_at, timezone.now(), "started_at")
    conditions = payload.conditions or ConditionsIn.model_validate(day.conditions)
    if conditions.water_id != day.water_id:
        text = "That is another water than the day's. Begin a day there."
        raise Refused(422, "invalid", text, {"conditions.water_id": text})
    read = conditions_of(owner, conditions)
    _refuse_future(read.at, timezone.now(), "conditions.at_local")
    picture = read_water(read)
    rig, action = rig_of(payload.rig), action_of(payload.action, picture.conditions.wind.speed_ms)
    if isinstance(action, Cast):
        check_leader_fits(rig.leader, picture.conditions.deepest_m, long_leader_ok=payload.long_leader_ok)
    spread = simulate_action_spread(rig, action, water_for(picture, reach_m(action)))
    result = spread.middle
    low, high = result.middle_depth_m()
    at = frames_of(result)
    stored = Presentation.objects.create(
        id=presentation_id,
        day=day,
        started_at=payload.started_at,
        conditions=conditions.model_dump(mode="json"),
        line=payload.rig.line.dict(),
        leader=payload.rig.leader.dict(),
        flies=[placed.dict() for placed in payload.rig.flies],
        action={**payload.action.dict(), **({"retrieve_mps": action.retrieve.mean_mps} if isinstance(action, Cast) else {})},
        low_m=low,
        high_m=high,
        path_s=np.round(result.time_s[at], 1).tolist(),
        path_depth_m=np.round(result.fly_depth_m[0, at], 2).tolist(),
        path_spread_m=np.round(spread.spread_m[0, at], 2).tolist(),
    )
    return stored, True


@transaction.atomic
def put_entry(
    *, owner: User, day_id: UUID, entry_id: UUID, payload: EntryIn, now: datetime | None = None
) -> tuple[Entry, bool]:
    """Store what happened. With the time into the cast, the depth is the fly's at that moment, else the cast's range."""
    known = Entry.objects.filter(pk=entry_id).select_related("presentation__day").first()
    if known:
        if known.presentation.day.owner_id != owner.pk:
            raise _taken("entry")
        return known, False
    presentation = get_object_or_404(Presentation, pk=payload.presentation_id, day_id=day_id, day__owner=owner)
    _refuse_future(payload.at, now or timezone.now(), "at")
    if payload.species:
        species_named(payload.species)
    if payload.length_m is not None and payload.kind != "landed":
        raise Refused(422, "invalid", "Only a landed fish has a length.", {"length_m": "Only a landed fish has a length."})
    low, high = presentation.low_m, presentation.high_m
    if payload.cast_elapsed_s is not None and payload.kind != "cast":
        low, high = depth_of_take(
            payload.cast_elapsed_s, presentation.path_s, presentation.path_depth_m, presentation.path_spread_m
        )
    entry = Entry.objects.create(
        id=entry_id,
        presentation=presentation,
        kind=payload.kind,
        at=payload.at,
        cast_elapsed_s=payload.cast_elapsed_s,
        depth_low_m=round(low, 2),
        depth_high_m=round(high, 2),
        species=payload.species,
        length_m=payload.length_m,
    )
    return entry, True


@transaction.atomic
def undo_entry(*, owner: User, day_id: UUID, entry_id: UUID) -> None:
    """Take an entry back; taking it back twice is the same."""
    entry = get_object_or_404(Entry, pk=entry_id, presentation__day_id=day_id, presentation__day__owner=owner)
    if entry.undone_at is None:
        entry.undone_at = timezone.now()
        entry.save(update_fields=["undone_at"])


def entries_of(owner: User, day_id: UUID) -> QuerySet[Entry]:
    """Return a day's entries in order of time, without those taken back; 404 unless the day is the owner's."""
    get_object_or_404(Day, pk=day_id, owner=owner)
    return Entry.objects.filter(presentation__day_id=day_id, undone_at=None)


def presentations_of(owner: User, day_id: UUID) -> QuerySet[Presentation]:
    get_object_or_404(Day, pk=day_id, owner=owner)
    return Presentation.objects.filter(day_id=day_id)


def show_day(day: Day) -> dict[str, Any]:
    """Return a day with its totals; uses what `days_of` has fetched, and asks nothing more."""
    entries = [e for p in day.presentations.all() for e in p.entries.all() if e.undone_at is None]
    counts = dict.fromkeys(Entry.Kind.values, 0)
    for entry in entries:
        counts[entry.kind] += 1
    lengths = [e.length_m for e in entries if e.length_m is not None]
    return {
        "id": day.pk,
        "water_id": day.water_id,
        "water_name": day.water.name,
        "at": day.at,
        "conditions": day.conditions,
        "counts": counts,
        "take_depths": [{"low_m": e.depth_low_m, "high_m": e.depth_high_m} for e in entries if e.kind in FISH_KINDS],
        "longest_m": max(lengths, default=None),
    }


def show_presentation(stored: Presentation) -> dict[str, Any]:
    return {
        "id": stored.pk,
        "started_at": stored.started_at,
        "conditions": stored.conditions,
        "rig": {"line": stored.line, "leader": stored.leader, "flies": stored.flies},
        "action": show_action(action_of(_ACTION.validate_python(stored.action), 0.0)),
        "low_m": stored.low_m,
        "high_m": stored.high_m,
    }

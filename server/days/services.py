"""Keep the log: every write is one transaction, and the same id twice is stored once."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from typing import Any, TypeVar
from uuid import UUID

import numpy as np
from common.problems import Refused
from django.db import IntegrityError, transaction
from django.db.models import Exists, OuterRef, QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone
from pydantic import TypeAdapter

from accounts.models import User
from advice.action_schemas import ActionIn, CastIn, HangIn, TowIn
from advice.condition_schemas import ConditionsIn
from advice.payloads import action_of, conditions_of, local_to_utc, rig_of, told_plainly
from advice.run_serializers import frames_of, show_action
from advice.serializers import show_phrase
from days.models import Day, Entry, Photo, Presentation
from days.schemas import AdviceIn, DayIn, DeviceClockIn, EntryIn, LoggedPresentationIn
from days.tally import facts_of, stale, told_of
from stillthread.api import (
    CAME_NEAR,
    DEPTH_TOLD,
    FELT,
    Conditions,
    DeviceClock,
    Phrase,
    check_leader_fits,
    condition_pct,
    depth_of_take,
    put_right,
    read_water,
    simulate_spread,
    species_named,
    usual_weight_kg,
    water_for,
)
from waters.models import Water
from waters.services import water_of

T = TypeVar("T")
_C = TypeVar("_C", bound=ConditionsIn)
_ACTION: TypeAdapter[CastIn | HangIn | TowIn] = TypeAdapter(ActionIn)
OF_FISH = {"length_m": "has a length", "weight_kg": "is weighed", "kept": "is kept", "played_s": "is played"}
OF_CAST = {"toward": "goes somewhere", "far": "goes near or far"}
HEARD_SPREAD_M = 0.3
MOST_POINTS = 40  # of a path that is shown
ASKEW = 0.5  # ours: of a dropper's way up the leader, how much it is higher than the point in a cast


def days_of(owner: User) -> QuerySet[Day]:
    return Day.objects.filter(owner=owner).select_related("water", "facts")


def day_of(owner: User, day_id: UUID) -> Day:
    return get_object_or_404(days_of(owner), pk=day_id)


def clock_of(sent: DeviceClockIn) -> DeviceClock | None:
    if sent.x_written_ms is None or sent.x_now_ms is None:
        return None
    return DeviceClock(sent.x_written_ms, sent.x_now_ms, sent.x_ran_ms)


def _conditions_put_right(said: _C, clock: DeviceClock | None, now: datetime) -> _C:
    """Return conditions with the times that the device's clock gave them put right; clock time typed by hand stays."""
    if clock is None or said.at_local.tzinfo is None:
        return said
    changes = {"at_local": put_right(said.at_local, clock, now)}
    if said.read_at_local is not None:
        changes["read_at_local"] = put_right(said.read_at_local, clock, now)
    return said.model_copy(update=changes)


def _taken(kind: str) -> Refused:
    return Refused(409, "id_taken", f"Another {kind} has this id. Make a new one.")


def _known_day(owner: User, day_id: UUID) -> Day | None:
    known = Day.objects.filter(pk=day_id).first()
    if known and known.owner_id != owner.pk:
        raise _taken("day")
    return day_of(owner, day_id) if known else None


def stored_once(store: Callable[[], T]) -> T:
    """Return what `store` does in one transaction; where a resend came between its look and its writing, it looks again."""
    try:
        with transaction.atomic():
            return store()
    except IntegrityError:
        with transaction.atomic():
            return store()


def put_day(
    *, owner: User, day_id: UUID, payload: DayIn, clock: DeviceClock | None = None, now: datetime | None = None
) -> tuple[Day, bool]:
    """Store a day under the device's id; return it and whether it is new. A resend changes nothing."""
    if known := _known_day(owner, day_id):
        return known, False
    day, conditions = day_to_keep(owner, day_id, payload, clock, now or timezone.now())
    read_water(conditions)  # refuses what can't be read

    def store() -> tuple[Day, bool]:
        if known := _known_day(owner, day_id):
            return known, False
        day.save(force_insert=True)
        return day_of(owner, day_id), True

    return stored_once(store)


def day_to_keep(owner: User, day_id: UUID, payload: DayIn, clock: DeviceClock | None, now: datetime) -> tuple[Day, Conditions]:
    """Return a day as it is to be stored, and the conditions it began under as the core has them."""
    right = _conditions_put_right(payload, clock, now)
    conditions = conditions_of(owner, right, logged=True)
    # Clock time there, and the species by name: what is stored says the same when the water is changed later.
    at_there = conditions.at.replace(tzinfo=None)
    stored = told_plainly(right, conditions).model_copy(update={"at_local": at_there, "species": conditions.species.key})
    water = water_of(owner, payload.water_id)
    said = local_to_utc(payload.at_local, water.time_zone)
    day = Day(
        id=day_id, owner=owner, water=water, at=conditions.at, device_at=said, received_at=now,
        conditions=stored.model_dump(mode="json"),
    )  # fmt: skip
    return day, conditions


def _known_presentation(owner: User, presentation_id: UUID) -> Presentation | None:
    known = Presentation.objects.filter(pk=presentation_id).select_related("day").first()
    if known and known.day.owner_id != owner.pk:
        raise _taken("presentation")
    return known


def put_presentation(
    *,
    owner: User,
    day_id: UUID,
    presentation_id: UUID,
    payload: LoggedPresentationIn,
    clock: DeviceClock | None = None,
    now: datetime | None = None,
) -> tuple[Presentation, bool]:
    """Store what is fished from now on, with the depths that the simulation gives it."""
    day = day_of(owner, day_id)
    if known := _known_presentation(owner, presentation_id):
        return known, False
    now = now or timezone.now()
    conditions = _conditions_put_right(payload.conditions or ConditionsIn.model_validate(day.conditions), clock, now)
    if conditions.water_id != day.water_id:
        text = "That is another water than the day's. Begin a day there."
        raise Refused(422, "invalid", text, {"conditions.water_id": text})
    read = conditions_of(owner, conditions, logged=True)
    conditions = told_plainly(conditions, read)
    picture = read_water(read)
    rig, action = rig_of(payload.rig), action_of(payload.action, picture.conditions.wind.speed_mps)
    if action.turns_over:
        check_leader_fits(rig.leader, picture.conditions.deepest_m, long_leader_ok=payload.long_leader_ok)
    spread = simulate_spread(rig, action, water_for(picture, action.reach_m))
    result = spread.middle
    # Kept with what was left to its usual value: a retrieve may be given another pace one day.
    done = {**payload.action.dict(), **{name: value for name, value in show_action(action).items() if name == "retrieve_mps"}}
    low, high = result.middle_depth_m()
    at = frames_of(result)

    # All is worked out before the store is held: meanwhile others log.
    def store() -> tuple[Presentation, bool]:
        if known := _known_presentation(owner, presentation_id):
            return known, False
        stored = Presentation.objects.create(
            id=presentation_id,
            day=day,
            started_at=put_right(payload.started_at, clock, now),
            device_at=payload.started_at,
            received_at=now,
            conditions=conditions.model_dump(mode="json"),
            line=payload.rig.line.dict(),
            leader=payload.rig.leader.dict(),
            flies=[placed.dict() for placed in payload.rig.flies],
            action=done,
            low_m=low,
            high_m=high,
            path_s=np.round(result.time_s[at], 1).tolist(),
            path_depth_m=np.round(result.fly_depth_m[0, at], 2).tolist(),
            path_spread_m=np.round(spread.spread_m[0, at], 2).tolist(),
            told=told_of(picture),
            advice=_as_promised(payload.advice, day.water),
        )
        stale(day.pk)
        return stored, True

    return stored_once(store)


def put_entry(
    *,
    owner: User,
    day_id: UUID,
    entry_id: UUID,
    payload: EntryIn,
    clock: DeviceClock | None = None,
    now: datetime | None = None,
) -> tuple[Entry, bool]:
    """Store what happened. With the time into the cast, the depth is the fly's at that moment, else the cast's range.

    Nothing is refused for its time: it is put right by the device's clock, and flagged where it still can't be.
    """
    return stored_once(lambda: _put_entry(owner, day_id, entry_id, payload, clock, now or timezone.now()))


def _put_entry(
    owner: User, day_id: UUID, entry_id: UUID, payload: EntryIn, clock: DeviceClock | None, now: datetime
) -> tuple[Entry, bool]:
    known = Entry.objects.filter(pk=entry_id).select_related("presentation__day").first()
    if known:
        if known.presentation.day.owner_id != owner.pk:
            raise _taken("entry")
        return known, False
    presentation = get_object_or_404(Presentation, pk=payload.presentation_id, day_id=day_id, day__owner=owner)
    if payload.species:
        species_named(payload.species)
    for fields, kind, whose in ((OF_FISH, "landed", "a landed fish"), (OF_CAST, "cast", "a cast")):
        for field, word in fields.items():
            if getattr(payload, field) is not None and payload.kind != kind:
                text = f"Only {whose} {word}."
                raise Refused(422, "invalid", text, {field: text})
    heard = payload.kind in DEPTH_TOLD
    if heard != (payload.depth_m is not None):
        text = "Say how deep." if heard else "The log works out how deep the fly was by itself."
        raise Refused(422, "invalid", text, {"depth_m": text})
    _check_fly(payload, presentation)
    low, high = presentation.low_m, presentation.high_m
    if payload.depth_m is not None:
        low, high = max(payload.depth_m - HEARD_SPREAD_M, 0.0), payload.depth_m + HEARD_SPREAD_M
    elif payload.cast_elapsed_s is not None and payload.kind != "cast":
        low, high = depths_of(presentation, payload.cast_elapsed_s, payload.fly or 0)
    entry = Entry.objects.create(
        id=entry_id,
        presentation=presentation,
        kind=payload.kind,
        at=put_right(payload.at, clock, now),
        device_at=payload.at,
        received_at=now,
        cast_elapsed_s=payload.cast_elapsed_s,
        depth_low_m=round(low, 2),
        depth_high_m=round(high, 2),
        species=payload.species,
        phase=payload.phase or "",
        pace=payload.pace or "",
        **{field: getattr(payload, field) for field in (*OF_FISH, *OF_CAST, "fly", "fly_class", "colour", "hook_size")},
    )
    stale(day_id)
    return entry, True


def _check_fly(payload: EntryIn, presentation: Presentation) -> None:
    """Check what is said of flies: of one's own which, of another's what it was."""
    for field in ("fly_class", "colour", "hook_size", "pace"):
        if getattr(payload, field) not in {None, ""} and payload.kind != "told":
            text = "Only another's fish has a fly that is told of: yours has its own."
            raise Refused(422, "invalid", text, {field: text})
    check_came(payload.kind, payload.fly, payload.phase, len(presentation.flies))


def check_came(kind: str, fly: int | None, phase: str | None, flies: int) -> None:
    """Check what is said of the fly that something came to, of so many, and of when in the cast."""
    for field, value in (("fly", fly), ("phase", phase)):
        if value is not None and kind not in FELT | CAME_NEAR:
            text = "Only what came to a fly has a fly and a phase of the cast."
            raise Refused(422, "invalid", text, {field: text})
    if fly is not None and fly >= flies:
        text = f"There {'was one fly' if flies == 1 else f'were {flies} flies'}: the point is 0."
        raise Refused(422, "invalid", text, {"fly": text})


def depths_of(presentation: Presentation, elapsed_s: float, fly: int) -> tuple[float, float]:
    """Return between which depths [m] a fly was so long after it landed."""
    above_m = above_point_m(presentation, fly)
    path_m = [max(depth - above_m, 0.0) for depth in presentation.path_depth_m]
    low, high = depth_of_take(elapsed_s, presentation.path_s, path_m, presentation.path_spread_m)
    return round(low, 2), round(high, 2)


def _as_promised(advice: AdviceIn | None, water: Water) -> dict[str, Any] | None:
    """Return what the plan promised, without what the angler's own correction had made of it."""
    if advice is None:
        return None
    factor = water.takes_factor or 1.0
    said = {name: getattr(advice, name) for name in ("takes_ph", "low_ph", "high_ph")}
    if None in said.values():
        return {**advice.dict(), **dict.fromkeys(said)}
    return {**advice.dict(), **{name: round(value / factor, 4) for name, value in said.items()}}


@transaction.atomic
def undo_entry(*, owner: User, day_id: UUID, entry_id: UUID) -> None:
    """Take an entry back; taking it back twice is the same."""
    entry = get_object_or_404(Entry, pk=entry_id, presentation__day_id=day_id, presentation__day__owner=owner)
    if entry.undone_at is None:
        entry.undone_at = timezone.now()
        entry.save(update_fields=["undone_at"])
        stale(day_id)


_PHOTOS = Photo.objects.filter(entry=OuterRef("pk"))


def entries_of(owner: User, day_id: UUID) -> QuerySet[Entry]:
    """Return a day's entries in order of time, without those taken back; 404 unless the day is the owner's."""
    get_object_or_404(Day, pk=day_id, owner=owner)
    return Entry.objects.filter(presentation__day_id=day_id, undone_at=None).annotate(has_photo=Exists(_PHOTOS))


def presentations_of(owner: User, day_id: UUID) -> QuerySet[Presentation]:
    get_object_or_404(Day, pk=day_id, owner=owner)
    return Presentation.objects.filter(day_id=day_id)


def show_day(day: Day) -> dict[str, Any]:
    """Return a day with its totals, which are worked out first where something was logged since."""
    facts = facts_of(day)
    return {
        "id": day.pk,
        "water_id": day.water_id,
        "water_name": day.water.name,
        "at": day.at,
        "device_at": day.device_at,
        "odd_time": day.odd_time,
        "conditions": day.conditions,
        "notes": day.notes,
        "counts": facts.counts,
        "take_depths": facts.take_depths,
        "longest_m": facts.longest_m,
        "hours": round(facts.hours, 2),
    }


def _middle(entry: Entry) -> float:
    return round(max(entry.depth_high_m - HEARD_SPREAD_M, 0.0), 2)


def _condition(entry: Entry) -> float | None:
    if entry.length_m is None or entry.weight_kg is None:
        return None
    found = condition_pct(entry.species, entry.length_m, entry.weight_kg)
    return None if found is None else round(found)


def show_entry(entry: Entry) -> dict[str, Any]:
    usual = usual_weight_kg(entry.species, entry.length_m) if entry.length_m is not None else None
    return {
        **{field: getattr(entry, field) for field in EntryIn.model_fields if field != "depth_m"},
        "phase": entry.phase or None,
        "pace": entry.pace or None,
        "depth_m": _middle(entry) if entry.kind in DEPTH_TOLD else None,
        "id": entry.pk,
        "device_at": entry.device_at,
        "odd_time": entry.odd_time,
        "depth_low_m": entry.depth_low_m,
        "depth_high_m": entry.depth_high_m,
        "usual_kg": None if usual is None else round(usual, 3),
        "condition_pct": _condition(entry),
        "has_photo": getattr(entry, "has_photo", False),
    }


def show_presentation(stored: Presentation, changed: Phrase | None = None) -> dict[str, Any]:
    return {
        "id": stored.pk,
        "started_at": stored.started_at,
        "device_at": stored.device_at,
        "odd_time": stored.odd_time,
        "conditions": stored.conditions,
        "rig": {"line": stored.line, "leader": stored.leader, "flies": stored.flies},
        "action": done_of(stored),
        "low_m": stored.low_m,
        "high_m": stored.high_m,
        "path": path_of(stored),
        "advice": stored.advice,
        "changed": show_phrase(changed) if changed else None,
    }


def done_of(stored: Presentation) -> dict[str, Any]:
    """Return what was done with it, as the API shows an action."""
    return show_action(action_of(_ACTION.validate_python(stored.action), 0.0))


def path_of(one: Presentation) -> dict[str, Any]:
    """Return where each fly was. Of a team only the point's path is kept: the others are taken to be above it, under a float
    straight, in a cast askew."""
    at = np.unique(np.linspace(0, len(one.path_s) - 1, MOST_POINTS).astype(int))  # the end is among them
    return {
        "time_s": [one.path_s[i] for i in at],
        "flies": [
            {
                "name": placed["fly"]["name"],
                "depth_m": [round(max(one.path_depth_m[i] - above_point_m(one, fly), 0.0), 2) for i in at],
            }
            for fly, placed in enumerate(one.flies)
        ],
    }


def above_point_m(one: Presentation, fly: int) -> float:
    """Return how far above the point a fly is [m], as it is fished."""
    askew = ASKEW if one.action.get("set_depth_m") is None else 1.0
    return float(askew * one.flies[fly]["above_point_m"])

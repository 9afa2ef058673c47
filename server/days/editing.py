"""Put the log right afterwards: every change is kept with what stood there before."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from common.problems import Refused
from django.db import transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from accounts.models import User
from advice.payloads import conditions_of, told_plainly
from days.models import Catch, Change, Day, Entry
from days.schemas import DayChangeIn, EntryChangeIn
from days.services import OF_FISH, check_came, day_of, depths_of
from days.tally import stale
from stillthread.api import FELT, OUTCOMES, read_water, species_named


def change_day(*, owner: User, day_id: UUID, payload: DayChangeIn) -> Day:
    """Change a day's notes or the conditions it began under."""
    day = day_of(owner, day_id)
    after: dict[str, Any] = {}
    if payload.notes is not None:
        after["notes"] = payload.notes
    if payload.conditions is not None:
        if payload.conditions.water_id != day.water_id:
            text = "That is another water than the day's. A day stays where it was fished."
            raise Refused(422, "invalid", text, {"conditions.water_id": text})
        read = conditions_of(owner, payload.conditions, logged=True)
        read_water(read)  # refuses what can't be read
        at_there = read.at.replace(tzinfo=None)
        told = told_plainly(payload.conditions, read).model_copy(update={"at_local": at_there, "species": read.species.key})
        after["conditions"] = told.model_dump(mode="json")
    with transaction.atomic():
        day = day_of(owner, day_id)
        _change(day, after, day, None)
    return day_of(owner, day_id)


@transaction.atomic
def change_entry(*, owner: User, day_id: UUID, entry_id: UUID, payload: EntryChangeIn) -> Entry:
    """Change an entry of a cast: what it was, when, and what the fish was."""
    entry = get_object_or_404(
        Entry.objects.select_related("presentation__day"), pk=entry_id, undone_at=None,
        presentation__day_id=day_id, presentation__day__owner=owner,
    )  # fmt: skip
    after = payload.dict(exclude_unset=True)
    if after.get("kind", entry.kind) is None or after.get("at", entry.at) is None:
        text = "An entry is something, at some time."
        raise Refused(422, "invalid", text, {"kind": text})
    if "kind" in after and after["kind"] != entry.kind and entry.kind not in OUTCOMES:
        text = "Only what came of a cast can become something else."
        raise Refused(422, "invalid", text, {"kind": text})
    if after.get("species"):
        species_named(after["species"])
    after = {name: "" if name in {"species", "phase"} and value is None else value for name, value in after.items()}
    check_came(after.get("kind", entry.kind), after.get("fly"), after.get("phase") or None, len(entry.presentation.flies))
    if "fly" in after and entry.cast_elapsed_s is not None and entry.kind in FELT:
        low, high = depths_of(entry.presentation, entry.cast_elapsed_s, after["fly"] or 0)
        after |= {"depth_low_m": low, "depth_high_m": high}
    if after.get("kind", entry.kind) != "landed":
        for field in (*OF_FISH, "species"):
            if after.get(field) not in (None, ""):
                text = "Only of a landed fish this is known."
                raise Refused(422, "invalid", text, {field: text})
        after |= {field: None for field in OF_FISH if getattr(entry, field) is not None}
        if entry.species:
            after["species"] = ""
    _change(entry, after, entry.presentation.day, entry)
    return entry


def _change(row: Day | Entry, after: dict[str, Any], day: Day, entry: Entry | None) -> None:
    """Write what differs, and keep what stood there."""
    after = {name: value for name, value in after.items() if getattr(row, name) != value}
    if not after:
        return
    before = {name: getattr(row, name) for name in after}
    for name, value in after.items():
        setattr(row, name, value)
    row.save(update_fields=list(after))
    Change.objects.create(day=day, entry=entry, before=_plain(before), after=_plain(after))
    stale(day.pk)


def _plain(values: dict[str, Any]) -> dict[str, Any]:
    return {name: value.isoformat() if hasattr(value, "isoformat") else value for name, value in values.items()}


def changes_of_day(owner: User, day_id: UUID) -> QuerySet[Change]:
    get_object_or_404(Day, pk=day_id, owner=owner)
    return Change.objects.filter(day_id=day_id)


@transaction.atomic
def delete_day(*, owner: User, day_id: UUID) -> None:
    """Take a day out of the log that was begun and never fished: nothing that happened is ever lost with one press."""
    day = get_object_or_404(Day, pk=day_id, owner=owner)
    if Entry.objects.filter(presentation__day=day, undone_at=None).exists():
        raise Refused(409, "not_empty", "Something was logged on that day. Take its entries back first.")
    if day.catches.exists():
        raise Refused(409, "not_empty", "Fish of another log are of that day. Take them out first.")
    day.delete()


@transaction.atomic
def delete_catch(*, owner: User, day_id: UUID, catch_id: UUID) -> None:
    """Take a fish of another log out again."""
    get_object_or_404(Catch, pk=catch_id, day_id=day_id, day__owner=owner).delete()
    stale(day_id)

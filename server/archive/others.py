"""Other people's logs, brought in: days and fish that stand beside one's own. The same file twice is once."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, time
from typing import Any
from zoneinfo import ZoneInfo

from common.problems import Refused
from django.db import IntegrityError, transaction
from django.utils import timezone

from accounts.models import User
from days.models import Catch, Day
from days.schemas import DayIn
from days.services import day_to_keep
from stillthread.api import OtherRow, read_other_log
from waters.models import Water

_SPACE = uuid.UUID("6f1f7a0c-41a3-4b69-9d30-0f3b5a8f3c11")
NOON = time(12)
MOST_TOLD = 50
NOT_READ = ("wind_from_deg", "cloud_fraction", "secchi_m", "bottom_depth_m")
SOME_C, SOME_WIND = 10.0, 3.0  # stands where something is named as assumed, and is not used


@dataclass
class Brought:
    """What a file brings: days and fish that are new, those that are here already, rows refused, and waters not known."""

    days_new: int = 0
    days_here: int = 0
    fish_new: int = 0
    fish_here: int = 0
    refused: int = 0
    faults: list[dict[str, Any]] = field(default_factory=list)
    unknown_waters: list[str] = field(default_factory=list)

    def refuse(self, line: int, why: str) -> None:
        self.refused += 1
        if len(self.faults) < MOST_TOLD:
            self.faults.append({"line": line, "why": why})


def bring(
    owner: User,
    data: bytes,
    *,
    mapping: Mapping[str, int],
    units: Mapping[str, str],
    day_first: bool,
    water_id: int | None,
    waters: Mapping[str, int],
    store: bool,
    leave_out: bool = False,
) -> Brought:
    """Return what a log brings, and with `store` keep it: all that is not refused, or, unless that may be left out, nothing.

    `waters` says by number which water a name of the log is; `water_id` is that of rows that name none.
    """
    rows, bad = read_other_log(data, mapping, units, day_first=day_first)
    brought = Brought()
    for line, why in bad:
        brought.refuse(line, why)
    days = _by_day(owner, rows, waters, water_id, brought)
    new: list[Day] = []
    catches: list[Catch] = []
    touched: list[uuid.UUID] = []
    known = _known_days(owner, {water.pk: water for water, _ in days})
    for (water, on), own in sorted(days.items(), key=lambda item: (item[0][1], item[0][0].pk)):
        day = known.get((water.pk, on))
        if day is None:
            day = _day(owner, water, on, own)
            new.append(day)
        else:
            brought.days_here += 1
        fish = _catches(day, water, on, own)
        here = set(Catch.objects.filter(pk__in=[one.pk for one in fish]).values_list("pk", flat=True))
        brought.fish_here += sum(one.count for one in fish if one.pk in here)
        added = [one for one in fish if one.pk not in here]
        catches += added
        if added:
            touched.append(day.pk)
    brought.days_new, brought.fish_new = len(new), sum(one.count for one in catches)
    brought.faults.sort(key=lambda fault: int(fault["line"]))
    if store:
        if brought.refused and not leave_out:
            raise Refused(409, "rows_refused", f"{brought.refused} rows can't be taken. Leave them out, or put them right.")
        try:
            with transaction.atomic():
                Day.objects.bulk_create(new, batch_size=200)
                Catch.objects.bulk_create(catches, batch_size=500)
                Day.objects.filter(pk__in=touched).update(tallied=False)
        except IntegrityError:
            text = "The same log came in twice at one moment. Look again: what it brings is here once."
            raise Refused(409, "at_once", text) from None
    return brought


def _by_day(
    owner: User, rows: list[OtherRow], waters: Mapping[str, int], water_id: int | None, brought: Brought
) -> dict[tuple[Water, date], list[OtherRow]]:
    mine = {water.pk: water for water in Water.objects.filter(owner=owner)}
    named = {water.name.casefold(): water for water in mine.values()}
    said = {name.casefold(): mine.get(pk) for name, pk in waters.items()}
    usual = mine.get(water_id) if water_id is not None else None
    days: dict[tuple[Water, date], list[OtherRow]] = defaultdict(list)
    for row in rows:
        name = row.water.casefold()
        water = (said.get(name) or named.get(name)) if name else usual
        if water is None:
            if row.water and row.water not in brought.unknown_waters:
                brought.unknown_waters.append(row.water)
            brought.refuse(row.line, f"You have no water called {row.water}." if row.water else "It names no water.")
        else:
            days[water, row.on].append(row)
    return days


def _known_days(owner: User, waters: Mapping[int, Water]) -> dict[tuple[int, date], Day]:
    known: dict[tuple[int, date], Day] = {}
    for day in Day.objects.filter(owner=owner, water__in=waters).order_by("-at"):
        known[day.water_id, day.at.astimezone(ZoneInfo(waters[day.water_id].time_zone)).date()] = day
    return known


def _day(owner: User, water: Water, on: date, rows: list[OtherRow]) -> Day:
    """Return a day with what its rows say of the water; of the rest it is said that nobody read it."""
    read_c = [row.water_c for row in rows if row.water_c is not None]
    wind = [row.wind_mps for row in rows if row.wind_mps is not None]
    began = min((row.at for row in rows if row.at is not None), default=NOON)
    unread = [*NOT_READ, *([] if read_c else ["surface_c"]), *([] if wind else ["wind_speed_mps"])]
    said = DayIn.model_validate(
        {
            "water_id": water.pk,
            "at_local": datetime.combine(on, began),
            "readings": [{"depth_m": 0.0, "water_c": read_c[0] if read_c else SOME_C}],
            "wind_speed_mps": wind[0] if wind else SOME_WIND,
            "wind_from_deg": 0.0,
            "cloud_fraction": 0.5,
            "secchi_m": water.usual_secchi_m,
            "bottom_depth_m": water.usual_bottom_depth_m,
            "assumed": unread,
        }
    )
    day, _ = day_to_keep(owner, uuid.uuid5(_SPACE, f"{owner.pk}|{water.uid}|{on}"), said, None, timezone.now())
    day.notes = "\n".join(row.notes for row in rows if row.count == 0 and row.notes)[:4000]
    return day


def _catches(day: Day, water: Water, on: date, rows: list[OtherRow]) -> list[Catch]:
    zone = ZoneInfo(water.time_zone)
    alike: dict[str, int] = defaultdict(int)
    found = []
    for row in rows:
        if row.count == 0:
            continue
        fish = (row.at, row.species, row.count, row.length_m, row.weight_kg, row.depth_m, row.kept)
        told = (*fish, row.fly, row.method, row.notes)
        # Two fish that are told alike are two: the second of the file is the second of the log.
        alike[repr(told)] += 1
        found.append(
            Catch(
                id=uuid.uuid5(day.pk, f"{told!r}|{alike[repr(told)]}"), day=day, at=datetime.combine(on, row.at or NOON, zone),
                timed=row.at is not None, count=row.count, species=row.species, length_m=row.length_m, weight_kg=row.weight_kg,
                depth_m=row.depth_m, kept=row.kept, fly=row.fly, method=row.method, notes=row.notes,
            )
        )  # fmt: skip
    return found

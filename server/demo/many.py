"""Many seasons at once, from a seed: a log as long as an angler's life, to see whether looking back stays quick."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

import numpy as np
from django.db import transaction

from accounts.models import User
from advice.action_schemas import CastIn, CastingIn, RigIn
from advice.payloads import cast_of, conditions_of, local_to_utc, rig_of
from box.models import Fly, Leader, Line
from box.services import items_of
from days.models import Day, Entry, Presentation
from days.schemas import DayIn
from days.tally import tally, told_of
from stillthread.api import depth_of_take, read_water, simulate_spread, water_for
from waters.models import Water

MONTHS = (4, 5, 6, 7, 8, 9, 10)
SURFACE_C = {4: 6.0, 5: 10.0, 6: 14.0, 7: 17.0, 8: 17.5, 9: 13.0, 10: 9.0}
COUNTS_S, RETRIEVES = (0.0, 12.0, 30.0), ("slow-twist", "strip-pause")
FEEDING_M, WITHIN_M = 3.2, 1.2  # where its fish are, whatever the season
DAYS_A_SEASON, CASTS_A_DAY = 100, 30


@dataclass(frozen=True)
class _Way:
    """A presentation as it is stored, without its day."""

    fields: dict[str, Any]
    worth: np.ndarray[Any, Any]


def lay_seasons(owner: User, waters: Sequence[Water], seasons: int, seed: int = 7, until: date = date(2025, 10, 31)) -> int:
    """Write so many seasons of a hundred days into a log, and work their facts out; return how many days."""
    rng = np.random.default_rng(seed)
    months = {(w.pk, m): _month(owner, w, m) for w in waters for m in MONTHS}
    days: list[Day] = []
    fished: list[Presentation] = []
    entries: list[Entry] = []
    for season in range(seasons):
        year = until.year - season
        for _ in range(DAYS_A_SEASON):
            water = waters[int(rng.integers(0, len(waters)))]
            month = int(rng.choice(MONTHS))
            conditions, told, ways = months[water.pk, month]
            at = local_to_utc(datetime(year, month, int(rng.integers(1, 29)), int(rng.integers(6, 18))), water.time_zone)
            read = {
                **conditions,
                "at_local": at.replace(tzinfo=None).isoformat(),
                "wind_speed_mps": round(float(rng.gamma(3.0, 1.2)), 1),
                "cloud_fraction": round(float(rng.random()), 1),
            }
            day = Day(id=_uuid(rng), owner=owner, water=water, at=at, conditions=read)
            days.append(day)
            _fish(day, told, ways, rng, fished, entries)
    with transaction.atomic():
        Day.objects.bulk_create(days, batch_size=500)
        Presentation.objects.bulk_create(fished, batch_size=200)
        Entry.objects.bulk_create(entries, batch_size=2000)
    while tally(owner, most=200):
        pass
    return len(days)


def _month(owner: User, water: Water, month: int) -> tuple[dict[str, Any], dict[str, Any], list[_Way]]:
    surface = SURFACE_C[month]
    payload = DayIn.model_validate({
        "water_id": water.pk, "at_local": f"2025-{month:02d}-15T11:00", "readings": [{"depth_m": 0.0, "water_c": surface}],
        "wind_speed_mps": 4.0, "wind_from_deg": 240.0, "cloud_fraction": 0.5, "secchi_m": water.usual_secchi_m,
        "bottom_depth_m": water.usual_bottom_depth_m, "species": water.species,
    })  # fmt: skip
    picture = read_water(conditions_of(owner, payload, logged=True))
    lines = [vars(line) for line in items_of(Line, owner)[:6]]
    flies = [vars(fly) for fly in items_of(Fly, owner)[:8]]
    leader = vars(items_of(Leader, owner)[0])
    ways = []
    for i, line in enumerate(lines):
        for j, count_s in enumerate(COUNTS_S):
            chosen = CastingIn(
                rig=RigIn.model_validate({"line": line, "leader": leader, "flies": [{"fly": flies[(i + 3 * j) % len(flies)]}]}),
                action=CastIn(kind="cast", cast_m=18.0, count_s=count_s, retrieve_key=RETRIEVES[(i + j) % 2]),
            )
            ways.append(_way(chosen, picture))
    return payload.model_dump(mode="json"), told_of(picture), ways


def _way(chosen: CastingIn, picture: Any) -> _Way:
    cast = cast_of(chosen.action)
    spread = simulate_spread(rig_of(chosen.rig), cast, water_for(picture, cast.cast_m))
    at = np.unique(np.linspace(0, len(spread.middle.time_s) - 1, 100).astype(int))
    depth = spread.middle.fly_depth_m[0, at]
    low, high = spread.middle.middle_depth_m()
    fields = {
        "line": chosen.rig.line.dict(), "leader": chosen.rig.leader.dict(), "flies": [f.dict() for f in chosen.rig.flies],
        "action": {**chosen.action.dict(), "retrieve_mps": cast.retrieve.mean_mps}, "low_m": low, "high_m": high,
        "path_s": np.round(spread.middle.time_s[at], 1).tolist(), "path_depth_m": np.round(depth, 2).tolist(),
        "path_spread_m": np.round(spread.spread_m[0, at], 2).tolist(),
    }  # fmt: skip
    return _Way(fields, np.exp(-0.5 * ((depth - FEEDING_M) / WITHIN_M) ** 2))


def _fish(
    day: Day,
    told: dict[str, Any],
    ways: Sequence[_Way],
    rng: np.random.Generator,
    fished: list[Presentation],
    entries: list[Entry],
) -> None:
    at, mood = day.at, float(rng.gamma(2.0, 0.5))
    for way in (ways[int(i)] for i in rng.choice(len(ways), size=3, replace=False)):
        said = float(rng.uniform(0.5, 4.0))
        advice = {"standing": str(rng.choice(["best", "as-good", "other"])), "method_key": "sinker", "takes_ph": said,
                  "low_ph": 0.4 * said, "high_ph": 1.8 * said}  # fmt: skip
        one = Presentation(
            id=_uuid(rng), day=day, started_at=at, conditions=day.conditions, told=told,
            advice=advice if rng.random() < 0.6 else None, **way.fields,
        )  # fmt: skip
        fished.append(one)
        path = one.path_s
        for _ in range(CASTS_A_DAY // 3):
            entries.append(_entry(one, "cast", at, None, rng))
            takes = float(np.clip(0.42 * mood * way.worth.mean(), 0.0, 0.9))
            if rng.random() < takes:
                chance = way.worth / way.worth.sum()
                into = float(path[int(rng.choice(len(path), p=chance))])
                kind = str(rng.choice(["take", "lost", "landed"], p=[0.2, 0.2, 0.6]))
                entries.append(_entry(one, kind, at + timedelta(seconds=into), into, rng))
                at += timedelta(seconds=into + 120.0)
            else:
                at += timedelta(seconds=path[-1])
                entries.append(_entry(one, "nothing", at, float(path[-1]), rng))
            at += timedelta(seconds=20.0)
        at += timedelta(minutes=5)


def _entry(one: Presentation, kind: str, at: datetime, into_s: float | None, rng: np.random.Generator) -> Entry:
    low, high = one.low_m, one.high_m
    if into_s is not None:
        low, high = depth_of_take(into_s, one.path_s, one.path_depth_m, one.path_spread_m)
    landed = kind == "landed"
    return Entry(
        id=_uuid(rng), presentation=one, kind=kind, at=at, cast_elapsed_s=into_s, depth_low_m=round(low, 2),
        depth_high_m=round(high, 2), species=one.conditions["species"] if landed else "",
        length_m=round(float(np.clip(rng.normal(0.4, 0.05), 0.2, 0.8)), 2) if landed else None,
    )  # fmt: skip


def _uuid(rng: np.random.Generator) -> uuid.UUID:
    return uuid.UUID(bytes=rng.bytes(16), version=4)

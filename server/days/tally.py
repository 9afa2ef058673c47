"""Work out what is asked of days again and again: hours of the fly by layer, takes, and what the day was like."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
from django.db import OperationalError, transaction
from pydantic import ValidationError

from accounts.models import User
from advice.condition_schemas import ConditionsIn
from advice.payloads import conditions_of
from box.services import core_line
from days.models import Catch, Day, DayFacts, Entry, Presentation, Stretch
from stillthread.api import (
    ENTRY_KINDS,
    LOG_LAYER_M,
    RETRIEVES,
    SIGNS,
    StillthreadError,
    WaterPicture,
    casts_of,
    fish_among,
    layer_of,
    layer_seconds,
    nearest,
    northern_day,
    read_water,
    seconds_above_bottom,
    way_of,
)

Named = tuple[str, float, float]
AT_ONCE = 40
"""Days that one question works out; of more, the page asks again."""
SPOT_M = 150.0
SHORTEST_S = 1.0  # a take counts in a layer that the fly had only just come to


def told_of(picture: WaterPicture) -> dict[str, Any]:
    """Return what the log keeps of a picture: what it said of each layer, and what the water was like."""
    deepest = picture.conditions.deepest_m
    middles = LOG_LAYER_M * (np.arange(max(int(np.ceil(deepest / LOG_LAYER_M)), 1)) + 0.5)
    return {
        "worth": np.round(picture.belief.worth(np.minimum(middles, deepest)), 4).tolist(),
        "light": round(picture.brightness, 3),
        "surface_c": round(float(picture.profile.water_c[0]), 2),
        "thermocline_m": None if picture.layers.thermocline_m is None else round(picture.layers.thermocline_m, 2),
    }


def untallied(owner: User) -> int:
    return Day.objects.filter(owner=owner, tallied=False).count()


def tally(owner: User, most: int = AT_ONCE) -> int:
    """Bring the facts of up to `most` days up to what is logged, the newest first; return how many are left to do."""
    stale = list(Day.objects.filter(owner=owner, tallied=False).order_by("-at")[: most + 1].values_list("pk", flat=True))
    for day_id in stale[:most]:
        tally_day(day_id)
    return untallied(owner) if len(stale) > most else 0


def tally_day(day_id: Any) -> DayFacts:
    """Work a day's facts out anew. Meanwhile it may be logged on: then it is not done with, and comes again."""
    day = Day.objects.select_related("water", "owner").get(pk=day_id)
    fished = list(Presentation.objects.filter(day=day).order_by("started_at", "id"))
    entries: dict[Any, list[Entry]] = defaultdict(list)
    for entry in Entry.objects.filter(presentation__day=day, undone_at=None).order_by("at", "id"):
        entries[entry.presentation_id].append(entry)
    for one in fished:
        if one.told is None:
            one.told = _told(day.owner, one.conditions)
            Presentation.objects.filter(pk=one.pk).update(told=one.told)
    told = fished[0].told if fished and fished[0].told else _told(day.owner, day.conditions)
    marks = list(day.water.marks.values_list("name", "latitude_deg", "longitude_deg"))
    stretches = [s for one in fished for s in _stretches(day, one, entries[one.pk], marks)]
    facts = _facts(day, told, fished, entries, stretches)
    brought = list(day.catches.all())
    _add_brought(facts, brought)
    seen = (sum(len(rows) for rows in entries.values()), len(fished), len(brought), day.notes, day.conditions)
    try:
        return _kept(day, facts, stretches, seen)
    except OperationalError as error:
        if "full" not in str(error) and "No space" not in str(error):
            raise
        return DayFacts(day=day, **facts)  # a full disk keeps nobody from reading


def _kept(day: Day, facts: dict[str, Any], stretches: Sequence[Stretch], seen: tuple[Any, ...]) -> DayFacts:
    """Store a day's facts; it is done with where nothing was logged since they were worked out."""
    with transaction.atomic():
        now = Day.objects.select_for_update().get(pk=day.pk)
        if now.owner_id != day.owner_id:
            return DayFacts(day=day, **facts)  # it was replaced meanwhile
        logged = Entry.objects.filter(presentation__day=now, undone_at=None).count()
        same = seen == (logged, now.presentations.count(), now.catches.count(), now.notes, now.conditions)
        Stretch.objects.filter(day=day).delete()
        Stretch.objects.bulk_create(stretches)
        kept, _ = DayFacts.objects.update_or_create(day=day, defaults=facts)
        Day.objects.filter(pk=day.pk).update(tallied=same)
    return kept


def facts_of(day: Day) -> DayFacts:
    """Return a day's facts, worked out first where something was logged since."""
    return day.facts if day.tallied else tally_day(day.pk)


def stale(day_id: Any) -> None:
    """Have a day's facts worked out anew when they are next asked for."""
    Day.objects.filter(pk=day_id, tallied=True).update(tallied=False)


def _told(owner: User, conditions: dict[str, Any]) -> dict[str, Any]:
    """Return what a picture says of kept conditions; of what can't be read any more, that nothing was expected anywhere."""
    try:
        return told_of(read_water(conditions_of(owner, ConditionsIn.model_validate(conditions), logged=True)))
    except (StillthreadError, ValidationError):
        top = min(conditions["readings"], key=lambda reading: reading["depth_m"])
        return {"worth": [0.0], "light": 0.5, "surface_c": top["water_c"], "thermocline_m": None}


@dataclass(slots=True)
class _Hour:
    """What was fished of a presentation in one hour of the clock."""

    ends_s: list[float]
    fish: list[Entry]


def _stretches(
    day: Day, one: Presentation, entries: Sequence[Entry], marks: Sequence[tuple[str, float, float]]
) -> list[Stretch]:
    zone = ZoneInfo(day.water.time_zone)
    hours: dict[datetime, _Hour] = defaultdict(lambda: _Hour([], []))

    def hour_of(at: datetime) -> _Hour:
        there = at.astimezone(zone)
        return hours[there.replace(minute=0, second=0, microsecond=0)]

    kinds = [entry.kind for entry in entries]
    begun = entries[0].at if entries else one.started_at
    at_s = [(entry.at - begun).total_seconds() for entry in entries]
    for i, lasted_s in casts_of(kinds, at_s, [entry.cast_elapsed_s for entry in entries], one.path_s[-1]):
        hour_of(entries[i].at).ends_s.append(lasted_s)
    for i in fish_among(kinds):
        # A fish belongs to the hour of its cast: that is where the cast's time is.
        cast = next((j for j in range(i, -1, -1) if kinds[j] == "cast"), i)
        hour_of(entries[cast].at).fish.append(entries[i])
    line = core_line(one.line)
    read = one.conditions
    told = one.told or {}
    bottom = float(read["bottom_depth_m"])
    found = []
    for at, hour in sorted(hours.items()):
        layers = np.concatenate((_below(one, hour), _above(one, hour, bottom)))
        found.append(
            Stretch(
                presentation=one, day=day, owner=day.owner, water=day.water, on=at.date(), month=at.month, hour=at.hour,
                way=way_of(line, one.action["kind"]), line=one.line["name"],
                by_fly=_by_fly(one, hour.fish), retrieve=_retrieve(one.action),
                spot=_spot(read.get("place"), marks),
                surface_c=told["surface_c"], light=told["light"], wind_mps=float(read["wind_speed_mps"]),
                hours=sum(hour.ends_s) / 3600.0, takes=len(hour.fish), landed=sum(e.kind == "landed" for e in hour.fish),
                layers=layers.astype(np.float32).tobytes(),
            )
        )  # fmt: skip
    return found


def _by_fly(one: Presentation, fish: Sequence[Entry]) -> list[tuple[str, int, int]]:
    """Return what each fly of a team brought; a fish of which nobody knows the fly is the point's, as on a single one."""
    found = []
    for seat, placed in enumerate(one.flies):
        own = [entry for entry in fish if (entry.fly or 0) == seat]
        found.append((placed["fly"]["name"], len(own), sum(entry.kind == "landed" for entry in own)))
    return found


def _add_brought(facts: dict[str, Any], catches: Sequence[Catch]) -> None:
    """Count fish of another log beside one's own, and let them be found by their words: they have no hours, so no rate."""
    facts["counts"]["brought"] = sum(one.count for one in catches)
    lengths = [one.length_m for one in catches if one.length_m is not None]
    facts["longest_m"] = max([*lengths, *([facts["longest_m"]] if facts["longest_m"] else [])], default=None)
    words = dict.fromkeys(word for one in catches for word in (one.fly, one.method, one.species, one.notes) if word)
    facts["words"] = " | ".join([facts["words"], *words]).lower()


LAYERS = 64
"""Columns that `layers` has for each of below and above: 32 m, the deeper ones counted with the last."""


def _below(one: Presentation, hour: _Hour) -> np.ndarray[Any, Any]:
    return _rows(layer_seconds(one.path_s, one.path_depth_m, hour.ends_s), [_depth(e) for e in hour.fish], hour.fish)


def _above(one: Presentation, hour: _Hour, bottom_m: float) -> np.ndarray[Any, Any]:
    heights = [max(bottom_m - _depth(entry), 0.0) for entry in hour.fish]
    return _rows(seconds_above_bottom(one.path_s, one.path_depth_m, hour.ends_s, bottom_m), heights, hour.fish)


def _depth(entry: Entry) -> float:
    return 0.5 * (entry.depth_low_m + entry.depth_high_m)


def _rows(seconds: np.ndarray[Any, Any], at_m: Sequence[float], fish: Sequence[Entry]) -> np.ndarray[Any, Any]:
    rows = np.zeros((3, LAYERS))
    np.add.at(rows[0], np.minimum(np.arange(len(seconds)), LAYERS - 1), seconds)
    for level, entry in zip(at_m, fish, strict=True):
        layer = min(layer_of(level), LAYERS - 1)
        rows[1, layer] += 1.0
        rows[2, layer] += entry.kind == "landed"
        rows[0, layer] = max(rows[0, layer], SHORTEST_S)
    return rows


def _retrieve(action: dict[str, Any]) -> str:
    known = RETRIEVES.get(action.get("retrieve_key", ""))
    return known.name if known else ""


def _spot(place: dict[str, float] | None, marks: Sequence[Named]) -> str:
    if place is None:
        return ""
    return nearest(place["latitude_deg"], place["longitude_deg"], marks, SPOT_M) or ""


def _foods(conditions: dict[str, Any]) -> dict[str, float]:
    """Return the foods that signs (each as often as it shows them) and samples (by their shares, three times) told of."""
    found: dict[str, float] = defaultdict(float)
    for key in conditions.get("signs") or ():
        for food, shows in SIGNS[key].shows.items() if key in SIGNS else ():
            found[food] += shows
    sample = conditions.get("sample")
    if sample:
        total = sum(item["count"] for item in sample["items"]) or 1
        for item in sample["items"]:
            found[item["food_key"]] += 3.0 * item["count"] / total
    return {key: round(weight, 2) for key, weight in found.items()}


def _facts(
    day: Day,
    told: dict[str, Any],
    fished: Sequence[Presentation],
    entries: dict[Any, list[Entry]],
    stretches: Sequence[Stretch],
) -> dict[str, Any]:
    rows = [entry for one in fished for entry in entries[one.pk]]
    fish = [own[i] for own in (entries[one.pk] for one in fished) for i in fish_among([e.kind for e in own])]
    counts = dict.fromkeys(ENTRY_KINDS, 0)
    for entry in rows:
        counts[entry.kind] += 1
    counts["take"] = sum(e.kind == "take" for e in fish)
    there = day.at.astimezone(ZoneInfo(day.water.time_zone))
    names = [name for s in stretches for name in (s.way, s.line, s.spot, s.retrieve)]
    names += [placed["fly"]["name"] for one in fished for placed in one.flies]
    foods: dict[str, float] = defaultdict(float)
    for conditions in [day.conditions, *(one.conditions for one in fished)]:
        for key, weight in _foods(conditions).items():
            foods[key] = max(foods[key], weight)
    return {
        "owner": day.owner,
        "water": day.water,
        "at": day.at,
        "on": there.date(),
        "northern_day": northern_day(day.water.latitude_deg, there.date()),
        "surface_c": told["surface_c"],
        "light": told["light"],
        "thermocline_m": told["thermocline_m"],
        "wind_mps": day.conditions["wind_speed_mps"],
        "secchi_m": day.conditions["secchi_m"],
        "bottom_m": day.conditions["bottom_depth_m"],
        "hours": sum(s.hours for s in stretches),
        "casts": counts["cast"],
        "takes": len(fish),
        "landed": counts["landed"],
        "longest_m": max((e.length_m for e in rows if e.length_m is not None), default=None),
        "counts": counts,
        "take_depths": [{"low_m": e.depth_low_m, "high_m": e.depth_high_m} for e in fish],
        "foods": dict(foods),
        "words": " | ".join(dict.fromkeys([day.water.name, *(name for name in names if name), day.notes])).lower(),
    }

"""Ask the core: read the water, rank presentations, simulate one."""

from __future__ import annotations

from dataclasses import asdict, replace
from datetime import datetime
from typing import Any

from lake.services import safe_column_at

from accounts.models import User
from advice.condition_schemas import ConditionsIn
from advice.day_schemas import DayStripIn
from advice.payloads import action_of, cast_of, conditions_of, rig_of
from advice.run_schemas import RunIn, SimulationIn
from advice.run_serializers import show_action_run, show_choice, show_run
from advice.serializers import show_band, show_phrase, show_picture
from box.services import core_fly, core_leader
from stillthread.api import (
    RETRIEVES,
    Cast,
    Forecast,
    Phrase,
    PlacedFly,
    Rig,
    Water,
    WaterPicture,
    cast_report,
    check_leader_fits,
    check_open_water,
    check_rig,
    day_strip,
    level_water,
    line_of_class,
    read_water,
    simulate,
    simulate_spread,
    water_for,
    where_to_start,
    worths,
)
from waters.chart_serializers import wind_at
from waters.marks import MOST_MARKS, core_marks, marks_of
from waters.outlines import outline_of, plane_of
from waters.services import rules_of, water_of
from waters.soundings import grid_of


def warm_up() -> None:
    """Compile the simulator, or load it from its cache, before anyone waits for it."""
    fly = core_fly({"name": "warm-up", "hook_size": 12})
    leader = core_leader({"name": "warm-up", "sections": [{"length_m": 3.0, "diameter_m": 0.0002, "material": "nylon"}]})
    rig = Rig(line_of_class("type-3"), leader, (PlacedFly(fly),))
    simulate(rig, Cast(8.0, 1.0, RETRIEVES["two-handed"]), level_water(10.0, 5.0))


def read_picture(owner: User, payload: ConditionsIn) -> dict[str, Any]:
    """Read the water; at a place on the chart the wind is that of the place."""
    picture = read_water(conditions_of(owner, payload))
    shown = show_picture(picture)
    water = water_of(owner, payload.water_id)
    rules = rules_of(water)
    if not rules.open_on(picture.conditions.at.date()):
        closed = Phrase(f"This water is closed on that day. {rules.sentences()[0]}")
        shown["cautions"].insert(0, {"key": "closed", "level": "stop", "words": show_phrase(closed)})
    if payload.place is not None and water.outline is not None:
        xy = plane_of(water).to_xy([payload.place.longitude_deg, payload.place.latitude_deg])[0]
        shown["wind_notes"] = [show_phrase(note) for note in wind_at(water, xy, picture)]
    return shown


def find_worths(owner: User, payload: ConditionsIn) -> dict[str, Any]:
    """Return what one more thing known would be worth."""
    return asdict(worths(conditions_of(owner, payload)))


def find_starts(owner: User, payload: ConditionsIn) -> dict[str, Any]:
    """Rank the water's marks for these conditions."""
    water = water_of(owner, payload.water_id)
    stored = list(marks_of(water)[:MOST_MARKS])
    ids = {mark.name: mark.pk for mark in stored}
    starts = where_to_start(conditions_of(owner, payload), core_marks(water), outline_of(water), grid_of(water))
    return {
        "starts": [
            {
                "mark_id": ids[start.mark.name],
                "name": start.mark.name,
                "kind_key": start.mark.kind_key,
                "score": round(start.score, 3),
                "depth_m": None if start.depth_m is None else round(start.depth_m, 2),
                "lies": start.exposure.word if start.exposure else None,
                "reasons": [show_phrase(why) for why in start.reasons],
            }
            for start in starts
        ]
    }


def make_day_strip(owner: User, payload: DayStripIn) -> dict[str, Any]:
    """Return the day of the conditions, hour by hour."""
    told = ("at", "cloud_fraction", "wind_speed_mps", "wind_from_deg", "air_c")
    forecast = [Forecast(**{name: getattr(hour, name) for name in told}) for hour in payload.forecast]
    # Each hour of what is assumed as it is: averaging two dozen pictures would keep everybody waiting.
    water = water_of(owner, payload.conditions.water_id)
    read = replace(conditions_of(owner, payload.conditions), assumed=())
    strip = day_strip(read, forecast, None if read.expected is None else lambda at: safe_column_at(water, at))

    def clock(at: datetime | None) -> str | None:
        return None if at is None else f"{at:%H:%M}"

    return {
        "hours": [
            {
                "at": hour.at,
                "clock": clock(hour.at),
                "brightness": round(hour.brightness, 3),
                **show_band(hour.band),
                "mean_m": round(hour.mean_m, 2),
                "food_name": hour.food_name,
                "food_probability": round(hour.food_probability, 3),
                "wind_speed_mps": round(hour.wind.speed_mps, 1),
                "wind_from_deg": hour.wind.from_deg,
                "cloud_fraction": hour.cloud_fraction,
                "surface_c": round(hour.surface_c, 1),
                "air_c": hour.air_c,
            }
            for hour in strip.hours
        ],
        **{name: clock(getattr(strip.sun, name)) for name in ("dawn", "sunrise", "sunset", "dusk")},
        "low_light": [{"begins": clock(begins), "ends": clock(ends)} for begins, ends in strip.low_light],
        "notes": [show_phrase(note) for note in strip.notes],
    }


def simulate_one(owner: User, payload: SimulationIn) -> dict[str, Any]:
    """Simulate one presentation, with the spread that an unsure sink rate gives."""
    picture = read_water(conditions_of(owner, payload.conditions))
    check_open_water(picture)
    rig, cast = rig_of(payload.fished.rig), cast_of(payload.fished.action, picture.conditions.wind.speed_mps)
    _check_rules(owner, payload.conditions, picture, rig)
    check_leader_fits(rig.leader, picture.conditions.deepest_m, long_leader_ok=payload.long_leader_ok)
    water = water_for(picture, cast.cast_m)
    spread = simulate_spread(rig, cast, water)
    return {
        **show_run(spread, rig.flies, cast.mends_s),
        "choice": show_choice(rig, cast, cast_report(picture, rig, cast, spread.middle)),
        "bottom": [{"distance_m": distance, "depth_m": depth} for distance, depth in water.bottom],
    }


def _check_rules(owner: User, payload: ConditionsIn, picture: WaterPicture, rig: Rig) -> None:
    """Refuse what the water's own rules forbid, before anything is worked out for it."""
    check_rig(rules_of(water_of(owner, payload.water_id)), rig, picture.conditions.at.date())


def run_one(payload: RunIn) -> dict[str, Any]:
    """Simulate what is done with a rig, in any water."""
    corners = tuple((corner.distance_m, corner.depth_m) for corner in payload.bottom)
    water = Water(payload.water_c, corners, weed_m=payload.weed_m)
    rig, action = rig_of(payload.fished.rig), action_of(payload.fished.action, payload.wind_speed_mps)
    spread = simulate_spread(rig, action, water)
    return show_action_run(rig, action, spread, water)

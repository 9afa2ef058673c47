"""Ask the core: read the water, rank presentations, simulate one."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
import numpy.typing as npt
from django.utils import timezone

from accounts.models import User
from advice.schemas import (
    ConditionsIn,
    DayStripIn,
    DriftIn,
    PlacedFlyIn,
    PlanIn,
    PresentationIn,
    ReadingIn,
    RigIn,
    RunIn,
    SampleIn,
    SimulationIn,
)
from box.models import Line
from box.services import core_fly, core_leader, core_line, items_of
from stillthread.chart.marks import MARK_KINDS
from stillthread.depth.day import Forecast, day_strip
from stillthread.depth.factors import LAYER_WORDS
from stillthread.depth.picture import Conditions, WaterPicture, check_open_water, check_time, read_water
from stillthread.errors import BadInput
from stillthread.food.catalogue import FOODS
from stillthread.food.inference import FoodChance, Sample, SampleItem
from stillthread.food.signs import SIGNS, Sign
from stillthread.phrase import Phrase
from stillthread.plan.methods import SCHOOLS
from stillthread.plan.rank import COUNTS_S, Choice, Presentation, check_leader_fits, judge, rank_presentations, water_for
from stillthread.plan.where import where_to_start
from stillthread.rules.water_rules import check_rig
from stillthread.sinking.cast import LAYER_M, Cast, CastResult, Water, level_water, simulate
from stillthread.sinking.indicator import Drift, Indicator, IndicatorRig, recast_after_s, simulate_drift
from stillthread.sinking.retrieves import PLAN_RETRIEVES, RETRIEVES, retrieve_named
from stillthread.sinking.spread import simulate_spread
from stillthread.sinking.troll import Troll, simulate_troll
from stillthread.tackle import lines
from stillthread.tackle.lines import LINE_CLASSES, line_of_class
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.water.comfort import SPECIES, species_named
from stillthread.water.oxygen import OxygenReading
from stillthread.water.reading import Lowering, Reading, readings_now
from stillthread.weather.effects import wind_effects
from stillthread.weather.wind import Wind
from waters import charts
from waters.services import lake_of, place_of, rules_of, water_of

PHASES = ("count", "retrieve", "lift", "hang")
MOST_FRAMES = 150
MOST_DEPTHS = 240


def warm_up() -> None:
    """Compile the simulator, or load it from its cache, before anyone waits for it."""
    fly = core_fly({"name": "warm-up", "hook_size": 12})
    leader = core_leader({"name": "warm-up", "sections": [{"length_m": 3.0, "diameter_m": 0.0002, "material": "nylon"}]})
    rig = Rig(line_of_class("type-3"), leader, (PlacedFly(fly),))
    simulate(rig, Cast(8.0, 1.0, RETRIEVES["two-handed"]), level_water(10.0, 5.0))


def local_to_utc(at_local: datetime, time_zone: str) -> datetime:
    """Return clock time at a water as an aware time there; a time that has a zone already is carried over."""
    zone = ZoneInfo(time_zone)
    return at_local.astimezone(zone) if at_local.tzinfo else at_local.replace(tzinfo=zone)


def conditions_of(owner: User, payload: ConditionsIn, *, now: datetime | None = None) -> Conditions:
    """Return the core's conditions, or 404 for an unknown or another's water."""
    water = water_of(owner, payload.water_id)
    at = local_to_utc(payload.at_local, water.time_zone)
    check_time(at, now or timezone.now())
    read_at = local_to_utc(payload.read_at_local, water.time_zone) if payload.read_at_local else at
    lowerings = [Lowering(read_at, readings_of(payload.readings))]
    lowerings += [Lowering(local_to_utc(e.at_local, water.time_zone), readings_of(e.readings)) for e in payload.earlier]
    readings, earlier = readings_now(lowerings)
    return Conditions(
        place=place_of(water),
        lake=lake_of(water),
        at=at,
        readings=readings,
        wind=Wind(payload.wind_speed_ms, payload.wind_from_deg),
        cloud_fraction=payload.cloud_fraction,
        secchi_m=payload.secchi_m,
        bottom_depth_m=payload.bottom_depth_m,
        species=species_named(payload.species or water.species),
        far_bottom_depth_m=payload.far_bottom_depth_m,
        weed_m=payload.weed_m,
        signs=tuple(payload.signs),
        sample=_sample(payload.sample) if payload.sample else None,
        oxygen=tuple(OxygenReading(r.depth_m, r.oxygen_mgl) for r in payload.oxygen),
        earlier=earlier,
        ice=payload.ice,
    )


def readings_of(payload: Sequence[ReadingIn]) -> tuple[Reading, ...]:
    return tuple(Reading(r.depth_m, r.water_c, r.trusted) for r in payload)


def show_reading(reading: Reading) -> dict[str, Any]:
    return {"depth_m": reading.depth_m, "water_c": reading.water_c, "trusted": reading.trusted}


def _sample(payload: SampleIn) -> Sample:
    return Sample(tuple(SampleItem(i.food_key, i.count, i.size_mm, i.colour) for i in payload.items), payload.age_h)


def flies_of(payload: Sequence[PlacedFlyIn]) -> tuple[PlacedFly, ...]:
    return tuple(PlacedFly(core_fly(placed.fly.dict()), placed.above_point_m, placed.dropper_m) for placed in payload)


def rig_of(payload: RigIn) -> Rig:
    return Rig(core_line(payload.line.dict()), core_leader(payload.leader.dict()), flies_of(payload.flies))


def presentation_of(payload: PresentationIn) -> Presentation:
    cast = Cast(
        payload.cast_m,
        payload.count_s,
        retrieve_named(payload.retrieve_key, payload.retrieve_mps),
        slack=payload.slack,
        loose=payload.loose,
        tip_ms=payload.tip_ms,
    )
    return Presentation(rig_of(payload.rig), cast)


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
        xy = charts.plane_of(water).to_xy([payload.place.longitude_deg, payload.place.latitude_deg])[0]
        shown["wind_notes"] = [show_phrase(note) for note in charts.wind_at(water, xy, picture)]
    return shown


def find_starts(owner: User, payload: ConditionsIn) -> dict[str, Any]:
    """Rank the water's marks for these conditions."""
    water = water_of(owner, payload.water_id)
    stored = list(charts.marks_of(water)[: charts.MOST_MARKS])
    ids = {mark.name: mark.pk for mark in stored}
    starts = where_to_start(
        conditions_of(owner, payload), charts.core_marks(water), charts.outline_of(water), charts.grid_of(water)
    )
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
    told = ("at", "cloud_fraction", "wind_speed_ms", "wind_from_deg", "air_c")
    forecast = [Forecast(**{name: getattr(hour, name) for name in told}) for hour in payload.forecast]
    strip = day_strip(conditions_of(owner, payload.conditions), forecast)

    def clock(at: datetime | None) -> str | None:
        return None if at is None else f"{at:%H:%M}"

    return {
        "hours": [
            {
                "at": hour.at,
                "clock": clock(hour.at),
                "brightness": round(hour.brightness, 3),
                **_band(hour.band),
                "mean_m": round(hour.mean_m, 2),
                "food_name": hour.food_name,
                "food_probability": round(hour.food_probability, 3),
                "wind_speed_ms": round(hour.wind.speed_ms, 1),
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


def make_plan(owner: User, payload: PlanIn) -> dict[str, Any]:
    """Rank presentations of the given lines, or of every line in the box."""
    picture = read_water(conditions_of(owner, payload.conditions))
    if payload.lines is None:
        carried = [core_line(vars(line)) for line in items_of(Line, owner)[:20]]
    else:
        carried = [core_line(line.dict()) for line in payload.lines]
    if not carried:
        raise BadInput("There is no line in your box. Add one first.", field="lines")
    leader, flies = core_leader(payload.leader.dict()), flies_of(payload.flies)
    _check_rules(owner, payload.conditions, picture, Rig(carried[0], leader, flies))
    choices = rank_presentations(
        picture,
        carried,
        leader,
        flies,
        payload.cast_m,
        long_leader_ok=payload.long_leader_ok,
    )
    simulated = len(carried) * len(COUNTS_S) * len(PLAN_RETRIEVES)
    return {"picture": show_picture(picture), "choices": [show_choice(c) for c in choices], "simulated": simulated}


def simulate_one(owner: User, payload: SimulationIn) -> dict[str, Any]:
    """Simulate one presentation, with the spread that an unsure sink rate gives."""
    picture = read_water(conditions_of(owner, payload.conditions))
    check_open_water(picture)
    presentation = presentation_of(payload.presentation)
    _check_rules(owner, payload.conditions, picture, presentation.rig)
    check_leader_fits(presentation.rig.leader, picture.conditions.deepest_m, long_leader_ok=payload.long_leader_ok)
    water = water_for(picture, presentation.cast.cast_m)
    spread = simulate_spread(presentation.rig, presentation.cast, water)
    return {
        **show_run(spread.middle, presentation.rig.flies, spread.spread_m),
        "choice": show_choice(judge(picture, presentation, spread.middle)),
        "bottom": [{"distance_m": distance, "depth_m": depth} for distance, depth in water.bottom],
    }


def _check_rules(owner: User, payload: ConditionsIn, picture: WaterPicture, rig: Rig) -> None:
    """Refuse what the water's own rules forbid, before anything is worked out for it."""
    check_rig(rules_of(water_of(owner, payload.water_id)), rig, picture.conditions.at.date())


def run_one(payload: RunIn) -> dict[str, Any]:
    """Simulate one presentation by any method, in any water."""
    corners = tuple((corner.distance_m, corner.depth_m) for corner in payload.bottom)
    water = Water(payload.water_c, corners, weed_m=payload.weed_m)
    given = [name for name in ("cast", "drift", "troll") if getattr(payload, name) is not None]
    if len(given) != 1:
        raise BadInput("Give one of cast, drift and troll.", field="cast")
    if payload.cast is not None:
        one = presentation_of(payload.cast)
        spread = simulate_spread(one.rig, one.cast, water)
        return show_run(spread.middle, one.rig.flies, spread.spread_m)
    if payload.troll is not None:
        rig = rig_of(payload.troll.rig)
        troll = Troll(payload.troll.out_m, payload.troll.speed_ms, payload.troll.for_s, payload.troll.count_s)
        return show_run(simulate_troll(rig, troll, water), rig.flies)
    assert payload.drift is not None
    return _drift(payload.drift, water)


def _drift(payload: DriftIn, water: Water) -> dict[str, Any]:
    flies = flies_of(payload.flies)
    indicator = Indicator(payload.indicator.kind, payload.indicator.diameter_m)
    rig = IndicatorRig(core_leader(payload.leader.dict()), flies, payload.set_depth_m, indicator)
    found = simulate_drift(rig, Drift(payload.for_s, payload.wind_speed_ms, payload.twitch_every_s), water)
    drift_ms = Wind(payload.wind_speed_ms, 0.0).surface_drift_ms
    recast = recast_after_s(payload.distance_m, payload.slack_m, drift_ms) if drift_ms > 0.001 else None
    return {
        **show_run(found.run, flies),
        "indicator": {
            "load_n": round(found.load_n, 5),
            "lift_n": round(found.lift_n, 5),
            "carried": found.carried,
            "shortfall_m": _numbers(found.shortfall_m, 2),
            "recast_after_s": None if recast is None else round(recast, 1),
        },
    }


def show_phrase(phrase: Phrase) -> dict[str, Any]:
    return {"text": phrase.text, "values": {name: float(value) for name, value in phrase.values.items()}}


def _numbers(values: npt.ArrayLike, digits: int) -> list[float]:
    rounded: list[float] = np.round(np.asarray(values, dtype=np.float64), digits).tolist()
    return rounded


def _band(band: tuple[float, float]) -> dict[str, float]:
    return {"top_m": round(band[0], 2), "bottom_m": round(band[1], 2)}


def show_picture(picture: WaterPicture) -> dict[str, Any]:
    """Return the picture for the API, its depth grid thinned to `MOST_DEPTHS`."""
    profile, belief, given = picture.profile, picture.belief, picture.conditions
    every = -(-len(profile.depth_m) // MOST_DEPTHS)
    at = np.unique(np.append(np.arange(0, len(profile.depth_m), every), len(profile.depth_m) - 1))
    layers = picture.layers
    return {
        "at": given.at,
        "bottom_depth_m": given.bottom_depth_m,
        "far_bottom_depth_m": given.far_bottom_depth_m,
        "deepest_m": given.deepest_m,
        "weed_m": given.weed_m,
        "species": given.species.key,
        "readings": [show_reading(r) for r in profile.readings],
        "profile": {
            "depth_m": _numbers(profile.depth_m[at], 2),
            "water_c": _numbers(profile.water_c[at], 2),
            "spread_c": _numbers(profile.spread_c[at], 2),
            "measured_to_m": profile.measured_to_m,
        },
        "layers": {name: getattr(layers, name) for name in layers.__slots__},
        "oxygen": {
            "oxygen_mgl": _numbers(picture.oxygen.oxygen_mgl[at], 2),
            "spread_mgl": _numbers(picture.oxygen.spread_mgl[at], 2),
            "readings": [{"depth_m": r.depth_m, "oxygen_mgl": r.oxygen_mgl} for r in picture.oxygen.readings],
            "measured_from_m": picture.oxygen.measured_from_m,
            "measured_to_m": picture.oxygen.measured_to_m,
        },
        "flags": [
            {
                "depth_m": flag.reading.depth_m,
                "water_c": flag.reading.water_c,
                "why": show_phrase(flag.why),
                "followed": flag.followed,
            }
            for flag in profile.flags
        ],
        "earlier": [
            {"clock": f"{e.at:%H:%M}", "readings": [show_reading(r) for r in e.readings]} for e in picture.conditions.earlier
        ],
        "trend": show_phrase(picture.trend) if picture.trend else None,
        "iced": picture.iced,
        "comfort_bands": [_band(band) for band in picture.comfort_bands],
        "livable_bands": [_band(band) for band in picture.livable_bands],
        "sun_elevation_deg": round(picture.sun_elevation_deg, 1),
        "brightness": round(picture.brightness, 3),
        "light": _numbers(picture.light[at], 4),
        "oxygen_saturation_mgl": round(picture.oxygen_saturation_mgl, 1),
        "wind_word": given.wind.word,
        "wind_beaufort": given.wind.beaufort,
        "belief": {
            "density_pm": _numbers(belief.density_pm[at], 4),
            "bands": [_band(band) for band in belief.bands()],
            "main_band": _band(belief.main_band),
            "mean_m": belief.mean_m,
            "reach_up_m": belief.reach_up_m,
            "factors": [
                {"key": f.key, "name": f.name, "share": _numbers(f.share[at], 3), "why": show_phrase(f.why)}
                for f in belief.factors
            ],
        },
        "measured_share": round(picture.measured_share, 3),
        "wanted_reading_m": picture.wanted_reading_m,
        "wind_notes": [
            show_phrase(note)
            for note in wind_effects(given.wind, 1000.0 * given.lake.fetch_km, picture.profile, picture.layers).notes
        ],
        "foods": [show_food(chance) for chance in picture.foods.chances],
        "look_for": show_sign(picture.foods.look_for) if picture.foods.look_for else None,
        "cautions": [{"key": c.key, "level": c.level, "words": show_phrase(c.words)} for c in picture.cautions],
    }


def show_food(chance: FoodChance) -> dict[str, Any]:
    ranges = {"size_mm": chance.size_mm, "hooks": chance.food.hooks, "speed_mps": chance.food.speed_mps}
    return {
        **{name: getattr(chance.food, name) for name in ("key", "name", "layer")},
        "colours": chance.colours,
        **{name: {"low": low, "high": high} for name, (low, high) in ranges.items()},
        "where": LAYER_WORDS[chance.food.layer],
        "probability": round(chance.probability, 4),
        "reasons": [show_phrase(reason) for reason in chance.reasons],
    }


def show_sign(sign: Sign) -> dict[str, str]:
    return {"key": sign.key, "name": sign.name, "asks": sign.asks}


def show_line(line: lines.Line) -> dict[str, Any]:
    def stretch(one: lines.Stretch) -> dict[str, float]:
        return {"length_m": one.length_m, "sink_rate_mps": one.sink_rate_mps}

    return {
        **{name: getattr(line, name) for name in ("name", "class_key", "number", "sink_rate_mps", "tip_m")},
        "stretches": [stretch(one) for one in line.stretches],
        "looped": stretch(line.looped) if line.looped else None,
    }


def show_choice(choice: Choice) -> dict[str, Any]:
    rig, cast, result = choice.presentation.rig, choice.presentation.cast, choice.result
    low, high = result.middle_depth_m()
    return {
        "line": show_line(rig.line),
        "count_s": cast.count_s,
        "retrieve_key": cast.retrieve.key,
        "retrieve_name": cast.retrieve.name,
        "retrieve_rhythm": cast.retrieve.rhythm,
        "retrieve_mps": cast.retrieve.mean_mps,
        "leader_name": rig.leader.name,
        "leader_m": rig.leader.length_m,
        "fly_name": rig.point_fly.name,
        "score": round(choice.score, 4),
        "band_s": round(choice.band_s, 1),
        "cast_s": round(choice.cast_s, 1),
        "band_min_per_cast": round(choice.band_s / 60.0, 2),
        "plain_sum_m": round(result.plain_sum_m, 3),
        "start_depth_m": round(result.start_depth_m(), 3),
        "deepest_m": round(result.deepest_m(), 3),
        "low_m": round(low, 3),
        "high_m": round(high, 3),
        "reasons": [show_phrase(phrase) for phrase in choice.reasons],
        "sum_differs": show_phrase(choice.sum_differs),
    }


def frames_of(result: CastResult) -> npt.NDArray[np.int64]:
    """Return the indices of at most `MOST_FRAMES` samples, evenly spread, first and last among them."""
    return np.unique(np.linspace(0, len(result.time_s) - 1, MOST_FRAMES).astype(np.int64))


def show_run(result: CastResult, flies: Sequence[PlacedFly], spread_m: npt.NDArray[np.float64] | None = None) -> dict[str, Any]:
    """Return a run for the API, thinned to `MOST_FRAMES` moments."""
    at = frames_of(result)
    spreads = np.zeros_like(result.fly_depth_m) if spread_m is None else spread_m
    paths = []
    for k, placed in enumerate(flies):
        low, high = result.middle_depth_m(k)
        paths.append(
            {
                "name": placed.fly.name,
                "depth_m": _numbers(result.fly_depth_m[k, at], 3),
                "distance_m": _numbers(result.fly_distance_m[k, at], 3),
                "speed_mps": _numbers(result.speed_mps(k)[at], 3),
                "spread_m": _numbers(spreads[k, at], 3),
                "start_depth_m": round(result.start_depth_m(k), 3),
                "deepest_m": round(result.deepest_m(k), 3),
                "end_depth_m": round(result.hang_depth_m(k), 3),
                "low_m": round(low, 3),
                "high_m": round(high, 3),
                "settle_s": round(result.settle_s(k), 1),
                "contact_s": round(float(result.contact_s[k]), 1),
                "weed_s": round(float(result.weed_s[k]), 1),
                "layer_s": _numbers(result.layer_s[k], 2),
            }
        )
    return {
        "time_s": _numbers(result.time_s[at], 2),
        "phase": [PHASES[p] for p in result.phase[at]],
        "flies": paths,
        "thread_distance_m": np.round(result.thread_m[at, :, 0], 2).tolist(),
        "thread_depth_m": np.round(result.thread_m[at, :, 1], 2).tolist(),
        "line_node": result.line_node,
        "layer_m": LAYER_M,
        "plain_sum_m": round(result.plain_sum_m, 3),
        "indicator": None,
    }


def trade_tables() -> dict[str, Any]:
    return {
        "retrieves": [{"key": r.key, "name": r.name, "mean_mps": r.mean_mps, "rhythm": r.rhythm} for r in RETRIEVES.values()],
        "line_classes": [
            {"key": c.key, "name": c.name, "label_sink_rate_mps": c.label_sink_rate_mps, "has_tip": c.has_tip}
            for c in LINE_CLASSES.values()
            if c.key != "own"
        ],
        "species": [
            {
                "key": s.key,
                "name": s.name,
                "best_low_c": s.best_low_c,
                "best_high_c": s.best_high_c,
                "stress_c": s.stress_c,
                "limit_c": s.limit_c,
            }
            for s in SPECIES.values()
        ],
        "counts_s": list(COUNTS_S),
        "signs": [show_sign(sign) for sign in SIGNS.values()],
        "foods": [{"key": food.key, "name": food.name} for food in FOODS.values()],
        "schools": [{"key": s.key, "name": s.name, "believes": s.believes} for s in SCHOOLS.values()],
        "mark_kinds": [{"key": kind.key, "name": kind.name} for kind in MARK_KINDS.values()],
    }

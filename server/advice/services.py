"""Ask the core: read the water, rank presentations, simulate one."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
import numpy.typing as npt
from django.utils import timezone

from accounts.models import User
from advice.schemas import ConditionsIn, PlanIn, PresentationIn, SimulationIn
from box.models import Line
from box.services import core_fly, core_leader, core_line, items_of
from stillthread.depth.picture import Conditions, WaterPicture, check_time, read_water
from stillthread.errors import BadInput
from stillthread.phrase import Phrase
from stillthread.plan.rank import COUNTS_S, Choice, Presentation, check_leader_fits, judge, rank_presentations, water_for
from stillthread.sinking.cast import LAYER_M, Cast, CastResult, Water, simulate, simulate_spread
from stillthread.sinking.retrieves import RETRIEVES, retrieve_named
from stillthread.tackle.lines import LINE_CLASSES, line_of_class
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.water.comfort import SPECIES, species_named
from stillthread.water.profile import Reading
from stillthread.weather.wind import Wind
from waters.services import lake_of, place_of, water_of

PHASES = ("count", "retrieve", "lift", "hang")
MOST_FRAMES = 150
MOST_DEPTHS = 240


def warm_up() -> None:
    """Compile the simulator, or load it from its cache, before anyone waits for it."""
    fly = core_fly({"name": "warm-up", "hook_size": 12})
    leader = core_leader({"name": "warm-up", "sections": [{"length_m": 3.0, "diameter_m": 0.0002, "material": "nylon"}]})
    rig = Rig(line_of_class("type-3"), leader, (PlacedFly(fly),))
    simulate(rig, Cast(8.0, 1.0, RETRIEVES["two-handed"]), Water(10.0, ((0.0, 5.0), (1.0, 5.0))))


def local_to_utc(at_local: datetime, time_zone: str) -> datetime:
    """Return clock time at a water as an aware time there; a time that has a zone already is carried over."""
    zone = ZoneInfo(time_zone)
    return at_local.astimezone(zone) if at_local.tzinfo else at_local.replace(tzinfo=zone)


def conditions_of(owner: User, payload: ConditionsIn, *, now: datetime | None = None) -> Conditions:
    """Return the core's conditions, or 404 for an unknown or another's water."""
    water = water_of(owner, payload.water_id)
    at = local_to_utc(payload.at_local, water.time_zone)
    check_time(at, now or timezone.now())
    return Conditions(
        place=place_of(water),
        lake=lake_of(water),
        at=at,
        readings=tuple(Reading(r.depth_m, r.water_c) for r in payload.readings),
        wind=Wind(payload.wind_speed_ms, payload.wind_from_deg),
        cloud_fraction=payload.cloud_fraction,
        secchi_m=payload.secchi_m,
        bottom_depth_m=payload.bottom_depth_m,
        species=species_named(payload.species or water.species),
    )


def presentation_of(payload: PresentationIn) -> Presentation:
    rig = payload.rig
    flies = tuple(PlacedFly(core_fly(placed.fly.dict()), placed.above_point_m) for placed in rig.flies)
    cast = Cast(payload.cast_m, payload.count_s, retrieve_named(payload.retrieve_key, payload.retrieve_mps))
    return Presentation(Rig(core_line(rig.line.dict()), core_leader(rig.leader.dict()), flies), cast)


def read_picture(owner: User, payload: ConditionsIn) -> dict[str, Any]:
    return show_picture(read_water(conditions_of(owner, payload)))


def make_plan(owner: User, payload: PlanIn) -> dict[str, Any]:
    """Rank presentations of the given lines, or of every line in the box."""
    picture = read_water(conditions_of(owner, payload.conditions))
    if payload.lines is None:
        lines = [core_line(vars(line)) for line in items_of(Line, owner)[:20]]
    else:
        lines = [core_line(line.dict()) for line in payload.lines]
    if not lines:
        raise BadInput("There is no line in your box. Add one first.", field="lines")
    choices = rank_presentations(
        picture,
        lines,
        core_leader(payload.leader.dict()),
        [PlacedFly(core_fly(placed.fly.dict()), placed.above_point_m) for placed in payload.flies],
        payload.cast_m,
        long_leader_ok=payload.long_leader_ok,
    )
    simulated = len(lines) * len(COUNTS_S) * len(RETRIEVES)
    return {"picture": show_picture(picture), "choices": [show_choice(c) for c in choices], "simulated": simulated}


def simulate_one(owner: User, payload: SimulationIn) -> dict[str, Any]:
    """Simulate one presentation, with the spread that an unsure sink rate gives."""
    picture = read_water(conditions_of(owner, payload.conditions))
    presentation = presentation_of(payload.presentation)
    check_leader_fits(presentation.rig.leader, picture.conditions.bottom_depth_m, long_leader_ok=payload.long_leader_ok)
    middle, slower, faster = simulate_spread(presentation.rig, presentation.cast, water_for(picture))
    return show_simulation(judge(picture, presentation, middle), slower, faster)


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
        "species": given.species.key,
        "readings": [{"depth_m": r.depth_m, "water_c": r.water_c} for r in profile.readings],
        "profile": {
            "depth_m": _numbers(profile.depth_m[at], 2),
            "water_c": _numbers(profile.water_c[at], 2),
            "spread_c": _numbers(profile.spread_c[at], 2),
            "measured_to_m": profile.measured_to_m,
        },
        "layers": {name: getattr(layers, name) for name in layers.__slots__},
        "comfort_bands": [_band(band) for band in picture.comfort_bands],
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
        "cautions": [{"key": c.key, "level": c.level, "words": show_phrase(c.words)} for c in picture.cautions],
    }


def show_choice(choice: Choice) -> dict[str, Any]:
    rig, cast, result = choice.presentation.rig, choice.presentation.cast, choice.result
    low, high = result.middle_depth_m()
    return {
        "line": {name: getattr(rig.line, name) for name in ("name", "class_key", "number", "sink_rate_mps")},
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


def show_simulation(choice: Choice, slower: CastResult, faster: CastResult) -> dict[str, Any]:
    result = choice.result
    at = frames_of(result)
    time_s = result.time_s[at]
    flies = choice.presentation.rig.flies
    return {
        "choice": show_choice(choice),
        "time_s": _numbers(time_s, 2),
        "phase": [PHASES[p] for p in result.phase[at]],
        "flies": [
            {
                "name": placed.fly.name,
                "depth_m": _numbers(result.fly_depth_m[i, at], 3),
                "distance_m": _numbers(result.fly_distance_m[i, at], 3),
                "contact_s": float(result.contact_s[i]),
            }
            for i, placed in enumerate(flies)
        ],
        "thread_distance_m": np.round(result.thread_m[at, :, 0], 2).tolist(),
        "thread_depth_m": np.round(result.thread_m[at, :, 1], 2).tolist(),
        "slow_depth_m": _numbers(np.interp(time_s, slower.time_s, slower.fly_depth_m[0]), 3),
        "fast_depth_m": _numbers(np.interp(time_s, faster.time_s, faster.fly_depth_m[0]), 3),
        "layer_m": LAYER_M,
        "layer_s": _numbers(result.layer_s[0], 2),
    }


def trade_tables() -> dict[str, Any]:
    return {
        "retrieves": [{"key": r.key, "name": r.name, "mean_mps": r.mean_mps, "rhythm": r.rhythm} for r in RETRIEVES.values()],
        "line_classes": [
            {"key": c.key, "name": c.name, "label_sink_rate_mps": c.label_sink_rate_mps} for c in LINE_CLASSES.values()
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
    }

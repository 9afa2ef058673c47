"""The core's values as the API shows them: rounded, thinned, named."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

from stillthread.api import (
    FOODS,
    LAYER_WORDS,
    LINE_CLASSES,
    MARK_KINDS,
    METHODS,
    RETRIEVES,
    SCHOOLS,
    SIGNS,
    SPECIES,
    SURFACE,
    Belief,
    FoodChance,
    Handling,
    Line,
    Phrase,
    Reading,
    Sign,
    Stretch,
    WaterPicture,
    handling,
    usual_weights,
    wind_effects,
)

MOST_DEPTHS = 240


def show_reading(reading: Reading) -> dict[str, Any]:
    return {"depth_m": reading.depth_m, "water_c": reading.water_c, "trusted": reading.trusted}


def show_phrase(phrase: Phrase) -> dict[str, Any]:
    return {"text": phrase.text, "values": {name: float(value) for name, value in phrase.values.items()}}


def numbers(values: npt.ArrayLike, digits: int) -> list[float]:
    rounded: list[float] = np.round(np.asarray(values, dtype=np.float64), digits).tolist()
    return rounded


def show_band(band: tuple[float, float]) -> dict[str, float]:
    return {"top_m": round(band[0], 2), "bottom_m": round(band[1], 2)}


def show_likely(belief: Belief, band: tuple[float, float]) -> dict[str, float]:
    return {**show_band(band), "chance": round(belief.chance_of(band), 2)}


def _worked_out(picture: WaterPicture) -> dict[str, Any] | None:
    expected = picture.conditions.expected
    if expected is None:
        return None
    unread = any(one.name == SURFACE for one in picture.conditions.assumed)
    doubt = expected.doubted([one for one in picture.profile.readings if one.depth_m > 0.0 or not unread])
    return {"read_on": expected.read_at and expected.read_at.date(), "doubt": None if doubt is None else show_phrase(doubt)}


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
            "depth_m": numbers(profile.depth_m[at], 2),
            "water_c": numbers(profile.water_c[at], 2),
            "spread_c": numbers(profile.spread_c[at], 2),
            "measured_to_m": profile.measured_to_m,
        },
        "worked_out": _worked_out(picture),
        "layers": {name: getattr(layers, name) for name in layers.__slots__},
        "oxygen": {
            "oxygen_mgl": numbers(picture.oxygen.oxygen_mgl[at], 2),
            "spread_mgl": numbers(picture.oxygen.spread_mgl[at], 2),
            "readings": [
                {"depth_m": r.depth_m, "oxygen_mgl": r.oxygen_mgl, "trusted": r.trusted} for r in picture.oxygen.readings
            ],
            "measured_from_m": picture.oxygen.measured_from_m,
            "measured_to_m": picture.oxygen.measured_to_m,
            "flags": [
                {
                    **{name: getattr(flag.reading, name) for name in ("depth_m", "oxygen_mgl")},
                    "why": show_phrase(flag.why),
                    "followed": flag.followed,
                }
                for flag in picture.oxygen.flags
            ],
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
        "may_be_iced": picture.may_be_iced,
        "comfort_bands": [show_band(band) for band in picture.comfort_bands],
        "livable_bands": [show_band(band) for band in picture.livable_bands],
        "sun_elevation_deg": round(picture.sun_elevation_deg, 1),
        "brightness": round(picture.brightness, 3),
        "light": numbers(picture.light[at], 4),
        "oxygen_saturation_mgl": round(picture.oxygen_saturation_mgl, 1),
        "wind_word": given.wind.word,
        "wind_beaufort": given.wind.beaufort,
        "belief": {
            "density_pm": numbers(belief.density_pm[at], 4),
            "bands": [show_likely(belief, band) for band in belief.bands()],
            "main_band": show_likely(belief, belief.main_band),
            "mean_m": belief.mean_m,
            "reach_up_m": belief.reach_up_m,
            "factors": [
                {"key": f.key, "name": f.name, "share": numbers(f.share[at], 3), "why": show_phrase(f.why)}
                for f in belief.factors
            ],
        },
        "activity": {"share": round(picture.feeding_activity, 3), "why": show_phrase(picture.activity_why)},
        "measured_share": round(picture.measured_share, 3),
        "unread": [
            {
                **{name: getattr(each.assumption, name) for name in ("name", "value", "low", "high")},
                "why": show_phrase(each.assumption.why),
                "narrows_m": round(each.narrows_m, 2),
            }
            for each in picture.unread
        ],
        "wanted_reading_m": picture.wanted_reading_m,
        "wind_notes": [
            show_phrase(note)
            for note in wind_effects(
                given.wind, 1000.0 * given.lake.fetch_km, picture.profile, picture.layers, given.hypsography
            ).notes
        ],
        "foods": [show_food(chance) for chance in picture.foods.chances],
        "look_for": show_sign(picture.foods.look_for) if picture.foods.look_for else None,
        "handling": show_handling(handling(float(picture.profile.water_c[0]), picture.conditions.species)),
        "cautions": [{"key": c.key, "level": c.level, "words": show_phrase(c.words)} for c in picture.cautions],
        "reminders": [show_phrase(said) for said in picture.reminders],
    }


def show_food(chance: FoodChance) -> dict[str, Any]:
    ranges = {"size_mm": chance.size_mm, "hooks": chance.hooks, "speed_mps": chance.speed_mps}
    return {
        **{name: getattr(chance.food, name) for name in ("key", "name")},
        "layer": chance.layer,
        "colours": chance.colours,
        **{name: {"low": low, "high": high} for name, (low, high) in ranges.items()},
        "where": LAYER_WORDS[chance.layer],
        "probability": round(chance.probability, 4),
        "reasons": [show_phrase(reason) for reason in chance.reasons],
    }


def show_sign(sign: Sign) -> dict[str, str]:
    return {"key": sign.key, "name": sign.name, "asks": sign.asks}


def show_line(line: Line) -> dict[str, Any]:
    def stretch(one: Stretch) -> dict[str, float]:
        return {"length_m": one.length_m, "sink_rate_mps": one.sink_rate_mps}

    return {
        **{name: getattr(line, name) for name in ("name", "class_key", "number", "sink_rate_mps", "tip_m", "rate_spread")},
        "stretches": [stretch(one) for one in line.stretches],
        "looped": stretch(line.looped) if line.looped else None,
    }


def show_handling(of: Handling) -> dict[str, Any]:
    return {"play_s": of.play_s, "air_s": of.air_s, "hold_s": of.hold_s, "lives": of.lives, "words": show_phrase(of.words)}


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
                "weights": [{"length_m": length, "kg": round(kg, 3)} for length, kg in usual_weights(s.key)],
            }
            for s in SPECIES.values()
        ],
        "signs": [show_sign(sign) for sign in SIGNS.values()],
        "foods": [{"key": food.key, "name": food.name} for food in FOODS.values()],
        "methods": [{"key": method.key, "name": method.name} for method in METHODS.values()],
        "schools": [{"key": s.key, "name": s.name, "believes": s.believes} for s in SCHOOLS.values() if s.for_plan],
        "mark_kinds": [{"key": kind.key, "name": kind.name} for kind in MARK_KINDS.values()],
    }

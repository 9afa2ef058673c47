"""What today's tables and formulas make of a dozen situations, as plain numbers; written by `python -m tests.pinning` in core/."""

from __future__ import annotations

import json
from collections.abc import Iterable
from datetime import timedelta
from pathlib import Path
from typing import Any

import numpy as np

from stillthread.chart.marks import MARK_KINDS
from stillthread.depth.day import Forecast, day_strip
from stillthread.depth.picture import Conditions, read_water
from stillthread.depth.where_to_start import where_to_start
from stillthread.phrase import Phrase
from stillthread.plan.choose import Ranked, second_rod
from stillthread.plan.explaining.ladder import ladder
from stillthread.plan.explaining.team import seats, warnings
from stillthread.plan.methods import METHODS
from stillthread.plan.scoring.match import Matcher
from stillthread.plan.scoring.setting import setting_of
from stillthread.plan.seeking.addition import best_addition
from stillthread.sinking.action import Action
from stillthread.sinking.cast import Cast
from stillthread.sinking.hang import HANGING_MPS, Hang
from stillthread.tackle.starter import STARTER_FLIES
from stillthread.trade.schools import SCHOOLS
from tests.practice.asking import ask, conditions_of
from tests.practice.rows import ROWS
from tests.test_where_to_start import GRID, LAKE, mark

KEPT = Path(__file__).with_name("pinned.json")
KEYS = (
    "early-boat", "winter-pupae", "winter-margin", "winter-flies", "film-morning", "caddis-dusk", "ants", "boatmen", "late-autumn",
    "hot-sharp", "fleas", "pin-fry", "autumn-fry", "ledge", "damsels-over-weed", "one-and-one", "south-hatch", "coloured", "duns",
    "leeches-late", "big-dry",
)  # fmt: skip
SPEEDS_MPS = (HANGING_MPS, 0.05, 0.12, 0.4)
PLANNED = ("early-boat", "caddis-dusk", "hot-sharp", "coloured", "big-dry", "damsels-over-weed")


def _said(phrases: Iterable[Phrase]) -> list[str]:
    return [phrase.plain() for phrase in phrases]


def _day(given: Conditions) -> dict[str, Any]:
    """Return the hours of a day whose wind turns and rises after noon."""
    noon = given.at.replace(hour=13, minute=0)
    forecast = (Forecast(noon, 0.9, 7.5, 30.0, 9.0), Forecast(noon + timedelta(hours=3), 0.2, 1.0, None, 14.0))
    strip = day_strip(given, forecast)
    hours = [
        [f"{h.at:%H}", round(h.brightness, 3), [round(x, 2) for x in h.band], round(h.mean_m, 2), h.food_key,
         round(h.food_probability, 3), h.wind.speed_mps, h.wind.from_deg, h.cloud_fraction, round(h.surface_c, 2), h.air_c]
        for h in strip.hours
    ]  # fmt: skip
    low = [f"{begins:%H:%M}-{ends:%H:%M}" for begins, ends in strip.low_light]
    return {"hours": hours, "low_light": low, "notes": _said(strip.notes)}


def _starts(given: Conditions) -> list[Any]:
    """Return the places of a lake of two depths in their order: one of each kind, over shelf and deep, some of known depth."""
    marks = []
    for i, kind in enumerate(sorted(MARK_KINDS)):
        for j, (x, y) in enumerate(((-250.0, -180.0 + 25.0 * i), (200.0, 190.0 - 25.0 * i))):
            marks.append(mark(f"{kind} {j}", kind, x, y, 0.9 + 0.7 * i if i % 3 == 0 else None))
    return [[s.mark.name, round(s.score, 4), *_said(s.reasons)] for s in where_to_start(given, marks, LAKE, GRID)]


def _done(action: Action) -> list[Any]:
    if isinstance(action, Cast):
        return [action.count_s, action.retrieve.key, round(action.cast_m, 1)]
    if isinstance(action, Hang):
        return [round(action.set_depth_m, 2), action.indicator, action.twitch_every_s, round(action.distance_m, 1)]
    return [action.reach_m, action.pace_mps]


def _plan(key: str) -> dict[str, Any]:
    """Return what is advised in a situation, to the hundredth of a take."""
    asked = ask(next(row for row in ROWS if row.key == key))
    plan = asked.plan

    def one(r: Ranked) -> list[Any]:
        takes = (r.takes_ph, r.low_ph, r.high_ph, r.if_deeper_ph, r.if_shallower_ph, r.if_calm_ph)
        return [
            r.option.method.key, r.as_good, r.option.rig.line.name, [fly.name for fly in r.option.flies],
            round(r.option.rig.leader.length_m, 2), _done(r.option.action), [round(x, 2) for x in takes],
            round(r.minutes_in_band, 1), _said(r.reasons), r.weak_point.plain(), [[s, round(t, 2)] for s, t in r.counts],
            [[seat.place, seat.fly_name, seat.why.plain()] for seat in seats(r, asked.picture)],
            _said(warnings(r, asked.row.wind_mps)),
        ]  # fmt: skip

    other, more = second_rod(plan, asked.picture), best_addition(plan)
    return {
        "ranked": [one(r) for r in plan.ranked],
        "excluded": plan.excluded,
        "changes": [[c.words, c.best_key] for c in plan.changes],
        "lines": [[line.line_name, line.method_key, round(line.takes_ph, 2)] for line in plan.lines],
        "second_rod": None if other is None else [other[0].option.method.key, round(other[1], 3), round(other[2], 3)],
        "addition": None if more is None else [more.name, round(more.gain, 2)],
        "ladder": [[rung.changes, rung.minutes, rung.words.plain()] for rung in ladder(plan, SCHOOLS[asked.row.school])],
        "top_down": [rung.words.plain() for rung in ladder(plan, SCHOOLS["top-down"], 1)],
    }


def told() -> dict[str, Any]:
    """Return foods, the belief at tenths of the depth, activity, and what every fly answers, situation by situation."""
    found: dict[str, Any] = {}
    for row in ROWS:
        if row.key not in KEYS:
            continue
        picture = read_water(conditions_of(row))
        belief = picture.belief
        at = np.linspace(0.0, float(belief.depth_m[-1]), 11)
        matcher = Matcher(picture.foods, setting_of(picture, pressed=row.pressed))
        found[row.key] = {
            "foods": {c.food.key: round(c.probability, 5) for c in picture.foods.chances if c.probability > 0.002},
            "hooks": {c.food.key: list(c.hooks) for c in picture.foods.chances[:6]},
            "reasons": [[why.plain() for why in c.reasons] for c in picture.foods.chances[:4]],
            "look_for": picture.foods.look_for.key if picture.foods.look_for else None,
            "belief": [round(float(x), 5) for x in np.interp(at, belief.depth_m, belief.density_pm)],
            "factors": {
                f.key: [round(float(x), 4) for x in np.interp(at[::2], belief.depth_m, f.share)] for f in belief.factors
            },
            "why": [f.why.plain() for f in belief.factors],
            "activity": round(picture.feeding_activity, 5),
            "flies": [[round(matcher.worth(fly, speed), 5) for speed in SPEEDS_MPS] for fly in STARTER_FLIES],
        }
    methods = {
        m.key: [m.way, list(m.lines_mps), m.tips, m.least_flies, m.most_flies, list(m.leaders_m), m.spacing_m, list(m.retrieves), m.greased]
        for m in METHODS.values()
    }  # fmt: skip
    given = {row.key: conditions_of(row) for row in ROWS if row.key in KEYS}
    return {
        "situations": found,
        "methods": methods,
        "days": {key: _day(given[key]) for key in PLANNED},
        "starts": {key: _starts(given[key]) for key in (*PLANNED, "duns", "south-hatch")},
        "plans": {key: _plan(key) for key in PLANNED},
    }


def written(found: dict[str, Any]) -> str:
    """Return it as JSON, a line for each situation."""
    parts = []
    for part, rows in sorted(found.items()):
        lines = ",\n  ".join(f"{json.dumps(key)}: {json.dumps(row, sort_keys=True)}" for key, row in sorted(rows.items()))
        parts.append(f" {json.dumps(part)}: {{\n  {lines}\n }}")
    return "{\n" + ",\n".join(parts) + "\n}\n"


if __name__ == "__main__":
    KEPT.write_text(written(told()))

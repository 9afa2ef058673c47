"""Ask the plan for a row of practice, and hold the answer against what practice would choose.

A check is a tuple: its kind, and what it wants. Kinds that speak of one method take its key, or "first" for the plan's first.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta, timezone
from typing import Any

from stillthread.depth.picture import Conditions, WaterPicture, read_water
from stillthread.food.inference import Sample, SampleItem
from stillthread.judgement import JUDGEMENT, Judgement
from stillthread.plan.box import Box
from stillthread.plan.choose import Plan, Ranked, choose
from stillthread.rules.water_rules import WaterRules
from stillthread.sinking.cast import Cast
from stillthread.sinking.hang import Hang
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from stillthread.trade.usual import STILL_MPS
from stillthread.water.comfort import SPECIES
from stillthread.water.reading import Reading
from stillthread.water.seasonal import Lake
from stillthread.weather.sun import Place
from stillthread.weather.wind import Wind

AS_GOOD = 0.9  # within a tenth of the one in its place is as good as in it
CLOCK = timezone(timedelta(hours=1))


@dataclass(frozen=True)
class Row:
    """A situation and what practice says of it. `water` are (depth [m], temperature [C]) readings; `sample` items are
    (food, count, size [mm])."""

    key: str
    says: str
    when: str
    water: Sequence[tuple[float, float]]
    bottom_m: float
    checks: Sequence[tuple[Any, ...]]
    wind_mps: float = 3.0
    cloud: float = 0.4
    secchi_m: float = 3.0
    far_m: float | None = None
    weed_m: float = 0.0
    signs: tuple[str, ...] = ()
    sample: tuple[tuple[str, int, float | None], ...] = ()
    boat: bool = False
    pressed: bool = False
    latitude_deg: float = 54.0
    wind_from_deg: float = 225.0
    rules: dict[str, Any] = field(default_factory=dict)
    fish_kg: float = 1.0
    school: str = "best"
    cast_m: float = 18.0


def conditions_of(row: Row) -> Conditions:
    items = tuple(SampleItem(*item) for item in row.sample)
    return Conditions(
        place=Place(row.latitude_deg, 0.0),
        lake=Lake(row.latitude_deg, 150.0, 1.5),
        at=datetime.fromisoformat(row.when).replace(tzinfo=CLOCK),
        readings=tuple(Reading(float(depth), float(water)) for depth, water in row.water),
        wind=Wind(row.wind_mps, row.wind_from_deg),
        cloud_fraction=row.cloud,
        secchi_m=row.secchi_m,
        bottom_depth_m=row.bottom_m,
        species=SPECIES["rainbow"],
        far_bottom_depth_m=row.far_m,
        weed_m=row.weed_m,
        signs=row.signs,
        sample=Sample(items, 0.5) if items else None,
    )


@dataclass(frozen=True)
class Asked:
    """A row with the picture and the plan that it got."""

    row: Row
    picture: WaterPicture
    plan: Plan

    def of(self, key: str) -> Ranked:
        if key == "first":
            return self.plan.ranked[0]
        return next(one for one in self.plan.ranked if one.option.method.key == key)

    def rank(self, key: str) -> int:
        keys = [one.option.method.key for one in self.plan.ranked]
        return keys.index(key) + 1 if key in keys else 99

    def mass(self, top_m: float, bottom_m: float) -> float:
        depth, mass = self.picture.belief.depth_m, self.picture.belief.mass()
        return float(mass[(depth >= top_m) & (depth <= bottom_m)].sum())

    def middle_m(self, key: str, fly: int = 0) -> float:
        low, high = self.of(key).result.middle_depth_m(fly)
        return 0.5 * (low + high)

    def flies(self, key: str) -> tuple[BoxFly, ...]:
        return self.of(key).option.flies

    def set_m(self) -> float:
        action = self.of("indicator").option.action
        assert isinstance(action, Hang)
        return action.set_depth_m

    def pace(self, key: str) -> float:
        action = self.of(key).option.action
        return action.retrieve.mean_mps if isinstance(action, Cast) else 0.0

    def tippet_x(self, key: str) -> int:
        sections = self.of(key).option.rig.leader.sections
        return round(11.0 - sections[-1].diameter_m / 0.0254e-3)


def ask(row: Row, judgement: Judgement = JUDGEMENT) -> Asked:
    """Return what the plan says of a row, out of the starter box."""
    picture = read_water(conditions_of(row), judgement)
    plan = choose(
        picture,
        Box(lines=starter_lines(), flies=STARTER_FLIES, boat=row.boat),
        WaterRules(**row.rules),
        cast_m=row.cast_m,
        pressed=row.pressed,
        school_key=row.school,
        fish_kg=row.fish_kg,
    )
    return Asked(row, picture, plan)


def _in_place(q: Asked, key: str, place: int) -> bool:
    if q.rank(key) <= place:
        return True
    at = q.plan.ranked[min(place, len(q.plan.ranked)) - 1].takes_ph
    return q.rank(key) < 99 and q.of(key).takes_ph >= AS_GOOD * at


def _colours(fly: BoxFly, words: Sequence[str]) -> bool:
    return any(word in fly.colour for word in words)


def _foods(fly: BoxFly, foods: Sequence[str]) -> bool:
    return bool(set(fly.foods) & set(foods))


def _heavy(fly: BoxFly) -> bool:
    return fly.fly.bead in {"brass", "tungsten"} or fly.fly.wire == "heavy" or fly.fly.extra_g > 0


Check = Callable[..., bool]
CHECKS: dict[str, Check] = {
    # Of the water.
    "mean": lambda q, low, high: low <= q.picture.belief.mean_m <= high,
    "mass": lambda q, top, bottom, least: q.mass(top, bottom) >= least,
    "mass_most": lambda q, top, bottom, most: q.mass(top, bottom) <= most,
    "foods": lambda q, keys, least: sum(q.picture.foods.probability(key) for key in keys) >= least,
    "activity": lambda q, low, high: low <= q.picture.feeding_activity <= high,
    # Of the order.
    "first": lambda q, keys: q.of("first").option.method.key in keys,
    "not_first": lambda q, keys: q.of("first").option.method.key not in keys,
    "rank": _in_place,
    "below": lambda q, key, place: q.rank(key) > place,
    "offered": lambda q, key: q.rank(key) < 99,
    "excluded": lambda q, key: key in q.plan.excluded,
    "in_likely_water": lambda q, least_min: q.of("first").minutes_in_band >= least_min,
    "takes": lambda q, low, high: low <= q.of("first").takes_ph <= high,
    # Of one method's best.
    "depth": lambda q, key, low, high: low <= q.middle_m(key) <= high,
    "all_depths": lambda q, key, low, high: all(low <= q.middle_m(key, k) <= high for k in range(len(q.flies(key)))),
    "off_bottom_fly": lambda q, key, low, high: (
        low <= q.picture.conditions.deepest_m - q.of(key).result.middle_depth_m()[1] <= high
    ),
    "set": lambda q, low, high: low <= q.set_m() <= high,
    "off_bottom": lambda q, low, high: low - 1e-9 <= q.row.bottom_m - q.set_m() <= high + 1e-9,
    "lets_go": lambda q: q.of("indicator").option.action.indicator != "fixed",
    "pace": lambda q, key, low, high: low <= q.pace(key) <= high,
    "still": lambda q, key: q.of(key).option.speed_mps <= max(float(STILL_MPS), 0.03),
    "line_mps": lambda q, key, low, high: low <= q.of(key).option.rig.line.sink_rate_mps <= high,
    "tippet_x": lambda q, key, low, high: low <= q.tippet_x(key) <= high,
    "leader": lambda q, key, low, high: low <= q.of(key).option.rig.leader.length_m <= high,
    # Of its team.
    "flies": lambda q, key, low, high: low <= len(q.flies(key)) <= high,
    "point": lambda q, key, foods: _foods(q.flies(key)[0], foods),
    "any_fly": lambda q, key, foods: any(_foods(fly, foods) for fly in q.flies(key)),
    "every_fly": lambda q, key, foods: all(_foods(fly, foods) for fly in q.flies(key)),
    "style": lambda q, key, styles: any(fly.style in styles for fly in q.flies(key)),
    "no_style": lambda q, key, styles: not any(fly.style in styles for fly in q.flies(key)),
    "point_style": lambda q, key, styles: q.flies(key)[0].style in styles,
    "point_buoyant": lambda q, key: q.flies(key)[0].buoyant,
    "point_heavy": lambda q, key: _heavy(q.flies(key)[0]),
    "colour": lambda q, key, words: any(_colours(fly, words) for fly in q.flies(key)),
    "no_colour": lambda q, key, words: not any(_colours(fly, words) for fly in q.flies(key)),
    "hooks": lambda q, key, low, high: all(low <= fly.fly.hook_size <= high for fly in q.flies(key)),
}
WEIGHTS = {"first": 3.0, "rank": 2.0, "set": 2.0, "off_bottom": 2.0, "depth": 2.0, "mean": 2.0, "point": 2.0}


def holds(q: Asked, check: tuple[Any, ...]) -> bool:
    """Return whether a check holds; of a method that the plan does not offer, none does."""
    kind, *wants = check
    if (
        wants
        and isinstance(wants[0], str)
        and kind not in {"below", "excluded"}
        and wants[0] != "first"
        and q.rank(wants[0]) == 99
    ):
        return False
    if kind in {"set", "off_bottom", "lets_go"} and q.rank("indicator") == 99:
        return False
    return bool(CHECKS[kind](q, *wants))


def told_truly(q: Asked) -> bool:
    """Return whether the minutes in the band that are said first belong to a fly that works there."""
    one = q.plan.ranked[0]
    if one.minutes_in_band < 5.0:
        return True
    works = [one.result.middle_depth_m(k) for k in range(len(one.option.flies))]
    bands = q.picture.belief.bands()
    return any(low - 0.3 <= bottom and high + 0.3 >= top for low, high in works for top, bottom in bands)


def share_held(q: Asked) -> tuple[float, float]:
    """Return the weight of a row that holds, and all of it."""
    held = sum(WEIGHTS.get(check[0], 1.0) * holds(q, check) for check in q.row.checks) + told_truly(q)
    return held, sum(WEIGHTS.get(check[0], 1.0) for check in q.row.checks) + 1.0

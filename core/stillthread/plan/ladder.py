"""The fallback ladder: what to change when nothing comes, in what order, after how long. Worked out beforehand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from stillthread.depth.picture import WaterPicture
from stillthread.phrase import Phrase
from stillthread.plan.choose import Plan, Ranked
from stillthread.plan.match import Matcher
from stillthread.plan.options import Hang
from stillthread.sinking.cast import Cast
from stillthread.sinking.troll import Troll
from stillthread.tackle.flybox import BoxFly

HANG_MIN, CAST_MIN, METHOD_MIN = 10.0, 8.0, 20.0  # common practice: ten minutes a depth; five or more a change; twenty a method
STEP_M = 0.45


@dataclass(frozen=True, slots=True)
class Rung:
    """Fish so for `minutes`; then the next. `changes` names what is changed: "start", "depth", "fly", "method" or "place"."""

    changes: str
    minutes: float
    words: Phrase


def ladder(
    plan: Plan, picture: WaterPicture, flies: Sequence[BoxFly], school_key: str = "best", first: int = 0
) -> tuple[Rung, ...]:
    """Return the rungs for a day that starts with `plan.ranked[first]`.

    One thing changes at a time. Depth comes before the fly, unless the school says fly first; a school that works up or down
    orders the depths so.
    """
    start = plan.ranked[first]
    depths, fly = _depth_rungs(start, picture, school_key), _fly_rung(start, plan.matcher, flies)
    rungs = [Rung("start", CAST_MIN, _start(start))]
    middle = [*fly, *depths] if school_key == "fly-first" else [*depths, *fly]
    rungs += middle
    for other in [one for i, one in enumerate(plan.ranked) if i != first][:2]:
        rungs.append(
            Rung(
                "method",
                METHOD_MIN,
                Phrase(f"Change method: {other.option.method.name.lower()}, {_how(other)}.", _values(other)),
            )
        )
    rungs.append(Rung("place", 5.0, Phrase("Move: the next mark of where to start, or along the same depth line.")))
    return tuple(rungs)


def _how(one: Ranked) -> str:
    action = one.option.action
    flies = " and ".join(fly.name.lower() for fly in one.option.flies[:2])
    if isinstance(action, Cast):
        return f"{one.option.rig.line.name.lower()}, count {action.count_s:.0f}, {action.retrieve.name.lower()}, with {flies}"
    if isinstance(action, Troll):
        return f"{one.option.rig.line.name.lower()}, {{out_m}} out, with {flies}"
    return f"{action.kind} float at {{set_m}}, with {flies}"


def _values(one: Ranked) -> dict[str, float]:
    action = one.option.action
    if isinstance(action, Hang):
        return {"set_m": action.set_depth_m}
    return {"out_m": action.out_m} if isinstance(action, Troll) else {}


def _start(start: Ranked) -> Phrase:
    return Phrase(f"Begin: {start.option.method.name.lower()}, {_how(start)}.", _values(start))


def _depth_rungs(start: Ranked, picture: WaterPicture, school_key: str) -> list[Rung]:
    action = start.option.action
    bottom_m = picture.conditions.bottom_depth_m
    if isinstance(action, Hang):
        steps = [action.set_depth_m + k * STEP_M for k in (1, -1, 2, -2)]
        steps = [s for s in steps if 0.6 <= s <= bottom_m - 0.1]
        steps = _in_order(steps, school_key)[:3]
        return [Rung("depth", HANG_MIN, Phrase("Set the float at {set_m}; nothing else changes.", {"set_m": s})) for s in steps]
    if isinstance(action, Troll):
        return [Rung("depth", METHOD_MIN, Phrase("Let out {more_m} more line.", {"more_m": 5.0}))]
    if start.option.rig.line.floats:
        counts = [action.count_s + 20.0, action.count_s + 40.0]
    else:
        counts = [
            c for c in (action.count_s + 8.0, action.count_s - 8.0, action.count_s + 16.0, action.count_s - 16.0) if c >= 0.0
        ]
        rate = start.option.rig.line.sink_rate_mps
        counts = [c for c in counts if rate * c <= 1.2 * bottom_m] or [max(action.count_s - 8.0, 0.0)]
    counts = _in_order(counts, school_key)[:3]
    return [Rung("depth", CAST_MIN, Phrase("Count {count_s}; nothing else changes.", {"count_s": count})) for count in counts]


def _in_order(steps: list[float], school_key: str) -> list[float]:
    if school_key == "bottom-up":
        return sorted(steps, reverse=True)
    return sorted(steps) if school_key == "top-down" else steps


def _fly_rung(start: Ranked, matcher: Matcher, flies: Sequence[BoxFly]) -> list[Rung]:
    tied = {fly.name for fly in start.option.flies}
    point = start.option.flies[0]
    others = [fly for fly in flies if fly.left > 0 and fly.name not in tied and fly.buoyant == point.buoyant]
    if not others:
        return []
    speed = start.option.speed_mps
    best = max(others, key=lambda fly: matcher.worth(fly, speed))
    rungs = [Rung("fly", CAST_MIN, Phrase(f"Same depth, other fly: {best.name} for {point.name}."))]
    smaller = [fly for fly in others if fly.fly.hook_size > point.fly.hook_size and fly is not best]
    if smaller:
        best = max(smaller, key=lambda fly: matcher.worth(fly, speed))
        rungs.append(Rung("fly", CAST_MIN, Phrase(f"Knocks without a hold: smaller or slimmer, {best.name}.")))
    return rungs

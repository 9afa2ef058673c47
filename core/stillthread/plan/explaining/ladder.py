"""The fallback ladder: what to change when nothing comes, in what order, after how long. Worked out beforehand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from stillthread.phrase import Phrase
from stillthread.plan.actions import Hang
from stillthread.plan.choose import Plan, Ranked
from stillthread.plan.methods.base import LONGEST_COUNT_S
from stillthread.plan.methods.indicator import CLEAR_OF_BOTTOM_M, SHALLOWEST_M
from stillthread.plan.scoring.match import BRIGHT_COLOURS
from stillthread.plan.scoring.scorer import Scorer
from stillthread.sinking.cast import Cast
from stillthread.sinking.troll import Troll
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.lines import Line

HANG_MIN, CAST_MIN, METHOD_MIN = 10.0, 8.0, 20.0  # common practice: ten minutes a depth; five or more a change; twenty a method
LEAST_CASTS = 3  # common practice: one cast or two say nothing
STEP_M = 0.45  # common practice: one to two feet
FLY_SINKS_MPS = 0.05  # ours: how fast flies go on down under a line that floats
COUNT_STEPS_S = (5.0, 20.0)  # common practice: count 5, 10, 15, 20, 30 and on
MORE_LINE_M = 5.0
DARK = frozenset({"black", "brown", "dark", "olive"})


@dataclass(frozen=True, slots=True)
class Rung:
    """Fish so for `minutes`; then the next. `changes` names what is changed: "start", "depth", "fly", "method" or "place"."""

    changes: str
    minutes: float
    words: Phrase


def ladder(plan: Plan, school_key: str = "best", first: int = 0) -> tuple[Rung, ...]:
    """Return the rungs for a day that starts with `plan.ranked[first]`.

    One thing changes at a time, and it is one that matters for the rig: the count of a line that sinks, the depth of a float,
    the line under a washing line, the place or the fly of a dry. Depth comes before the fly, unless the school says fly
    first; a school that works up or down orders the depths so.
    """
    start, scorer = plan.ranked[first], plan.scorer
    depths, flies = _depth_rungs(start, scorer, school_key), _fly_rungs(start, scorer)
    rungs = [Rung("start", _minutes(start, CAST_MIN), _start(start))]
    rungs += [*flies, *depths] if school_key == "fly-first" else [*depths, *flies]
    for other in [one for i, one in enumerate(plan.ranked) if i != first][:2]:
        words = Phrase(f"Change method: {other.option.method.name.lower()}, {_how(other)}.", _values(other))
        rungs.append(Rung("method", _minutes(other, METHOD_MIN), words))
    rungs.append(Rung("place", 5.0, Phrase("Move: the next mark of where to start, or along the same depth line.")))
    return tuple(rungs)


def _minutes(one: Ranked, usual_min: float) -> float:
    """Return how long a rung lasts: its usual time, and never less than a few casts."""
    return float(max(usual_min, round(LEAST_CASTS * one.option.cycle_s(one.result) / 60.0)))


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


def _depth_rungs(start: Ranked, scorer: Scorer, school_key: str) -> list[Rung]:
    action, method = start.option.action, start.option.method
    bottom_m = scorer.given.bottom_m
    if isinstance(action, Hang):
        steps = [action.set_depth_m + k * STEP_M for k in (1, -1, 2, -2)]
        steps = [s for s in steps if SHALLOWEST_M <= s <= bottom_m - CLEAR_OF_BOTTOM_M]
        minutes = _minutes(start, HANG_MIN)
        return [
            Rung("depth", minutes, Phrase("Set the float at {set_m}; nothing else changes.", {"set_m": s}))
            for s in _in_order(steps, school_key)[:3]
        ]
    if isinstance(action, Troll):
        words = Phrase("Let out {more_m} more line.", {"more_m": MORE_LINE_M})
        return [Rung("depth", _minutes(start, METHOD_MIN), words)]
    minutes = _minutes(start, CAST_MIN)
    if method.deepens_by == "place":
        return [Rung("place", minutes, Phrase("Same fly, nearer the edge of the ripple, then out: cover fish, not water."))]
    if method.deepens_by == "line":
        return [
            Rung("depth", minutes, Phrase(f"Same team on the {line.name.lower()}: the whole layer of flies goes {way}."))
            for line, way in _other_lines(start, scorer.given.box.lines, school_key)
        ]
    counts = _in_order(other_counts(start.option.rig.line, action, bottom_m), school_key)[:3]
    rungs = [Rung("depth", minutes, Phrase("Count {count_s}; nothing else changes.", {"count_s": count})) for count in counts]
    if not any(count > action.count_s for count in counts):
        # Nobody counts longer: the way down is a denser line.
        denser = [line for line, way in _other_lines(start, scorer.given.box.lines, school_key) if way == "deeper"]
        deeper = [
            Rung("depth", minutes, Phrase(f"Same team on the {line.name.lower()}, to go deeper without a longer count."))
            for line in denser
        ]
        rungs = [*deeper, *rungs][:3]
    return rungs


def other_counts(line: Line, action: Cast, bottom_m: float) -> list[float]:
    """Return counts that put the fly in another layer, each about two feet away, down to the bottom."""
    rate = line.front_mps or FLY_SINKS_MPS
    step = round(min(max(STEP_M / rate, COUNT_STEPS_S[0]), COUNT_STEPS_S[1]))
    counts = [action.count_s + k * step for k in (1, -1, 2, -2)]
    held = [c for c in counts if 0.0 <= c <= LONGEST_COUNT_S and rate * c <= 1.2 * bottom_m]
    return held or [action.count_s - step if action.count_s >= step else action.count_s + step]


def _other_lines(start: Ranked, lines: Sequence[Line], school_key: str) -> list[tuple[Line, str]]:
    """Return the next denser and the next lighter line that the method takes."""
    own, method = start.option.rig.line, start.option.method
    taken = [line for line in lines if method.takes(line) and line.name != own.name and line.tips == own.tips]
    denser = min((line for line in taken if line.front_mps > own.front_mps), key=lambda line: line.front_mps, default=None)
    lighter = max((line for line in taken if line.front_mps < own.front_mps), key=lambda line: line.front_mps, default=None)
    found = [(line, way) for line, way in ((denser, "deeper"), (lighter, "higher")) if line is not None]
    return found[::-1] if school_key == "top-down" and not own.floats else found


def _in_order(steps: list[float], school_key: str) -> list[float]:
    if school_key == "bottom-up":
        return sorted(steps, reverse=True)
    return sorted(steps) if school_key == "top-down" else steps


def _fly_rungs(start: Ranked, scorer: Scorer) -> list[Rung]:
    flies, speed = scorer.given.flies, start.option.speed_mps
    tied = {fly.name for fly in start.option.flies}
    point = start.option.flies[0]
    seat = start.option.method.seats(len(start.option.flies))[0]
    others = [fly for fly in flies if fly.name not in tied and seat(fly) and fly.body_class == point.body_class]
    minutes = _minutes(start, CAST_MIN)
    rungs: list[Rung] = []
    used: set[str] = set()

    def swap(candidates: Sequence[BoxFly], out: BoxFly, why: str) -> None:
        left = [fly for fly in candidates if fly.name not in used]
        if left:
            best = left[scorer.matcher.likeliest(left, speed)]
            used.add(best.name)
            rungs.append(Rung("fly", minutes, Phrase(f"{why}{best.name} for {out.name}.")))

    swap(others, point, "Same depth, other fly: ")
    bright = next((fly for fly in start.option.flies if _words(fly) & BRIGHT_COLOURS), None)
    if bright is not None:
        above = [
            fly
            for fly in flies
            if fly.name not in tied and fly.buoyant == bright.buoyant and (fly.style == "dry") == (bright.style == "dry")
        ]
        swap([fly for fly in above if _words(fly) & DARK and not _words(fly) & BRIGHT_COLOURS and fly.fly.dressing != "bulky"],
             bright, "Colour refused: slim and dark, ")  # fmt: skip
    swap(
        [fly for fly in others if fly.fly.hook_size > point.fly.hook_size], point, "Knocks without a hold: smaller or slimmer, "
    )
    return rungs


def _words(fly: BoxFly) -> set[str]:
    return set(fly.colour.replace("-", " ").split())

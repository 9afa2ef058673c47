"""The fallback ladder: what to change when nothing comes, in what order, after how long. Worked out beforehand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from stillthread.phrase import Phrase
from stillthread.plan.choose import Plan, Ranked
from stillthread.plan.scoring.scorer import Scorer
from stillthread.sinking.cast import CAST_MIN
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.lines import Line
from stillthread.trade.schools import SCHOOLS, School
from stillthread.trade.usual import BRIGHT_COLOURS, DARK_COLOURS, colour_words

METHOD_MIN = 20.0  # common practice: twenty minutes a method
LEAST_CASTS = 3  # common practice: one cast or two say nothing


@dataclass(frozen=True, slots=True)
class Rung:
    """Fish so for `minutes`; then the next. `changes` names what is changed: "start", "depth", "fly", "method" or "place"."""

    changes: str
    minutes: float
    words: Phrase


def ladder(plan: Plan, school: School = SCHOOLS["best"], first: int = 0) -> tuple[Rung, ...]:
    """Return the rungs for a day that starts with `plan.ranked[first]`.

    One thing changes at a time, and it is one that matters for the rig: the count of a line that sinks, the depth of a float,
    the line under a washing line, the place or the fly of a dry. Depth comes before the fly, unless the school says fly
    first; a school that works up or down orders the depths so.
    """
    start, scorer = plan.ranked[first], plan.scorer
    depths, flies = _depth_rungs(start, scorer, school), _fly_rungs(start, scorer)
    rungs = [Rung("start", _minutes(start, CAST_MIN), _start(start))]
    rungs += [*flies, *depths] if school.flies_first else [*depths, *flies]
    for other in [one for i, one in enumerate(plan.ranked) if i != first][:2]:
        how = _how(other)
        words = Phrase(f"Change method: {other.option.method.name.lower()}, {how.text}.", how.values)
        rungs.append(Rung("method", _minutes(other, METHOD_MIN), words))
    rungs.append(Rung("place", 5.0, Phrase("Move: the next mark of where to start, or along the same depth line.")))
    return tuple(rungs)


def _minutes(one: Ranked, usual_min: float) -> float:
    """Return how long a rung lasts: its usual time, and never less than a few casts."""
    return float(max(usual_min, round(LEAST_CASTS * one.option.cycle_s(one.result) / 60.0)))


def _how(one: Ranked) -> Phrase:
    done = one.option.action.with_line(one.option.rig.line)
    flies = " and ".join(fly.name.lower() for fly in one.option.flies[:2])
    return Phrase(f"{done.text}, with {flies}", done.values)


def _start(start: Ranked) -> Phrase:
    how = _how(start)
    return Phrase(f"Begin: {start.option.method.name.lower()}, {how.text}.", how.values)


def _depth_rungs(start: Ranked, scorer: Scorer, school: School) -> list[Rung]:
    action, method, minutes = start.option.action, start.option.method, _minutes(start, CAST_MIN)
    if method.deepens_by == "place":
        return [Rung("place", minutes, Phrase("Same fly, nearer the edge of the ripple, then out: cover fish, not water."))]
    lines = _other_lines(start, scorer.given.box.lines, school)
    if method.deepens_by == "line":
        return [
            Rung("depth", minutes, Phrase(f"Same team on the {line.name.lower()}: the whole layer of flies goes {way}."))
            for line, way in lines
        ]
    steps = action.depth_steps(start.option.rig.line, scorer.given.bottom_m)
    minutes = _minutes(start, steps.usual_min)
    tried = school.in_order(steps.values)[:3]
    rungs = [Rung("depth", minutes, Phrase(steps.words, {steps.name: value})) for value in tried]
    if steps.line_goes_on and not any(value > steps.now for value in tried):
        # Nobody counts longer: the way down is a denser line.
        deeper = [
            Rung("depth", minutes, Phrase(f"Same team on the {line.name.lower()}, to go deeper without a longer count."))
            for line, way in lines
            if way == "deeper"
        ]
        rungs = [*deeper, *rungs][:3]
    return rungs


def _other_lines(start: Ranked, lines: Sequence[Line], school: School) -> list[tuple[Line, str]]:
    """Return the next denser and the next lighter line that the method takes."""
    own, method = start.option.rig.line, start.option.method
    taken = [line for line in lines if method.takes(line) and line.name != own.name and line.tips == own.tips]
    denser = min((line for line in taken if line.front_mps > own.front_mps), key=lambda line: line.front_mps, default=None)
    lighter = max((line for line in taken if line.front_mps < own.front_mps), key=lambda line: line.front_mps, default=None)
    found = [(line, way) for line, way in ((denser, "deeper"), (lighter, "higher")) if line is not None]
    rates = [line.front_mps for line, _ in found]
    return found if own.floats or school.in_order(rates) == rates else found[::-1]


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
        slim = [fly for fly in above if fly.fly.dressing != "bulky"]
        dark = [fly for fly in slim if _words(fly) & DARK_COLOURS and not _words(fly) & BRIGHT_COLOURS]
        swap(dark, bright, "Colour refused: slim and dark, ")
    swap(
        [fly for fly in others if fly.fly.hook_size > point.fly.hook_size], point, "Knocks without a hold: smaller or slimmer, "
    )
    return rungs


def _words(fly: BoxFly) -> frozenset[str]:
    return colour_words(fly.colour)

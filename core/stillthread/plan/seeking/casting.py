"""The best cast of a method."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from enum import IntEnum
from typing import cast

from stillthread.plan.methods.base import CastingMethod, Method, Way
from stillthread.plan.seeking.weigher import (
    FLOATING_CLASSES,
    NO_ROOM,
    WORTH_TRYING,
    Found,
    Real,
    Weighed,
    Weigher,
)
from stillthread.sinking.cast import Cast
from stillthread.tackle.lines import Line
from stillthread.trade.usual import LONGEST_COUNT_S

LEAST_STEP_S = 2.0  # ours: nobody counts finer
FIRST_DEPTHS = 4  # ours: a method is looked at first over so many depths
FIRST_WAYS, FEWER_WAYS = 24, 12  # ours: in about so many ways, fewer of them for a first answer
REFINED = 2  # ours: how often the steps of the count are halved about the best
MOST_SHAPES, FEWER_SHAPES = 4, 2  # ours: of each size of team
FINALISTS = 3  # ours: ways of a method that are tied for good before one is chosen


def coarse_casts(weigher: Weigher, method: CastingMethod, lines: Sequence[Line]) -> list[Weighed] | str:
    """Return casts of a method as a coarse look finds them, the best first, or why there are none.

    Flies and retrieve hang together; line and count both only set the depth. So classes of flies with two retrieves on a
    few lines and counts spread over the depth.
    """
    given = weigher.given
    usual = _retrieves(weigher, method)
    if not usual:
        return "Buoyant flies fished still are not allowed on this water."
    leader = given.pins.leader.length_m if given.pins.leader else method.leader_lengths(given, method.least_flies)[0]
    looked, most = (usual[:2], FIRST_WAYS) if given.thorough else (usual[:1], FEWER_WAYS)
    sunk = _spread([(line, count_s) for line in lines for count_s in _coarse_counts(weigher, method, line)], FIRST_DEPTHS)
    shapes = weigher.team_shapes(method, method.least_flies)[: max(2, most // (len(sunk) * len(looked)))]
    ways = (
        Way(line, shape, leader, method.cast(given, count_s, key))
        for line, count_s in sunk
        for shape in shapes
        for key in looked
    )
    return weigher.best_of(method, ways) or NO_ROOM


def _spread(sunk: Sequence[tuple[Line, float]], most: int) -> list[tuple[Line, float]]:
    """Return few of the lines with a count, spread over the depths they sink to, the highest and the deepest among them."""
    order = sorted(sunk, key=lambda one: (one[0].front_mps * one[1], one[0].front_mps, one[1]))
    n = min(most, len(order))
    return [order[round(k * (len(order) - 1) / max(n - 1, 1))] for k in range(n)]


def _about(weigher: Weigher, method: CastingMethod, way: Way, lines: Sequence[Line]) -> Iterator[Way]:
    """Yield ways that differ from one in the count, or in the line, counted to the same depth."""
    action = _cast(way)
    for count_s in _coarse_counts(weigher, method, way.line):
        if count_s != action.count_s:
            yield replace(way, action=method.cast(weigher.given, count_s, action.retrieve.key))
    deep_m = way.line.front_mps * action.count_s
    for line in lines:
        if line.name != way.line.name:
            count_s = min(deep_m / line.front_mps, float(LONGEST_COUNT_S)) if line.front_mps else action.count_s
            yield replace(way, line=line, action=method.cast(weigher.given, float(round(count_s)), action.retrieve.key))


class Effort(IntEnum):
    """How far a method is worked on after a coarse look: `TIED` as it stands, looked at in its `LINES` and teams, or `ALL`."""

    TIED, LINES, ALL = range(3)


def refined_cast(weigher: Weigher, method: CastingMethod, coarse: Sequence[Weighed], effort: Effort) -> Found | str:
    """Return the best cast of a method: line, retrieve, team, leader and count about the best of a coarse look."""
    if effort == Effort.TIED:
        tied = weigher.settled(method, coarse, 1)
        return NO_ROOM if tied is None else Found(tied.option, tied.takes_ph)
    usual, lines = _retrieves(weigher, method), weigher.lines(method)
    most = 2 if effort == Effort.ALL else 1
    kept = _contrasted(coarse)[:most]
    about = weigher.best_of(method, dict.fromkeys(way for one in kept for way in _about(weigher, method, one.way, lines)))
    kept = _contrasted([*about, *coarse])[:most]
    if effort == Effort.ALL:
        paced = weigher.best_of(method, (w for one in kept for w in _paces(weigher, method, one.way, usual[2:])))
        kept = _contrasted([*paced, *kept])
    shapes = MOST_SHAPES if effort == Effort.ALL else FEWER_SHAPES
    teamed = weigher.best_of(method, (w for one in kept for w in other_teams(weigher, method, one.way, shapes)))
    best = weigher.settled(method, [*teamed, *kept, *about, *coarse], FINALISTS if effort == Effort.ALL else 1)
    if best is None:
        return NO_ROOM
    if effort == Effort.LINES:
        return Found(best.option, best.takes_ph)
    for length_m in _other_leaders(weigher, method, best.way):
        best = _better(best, weigher.real(method, replace(best.way, leader_m=length_m), best.option.flies))
    best, counts = _counted(weigher, method, best)
    # Another team may want another pace, and that another count.
    again = weigher.best_of(method, _paces(weigher, method, best.way, [key for key in usual if key != _retrieve(best.way)]))
    if again and again[0].takes_ph > best.takes_ph:
        another = weigher.settled(method, again, 1)
        if another is not None and another.takes_ph > (1.0 + weigher.scorer.j.shortest_within) * best.takes_ph:
            best, counts = _counted(weigher, method, another)
    return Found(best.option, best.takes_ph, counts)


def _retrieves(weigher: Weigher, method: CastingMethod) -> Sequence[str]:
    return [key for key in method.retrieves if key != "static" or weigher.given.rules.static_buoyant]


def _better(best: Real, other: Real | None) -> Real:
    return other if other is not None and other.takes_ph > best.takes_ph else best


def _coarse_counts(weigher: Weigher, method: CastingMethod, line: Line) -> tuple[float, ...]:
    counts = method.counts_s(weigher.given, line)
    return counts if len(counts) < 4 else (counts[0], counts[len(counts) // 2], counts[-1])


def _cast(way: Way) -> Cast:
    """Return what is done: a method that casts casts."""
    return cast(Cast, way.action)


def _retrieve(way: Way) -> str:
    return _cast(way).retrieve.key


def _paces(weigher: Weigher, method: CastingMethod, way: Way, retrieves: Sequence[str]) -> Iterator[Way]:
    for key in retrieves:
        yield replace(way, action=method.cast(weigher.given, _cast(way).count_s, key))


def other_teams(weigher: Weigher, method: Method, way: Way, most: int = MOST_SHAPES) -> Iterator[Way]:
    for flies in method.team_sizes(weigher.given):
        for shape in weigher.team_shapes(method, flies, way.action.pace_mps)[:most]:
            if shape != way.classes and (flies > method.least_flies or flies == method.most_flies):
                yield Way(way.line, shape, way.leader_m, way.action)


def _other_leaders(weigher: Weigher, method: CastingMethod, way: Way) -> tuple[float, ...]:
    if weigher.given.pins.leader is not None:
        return ()
    return method.leader_lengths(weigher.given, len(way.classes))[1:]


def _counted(weigher: Weigher, method: CastingMethod, best: Real) -> tuple[Real, tuple[tuple[float, float], ...]]:
    """Return the way with its count refined about the best, the shortest of those alike, and every count with its worth."""
    action = _cast(best.way)
    grid = method.counts_s(weigher.given, best.way.line)
    if len(grid) < 2:
        return best, ()
    known: dict[float, Real] = {action.count_s: best}

    def at(count_s: float) -> None:
        if count_s not in known and 0.0 <= count_s <= float(LONGEST_COUNT_S):
            way = replace(best.way, action=method.cast(weigher.given, count_s, action.retrieve.key))
            real = weigher.real(method, way, best.option.flies)
            if real is not None:
                known[count_s] = real

    for count_s in grid:
        at(count_s)
    for _ in range(REFINED):
        top = max(known, key=lambda s: known[s].takes_ph)
        order = sorted(known)
        i = order.index(top)
        for other in (order[i - 1] if i else None, order[i + 1] if i + 1 < len(order) else top + (top - order[i - 1])):
            if other is not None and abs(other - top) >= LEAST_STEP_S:
                at(float(round(0.5 * (other + top))))
    most = max(one.takes_ph for one in known.values())
    alike = min(s for s, one in known.items() if one.takes_ph >= (1.0 - weigher.scorer.j.shortest_within) * most)
    return known[alike], tuple((s, one.takes_ph) for s, one in sorted(known.items()))


def _contrasted(weighed: Sequence[Weighed]) -> list[Weighed]:
    """Return the best way, and the best with a point that floats where its own sinks, or the other way round; where that is
    far behind, the best on another line."""
    order = sorted(weighed, key=lambda one: -one.takes_ph)
    best = order[0]
    floats = best.way.classes[0] in FLOATING_CLASSES
    other = next((one for one in order if (one.way.classes[0] in FLOATING_CLASSES) != floats), None)
    if other is None or other.takes_ph < WORTH_TRYING * best.takes_ph:
        other = next((one for one in order if one.way.line.name != best.way.line.name), None)
    return [best] if other is None else [best, other]

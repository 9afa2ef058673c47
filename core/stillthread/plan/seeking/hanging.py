"""The best depth and team under a float."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace

from stillthread.plan.methods.base import Way
from stillthread.plan.methods.indicator import SHOT, SHOT_FROM_M, STEP_M, TWITCH_WIND_MPS, HangingMethod
from stillthread.plan.seeking.weigher import Found, Real, Weighed, Weigher
from stillthread.sinking.hang import SHALLOWEST_M
from stillthread.tackle.lines import Line

FINALISTS = 4  # ours: teams that are tied for good before one is chosen
NO_FLOAT = "No float in the box that can be landed at the depths worth hanging at."


def best_hang(weigher: Weigher, method: HangingMethod, lines: Sequence[Line]) -> Found | str:
    """Return the best depth of a float and its team, or why there is none: depths coarsely, then teams, then to a hand's
    breadth about the best."""
    given, line = weigher.given, lines[0]
    depths = [d for d in method.set_depths_m(given) if method.kind_at(given, d)]
    if not depths:
        return NO_FLOAT

    def weighed(depths_m: Iterable[float], shapes: Sequence[tuple[str, ...]]) -> list[Weighed]:
        return weigher.best_of(method, _ways(weigher, method, line, depths_m, shapes))

    each = 3 if given.thorough else 1
    shapes = [shape for n in method.team_sizes(given) for shape in weigher.team_shapes(method, n, 0.005)[:each]]
    coarse = weighed(depths, shapes[:2])
    if not coarse:
        return NO_FLOAT
    likely = [*coarse, *weighed({_set(one) for one in coarse[:2]}, shapes)]
    first = weigher.settled(method, likely, FINALISTS if given.thorough else 1)
    if first is None:
        return NO_FLOAT
    way, flies = first.way, first.option.flies

    def at(set_m: float, *, twitched: bool) -> Real | None:
        action = method.hang(given, set_m, twitched=twitched)
        return None if action is None else weigher.real(method, replace(way, action=action), flies)

    best, twitched = first, False
    if given.setting.wind_mps < TWITCH_WIND_MPS:
        lifted = at(_set(best), twitched=True)
        if lifted is not None and lifted.takes_ph > best.takes_ph:
            best, twitched = lifted, True
    if given.pins.leader is None and _set(best) >= SHOT_FROM_M:
        weighted = weigher.real(method, replace(best.way, shot=SHOT), flies)
        # A pinch of weight is one more thing to go wrong: it must earn its place.
        if weighted is not None and weighted.takes_ph > (1.0 + weigher.scorer.j.shortest_within) * best.takes_ph:
            best, way = weighted, weighted.way
    known = {_set(best): best}
    step = max((depths[-1] - depths[0]) / max(len(depths) - 1, 1) / 2.0, STEP_M)
    while True:
        top = max(known, key=lambda d: known[d].takes_ph)
        for sign in (-1, 1):
            set_m = round(STEP_M * round((top + sign * step) / STEP_M), 2)
            if set_m not in known and SHALLOWEST_M <= set_m <= depths[-1] + 1e-9:
                real = at(set_m, twitched=twitched)
                if real is not None:
                    known[set_m] = real
        if max(known, key=lambda d: known[d].takes_ph) == top:
            if step <= STEP_M + 1e-9 or not given.thorough:
                break
            step = max(step / 2.0, STEP_M)
    best = max(known.values(), key=lambda one: one.takes_ph)
    if given.thorough:
        # The team was chosen for another depth: at this one another may hang better.
        ways = (replace(one, shot=best.way.shot) for one in _ways(weigher, method, line, (_set(best),), shapes))
        again = weigher.settled(method, weigher.best_of(method, ways), FINALISTS)
        if again is not None and again.takes_ph > best.takes_ph:
            best = again
            known[_set(best)] = best
    return Found(best.option, best.takes_ph, tuple((d, one.takes_ph) for d, one in sorted(known.items())))


def _ways(
    weigher: Weigher,
    method: HangingMethod,
    line: Line,
    depths_m: Iterable[float],
    shapes: Sequence[tuple[str, ...]],
) -> Iterator[Way]:
    for set_m in depths_m:
        action = method.hang(weigher.given, set_m)
        if action is not None:
            yield from (Way(line, shape, 0.0, action) for shape in shapes)


def _set(one: Weighed | Real) -> float:
    return one.way.action.float_m or 0.0

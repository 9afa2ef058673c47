"""What to do next, at what price: go on, or change something, by what it is expected to bring."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from operator import mul

from stillthread.search.belief import SearchBelief, State
from stillthread.search.grid import EMPTY_PRIOR, RATE_TIMES
from stillthread.search.presentation import Costs, Exposed
from stillthread.search.steps import OTHER_PACE

GREEDY_MIN, LOOK_MIN, SILENCE_MIN = 30.0, 60.0, 45.0  # ours, bounds 10 to 120
# What a change has to bring, as a share of what staying brings, by the minutes that it takes: ours, bounds 0 to 1. The doubt
# that a rig of which nobody knows yet works as planned is in it.
HAS_TO_BRING = ((0.0, 0.02), (3.0, 0.04), (5.0, 0.10), (math.inf, 0.26))
DEAR_MIN = 5.0  # common practice: from here a change is a re-rig
DEAR_BEATS_CHEAP, WHILE_FISH_ARE_ABOUT = 1.26, 2.0  # ours, bounds 1 to 3: cheap before dear
FREE_MIN, AS_GOOD, MISSED_AS_GOOD = 1.0, 0.8, 0.6  # ours, bounds 0 to 2 min and 0.5 to 1: changed for the sake of a change
MISSES_KEEP_DEPTH = 2  # common practice: what knocks and does not hold has found the depth
NEAR_M, NEAR_FLOAT_M = 1.0, 0.25  # ours, bounds 0.1 to 2 m
FAR_IS_WORTH, FAR_OF_FLOAT_IS_WORTH = 1.0, 2.5  # ours, bounds 0.5 to 5: under a float the depth is found, along a cast about
RODS_APART_M = 0.8  # common practice: a second rod searches other water
EMPTY, SETTLED_MIN = 0.25, 20.0  # ours, bounds 0 to 1 and 5 to 60
LONG_TRIED = 1.2  # ours, bounds 1 to 3
LIKELIER_EMPTY = 1.5  # ours, bounds 1 to 3: before a place is left untried ways are gone through
TRIED_WAYS, TRIED_CASTS, TRIED_MIN = 3, 10, 30.0  # common practice: after so much without anything it is not this
_R = len(RATE_TIMES)


@dataclass(frozen=True, slots=True)
class Worth:
    """A presentation now: `value` takes over the horizon, `takes_ph` an hour while it is fished, `cost_min` to come to it."""

    key: str
    value: float
    takes_ph: float
    cost_min: float


@dataclass(kw_only=True, frozen=True, slots=True)
class Move:
    """What to do: `best` against `stay`, over `horizon_min`; `change` whether it is worth saying, `elsewhere` where this place
    is likely empty."""

    change: bool
    best: Worth
    stay: Worth | None
    runner_up: Worth | None
    horizon_min: float
    elsewhere: bool


@dataclass(frozen=True, slots=True)
class Going:
    """How the day goes, as far as a move depends on it.

    Attributes
    ----------
    left_min, here_min : float
        To the end of the day; at this place [min].
    since_event_min : float or None
        Since the last take or knock, None where there was none.
    blank_min, blank_casts, blank_ways : float, int, int
        In a row without anything: minutes, casts, and ways to fish.
    came_here : bool
        Whether anything has come at this place: then it is not the place, they have gone up or down.
    since_any_min : float or None
        Since the last fish that anybody had or felt.
    misses : int
    missed : frozenset of str
        What came and did not hold since the last fish that did, and to which flies.
    worn : frozenset of str
        Those of them that had taken here before: they have learnt the fly.
    held : bool
        Whether the change that was made, or the fish that came, still asks for its casts.
    must_change : bool
        Whether the angler's own clock, his school or what did not hold says so.
    impatient : bool
        Whether nothing has come for longer than is fished so without doing something.
    tried : frozenset of str
        Ways that had their casts and gave nothing.
    """

    left_min: float
    here_min: float = 0.0
    since_event_min: float | None = None
    blank_min: float = 0.0
    blank_casts: int = 0
    blank_ways: int = 0
    came_here: bool = False
    since_any_min: float | None = None
    misses: int = 0
    missed: frozenset[str] = field(default_factory=frozenset)
    worn: frozenset[str] = field(default_factory=frozenset)
    held: bool = False
    must_change: bool = False
    impatient: bool = False
    tried: frozenset[str] = field(default_factory=frozenset)


def takes_pmin(exposed: Exposed, rates: Sequence[Sequence[float]]) -> float:
    """Return takes expected a minute of fishing so, by the belief alone."""
    groups: dict[tuple[bool, ...], list[float]] = {}
    for fly, of in enumerate(rates):
        wanted = exposed.wanted(fly)
        groups[wanted] = [a + b for a, b in zip(groups[wanted], of, strict=True)] if wanted in groups else list(of)
    return sum(sum(map(mul, of, exposed.joint(wanted)[1])) for wanted, of in groups.items()) / exposed.one.minutes


def empty(joint: State) -> float:
    """Return the chance that nobody is home."""
    return math.fsum(row[at] for row in joint for at in range(0, len(row), _R))


def has_to_bring(cost_min: float) -> float:
    """Return what a change has to add to be said, as a share of what staying brings."""
    return next(share for most, share in HAS_TO_BRING if cost_min <= most)


def next_move(
    belief: SearchBelief,
    options: Sequence[Exposed],
    now: Exposed | None,
    *,
    costs: Costs,
    going: Going,
    liked: Callable[[Exposed], float] = lambda _: 1.0,
) -> Move:
    """Return the move.

    Parameters
    ----------
    belief : SearchBelief
    options : sequence of Exposed
        What can be fished; refused ones left out.
    now : Exposed or None
        What is being fished.
    costs : Costs
    going : Going
    liked : callable
        How far a way is taken beside what the belief says of it.
    """
    rates = belief.interest()
    about = going.since_event_min is not None and going.since_event_min <= SILENCE_MIN
    known = about or (going.since_any_min is not None and going.since_any_min <= SILENCE_MIN)
    horizon = max(min(going.left_min, LOOK_MIN if known else GREEDY_MIN), 1.0)
    every = {o.one.key: o for o in options}
    if now is not None:
        every.setdefault(now.one.key, now)
    rate = {key: takes_pmin(o, rates) * liked(o) for key, o in every.items()}
    cost = {key: costs.between(now.one if now else None, o.one) for key, o in every.items()}

    def worth(key: str) -> Worth:
        return Worth(key, rate[key] * max(horizon - cost[key], 0.0), 60.0 * rate[key], cost[key])

    of = {key: worth(key) for key in every}
    if now is None:
        ranked = _ranked(of.values())
        return Move(
            change=True,
            best=ranked[0],
            stay=None,
            runner_up=ranked[1] if len(ranked) > 1 else None,
            horizon_min=horizon,
            elsewhere=False,
        )
    stay = of[now.one.key]
    others = [one for key, one in of.items() if key != stay.key and key not in going.tried]
    others = [one for one in others if _answers_misses(one, stay, every, going)]
    cheap = _ranked(one for one in others if one.cost_min <= DEAR_MIN)
    dear = _ranked(one for one in others if one.cost_min > DEAR_MIN)
    if cheap and going.misses >= MISSES_KEEP_DEPTH:
        dear = []  # the depth is found: no other line is threaded for a fly that they will not have
    best = cheap[0] if cheap else None
    beats = DEAR_BEATS_CHEAP * (WHILE_FISH_ARE_ABOUT if about else 1.0)
    if dear and (best is None or dear[0].value > beats * max(best.value, stay.value)):
        best = dear[0]
    many = going.blank_ways >= TRIED_WAYS and going.blank_casts >= TRIED_CASTS and going.blank_min >= TRIED_MIN
    worn = many and not going.came_here
    away = _better_elsewhere(belief, every.values(), rate, going)
    if worn and not away:
        # Depths and flies have been gone through: another line or method where it is worth it, else the place.
        other = _ranked(one for one in dear if one.value > DEAR_BEATS_CHEAP * stay.value)
        best = other[0] if other else best
        long = going.blank_min >= LONG_TRIED * TRIED_MIN
        away = not other and (long or empty(belief.joint()) > LIKELIER_EMPTY * EMPTY_PRIOR)
    if best is None:
        return Move(change=False, best=stay, stay=stay, runner_up=None, horizon_min=horizon, elsewhere=away)
    gains = best.value - stay.value > has_to_bring(best.cost_min) * stay.value
    change = gains and not going.held
    if not change and (going.must_change or going.impatient):
        best = _something_else(best, cheap, stay, going)
        change = best is not stay
    runner = next((one for one in _ranked(others) if one.key != best.key), None)
    return Move(change=change, best=best if change else stay, stay=stay, runner_up=runner, horizon_min=horizon, elsewhere=away)


def _something_else(best: Worth, cheap: Sequence[Worth], stay: Worth, going: Going) -> Worth:
    """Return what is changed where nothing is worth it by itself: what takes no minutes before what does, and nothing that is
    much worse unless it has to be."""
    missed = going.misses >= MISSES_KEEP_DEPTH
    free = [one for one in cheap if one.cost_min <= FREE_MIN]
    for one, least in ((free, AS_GOOD), (cheap, MISSED_AS_GOOD if missed else 1.0)):
        if one and one[0].value >= least * stay.value:
            return one[0]
    if not going.must_change:
        return stay
    return cheap[0] if missed and cheap else best


def _ranked(of: Iterable[Worth]) -> list[Worth]:
    return sorted(of, key=lambda one: (-one.value, one.key))


def _answers_misses(one: Worth, stay: Worth, every: Mapping[str, Exposed], going: Going) -> bool:
    """Return whether a way answers what came and did not hold: the depth is right, the fly or its pace is not."""
    if going.misses < MISSES_KEEP_DEPTH:
        return True
    way, now = every[one.key].one, every[stay.key].one
    tied = {fly.name for fly in way.flies}
    if going.worn and not going.worn - tied:
        return False  # a fly that has been learnt comes off, wherever it is fished
    if one.value > (FAR_OF_FLOAT_IS_WORTH if now.still else FAR_IS_WORTH) * stay.value:
        return True
    near = abs(way.works_m - now.works_m) <= (NEAR_FLOAT_M if way.still and now.still else NEAR_M)
    paces = sorted((way.pace_mps, now.pace_mps))
    return near and bool(going.worn or going.missed - tied or paces[1] > OTHER_PACE * paces[0])


def second_rod(belief: SearchBelief, options: Sequence[Exposed], first: Exposed) -> Exposed | None:
    """Return what another rod is best fished with beside the first: what most likely meets fish that the first does not.

    Of all that can lie by itself: only floats that hang, since the hands are with the first rod; and where there is one, in
    other water than the first.
    """
    hanging = [o for o in options if o.one.float_m is not None and o.one.key != first.one.key]
    apart = [o for o in hanging if abs(o.one.works_m - first.one.works_m) >= RODS_APART_M]
    joint = belief.joint()
    best: tuple[float, str, Exposed | None] = (0.0, "", None)
    for o in apart or hanging:
        found = 0.0
        for fly in range(len(joint)):
            mine, other = first.joint(first.wanted(fly))[0], o.joint(o.wanted(fly))[0]
            for cell, (m, n) in enumerate(zip(mine, other, strict=True)):
                at = cell * _R
                a, b = m / first.one.minutes, n / o.one.minutes
                # In ten minutes of both: what the second shows where the first shows nothing.
                found += sum(
                    joint[fly][at + r] * math.exp(-10.0 * rate * a) * -math.expm1(-10.0 * rate * b)
                    for r, rate in enumerate(belief.grid.rates_pmin)
                )
        best = max(best, (found, o.one.key, o), key=lambda one: one[:2])
    return best[2]


def _better_elsewhere(belief: SearchBelief, every: Iterable[Exposed], rate: Mapping[str, float], going: Going) -> bool:
    """Return whether another place is worth the walk, by what is known of depth and fly."""
    if going.here_min < SETTLED_MIN or empty(belief.joint()) <= EMPTY:
        return False
    other = belief.copy()
    other.elsewhere()
    rates = other.interest()
    fresh = max(takes_pmin(o, rates) for o in every)
    return fresh * (going.left_min - 15.0) > max(rate.values()) * going.left_min

"""What to do next, at what price: go on, or change something, by what it is expected to bring."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from operator import mul

from stillthread.search.belief import SearchBelief, State
from stillthread.search.grid import RATES_PMIN
from stillthread.search.presentation import Costs, Exposed

GREEDY_MIN, LOOK_MIN, SILENCE_MIN = 30.0, 60.0, 45.0  # ours, bounds 10 to 120
NO_CHANGE_BELOW = 0.05  # ours, bounds 0 to 0.3: a share of what staying brings
"""Takes over the horizon that a change has to bring: a fixed number, since a share of much is whole fish."""
FREE_ABOVE = 0.02  # ours, bounds 0 to 0.1
"""Of what staying brings, what a change has to add that takes no time: another count costs nothing but the thought."""
CANDIDATES = 3  # ours: what a phone thinks through in a moment
EMPTY, SETTLED_MIN = 0.25, 20.0  # ours, bounds 0 to 1 and 5 to 60
_R = len(RATES_PMIN)


@dataclass(frozen=True, slots=True)
class Worth:
    """A presentation now: `value` takes over the horizon, `takes_ph` an hour while it is fished, `cost_min` to come to it."""

    key: str
    value: float
    takes_ph: float
    cost_min: float


@dataclass(frozen=True, slots=True)
class Move:
    """What to do: `best` against `stay`, over `horizon_min`; `change` whether it is worth saying, `elsewhere` where this place
    is likely empty."""

    change: bool
    best: Worth
    stay: Worth | None
    runner_up: Worth | None
    horizon_min: float
    elsewhere: bool


def interest(joint: State) -> list[list[float]]:
    """Return by class of fly and cell the expected rate of interested fish [1/min]."""
    return [[math.fsum(map(mul, row[at : at + _R], RATES_PMIN)) for at in range(0, len(row), _R)] for row in joint]


def takes_pmin(exposed: Exposed, rates: Sequence[Sequence[float]]) -> float:
    """Return takes expected a minute of fishing so."""
    groups: dict[tuple[bool, ...], list[float]] = {}
    for fly, of in enumerate(rates):
        wanted = exposed.wanted(fly)
        groups[wanted] = [a + b for a, b in zip(groups[wanted], of, strict=True)] if wanted in groups else list(of)
    return sum(sum(map(mul, of, exposed.joint(wanted)[1])) for wanted, of in groups.items()) / exposed.one.minutes


def empty(joint: State) -> float:
    """Return the chance that nobody is home."""
    return math.fsum(row[at] for row in joint for at in range(0, len(row), _R))


def next_move(
    belief: SearchBelief,
    options: Sequence[Exposed],
    now: Exposed | None,
    *,
    costs: Costs,
    left_min: float,
    since_event_min: float | None,
    here_min: float = 0.0,
    must_change: bool = False,
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
    must_change : bool
        Whether the angler's own clock says so.
    left_min, since_event_min, here_min : float
        To the end of the day; since the last take or knock, None where there was none; at this place [min].
    """
    joint = belief.joint()
    rates = interest(joint)
    looking = since_event_min is not None and since_event_min <= SILENCE_MIN
    horizon = max(min(left_min, LOOK_MIN if looking else GREEDY_MIN), 1.0)
    every = list(options) if now is None or any(o.one.key == now.one.key for o in options) else [now, *options]
    rate = {o.one.key: takes_pmin(o, rates) for o in every}
    cost = {o.one.key: costs.between(now.one if now else None, o.one) for o in every}
    greedy = {key: rate[key] * max(horizon - cost[key], 0.0) for key in rate}
    value = dict(greedy)
    if looking:
        chosen = _candidates(every, joint, rates, rate, cost, greedy, now)
        value = {o.one.key: _ahead(o, joint, every, rate, cost, costs, horizon) for o in chosen}
    ranked = sorted(value, key=lambda key: (-value[key], key))

    def worth(key: str) -> Worth:
        return Worth(key, value[key], 60.0 * rate[key], cost[key])

    stay = worth(now.one.key) if now else None
    if must_change and stay is not None and len(ranked) > 1:
        ranked.remove(stay.key)
    best = worth(ranked[0])
    change = stay is None or must_change or (best.key != stay.key and best.value - stay.value > worth_saying(stay, best))
    others = [key for key in ranked if key not in {best.key, stay.key if stay else None}]
    away = (
        here_min >= SETTLED_MIN
        and empty(joint) > EMPTY
        and _fresh(belief, every) * (left_min - 15.0) > max(rate.values()) * left_min
    )
    return Move(change, best, stay, worth(others[0]) if others else None, horizon, away)


def second_rod(belief: SearchBelief, options: Sequence[Exposed], first: Exposed) -> Exposed | None:
    """Return what another rod is best fished with beside the first: what most likely meets fish that the first does not.

    Of all that can lie by itself: only floats that hang, since the hands are with the first rod.
    """
    rates = interest(belief.joint())
    joint = belief.joint()
    best: tuple[float, str, Exposed | None] = (0.0, "", None)
    for o in options:
        if o.one.float_m is None or o.one.key == first.one.key:
            continue
        found = 0.0
        for fly in range(len(rates)):
            mine, other = first.joint(first.wanted(fly))[0], o.joint(o.wanted(fly))[0]
            for cell, (m, n) in enumerate(zip(mine, other, strict=True)):
                at = cell * _R
                a, b = m / first.one.minutes, n / o.one.minutes
                # In ten minutes of both: what the second shows where the first shows nothing.
                found += sum(
                    joint[fly][at + r] * math.exp(-10.0 * rate * a) * -math.expm1(-10.0 * rate * b)
                    for r, rate in enumerate(RATES_PMIN)
                )
        best = max(best, (found, o.one.key, o), key=lambda one: one[:2])
    return best[2]


def worth_saying(stay: Worth, best: Worth) -> float:
    """Return the takes over the horizon that a change has to add to be said."""
    return NO_CHANGE_BELOW if best.cost_min > 0.0 else min(NO_CHANGE_BELOW, FREE_ABOVE * stay.value)


def _candidates(
    every: Sequence[Exposed],
    joint: State,
    rates: Sequence[Sequence[float]],
    rate: dict[str, float],
    cost: dict[str, float],
    greedy: dict[str, float],
    now: Exposed | None,
) -> list[Exposed]:
    """Return those worth looking a cast ahead for: most by expected takes, most likely to tell something soon, and staying."""

    def tells(o: Exposed) -> float:
        met = 0.0
        for fly, of in enumerate(rates):
            met += sum(map(mul, of, o.joint(o.wanted(fly))[0]))
        return -math.expm1(-met) / (o.one.minutes + cost[o.one.key])

    by_takes = sorted(every, key=lambda o: -greedy[o.one.key])[: 2 * CANDIDATES]
    by_telling = sorted(every, key=lambda o: -tells(o))[:CANDIDATES]
    chosen = {o.one.key: o for o in (*by_takes, *by_telling, *([now] if now else []))}
    return list(chosen.values())


def _ahead(
    o: Exposed,
    joint: State,
    every: Sequence[Exposed],
    rate: dict[str, float],
    cost: dict[str, float],
    costs: Costs,
    horizon: float,
) -> float:
    """Return what one cast so is worth with the best that follows, by what it shows: nothing, or a fish on one of its flies."""
    key, minutes = o.one.key, o.one.minutes
    left = horizon - cost[key] - minutes
    if left <= 0.0:
        return rate[key] * max(horizon - cost[key], 0.0)
    after = {then.one.key: max(left - costs.between(o.one, then.one), 0.0) for then in every}
    value = rate[key] * minutes
    for rates in _shown(o, joint):
        value += max(takes_pmin(then, rates) * after[then.one.key] for then in every)
    return value


def _shown(o: Exposed, joint: State) -> list[list[list[float]]]:
    """Return the expected rates by fly and cell in each case that a cast may end in, each weighted with its chance."""
    flies = range(len(o.one.flies))
    blank: list[list[float]] = []
    on: list[list[list[float]]] = [[] for _ in flies]
    for fly, row in enumerate(joint):
        events, _, of = o.joint(o.wanted(fly))
        none, some = [], [[] for _ in flies]  # type: list[float], list[list[float]]
        for cell, met in enumerate(events):
            parts = row[cell * _R : cell * _R + _R]
            quiet = [p * r * math.exp(-r * met) for p, r in zip(parts, RATES_PMIN, strict=True)]
            none.append(sum(quiet))
            came = sum(map(mul, parts, RATES_PMIN)) - none[-1]
            for i in flies:
                some[i].append(came * of[i][cell] / met if met > 0.0 else 0.0)
        blank.append(none)
        for i in flies:
            on[i].append(some[i])
    return [blank, *on]


def _fresh(belief: SearchBelief, every: Sequence[Exposed]) -> float:
    """Return the best takes a minute at another place, by what is known of depth and fly."""
    other = belief.copy()
    other.elsewhere()
    rates = interest(other.joint())
    return max(takes_pmin(o, rates) for o in every)

"""Simulate days of searching with a hidden truth, and write docs/search.md. `make search` runs it, for a quarter of an hour.

The world is that of the model (fish that rise, flies they want or not), but its truth lies between the cells of the grid.
Scores are the takes expected from the choices made, summed over days, as a share of what one who knows the truth would have.
"""

from __future__ import annotations

import argparse
import math
import random
import statistics
from collections.abc import Callable, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from datetime import date
from pathlib import Path

from stillthread.search.belief import Belief, Event
from stillthread.search.grid import ANY, Grid, grid_of
from stillthread.search.policy import next_move
from stillthread.search.presentation import KNOCK, TAKE, Costs, Exposed, Presentation, Tied, answers

ROOT = Path(__file__).resolve().parents[1]
DEEPEST_M, DAY_MIN, CLASSES, REACH_M = 6.0, 240.0, 4, 0.9
COSTS = Costs()
PATCH_MIN, PATCH_OF_MIN = 25.0, 45.0
KINDS = ("steady", "moving", "selective", "low", "barren", "patchy")
PRIORS = ("fair", "wrong", "flat")
POLICIES = ("ladder", "depth first", "random", "greedy", "ours, one fly", "ours")


@dataclass(frozen=True)
class Truth:
    """Where they feed at the beginning and at the end [m], how far they rise [m], how many [1/min], which fly they want.

    Whether they come and go, and whether this place is empty.
    """

    begin_m: float
    end_m: float
    reach_m: float
    rate: float
    fly: int
    patchy: bool = False
    empty: bool = False

    def centre_m(self, at_min: float) -> float:
        share = min(max((at_min - 60.0) / 90.0, 0.0), 1.0)
        return self.begin_m + (self.end_m - self.begin_m) * share

    def rate_at(self, at_min: float) -> float:
        return 0.0 if self.patchy and at_min % PATCH_OF_MIN > PATCH_MIN else self.rate


def presentations(teams: bool) -> list[Presentation]:
    """Return casts with four lines and seven counts, floats at ten depths; one fly of each class, or two of different ones."""
    found = []
    sets: list[tuple[int, ...]] = [(k,) for k in range(1, CLASSES + 1)]
    if teams:
        sets += [(1, 3), (2, 4), (4, 1)]
    for flies in sets:
        tied = tuple(Tied(f"class {k}", k) for k in flies)
        for line, rate in (("intermediate", 0.04), ("type 3", 0.075), ("type 5", 0.125)):
            for count in (0.0, 10.0, 25.0, 50.0):
                deep = min(rate * count + 0.1, DEEPEST_M - 0.2)
                times, path = (0.0, count + 1e-3, count + 40.0, count + 50.0), (0.0, deep, 0.8 * deep, 0.1)
                paths = tuple(tuple(max(z - 0.15 * i, 0.0) for z in path) for i in range(len(flies)))
                minutes = (count + 65.0) / 60.0 / (1.0 if len(flies) == 1 else 0.95)
                key = f"{line} {count:g} {flies}"
                found.append(Presentation(key, "cast", line, tied, minutes, times, paths))
        for k in range(1, 8):
            depth = 0.75 * k
            if len(flies) > 1 and depth < 1.5:
                continue
            paths = tuple((depth - i, depth - i) for i in range(len(flies)))
            minutes = 3.4 / (1.0 if len(flies) == 1 else 0.95)
            found.append(
                Presentation(f"float {depth:.2f} {flies}", "float", "floating", tied, minutes, (0.0, 180.0), paths, depth)
            )
    return found


class World:
    """A grid with every presentation against it, and what truths make of them."""

    def __init__(self, teams: bool) -> None:
        # Cells and classes of every day's grid are the same: only what is believed of them differs.
        grid = prior_of("flat", truth_of("steady", random.Random(0)), random.Random(0))
        self.options = [Exposed(one, grid) for one in presentations(teams)]

    @staticmethod
    def takes(one: Exposed, truth: Truth, at_min: float) -> tuple[float, list[tuple[float, bool, int, float]]]:
        """Return takes expected of one cast, and what may come in it: weight, whether a take, which fly, at which depth."""
        centre, rate = truth.centre_m(at_min), 0.0 if truth.empty else truth.rate_at(at_min)
        wanted = [truth.fly == ANY or tied.fly_class == truth.fly for tied in one.one.flies]
        takes, come = 0.0, []
        for minutes, depths in one.spans:
            reached = [answers(centre, truth.reach_m, z) for z in depths]
            if len(reached) == 2:
                a, b = reached
                if wanted[0] == wanted[1]:
                    reached = [a if a >= b else 0.0, b if b > a else 0.0]
                else:
                    reached = [a, max(b - a, 0.0)] if wanted[0] else [max(a - b, 0.0), b]
            for fly, share in enumerate(reached):
                if share > 1e-6:
                    met = rate * minutes * share
                    takes += met * TAKE[wanted[fly]]
                    come += [
                        (met * TAKE[wanted[fly]], True, fly, depths[fly]),
                        (met * KNOCK[wanted[fly]], False, fly, depths[fly]),
                    ]
        return takes, come


def truth_of(kind: str, rng: random.Random) -> Truth:
    begin = rng.uniform(0.6, 5.6)
    end = begin
    if kind == "moving":
        step = rng.uniform(1.5, 3.0) * rng.choice((-1, 1))
        end = begin + step if 0.4 <= begin + step <= 5.8 else begin - step
    rate = min(max(rng.lognormvariate(math.log(0.16), 0.8), 0.028), 0.9)
    if kind == "low":
        rate = rng.uniform(0.02, 0.05)
    picky = kind == "selective" or (rng.random() < 0.4)
    fly = rng.randint(1, CLASSES) if picky else ANY
    return Truth(begin, end, rng.lognormvariate(math.log(REACH_M), 0.3), rate, fly, kind == "patchy", kind == "barren")


def prior_of(prior: str, truth: Truth, rng: random.Random) -> Grid:
    depths = [0.1 * i + 0.05 for i in range(int(10 * DEEPEST_M))]
    wanted = [1.0] * CLASSES
    if prior == "flat":
        return grid_of(depths, [1.0] * len(depths), REACH_M, DEEPEST_M, wanted)
    if prior == "fair":
        sd = rng.uniform(0.6, 1.5)
        mean = rng.gauss(truth.begin_m, sd)
        if truth.fly:
            wanted[truth.fly - 1] = 2.0
    else:
        far = rng.random() < 0.5
        sd = 1.0 if far else 0.35
        off = (rng.uniform(2.0, 3.0) if far else 1.5) * rng.choice((-1, 1))
        mean = truth.begin_m + off if 0.2 <= truth.begin_m + off <= 5.8 else truth.begin_m - off
        if truth.fly:
            wanted[truth.fly - 1] = 0.5
    chance = [math.exp(-0.5 * ((z - mean) / sd) ** 2) for z in depths]
    return grid_of(depths, chance, REACH_M, DEEPEST_M, wanted)


Choose = Callable[["Fished"], Exposed]


@dataclass
class Fished:
    """A day under a policy as it goes."""

    belief: Belief
    options: list[Exposed]
    now: Exposed | None = None
    at_min: float = 0.0
    since_event: float | None = None
    here_min: float = 0.0
    casts_so: int = 0
    step: int = 0


def day(world: World, kind: str, prior: str, policy: str, seed: int) -> tuple[float, float, float]:
    """Return takes expected, what the clairvoyant would have, and the minute of the third take."""
    rng = random.Random(seed)
    truth = truth_of(kind, rng)
    grid = prior_of(prior, truth, rng)
    elsewhere = replace(truth, empty=False)
    options = world.options
    if policy not in {"ours", "greedy"}:
        options = [o for o in options if len(o.one.flies) == 1]
    best = clairvoyant(world, [o for o in options if len(o.one.flies) == 1], truth, elsewhere)
    state = Fished(Belief(grid), options)
    luck = random.Random(seed + 7_000_000)
    takes, third, came = 0.0, DAY_MIN, 0
    while state.at_min < DAY_MIN:
        chosen, moved = choose(policy, state, luck)
        if moved:
            state.at_min += 15.0
            truth = elsewhere
            state.belief.elsewhere()
            state.here_min = 0.0
            continue
        cost = COSTS.between(state.now.one if state.now else None, chosen.one)
        state.belief.wait(cost + chosen.one.minutes)
        state.at_min += cost
        state.here_min += cost + chosen.one.minutes
        expected, come = world.takes(chosen, truth, state.at_min)
        if state.at_min + chosen.one.minutes <= DAY_MIN:
            takes += expected
        events = []
        for weight, took, fly, depth in come:
            if luck.random() < -math.expm1(-weight):
                events.append(Event(depth + luck.gauss(0.0, 0.2), took, fly))
        if policy in {"ours", "ours, one fly", "greedy", "depth first"}:
            state.belief.cast(chosen, events)
        state.at_min += chosen.one.minutes
        state.casts_so = state.casts_so + 1 if state.now is chosen else 1
        state.now = chosen
        if events:
            state.since_event = 0.0
            came += sum(event.took for event in events)
            if came >= 3:
                third = min(third, state.at_min)
        elif state.since_event is not None:
            state.since_event += cost + chosen.one.minutes
    return takes, best, third


def choose(policy: str, state: Fished, luck: random.Random) -> tuple[Exposed, bool]:
    """Return what a policy fishes next, and whether it goes to another place first."""
    now = state.now
    if policy in {"ours", "ours, one fly", "greedy"}:
        move = next_move(
            state.belief, state.options, now, costs=COSTS, left_min=DAY_MIN - state.at_min,
            since_event_min=state.since_event if policy != "greedy" else None, here_min=state.here_min,
        )  # fmt: skip
        if move.elsewhere:
            return state.options[0], True
        key = move.best.key if move.change or now is None else now.one.key
        return next(o for o in state.options if o.one.key == key), False
    minutes_so = state.casts_so * (now.one.minutes if now else 0.0)
    if now is not None and (minutes_so < 10.0 or (state.since_event is not None and state.since_event < 20.0)):
        return now, False
    if policy == "random":
        return luck.choice(state.options), False
    casts = [o for o in state.options if o.one.float_m is None]
    if policy == "ladder":
        order = [o for line in ("intermediate", "type 3", "type 5") for o in casts
                 if o.one.line == line and o.one.flies[0].fly_class == 1]  # fmt: skip
        state.step += 1
        return order[(state.step - 1) % len(order)], False
    # Depth first: floats of one class down the water, then the next class.
    floats = [o for k in range(1, CLASSES + 1) for o in state.options if o.one.float_m and o.one.flies[0].fly_class == k]
    state.step += 1
    return floats[(2 * (state.step - 1)) % len(floats)], False


def clairvoyant(world: World, options: Sequence[Exposed], truth: Truth, elsewhere: Truth) -> float:
    """Return the takes of one who knows where, how many and which fly, and fishes the best of it all day.

    From an empty place he moves at once.
    """
    at, total = 0.0, 0.0
    if truth.empty:
        at, truth = 15.0, elsewhere
    while at < DAY_MIN:
        best = max(options, key=lambda o: world.takes(o, truth, at)[0] / o.one.minutes)
        expected, _ = world.takes(best, truth, at)
        step = 10.0 if expected > 0.0 else 5.0
        total += expected / best.one.minutes * min(step, DAY_MIN - at)
        at += step
    return total


_worlds: dict[bool, World] = {}


def run(job: tuple[str, str, str, int]) -> tuple[float, float, float]:
    kind, prior, policy, seed = job
    world = _worlds.setdefault(True, World(teams=True))
    return day(world, kind, prior, policy, seed)


def share_of(days: Sequence[tuple[float, float, float]]) -> tuple[float, float, float, float]:
    """Return the share of the clairvoyant in percent, its 95 % bounds over days, and the mean of daily shares."""
    total = 100.0 * sum(d[0] for d in days) / sum(d[1] for d in days)
    rng = random.Random(1)
    drawn = []
    for _ in range(1000):
        some = rng.choices(days, k=len(days))
        drawn.append(100.0 * sum(d[0] for d in some) / sum(d[1] for d in some))
    drawn.sort()
    return total, drawn[25], drawn[974], 100.0 * statistics.mean(d[0] / d[1] for d in days if d[1] > 0.0)


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--days", type=int, default=60)
    parser.add_argument("--workers", type=int, default=2)
    chosen = parser.parse_args()
    cases = [("steady", "fair"), ("steady", "wrong"), ("steady", "flat"), ("moving", "fair"), ("selective", "fair"),
             ("low", "fair"), ("patchy", "fair"), ("barren", "fair")]  # fmt: skip
    rows, thirds = [], {}
    with ProcessPoolExecutor(chosen.workers) as pool:
        for kind, prior in cases:
            cells = []
            for policy in POLICIES:
                days = list(pool.map(run, [(kind, prior, policy, 1000 + i) for i in range(chosen.days)], chunksize=2))
                total, low, high, mean = share_of(days)
                thirds[kind, prior, policy] = statistics.median(d[2] for d in days)
                cells.append(f"{total:.0f} ({low:.0f}-{high:.0f}), {mean:.0f}")
                print(kind, prior, policy, cells[-1], f"third take {thirds[kind, prior, policy]:.0f} min", flush=True)
            rows.append((f"{kind}, {prior}", cells))
    lines = [
        "# The search, measured",
        "",
        f"Written by `make search` on {date.today():%d %B %Y}: {chosen.days} simulated days a case, fixed seeds. The water is"
        " 6 m deep, the day 240 min; 12 casts, 7 float depths, four classes of fly, singly or two on the leader. The truth lies"
        " between the cells of the belief's grid; 40 % of days want one class of fly only.",
        "",
        "Takes expected from the choices made, summed over days, in percent of one who knows the truth (95 % by bootstrap over"
        " days), and the mean of the daily shares.",
        "",
        "| days, prior | " + " | ".join(POLICIES) + " |",
        "|---|" + "---|" * len(POLICIES),
        *(f"| {name} | " + " | ".join(cells) + " |" for name, cells in rows),
        "",
        "Third take, median minute (240: none):",
        "",
        "| days, prior | " + " | ".join(POLICIES) + " |",
        "|---|" + "---|" * len(POLICIES),
        *(
            f"| {kind}, {prior} | " + " | ".join(f"{thirds[kind, prior, policy]:.0f}" for policy in POLICIES) + " |"
            for kind, prior in cases
        ),
        "",
        "Flattering: rates and competition of flies are those that the belief assumes, and the paths are straight. The"
        " clairvoyant fishes one fly and pays for no change. Days are few: read the intervals.",
    ]
    (ROOT / "docs" / "search.md").write_text("\n".join(lines) + "\n")


if __name__ == "__main__":
    main()

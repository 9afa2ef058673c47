"""Simulate days of searching with a hidden truth, and write docs/search.md. `make search` runs it, for an hour on two cores.

The world is that of the model (fish that rise, flies they want or not), but its truth lies between the cells of the grid.
Scores are the takes expected from the choices made, summed over days, as a share of what one who knows the truth would have.
"""

from __future__ import annotations

import argparse
import re
import statistics
import zlib
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from datetime import date
from pathlib import Path

import numpy as np
from search_worlds import CLASSES, DAY_MIN, EIGHTH, FIRST_TEAM_MIN, MOVE_MIN, World, drawn, planned, prior_of, truth_of

from stillthread.api import USUAL_RATE_PMIN, Grid, Truth
from tests.quick_search import Belief, Diary, next_move
from tests.test_search_particles import CASTS, PARTICLES, off_by

ROOT = Path(__file__).resolve().parents[1]
POLICIES = ("random", "ladder", "depth first", "fly first", "stay", "ours, one fly", "ours")
FEWER = ("ours, one fly",)
"""Policies that are shown beside ours to say what it owes to what: on the first quarter of the days."""
CASES = [("steady", "fair"), ("steady", "wrong"), ("steady", "flat"), ("moving", "fair"), ("two bands", "fair"),
         ("selective", "fair"), ("low", "fair"), ("patchy", "fair"), ("barren", "fair"), ("eighth", "fair")]  # fmt: skip
PLANNED_CASES = [("steady", "fair"), ("steady", "wrong"), ("moving", "fair"), ("patchy", "fair"), ("barren", "fair")]
AIMS = {("steady", "fair"): 79, ("steady", "wrong"): 67, ("moving", "fair"): 57, ("patchy", "fair"): 72,
        ("selective", "fair"): 71, ("barren", "fair"): 53, ("two bands", "fair"): 68, ("eighth", "fair"): 64}  # fmt: skip
THIRD_AIM = 0.42


@dataclass(frozen=True, slots=True)
class Scored:
    """A day: takes expected, what the clairvoyant would have, minute of the third take, minutes spent changing, changes."""

    takes: float
    best: float
    third_min: float
    changing_min: float
    changes: int


@dataclass
class Going:
    """A day under a policy as it goes."""

    belief: Belief
    diary: Diary
    now: int | None = None
    at_min: float = 0.0
    since_event: float | None = None
    here_min: float = 0.0
    casts_so: int = 0
    step: int = 0


def fish_a_day(world: World, kind: str, prior: str, policy: str, number: int) -> Scored:
    rng = np.random.default_rng([zlib.crc32(f"{kind} {prior}".encode()), number])
    truth = truth_of(kind, world.deepest_m, rng)
    grid = replace(prior_of(prior, truth, world.deepest_m, rng), rate_pmin=world.base.rate_pmin)
    return fish(world, truth, grid, policy, number)


def fish(world: World, truth: Truth, grid: Grid, policy: str, number: int) -> Scored:
    """Fish one day against its truth, from what is believed before the first cast."""
    elsewhere = replace(truth, empty=False)
    best = world.clairvoyant(truth)
    luck = np.random.default_rng([number, zlib.crc32(policy.encode())])
    state = Going(Belief(grid), Diary(world.options))
    takes, third, came, changing, changes = 0.0, DAY_MIN, 0, 0.0, 0
    learns = policy in {"ours", "ours, one fly"}
    while state.at_min < DAY_MIN:
        o = _choose(world, policy, state, luck)
        if o is None:
            state.belief.wait(MOVE_MIN)
            state.belief.elsewhere()
            state.diary.elsewhere(state.at_min + MOVE_MIN)
            state.at_min += MOVE_MIN
            changing += MOVE_MIN
            truth, state.here_min = elsewhere, 0.0
            continue
        one = world.options.ways[o]
        first_team = FIRST_TEAM_MIN if state.now is None and len(one.flies) > 1 else 0.0
        cost = first_team if state.now is None else float(world.options.cost[state.now, o])
        changing += cost
        changes += cost > 0.0
        minutes = float(one.minutes)
        state.at_min += cost
        expected, events = world.cast(o, truth, state.at_min, luck)
        if learns:
            state.belief.wait(cost + minutes)
            state.belief.learn(world.options.likely(o, events))
            state.diary.cast(o, state.at_min, events)
        state.at_min += minutes
        state.here_min += cost + minutes
        state.casts_so = state.casts_so + 1 if state.now == o else 1
        state.now = o
        if state.at_min <= DAY_MIN:
            takes += expected
            came += sum(event.took for event in events)
            third = min(third, state.at_min) if came >= 3 else third
        if events:
            state.since_event = 0.0
        elif state.since_event is not None:
            state.since_event += cost + minutes
    return Scored(takes, best, third, changing, changes)


def _choose(world: World, policy: str, state: Going, luck: np.random.Generator) -> int | None:
    """Return what a policy fishes next; None where it goes to another place first."""
    now, ways = state.now, world.options.ways
    if policy == "stay":
        if now is None:
            first = next_move(
                state.belief, world.options, None, state.diary.going(0.0, DAY_MIN, state.belief), state.diary.liked()
            )
            return first.best
        return now
    if policy in {"ours", "ours, one fly"}:
        going = state.diary.going(state.at_min, DAY_MIN - state.at_min, state.belief)
        move = next_move(state.belief, world.options, now, going, state.diary.liked())
        if move.elsewhere:
            return None
        return move.best if move.change or now is None else now
    minutes_so = state.casts_so * float(world.options.minutes[now]) if now is not None else 0.0
    if now is not None and (minutes_so < 10.0 or (state.since_event is not None and state.since_event < 20.0)):
        return now
    state.step += 1
    if policy == "random":
        return int(luck.choice(world.singles))
    floats = sorted((o for o in world.singles if ways[o].float_m), key=lambda o: float(ways[o].float_m or 0.0))
    if policy == "ladder":  # casts with one fly, line by line, each through its counts
        order = [o for o in world.singles if ways[o].float_m is None and ways[o].flies[0].fly_class == 1]
    elif policy == "depth first":  # floats of one class down the water by half metres or so, then the next class
        order = [o for k in range(1, CLASSES + 1) for o in [f for f in floats if ways[f].flies[0].fly_class == k][::2]]
    else:  # fly first: every class at a depth, the stated one, then a step away
        middle = float(np.array(state.belief.prior.sum(axis=(0, 2))) @ [c for c, _ in world.base.cells])
        order = sorted(floats, key=lambda o: abs(float(ways[o].float_m or 0.0) - middle))
    return int(order[(state.step - 1) % len(order)])


def run(job: tuple[str, str, str, str, int]) -> Scored:
    where, kind, prior, policy, number = job
    rate_pmin = USUAL_RATE_PMIN / (EIGHTH if kind == "eighth" else 1.0)
    world = planned() if where == "planned" else drawn(teams=policy in {"stay", "ours"}, rate_pmin=rate_pmin)
    return fish_a_day(world, kind, prior, policy, number)


@dataclass(frozen=True, slots=True)
class Share:
    """Percent of the clairvoyant over all takes with its 95 % bounds over days, and the mean of daily shares."""

    total: float
    low: float
    high: float
    mean: float

    def __str__(self) -> str:
        return f"{self.total:.0f} ({self.low:.0f}-{self.high:.0f}), {self.mean:.0f}"


def share_of(days: Sequence[Scored]) -> Share:
    takes, best = np.array([d.takes for d in days]), np.array([d.best for d in days])
    picked = np.random.default_rng(1).integers(0, len(days), (1000, len(days)))
    drawn_of = 100.0 * takes[picked].sum(axis=1) / best[picked].sum(axis=1)
    had = best > 0.1  # on a day without any to be had every choice is as good
    low, high = np.quantile(drawn_of, (0.025, 0.975))
    return Share(100.0 * takes.sum() / best.sum(), float(low), float(high), float(100.0 * np.mean(takes[had] / best[had])))


@dataclass(frozen=True, slots=True)
class Summary:
    """Days of one policy in one case: the share, the median minute of the third take, and means of changing."""

    share: Share
    third_min: float
    changing_min: float
    changes: float


Told = dict[tuple[str, str, str, str], Summary]
LINE = re.compile(
    r"(\w+) ([\w ]+), (\w+): ([\w, ]+) (\d+) \((\d+)-(\d+)\), (\d+); third (\d+) min, (\d+) min changing, (\d+) changes"
)


def read_lines(text: str) -> Told:
    """Return what an earlier run printed: days are the same whenever they are fished."""
    found: Told = {}
    for where, kind, prior, policy, *numbers in LINE.findall(text):
        total, low, high, mean, *rest = map(float, numbers)
        found[where, kind, prior, policy] = Summary(Share(total, low, high, mean), *rest)
    return found


def summary_of(days: Sequence[Scored]) -> Summary:
    return Summary(
        share_of(days), statistics.median(d.third_min for d in days), statistics.mean(d.changing_min for d in days),
        statistics.mean(d.changes for d in days),
    )  # fmt: skip


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--days", type=int, default=2000)
    parser.add_argument("--workers", type=int, default=2)
    parser.add_argument("--only", nargs="*", help="cases by name, as 'steady wrong'; then nothing is written")
    parser.add_argument("--policies", nargs="*", default=POLICIES)
    parser.add_argument("--where", nargs="*", default=("drawn", "planned"))
    parser.add_argument("--page", nargs="*", type=Path, help="write the page from what earlier runs printed; nothing is run")
    chosen = parser.parse_args()
    told: Told = {}
    if chosen.page is not None:
        for printed in chosen.page:
            told |= read_lines(printed.read_text())
        _write(told, chosen.days)
        return
    with ProcessPoolExecutor(chosen.workers) as pool:
        for where, cases in (("drawn", CASES), ("planned", PLANNED_CASES)):
            policies = POLICIES if where == "drawn" else ("random", "ours")
            for kind, prior in cases:
                if where not in chosen.where or (chosen.only and f"{kind} {prior}" not in chosen.only):
                    continue
                for policy in (p for p in policies if p in chosen.policies):
                    many = max(chosen.days // 4, 1) if policy in FEWER or where == "planned" else chosen.days
                    jobs = [(where, kind, prior, policy, i) for i in range(many)]
                    days = list(pool.map(run, jobs, chunksize=8))
                    of = told[where, kind, prior, policy] = summary_of(days)
                    print(f"{where} {kind}, {prior}: {policy} {of.share}; third {of.third_min:.0f} min,"
                          f" {of.changing_min:.0f} min changing, {of.changes:.0f} changes", flush=True)  # fmt: skip
    if not chosen.only:
        _write(told, chosen.days)


def _write(told: Told, days: int) -> None:
    (ROOT / "docs" / "search.md").write_text("\n".join(_page(told, days)) + "\n")


def _particles() -> list[str]:
    off = off_by(50)
    mean, chance = [one.mean_m for one in off], [one.chance for one in off]
    return [
        f"The belief on the table's exposures against {PARTICLES} particles that meet the full simulator's own paths, 50 days"
        f" of {CASTS} casts and chance answers ({len(off)} left enough of them to say): mean depth off by"
        f" {np.mean(mean):.2f} m on average and {max(mean):.2f} m at most;"
        f" the chance above any depth by {np.mean(chance):.3f} on average and {max(chance):.3f} at most.",
    ]


def _page(told: Told, days: int) -> list[str]:
    def share(where: str, kind: str, prior: str, policy: str) -> str:
        found = told.get((where, kind, prior, policy))
        return str(found.share) if found else "-"

    def thirds(kind: str, prior: str) -> str:
        ladder, ours = told.get(("drawn", kind, prior, "ladder")), told.get(("drawn", kind, prior, "ours"))
        if ladder is None or ours is None:
            return "- | - | - | - | -"
        return (
            f"{ladder.third_min:.0f} | {ours.third_min:.0f} | {ours.third_min / ladder.third_min:.2f} |"
            f" {ours.changing_min:.0f} | {ours.changes:.0f}"
        )

    def aim(kind: str, prior: str) -> str:
        if (kind, prior) not in AIMS or ("drawn", kind, prior, "ours") not in told:
            return ""
        got = told["drawn", kind, prior, "ours"].share
        wanted = AIMS[kind, prior]
        return f"{wanted}: " + ("met" if got.total >= wanted else f"missed by {wanted - got.total:.1f}")

    one_fly, of_plan = len(drawn().singles), len(planned().options.ways)
    teams = len(drawn().options.ways) - one_fly
    lines = [
        "# The search, measured",
        "",
        f"Written by `make search` on {date.today():%d %B %Y}: {days} simulated days a case, fixed seeds"
        f" ({' and '.join(FEWER)}: the first {days // 4}; a dash: not run). The water is 6 m deep, the day 240 min;"
        f" {one_fly} ways with one fly (casts with four lines, floats by half metres, four classes of fly) and {teams} with two"
        " of different classes. The truth lies between the cells of the belief's grid; 40 % of days want one class of fly only."
        " In `wrong` half of the days the reading is 2 to 3 m off, half it is 1.5 m off and sure of it, and the wanted class is"
        " the one it thinks least of.",
        "",
        "Takes expected from the choices made, summed over days, in percent of one who knows the truth (95 % by bootstrap over"
        " days), then the mean of the daily shares.",
        "",
        "| days, prior | " + " | ".join(POLICIES) + " | aim of ours |",
        "|---|" + "---|" * (len(POLICIES) + 1),
        *(
            f"| {kind}, {prior} | "
            + " | ".join(share("drawn", kind, prior, policy) for policy in POLICIES)
            + f" | {aim(kind, prior)} |"
            for kind, prior in CASES
        ),
        "",
        "Third take, median minute (240: none), and ours as a share of the ladder's"
        f" (aim {THIRD_AIM} or less for steady days, fair and wrong); minutes spent on changes and their number, mean:",
        "",
        "| days, prior | ladder | ours | of the ladder's | min changing | changes |",
        "|---|---|---|---|---|---|",
        *(f"| {kind}, {prior} | {thirds(kind, prior)} |" for kind, prior in CASES),
        "",
        f"With a plan's own table ({of_plan} ways, as the simulator has their paths; a reservoir 9 m deep in June;"
        f" {days // 4} days a case):",
        "",
        "| days, prior | random | ours |",
        "|---|---|---|",
        *(
            f"| {kind}, {prior} | {share('planned', kind, prior, 'random')} | {share('planned', kind, prior, 'ours')} |"
            for kind, prior in PLANNED_CASES
        ),
        "",
        *_particles(),
        "",
        "In the plan's own table a step (a fly on a seat, a few seconds of count) is no way of its own, so that every change"
        " there is a new rig: on the water steps are thought of as well, and cost little.",
        "",
        '"stay" fishes the plan\'s first all day. On days at an "eighth" the plan itself expects few fish, as in cold water.',
        "",
        "Read it with this in mind: rates and competition of flies are those that the belief assumes. The clairvoyant fishes"
        " the best one fly of the same ways at every minute and pays for no change. Fish that tire, landing, tangles and snags"
        " are left out.",
    ]
    return lines


if __name__ == "__main__":
    main()

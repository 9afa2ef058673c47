"""What goes to the water with a plan: the presentations worth thinking of there, and what is believed before the first cast."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from stillthread.depth.day import DayStrip
from stillthread.depth.picture import WaterPicture
from stillthread.plan.casting_water import water_for
from stillthread.plan.choose import Plan, Ranked
from stillthread.plan.exposure import exposure_of
from stillthread.plan.option import Option
from stillthread.plan.regulations import check_option
from stillthread.plan.scoring.match import SLOWEST_MPS
from stillthread.plan.scoring.scorer import Scorer
from stillthread.rules.water_rules import AgainstTheRules
from stillthread.search.belief import SearchBelief
from stillthread.search.grid import REACH_PRIOR, Grid, grid_of
from stillthread.search.policy import takes_pmin
from stillthread.search.presentation import TENTHS_A_MIN, Exposed, Presentation, TiedFly, as_json, mask_of, spans_of
from stillthread.sinking.action import Action
from stillthread.sinking.cast import CastResult
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.sinking.thread import QUICK
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.rig import Rig
from stillthread.trade.usual import BELOW_M, BRIGHT_COLOURS, DARK_COLOURS, colour_words

CLASSES = ("dark natural", "light natural", "dark lure", "bright lure")
MOST = 120  # ours: what a phone thinks through in a moment
PATH_POINTS = 24  # ours: a path is told by no more
ALIKE = 0.10  # ours: presentations that no fish could tell apart
LEAST_SHARE = 0.02  # ours: nothing is answered less
OF_ITS_METHOD = (0.5, 2.0)  # ours, bounds 0.2 to 5: how far a method's share is set right to say what the plan says of it
PULLED_MPS = 0.1  # ours: as fast as what is moved is moved
LEAST_WANTED = 0.15  # ours: of the best class's worth, for a class the plan thinks nothing of


def fly_class(fly: BoxFly) -> int:
    """Return the class of flies that this one belongs to, from 1: what fish that are choosy tell apart first."""
    words = colour_words(fly.colour)
    bright = bool(words & BRIGHT_COLOURS) or not words & DARK_COLOURS
    return 1 + 2 * (fly.style in {"lure", "attractor"}) + bright


def search_table(
    plan: Plan, factor: float = 1.0, shown: Callable[[Action], dict[str, Any]] = lambda _: {}
) -> tuple[dict[str, Any], dict[str, Option]]:
    """Return the search table of a plan, as `stillthread.search.day.Table.of` reads it, and its options by their keys.

    Every method's best and its neighbours in count, depth, pace and class of fly, near-duplicates left out; at most `MOST`.
    Before the first cast the search expects of each method's best what the plan says of it, `factor` times, as the water's log
    has it. `shown` says what the hands do in the shape that the page and the search share; without it the search thinks of no
    other counts or paces than the table's.
    """
    scorer = plan.scorer
    given = scorer.given
    belief = given.picture.belief
    water = water_for(given.picture, given.cast_m)
    grid = grid_of(belief.depth_m.tolist(), belief.mass().tolist(), belief.reach_up_m, given.bottom_m, _wanted(plan.ranked))
    kept: list[Presentation] = []
    worth: list[float] = []
    bests: dict[str, int] = {}
    ways: dict[str, Option] = {}
    seen: list[tuple[Presentation, np.ndarray[Any, Any]]] = []
    options = [*((one.option, one.result) for one in plan.ranked), *((o, None) for o in _neighbours(plan.ranked, scorer))]
    for option, run in options:
        if len(kept) == MOST:
            break
        result = run if run is not None else option.action.simulate(option.rig, water, QUICK)
        one = presentation_of(option, result)
        if any(one.key == known.key for known in kept):
            continue
        one = replace(one, met=met_of(one, grid), action=shown(option.action), leader_m=round(option.rig.leader.length_m, 2))
        minutes = np.array(one.met[mask_of((True,) * len(one.flies))]) / (TENTHS_A_MIN * one.minutes)
        if run is None and any(_alike(one, minutes, other, profile) for other, profile in seen):
            continue
        if run is not None:
            bests[one.method] = len(kept)
        worth.append(factor * scorer.takes_ph(option, exposure_of(result)))
        kept.append(one)
        ways[one.key] = option
        seen.append((one, minutes))
    shares, rate_pmin = _shares(kept, worth, bests, grid)
    table = {
        "grid": {name: list(getattr(grid, name)) for name in ("centres_m", "reaches_m", "stated", "wanted")}
        | {"rate_pmin": rate_pmin},
        "classes": list(CLASSES),
        "flies": {fly.name: fly_class(fly) for fly in given.box.flies},
        "about": _about(list(ways.values()), scorer),
        "retrieves": [
            {"key": r.key, "name": r.name, "mps": r.mean_mps, "rhythm": r.rhythm, "pull_s": r.pull_s, "pause_s": r.pause_s}
            for r in RETRIEVES.values()
        ],
        "second_fly": scorer.j.second_fly,
        "options": [as_json(replace(one, share=share)) for one, share in zip(kept, shares, strict=True)],
    }  # fmt: skip
    return table, ways


def _shares(
    kept: Sequence[Presentation], worth: Sequence[float], bests: Mapping[str, int], grid: Grid
) -> tuple[list[float], float]:
    """Return how much of it each is answered, what the plan knows of pace, method and wind and the search does not; and how
    many fish a minute there are, so that of each method's best both say the same.

    A way's share is what it is worth beside what it meets where the reading has the fish: depth is the belief's to say. The
    belief trusts the reading less than the plan does, and fish may want other flies: a method is set right for both as a whole.
    """
    met = [_takes_ph(one, grid) for one in kept]
    of = [one / max(expected, 1e-9) for one, expected in zip(worth, met, strict=True)]
    believed = SearchBelief(replace(grid, rate_pmin=1.0)).interest()
    right = {}
    for method, best in bests.items():
        says = 60.0 * takes_pmin(Exposed(kept[best], grid), believed)
        right[method] = worth[best] / max(says * of[best], 1e-9)
    # Where the reading has hardly a fish at a method's depth the plan's word on it is no measure of how it is answered.
    usual = float(np.median(list(right.values()))) if right else 1.0
    low, high = OF_ITS_METHOD
    shares = [
        one * usual * min(max(right.get(way.method, usual) / usual, low), high) for one, way in zip(of, kept, strict=True)
    ]
    most = max(shares, default=1.0) or 1.0
    return [round(float(np.clip(one / most, LEAST_SHARE, 1.0)), 4) for one in shares], round(float(most), 6)


def _about(options: Sequence[Option], scorer: Scorer) -> dict[str, Any]:
    """Return what the search needs to know of the flies of the box, to think of others than are tied on."""
    flies = scorer.given.flies
    worths = {
        still: scorer.matcher.answers(flies, pace_mps).weight @ scorer.matcher.probability
        for still, pace_mps in ((True, SLOWEST_MPS), (False, PULLED_MPS))
    }
    best = {still: max(float(of.max(initial=0.0)), 1e-9) for still, of in worths.items()}
    methods = {option.method.key: option.method for option in options}
    # Of any number of flies: a rig of the angler's own may have one more or fewer than the plan's.
    teams = [(key, n) for key, method in sorted(methods.items()) for n in range(method.least_flies, method.most_flies + 1)]
    return {
        fly.name: {
            "fly_class": fly_class(fly), "colour": fly.colour, "hook_size": fly.fly.hook_size, "style": fly.style,
            "sinks": fly.body_class, "still": round(float(worths[True][i]) / best[True], 3),
            "pulled": round(float(worths[False][i]) / best[False], 3),
            "fits": {
                f"{method}/{n}": found
                for method, n in teams
                if (found := [seat for seat, rule in enumerate(methods[method].seats(n)) if rule(fly)])
            },
        }
        for i, fly in enumerate(flies)
    }  # fmt: skip


def shift_of(strip: DayStrip, picture: WaterPicture) -> list[dict[str, float]]:
    """Return how the light is expected to move them: minutes from now, and metres deeper than now, hour by hour."""
    now = picture.conditions.at
    hours = [(max((hour.at - now).total_seconds() / 60.0, 0.0), hour.mean_m) for hour in strip.hours]
    ahead = [one for one in hours if one[0] > 0.0]
    here = next((middle for at, middle in reversed(hours) if at == 0.0), ahead[0][1] if ahead else 0.0)
    return [{"at_min": round(at, 1), "deeper_m": round(middle - here, 2)} for at, middle in ahead]


def minutes_left(strip: DayStrip, picture: WaterPicture) -> float:
    """Return the minutes of light that are left, half an hour at least."""
    last = strip.hours[-1].at if strip.hours else picture.conditions.at
    return float(max(30.0, (last - picture.conditions.at).total_seconds() / 60.0))


def _takes_ph(one: Presentation, grid: Grid) -> float:
    """Return what the search would expect of it by the reading alone, fish that take anything at one rate [1/h]."""
    met = np.array(one.met[mask_of((True,) * len(one.flies))]).sum(axis=0).reshape(len(grid.centres_m), -1)
    return float((np.array(grid.stated) @ met @ np.array(REACH_PRIOR)) / (TENTHS_A_MIN * one.minutes))


def presentation_of(option: Option, result: CastResult) -> Presentation:
    """Return an option as the search sees it."""
    at = np.unique(np.round(np.linspace(0, len(result.time_s) - 1, PATH_POINTS)).astype(int))
    flies = tuple(TiedFly(fly.name, fly_class(fly)) for fly in option.flies)
    action, words = option.action, option.action.words()
    paths = tuple(tuple(np.round(path[at], 2).tolist()) for path in result.fly_depth_m)
    return Presentation(
        key=_key(option),
        method=option.method.key,
        line=option.rig.line.name,
        flies=flies,
        minutes=round(option.cycle_s(result) / 60.0, 3),
        time_s=tuple(np.round(result.time_s[at], 1).tolist()),
        depth_m=paths,
        float_m=None if action.float_m is None else round(action.float_m, 2),
        words=words.text,
        values=words.values,
    )


def _key(option: Option) -> str:
    return "|".join((option.method.key, option.rig.line.name, option.action.key(), *(fly.name for fly in option.flies)))


def _wanted(ranked: Sequence[Ranked]) -> list[float]:
    """Return what the plan thinks of each class of fly: what its best with such a fly on the point is worth."""
    best = [0.0] * len(CLASSES)
    for one in ranked:
        for fly in one.option.flies:
            best[fly_class(fly) - 1] = max(best[fly_class(fly) - 1], one.takes_ph)
    least = LEAST_WANTED * max(best)
    return [max(value, least) for value in best]


def _neighbours(ranked: Sequence[Ranked], scorer: Scorer) -> Iterator[Option]:
    """Yield what is a step away from each method's best, in rounds: the first step of every method before the second of any."""
    each = [list(_around(one.option, scorer)) for one in ranked]
    for turn in range(max(map(len, each), default=0)):
        for options in each:
            if turn < len(options):
                yield options[turn]


def _around(option: Option, scorer: Scorer) -> Iterator[Option]:
    depths = [replace(option, action=action) for action in option.action.neighbours(option.rig, scorer.given.bottom_m)]
    flies = list(_other_flies(option, scorer))
    found = [*flies[:1], *depths, *flies[1:], *(o for d in depths[:2] for o in list(_other_flies(d, scorer))[:1])]
    for one in found:
        try:
            check_option(one, scorer.given.rules, scorer.given.picture.conditions.at.date())
        except AgainstTheRules:
            continue
        yield one


def _other_flies(option: Option, scorer: Scorer) -> Iterator[Option]:
    """Yield the same with the likeliest fly of each other class on the point, of those that sink as this one does."""
    point = option.flies[0]
    seat = option.method.seats(len(option.flies))[0]
    tied = {fly.name for fly in option.flies}
    others = [f for f in scorer.given.flies if f.name not in tied and seat(f) and f.body_class == point.body_class]
    for of in range(1, len(CLASSES) + 1):
        of_class = [fly for fly in others if fly_class(fly) == of]
        if of == fly_class(point) or not of_class:
            continue
        best = of_class[scorer.matcher.likeliest(of_class, option.speed_mps)]
        placed = (replace(option.rig.flies[0], fly=best.fly), *option.rig.flies[1:])
        yield replace(option, rig=Rig(option.rig.line, option.rig.leader, placed), flies=(best, *option.flies[1:]))


def met_of(one: Presentation, grid: Grid) -> dict[str, list[list[int]]]:
    """Return what `Exposed.minutes` gives for every set of flies that may be wanted, in tenths of a second: the same sums, made
    in one go."""
    spans = spans_of(one)
    minutes = np.array([span_min for span_min, _ in spans])
    depth = np.array([depths for _, depths in spans])[:, :, None]
    centre, reach = (np.array(values)[None, None, :] for values in zip(*grid.cells, strict=True))
    off = np.where(depth <= centre, (centre - depth) / reach, (centre - depth) / float(BELOW_M))
    reached = np.exp(-(off**2))
    masks = {tuple(k in (0, fly.fly_class) for fly in one.flies) for k in range(grid.classes + 1)}
    found = {}
    for mask in {m if any(m) else (True,) * len(m) for m in masks}:
        wanted = np.array(mask)
        first = np.where(wanted[None, :, None], reached, -1.0)
        rest = np.where(wanted[None, :, None], -1.0, reached)
        shares = np.zeros_like(reached)
        best = np.maximum(first.max(axis=1), 0.0)
        np.put_along_axis(shares, first.argmax(axis=1)[:, None], best[:, None], axis=1)
        if not wanted.all():
            more = np.maximum(np.maximum(rest.max(axis=1), 0.0) - best, 0.0)
            np.put_along_axis(shares, rest.argmax(axis=1)[:, None], more[:, None], axis=1)
        met = np.rint(TENTHS_A_MIN * np.tensordot(minutes, shares, axes=1)).astype(int)
        found[mask_of(mask)] = met.tolist()
    return found


def _alike(one: Presentation, of: np.ndarray[Any, Any], other: Presentation, profile: np.ndarray[Any, Any]) -> bool:
    """Return whether no fish could tell two apart."""
    if [fly.name for fly in one.flies] != [fly.name for fly in other.flies] or (one.float_m is None) != (other.float_m is None):
        return False
    return bool(np.abs(of - profile).max() < ALIKE * max(profile.max(), 1e-9))

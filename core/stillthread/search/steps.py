"""What is a step away from what is being fished: another fly on a seat, a few seconds of count, a foot of float, another pace.

Paths of steps are drawn from the path of what is fished, near enough to choose by. What is chosen is run by the simulator
before it is promised.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from stillthread.search.likes import FlyAbout
from stillthread.search.presentation import Presentation, TiedFly, depth_along
from stillthread.trade.timing import RECAST_S
from stillthread.trade.usual import LONGEST_COUNT_S

COUNT_STEPS_S = (-15.0, -10.0, -5.0, -3.0, 3.0, 5.0, 10.0, 15.0)  # common practice: a count is changed by 3 to 5, then by more
FLOAT_STEPS_M = (-0.9, -0.6, -0.3, 0.3, 0.6, 0.9)  # common practice: by a foot
LEAST_DEEP_M = 0.25  # ours: the top fly of a team hangs below its float too
LEAST_FLOAT_M, OFF_BOTTOM_M = 0.4, 0.15  # ours: a float this shallow is no float; and a fly on the bottom fishes nothing
LEAST_SINKING_S = 6.0  # ours, bounds 3 to 15: a shorter count says nothing of how it sinks
OTHER_PACE = 1.2  # ours, bounds 1.1 to 1.5: a pace that is nearer is the same pace
PACES_EACH_WAY = 2  # ours
FLIES_A_SEAT = 12  # ours, bounds 3 to 40: of those that may sit there, the best


@dataclass(kw_only=True, frozen=True, slots=True)
class Pace:
    """A retrieve: its key and name, how fast [m/s], its rhythm in words, how long it pulls and rests [s]."""

    key: str
    name: str
    mps: float
    rhythm: str = ""
    pull_s: float = 1.0
    pause_s: float = 0.0

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> Pace:
        return cls(
            key=str(told["key"]), name=str(told["name"]), mps=float(told["mps"]), rhythm=str(told.get("rhythm", "")),
            pull_s=float(told.get("pull_s", 1.0)), pause_s=float(told.get("pause_s", 0.0)),
        )  # fmt: skip


def steps_from(
    now: Presentation,
    about: Mapping[str, FlyAbout],
    paces: Sequence[Pace],
    options: Sequence[Presentation],
    deepest_m: float,
    second_fly: float = 0.0,
) -> Iterator[Presentation]:
    """Yield what is a step away from what is being fished over a bottom `deepest_m` [m] down; a line takes its flies no deeper
    than what is known of it among the `options`. `second_fly` is how much the weaker flies of a team add."""
    if not now.still:
        known = [max(map(max, one.depth_m)) for one in options if one.line == now.line and not one.still]
        deepest_m = min(deepest_m, max([*known, *map(max, now.depth_m)]))
    moved = list(_by_hand(now, paces, deepest_m))
    yield from moved
    yield from other_flies(now, about, second_fly)
    # Both at once where the fly is the same but for one seat, and only the nearest depths.
    for one in _nearest(now, moved):
        yield from other_flies(one, about, second_fly, 3)


def key_of(one: Presentation) -> str:
    """Return the key of a way, as the search table writes it."""
    action = one.action
    if action.get("kind") == "cast":
        done = f"{one.count_s:.0f} {action['retrieve_key']} {one.pace_mps:.3f}"
    elif one.float_m is not None:
        done = f"{action.get('indicator', 'fixed')} {one.float_m:.2f} {action.get('twitch_every_s') or 0:.0f}"
    else:
        return one.key
    return "|".join((one.method, one.line, done, *(fly.name for fly in one.flies)))


def team_worth(one: Presentation, about: Mapping[str, FlyAbout], second_fly: float) -> float:
    """Return what its flies are worth together as they are fished, beside the box's best alone."""
    known = [about[fly.name].worth(still=one.still) for fly in one.flies if fly.name in about]
    if not known:
        return 1.0
    return max(known) + second_fly * (sum(known) - max(known))


def _named(one: Presentation) -> Presentation:
    action = one.action
    words, values = one.words, one.values
    if action.get("kind") == "cast":
        words, values = f"count {one.count_s:.0f}, {str(action.get('retrieve_name', '')).lower()}", {}
    elif one.float_m is not None:
        words, values = "float at {set_m}", {"set_m": one.float_m}
    named = replace(one, words=words, values=values, met={}, drawn=True, like=one.like or one.key)
    return replace(named, key=key_of(named))


def _by_hand(now: Presentation, paces: Sequence[Pace], deepest_m: float) -> Iterator[Presentation]:
    if now.float_m is not None:
        for by in FLOAT_STEPS_M:
            set_m = round(now.float_m + by, 2)
            longest_m = min(deepest_m - OFF_BOTTOM_M, now.leader_m or deepest_m)
            if LEAST_FLOAT_M <= set_m <= longest_m and min(map(max, now.depth_m)) + by >= LEAST_DEEP_M:
                yield _named(_hung_at(now, set_m))
    elif now.action.get("kind") == "cast":
        for by in COUNT_STEPS_S:
            if 0.0 <= now.count_s + by <= float(LONGEST_COUNT_S):
                yield _named(_counted(now, now.count_s + by, deepest_m))
        at = now.pace_mps
        slower = sorted((p for p in paces if p.mps * OTHER_PACE < at), key=lambda p: -p.mps)[:PACES_EACH_WAY]
        faster = sorted((p for p in paces if p.mps > at * OTHER_PACE), key=lambda p: p.mps)[:PACES_EACH_WAY]
        for pace in (*slower, *faster):
            yield _named(_paced(now, pace, deepest_m))


def _hung_at(now: Presentation, set_m: float) -> Presentation:
    """Return it with the float at another depth: its flies hang as much deeper or higher."""
    assert now.float_m is not None
    paths = []
    for path in now.depth_m:
        hangs = max(max(path), 0.05)
        share = max(hangs + set_m - now.float_m, 0.05) / hangs
        paths.append(tuple(round(depth * share, 2) for depth in path))
    return replace(now, float_m=set_m, depth_m=tuple(paths), action={**now.action, "set_depth_m": set_m})


def _counted(now: Presentation, count_s: float, deepest_m: float) -> Presentation:
    """Return it after another count: it sinks on as it did at the end of its own, no deeper than `deepest_m` [m], and comes
    back from there to where it ends."""
    by, end = count_s - now.count_s, now.time_s[-1]
    times = tuple(round(t + by if t >= now.count_s else t * (count_s / now.count_s), 2) for t in now.time_s)
    paths = []
    for path in now.depth_m:
        at = depth_along(now.time_s, path, now.count_s)
        then = min(max(at + by * _sinks_mps(now, path), 0.02), max(deepest_m, at) if by > 0.0 else at)
        moved = []
        for t, depth in zip(now.time_s, path, strict=True):
            if t < now.count_s:
                moved.append(depth * then / max(at, 0.02))
            else:
                left = (end - t) / max(end - now.count_s, 1.0)
                moved.append(min(max(depth + (then - at) * left, 0.02), max(deepest_m, depth)))
        paths.append(tuple(round(depth, 2) for depth in moved))
    minutes = max(now.minutes + by / 60.0, 0.2)
    return replace(now, minutes=minutes, time_s=times, depth_m=tuple(paths), action={**now.action, "count_s": count_s})


def _sinks_mps(now: Presentation, path: Sequence[float]) -> float:
    """Return how fast a fly sinks at the end of its count [m/s]; of one that is hardly counted, as it goes on."""
    until = max(now.count_s, LEAST_SINKING_S)
    since = 0.5 * now.count_s
    return max((depth_along(now.time_s, path, until) - depth_along(now.time_s, path, since)) / (until - since), 0.01)


def _paced(now: Presentation, pace: Pace, deepest_m: float) -> Presentation:
    """Return it brought back at another pace: the same way at the same depth in another time, a little higher the faster."""
    count, ratio = now.count_s, pace.mps / now.pace_mps
    lifts = ratio**-0.15
    times = tuple(round(t if t <= count else count + (t - count) / ratio, 2) for t in now.time_s)
    paths = tuple(
        tuple(round(d if t <= count else min(d * lifts, max(deepest_m, d)), 2) for t, d in zip(now.time_s, path, strict=True))
        for path in now.depth_m
    )
    action = {
        **now.action, "retrieve_key": pace.key, "retrieve_mps": pace.mps, "retrieve_name": pace.name,
        "retrieve_rhythm": pace.rhythm, "pull_s": pace.pull_s, "pause_s": pace.pause_s,
    }  # fmt: skip
    return replace(now, minutes=(times[-1] + float(RECAST_S)) / 60.0, time_s=times, depth_m=paths, action=action)


def other_flies(
    now: Presentation, about: Mapping[str, FlyAbout], second_fly: float, most: int = FLIES_A_SEAT
) -> Iterator[Presentation]:
    """Yield it with another fly on one seat, of those that may sit there and sink as what is there does."""
    worth = team_worth(now, about, second_fly)
    seats = f"{now.method}/{len(now.flies)}"
    tied = {fly.name for fly in now.flies}
    for seat, fly in enumerate(now.flies):
        here = about.get(fly.name)
        found = []
        for name, other in about.items():
            if name in tied or seat not in other.fits.get(seats, ()):
                continue
            if here is not None and other.sinks != here.sinks:
                continue
            flies = tuple(TiedFly(name, other.fly_class) if i == seat else one for i, one in enumerate(now.flies))
            changed = replace(now, flies=flies)
            found.append((team_worth(changed, about, second_fly), name, changed))
        found.sort(key=lambda one: (-one[0], one[1]))
        for then, _, changed in _of_each_class(found, most):
            yield _named(replace(changed, share=min(now.share * then / max(worth, 1e-6), 1.0)))


def _of_each_class(found: Sequence[tuple[float, str, Presentation]], most: int) -> list[tuple[float, str, Presentation]]:
    """Return the best of some flies, none of whose classes is left out where there is room."""
    kept, classes = [], set()
    for one in found:
        of = tuple(fly.fly_class for fly in one[2].flies)
        if of not in classes:
            classes.add(of)
            kept.append(one)
    kept += [one for one in found if one not in kept]
    return kept[:most]


def _nearest(now: Presentation, moved: Sequence[Presentation]) -> list[Presentation]:
    """Return the steps of depth next to what is fished, one each way."""
    depths = [one for one in moved if one.pace_mps == now.pace_mps]
    up = [one for one in depths if one.works_m < now.works_m]
    down = [one for one in depths if one.works_m > now.works_m]
    return [*sorted(up, key=lambda one: -one.works_m)[:1], *sorted(down, key=lambda one: one.works_m)[:1]]

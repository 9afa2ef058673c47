"""Find the best way to fish by each method."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from typing import Any, cast

from stillthread.plan.methods.base import CastingMethod, Method, Way
from stillthread.plan.methods.tow import TowingMethod
from stillthread.plan.seeking.casting import Effort, coarse_casts, other_teams, refined_cast
from stillthread.plan.seeking.hanging import best_hang
from stillthread.plan.seeking.weigher import NO_ROOM, Found, Weighed, Weigher
from stillthread.sinking.action import Action
from stillthread.sinking.cast import Cast
from stillthread.sinking.hang import Hang
from stillthread.sinking.troll import Troll
from stillthread.tackle.lines import Line

__all__ = ["Found", "Weigher", "seek"]

FINALISTS = 3  # ours
FAR_BEHIND = (
    0.25,
    0.55,
)  # ours: a method that a coarse look finds this far behind the best is only tied, or not worked on fully
FAR_BEHIND_FIRST = 0.75  # ours: for a first answer
_WORKERS = 2
TOWED_MPS = 0.3  # ours: about the pace of a tow, for choosing the flies to try


def seek(weigher: Weigher, methods: Sequence[Method]) -> list[Found | str]:
    """Return the best option of each method, or why there is none.

    Every method is looked at coarsely; those that are far behind by then are only tied, not worked on.
    """
    with ThreadPoolExecutor(_WORKERS) as pool:
        looked = list(pool.map(lambda method: _look(weigher, method), methods))
        best = max((one[0].takes_ph for one in looked if isinstance(one, list)), default=0.0)

        def refine(method: Method, coarse: list[Weighed] | Found | str) -> Found | str:
            if not isinstance(coarse, list):
                return coarse
            share = coarse[0].takes_ph / best if best > 0.0 else 0.0
            worth = (share >= FAR_BEHIND[0]) + (share >= FAR_BEHIND[1])
            effort = Effort(worth if weigher.given.thorough else int(share >= FAR_BEHIND_FIRST))
            # What is only looked at coarsely is cast.
            return refined_cast(weigher, cast(CastingMethod, method), coarse, effort)

        return list(pool.map(refine, methods, looked))


def _look(weigher: Weigher, method: Method) -> list[Weighed] | Found | str:
    """Return what a coarse look at a method finds; a float or a tow is worked on at once."""
    given = weigher.given
    if not given.flies:
        return "No fly in the box may be used here."
    ban = given.rules.ban_on(method.key, given.picture.conditions.at.date())
    if ban is not None:
        return ban.why_not
    why = method.why_not(given)
    if why:
        return why
    lines = weigher.lines(method)
    if not lines:
        return weigher.no_line(method)
    if not weigher.team_shapes(method, method.least_flies):
        return "No fly in the box for it." if given.pins.fly_name is None else "Not with the fly you chose."
    return LOOK[method.action](weigher, method, lines)


def _best_tow(weigher: Weigher, method: TowingMethod, lines: Sequence[Line]) -> Found | str:
    given = weigher.given
    leader = given.pins.leader.length_m if given.pins.leader else method.leaders_m[0]
    shapes = weigher.team_shapes(method, 1, TOWED_MPS)[:1]
    tows = method.tows(given)
    first = weigher.best_of(method, (Way(line, s, leader, tows[0]) for line in lines for s in shapes))
    coarse = first + weigher.best_of(method, (replace(one.way, action=tow) for one in first[:1] for tow in tows[1:]))
    coarse.sort(key=lambda one: -one.takes_ph)
    if not coarse:
        return NO_ROOM
    teamed = weigher.best_of(method, other_teams(weigher, method, coarse[0].way))
    best = weigher.settled(method, [coarse[0], *teamed], FINALISTS)
    return NO_ROOM if best is None else Found(best.option, best.takes_ph)


LOOK: Mapping[type[Action], Callable[[Weigher, Any, Sequence[Line]], list[Weighed] | Found | str]] = {
    Cast: coarse_casts,
    Hang: best_hang,
    Troll: _best_tow,
}
"""How a method is looked at coarsely, by what it does."""

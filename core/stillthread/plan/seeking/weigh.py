"""A way to fish of the angler's own: a choice of the plan with one thing changed, weighed as the plan weighs its own."""

from __future__ import annotations

from dataclasses import replace

from stillthread.depth.picture import check_open_water
from stillthread.errors import BadInput
from stillthread.plan.actions import Hang
from stillthread.plan.casting_water import water_for
from stillthread.plan.choose import Plan, rank_one
from stillthread.plan.explaining.tying import build_for
from stillthread.plan.methods.base import Given
from stillthread.plan.methods.indicator import UnderIndicator
from stillthread.plan.option import Option, simulate_option
from stillthread.plan.regulations import check_option
from stillthread.plan.schools import SCHOOLS
from stillthread.plan.scoring.scorer import Scorer
from stillthread.sinking.cast import Cast
from stillthread.sinking.troll import Troll
from stillthread.tackle.build import check_landing
from stillthread.tackle.rig import Rig

WAYS = {"cast": (Cast, "cast"), "hang": (Hang, "hung under a float"), "tow": (Troll, "towed")}


def weigh(option: Option, given: Given, *, school_key: str = "best") -> Plan:
    """Return the plan of one option alone.

    A float that was moved hangs on a leader cut for its new depth, unless the leader is pinned; where it could no longer be
    landed fixed, it is one of the box that lets go or slides.

    Raises
    ------
    OnIce
        Ice covers the water.
    AgainstTheRules
        The water does not allow it.
    BadInput
        It is not done the way of its method, or there is no room for its flies.
    """
    check_open_water(given.picture)
    kind, done = WAYS[option.method.way]
    if not isinstance(option.action, kind):
        raise BadInput(f"{option.method.name}: for that the flies are {done}.", field="method_key")
    check_option(option, given.rules, given.picture.conditions.at.date())
    if isinstance(option.action, Hang) and given.pins.leader is None:
        option = _hung_anew(option, option.action, given)
    scorer = Scorer(given, SCHOOLS[school_key])
    result = simulate_option(option, water_for(given.picture, given.cast_m))
    return Plan((rank_one(scorer, option, result),), {}, (), 1, scorer)


def _hung_anew(option: Option, action: Hang, given: Given) -> Option:
    assert isinstance(option.method, UnderIndicator)
    heights = option.method.hung_heights(action.set_depth_m, len(option.flies))
    if heights is None:
        raise BadInput("The flies would hang too close together. Tie on fewer, or set the float deeper.", field="set_depth_m")
    placed = tuple(replace(fly, above_point_m=height) for fly, height in zip(option.rig.flies, heights, strict=True))
    kinds = [action.kind, *(kind for kind in ("sliding", "quick-release") if kind in given.box.indicators)]
    landed = [kind for kind in kinds if check_landing(action.set_depth_m, given.box.rod_m, kind).ok]
    moved = replace(option, rig=replace(option.rig, flies=placed), action=replace(action, kind=(landed or kinds)[0]))
    return replace(moved, rig=Rig(option.rig.line, build_for(moved, given).leader, placed))

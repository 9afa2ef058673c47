"""A way to fish of the angler's own: a choice of the plan with one thing changed, weighed as the plan weighs its own."""

from __future__ import annotations

from dataclasses import replace

from stillthread.depth.picture import check_open_water
from stillthread.errors import BadInput
from stillthread.plan.casting_water import water_for
from stillthread.plan.choose import Plan, rank_one
from stillthread.plan.explaining.tying import build_for
from stillthread.plan.methods.base import Given
from stillthread.plan.option import Option, simulate_option
from stillthread.plan.regulations import check_option
from stillthread.plan.scoring.scorer import Scorer
from stillthread.tackle.rig import Rig
from stillthread.trade.schools import SCHOOLS


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
    if type(option.action) is not option.method.action:
        raise BadInput(f"{option.method.name}: for that the flies are {option.method.action.done}.", field="method_key")
    check_option(option, given.rules, given.picture.conditions.at.date())
    rig, action = option.method.rehung(option.rig, option.action, given)
    if action is not option.action or rig is not option.rig:
        moved = replace(option, rig=rig, action=action)
        option = replace(moved, rig=Rig(rig.line, build_for(moved, given).leader, rig.flies))
    scorer = Scorer(given, SCHOOLS[school_key])
    result = simulate_option(option, water_for(given.picture, given.cast_m))
    return Plan(ranked=(rank_one(scorer, option, result),), excluded={}, changes=(), tried=1, scorer=scorer)

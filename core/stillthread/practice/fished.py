"""What is fished on a practice day, as fish see it: any rig and whatever is done with it."""

from __future__ import annotations

from typing import Any

import numpy as np

from stillthread.plan.choose import Plan
from stillthread.plan.option import Option
from stillthread.plan.search_table.table import PATH_POINTS, fly_class, search_table
from stillthread.practice.scenario import Scenario
from stillthread.search.grid import USUAL_RATE_PMIN
from stillthread.search.presentation import Presentation, TiedFly, as_json
from stillthread.sinking.action import Action
from stillthread.sinking.cast import CastResult, Water
from stillthread.sinking.thread import QUICK
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.rig import Rig
from stillthread.tackle.starter import STARTER_FLIES

TOUCHED_S = 1.0  # ours: a fly that lies on the bottom for so long is felt to touch
_KNOWN = {fly.name: fly for fly in STARTER_FLIES}


def search_of(plan: Plan) -> tuple[dict[str, Any], dict[str, Option]]:
    """Return a plan's search table as it holds on a practice day, and its options by their keys.

    Here fish answer a fly by its depth and its class; what the plan thinks of paces and methods is no part of the truth, so
    every way is answered alike.
    """
    table, ways = search_table(plan)
    grid = {**table["grid"], "rate_pmin": USUAL_RATE_PMIN}
    return {**table, "grid": grid, "options": [{**one, "share": 1.0} for one in table["options"]]}, ways


def true_water(scenario: Scenario) -> Water:
    """Return the water that is truly there."""
    given = scenario.conditions
    return Water(round(given.readings[0].water_c), ((0.0, given.bottom_depth_m),))


def presentation(rig: Rig, action: Action, scenario: Scenario) -> tuple[Presentation, CastResult]:
    """Return what is fished as the search sees it, simulated in the water that is truly there, and its run."""
    result = action.simulate(rig, true_water(scenario), QUICK)
    at = np.unique(np.round(np.linspace(0, len(result.time_s) - 1, PATH_POINTS)).astype(int))
    flies = tuple(TiedFly(p.fly.name, fly_class(_KNOWN.get(p.fly.name, BoxFly(p.fly)))) for p in rig.flies)
    key = "|".join((action.kind, rig.line.name, action.key(), *(tied.name for tied in flies)))
    paths = tuple(tuple(np.round(path[at], 2).tolist()) for path in result.fly_depth_m)
    minutes = round(action.cycle_s(result.duration_s) / 60.0, 3)
    set_m = None if action.float_m is None else round(action.float_m, 2)
    return Presentation(
        key=key,
        method=action.kind,
        line=rig.line.name,
        flies=flies,
        minutes=minutes,
        time_s=tuple(np.round(result.time_s[at], 1).tolist()),
        depth_m=paths,
        float_m=set_m,
    ), result


def shot_of(rig: Rig, action: Action, scenario: Scenario) -> dict[str, Any]:
    """Return what `practice.game.act` casts: the presentation, between which depths [m] any of its flies works, how deep it is
    there [m], and whether a fly lies on the bottom for so long that it is felt."""
    one, run = presentation(rig, action, scenario)
    middle = run.middle_depths_m()
    low, high = round(float(middle[:, 0].min()), 2), round(float(middle[:, 1].max()), 2)
    touched = bool(run.contact_s.max() > TOUCHED_S)
    bottom_m = scenario.conditions.bottom_depth_m
    return {"one": as_json(one), "low_m": low, "high_m": high, "bottom_m": bottom_m, "touched": touched}

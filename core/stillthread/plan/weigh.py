"""A way to fish of the angler's own: a choice of the plan with one thing changed, weighed as the plan weighs its own."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from stillthread.depth.picture import WaterPicture, check_open_water
from stillthread.errors import BadInput
from stillthread.plan.choose import Plan, Scorer, rank_one
from stillthread.plan.enumerate import Box, build_for
from stillthread.plan.options import Hang, Option, simulate_option
from stillthread.plan.rank import water_for
from stillthread.rules.water_rules import AgainstTheRules, WaterRules, check_rig
from stillthread.sinking.cast import Cast
from stillthread.sinking.troll import Troll
from stillthread.tackle.build import check_landing
from stillthread.tackle.rig import Rig

WAYS = {"cast": (Cast, "cast"), "hang": (Hang, "hung under a float"), "tow": (Troll, "towed")}


def weigh(
    option: Option,
    picture: WaterPicture,
    box: Box,
    rules: WaterRules,
    *,
    cast_m: float = 18.0,
    school_key: str = "best",
    fluorocarbon: str = "when-bright",
    pressed: bool = False,
    own_leader: bool = False,
) -> Plan:
    """Return the plan of one option alone. Parameters are those of `choose`.

    A float that was moved hangs on a leader cut for its new depth, unless the leader is the angler's own; where it could no
    longer be landed fixed, it is one of the box that lets go or slides.

    Raises
    ------
    OnIce
        Ice covers the water.
    AgainstTheRules
        The water does not allow it.
    BadInput
        It is not done the way of its method, or there is no room for its flies.
    """
    check_open_water(picture)
    kind, done = WAYS[option.method.way]
    if not isinstance(option.action, kind):
        raise BadInput(f"{option.method.name}: for that the flies are {done}.", field="method_key")
    check_option(option, rules, picture.conditions.at.date())
    if isinstance(option.action, Hang) and not own_leader:
        option = _hung_anew(option, option.action, picture, box, fluorocarbon)
    scorer = Scorer(picture, school_key, pressed)
    result = simulate_option(option, water_for(picture, cast_m))
    return Plan((rank_one(scorer, option, result),), {}, (), 1, scorer.matcher)


def check_option(option: Option, rules: WaterRules, on: date) -> None:
    """Raise `AgainstTheRules` when a way to fish may not be used here on this day."""
    check_rig(rules, option.rig, on)
    ban = rules.ban_on(option.method.key, on)
    if ban is not None:
        raise AgainstTheRules(ban.sentence, field="method_key")
    for broken, what in (
        (not rules.indicators and isinstance(option.action, Hang), "Indicators"),
        (not rules.boats and option.method.key in {"drift-boat", "tow"}, "Boats"),
        (not rules.lures and any(fly.style == "lure" for fly in option.flies), "Lures"),
        (not rules.static_buoyant and option.static and any(fly.buoyant for fly in option.flies), "Buoyant flies fished still"),
    ):
        if broken:
            raise AgainstTheRules(f"{what} are not allowed on this water.", field="method_key")


def _hung_anew(option: Option, action: Hang, picture: WaterPicture, box: Box, fluorocarbon: str) -> Option:
    upper = len(option.flies) - 1
    apart = min(option.method.spacing_m, (action.set_depth_m - 0.3) / (upper + 1))
    if upper and apart < 0.4:
        raise BadInput(
            "The flies would hang less than 0.4 m apart. Tie on fewer, or set the float deeper.", field="set_depth_m"
        )
    placed = tuple(replace(fly, above_point_m=k * apart) for k, fly in enumerate(option.rig.flies))
    kinds = [action.kind, *(kind for kind in ("sliding", "quick-release") if kind in box.indicators)]
    landed = [kind for kind in kinds if check_landing(action.set_depth_m, box.rod_m, kind).ok]
    moved = replace(option, rig=replace(option.rig, flies=placed), action=replace(action, kind=(landed or kinds)[0]))
    leader = build_for(moved, picture, fluorocarbon, box.spools).leader
    return replace(moved, rig=Rig(option.rig.line, leader, placed))

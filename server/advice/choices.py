"""Ask the core for a plan out of the box: the best of each method, with how to tie it and what to do when nothing comes."""

from __future__ import annotations

from dataclasses import asdict
from datetime import timedelta
from typing import Any

from django.utils import timezone

from accounts.models import User
from advice.choice_schemas import CalendarIn, ChoicesIn, LeaderBuildIn, WeighingIn
from advice.payloads import action_of, conditions_of, rig_of
from advice.run_serializers import PLAN_FRAMES, show_action, show_action_run
from advice.serializers import show_line, show_phrase
from box.models import Fly, Line, Spool
from box.services import core_box_fly, core_leader, core_line, items_of
from stillthread.api import (
    METHODS,
    SCHOOLS,
    BadInput,
    Box,
    BoxFly,
    Build,
    CastResult,
    Landing,
    Leader,
    Option,
    Phrase,
    Pins,
    Plan,
    Ranked,
    Rung,
    SpreadResult,
    Tied,
    Water,
    WaterPicture,
    WaterRules,
    Window,
    best_addition,
    build_for,
    build_leader,
    build_under_indicator,
    check_landing,
    choose,
    day_strip,
    from_spools,
    given_for,
    ladder,
    minutes_left,
    read_water,
    search_table,
    seats,
    second_rod,
    shift_of,
    side_of,
    spreads_of_options,
    tippet_for,
    warnings,
    water_for,
    weigh,
    write_calendar,
)
from stillthread.api import Spool as CoreSpool
from waters.services import rules_of, water_of


def _plan(owner: User, payload: ChoicesIn) -> tuple[WaterPicture, Box, WaterRules, Plan]:
    picture = read_water(conditions_of(owner, payload.conditions))
    box = _box(owner, payload)
    pins = Pins(
        payload.pins.method_key,
        payload.pins.line_name,
        payload.pins.fly_name,
        core_leader(payload.pins.leader.dict()) if payload.pins.leader else None,
    )
    home = water_of(owner, payload.conditions.water_id)
    rules = rules_of(home)
    plan = choose(
        picture, box, rules, cast_m=payload.cast_m, pins=pins, school_key=payload.school_key,
        fluorocarbon=payload.fluorocarbon, pressed=payload.pressed, fish_kg=home.usual_fish_kg, thorough=payload.thorough,
    )  # fmt: skip
    return picture, box, rules, plan


def make_search(owner: User, payload: ChoicesIn) -> dict[str, Any]:
    """Return the table that the search on the water thinks with."""
    picture, _, _, plan = _plan(owner, payload)
    strip = day_strip(picture.conditions)
    factor = water_of(owner, payload.conditions.water_id).takes_factor or 1.0
    table, ways = search_table(plan, factor, show_action)
    fish = {key: {"rig": show_rig(option), "action": show_action(option.action)} for key, option in ways.items()}
    searched = {**table, "shift": shift_of(strip, picture), "day_min": minutes_left(strip, picture)}
    return {"table": searched, "fish": fish, "tie": {fly.name: asdict(fly.fly) for fly in plan.scorer.given.flies}}


def show_rig(option: Option) -> dict[str, Any]:
    flies = [
        {"fly": asdict(placed.fly), "above_point_m": round(placed.above_point_m, 2), "dropper_m": placed.dropper_m}
        for placed in option.rig.flies
    ]
    return {"line": show_line(option.rig.line), "leader": show_leader(option.rig.leader), "flies": flies}


def make_choices(owner: User, payload: ChoicesIn) -> dict[str, Any]:
    """Return the best of each method that box, rules and water allow."""
    picture, box, rules, plan = _plan(owner, payload)
    other = second_rod(plan, picture)
    more = best_addition(plan) if payload.thorough else None
    water = water_for(picture, payload.cast_m)
    factor = water_of(owner, payload.conditions.water_id).takes_factor or 1.0
    return {
        "water": {
            "water_c": water.water_c,
            "bottom": [{"distance_m": distance, "depth_m": depth} for distance, depth in water.bottom],
            "weed_m": water.weed_m,
        },
        "ranked": show_ranked(plan, water, factor, rod_m=payload.rod_m, school_key=payload.school_key),
        "correction": None if factor == 1.0 else factor,
        "excluded": [{"method_key": key, "method_name": METHODS[key].name, "why": why} for key, why in plan.excluded.items()],
        "changes": [{"words": c.words, "method_key": c.best_key, "method_name": c.best_name} for c in plan.changes],
        "lines": [
            {
                "name": one.line_name,
                "method_key": one.method_key,
                "method_name": METHODS[one.method_key].name,
                "takes_ph": round(one.takes_ph * factor, 3),
            }
            for one in plan.lines
        ],
        "second_rod": None
        if other is None
        else {"method_key": other[0].option.method.key, "covers_one": round(other[1], 3), "covers_both": round(other[2], 3)},
        "addition": None if more is None else {**asdict(more), "gain": round(more.gain, 3)},
        "rules": list(rules.sentences()),
        "not_for_the_rod": [f"{line.name} ({line.number})" for line in box.lines if not box.suits_rod(line)],
        "tried": plan.tried,
    }


def weigh_one(owner: User, payload: WeighingIn) -> dict[str, Any]:
    """Return what one way to fish is worth, as one of the plan's choices; its ladder names no other method."""
    picture = read_water(conditions_of(owner, payload.choices.conditions))
    box = _box(owner, payload.choices)
    method = METHODS.get(payload.method_key)
    if method is None:
        raise BadInput(f"method {payload.method_key!r} is not known. Known: {', '.join(METHODS)}.", field="method_key")
    rig = rig_of(payload.fished.rig)
    action = action_of(payload.fished.action, picture.conditions.wind.speed_mps)
    owned = {fly.name: fly for fly in box.flies}
    flies = tuple(owned.get(placed.fly.name, BoxFly(placed.fly)) for placed in rig.flies)
    home = water_of(owner, payload.choices.conditions.water_id)
    leader = payload.choices.pins.leader
    given = given_for(
        picture, box, rules_of(home), cast_m=payload.choices.cast_m,
        pins=Pins(leader=core_leader(leader.dict()) if leader else None), fluorocarbon=payload.choices.fluorocarbon,
        pressed=payload.choices.pressed, fish_kg=home.usual_fish_kg,
    )  # fmt: skip
    plan = weigh(Option(method, rig, flies, action), given, school_key=payload.choices.school_key)
    asked = payload.choices
    water = water_for(picture, given.cast_m)
    return show_ranked(plan, water, home.takes_factor or 1.0, rod_m=asked.rod_m, school_key=asked.school_key)[0]


def _box(owner: User, payload: ChoicesIn) -> Box:
    lines = tuple(core_line(vars(line)) for line in items_of(Line, owner)[:30])
    flies = tuple(core_box_fly(vars(fly)) for fly in items_of(Fly, owner)[:400])
    return Box(
        lines=lines,
        flies=flies,
        rod_m=payload.rod_m,
        boat=payload.boat,
        indicators=tuple(payload.indicators),
        rod_number=payload.rod_number,
        spools=_spools(owner),
    )


def _spools(owner: User) -> tuple[CoreSpool, ...]:
    return tuple(CoreSpool(spool.material, spool.diameter_m) for spool in items_of(Spool, owner))


def show_ranked(
    plan: Plan, water: Water, factor: float = 1.0, *, rod_m: float = 3.0, school_key: str = "best"
) -> list[dict[str, Any]]:
    """Return the best of each method of a plan, with its run and how unsure it is."""
    spreads = spreads_of_options([one.option for one in plan.ranked], [one.result for one in plan.ranked], water)
    return [_show(one, i, plan, water, spreads[i], factor, rod_m, school_key) for i, one in enumerate(plan.ranked)]


def _show(
    one: Ranked,
    index: int,
    plan: Plan,
    water: Water,
    spread: SpreadResult,
    factor: float,
    rod_m: float,
    school_key: str,
) -> dict[str, Any]:
    given, method = plan.scorer.given, one.option.method
    lean = given.picture.conditions.lean
    option, action = one.option, one.option.action
    low, high = one.result.middle_depth_m()
    built = build_for(option, given) if given.pins.leader is None else None
    landing = action.landing(rod_m)
    return {
        "method": {name: getattr(method, name) for name in ("key", "name", "way", "suits", "needs", "spoils")},
        **show_rig(option),
        "action": show_action(action),
        "run": show_action_run(option.rig, action, spread, water, PLAN_FRAMES),
        "takes_ph": round(one.takes_ph * factor, 3),
        "takes_low_ph": round(one.low_ph * factor, 3),
        "takes_high_ph": round(one.high_ph * factor, 3),
        "if_deeper_ph": round(one.if_deeper_ph * factor, 3),
        "if_shallower_ph": round(one.if_shallower_ph * factor, 3),
        "if_calm_ph": round(one.if_calm_ph * factor, 3),
        "as_good": one.as_good,
        "minutes_in_band": round(one.minutes_in_band, 1),
        "low_m": round(low, 2),
        "high_m": round(high, 2),
        "reasons": [
            show_phrase(reason) for reason in (*one.reasons, *_across(option, one.result), *([lean.why] if lean else []))
        ],
        "weak_point": show_phrase(one.weak_point),
        "seats": [{**asdict(seat), "why": show_phrase(seat.why)} for seat in seats(one, given.picture)],
        "warnings": [show_phrase(said) for said in warnings(one, given.setting.wind_mps)],
        "build": _show_build(built) if built else None,
        "landing": _show_landing(landing),
        "ladder": [_show_rung(rung) for rung in ladder(plan, SCHOOLS[school_key], index)],
    }


def _across(option: Option, result: CastResult) -> tuple[Phrase, ...]:
    """Return what side wind does to it, in words."""
    side = side_of(result, option.action.mends_s)
    return () if side is None else side.words


def show_leader(leader: Leader) -> dict[str, Any]:
    return {
        "name": leader.name,
        "sections": [asdict(section) for section in leader.sections],
        "hardware": [asdict(piece) for piece in leader.hardware],
    }


def _show_build(built: Build) -> dict[str, Any]:
    return {
        "cuts": [asdict(cut) for cut in built.cuts],
        "total_m": round(built.leader.length_m, 2),
        "tippet_x": built.tippet.x_number,
        "tippet_diameter_m": built.tippet.diameter_m,
        "tippet_strength_kgf": round(built.tippet.strength_kgf, 1),
        "tippet_why": list(built.tippet.why),
        "knots": list(built.knots),
        "hints": [show_phrase(hint) for hint in built.hints],
    }


def build_one(owner: User, payload: LeaderBuildIn) -> dict[str, Any]:
    """Return how to tie a leader of a length of one's own, from the spools in the box."""
    wanted = tippet_for(
        [Tied(payload.hook_size)], secchi_m=payload.secchi_m, brightness=payload.brightness, weed_m=payload.weed_m,
        fish_kg=payload.fish_kg, fluorocarbon=payload.fluorocarbon,
    )  # fmt: skip
    tippet = from_spools(wanted, _spools(owner), any_material=payload.fluorocarbon == "when-bright")
    landing = None
    if payload.under_indicator:
        built = build_under_indicator(
            payload.length_m, payload.droppers_m, tippet, thin_m=payload.thin_m, below_m=payload.below_m
        )
        landing = check_landing(payload.length_m, payload.rod_m, payload.indicator)
    else:
        built = build_leader(payload.length_m, payload.droppers_m, tippet)
    return {"build": _show_build(built), "leader": show_leader(built.leader), "landing": _show_landing(landing)}


def _show_landing(landing: Landing | None) -> dict[str, Any] | None:
    return {"ok": landing.ok, "needs": landing.needs, "why": show_phrase(landing.why)} if landing else None


def _show_rung(rung: Rung) -> dict[str, Any]:
    return {"changes": rung.changes, "minutes": rung.minutes, "words": show_phrase(rung.words)}


def make_calendar(owner: User, payload: CalendarIn) -> bytes:
    """Return the day's low light and likeliest hours as iCalendar."""
    conditions = conditions_of(owner, payload.conditions)
    water = water_of(owner, payload.conditions.water_id)
    strip = day_strip(conditions)
    windows = [Window(begins, ends, "Low light: they may come up") for begins, ends in strip.low_light]
    hour = timedelta(hours=1)
    windows += [
        Window(one.at, one.at + hour, f"Likely {one.food_name.lower()}", f"{one.band[0]:.1f} to {one.band[1]:.1f} m down")
        for one in strip.hours
        if one.food_probability > 0.4
    ]
    return write_calendar(windows, water.name, timezone.now().replace(microsecond=0))

"""Deal, fish and end practice days. The truth stays here until the day has ended, or was taken along."""

from __future__ import annotations

import random
from collections.abc import Mapping
from dataclasses import asdict, dataclass
from functools import lru_cache
from typing import Any
from uuid import UUID

from common.problems import Refused
from django.db import transaction
from django.shortcuts import get_object_or_404
from django.utils import timezone

from accounts.models import User
from advice.choices import show_ranked, show_rig
from advice.payloads import action_of, rig_of
from advice.run_serializers import show_action
from advice.serializers import show_picture
from practice.models import PracticeDay
from practice.schemas import ActIn, PracticeDayIn, ShotIn
from stillthread.api import (
    DAY_MIN,
    READING_MIN,
    SCHOOLS,
    STARTER_FLIES,
    BadInput,
    Box,
    Option,
    Own,
    Plan,
    Scenario,
    WaterRules,
    another_day,
    by_advice,
    check_seed,
    choose,
    fished_by,
    game,
    new_seed,
    read_so_far,
    read_water,
    scenario_of,
    search_of,
    seed_of_week,
    shot_of,
    starter_lines,
    water_for,
)
from waters.services import water_of

MOST_DAYS = 500
MOST_PLANS = 8  # some five megabytes each: as many as two who play at a time ask of
BOX = Box(lines=starter_lines(), flies=STARTER_FLIES)
EVERY = frozenset(READING_MIN)
DONE_OTHERWISE = "Something else was done there, perhaps on another device."


def day_of(owner: User, day_id: UUID, *, lock: bool = False) -> PracticeDay:
    rows = PracticeDay.objects.select_for_update() if lock else PracticeDay.objects
    return get_object_or_404(rows, pk=day_id, owner=owner)


@dataclass(frozen=True, slots=True)
class Of:
    """What a day's water was dealt from."""

    seed: str
    level: str
    own: Own | None

    def deal(self) -> Scenario:
        return scenario_of(self.seed, self.level, self.own)


def water_of_day(day: PracticeDay) -> Of:
    own = Own(**day.own) if day.own else None
    return Of(day.seed, day.level, own) if day.like is None else Of(day.like["seed"], day.like["level"], own)


def scenario_of_day(day: PracticeDay) -> Scenario:
    scenario = water_of_day(day).deal()
    return scenario if day.like is None else another_day(scenario, day.seed, day.level)


def put_day(owner: User, day_id: UUID, payload: PracticeDayIn) -> tuple[PracticeDay, bool]:
    """Deal a day under the device's id; a resend changes nothing."""
    known = PracticeDay.objects.filter(pk=day_id).first()
    if known is not None:
        if known.owner_id != owner.pk:
            raise Refused(409, "id_taken", "Another day has this id. Make a new one.")
        return known, False
    if PracticeDay.objects.filter(owner=owner).count() >= MOST_DAYS:
        raise Refused(409, "too_many", f"There are {MOST_DAYS} practice days. Remove some first.")
    seed = seed_of_week(timezone.localdate()) if payload.week else payload.seed
    seed = check_seed(seed) if seed else new_seed(random.SystemRandom())
    day = PracticeDay(id=day_id, owner=owner, seed=seed, level=payload.level)
    if payload.like is not None:
        first = day_of(owner, payload.like)
        if first.taken is None or first.taken["made"]:
            why = "Only a day that was taken along before anything was read can be followed by another on its water."
            raise Refused(409, "not_taken", why)
        of = water_of_day(first)
        day.own, day.taken, day.like = first.own, first.taken, {"seed": of.seed, "level": of.level}
    elif payload.water_id is not None:
        day.own = asdict(_own(owner, payload.water_id))
    scenario_of_day(day)
    defaults = {name: getattr(day, name) for name in ("owner", "seed", "level", "own", "like", "taken")}
    # A resend that is under way at the same time finds the first one.
    return PracticeDay.objects.get_or_create(id=day_id, defaults=defaults)


def _own(owner: User, water_id: int) -> Own:
    """Return a water of the angler's as it is now: the day keeps it so, whatever becomes of the water."""
    water = water_of(owner, water_id)
    return Own(
        name=water.name,
        latitude_deg=water.latitude_deg,
        longitude_deg=water.longitude_deg,
        altitude_m=water.altitude_m,
        fetch_km=water.fetch_km,
        bottom_m=water.usual_bottom_depth_m,
        secchi_m=water.usual_secchi_m,
        species=water.species,
    )


def do_act(owner: User, day_id: UUID, number: int, payload: ActIn) -> PracticeDay:
    """Do the act of this number: sent again it is answered as before. What a cast brings is settled by the path of this very
    rig against what is hidden."""
    day = day_of(owner, day_id)
    if payload.kind == "end":
        if number < len(day.log):
            raise Refused(409, "done_otherwise", DONE_OTHERWISE)
        return day if day.ended_at is not None else _end(owner, day, number)
    scenario = scenario_of_day(day)
    done: dict[str, Any] = payload.dict()
    if payload.kind == "cast":
        done = {"kind": "cast", "shot": _shot(day, scenario, payload)}
    with transaction.atomic():
        day = day_of(owner, day_id, lock=True)
        if number < len(day.log):
            if _of(day.log[number]) != _of(done):
                raise Refused(409, "done_otherwise", DONE_OTHERWISE)
            return day
        _check_turn(day, number)
        try:
            day.log.append(game.act(scenario.hidden, day.log, done))
        except game.NotNow as refused:
            raise Refused(409, refused.code, refused.detail) from None
        day.save(update_fields=["log"])
    return day


def _check_turn(day: PracticeDay, number: int) -> None:
    if day.ended_at is not None:
        raise Refused(409, "day_ended", "This day has ended. Deal another.")
    if number > len(day.log):
        raise Refused(409, "out_of_turn", f"The next act has the number {len(day.log)}.")


def _of(act: Mapping[str, Any]) -> tuple[Any, ...]:
    """Return what makes an act the same as another."""
    shot = act.get("shot", act)
    return act["kind"], act.get("what"), shot["one"]["key"] if act["kind"] == "cast" else None


def _shot(day: PracticeDay, scenario: Scenario, payload: ShotIn) -> dict[str, Any]:
    wind_mps = scenario.weather(game.at_min(day.log))[0].speed_mps
    return shot_of(rig_of(payload.rig), action_of(payload.action, wind_mps), scenario)


def make_shot(owner: User, day_id: UUID, payload: ShotIn) -> dict[str, Any]:
    """Return what a rig is as fish see it, for a day that was taken along."""
    day = day_of(owner, day_id)
    if day.taken is None:
        raise Refused(409, "not_taken", "That is told of a day that was taken along.")
    return _shot(day, scenario_of_day(day), payload)


def _end(owner: User, day: PracticeDay, number: int) -> PracticeDay:
    """End the day, early or in its time, and tell what it was."""
    _check_turn(day, number)
    told = game.tell(scenario_of_day(day).hidden, plan_of(day)[1], day.log)
    with transaction.atomic():
        day = day_of(owner, day.pk, lock=True)
        if day.ended_at is None:
            _check_turn(day, number)
            day.ended_at, day.told = timezone.now(), told
            day.save(update_fields=["ended_at", "told"])
    return day


@lru_cache(maxsize=MOST_PLANS)
def planned(of: Of, made: frozenset[str], hour: int) -> tuple[Plan, dict[str, Any], dict[str, Option]]:
    """Return the plan for a day as it has been read, with its search table; kept, for it is asked again after each cast."""
    picture = read_water(read_so_far(of.deal(), made, 60.0 * hour))
    plan = choose(picture, BOX, WaterRules())
    table, ways = search_of(plan)
    return plan, table, ways


def plan_of(day: PracticeDay) -> tuple[Plan, dict[str, Any], dict[str, Option]]:
    """Return the plan for what has been read by now; of a day that was taken along, the best that went with it."""
    of = water_of_day(day)
    if day.taken is not None:
        sets = game.ahead(frozenset(day.taken["made"]))
        made = sets[game.nearest(sets, game.made(day.log))]
        return planned(of, made, day.taken["hour"])
    return planned(of, game.made(day.log), hour_of(day))


def hour_of(day: PracticeDay) -> int:
    """Return the hour that the plan is made for: that of the first cast, or this one."""
    return int(next((one["at_min"] for one in day.log if one["kind"] == "cast"), game.at_min(day.log)) / 60.0)


def show_plan(owner: User, day_id: UUID) -> dict[str, Any]:
    return show_plan_of(plan_of(day_of(owner, day_id))[0])


def show_plan_of(plan: Plan) -> dict[str, Any]:
    water = water_for(plan.scorer.picture, plan.scorer.given.cast_m)
    return {"ranked": show_ranked(plan, water), "water_c": water.water_c}


def show_advice(owner: User, day_id: UUID) -> dict[str, Any]:
    """Return what the app would do next, from what the angler knows."""
    day = day_of(owner, day_id)
    _, table, ways = plan_of(day)
    answer = game.advise(table, day.log)
    option = ways.get(answer.pop("key"))
    return {**answer, **({"rig": None, "action": None} if option is None else show_option(option))}


def show_option(option: Option) -> dict[str, Any]:
    return {"rig": show_rig(option), "action": show_action(option.action)}


def by_school(owner: User, day_id: UUID, school: str) -> dict[str, Any]:
    """Return what the app would have taken by another school, once the day has ended."""
    day = day_of(owner, day_id)
    if day.ended_at is None:
        raise Refused(409, "not_ended", "That is told when the day has ended.")
    if school not in SCHOOLS:
        raise BadInput(f"school {school!r} is not known. Known: {', '.join(SCHOOLS)}.", field="school")
    takes = fished_by(scenario_of_day(day).hidden, by_advice(plan_of(day)[1], school))
    return {"name": SCHOOLS[school].name, "takes": round(takes, 2)}


def show_row(day: PracticeDay) -> dict[str, Any]:
    casts = game.casts(day.log)
    return {
        **{name: getattr(day, name) for name in ("id", "seed", "level", "created_at", "ended_at")},
        "water": day.own["name"] if day.own else None,
        "taken": day.taken is not None,
        "casts": len(casts),
        "takes": sum(map(game.took, casts)),
        "knew": None if day.told is None else day.told["knew"],
    }


def show_day(day: PracticeDay) -> dict[str, Any]:
    """Return a day as far as it has been fished. Of the truth nothing is in it before it has ended."""
    scenario, at = scenario_of_day(day), min(game.at_min(day.log), DAY_MIN)
    return {
        **show_name(day),
        **game.show(day.log, day.told),
        **show_seen(scenario, EVERY if day.told else game.made(day.log), at),
    }


def show_name(day: PracticeDay) -> dict[str, Any]:
    return {
        "id": day.pk, "seed": day.seed, "level": day.level, "water": scenario_of_day(day).water,
        "own": day.own is not None, "for_friends": day.own is None and day.like is None, "taken": day.taken is not None,
    }  # fmt: skip


def show_seen(scenario: Scenario, made: frozenset[str], at_min: float) -> Mapping[str, Any]:
    """Return the water as it has been read by then."""
    known = read_so_far(scenario, made, at_min)
    return {
        "picture": show_picture(read_water(known)),
        "bottom_m": known.bottom_depth_m,
        "wind_speed_mps": known.wind.speed_mps,
        "cloud_fraction": known.cloud_fraction,
    }

"""Deal, fish and end practice days; ask and score drills. The truth stays here until the day has ended."""

from __future__ import annotations

import random
from datetime import timedelta
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
from advice.run_shows import show_action
from advice.shows import show_phrase, show_picture
from practice.models import Drill, PracticeDay
from practice.schemas import PracticeCastIn, PracticeDayIn
from stillthread.depth.picture import read_water
from stillthread.errors import BadInput
from stillthread.phrase import Phrase
from stillthread.plan.box import Box
from stillthread.plan.casting_water import water_for
from stillthread.plan.choose import Plan, choose
from stillthread.plan.handed import CLASSES, hand_over, told
from stillthread.plan.option import Option
from stillthread.plan.schools import SCHOOLS
from stillthread.practice import drills
from stillthread.practice.answer import PLAYED_MIN, cast, takes_of
from stillthread.practice.deal import (
    DAY_MIN,
    MOVE_MIN,
    READING_MIN,
    Dealt,
    check_seed,
    deal,
    new_seed,
    read_so_far,
    seed_of_week,
)
from stillthread.practice.fished import presentation
from stillthread.practice.told import Cast, by_advice, by_ladder, fished_by, knew, luck_of, moments
from stillthread.rules.water_rules import WaterRules
from stillthread.search.day import Table, Thinker
from stillthread.search.presentation import Costs, Presentation
from stillthread.tackle.starter import STARTER_FLIES, starter_lines

MOST_DAYS, MOST_DRILLS = 500, 5000
BOX = Box(starter_lines(), STARTER_FLIES)
TOUCHED_S = 1.0  # ours: a fly that lies on the bottom for so long is felt to touch
EVERY = frozenset(READING_MIN)
FOUND = {
    "lowering": "You lowered a thermometer.",
    "look": "You looked about.",
    "sounding": "You sounded the bottom.",
    "clarity": "You let down a disc.",
}


def day_of(owner: User, day_id: UUID, *, lock: bool = False) -> PracticeDay:
    rows = PracticeDay.objects.select_for_update() if lock else PracticeDay.objects
    return get_object_or_404(rows, pk=day_id, owner=owner)


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
    deal(seed, payload.level)
    # A resend that is under way at the same time finds the first one.
    return PracticeDay.objects.get_or_create(id=day_id, defaults={"owner": owner, "seed": seed, "level": payload.level})


def _at_min(day: PracticeDay) -> float:
    return float(day.log[-1]["ends_min"]) if day.log else 0.0


def _made(day: PracticeDay) -> frozenset[str]:
    return frozenset(one["what"] for one in day.log if one["kind"] == "reading")


def _place(day: PracticeDay) -> int:
    return sum(one["kind"] == "place" for one in day.log)


def _casts(day: PracticeDay) -> list[dict[str, Any]]:
    return [one for one in day.log if one["kind"] == "cast"]


def _check_open(day: PracticeDay) -> None:
    if day.ended_at is not None:
        raise Refused(409, "day_ended", "This day has ended. Deal another.")
    if _at_min(day) >= DAY_MIN:
        raise Refused(409, "day_over", "The day is over: end it and see what it was.")


@transaction.atomic
def make_reading(owner: User, day_id: UUID, what: str) -> PracticeDay:
    """Make a reading: it costs its minutes, once."""
    day = day_of(owner, day_id, lock=True)
    if what in _made(day):
        return day
    _check_open(day)
    at = _at_min(day)
    day.log.append({"kind": "reading", "what": what, "at_min": at, "ends_min": at + READING_MIN[what]})
    day.save(update_fields=["log"])
    return day


@transaction.atomic
def move_on(owner: User, day_id: UUID) -> PracticeDay:
    """Move to another place of the same water."""
    day = day_of(owner, day_id, lock=True)
    _check_open(day)
    at = _at_min(day)
    day.log.append({"kind": "place", "at_min": at, "ends_min": at + MOVE_MIN})
    day.save(update_fields=["log"])
    return day


def make_cast(owner: User, day_id: UUID, payload: PracticeCastIn) -> PracticeDay:
    """Fish one cast: what comes is settled by the path of this very rig against what is hidden."""
    day = day_of(owner, day_id)
    dealt = deal(day.seed, day.level)
    if payload.number < len(_casts(day)):
        return day
    rig, action = rig_of(payload.rig), action_of(payload.action, dealt.weather(_at_min(day))[0].speed_ms)
    one, run = presentation(rig, action, dealt)
    with transaction.atomic():
        day = day_of(owner, day_id, lock=True)
        before = _casts(day)
        if payload.number < len(before):
            return day
        if payload.number > len(before):
            raise Refused(409, "out_of_turn", f"The next cast has the number {len(before)}.")
        _check_open(day)
        last = Presentation.of(before[-1]["one"]) if before else None
        begins = _at_min(day) + Costs().between(last, one)
        place = _place(day)
        came = cast(dealt, payload.number, one, begins, place)
        took = bool(came) and came[-1].kind in {"take", "lost"}
        # Between which depths any of its flies worked.
        middle = run.middle_depths_m()
        low, high = float(middle[:, 0].min()), float(middle[:, 1].max())
        day.log.append({
            "kind": "cast", "at_min": round(begins, 2), "ends_min": round(begins + one.minutes + PLAYED_MIN * took, 2),
            "one": told(one), "place": place, "expected": takes_of(dealt.truth, one, begins, place),
            "came": [{"kind": c.kind, "depth_m": c.depth_m, "fly": c.fly} for c in came],
            "low_m": round(low, 2), "high_m": round(high, 2), "words": _words(one),
            "touched": bool(run.contact_s.max() > TOUCHED_S),
        })  # fmt: skip
        day.save(update_fields=["log"])
    return day


def _words(one: Presentation) -> str:
    flies = " / ".join(fly.name for fly in reversed(one.flies))
    return f"{'Float' if one.float_m is not None else one.line}: {flies}"


@lru_cache(maxsize=16)
def _plan(seed: str, level: str, made: frozenset[str], hour: int) -> tuple[Plan, dict[str, Any], dict[str, Option]]:
    """Return the plan for a day as it has been read, with its search table; kept, for it is asked again after each cast."""
    picture = read_water(read_so_far(deal(seed, level), made, 60.0 * hour))
    plan = choose(picture, BOX, WaterRules())
    table, ways = hand_over(plan)
    return plan, table, ways


def _plan_of(day: PracticeDay) -> tuple[Plan, dict[str, Any], dict[str, Option]]:
    first = next((one["at_min"] for one in day.log if one["kind"] == "cast"), _at_min(day))
    return _plan(day.seed, day.level, _made(day), int(first / 60.0))


def show_plan(owner: User, day_id: UUID) -> dict[str, Any]:
    day = day_of(owner, day_id)
    plan, _, _ = _plan_of(day)
    water = water_for(plan.scorer.picture, plan.scorer.given.cast_m)
    return {"ranked": show_ranked(plan, water), "water_c": water.water_c}


def show_advice(owner: User, day_id: UUID) -> dict[str, Any]:
    """Return what the app would do next, from what the angler knows."""
    day = day_of(owner, day_id)
    _, table, ways = _plan_of(day)
    happened, fished = _happened(day)
    if not happened:
        option = next(iter(ways.values()))
        words = [Phrase("Nothing was cast yet: begin with what the plan puts first.")]
        return {"change": True, "elsewhere": False, "words": [show_phrase(p) for p in words], **_show_option(option)}
    answer = Thinker(table).think({"fished": fished, "happened": happened, "now_min": _at_min(day)})
    move = answer["move"]
    if move is None:
        return {"change": False, "elsewhere": False, "words": [], "rig": None, "action": None}
    best = ways.get(move["best"]["key"]) if move["change"] else None
    shown = {"rig": None, "action": None} if best is None else _show_option(best)
    return {"change": move["change"], "elsewhere": move["elsewhere"], "words": move["words"], **shown}


def _show_option(option: Option) -> dict[str, Any]:
    return {"rig": show_rig(option), "action": show_action(option.action)}


def _happened(day: PracticeDay) -> tuple[list[dict[str, Any]], dict[str, Any]]:
    """Return the day as the search reads a log."""
    happened: list[dict[str, Any]] = []
    fished: dict[str, Any] = {}
    for one in day.log:
        if one["kind"] == "place" and fished:
            happened.append({"kind": "place", "at_min": one["ends_min"], "fished": next(reversed(fished))})
        if one["kind"] != "cast":
            continue
        key, ends = one["one"]["key"], one["ends_min"]
        fished[key] = one["one"]
        happened.append({"kind": "cast", "at_min": one["at_min"], "fished": key})
        kinds = {"follow": "follow", "knock": "knock", "take": "take", "lost": "take"}
        for c in one["came"]:
            line = {"kind": kinds[c["kind"]], "at_min": ends, "fished": key, "depth_m": c["depth_m"], "fly": c["fly"]}
            happened.append(line)
        took = bool(one["came"]) and one["came"][-1]["kind"] in {"take", "lost"}
        happened.append({"kind": "landed" if took else "nothing", "at_min": ends, "fished": key, "depth_m": 0.0})
    return happened, fished


def end_day(owner: User, day_id: UUID) -> PracticeDay:
    """End the day, early or in its time, and tell what it was. Ended twice it is ended once."""
    day = day_of(owner, day_id)
    if day.ended_at is None:
        result = _tell(day)
        with transaction.atomic():
            day = day_of(owner, day_id, lock=True)
            if day.ended_at is None:
                day.ended_at, day.told = timezone.now(), result
                day.save(update_fields=["ended_at", "told"])
    return day


def _tell(day: PracticeDay) -> dict[str, Any]:
    dealt = deal(day.seed, day.level)
    _, table, _ = _plan_of(day)
    options = Table.of(table).options
    casts = [Cast(one["at_min"], Presentation.of(one["one"]), one["place"], one["expected"], _took(one)) for one in _casts(day)]
    truth = dealt.truth
    every = [5.0 * k for k in range(int(DAY_MIN / 5.0) + 1)]
    return {
        "takes": sum(one.takes for one in casts),
        "expected": round(sum(one.expected for one in casts), 2),
        "ladder": round(fished_by(dealt, by_ladder(options)), 2),
        "advice": round(fished_by(dealt, by_advice(table)), 2),
        "knew": round(knew(dealt, options), 2),
        "luck": round(luck_of(casts), 2),
        "hidden": {
            "kind": truth.kind, "at_min": every, "centre_m": [round(truth.centre_m(at), 2) for at in every],
            "here": [truth.rate_at(at, _place(day)) > 0.0 for at in every], "other_m": truth.other_m, "reach_m": truth.reach_m,
            "wanted": "anything" if truth.fly == 0 else CLASSES[truth.fly - 1],
        },
        "moments": [{"at_min": one.at_min, "cast": one.cast, "words": show_phrase(one.words)}
                    for one in moments(dealt, casts, options)],
    }  # fmt: skip


def by_school(owner: User, day_id: UUID, school: str) -> dict[str, Any]:
    """Return what the app would have taken by another school, once the day has ended."""
    day = day_of(owner, day_id)
    if day.ended_at is None:
        raise Refused(409, "not_ended", "That is told when the day has ended.")
    if school not in SCHOOLS:
        raise BadInput(f"school {school!r} is not known. Known: {', '.join(SCHOOLS)}.", field="school")
    dealt = deal(day.seed, day.level)
    _, table, _ = _plan_of(day)
    return {"name": SCHOOLS[school].name, "takes": round(fished_by(dealt, by_advice(table, school)), 2)}


def _took(one: dict[str, Any]) -> int:
    return sum(c["kind"] in {"take", "lost"} for c in one["came"])


def show_row(day: PracticeDay) -> dict[str, Any]:
    casts = _casts(day)
    return {
        **{name: getattr(day, name) for name in ("id", "seed", "level", "created_at", "ended_at")},
        "casts": len(casts),
        "takes": sum(map(_took, casts)),
        "knew": None if day.told is None else day.told["knew"],
    }


def show_day(day: PracticeDay) -> dict[str, Any]:
    """Return a day as far as it has been fished. Of the truth nothing is in it before it has ended."""
    dealt = deal(day.seed, day.level)
    at, made = _at_min(day), _made(day)
    ended = day.told is not None
    known = read_so_far(dealt, EVERY if ended else made, min(at, DAY_MIN))
    casts = [
        {
            "number": k, **{name: one[name] for name in ("at_min", "words", "low_m", "high_m", "touched")},
            "came": [{"kind": c["kind"], "depth_m": c["depth_m"], "fly": one["one"]["flies"][c["fly"]]["name"]}
                     for c in one["came"]],
            "expected": round(one["expected"], 3) if ended else None,
        }
        for k, one in enumerate(_casts(day))
    ]  # fmt: skip
    return {
        **{name: getattr(day, name) for name in ("id", "seed", "level")},
        "water": dealt.water,
        "clock": f"{dealt.conditions.at + timedelta(minutes=at):%H:%M}",
        "at_min": round(at, 1),
        "day_min": DAY_MIN,
        "made": sorted(made),
        "costs_min": dict(READING_MIN),
        "place": _place(day),
        "move_min": MOVE_MIN,
        "found": _found(day, dealt, made),
        "picture": show_picture(read_water(known)),
        "bottom_m": known.bottom_depth_m,
        "wind_speed_ms": known.wind.speed_ms,
        "cloud_fraction": known.cloud_fraction,
        "casts": casts,
        "takes": sum(map(_took, _casts(day))),
        "told": day.told,
    }


def _found(day: PracticeDay, dealt: Dealt, made: frozenset[str]) -> str:
    """Return what the last thing done was, where it was a reading or a move."""
    if not day.log or day.log[-1]["kind"] == "cast":
        return ""
    last = day.log[-1]
    return "You moved to another place." if last["kind"] == "place" else FOUND[last["what"]]


def make_drill(owner: User, kind: str) -> Drill:
    if Drill.objects.filter(owner=owner).count() >= MOST_DRILLS:
        raise Refused(409, "too_many", f"There are {MOST_DRILLS} drills.")
    drill = Drill(owner=owner, kind=kind)
    drill.seed = str(drill.pk)
    drill.save()
    return drill


@transaction.atomic
def answer_drill(owner: User, drill_id: UUID, answer: float) -> Drill:
    """Score an answer; the first one counts."""
    drill = get_object_or_404(Drill.objects.select_for_update(), pk=drill_id, owner=owner)
    if drill.points is None:
        drill.points, drill.answer = drills.score(drill.kind, drill.seed, answer).points, answer
        drill.save(update_fields=["points", "answer"])
    return drill


def show_drill(drill: Drill) -> dict[str, Any]:
    question = drills.ask(drill.kind, drill.seed)
    scored = None if drill.answer is None else drills.score(drill.kind, drill.seed, drill.answer)
    return {
        **{name: getattr(drill, name) for name in ("id", "kind", "created_at", "points")},
        "name": drills.KINDS[drill.kind],
        "words": show_phrase(question.words),
        "unit": question.unit,
        "choices": list(question.choices),
        "told": None if scored is None else show_phrase(scored.words),
    }

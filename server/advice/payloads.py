"""What comes over the API, turned into the core's values."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import datetime, timezone
from typing import Any, TypeVar
from zoneinfo import ZoneInfo

from django.utils import timezone as clock
from lake.services import safe_column_at

from accounts.models import User
from advice.action_schemas import CastIn, HangIn, RigIn, TowIn
from advice.condition_schemas import ConditionsIn, ReadingIn, SampleIn
from advice.leaning import lean_for
from box.services import core_fly, core_leader, core_line
from stillthread.api import (
    SURFACE,
    SURFACE_WITHIN_M,
    Action,
    BadInput,
    Cast,
    Conditions,
    Hang,
    Lowering,
    OxygenReading,
    PlacedFly,
    Reading,
    Rig,
    Sample,
    SampleItem,
    Troll,
    Usual,
    Wind,
    assume,
    check_time,
    filled,
    readings_now,
    retrieve_named,
    species_named,
)
from waters.services import lake_of, place_of, water_of
from waters.soundings import hypsography_at

C = TypeVar("C", bound=ConditionsIn)


def local_to_utc(at_local: datetime, time_zone: str) -> datetime:
    """Return clock time at a water as an aware time there; a time that has a zone already is carried over."""
    zone = ZoneInfo(time_zone)
    try:
        at = at_local.astimezone(zone) if at_local.tzinfo else at_local.replace(tzinfo=zone)
        at.astimezone(timezone.utc)  # the first and the last year have no room for every zone
    except OverflowError:
        raise BadInput(f"The year {at_local.year} is not one that was fished.", field="at_local") from None
    return at


def conditions_of(owner: User, payload: ConditionsIn, *, logged: bool = False) -> Conditions:
    """Return the core's conditions, or 404 for an unknown or another's water.

    What was `logged` may lie at any time: a clock can be wrong, and a day is not given up for it.
    """
    water = water_of(owner, payload.water_id)
    at = local_to_utc(payload.at_local, water.time_zone)
    if not logged:
        check_time(at, clock.now())
    read_at = local_to_utc(payload.read_at_local, water.time_zone) if payload.read_at_local else at
    counted = [r for r in payload.readings if r.depth_m > 0.0 or SURFACE not in payload.assumed]
    lowerings = [Lowering(read_at, readings_of(counted))]
    lowerings += [Lowering(local_to_utc(e.at_local, water.time_zone), readings_of(e.readings)) for e in payload.earlier]
    readings, earlier = readings_now(lowerings)
    # An earlier lowering may know the top.
    unread = [name for name in payload.assumed if name != SURFACE or all(r.depth_m > SURFACE_WITHIN_M for r in readings)]
    usual = Usual(water.usual_secchi_m, water.usual_bottom_depth_m)
    expected = safe_column_at(water, at)
    read = Conditions(
        place=place_of(water),
        lake=lake_of(water),
        at=at,
        readings=readings,
        wind=Wind(payload.wind_speed_mps, payload.wind_from_deg),
        cloud_fraction=payload.cloud_fraction,
        secchi_m=payload.secchi_m,
        bottom_depth_m=payload.bottom_depth_m,
        species=species_named(payload.species or water.species),
        far_bottom_depth_m=payload.far_bottom_depth_m,
        weed_m=payload.weed_m,
        signs=tuple(payload.signs),
        sample=_sample(payload.sample) if payload.sample else None,
        oxygen=tuple(OxygenReading(r.depth_m, r.oxygen_mgl, r.trusted) for r in payload.oxygen),
        earlier=earlier,
        ice=payload.ice,
        assumed=assume(unread, lake_of(water), at.date(), usual, readings, expected),
    )
    read = filled(replace(read, hypsography=hypsography_at(water), expected=expected))
    # What was fished is kept as the advice had it without the log: the log is held against that.
    return read if logged else replace(read, lean=lean_for(owner, water.pk, read))


def told_plainly(payload: C, conditions: Conditions) -> C:
    """Return what was sent with the values that were assumed in their places, as it is kept."""
    values: dict[str, Any] = {a.name: a.value for a in conditions.assumed if a.name != SURFACE}
    if SURFACE in payload.assumed:
        values["readings"] = [ReadingIn(depth_m=r.depth_m, water_c=r.water_c, trusted=r.trusted) for r in conditions.readings]
    return payload.model_copy(update={**values, "assumed": [a.name for a in conditions.assumed]})


def readings_of(payload: Sequence[ReadingIn]) -> tuple[Reading, ...]:
    return tuple(Reading(r.depth_m, r.water_c, r.trusted) for r in payload)


def _sample(payload: SampleIn) -> Sample:
    return Sample(tuple(SampleItem(i.food_key, i.count, i.size_mm, i.colour) for i in payload.items), payload.age_h)


def rig_of(payload: RigIn) -> Rig:
    flies = tuple(PlacedFly(core_fly(placed.fly.dict()), placed.above_point_m, placed.dropper_m) for placed in payload.flies)
    return Rig(core_line(payload.line.dict()), core_leader(payload.leader.dict()), flies)


def cast_of(payload: CastIn, wind_speed_mps: float = 0.0) -> Cast:
    """Return the cast, in this wind [m/s]."""
    return Cast(
        payload.cast_m,
        payload.count_s,
        retrieve_named(payload.retrieve_key, payload.retrieve_mps),
        slack=payload.slack,
        loose=payload.loose,
        tip_mps=payload.tip_mps,
        tip_y_mps=payload.tip_y_mps,
        wind_speed_mps=wind_speed_mps,
        off_wind_deg=payload.off_wind_deg,
        mends_s=tuple(payload.mends_s),
        recasts=payload.recasts,
        drag_mps=payload.drag_mps,
    )


def _hang_of(payload: HangIn, wind_speed_mps: float) -> Hang:
    return Hang(
        set_depth_m=payload.set_depth_m,
        indicator=payload.indicator,
        for_s=payload.drift_s,
        wind_speed_mps=wind_speed_mps,
        twitch_every_s=payload.twitch_every_s,
        distance_m=payload.distance_m,
        off_wind_deg=payload.off_wind_deg,
        mends_s=tuple(payload.mends_s),
        recasts=payload.recasts,
        fed_mps=payload.fed_mps,
        diameter_m=payload.diameter_m,
    )


def _tow_of(payload: TowIn, wind_speed_mps: float) -> Troll:
    return Troll(payload.out_m, payload.tow_mps, payload.for_s)


_MADE: dict[str, Callable[[Any, float], Action]] = {"cast": cast_of, "hang": _hang_of, "tow": _tow_of}


def action_of(payload: CastIn | HangIn | TowIn, wind_speed_mps: float) -> Action:
    """Return what is done with the rig, in this wind [m/s]."""
    return _MADE[payload.kind](payload, wind_speed_mps)

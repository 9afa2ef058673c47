"""An ensemble of lakes: what is not known of a water differs between them, weather carries them on, and readings pull them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta, timezone

import numpy as np

from stillthread.errors import BadInput, FloatArray
from stillthread.lake.layers import USUAL_POWER, Shape, shape_of, shape_on, usual_surface_m2
from stillthread.lake.model import (
    AIR,
    ATTENUATION,
    CLOUDINESS,
    DEMAND,
    DIFFUSIVITY,
    MEMBER_N,
    MUD,
    SHELTER,
    SKY,
    STIRRING,
    SUN,
    carry,
    settle,
)
from stillthread.lake.weather import Weather, drawn_down_m, filled_hours
from stillthread.ranges import BOTTOM_DEPTH_M, SECCHI_M
from stillthread.sourced import Sourced
from stillthread.water.expected import ExpectedColumn, nearness, pulled, reading_error_c
from stillthread.water.hypsography import Hypsography
from stillthread.water.light import SECCHI_KD
from stillthread.water.oxygen import demand_mgm2d, oxygen_saturation_mgl
from stillthread.water.reading import Reading
from stillthread.water.seasonal import (
    DENSEST_C,
    Lake,
    season_days,
    season_progress,
    seasonal_ensemble,
    usual_surface_c,
    winter_surface_c,
)
from stillthread.weather.sun import Place

MEMBERS = 48  # ours: fewer tell the band badly, more cost time
STIR = Sourced(0.08, "1", "ours", "share of the wind's work that mixes; within what was found of lakes, 0.03 to 0.25")
SPREADS_M2S = Sourced(
    2.5e-6, "m2/s", "hondzo-stefan-1993", "of a lake of a square kilometre at 7e-5 1/s2, half of theirs: within their scatter"
)
AREA_POWER = 0.56  # hondzo-stefan-1993: larger lakes are stirred more below
START_DOUBT_C, MID_SEASON_DOUBT_C = 0.8, 2.5  # ours: of the last full mixing; of the top, where it begins in mid-season
BEFORE_SEASON_D = 15  # ours: it begins while the lake is still mixed

# How much lakes differ, one standard deviation: of the logarithm where `_LOG`, else plainly; ours, wide enough for the band.
_SPREAD = {
    SHELTER: 0.10, ATTENUATION: 0.12, STIRRING: 0.20, DIFFUSIVITY: 0.33, AIR: 1.0, SKY: 3.5, CLOUDINESS: 0.06, SUN: 0.035,
    MUD: 0.4, DEMAND: 0.5,
}  # fmt: skip
_LOG = (SHELTER, ATTENUATION, STIRRING, DIFFUSIVITY, SUN, MUD, DEMAND)
_SHAPE_SPREAD = 0.3  # ours: of the usual bowl's power
_FURTHEST = 3.0  # ours: no member strays further than so many standard deviations

LEAST_ICE_M = 0.01  # ours: a skin that the next breeze breaks is no ice
FITS_WITHIN = 3.0  # ours: standard deviations; a reading further off is a slip more often than news
PROBE_MGL = 0.5  # ours: of an oxygen probe, with how patchy oxygen is
OWN_SHARE = 0.3  # ours: what a lake has of its own is moved with more caution than its water
OWN_FROM_M = 4.0  # ours: the top is warm by the week's weather and says nothing of the lake's own; so deep it says all it can
KEPT_SPREAD = 0.5  # ours: share of what a reading takes of the ensemble's spread that is given back, so that it never collapses


@dataclass(kw_only=True, frozen=True, slots=True)
class LakeWater:
    """What is known of a water for good: where it lies, how large, deep and clear it is.

    `deepest_m` [m] and `secchi_m` [m] as its people tell; `hypsography` from its chart, else none.
    """

    place: Place
    lake: Lake
    deepest_m: float
    secchi_m: float
    hypsography: Hypsography | None = None

    def __post_init__(self) -> None:
        BOTTOM_DEPTH_M.check("deepest_m", self.deepest_m)
        SECCHI_M.check("secchi_m", self.secchi_m)


@dataclass(kw_only=True, frozen=True, slots=True)
class LakeState:
    """The ensemble at a moment `at` (UTC): `water_c`, `oxygen_mgl` and `mud_c` (m, n), `ice_m` (m,), `member` (m, MEMBER_N) and
    `power` (m,), the members' own; `edge_m` (n + 1,) [m] the layers."""

    at: datetime
    edge_m: FloatArray
    water_c: FloatArray
    oxygen_mgl: FloatArray
    mud_c: FloatArray
    ice_m: FloatArray
    member: FloatArray
    power: FloatArray

    @property
    def middle_m(self) -> FloatArray:
        return 0.5 * (self.edge_m[1:] + self.edge_m[:-1])

    def column(self, *, read_at: datetime | None = None) -> ExpectedColumn:
        """Return what is expected of the column now."""
        return ExpectedColumn(
            depth_m=self.middle_m,
            curves_c=self.water_c,
            oxygen_mgl=self.oxygen_mgl,
            read_at=read_at,
            ice_share=float((self.ice_m > LEAST_ICE_M).mean()),
        )


@dataclass(kw_only=True, frozen=True, slots=True)
class Kept:
    """What was kept on the way: at each of `at`, `water_c` and `oxygen_mgl` (k, m, n), `ice_m` (k, m)."""

    at: tuple[datetime, ...]
    water_c: FloatArray
    oxygen_mgl: FloatArray
    ice_m: FloatArray


def lake_begins_at(lake: Lake, at: datetime) -> datetime:
    """Return when a lake that is asked for at `at` was last mixed from top to bottom, as such lakes are (UTC)."""
    moment = at.astimezone(timezone.utc).replace(hour=0, minute=0, second=0, microsecond=0)
    since_d = season_progress(lake, moment.date()) * season_days(lake) + BEFORE_SEASON_D
    return moment - timedelta(days=round(since_d % 365.25))


def mixed_c(lake: Lake) -> float:
    """Return the usual temperature of a lake when it is mixed before its season [C]: the winter's, never under 4."""
    return max(DENSEST_C, winter_surface_c(lake))


def begin_lake(water: LakeWater, at: datetime, *, seed: int = 0, learnt: FloatArray | None = None) -> LakeState:
    """Return an ensemble of such a lake at `at`: mixed where the season has it so, else layered as such lakes are by then.

    `learnt` is the `member` of an earlier season's state: what was learnt of the water stays with it, with half its certainty.
    """
    rng = np.random.default_rng(seed)
    z = rng.standard_normal((MEMBERS, MEMBER_N))
    z -= z.mean(axis=0)
    z = np.clip(z / z.std(axis=0), -_FURTHEST, _FURTHEST)
    centre = usual_member(water)
    member = _drawn(centre, z)
    if learnt is not None and learnt.shape == member.shape:
        # Half-way between what was learnt and what lakes are.
        member = _from_plain(0.5 * (_plain(learnt) + _plain(member)))
    deepest_m = water.hypsography.deepest_m if water.hypsography else water.deepest_m
    edge = shape_of(deepest_m=deepest_m, surface_m2=1.0, hypsography=water.hypsography).edge_m
    power = np.clip(USUAL_POWER + _SHAPE_SPREAD * rng.standard_normal(MEMBERS), 0.6, 2.2)
    middle = 0.5 * (edge[1:] + edge[:-1])
    start = at.astimezone(timezone.utc).replace(minute=0, second=0, microsecond=0)
    lake = water.lake
    if 0.06 < season_progress(lake, start.date()) < 1.0:
        tops = usual_surface_c(lake, start.date()) + MID_SEASON_DOUBT_C * _even(rng)
        curves, weights = seasonal_ensemble(middle, float(tops.mean()), lake, start.date())
        picked = rng.choice(len(curves), MEMBERS, p=weights)
        falls = (curves[picked] - curves[picked, -1:]) / np.maximum(curves[picked, :1] - curves[picked, -1:], 0.1)
        temperature = curves[picked, -1:] + falls * (tops[:, None] - curves[picked, -1:])
    else:
        mixed = mixed_c(lake) + START_DOUBT_C * _even(rng)
        temperature = np.repeat(mixed[:, None], len(middle), axis=1)
    temperature = np.clip(temperature, 0.2, 35.0)
    holds = np.array([[oxygen_saturation_mgl(float(t), lake.altitude_m) for t in row] for row in temperature[:1]])
    return LakeState(
        at=start, edge_m=edge, water_c=temperature, oxygen_mgl=np.repeat(holds, MEMBERS, axis=0), mud_c=temperature.copy(),
        ice_m=np.zeros(MEMBERS), member=member, power=power,
    )  # fmt: skip


def usual_member(water: LakeWater) -> FloatArray:
    """Return what such a water's lake has of its own, (MEMBER_N,): the middle of the ensemble."""
    km2 = usual_surface_m2(water.lake.fetch_km) / 1e6
    found = np.zeros(MEMBER_N)
    found[SHELTER] = found[SUN] = found[MUD] = found[DEMAND] = 1.0
    found[ATTENUATION] = float(SECCHI_KD) / water.secchi_m
    found[STIRRING] = float(STIR)
    found[DIFFUSIVITY] = float(SPREADS_M2S) * km2**AREA_POWER
    return found


def carry_lake_on(state: LakeState, water: LakeWater, weather: Weather, *, keep_every_h: int = 24) -> tuple[LakeState, Kept]:
    """Return the ensemble after these hours of weather, which begin where it stands, and what was kept on the way."""
    if weather.start != state.at:
        raise BadInput("The weather does not begin where the lake stands.", field="start")
    hours, doubt = filled_hours(weather, water.lake, water.place)
    shapes = _shapes(state, water, drawn_down_m(weather))
    areas, volumes = np.array([one.area_m2 for one in shapes]), np.array([one.volume_m3 for one in shapes])
    m, n = state.water_c.shape
    k = len(weather) // keep_every_h
    kept_water, kept_oxygen, kept_ice = np.zeros((k, m, n)), np.zeros((k, m, n)), np.zeros((k, m))
    after = replace(
        state,
        at=state.at + timedelta(hours=len(weather)),
        water_c=state.water_c.copy(), oxygen_mgl=state.oxygen_mgl.copy(), mud_c=state.mud_c.copy(), ice_m=state.ice_m.copy(),
    )  # fmt: skip
    first = round(state.at.timestamp() / 3600.0)
    carry(
        after.water_c, after.oxygen_mgl, after.mud_c, after.ice_m, np.zeros(m), state.member, hours, state.middle_m, areas,
        volumes, doubt, 1000.0 * water.lake.fetch_km, demand_mgm2d(water.secchi_m) / 86400.0, first, kept_water, kept_oxygen,
        kept_ice, keep_every_h,
    )  # fmt: skip
    at = tuple(state.at + timedelta(hours=keep_every_h * (i + 1)) for i in range(k))
    return after, Kept(at=at, water_c=kept_water, oxygen_mgl=kept_oxygen, ice_m=kept_ice)


def tell_lake(
    state: LakeState, water: LakeWater, readings: Sequence[Reading], oxygen: Sequence[tuple[float, float]] = ()
) -> LakeState:
    """Return the ensemble pulled by what was read at its moment: temperatures, and oxygen at (depth [m], mg/L).

    Each reading moves what goes with it in the ensemble, each depth and each thing a lake has of its own, by as much as they
    go together: a serial square-root filter (whitaker-hamill-2002), with part of the spread given back (whitaker-hamill-2012).
    """
    temperature, member, gas = state.water_c.copy(), _plain(state.member), state.oxygen_mgl.copy()
    n = temperature.shape[1]
    before_spread = np.concatenate((temperature.std(axis=0), member.std(axis=0), gas.std(axis=0)))
    for reading in readings:
        here = np.array([np.interp(reading.depth_m, state.middle_m, one) for one in temperature])
        error = _no_surer_than_it_fits(reading_error_c(state.middle_m, temperature, reading.depth_m), here, reading.water_c)
        near = nearness(state.middle_m, reading.depth_m)
        temperature, member, gas = (
            pulled(one, weight, here, reading.water_c, error)
            for one, weight in ((temperature, near), (member, _own(reading.depth_m)), (gas, near))
        )
    for depth_m, mgl in oxygen:
        here = np.array([np.interp(depth_m, state.middle_m, one) for one in gas])
        error = _no_surer_than_it_fits(PROBE_MGL, here, mgl)
        near = nearness(state.middle_m, depth_m)
        # Oxygen says nothing of warmth that a thermometer would not say better.
        member, gas = (pulled(one, weight, here, mgl, error) for one, weight in ((member, _own(depth_m)), (gas, near)))
    whole = np.concatenate((temperature, member, gas), axis=1)
    mean, spread = whole.mean(axis=0), whole.std(axis=0)
    given_back = 1.0 + KEPT_SPREAD * np.maximum(before_spread - spread, 0.0) / np.maximum(spread, 1e-9)
    whole = mean + (whole - mean) * np.where(spread > 1e-9, given_back, 1.0)
    temperature, member, gas = whole[:, :n].copy(), whole[:, n : n + MEMBER_N], whole[:, n + MEMBER_N :].copy()
    usual, width = _plain(usual_member(water)[None, :]), np.array([_SPREAD[i] for i in range(MEMBER_N)])
    member = _from_plain(np.clip(member, usual - _FURTHEST * width, usual + _FURTHEST * width))
    temperature, gas = np.clip(temperature, 0.0, 40.0), np.clip(gas, 0.0, 25.0)
    volumes = np.array([one.volume_m3 for one in _shapes(state, water)])
    settle(temperature, gas, volumes)
    return replace(state, water_c=temperature, oxygen_mgl=gas, member=member)


def _own(depth_m: float) -> FloatArray:
    """Return how far a reading at a depth [m] moves what a lake has of its own, (MEMBER_N,)."""
    return np.full(MEMBER_N, OWN_SHARE * min(depth_m / OWN_FROM_M, 1.0))


def _no_surer_than_it_fits(error: float, here: FloatArray, told: float) -> float:
    """Return a reading's error, the larger the further it is from what the whole ensemble has: a slip pulls little."""
    off = abs(told - float(here.mean())) / float(np.hypot(here.std(), error))
    return error if off <= FITS_WITHIN else error * (off / FITS_WITHIN) ** 2


def _shapes(state: LakeState, water: LakeWater, down_m: float = 0.0) -> list[Shape]:
    # On the state's own layers: a chart that was drawn since must not cut it anew under the compiled loop.
    surface_m2 = usual_surface_m2(water.lake.fetch_km)
    if water.hypsography is not None:
        return [shape_on(state.edge_m, surface_m2=surface_m2, hypsography=water.hypsography, down_m=down_m)] * len(state.power)
    return [shape_on(state.edge_m, surface_m2=surface_m2, power=float(power), down_m=down_m) for power in state.power]


def _even(rng: np.random.Generator) -> FloatArray:
    """Return standard normal values, one a member, with exactly that mean and spread."""
    z = rng.standard_normal(MEMBERS)
    return np.asarray((z - z.mean()) / z.std())


def _drawn(centre: FloatArray, z: FloatArray) -> FloatArray:
    plain = _plain(centre[None, :]) + z * np.array([_SPREAD[i] for i in range(MEMBER_N)])
    return _from_plain(plain)


def _plain(member: FloatArray) -> FloatArray:
    """Return the members' own with what is always positive by its logarithm, (m, MEMBER_N)."""
    found = np.array(member, dtype=np.float64)
    found[:, _LOG] = np.log(np.maximum(found[:, _LOG], 1e-12))
    return found


def _from_plain(plain: FloatArray) -> FloatArray:
    found = plain.copy()
    found[:, _LOG] = np.exp(found[:, _LOG])
    return found

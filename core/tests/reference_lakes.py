"""Two lakes of an open one-dimensional lake model (hipsey-2019) with their weather, as the outside that our lake is held against.

Each is taken with the settings that come with it: light, shape, and no mud where it has none.
"""

from __future__ import annotations

import contextlib
import functools
import io
import os
import tempfile
import warnings
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime, timedelta, timezone
from pathlib import Path
from typing import Any

import numpy as np

from stillthread.errors import FloatArray
from stillthread.lake.ensemble import START_DOUBT_C, LakeState, LakeWater, begin_lake, carry_lake_on, tell_lake
from stillthread.lake.model import MUD
from stillthread.lake.weather import Weather
from stillthread.water.hypsography import Hypsography
from stillthread.water.light import SECCHI_KD
from stillthread.water.reading import Reading
from stillthread.water.seasonal import Lake
from stillthread.weather.sun import Place

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import netCDF4
    import pandas as pd  # type: ignore[import-untyped]
    from glmpy.simulation import GLMSim

STEP_M, TOP_M = 0.5, 0.5
WEEK = timedelta(days=7)


@dataclass(frozen=True)
class Setting:
    """How an example is read: its place, light [1/m], hours ahead of UTC, factor on its sunlight, and the seasons asked for."""

    place: Place
    altitude_m: float
    fetch_km: float
    kd_pm: float
    utc_offset_h: int
    sun_factor: float
    mixed_c: float | None
    mud: bool
    seasons: tuple[tuple[str, str], ...]


SETTINGS = {
    "sparkling_lake": Setting(
        Place(46.0, -89.7), 320.0, 0.9, 0.331, -6, 1.08, 4.0, True, (("1980-04-20", "1980-11-30"), ("1981-04-20", "1981-11-30"))
    ),
    "woods_lake": Setting(
        Place(-42.0, 147.0), 737.0, 4.5, 0.8, 10, 1.4, None, False, (("2011-10-01", "2012-05-30"), ("2012-10-01", "2013-05-30"))
    ),
}


@dataclass(frozen=True)
class Reference:
    """What the open model makes of an example: at each of `at` (UTC) its layers' depth [m] and temperature [C]; its weather."""

    name: str
    at: list[datetime]
    profiles: list[tuple[FloatArray, FloatArray]]
    weather: Weather
    water: LakeWater

    def after(self, moment: datetime) -> tuple[FloatArray, FloatArray]:
        """Return the first profile at or after a moment."""
        return self.profiles[next(i for i, at in enumerate(self.at) if at >= moment)]


@contextlib.contextmanager
def _quiet() -> Iterator[None]:
    """Let nothing that the model's own program writes to the process's output through."""
    nowhere, kept = os.open(os.devnull, os.O_WRONLY), [os.dup(1), os.dup(2)]
    os.dup2(nowhere, 1)
    os.dup2(nowhere, 2)
    try:
        with warnings.catch_warnings(), contextlib.redirect_stdout(io.StringIO()):
            warnings.simplefilter("ignore")
            yield
    finally:
        for number, stream in enumerate(kept, 1):
            os.dup2(stream, number)
            os.close(stream)
        os.close(nowhere)


@functools.cache
def reference(name: str) -> Reference:
    """Run an example of the open model, and return what came of it."""
    setting = SETTINGS[name]
    with tempfile.TemporaryDirectory() as folder, _quiet():
        lake = GLMSim.from_example_sim(name)
        lake.sim_dir_path = folder
        shape = lake.get_block("glm", "morphometry").to_dict()
        met = lake.get_bc_pd("nldas_driver" if name == "sparkling_lake" else "met")
        lake.run()
        with netCDF4.Dataset(next(Path(folder).rglob("*.nc"))) as output:
            began = pd.Timestamp(output["time"].units.split("since ")[1])
            hours = [float(h) for h in output["time"][:]]
            counts = np.asarray(output["NS"][:]).ravel().astype(int)
            tops, temperatures = (np.asarray(output[key][:, :, 0, 0]) for key in ("z", "temp"))
    profiles = []
    for top, water_c, layers in zip(tops, temperatures, counts, strict=True):
        middle = top[layers - 1] - 0.5 * (top[:layers] + np.concatenate(([0.0], top[: layers - 1])))
        profiles.append((middle[::-1], water_c[:layers][::-1]))
    offset = timedelta(hours=setting.utc_offset_h)
    at = [(began + pd.Timedelta(hours=h)).to_pydatetime().replace(tzinfo=timezone.utc) - offset for h in hours]
    height, area = np.array(shape["H"] if "H" in shape else shape["h"]), np.array(shape["A"] if "A" in shape else shape["a"])
    crest = float(shape["crest_elev"])
    below = height <= crest
    depth_m, area_m2 = (crest - height[below])[::-1], np.maximum(area[below][::-1], 1.0)
    water = LakeWater(
        place=setting.place,
        lake=Lake(setting.place.latitude_deg, setting.altitude_m, setting.fetch_km),
        deepest_m=float(depth_m[-1]),
        secchi_m=float(SECCHI_KD) / setting.kd_pm,
        hypsography=Hypsography(tuple(depth_m), tuple(area_m2)),
    )
    return Reference(name, at, profiles, _weather(met, setting, hourly=name != "sparkling_lake"), water)


def _weather(met: Any, setting: Setting, *, hourly: bool) -> Weather:
    met = met.set_index(pd.to_datetime(met.iloc[:, 0]))
    met = met[~met.index.duplicated()].sort_index()
    hours = pd.date_range(setting.seasons[0][0], setting.seasons[-1][1], freq="h")
    rows = met.reindex(hours, method="nearest") if hourly else met.reindex(hours.normalize())
    short = rows["ShortWave"].to_numpy() * setting.sun_factor
    if not hourly:
        # A day's mean is given the shape of a day.
        hour = np.asarray(hours.hour) + 0.5
        day = np.where((hour > 6.0) & (hour < 18.0), np.sin((hour - 6.0) / 12.0 * np.pi), 0.0)
        short = short * day * 24.0 / day[:24].sum()
    start = hours[0].to_pydatetime().replace(tzinfo=timezone.utc) - timedelta(hours=setting.utc_offset_h)
    columns = {
        "air_c": rows["AirTemp"].to_numpy(),
        "humidity": rows["RelHum"].to_numpy() / 100.0,
        "wind_mps": rows["WindSpeed"].to_numpy(),
        "short_wm2": short,
    }
    if "LongWave" in rows:
        columns["long_wm2"] = rows["LongWave"].to_numpy()
    if "Cloud" in rows:
        columns["cloud"] = rows["Cloud"].to_numpy()
    return Weather(start=start, columns={name: np.asarray(column, dtype=np.float64) for name, column in columns.items()})


@dataclass(frozen=True)
class Week:
    """A week's end: `depth_m` (k,), the reference's temperatures there, and our ensemble's state."""

    at: datetime
    depth_m: FloatArray
    reference_c: FloatArray
    state: LakeState


def weeks(name: str, *, read_weekly: bool = False, seed: int = 3) -> Iterator[Week]:
    """Carry our lake through the seasons of an example beside it, told nothing but its weather, or a surface reading a week."""
    found, setting = reference(name), SETTINGS[name]
    for first, last in setting.seasons:
        offset = timedelta(hours=setting.utc_offset_h)
        start = datetime.fromisoformat(first).replace(tzinfo=timezone.utc) - offset
        end = datetime.fromisoformat(last).replace(tzinfo=timezone.utc) - offset
        state = begin_lake(found.water, start, seed=seed)
        depth, water_c = found.after(start)
        mixed = float(np.mean(water_c)) if setting.mixed_c is None else setting.mixed_c
        away = state.water_c - state.water_c.mean()
        state = replace(state, water_c=np.clip(mixed + START_DOUBT_C * away / max(away.std(), 1e-6), 0.2, 30.0))
        if not setting.mud:
            member = state.member.copy()
            member[:, MUD] = 1e-6
            state = replace(state, member=member)
        while state.at + WEEK < end:
            state, _ = carry_lake_on(state, found.water, found.weather.between(state.at, state.at + WEEK))
            depth, water_c = found.after(state.at)
            bottom = min(float(state.edge_m[-1]), float(depth[-1] + 0.3))
            asked = np.arange(TOP_M, min(bottom - 0.4, 18.1), STEP_M)
            if read_weekly:
                state = tell_lake(state, found.water, [Reading(0.0, float(np.interp(0.3, depth, water_c)))])
            yield Week(state.at, asked, np.interp(asked, depth, water_c), state)

"""Hold the lake that its weather carries against an open lake model, and write docs/lake.md: `make lake`."""

from __future__ import annotations

import time
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date, timedelta
from pathlib import Path

import numpy as np
import numpy.typing as npt

from stillthread.api import Conditions, Reading, Wind, begin_lake, carry_lake_on, find_layers, read_water, species_named
from tests.reference_lakes import SETTINGS, Week, reference, weeks

FloatArray = npt.NDArray[np.float64]
OUT = Path(__file__).resolve().parents[1] / "docs" / "lake.md"
NAMES = {"sparkling_lake": "18 m deep, 46 N, small", "woods_lake": "5.5 m deep, 42 S, 737 m up, windy"}


@dataclass(frozen=True)
class Off:
    """How far a way of knowing the column is off, by the week: RMSE [C], the thermocline [m], and the share in its band."""

    rmse_c: FloatArray
    thermocline_m: FloatArray
    inside: float

    def row(self, name: str, way: str) -> str:
        step = (
            f"{np.median(self.thermocline_m):.2f}, {np.quantile(self.thermocline_m, 0.9):.2f}"
            if len(self.thermocline_m)
            else "-"
        )
        return (
            f"| {name} | {way} | {np.median(self.rmse_c):.2f}, {np.quantile(self.rmse_c, 0.9):.2f} | {step} | "
            f"{100.0 * self.inside:.0f} % |"
        )


def measured(rows: Iterator[tuple[FloatArray, FloatArray, FloatArray, FloatArray]]) -> Off:
    """Measure rows of depth, the reference's temperatures, ours, and our standard deviation."""
    rmse, thermocline, inside = [], [], []
    for depth, true, ours, spread in rows:
        rmse.append(float(np.sqrt(np.mean((ours - true) ** 2))))
        inside.append(float(np.mean(np.abs(ours - true) <= 1.2816 * spread)))
        a, b = find_layers(depth, ours).thermocline_m, find_layers(depth, true).thermocline_m
        if a is not None and b is not None:
            thermocline.append(abs(a - b))
    return Off(np.array(rmse), np.array(thermocline), float(np.mean(inside)))


def by_lake(name: str, *, read_weekly: bool) -> Iterator[tuple[FloatArray, FloatArray, FloatArray, FloatArray]]:
    for week in weeks(name, read_weekly=read_weekly):
        expected = week.state.column()
        mean = expected.at_c(week.depth_m).mean(axis=0)
        spread = np.array([(expected.band_c(float(d))[2] - expected.band_c(float(d))[0]) / 1.2816 for d in week.depth_m])
        yield week.depth_m, week.reference_c, mean, spread


def by_season(name: str) -> Iterator[tuple[FloatArray, FloatArray, FloatArray, FloatArray]]:
    for week in weeks(name):
        profile = read_water(given(name, week, [Reading(0.0, float(week.reference_c[0]))])).profile
        ours, spread = (np.interp(week.depth_m, profile.depth_m, values) for values in (profile.water_c, profile.spread_c))
        yield week.depth_m, week.reference_c, ours, spread


def given(name: str, week: Week, readings: list[Reading]) -> Conditions:
    water = reference(name).water
    return Conditions(
        place=water.place, lake=water.lake, at=week.at.replace(hour=16), readings=readings, wind=Wind(3.0, 225.0),
        cloud_fraction=0.6, secchi_m=water.secchi_m, bottom_depth_m=float(week.depth_m[-1]) + 0.5,
        species=species_named("rainbow"),
    )  # fmt: skip


def band_centre_m(conditions: Conditions) -> float:
    belief = read_water(conditions).belief
    return float((belief.depth_m * belief.mass()).sum())


def advice(name: str) -> tuple[FloatArray, FloatArray]:
    """Return by the day how far the middle of the belief is off [m], by the season's guess and by the lake, one surface
    reading each, from that with the whole column read."""
    guess, lake = [], []
    for week in weeks(name):
        whole = [Reading(float(d), float(t)) for d, t in zip(week.depth_m[::2], week.reference_c[::2], strict=True)]
        whole[0] = Reading(0.0, whole[0].water_c)
        true = band_centre_m(given(name, week, whole))
        top = given(name, week, whole[:1])
        guess.append(abs(band_centre_m(top) - true))
        lake.append(abs(band_centre_m(replace(top, expected=week.state.column())) - true))
    return np.array(guess), np.array(lake)


def speed() -> str:
    found = reference("sparkling_lake")
    start = found.weather.start.replace(hour=0) + timedelta(days=1)
    state = begin_lake(found.water, start)
    weather = found.weather.between(start, start + timedelta(days=200))
    took = []
    for _ in range(3):
        began = time.perf_counter()
        carry_lake_on(state, found.water, weather)
        took.append(time.perf_counter() - began)
    m, n = state.water_c.shape
    return f"200 days of hours, {m} lakes of {n} layers: {min(took):.2f} s, compiled and warm."


def main() -> None:
    rows, advised = [], []
    for name in SETTINGS:
        words = NAMES[name]
        rows.append(measured(by_season(name)).row(words, "the season's guess, one surface reading on the day"))
        rows.append(measured(by_lake(name, read_weekly=False)).row(words, "carried by its weather, no reading"))
        rows.append(measured(by_lake(name, read_weekly=True)).row(words, "the same, one surface reading a week"))
        guess, lake = advice(name)
        both = (f"{np.median(off):.2f}, {off.mean():.2f}" for off in (guess, lake))
        advised.append(f"| {words} | {len(guess)} | {' | '.join(both)} |")
    text = [
        "# The lake that its weather carries",
        "",
        f"Written by `make lake` on {date.today():%d %B %Y}. An open one-dimensional lake model (hipsey-2019) with two of its",
        "example lakes stands for the truth; ours is begun when theirs was last mixed and told nothing but the weather since,",
        "or a surface reading once a week. Asked weekly through two seasons each, every half metre.",
        "",
        "| lake | how it is known | column off [C]: median, nine in ten | thermocline off [m] | in the 80 % band |",
        "|---|---|---|---|---|",
        *rows,
        "",
        "The model's other examples are not used: they need their flows, or are not calibrated as they come.",
        "",
        "## What it does to the advice",
        "",
        "How far the middle of where they likely feed lies from where it would be put with the whole column read; one surface",
        "reading either way.",
        "",
        "| lake | days | by the season's guess [m]: median, mean | by the lake [m] |",
        "|---|---|---|---|",
        *advised,
        "",
        "## Speed",
        "",
        speed(),
        "",
        "## What it is blind to",
        "",
        "Streams that nobody measures, springs, snow on the ice, layers that the wind tilts, bays that differ from the lake.",
    ]
    OUT.write_text("\n".join(text) + "\n")
    print("\n".join(text))


if __name__ == "__main__":
    main()

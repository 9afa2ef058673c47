"""Write docs/physics.md: what the simulation was checked against, with figures drawn from it."""
# ruff: noqa: E501 - rows of a table read better whole

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

import numpy as np

from stillthread.api import (
    FINE,
    FOOT_M,
    GRAVITY_MS2,
    QUICK,
    RETRIEVES,
    Cast,
    Drift,
    DriftResult,
    FloatArray,
    Fly,
    IndicatorRig,
    Leader,
    PlacedFly,
    Rig,
    body_sink_rate_mps,
    bow_m,
    cylinder_cd,
    level_water,
    line_of_class,
    retrieve_named,
    simulate,
    simulate_drift,
    tapered_leader,
    water_density_kgm3,
    water_viscosity_pas,
)
from tests.rigs import FOAM_NYMPH, HEAVY_NYMPH, LEADER, LIGHT_NYMPH, rig
from tests.test_across import bare, critical_rad
from tests.test_against_moordyn import TowedTests, moordyn_end, moordyn_nodes
from tests.test_chain import DENSITY, VISCOSITY, Thread, TowTests
from tests.test_practice import LEVEL, NINE_FEET, PUPA, STRIPS
from tests.varied import SPREAD_RIGS, coverage, mesh_errors

ROOT = Path(__file__).resolve().parents[1]

DOCS = ROOT / "docs"
LAKE = level_water(12.0, 20.0)
INKS = ("#a92b0c", "#17594a", "#0f1f1d", "#b07d12", "#4d6f8f")
Row = tuple[str, str, str, str]
Series = tuple[str, FloatArray, FloatArray]


def chart(name: str, title: str, series: Sequence[Series], across: str, down: str = "depth in m, downward") -> str:
    """Draw depth downward against something, as SVG; return the line of markdown that shows it."""
    width, height, left, top = 760, 360, 52, 40
    far = max(float(x.max()) for _, x, _ in series)
    near = min(0.0, *(float(x.min()) for _, x, _ in series))
    deep = max(float(z.max()) for _, _, z in series) * 1.05

    def px(x: float) -> float:
        return left + (width - left - 130) * (x - near) / (far - near)

    def py(z: float) -> float:
        return top + (height - top - 40) * z / deep

    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}" font-family="sans-serif" font-size="13">',
        f'<rect width="{width}" height="{height}" fill="#f3f6f1"/><text x="{left}" y="22" font-weight="700">{title}</text>',
    ]
    step = next(s for s in (0.5, 1, 2, 5, 10) if deep / s <= 9)
    for k in range(int(deep / step) + 1):
        parts.append(f'<path d="M{left} {py(k * step):.1f}H{width - 130}" stroke="#bfcac3"/>')
        parts.append(f'<text x="{left - 8}" y="{py(k * step) + 4:.1f}" text-anchor="end">{k * step:g}</text>')
    for i, (label, x, z) in enumerate(series):
        points = " ".join(f"{px(float(a)):.1f},{py(float(b)):.1f}" for a, b in zip(x, z, strict=True))
        dash = ("", "7 4", "2 4", "10 3 2 3", "1 3")[i % 5]
        parts.append(
            f'<polyline points="{points}" fill="none" stroke="{INKS[i % 5]}" stroke-width="2.2" stroke-dasharray="{dash}"/>'
        )
        y = 60 + 22 * i
        parts.append(
            f'<path d="M{width - 122} {y - 4}h24" stroke="{INKS[i % 5]}" stroke-width="2.2" stroke-dasharray="{dash}"/>'
        )
        parts.append(f'<text x="{width - 92}" y="{y}">{label}</text>')
    parts.append(f'<text x="{left}" y="{height - 12}">{across}; {down}</text></svg>')
    (DOCS / "figures").mkdir(exist_ok=True)
    (DOCS / "figures" / f"{name}.svg").write_text("\n".join(parts))
    return f"![{title}](figures/{name}.svg)"


def table(rows: Sequence[Row], heads: Row) -> str:
    return "\n".join(["| " + " | ".join(row) + " |" for row in (heads, ("---",) * 4, *rows)])


def outside_checks() -> list[Row]:
    rows: list[Row] = []
    time_s, path, _ = Thread(sink_rate_mps=0.0381, length_m=60.0, count_s=40.0).run()
    fallen = np.interp([20.0, 40.0], time_s, path[:, -1, 1])
    rows.append(
        ("a long level line of 3.81 cm/s, free", "its own rate", f"{100 * (fallen[1] - fallen[0]) / 20:.3f} cm/s", "0.2 %")
    )
    tow = TowTests()
    for rate, speed in ((0.0381, 0.25), (0.0762, 0.10), (0.1524, 0.5)):
        found, theory = tow.angle_deg(rate, speed, 1.0), tow.theory_deg(rate, speed)
        rows.append((f"{100 * rate:.2f} cm/s line towed at {speed} m/s", f"critical angle, berteaux-1976: {theory:.2f}°",
                     f"{found:.2f}°", "0.1°"))  # fmt: skip
    for rate, speed in ((0.0381, 0.25), (0.1524, 0.50)):
        ours = float(Thread(sink_rate_mps=rate, tip_speed_mps=speed, count_s=240.0).run()[1][-1, -1, 1])
        _, other = moordyn_end(rate, 15.0, speed, 120.0, TowedTests().settled_cd(rate, speed))
        rows.append((f"depth of 15 m of {100 * rate:.2f} cm/s line towed at {speed} m/s", f"moordyn 2.7.2: {other:.3f} m",
                     f"{ours:.3f} m ({100 * (ours / other - 1):+.1f} %)", "3 %"))  # fmt: skip
    ours = float(Thread(sink_rate_mps=0.1524, length_m=6.0, segment_m=0.3, count_s=200.0).run()[1][-1, -1, 1])
    rows.append(
        (
            "6 m of line hanging",
            f"its length; moordyn {moordyn_end(0.1524, 6.0, 0.0, 150.0, 1.5)[1]:.3f} m",
            f"{ours:.3f} m",
            "1 cm",
        )
    )
    from fluids.drag import v_terminal

    for name, kgm3 in (("tungsten", 19300.0), ("brass", 8500.0), ("glass", 2500.0)):
        weight = math.pi / 6.0 * 0.003**3 * (kgm3 - DENSITY) * GRAVITY_MS2
        reference = v_terminal(D=0.003, rhop=kgm3, rho=DENSITY, mu=VISCOSITY)
        rows.append((f"3 mm {name} bead, terminal speed", f"fluids 1.3.1: {reference:.3f} m/s",
                     f"{body_sink_rate_mps(weight, 0.003, DENSITY, VISCOSITY):.3f} m/s", "4 %"))  # fmt: skip
    rows.append(
        ("density of water at 10 °C", "IAPWS-95: 999.702 kg/m3", f"{float(water_density_kgm3(10.0)):.3f} kg/m3", "0.0007")
    )
    rows.append(
        ("viscosity at 10 °C", "IAPWS-95: 1.3059 mPa s", f"{1e3 * float(water_viscosity_pas(10.0)):.4f} mPa s", "0.01 %")
    )
    return rows


def spread_of(errors: FloatArray) -> str:
    return f"median {100 * np.median(errors):.1f}, nine in ten within {100 * np.quantile(errors, 0.9):.1f}, worst {100 * errors.max():.0f} cm"


def mesh_rows() -> list[Row]:
    against = "one far finer, at five moments"
    return [
        (f"mesh of what is {what}, 64 varied presentations", against, spread_of(mesh_errors(mesh)), "-")
        for what, mesh in (("shown", FINE), ("ranked", QUICK))
    ]


def cross_rows() -> list[Row]:
    """Return the chain in three dimensions against theory and the mooring library."""
    rows: list[Row] = []
    for rate, along, across in ((0.0762, 0.0, 0.1), (0.0381, 0.15, 0.2), (0.1524, -0.3, 0.4)):
        path = bare(rate, drift_mps=along, cross_mps=across)
        end, flow = path[-1] - path[0], math.hypot(along, across)
        found, theory = math.degrees(math.atan2(end[1], math.hypot(end[0], end[2]))), math.degrees(critical_rad(rate, flow))
        name = f"{100 * rate:.2f} cm/s line held in a current of {along:g} along and {across:g} m/s across"
        rows.append((name, f"critical angle in the current's plane: {theory:.2f}°", f"{found:.2f}°", "0.2°"))
        cd = cylinder_cd(DENSITY * flow * math.sin(critical_rad(rate, flow)) * 1.1e-3 / VISCOSITY)
        if along:
            other = moordyn_nodes(rate, 15.0, 150.0, cd, current_mps=(along, across))[-1]
            off = float(np.linalg.norm(end[[0, 2, 1]] * (1.0, 1.0, -1.0) - other))
            rows.append((name, "end of 15 m in moordyn 2.7.2", f"{100 * off:.0f} cm off ({100 * off / 15.0:.1f} %)", "3 %"))
    for rate, flow, held, length in ((0.0762, 0.15, (10.0, 0.0, 4.0), 12.0), (0.0381, 0.2, (10.0, 0.0, 3.0), 12.0)):
        cd = cylinder_cd(DENSITY * flow * 1.1e-3 / VISCOSITY)
        other = moordyn_nodes(rate, length, 120.0, cd, current_mps=(0.0, flow), held=held, segments=40)
        bow = float(np.abs(bare(rate, cross_mps=flow, fixed_end=held, length_m=length, segments=40, for_s=200.0)[:, 2]).max())
        theirs = float(np.abs(other[:, 1]).max())
        rows.append(
            (
                f"bow of 12 m of {100 * rate:.2f} cm/s line held at both ends across {flow} m/s",
                f"moordyn 2.7.2: {theirs:.3f} m",
                f"{bow:.3f} m ({100 * (bow / theirs - 1):+.1f} %)",
                "3 %",
            )
        )
    worst = 0.0
    for key in ("floating", "intermediate", "type-5", "slow-tip"):
        for fly in (LIGHT_NYMPH, HEAVY_NYMPH):
            cast = Cast(16.0, 20.0, STRIPS, wind_speed_mps=4.0, off_wind_deg=0.0)
            plane, space = (
                simulate(rig(key, fly), cast, LAKE),
                simulate(rig(key, fly), cast, replace(LAKE, cross_drift_mps=1e-12)),
            )
            off = np.abs(plane.fly_depth_m[0] - np.interp(plane.time_s, space.time_s, space.fly_depth_m[0])).max()
            worst = max(worst, float(off) / float(plane.fly_depth_m.max()))
    rows.append(
        ("8 casts along the wind, in three dimensions", "the same in a plane", f"depths within {100 * worst:.2f} %", "1 %")
    )
    return rows


def coverage_rows(draws: int = 200) -> list[Row]:
    rng = np.random.default_rng(7)
    found = [coverage(k, draws, rng) for k in range(SPREAD_RIGS)]
    rows = [
        (one.name, *(f"{100 * share:.0f} % ({width:.2f} m)" for share, width in zip(one.shares, one.widths_m, strict=True)))
        for one in found
    ]
    mean = np.mean([one.shares for one in found], axis=0)
    return [*rows, ("**all of them**", *(f"**{100 * share:.1f} %**" for share in mean))]  # type: ignore[list-item]


def across_figure() -> str:
    """Draw a floating line from above as the wind bows it: distance across the picture, to the side downward."""
    run = simulate(rig("floating"), Cast(18.0, 60.0, RETRIEVES["static"], wind_speed_mps=4.0), LAKE)
    series: list[Series] = []
    for at_s in (10, 30, 60, 100):
        frame = run.thread_m[int(np.searchsorted(run.time_s, at_s))]
        series.append((f"{at_s} s", frame[:, 0], np.maximum(frame[:, 2], 0.0)))
    return chart(
        "bow",
        "A floating line from above, 4 m/s of wind across it",
        series,
        "distance from the rod in m",
        "to the side in m, downwind",
    )


def feet(low_high: tuple[float, float]) -> str:
    return f"{low_high[0] / FOOT_M:.1f} to {low_high[1] / FOOT_M:.1f} ft"


def sayings() -> list[Row]:
    def worked(key: str, count_s: float, pace: float) -> str:
        cast = Cast(18.0, count_s, retrieve_named("strip-pause", pace))
        return feet(simulate(rig(key, PUPA, NINE_FEET), cast, LAKE).middle_depth_m())

    def hangs(fly: Fly, leader: Leader, wind_mps: float, for_s: float = 240.0) -> DriftResult:
        return simulate_drift(
            IndicatorRig(leader, (PlacedFly(fly),), 15 * FOOT_M), Drift(for_s=for_s, wind_speed_mps=wind_mps), LAKE
        )

    light, heavy = hangs(PUPA, LEVEL, 0.0), hangs(HEAVY_NYMPH, LEVEL, 0.0)
    thick, level = hangs(LIGHT_NYMPH, tapered_leader(5.4, 4), 0.0, 120.0), hangs(LIGHT_NYMPH, LEVEL, 0.0, 120.0)
    windy, held = hangs(LIGHT_NYMPH, LEVEL, 4.0), hangs(HEAVY_NYMPH, LEVEL, 4.0)
    left = Cast(18.0, 60.0, RETRIEVES["static"], wind_speed_mps=4.0)
    bowed, under = (
        float(bow_m(run)[run.count_end]) for run in (simulate(rig(key), left, LAKE) for key in ("floating", "type-5"))
    )
    alone = Cast(18.0, 15.0, RETRIEVES["static"], wind_speed_mps=5.0)
    dragged, mended = (
        simulate(rig("floating"), one, LAKE).dragged_s or 999.0
        for one in (alone, replace(alone, mends_s=tuple(20.0 * k for k in range(1, 10))))
    )
    sum24 = simulate(rig("intermediate"), Cast(18.0, 24.0, STRIPS), LAKE)
    return [
        ("1.5 in/s counted 24 s is 3 ft", f"line's end at {sum24.line_end_depth_m / FOOT_M:.1f} ft, a light fly at {sum24.start_depth_m() / FOOT_M:.1f} ft",
         "agrees for the line; a light fly lags", "the fly hinges on its leader and sinks at its own pace"),
        ("a short slow tip fishes 1 to 1.5 ft down", f"{worked('short-slow-tip', 5, 0.25)} at 25 cm/s; {worked('short-slow-tip', 5, 0.10)} at 10 cm/s",
         "true of a lively strip only", "the tip hangs from a floater, so the depth is set by pace: slow hands let it down to 4 ft"),
        ("a 2 in/s intermediate covers 2 to 5 ft", f"{worked('fast-intermediate', 10, 0.25)} at 25 cm/s; {worked('fast-intermediate', 10, 0.10)} at 10 cm/s",
         "true of a lively strip", "slower than it sinks, a full line only goes on down"),
        ("a light fly takes a minute or more to hang at 15 ft", f"{light.hanging_s():.0f} s; beaded {heavy.hanging_s():.0f} s", "agrees", ""),
        ("a tapered leader hangs in an arc, shallower than a level one",
         f"after two minutes in a calm {thick.shortfall_m[0]:.1f} m short of 4.6 m, level {level.shortfall_m[0]:.1f} m", "agrees",
         "in a calm it is a matter of time, and after four minutes it is gone; in a drift the arc stays"),
        ("in 4 m/s the top carries a floating line metres aside in a count of sixty", f"bow of {bowed:.1f} m; of a type 5 {under:.1f} m", "agrees", "the top drifts at 8 cm/s; held at the rod it bows rather than goes"),
        ("a bow drags the flies: recast", f"a light nymph left alone is dragged from {dragged:.0f} s on in 5 m/s; mended every 20 s from {mended:.0f} s", "agrees", "dragged is 4 cm/s sideways through its water for five seconds"),
        ("faster drift lifts the flies", f"in 4 m/s of wind a light fly fishes {windy.shortfall_m[0]:.1f} m short, a beaded one {held.shortfall_m[0]:.1f} m",
         "agrees, and strongly", "a light fly under a float in wind is nowhere near its set depth"),
    ]  # fmt: skip


def figures() -> list[str]:
    lines: list[Series] = []
    for key in ("floating", "short-slow-tip", "intermediate", "type-3", "type-7"):
        result = simulate(rig(key, PUPA), Cast(18.0, 15.0, RETRIEVES["strip-pause"]), LAKE)
        lines.append((line_of_class(key).name.split(",")[0], result.fly_distance_m[0], result.fly_depth_m[0]))
    hung: list[Series] = []
    for label, fly, wind in (("light, calm", LIGHT_NYMPH, 0.0), ("beaded, calm", HEAVY_NYMPH, 0.0), ("light, 4 m/s", LIGHT_NYMPH, 4.0),
                             ("beaded, 4 m/s", HEAVY_NYMPH, 4.0)):  # fmt: skip
        run = simulate_drift(IndicatorRig(LEVEL, (PlacedFly(fly),), 4.6), Drift(for_s=180.0, wind_speed_mps=wind), LAKE).run
        hung.append((label, run.time_s, run.fly_depth_m[0]))
    team = (PlacedFly(HEAVY_NYMPH), PlacedFly(LIGHT_NYMPH, 1.2), PlacedFly(FOAM_NYMPH, 2.4))
    result = simulate(Rig(line_of_class("type-3"), LEADER, team), Cast(18.0, 20.0, RETRIEVES["strip-pause"]), LAKE)
    flies = [
        (name, result.fly_distance_m[k], result.fly_depth_m[k])
        for k, name in enumerate(("point, beaded", "middle, light", "top, foam"))
    ]
    return [
        chart("lines", "The same light fly on five lines, count 15, strip and pause", lines, "distance from the rod in m"),
        chart("indicator", "A fly set at 4.6 m under an indicator, after landing", hung, "seconds after landing"),
        across_figure(),
        chart("team", "Three flies on a type 3 line: each has its own path", flies, "distance from the rod in m"),
    ]


def main() -> None:
    drawn = figures()
    text = f"""# What the simulation was checked against

Written by `make physics`. Each row is also a test in `core/tests`, with its source beside it; the sources are listed in
[sources.md](sources.md). The model is told in [decision 1](decisions/0001-overdamped-chain.md).

## Outside sources

{table([*outside_checks(), *mesh_rows()], ("what", "against", "found", "asked for"))}

Beside these, as tests: the catenary of a line between rod and anchor (2 cm over 7 m), mirror symmetry, energy that only falls
when left alone, segment lengths within 0.5 %, deeper with more count, shallower with faster retrieve, halving the mesh (1 %), and
2 000 random rigs that run to their end inside the water. A program of the rod that has not its seven columns is refused.

{drawn[0]}

## Across the wind

The chain in three dimensions ([decision 21](decisions/0021-side-wind.md)); as tests too, with the mirror image, lengths, and what
stays in the water, for random winds, angles, mends and bottoms.

{table(cross_rows(), ("what", "against", "found", "asked for"))}

{drawn[2]}

## Eight times in ten

What is drawn about a fly is where it lies eight times in ten at that stage of the cast, by what is doubted: the rate of line and looped leader, each fly,
and the hand (cast, count, pace, slack, drift). {SPREAD_RIGS} rigs, 200 draws of all doubts each: so often was the fly within, and
so wide was it.

{table(coverage_rows(), ("rig", "as the retrieve begins", "halfway", "as it ends"))}

The doubts themselves are ours, each with its number in `sinking/spread.py`: this says that the band holds what they make, not that
they are right.

## What anglers say

Common practice, no published source.

{table(sayings(), ("said", "found", "verdict", "why"))}

{drawn[1]}

{drawn[3]}

## Left out

Knots and coils, the stiffness of line and leader, the splash of landing, a dropper's own sag, a slider's slide while the flies
sink. The surface film: a light dry fly or a greased leader stays on top in nature until it breaks through; here it sinks by its
weight alone. Waves under a float (the plan takes a little for them), and wind on the line in the air. A mend is instant, and
moves nothing that fishes. The bottom is the same all across; a tow feels no wind. Wind-driven drift dies out over half a metre,
which is our choice: measured lakes differ. A return flow below is there to be asked for and not used by the plan.
"""
    (DOCS / "physics.md").write_text(text)
    print(text)


if __name__ == "__main__":
    main()

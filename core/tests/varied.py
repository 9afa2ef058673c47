"""Varied presentations on which meshes and spreads are measured: by `make physics`, and a few of them by a test at every run."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

import numpy as np

from stillthread.errors import FloatArray
from stillthread.sinking.cast import Cast, level_water, simulate
from stillthread.sinking.doubts import DOUBTS
from stillthread.sinking.indicator import Drift, IndicatorRig, simulate_drift
from stillthread.sinking.result import CastResult
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.sinking.spread import at_stages, doubted_rig, simulate_spread
from stillthread.sinking.thread import QUICK, Mesh
from stillthread.tackle.leaders import Leader, LeaderSection, tapered_leader
from stillthread.tackle.lines import Stretch, line_of_class
from stillthread.tackle.rig import PlacedFly, Rig
from tests.rigs import DEEP_WATER, FOAM_NYMPH, HEAVY_NYMPH, LEADER, LIGHT_NYMPH, rig

# Against what meshes are held: finer than any of theirs in every way.
FINEST = Mesh(0.04, 0.15, 0.06, 0.0008)
LEVEL = Leader("level", (LeaderSection(0.9, 0.0004, "nylon"), LeaderSection(5.0, 0.00018)))
SPREAD_RIGS = 24
_LINES = ("floating", "intermediate", "type-3", "type-7", "slow-tip", "fast-tip", "fast-belly-5", "slow-intermediate",
          "fast-nose-5", "type-5")  # fmt: skip
_FLIES = (LIGHT_NYMPH, HEAVY_NYMPH, FOAM_NYMPH)

Presentation = Callable[[Mesh], CastResult]


def presentations() -> Iterator[Presentation]:
    """Yield 64 presentations: casts, washing lines and floats, in calm and in wind, level leaders and tapered ones."""
    lines = ("floating", "intermediate", "type-3", "type-5", "slow-tip", "fast-belly-5")
    for i, (key, fly) in enumerate(itertools.product(lines, _FLIES)):
        for count_s in (8.0, 30.0):
            retrieve = RETRIEVES[("strip-pause", "slow-twist", "two-handed")[(i + int(count_s)) % 3]]
            cast = Cast(18.0, count_s, retrieve, wind_speed_mps=(0.0, 4.0)[i % 2])
            tied = rig(key, fly)
            yield lambda mesh, tied=tied, cast=cast: simulate(tied, cast, DEEP_WATER, mesh=mesh)  # type: ignore[misc]
    washed = (PlacedFly(FOAM_NYMPH), PlacedFly(LIGHT_NYMPH, 1.2), PlacedFly(LIGHT_NYMPH, 2.4))
    for key, wind in itertools.product(("floating", "intermediate"), (0.0, 4.0)):
        tied, cast = Rig(line_of_class(key), LEADER, washed), Cast(18.0, 10.0, RETRIEVES["slow-twist"], wind_speed_mps=wind)
        yield lambda mesh, tied=tied, cast=cast: simulate(tied, cast, DEEP_WATER, mesh=mesh)  # type: ignore[misc]
    for leader, fly, wind, set_m in itertools.product(
        (LEVEL, tapered_leader(4.6, 4)), (LIGHT_NYMPH, HEAVY_NYMPH), (0.0, 2.0, 5.0), (1.5, 3.8)
    ):
        hung, drift = (
            IndicatorRig(leader, (PlacedFly(fly),), set_m, line=line_of_class("floating")),
            Drift(for_s=180.0, wind_speed_mps=wind),
        )
        yield lambda mesh, hung=hung, drift=drift: simulate_drift(hung, drift, level_water(10.0, 9.0), mesh=mesh).run  # type: ignore[misc]


def depths_of(run: CastResult) -> FloatArray:
    """Return the point fly's depth at four moments, and its deepest [m], shape (5,)."""
    at = np.array([0.15, 0.3, 0.5, 0.7]) * run.duration_s
    return np.append(np.interp(at, run.time_s, run.fly_depth_m[0]), run.deepest_m())


def mesh_errors(mesh: Mesh, every: int = 1) -> FloatArray:
    """Return how far off the finest mesh each of the presentations is at most [m], shape (n_presentation // every,)."""
    chosen = list(presentations())[::every]
    return np.array([np.abs(depths_of(one(mesh)) - depths_of(one(FINEST))).max() for one in chosen])


@dataclass(frozen=True)
class Covered:
    """Of a rig and cast: the share of draws that fell in the band at the start, the middle and the end of the retrieve, and how
    wide the band was there [m]."""

    name: str
    shares: FloatArray
    widths_m: FloatArray


def coverage(k: int, draws: int, rng: np.random.Generator) -> Covered:
    """Draw a rig's doubts `draws` times, and see how often its fly is where it is said to be eight times in ten."""
    key = _LINES[k % len(_LINES)]
    tied = rig(key, _FLIES[k % 3])
    if k % 6 == 5 and not tied.line.floats:
        tied = replace(tied, line=replace(tied.line, rate_spread=0.05))
    if k % 6 == 0:
        tied = replace(tied, line=replace(tied.line, looped=Stretch(3.0, 0.05)))
    retrieve = RETRIEVES[("strip-pause", "slow-twist", "two-handed", "lift-hang")[k % 4]]
    cast = Cast(14.0 + k % 6, float(5 + 7 * k % 40), retrieve, wind_speed_mps=(0.0, 2.0, 5.0)[k % 3])
    water = level_water(10.0, 14.0)
    band = simulate_spread(tied, cast, water)
    middle = band.middle
    start, end = middle.count_end, int(np.searchsorted(middle.phase, 2)) - 1
    at = [start, (start + end) // 2, end]
    inside = []
    for _ in range(draws):
        x = np.clip(rng.standard_normal(DOUBTS), -2.5, 2.5)
        doubted = doubted_rig(tied, x)
        depth = at_stages(middle, simulate(doubted, cast.doubted(doubted, x), water, mesh=QUICK))[0]
        inside.append([band.shallow_m[0, i] - 1e-6 <= depth[i] <= band.deep_m[0, i] + 1e-6 for i in at])
    widths = band.deep_m[0, at] - band.shallow_m[0, at]
    return Covered(f"{tied.line.name}, {tied.point_fly.name}", np.mean(inside, axis=0), np.asarray(widths))

"""Temperature against depth from whatever was read, with how sure each depth is."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np

from stillthread.errors import BadInput, FloatArray, MissingReading
from stillthread.ranges import BOTTOM_DEPTH_M
from stillthread.sourced import Sourced
from stillthread.water.expected import ExpectedColumn, nearness
from stillthread.water.monotone import monotone_curve
from stillthread.water.outliers import Flag, flag_outliers
from stillthread.water.reading import SURFACE_WITHIN_M, Reading
from stillthread.water.seasonal import Lake, seasonal_ensemble

DEPTH_STEP_M = 0.1  # ours: a grid
MOST_READINGS = 2_000  # ours: a bound

THERMOMETER_C = Sourced(0.2, "C", "ours", "error of a hand thermometer on a cord, with the swing of a boat")
GAP_SHARE = Sourced(0.25, "1", "ours", "error half-way between two readings, as a share of their difference")
SHAPE_ERROR_C = Sourced(1.0, "C", "ours", "how far a real lake strays from the seasonal shape at one depth")


@dataclass(kw_only=True, frozen=True, slots=True)
class Profile:
    """Temperature on an even grid from the surface to the bottom.

    `depth_m`, `water_c` and `spread_c` (one standard deviation) have shape (n_depth,).
    Below `measured_to_m` [m] the temperature is a seasonal guess. `readings` are all that were given, `flags` those
    among them that break with the rest.
    """

    depth_m: FloatArray
    water_c: FloatArray
    spread_c: FloatArray
    readings: tuple[Reading, ...]
    measured_to_m: float
    flags: tuple[Flag, ...] = ()

    def at(self, depth_m: float) -> float:
        """Return the temperature [C] at one depth [m], held at the ends."""
        return float(np.interp(depth_m, self.depth_m, self.water_c))


def depth_grid(bottom_depth_m: float) -> FloatArray:
    """Return depths [m] from 0 to the bottom in steps of `DEPTH_STEP_M`; the last is the bottom itself."""
    BOTTOM_DEPTH_M.check("bottom_depth_m", bottom_depth_m)
    grid = np.arange(0.0, bottom_depth_m, DEPTH_STEP_M)
    if bottom_depth_m - grid[-1] < 1e-9:
        return grid
    return np.append(grid, bottom_depth_m)


def build_profile(
    readings: Sequence[Reading], bottom_depth_m: float, lake: Lake, on: date, expected: ExpectedColumn | None = None
) -> Profile:
    """Return the temperature from surface to bottom.

    A reading that can't lie where it was written is flagged and not followed, unless it is trusted (`flag_outliers`).
    Between three or more readings the curve is monotone (no invented layers); with fewer it follows the
    seasonal shape of such a lake, pulled through the readings. Below the deepest reading it goes on with
    that shape, and its spread says how little is known there.

    Parameters
    ----------
    readings : sequence of Reading
        In any order, one a depth; the shallowest no deeper than 1 m.
    bottom_depth_m : float
        Depth of the bottom at the angler's place [m], 0.3 to 100. Readings below it are kept and shown,
        and shape the curve above.
    lake : Lake
        Where the water lies and how large it is.
    on : date
        Local date, for the season.
    expected : ExpectedColumn, optional
        What a lake that was carried on by its weather has there: it stands in for the seasonal shape.

    Returns
    -------
    Profile
        On the grid of `depth_grid`.

    Raises
    ------
    MissingReading
        No reading at or above 1 m.
    BadInput
        Two readings at one depth, or more than `MOST_READINGS`.
    OutOfRange
        The bottom is outside its range.

    References
    ----------
    fritsch-carlson-1980, for the monotone curve; the seasonal shape is ours (see `seasonal_ensemble`).
    """
    known = tuple(sorted(readings, key=lambda r: r.depth_m))
    if not known or known[0].depth_m > SURFACE_WITHIN_M:
        raise MissingReading("A temperature at the surface is needed. Give one at 1 m or less.", field="readings")
    if len(known) > MOST_READINGS:
        raise BadInput(f"{len(known)} readings are more than {MOST_READINGS}. Thin the file first.", field="readings")
    for a, b in itertools.pairwise(known):
        if b.depth_m - a.depth_m < 1e-6:
            raise BadInput(f"Two readings at {a.depth_m:g} m: keep one.", field="readings")
    flags = flag_outliers(known)
    ignored = {flag.reading.depth_m for flag in flags if not flag.followed}
    followed = tuple(r for r in known if r.depth_m not in ignored)
    grid = depth_grid(bottom_depth_m)
    read_m = np.array([r.depth_m for r in followed])
    read_c = np.array([r.water_c for r in followed])
    if expected is None:
        shape_c, shape_spread_c = _seasonal_curve(grid, read_m, read_c, lake, on)
    else:
        shape_c, shape_spread_c = expected.pulled_c(grid, followed)
    if len(followed) >= 3:
        inside = np.clip(grid, read_m[0], read_m[-1])
        drawn_c = monotone_curve(read_m, read_c, inside)
        offset_below = drawn_c[-1] - np.interp(min(read_m[-1], grid[-1]), grid, shape_c)
        # Water that nobody read lies stable under the last reading: it goes on toward 4 C, never back up.
        last_c = drawn_c[-1]
        guess_c = shape_c + offset_below * np.exp(-(grid - read_m[-1]) / 2.0)
        water_c = np.where(grid <= read_m[-1], drawn_c, np.clip(guess_c, min(last_c, 4.0), max(last_c, 4.0)))
    else:
        residual = np.interp(grid, read_m, read_c - np.interp(read_m, grid, shape_c))
        if expected is not None:
            residual = residual * nearness(np.maximum(grid - read_m[-1], 0.0), 0.0)
        water_c = shape_c + residual
    if expected is None:
        water_c = np.clip(water_c, min(read_c.min(), 4.0), max(read_c.max(), 4.0))
    spread_c = _spread_c(grid, read_m, read_c, shape_spread_c)
    return Profile(
        depth_m=grid,
        water_c=water_c,
        spread_c=spread_c,
        readings=known,
        measured_to_m=float(min(read_m[-1], grid[-1])),
        flags=flags,
    )


def _seasonal_curve(
    grid: FloatArray, read_m: FloatArray, read_c: FloatArray, lake: Lake, on: date
) -> tuple[FloatArray, FloatArray]:
    """Return mean and spread of the seasonal shapes, each weighted by how well it meets the readings."""
    span = np.union1d(grid, read_m)
    curves, weights = seasonal_ensemble(span, float(read_c[0]), lake, on)
    at_readings = np.array([np.interp(read_m, span, curve) for curve in curves])
    misfit = ((at_readings - read_c) / float(SHAPE_ERROR_C)) ** 2
    # A mean, not a sum: neighbouring readings of one lake do not err independently.
    weights = weights * np.exp(-0.5 * misfit[:, 1:].mean(axis=1)) if len(read_m) > 1 else weights
    weights = np.full_like(weights, 1.0 / len(weights)) if weights.sum() < 1e-300 else weights / weights.sum()
    mean = weights @ curves
    spread = np.sqrt(weights @ (curves - mean) ** 2)
    return np.interp(grid, span, mean), np.interp(grid, span, spread)


def _spread_c(grid: FloatArray, read_m: FloatArray, read_c: FloatArray, shape_spread_c: FloatArray) -> FloatArray:
    """Return the standard deviation [C] at each depth: small at a reading, the season's far from any."""
    nearest = np.abs(grid[:, None] - read_m[None, :]).min(axis=1)
    upper = np.clip(np.searchsorted(read_m, grid), 1, max(len(read_m) - 1, 1))
    between = np.zeros_like(grid)
    if len(read_m) > 1:
        step = np.diff(read_m)[upper - 1]
        middle = np.clip((grid - read_m[upper - 1]) / step, 0.0, 1.0)
        between = float(GAP_SHARE) * np.abs(np.diff(read_c)[upper - 1]) * 4.0 * middle * (1.0 - middle)
    outside = grid > read_m[-1]
    # Two readings that a season's shape joins leave what the shape itself leaves open.
    guess = shape_spread_c * (1.0 - np.exp(-nearest / 1.5))
    extra = np.where(outside | (len(read_m) < 3), np.maximum(guess, between), between)
    return np.asarray(np.hypot(float(THERMOMETER_C), extra))

"""What a bottom shows: where it drops off, and how it runs along a line."""

from __future__ import annotations

import numpy as np
import shapely

from stillthread.chart.soundings import DepthGrid
from stillthread.errors import BadInput, FloatArray
from stillthread.sourced import Sourced

STEEP = Sourced(0.12, "1", "ours", "a bottom that falls 1 in 8 or steeper beside gentler ground is a drop-off")
LEAST_CELLS = 5  # ours: a smaller drop-off is noise
SECTION_POINTS = 120  # ours: as many as can be drawn
LONGEST_SECTION_M = 30_000.0  # ours: a bound


def drop_offs(grid: DepthGrid) -> list[FloatArray]:
    """Return the lips over which the bottom begins to fall steeply, shape (n, 2) each [m], longest first.

    A cell is on a lip when it is steep, steeper than most of the lake, and the ground uphill of it is not. Cells that touch
    are one line.
    """
    down_y, down_x = (np.asarray(way, dtype=np.float64) for way in np.gradient(grid.depth_m, grid.step_m))
    slope = grid.slope()
    known = slope[np.isfinite(slope)]
    if known.size == 0:
        return []
    least = max(float(STEEP), 1.3 * float(np.median(known)))
    rows, columns = np.nonzero(np.nan_to_num(slope) > least)
    x, y = grid.x_m[columns], grid.y_m[rows]
    here = slope[rows, columns]
    back = grid.step_m / here
    uphill = np.column_stack((x - back * down_x[rows, columns], y - back * down_y[rows, columns]))
    above = DepthGrid(grid.x_m, grid.y_m, slope).at(uphill)
    # Ground at the very shore has nothing above it: a steep bank is no drop-off within the lake.
    lip = np.isfinite(above) & (above <= least)
    points = np.column_stack((x[lip], y[lip]))
    if len(points) < LEAST_CELLS:
        return []
    near_m = 1.5 * grid.step_m
    touching = shapely.get_parts(shapely.union_all(shapely.buffer(shapely.points(points), 0.5 * near_m, quad_segs=3)))
    lines = [_chain(points[shapely.contains_xy(blob, points[:, 0], points[:, 1])], 1.5 * near_m) for blob in touching]
    drawn = [shapely.LineString(line).simplify(0.7 * grid.step_m) for line in lines if len(line) >= LEAST_CELLS]
    return sorted((shapely.get_coordinates(line) for line in drawn), key=_length_m, reverse=True)


def _length_m(line: FloatArray) -> float:
    return float(np.linalg.norm(np.diff(line, axis=0), axis=1).sum())


def _chain(points: FloatArray, most_m: float) -> FloatArray:
    """Return points put in order by walking from one end to the nearest not yet walked, no step longer than `most_m`."""
    middle = points.mean(axis=0)
    at = int(np.argmax(np.linalg.norm(points - middle, axis=1)))
    left = np.ones(len(points), dtype=np.bool_)
    walked = [at]
    left[at] = False
    while left.any():
        away = np.where(left, np.linalg.norm(points - points[at], axis=1), np.inf)
        at = int(np.argmin(away))
        if away[at] > most_m:
            break
        walked.append(at)
        left[at] = False
    return points[walked]


def section(grid: DepthGrid, start: FloatArray, end: FloatArray, points: int = SECTION_POINTS) -> tuple[FloatArray, FloatArray]:
    """Return distance [m] and depth [m] along a straight line over the bottom, shape (points,) both; nan where not known.

    Raises
    ------
    BadInput
        The line is shorter than a metre or longer than 30 km.
    """
    length_m = float(np.linalg.norm(end - start))
    if not 1.0 <= length_m <= LONGEST_SECTION_M:
        raise BadInput("A section is a line of 1 m to 30 km: draw it across the water.", field="end")
    share = np.linspace(0.0, 1.0, points)
    return length_m * share, grid.at(start + share[:, None] * (end - start))

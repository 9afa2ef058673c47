"""Depths read over a lake, made into an even grid of its bottom."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely

from stillthread.chart.outline import Outline
from stillthread.errors import BadInput, FloatArray
from stillthread.sourced import Sourced

DEEPEST_SOUNDING_M = 400.0  # ours: a bound
MOST_SOUNDINGS = 400_000  # ours: a bound
MOST_KEPT = 5_000  # ours: as many as keep the shape
GRID_CELLS = 130  # ours: as fine as can be drawn
NEAR_SHORE_M = 50.0  # ours: how far outside the outline a sounding may lie, as outlines are drawn
MOST_SHORE = 8_000  # ours: points of the shore that the bottom is drawn to
LONGEST_SIDE = 3.0  # ours: of a triangle, in usual distances between soundings; longer ones span what nobody sounded
SPIKE_SHARE = Sourced(0.6, "1", "ours", "a sounding this far from its neighbours' middle, as a share of it, is a lost echo")
SPIKE_M = Sourced(3.0, "m", "ours", "and at least this far: a drop-off is steep too")


@dataclass(frozen=True, slots=True)
class DepthGrid:
    """Depth on an even grid: cell centres at `x_m` (nx,) and `y_m` (ny,), `depth_m` (ny, nx), nan where it is not known.

    `spikes` is how many soundings were not followed because they broke with all about them.
    """

    x_m: FloatArray
    y_m: FloatArray
    depth_m: FloatArray
    spikes: int = 0

    @property
    def step_m(self) -> float:
        return float(self.x_m[1] - self.x_m[0])

    def at(self, xy: npt.ArrayLike) -> FloatArray:
        """Return the depth [m] at points, shape (n, 2) to (n,), between the known cells about each; nan far from any."""
        points = np.atleast_2d(np.asarray(xy, dtype=np.float64))
        column, row = ((points[:, k] - (self.x_m[0], self.y_m[0])[k]) / self.step_m for k in (0, 1))
        total, weight = np.zeros(len(points)), np.zeros(len(points))
        for di in (0, 1):
            for dj in (0, 1):
                i, j = np.floor(row).astype(int) + di, np.floor(column).astype(int) + dj
                known = (i >= 0) & (i < len(self.y_m)) & (j >= 0) & (j < len(self.x_m))
                value = np.where(
                    known, self.depth_m[np.clip(i, 0, len(self.y_m) - 1), np.clip(j, 0, len(self.x_m) - 1)], np.nan
                )
                share = np.maximum((1.0 - np.abs(row - i)) * (1.0 - np.abs(column - j)), 1e-9)
                total += np.where(np.isnan(value), 0.0, share * np.nan_to_num(value))
                weight += np.where(np.isnan(value), 0.0, share)
        with np.errstate(invalid="ignore"):
            return np.where(weight > 0.0, total / np.maximum(weight, 1e-12), np.nan)

    def slope(self) -> FloatArray:
        """Return the steepness of the bottom, metres down per metre along, shape (ny, nx)."""
        down_y, down_x = np.gradient(self.depth_m, self.step_m)
        return np.asarray(np.hypot(down_x, down_y))


def check_soundings(depth_m: FloatArray) -> FloatArray:
    """Return depths as positive numbers, or raise `BadInput` where they can't be depths."""
    if len(depth_m) == 0:
        raise BadInput("There are no soundings.", field="soundings")
    if len(depth_m) > MOST_SOUNDINGS:
        raise BadInput(f"{len(depth_m):,} soundings are more than {MOST_SOUNDINGS:,}. Thin the file.", field="soundings")
    if float(depth_m.max()) <= 0.0 and float(depth_m.min()) < 0.0:
        depth_m = -depth_m  # heights under the surface, as charts of elevation give them
    if float(depth_m.min()) < 0.0:
        raise BadInput("Some depths are negative and some are not: are heights of the land among them?", field="soundings")
    if float(depth_m.max()) > DEEPEST_SOUNDING_M:
        text = f"A sounding of {float(depth_m.max()):.0f} m is deeper than {DEEPEST_SOUNDING_M:.0f} m. Is it in feet?"
        raise BadInput(text, field="soundings")
    return depth_m


def thin(xy: FloatArray, depth_m: FloatArray, most: int = MOST_KEPT) -> tuple[FloatArray, FloatArray, int]:
    """Return at most `most` points, each the middle of a cell's soundings, without the spikes, and how many those were.

    Parameters
    ----------
    xy : array, shape (n, 2)
        [m].
    depth_m : array, shape (n,)
        [m].
    """
    low, span = xy.min(axis=0), np.maximum(np.ptp(xy, axis=0), 1.0)
    cell_m = max(math.sqrt(float(span.prod()) / most), 0.5)
    at = np.floor((xy - low) / cell_m).astype(np.int64)
    nx, ny = (int(n) + 1 for n in at.max(axis=0))
    key = at[:, 1] * nx + at[:, 0]
    order = np.lexsort((depth_m, key))
    cells, first, count = np.unique(key[order], return_index=True, return_counts=True)
    middle = depth_m[order][first + count // 2]
    x, y = (np.bincount(key, xy[:, k], nx * ny)[cells] / count for k in (0, 1))
    sheet = np.full((ny + 4, nx + 4), np.nan)
    sheet[cells // nx + 2, cells % nx + 2] = middle
    about = np.stack([sheet[2 + i : ny + 2 + i, 2 + j : nx + 2 + j] for i in range(-2, 3) for j in range(-2, 3) if i or j])
    with np.errstate(all="ignore"):
        usual = np.nanmedian(np.where(np.isnan(about).all(axis=0), 0.0, about), axis=0)[cells // nx, cells % nx]
    lonely = np.isnan(about).all(axis=0)[cells // nx, cells % nx]
    off = np.abs(middle - usual)
    spike = ~lonely & (off > float(SPIKE_M)) & (off > float(SPIKE_SHARE) * np.maximum(usual, 1.0))
    return np.column_stack((x, y))[~spike], middle[~spike], int(count[spike].sum())


def depth_grid_of(xy: FloatArray, depth_m: FloatArray, outline: Outline | None) -> DepthGrid:
    """Return the bottom between the soundings: a net of triangles through them, with the shore at zero.

    Parameters
    ----------
    xy : array, shape (n, 2)
        Where was sounded [m].
    depth_m : array, shape (n,)
        [m], 0 to 400.
    outline : Outline or None
        Without it the net ends at the outermost soundings.

    Raises
    ------
    BadInput
        Fewer than three soundings, all in a line, none of them in the lake, or depths that can't be.
    """
    depth_m = check_soundings(depth_m)
    if outline is not None:
        near = _near(outline, xy)
        if not near.any():
            raise BadInput("None of the soundings lies in this water's outline.", field="soundings")
        xy, depth_m = xy[near], depth_m[near]
    points, values, spikes = thin(xy, depth_m)
    box = np.array(outline.water.bounds if outline else (*points.min(axis=0), *points.max(axis=0)))
    step = max(float((box[2:] - box[:2]).max()) / GRID_CELLS, 0.5)
    if outline is not None:
        # No finer than the grid shows, and no more of it than is drawn in a moment, however ragged the outline.
        line = outline.water.boundary.simplify(0.5 * step, preserve_topology=False)
        shore = shapely.get_coordinates(shapely.segmentize(line, max(2.0 * step, line.length / MOST_SHORE)))
        shore = shore[:: -(-len(shore) // MOST_SHORE)]
        points, values = np.concatenate((points, shore)), np.concatenate((values, np.zeros(len(shore))))
    points, unique = np.unique(np.round(points, 2), axis=0, return_index=True)
    values = values[unique]
    if len(points) < 3 or np.linalg.matrix_rank(points - points.mean(axis=0), tol=1.0) < 2:
        raise BadInput("Three soundings or more, not all in one line, are needed to draw a bottom.", field="soundings")
    x = np.arange(box[0] + step / 2.0, box[2] + step, step)
    y = np.arange(box[1] + step / 2.0, box[3] + step, step)
    centres = np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)
    depth = _between(points, values, centres, np.inf if outline is not None else LONGEST_SIDE)
    if outline is not None:
        depth = np.where(_wet(outline, x, y).ravel(), depth, np.nan)
    return DepthGrid(x, y, depth.reshape(len(y), len(x)), spikes)


def _wet(outline: Outline, x: FloatArray, y: FloatArray) -> npt.NDArray[np.bool_]:
    """Return which points of an even grid lie in the water, shape (len(y), len(x)).

    Row by row, between the first and second crossing of the shore, the third and fourth, and so on: the work grows with rows
    and the corners, however many of them lie side by side.
    """
    start, end = outline.edges()
    low, high = np.minimum(start[:, 1], end[:, 1]), np.maximum(start[:, 1], end[:, 1])
    wet = np.zeros((len(y), len(x)), dtype=np.bool_)
    for row, at in enumerate(y):
        crossed = (low <= at) & (at < high)
        a, b = start[crossed], end[crossed]
        cut = np.sort(a[:, 0] + (at - a[:, 1]) / (b[:, 1] - a[:, 1]) * (b[:, 0] - a[:, 0]))
        wet[row] = np.searchsorted(cut, x) % 2 == 1
    return wet


def _near(outline: Outline, xy: FloatArray) -> npt.NDArray[np.bool_]:
    """Return which points lie in the water or so near it that they were sounded there, shape (n,), to a cell of a grid."""
    west, south, east, north = outline.water.bounds
    step = max(east - west, north - south) / GRID_CELLS
    reach = math.ceil(NEAR_SHORE_M / step)
    x = np.arange(west - NEAR_SHORE_M, east + NEAR_SHORE_M + step, step)
    y = np.arange(south - NEAR_SHORE_M, north + NEAR_SHORE_M + step, step)
    wet = np.pad(_wet(outline, x, y), reach + 1).astype(np.int32).cumsum(axis=0).cumsum(axis=1)
    full = 2 * reach + 1
    about = wet[full:, full:] - wet[:-full, full:] - wet[full:, :-full] + wet[:-full, :-full]
    column, row = np.rint((xy[:, 0] - x[0]) / step), np.rint((xy[:, 1] - y[0]) / step)
    there = (column >= 0) & (column < len(x)) & (row >= 0) & (row < len(y))
    near = np.zeros(len(xy), dtype=np.bool_)
    near[there] = about[row[there].astype(int), column[there].astype(int)] > 0
    return near


def _between(points: FloatArray, values: FloatArray, at: FloatArray, longest_side: float) -> FloatArray:
    """Return values linear on the Delaunay triangles of `points`, at (n, 2), nan outside them.

    Triangles with a side longer than `longest_side` times the usual one are slivers at the rim, and left out.
    """
    triangles = shapely.get_parts(shapely.delaunay_triangles(shapely.MultiPoint(points)))
    # Corners come back as coordinates; they are found again among the points, which are sorted and rounded.
    corners = shapely.get_coordinates(triangles).reshape(-1, 4, 2)[:, :3]
    sides = np.linalg.norm(corners - np.roll(corners, 1, axis=1), axis=2).max(axis=1)
    whole = sides <= longest_side * np.median(sides)
    triangles, corners = triangles[whole], corners[whole]
    index = _index_of(points, corners.reshape(-1, 2)).reshape(-1, 3)
    which, inside = shapely.STRtree(triangles).query(shapely.points(at), predicate="intersects")
    a, b, c = (corners[inside, k] for k in range(3))
    p = at[which]
    area = _cross(b - a, c - a)
    wb, wc = _cross(p - a, c - a) / area, _cross(b - a, p - a) / area
    found = np.full(len(at), np.nan)
    found[which] = (1.0 - wb - wc) * values[index[inside, 0]] + wb * values[index[inside, 1]] + wc * values[index[inside, 2]]
    return found


def _cross(a: FloatArray, b: FloatArray) -> FloatArray:
    return np.asarray(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0])


def _index_of(points: FloatArray, wanted: FloatArray) -> npt.NDArray[np.int64]:
    def packed(xy: FloatArray) -> npt.NDArray[np.int64]:
        whole = np.round(100.0 * xy).astype(np.int64)
        return np.asarray(whole[:, 0] * 2**31 + whole[:, 1])

    keys = packed(points)
    order = np.argsort(keys)
    return np.asarray(order[np.searchsorted(keys[order], packed(wanted))])

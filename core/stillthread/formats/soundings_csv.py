"""Read soundings from CSV: longitude, latitude (or projected x, y) and depth, in any column order."""

from __future__ import annotations

import re
from typing import NamedTuple

import numpy as np
from pyproj import CRS, Transformer
from pyproj.exceptions import CRSError

from stillthread.chart.soundings import MOST_SOUNDINGS, check_soundings
from stillthread.errors import BadFile, FloatArray
from stillthread.formats.columns import decode, number, rows
from stillthread.formats.profile_csv import DepthUnit

MOST_BYTES = 25_000_000  # ours: a bound
_THIN = "Thin it first."
_WANTED = "Three are needed: longitude, latitude and depth."
_X = re.compile(r"^\s*(lon|lng|long|longitude|x|east|easting)\b|^\s*(lon|lng|x|east)", re.IGNORECASE)
_Y = re.compile(r"^\s*(lat|latitude|y|north|northing)\b|^\s*(lat|y|north)", re.IGNORECASE)
_DEPTH = re.compile(r"depth|tiefe|dyp|djup|prof|^\s*z\b|sounding", re.IGNORECASE)
_FEET = re.compile(r"(?:^|[\s_(\[/])(ft|feet|foot)[)\]]?\s*$", re.IGNORECASE)


class SoundingsFile(NamedTuple):
    """Soundings in degrees of WGS 84 and metres: `lonlat` (n, 2), `depth_m` (n,); `skipped` rows without a depth."""

    lonlat: FloatArray
    depth_m: FloatArray
    skipped: int


def read_soundings_csv(data: bytes, *, depth_unit: DepthUnit | None = None, epsg: int | None = None) -> SoundingsFile:
    """Return the soundings of a CSV whose header names x or longitude, y or latitude, and depth.

    Parameters
    ----------
    data : bytes
        UTF-8, at most 25 MB and 400 000 rows.
    depth_unit : optional
        The choice made by hand; without it and without one in the header, metres.
    epsg : optional
        Code of the map grid of x and y where they are not degrees.

    Raises
    ------
    BadFile
        With the line at fault: no header or columns, text among numbers, places that are not degrees and no `epsg`, an
        unknown `epsg`.
    BadInput
        Depths that can't be (`check_soundings`).
    """
    text = decode(data, MOST_BYTES, "soundings", _THIN)
    found = rows(text, MOST_SOUNDINGS, "soundings", _WANTED, _THIN)
    header = found[0][1]
    x_at, y_at, depth_at = _columns(header)
    last = max(x_at, y_at, depth_at)
    table = np.empty((len(found) - 1, 3))
    kept = 0
    for line, cells in found[1:]:
        if len(cells) <= last:
            raise BadFile(f"Line {line} has {len(cells)} columns; {last + 1} are needed.", line=line, field="soundings")
        if not cells[depth_at].strip():
            continue
        for column, at in enumerate((x_at, y_at, depth_at)):
            value = number(cells[at])
            if value is None:
                raise BadFile(f"Line {line}: {cells[at].strip()!r} is not a number.", line=line, field="soundings")
            table[kept, column] = value
        kept += 1
    if kept == 0:
        raise BadFile("The file has a header but no soundings.", line=1, field="soundings")
    table = table[:kept]
    feet = (depth_unit or ("ft" if _FEET.search(header[depth_at].strip()) else "m")) == "ft"
    depth = check_soundings(table[:, 2] * (0.3048 if feet else 1.0))
    return SoundingsFile(_degrees(table[:, :2], epsg), depth, len(found) - 1 - kept)


def _columns(header: list[str]) -> tuple[int, int, int]:
    def first(pattern: re.Pattern[str]) -> int | None:
        return next((i for i, cell in enumerate(header) if pattern.search(cell)), None)

    x, y, depth = first(_X), first(_Y), first(_DEPTH)
    if x is None or y is None or depth is None:
        raise BadFile("The header must name three columns, such as: lon,lat,depth_m", line=1, field="soundings")
    return x, y, depth


def _degrees(xy: FloatArray, epsg: int | None) -> FloatArray:
    if epsg is not None:
        try:
            grid = CRS.from_epsg(epsg)
        except CRSError:
            raise BadFile(f"EPSG {epsg} is no map grid that is known here.", field="epsg") from None
        lon, lat = Transformer.from_crs(grid, "EPSG:4326", always_xy=True).transform(xy[:, 0], xy[:, 1])
        degrees = np.column_stack((lon, lat))
        if not np.isfinite(degrees).all():
            raise BadFile(f"Some x and y lie outside the map grid EPSG {epsg}.", field="epsg")
        return degrees
    if np.abs(xy[:, 0]).max() > 180.0 or np.abs(xy[:, 1]).max() > 90.0:
        if np.abs(xy[:, 1]).max() <= 180.0 and np.abs(xy[:, 0]).max() <= 90.0:
            raise BadFile("Latitude and longitude look swapped: the header says x or longitude for what is latitude.", line=1)
        text = "x and y are not degrees. Give the EPSG code of their map grid, such as 32632."
        raise BadFile(text, line=1, field="epsg")
    return xy

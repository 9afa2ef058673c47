"""A flat sheet of paper over one lake: metres east and north of a point on it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt
from pyproj import Transformer

from stillthread.errors import FloatArray
from stillthread.ranges import LATITUDE_DEG, LONGITUDE_DEG


@dataclass(frozen=True, slots=True)
class Plane:
    """Azimuthal equidistant map about `latitude_deg`, `longitude_deg`; within 20 km it is true to a few centimetres."""

    latitude_deg: float
    longitude_deg: float

    def __post_init__(self) -> None:
        LATITUDE_DEG.check("latitude_deg", self.latitude_deg)
        LONGITUDE_DEG.check("longitude_deg", self.longitude_deg)

    def to_xy(self, lonlat: npt.ArrayLike) -> FloatArray:
        """Return metres east and north, shape (n, 2), of longitudes and latitudes [deg], shape (n, 2)."""
        points = np.atleast_2d(np.asarray(lonlat, dtype=np.float64))
        there, _ = _transformers(self.latitude_deg, self.longitude_deg)
        return np.column_stack(there.transform(points[:, 0], points[:, 1]))

    def to_lonlat(self, xy: npt.ArrayLike) -> FloatArray:
        """Return longitudes and latitudes [deg], shape (n, 2), of metres east and north, shape (n, 2)."""
        points = np.atleast_2d(np.asarray(xy, dtype=np.float64))
        _, back = _transformers(self.latitude_deg, self.longitude_deg)
        return np.column_stack(back.transform(points[:, 0], points[:, 1]))


@lru_cache(maxsize=64)
def _transformers(latitude_deg: float, longitude_deg: float) -> tuple[Transformer, Transformer]:
    local = f"+proj=aeqd +lat_0={latitude_deg!r} +lon_0={longitude_deg!r} +datum=WGS84 +units=m"
    world = "+proj=longlat +datum=WGS84"
    return Transformer.from_crs(world, local, always_xy=True), Transformer.from_crs(local, world, always_xy=True)

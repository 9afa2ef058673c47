"""The two invented lakes: their shores, their bottoms and their marks, as the demo loads and the stand-ins sail them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely

from stillthread.api import FloatArray, Plane


@dataclass(frozen=True)
class DemoLake:
    """A lake on its plane [m]: rough `corners` of shore and `islands`, a shelf of `shelf_m` that drops to `deep_m`.

    `marks` are (name, kind, x, y, notes).
    """

    plane: Plane
    corners: tuple[tuple[float, float], ...]
    islands: tuple[tuple[tuple[float, float], ...], ...]
    shelf_m: float
    shelf_width_m: float
    deep_m: float
    marks: tuple[tuple[str, str, float, float, str], ...]

    @property
    def water(self) -> shapely.Polygon:
        return shapely.Polygon(rounded(self.corners), [rounded(island) for island in self.islands])

    def geometry(self) -> dict[str, Any]:
        rings = [np.asarray(ring.coords) for ring in (self.water.exterior, *self.water.interiors)]
        return {"type": "Polygon", "coordinates": [self.plane.to_lonlat(ring).tolist() for ring in rings]}

    def depth_m(self, xy: FloatArray) -> FloatArray:
        """Return the true depth [m] at points, shape (n, 2): a shelf, a drop-off, then a basin with gentle swells."""
        away = shapely.distance(self.water.boundary, shapely.points(xy))
        x, y = xy[:, 0], xy[:, 1]
        width = self.shelf_width_m * (1.0 + 0.45 * np.sin(x / 260.0 + 1.0) * np.cos(y / 310.0))
        shelf = self.shelf_m * np.minimum(away / width, 1.0) ** 0.7
        fall = 1.0 / (1.0 + np.exp(-(away - 1.35 * width) / (0.12 * width)))
        swell = 1.0 + 0.12 * np.sin(x / 140.0) * np.sin(y / 170.0 + 0.6)
        basin = (self.deep_m - self.shelf_m) * (0.35 + 0.65 * np.minimum(away / 340.0, 1.0)) * swell
        wet = shapely.contains_xy(self.water, x, y)
        return np.asarray(np.where(wet, shelf + fall * basin, 0.0))

    def soundings(self, seed: int) -> tuple[FloatArray, FloatArray]:
        """Return places (n, 2) [m] and depths (n,) [m] of a boat that went to and fro with a sounder, some echoes lost."""
        rng = np.random.default_rng(seed)
        west, south, east, north = self.water.bounds
        rows = np.arange(south + 15.0, north, 45.0)
        legs = [np.column_stack((np.arange(west, east, 16.0), np.full(int(np.ceil((east - west) / 16.0)), y))) for y in rows]
        track = np.concatenate([leg[:: -1 if i % 2 else 1] for i, leg in enumerate(legs)])
        track = track + rng.normal(0.0, 3.0, track.shape)
        track = track[shapely.contains_xy(self.water, track[:, 0], track[:, 1])]
        depth = np.maximum(self.depth_m(track) + rng.normal(0.0, 0.08, len(track)), 0.1)
        depth[rng.random(len(depth)) < 0.003] = 66.6
        return track, np.asarray(np.round(depth, 2), dtype=np.float64)


def rounded(corners: tuple[tuple[float, float], ...], times: int = 3) -> FloatArray:
    """Return a closed line with its corners cut off again and again, shape (n, 2)."""
    ring = np.array(corners, dtype=np.float64)
    for _ in range(times):
        after = np.roll(ring, -1, axis=0)
        ring = np.stack((0.75 * ring + 0.25 * after, 0.25 * ring + 0.75 * after), axis=1).reshape(-1, 2)
    return np.concatenate((ring, ring[:1]))


BRENNHOLT_LAKE = DemoLake(
    plane=Plane(61.2, 9.4),
    corners=(
        (-180, -1150), (160, -1180), (300, -980), (330, -620), (520, -420), (640, -180), (560, 60), (330, 120),
        (260, 340), (420, 620), (480, 940), (330, 1180), (120, 1120), (60, 820), (-60, 560), (-160, 300), (-420, 220),
        (-560, 40), (-470, -160), (-250, -260), (-260, -560), (-330, -860),
    ),
    islands=(((60, -330), (130, -380), (190, -310), (150, -240), (80, -250)),),
    shelf_m=3.4, shelf_width_m=62.0, deep_m=16.0,
    marks=(
        ("North arm lip", "drop-off", 345.0, 640.0, "Shelf of 3 m that falls to 8."),
        ("Head of the arm", "inlet", 330.0, 1120.0, "Burn comes in; cold in spring."),
        ("Alder bay", "bay", -488.0, 60.0, "Sheltered from the west, damsels in the reeds."),
        ("Weed shelf", "weed-bed", 540.0, -80.0, "Weed to a metre under the top by July."),
        ("Narrow point", "point", -130.0, 300.0, ""),
        ("Dam wall", "outlet", 0.0, -1126.0, "Deep close in."),
        ("Island ledge", "drop-off", 40.0, -250.0, ""),
        ("Boat jetty", "launch", -300.0, -700.0, ""),
    ),
)  # fmt: skip
TRESCANAS_LAKE = DemoLake(
    plane=Plane(-41.3, -71.2),
    corners=(
        (-1500, 150), (-1320, 520), (-900, 560), (-520, 820), (60, 900), (620, 760), (1080, 620), (1480, 240),
        (1560, -200), (1180, -560), (640, -640), (200, -900), (-360, -820), (-760, -520), (-820, -240), (-1180, -220),
    ),
    islands=(((420, 60), (560, 20), (660, 120), (600, 260), (440, 220)),),
    shelf_m=2.6, shelf_width_m=85.0, deep_m=14.0,
    marks=(
        ("West reeds", "weed-bed", -1350.0, 220.0, "Reed bed, nymphs climb here."),
        ("South lip", "drop-off", -150.0, -755.0, ""),
        ("Island shoal", "drop-off", 380.0, 298.0, ""),
        ("East beach", "bank", 1500.0, -120.0, "Takes the afternoon wind."),
        ("Stream mouth", "inlet", 80.0, 860.0, ""),
        ("Open basin", "open", 250.0, -250.0, ""),
    ),
)  # fmt: skip

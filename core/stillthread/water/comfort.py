"""How well a water temperature suits each trout species."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType

import numpy as np
import numpy.typing as npt

from stillthread.errors import BadInput, FloatArray
from stillthread.sourced import Sourced
from stillthread.water.doubt import averaged


@dataclass(frozen=True, slots=True)
class Species:
    """Thermal response of one species.

    `best_low_c` to `best_high_c` is the comfort range; from `stress_c` upward the fish pays to be there;
    `limit_c` kills. `anchors` are (temperature [C], feeding share 0..1), joined by straight lines.
    The ranges are published (`source`); the shares between them are ours, drawn through those ranges and
    the common-practice steps: hardly feeding below 4 C, beginning at 4 to 7 C, best about 13 to 17 C.
    `growth_c` are the temperatures [C] at which growth begins, is full, begins to fall and ends.
    """

    key: str
    name: str
    best_low_c: float
    best_high_c: float
    stress_c: float
    limit_c: float
    anchors: tuple[tuple[float, float], ...]
    growth_c: tuple[float, float, float, float]
    source: str


GROWS_C = Sourced(3.56, "C", "elliott-1995", "brown trout begin to grow; common practice: hardly a take under 4 C")
FULL_C = Sourced(13.11, "C", "elliott-1995", "brown trout grow fastest, and on a straight line from the start to here")
ENDS_C = Sourced(19.48, "C", "elliott-1995", "brown trout end to grow, and hardly feed")
FALLS_C = Sourced(17.2, "C", "hokanson-1977", "rainbow trout grow fastest; common practice: falling from about 18 C")
UNDER_LIMIT_C = Sourced(2.0, "C", "hokanson-1977", "growth of rainbow trout ends so far under what kills them (m)")
# The sources speak of trout that are at their best from 12 to 18 C; other species keep their distance from their own range.
_LOW_C, _HIGH_C = 12.0, 18.0  # common practice


def _species(key: str, name: str, best: tuple[float, float], stress_c: float, limit_c: float, source: str) -> Species:
    low, high = best
    anchors = ((0.0, 0.05), (4.0, 0.15), (7.0, 0.45), (low, 1.0), (high, 1.0), (stress_c, 0.5), (limit_c, 0.0))
    falls = float(FALLS_C) + high - _HIGH_C
    growth = (float(GROWS_C), min(float(FULL_C) + low - _LOW_C, falls), falls, limit_c - float(UNDER_LIMIT_C))
    return Species(key, name, low, high, stress_c, limit_c, anchors, growth, source)


# Brown trout have a curve of their own: growth peaks sooner than a rainbow's and ends at 19.5 C, where they stop feeding.
# Comfort is where they grow at two thirds of their best or more; raleigh-1986 has 12 to 19 C for all of a life.
_BROWN = Species(
    "brown",
    "Brown trout",
    10.0,
    15.2,
    19.0,
    24.7,
    ((0.0, 0.05), (0.4, 0.05), (4.0, 0.15), (7.0, 0.5), (10.0, 1.0), (15.2, 1.0), (17.5, 0.6), (19.5, 0.05), (24.7, 0.0)),
    (float(GROWS_C), float(FULL_C), float(FULL_C), float(ENDS_C)),
    "elliott-1995",
)


SPECIES: MappingProxyType[str, Species] = MappingProxyType(
    {
        s.key: s
        for s in (
            _species("rainbow", "Rainbow trout", (12.0, 18.0), 20.0, 25.0, "raleigh-1984"),
            _BROWN,
            _species("brook", "Brook trout", (11.0, 16.0), 19.0, 24.0, "raleigh-1982"),
            _species("cutthroat", "Cutthroat trout", (12.0, 15.0), 19.0, 23.0, "hickman-raleigh-1982"),
            _species("char", "Char", (10.0, 15.0), 18.0, 22.0, "elliott-elliott-2010"),
        )
    }
)


def species_named(key: str) -> Species:
    """Return the species with this key, or raise `BadInput` listing the known keys."""
    try:
        return SPECIES[key]
    except KeyError:
        raise BadInput(f"species = {key!r} is not known. Known: {', '.join(SPECIES)}.", field="species") from None


def feeding_share(species: Species, water_c: npt.ArrayLike, spread_c: npt.ArrayLike = 0.0) -> FloatArray:
    """Return how keenly the species feeds at a temperature, from 0 (not at all) to 1 (best).

    Parameters
    ----------
    species : Species
    water_c : float or array
        Water temperature [C].
    spread_c : float or array, broadcast with `water_c`
        Standard deviation of that temperature [C]; the share is averaged over it.

    Returns
    -------
    array
        Share [1], 0 to 1; a larger spread flattens it.

    Examples
    --------
    >>> feeding_share(SPECIES["rainbow"], [2.0, 15.0, 20.0])
    array([0.1, 1. , 0.5])
    """
    known_c, known_share = (np.array(column) for column in zip(*species.anchors, strict=True))
    return averaged(water_c, spread_c, lambda c: np.asarray(np.interp(c, known_c, known_share)))


def depth_bands(depth_m: FloatArray, fits: npt.NDArray[np.bool_]) -> tuple[tuple[float, float], ...]:
    """Return the (top, bottom) depths [m] of each unbroken run of True in `fits`, both shape (n,).

    Examples
    --------
    >>> depth_bands(np.array([0.0, 1.0, 2.0, 3.0]), np.array([True, False, True, True]))
    ((0.0, 0.0), (2.0, 3.0))
    """
    edges = np.flatnonzero(np.diff(np.concatenate(([0], fits.astype(np.int8), [0]))))
    return tuple((float(depth_m[a]), float(depth_m[b - 1])) for a, b in zip(edges[::2], edges[1::2], strict=True))

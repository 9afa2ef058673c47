"""Places worth a name on a lake, and which food each kind of place holds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from types import MappingProxyType

from pyproj import Geod

from stillthread.errors import BadInput
from stillthread.ranges import LATITUDE_DEG, LONGITUDE_DEG, MARK_DEPTH_M


@dataclass(frozen=True, slots=True)
class MarkKind:
    """A kind of place. `foods` maps food keys to how much more of it lives there than elsewhere, all common practice."""

    key: str
    name: str
    foods: MappingProxyType[str, float]


def _kind(key: str, name: str, **foods: float) -> MarkKind:
    return MarkKind(key, name, MappingProxyType({food.replace("_", "-"): more for food, more in foods.items()}))


# Common practice, no published source: where anglers look for what; the numbers are ours.
MARK_KINDS: MappingProxyType[str, MarkKind] = MappingProxyType(
    {
        kind.key: kind
        for kind in (
            _kind("drop-off", "Drop-off", midge_larva=1.4, midge_pupa=1.5, midge_film=1.2, leech=1.4, dragon_nymph=1.2),
            _kind(
                "weed-bed", "Weed bed", shrimp=1.7, damsel_nymph=1.8, dragon_nymph=1.6, mayfly_nymph=1.4, boatman=1.5, fry=1.3
            ),
            _kind("inlet", "Inlet", fry=1.3, caddis_pupa=1.3, terrestrial=1.2, leech=1.1),
            _kind("outlet", "Outlet or dam", fry=1.2, daphnia=1.2, midge_pupa=1.2),
            _kind("point", "Point", midge_pupa=1.3, caddis_adult=1.2, fry=1.2),
            _kind("bay", "Bay", damsel_nymph=1.4, midge_pupa=1.2, boatman=1.3, fry=1.3),
            _kind("bank", "Bank", terrestrial=1.4, shrimp=1.2, boatman=1.2),
            _kind("peg", "Peg or jetty", fry=1.1, terrestrial=1.1),
            _kind("open", "Open water", daphnia=1.6, midge_pupa=1.1),
            _kind("launch", "Launch"),
        )
    }
)


@dataclass(kw_only=True, frozen=True, slots=True)
class Mark:
    """A named place: degrees of WGS 84, `kind_key` of `MARK_KINDS`, `depth_m` where it was measured."""

    name: str
    kind_key: str
    latitude_deg: float
    longitude_deg: float
    depth_m: float | None = None
    notes: str = ""

    def __post_init__(self) -> None:
        LATITUDE_DEG.check("latitude_deg", self.latitude_deg)
        LONGITUDE_DEG.check("longitude_deg", self.longitude_deg)
        if self.depth_m is not None:
            MARK_DEPTH_M.check("depth_m", self.depth_m)
        if self.kind_key not in MARK_KINDS:
            known = ", ".join(MARK_KINDS)
            raise BadInput(f"Kind of mark {self.kind_key!r} is not known. Known: {known}.", field="kind_key")


_EARTH = Geod(ellps="WGS84")


def nearest(
    latitude_deg: float, longitude_deg: float, marks: Sequence[tuple[str, float, float]], within_m: float
) -> str | None:
    """Return the name of the mark (name, latitude, longitude) nearest to a place, `None` where none is so near [m]."""
    if not marks:
        return None
    n = len(marks)
    names, lats, lons = zip(*marks, strict=True)
    away = _EARTH.inv([longitude_deg] * n, [latitude_deg] * n, lons, lats)[2]
    near = min(range(n), key=lambda i: away[i])
    return str(names[near]) if away[near] <= within_m else None

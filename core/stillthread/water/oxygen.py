"""Dissolved oxygen: what fresh water holds in balance with the air, and what is left of it at each depth."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from stillthread.errors import BadInput, FloatArray, check_range
from stillthread.phrase import Phrase
from stillthread.ranges import ALTITUDE_M, DEPTH_M, OXYGEN_MGL
from stillthread.sourced import Sourced
from stillthread.water.doubt import averaged
from stillthread.water.expected import ExpectedColumn

POOR_MGM2D = Sourced(250.0, "mg/m2 a day", "mortimer-1941", "most that the deep water of a poor lake loses")
RICH_MGM2D = Sourced(550.0, "mg/m2 a day", "mortimer-1941", "least that the deep water of a rich one loses")
POOR_SECCHI_M, RICH_SECCHI_M = (
    Sourced(4.0, "m", "carlson-1977", "one sees so far in water between poor and middling"),
    Sourced(2.0, "m", "carlson-1977", "one sees so far in water between middling and rich"),
)
LAKES_DIFFER = Sourced(0.5, "1", "ours", "one standard deviation of what is lost, as a share of it")
LAYERED_AT_LEAST_D = 7.0  # ours: where there are layers, they have been there for some days
THICKEST_M = 20.0  # ours: what sinks is used up in so much water; below it there is no end of oxygen in one summer
MOST_LOST = 0.95  # ours
ODD_MGL = Sourced(3.0, "mg/L", "ours", "a value so far off neighbours that agree is a slip, or a probe in the mud")
AGREE_MGL = Sourced(1.5, "mg/L", "ours", "neighbours that differ by less agree")
UNREAD_M = Sourced(1.0, "m", "ours", "a reading speaks for so much water below it")
PROBE_MGL = Sourced(0.3, "mg/L", "ours", "error of a hand-held oxygen probe")
LIVABLE_MGL = Sourced(5.0, "mg/L", "epa-1986", "lowest weekly mean of daily minima for cold-water fish past their early life")


def standard_pressure_atm(altitude_m: float) -> float:
    """Return the air pressure of the standard atmosphere [atm] at `altitude_m` [m], -400 to 6000.

    References
    ----------
    us-standard-atmosphere-1976, the troposphere.

    Examples
    --------
    >>> round(standard_pressure_atm(1500.0), 4)
    0.8345
    """
    ALTITUDE_M.check("altitude_m", altitude_m)
    return float((1.0 - 2.25577e-5 * altitude_m) ** 5.25588)


def oxygen_saturation_mgl(water_c: float, altitude_m: float = 0.0) -> float:
    """Return the oxygen that fresh water holds when it is saturated.

    This is a ceiling, not an estimate: it is blind to what fish, weed and mud use or make.

    Parameters
    ----------
    water_c : float
        Water temperature [C], 0 to 40.
    altitude_m : float
        Height of the water above the sea [m], -400 to 6000, taken as its standard pressure.

    Returns
    -------
    float
        Dissolved oxygen [mg/L].

    Raises
    ------
    OutOfRange
        Temperature or altitude is outside the ranges above.

    References
    ----------
    benson-krause-1984, as printed in apha-4500-o.

    Examples
    --------
    >>> round(oxygen_saturation_mgl(10.0), 2), round(oxygen_saturation_mgl(10.0, altitude_m=1500.0), 2)
    (11.29, 9.4)
    """
    check_range("water_c", water_c, 0.0, 40.0, "C")
    k = water_c + 273.15
    sea_level = math.exp(-139.34411 + 1.575701e5 / k - 6.642308e7 / k**2 + 1.243800e10 / k**3 - 8.621949e11 / k**4)
    p = standard_pressure_atm(altitude_m)
    vapour = math.exp(11.8571 - 3840.70 / k - 216961.0 / k**2)
    theta = 0.000975 - 1.426e-5 * water_c + 6.436e-8 * water_c**2
    return sea_level * p * (1.0 - vapour / p) * (1.0 - theta * p) / ((1.0 - vapour) * (1.0 - theta))


@dataclass(frozen=True, slots=True)
class OxygenReading:
    """Dissolved oxygen at one depth: `depth_m` 0 to 100, `oxygen_mgl` 0 to 25 [mg/L]; `trusted` once the angler has checked
    it."""

    depth_m: float
    oxygen_mgl: float
    trusted: bool = False

    def __post_init__(self) -> None:
        DEPTH_M.check("depth_m", self.depth_m)
        OXYGEN_MGL.check("oxygen_mgl", self.oxygen_mgl)


@dataclass(kw_only=True, frozen=True, slots=True)
class OxygenProfile:
    """Dissolved oxygen [mg/L] on the depths [m] of a temperature profile, shape (n_depth,), with one standard deviation.

    Between `measured_from_m` and `measured_to_m` it was read; elsewhere, and where both are `None`, it is estimated.
    `doubt` says why what lies deep is doubted, None where it is not; `flags` are readings that break with those beside them.
    """

    depth_m: FloatArray
    oxygen_mgl: FloatArray
    spread_mgl: FloatArray
    readings: tuple[OxygenReading, ...]
    measured_from_m: float | None
    measured_to_m: float | None
    doubt: Phrase | None = None
    flags: tuple[OxygenFlag, ...] = ()

    @property
    def unread_below_m(self) -> float | None:
        """Depth [m] below which nothing was read, None where it was read to the bottom."""
        if self.measured_to_m is None:
            return 0.0
        deepest = float(self.depth_m[-1])
        return self.measured_to_m if deepest - self.measured_to_m > float(UNREAD_M) else None


@dataclass(frozen=True, slots=True)
class OxygenFlag:
    """A reading that breaks with those beside it, and why; `followed` when the angler trusts it all the same."""

    reading: OxygenReading
    why: Phrase
    followed: bool


def flag_odd(readings: Sequence[OxygenReading]) -> tuple[OxygenFlag, ...]:
    """Return single readings that lie far off both of their neighbours, which agree with each other, of readings by depth.

    Two low readings in a row are a layer; one alone is more often a slip of the pen or a probe in weed or mud.
    """
    flags = []
    for above, one, below in zip(readings, readings[1:], readings[2:], strict=False):
        between = 0.5 * (above.oxygen_mgl + below.oxygen_mgl)
        if abs(above.oxygen_mgl - below.oxygen_mgl) <= float(AGREE_MGL) and abs(one.oxygen_mgl - between) > float(ODD_MGL):
            text = (
                "{odd_mgl} at {odd_m} stands alone between {above_mgl} and {below_mgl}. Not followed until you say it is right."
            )
            if one.trusted:
                text = "{odd_mgl} at {odd_m} is odd between {above_mgl} and {below_mgl}. Followed, because you checked it."
            values = {
                "odd_mgl": one.oxygen_mgl, "odd_m": one.depth_m, "above_mgl": above.oxygen_mgl, "below_mgl": below.oxygen_mgl,
            }  # fmt: skip
            flags.append(OxygenFlag(one, Phrase(text, values), one.trusted))
    return tuple(flags)


def demand_mgm2d(secchi_m: float) -> float:
    """Return what the deep water of a lake loses under each square metre [mg/m2 a day], by how far one sees in it.

    References
    ----------
    mortimer-1941 for the bounds of poor and rich lakes, carlson-1977 for how far one sees in them; straight in the logarithm
    between, and beyond to half and to twice: ours.
    """
    share = math.log(float(POOR_SECCHI_M) / secchi_m) / math.log(float(POOR_SECCHI_M) / float(RICH_SECCHI_M))
    found = float(POOR_MGM2D) + share * (float(RICH_MGM2D) - float(POOR_MGM2D))
    return min(max(found, 0.5 * float(POOR_MGM2D)), 2.0 * float(RICH_MGM2D))


def _why_doubted(secchi_m: float, layered_d: float, thick_m: float, thermocline_m: float) -> Phrase:
    """Return the weightiest reason why the deep water may lack oxygen."""
    values = {"thermocline_m": thermocline_m, "secchi_m": secchi_m, "thick_m": thick_m, "layered_n": layered_d}
    weights = {
        "only {thick_m} of water lie under it to draw on": 4.0 / max(thick_m, 0.5),
        "one sees only {secchi_m} down: much grows here, and what sinks uses it up": demand_mgm2d(secchi_m) / 400.0,
        "it has been shut off from the air for about {layered_n} days": layered_d / 60.0,
    }
    reason = max(weights, key=lambda text: weights[text])
    if weights[reason] < 0.8:
        return Phrase("Under the thermocline ({thermocline_m}) oxygen is likely still enough; nobody read it.", values)
    return Phrase(f"Under the thermocline ({{thermocline_m}}) oxygen is doubted: {reason}. Not measured: a guess.", values)


def _worked_out(thermocline_m: float, deepest_mgl: float) -> Phrase:
    values = {"thermocline_m": thermocline_m, "deepest_mgl": deepest_mgl}
    text = "Under the thermocline ({thermocline_m}) some {deepest_mgl} is left at the bottom, by what this season's weather let"
    if deepest_mgl >= float(LIVABLE_MGL):
        return Phrase(f"{text} in: likely enough. Not measured.", values)
    return Phrase(f"{text} in: too little for them. Not measured.", values)


def oxygen_profile(
    depth_m: FloatArray,
    water_c: FloatArray,
    altitude_m: float,
    thermocline_m: float | None,
    readings: Sequence[OxygenReading] = (),
    *,
    secchi_m: float = 3.0,
    layered_d: float = 60.0,
    deepest_m: float | None = None,
    expected: ExpectedColumn | None = None,
) -> OxygenProfile:
    """Return oxygen against depth: as read where it was read, cautiously estimated elsewhere.

    The estimate is the saturation at each depth's temperature; below a thermocline it is less what the lake's deep water has
    used up since it was shut off, the more the less far one sees and the less water there is. Readings pull it, but for single
    odd ones (`flag_odd`): between them oxygen runs straight from one to the next (lakes do have a minimum in
    mid-water), and beyond them what they found against the estimate fades out with distance. Below the deepest reading it
    never rises again.

    Parameters
    ----------
    depth_m, water_c : array, shape (n_depth,)
        The temperature profile [m, C].
    altitude_m : float
        [m], -400 to 6000.
    thermocline_m : float or None
        [m]; `None` when the water is mixed.
    readings : sequence of OxygenReading
        In any order, one a depth.
    secchi_m : float
        How far one sees down [m].
    layered_d : float
        How long the lake has been layered [d].
    deepest_m : float, optional
        Of the lake near by [m]; else the profile's own.
    expected : ExpectedColumn, optional
        What a lake that was carried on by its weather has: how long it was shut off is counted there, not assumed.

    Raises
    ------
    BadInput
        Two readings at one depth.

    References
    ----------
    mortimer-1941, carlson-1977 for what is used up; its spread is ours: lakes differ, so it is wide.
    """
    saturation = np.array([oxygen_saturation_mgl(max(float(t), 0.0), altitude_m) for t in water_c])
    estimate, doubt = saturation.copy(), np.full_like(saturation, 0.05) * saturation
    why = None
    if thermocline_m is not None:
        layered_d = max(layered_d, LAYERED_AT_LEAST_D)
        thick_m = max((float(depth_m[-1]) if deepest_m is None else deepest_m) - thermocline_m, 0.5)
        why = _why_doubted(secchi_m, layered_d, thick_m, thermocline_m)
        below = 1.0 - np.exp(-np.maximum(depth_m - thermocline_m - 0.5, 0.0) / 1.5)
        used_mgl = demand_mgm2d(secchi_m) * layered_d / min(thick_m, THICKEST_M) / 1000.0 * below
        lost = np.minimum(used_mgl, MOST_LOST * saturation)
        estimate = saturation - lost
        doubt = np.hypot(doubt, np.minimum(float(LAKES_DIFFER) * used_mgl, 0.5 * saturation))
    if expected is not None:
        carried, apart = expected.oxygen_at(depth_m)
        estimate, doubt = np.minimum(carried, saturation), np.hypot(0.05 * saturation, apart)
        if thermocline_m is not None:
            why = _worked_out(thermocline_m, float(estimate[-1]))
    known = tuple(sorted(readings, key=lambda r: r.depth_m))
    for a, b in itertools.pairwise(known):
        if b.depth_m - a.depth_m < 1e-6:
            raise BadInput(f"Two oxygen readings at {a.depth_m:g} m: keep one.", field="oxygen")
    if not known:
        return OxygenProfile(
            depth_m=depth_m,
            oxygen_mgl=estimate,
            spread_mgl=doubt,
            readings=(),
            measured_from_m=None,
            measured_to_m=None,
            doubt=why,
        )
    flags = flag_odd(known)
    odd = {flag.reading.depth_m for flag in flags if not flag.followed}
    known, every = tuple(r for r in known if r.depth_m not in odd), known
    read_m, read_mgl = np.array([r.depth_m for r in known]), np.array([r.oxygen_mgl for r in known])
    nearest = np.abs(depth_m[:, None] - read_m[None, :]).min(axis=1)
    # What the readings say of the whole lake, as a share of the estimate, fades over a few metres beyond them.
    ratio = np.interp(depth_m, read_m, read_mgl / np.maximum(np.interp(read_m, depth_m, estimate), 0.1))
    outside = np.maximum(read_m[0] - depth_m, 0.0) + np.maximum(depth_m - read_m[-1], 0.0)
    beyond = estimate * (1.0 + (ratio - 1.0) * np.exp(-outside / 4.0))
    inside = outside == 0.0
    drawn = np.where(inside, np.interp(depth_m, read_m, read_mgl), beyond)
    drawn = np.where(depth_m > read_m[-1], np.minimum(drawn, read_mgl[-1]), drawn)
    share = 1.0 - np.exp(-nearest / 2.0)
    spread = np.hypot(float(PROBE_MGL), np.where(inside, 0.5, 1.0) * share * np.maximum(doubt, 0.15 * saturation))
    return OxygenProfile(
        depth_m=depth_m,
        oxygen_mgl=drawn,
        spread_mgl=spread,
        readings=every,
        measured_from_m=float(read_m[0]),
        measured_to_m=float(read_m[-1]),
        doubt=why,
        flags=flags,
    )


def oxygen_share(oxygen_mgl: npt.ArrayLike, water_c: npt.ArrayLike, spread_mgl: npt.ArrayLike = 0.0) -> FloatArray:
    """Return how far the oxygen lets trout feed, 0 to 1, averaged over what is not known of it.

    Parameters
    ----------
    oxygen_mgl, spread_mgl : float or array
        Dissolved oxygen and its standard deviation [mg/L].
    water_c : float or array
        Water temperature [C]: warm fish need more.

    References
    ----------
    raleigh-1984: none below about 3 mg/L, best from 7 mg/L (to 15 C) or 9 mg/L (warmer). epa-1986: 5 mg/L as the lowest
    weekly mean of minima for cold water. The shares between are ours.

    Examples
    --------
    >>> oxygen_share([2.5, 5.0, 8.0], 12.0)
    array([0. , 0.6, 1. ])
    """
    enough = np.where(np.asarray(water_c) > 15.0, 9.0, 7.0)

    def share(mgl: FloatArray) -> FloatArray:
        low = np.interp(mgl, (2.5, 3.0, float(LIVABLE_MGL)), (0.0, 0.1, 0.6))
        high = 0.6 + 0.4 * np.clip((mgl - float(LIVABLE_MGL)) / (enough - float(LIVABLE_MGL)), 0.0, 1.0)
        return np.asarray(np.where(mgl < float(LIVABLE_MGL), low, high))

    return averaged(oxygen_mgl, spread_mgl, share)

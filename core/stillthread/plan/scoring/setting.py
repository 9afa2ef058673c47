"""What a fly is seen in, and how shy the fish are there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from stillthread.depth.picture import WaterPicture
from stillthread.food.signs import SIGNS
from stillthread.judgement import JUDGEMENT, Judgement
from stillthread.trade.usual import CLEAR_M, CLEAREST_M
from stillthread.water.seasonal import northern_day

BRIGHT = 0.5  # ours: from half of full daylight on it is as bright as it matters
CALM_MPS = 2.5  # ours: wind that has ruffled the whole surface
RIPPLED_MPS = 8.0  # ours: wind in which nothing is seen from below
SMALL_LURES, LARGE_LURES = (10, 14), (6, 10)  # common practice
SHALLOW_FISH_M, SHY = 1.2, 0.4  # ours
NOTHING_UNPINS = 0.5  # ours: nothing shows: they are low, and on something
WARM_MONTHS = (5, 9)  # common practice: May to September
STOUT_MONTHS = (11, 4)  # common practice: early in the year and late they are not shy of thick tippet


@dataclass(frozen=True)
class Setting:
    """`secchi_m` [m], `brightness` 0 to 1 on the water, `wind_mps` [m/s], `water_c` [C] where they are, `month` of the
    northern year; what was seen; `unpinned`, 0 to 1, how little says what they are on;
    `pressed` by lures; `fish_m` [m] how deep they are; `judgement` the numbers that follow."""

    secchi_m: float
    brightness: float
    wind_mps: float = 3.0
    water_c: float = 14.0
    month: int = 6
    pressed: bool = False
    rises: bool = False
    fry_seen: bool = False
    unpinned: float = 1.0
    sun_deg: float = 45.0
    fish_m: float = 2.0
    judgement: Judgement = JUDGEMENT

    @cached_property
    def bright(self) -> float:
        """How bright it is, 0 to 1."""
        return min(self.brightness / BRIGHT, 1.0)

    @cached_property
    def calm(self) -> float:
        """How calm, 0 to 1."""
        return max(0.0, 1.0 - self.wind_mps / CALM_MPS)

    @cached_property
    def clear(self) -> float:
        """How clear, 0 to 1."""
        return min(max((self.secchi_m - float(CLEAR_M)) / (float(CLEAREST_M) - float(CLEAR_M)), 0.0), 1.0)

    @cached_property
    def lure_hooks(self) -> tuple[int, int]:
        """Hooks of what is only to be chased: small for shy fish and shallow water (common practice)."""
        return SMALL_LURES if self.fish_m < SHALLOW_FISH_M or self.shy > SHY else LARGE_LURES

    @cached_property
    def warm_months(self) -> bool:
        return WARM_MONTHS[0] <= self.month <= WARM_MONTHS[1]

    @cached_property
    def stout_months(self) -> bool:
        return self.month >= STOUT_MONTHS[0] or self.month <= STOUT_MONTHS[1]

    @cached_property
    def shy(self) -> float:
        """How shy the fish are, 0 to 1."""
        j = self.judgement
        rippled = min(self.wind_mps / RIPPLED_MPS, 1.0)
        clear = j.shy_clear * self.bright * self.clear * (1.0 - rippled)
        return min(j.shy_calm * self.calm * self.bright + (j.shy_pressed if self.pressed else 0.0) + clear, 1.0)

    @cached_property
    def cold(self) -> float:
        """How cold it is for chasing, 0 to 1 at 4 C."""
        return min(max((self.judgement.cold_from_c - self.water_c) / (self.judgement.cold_from_c - 4.0), 0.0), 1.0)


def setting_of(picture: WaterPicture, *, pressed: bool = False) -> Setting:
    """Return the setting of a picture."""
    given = picture.conditions
    signs = [SIGNS[key] for key in given.signs]
    return Setting(
        secchi_m=given.secchi_m,
        brightness=picture.brightness,
        wind_mps=given.wind.speed_mps,
        water_c=picture.profile.at(picture.belief.mean_m),
        month=int(northern_day(given.place.latitude_deg, given.at.date()) / 30.44) % 12 + 1,
        pressed=pressed,
        rises=any(sign.rise for sign in signs),
        fry_seen=any(sign.shows.get("fry", 0.0) > 0.5 for sign in signs),
        unpinned=0.0 if given.sample is not None else _unpinned(given.signs),
        sun_deg=picture.sun_elevation_deg,
        fish_m=picture.belief.mean_m,
        judgement=picture.judgement,
    )


def _unpinned(signs: Sequence[str]) -> float:
    """Return how little the signs say of what they are on: all of it with none, half where nothing shows."""
    return (1.0 if not signs else 0.0) if "nothing" not in signs else NOTHING_UNPINS

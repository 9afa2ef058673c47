"""Sight fishing to cruisers."""

from __future__ import annotations

from stillthread.depth.picture import WaterPicture
from stillthread.phrase import Phrase
from stillthread.plan.exposure import Exposure
from stillthread.plan.methods.base import CastingMethod, Given, SeatRule, dry
from stillthread.plan.scoring.cruisers import SEEN_TO_M, how_to_lead
from stillthread.sinking.cast import CastResult
from stillthread.tackle.flybox import BoxFly
from stillthread.trade.usual import CLEAREST_M

HIGH_SUN_DEG, SEEN_CLOUD, SEEN_SECCHI_M, ROUGHEST_MPS = 25.0, 0.4, 2.5, 10.0  # common practice; the numbers are ours
ROUGH_MPS = 6.5  # common practice: the rougher the better; ours in number
LARGEST_NUMBER = 12  # common practice: big, visible flies


def visible(fly: BoxFly) -> bool:
    return dry(fly) and fly.fly.hook_size <= LARGEST_NUMBER


class Sight(CastingMethod):
    """A big, visible dry on top, led well ahead of a fish that is seen. Common practice: high sun at your back, and waves: they
    see less of you, and you look down into the faces of the waves."""

    key = "sight"
    most_flies, leaders_m = 1, (4.6,)
    retrieves, moved, greased = ("static",), False, True
    deepens_by = "place"
    suits = "high bright sun at your back, clear water, waves to look into"
    needs = "polarised glasses, and a big dry that lands well ahead of the fish"
    spoils = "cloud, a low sun, coloured water"

    def why_not(self, given: Given) -> str:
        conditions, picture = given.picture.conditions, given.picture
        if (
            conditions.cloud_fraction > SEEN_CLOUD
            or conditions.secchi_m < SEEN_SECCHI_M
            or picture.sun_elevation_deg < HIGH_SUN_DEG
        ):
            return "Not bright and clear enough to see fish."
        if conditions.wind.speed_mps > ROUGHEST_MPS:
            return "Too rough to see fish, and to stand or drift for it."
        if float(picture.belief.mass()[picture.belief.depth_m <= SEEN_TO_M].sum()) < 0.35:
            return "They are likely too deep to be seen."
        return ""

    def says(self, picture: WaterPicture, result: CastResult) -> tuple[Phrase, ...]:
        return (how_to_lead(result, picture.conditions.wind, picture.sun_azimuth_deg),)

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        return (visible,)

    def counts_s(self, given: Given, line: object) -> tuple[float, ...]:
        return (0.0,)

    def suits_now(self, given: Given, exposure: Exposure, count: int) -> float:
        """The more sun, clarity and waves, the more fish are seen; each is led and waited for."""
        setting = given.setting
        sun = setting.bright * min(setting.sun_deg / 45.0, 1.0)
        clear = min(setting.secchi_m / float(CLEAREST_M), 1.0)
        rough = 0.2 + 0.8 * min(setting.wind_mps / ROUGH_MPS, 1.0)
        return 0.7 + setting.judgement.sight_gain * sun * clear * rough

"""The water a plan casts into, and whether a leader suits its depth."""

from __future__ import annotations

from stillthread.depth.picture import WaterPicture
from stillthread.errors import BadInput
from stillthread.sinking.cast import Water
from stillthread.tackle.leaders import Leader
from stillthread.trade.usual import USUAL_CAST_M

WHOLE_C = 1.0  # ours: a degree changes how a fly sinks by two hundredths


def water_for(picture: WaterPicture, cast_m: float = float(USUAL_CAST_M)) -> Water:
    """Return the water a cast is made in: the mean temperature above the likeliest depth, over the bottom as it runs.

    The bottom under the rod holds for the first fifth of the cast, then slopes evenly to that under its end. The temperature
    is taken to the degree, so that a belief that shifts a little leaves the paths as they were.
    """
    given = picture.conditions
    reach = picture.profile.depth_m <= max(picture.belief.mean_m, 0.5)
    far_m = given.bottom_depth_m if given.far_bottom_depth_m is None else given.far_bottom_depth_m
    bottom = ((0.2 * cast_m, given.bottom_depth_m), (cast_m, far_m))
    mean_c = float(picture.profile.water_c[reach].mean())
    return Water(WHOLE_C * round(mean_c / WHOLE_C), bottom, weed_m=given.weed_m)


def check_leader_fits(leader: Leader, bottom_depth_m: float, *, long_leader_ok: bool) -> None:
    """Raise `BadInput` when the leader is longer than the water is deep, unless the angler wants that.

    Over weed and in margins a long leader on a floating line is usual, so it is a question, not a ban.
    """
    if leader.length_m > bottom_depth_m and not long_leader_ok:
        raise BadInput(
            f"The leader ({leader.length_m:.1f} m) is longer than the water is deep ({bottom_depth_m:.1f} m). "
            "Shorten it, or say that you want it long.",
            field="bottom_depth_m",
        )

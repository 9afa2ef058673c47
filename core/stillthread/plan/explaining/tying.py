"""How an option is tied: the leader to cut for its team."""

from __future__ import annotations

from stillthread.plan.actions import Hang
from stillthread.plan.methods.base import Given
from stillthread.plan.option import Option
from stillthread.tackle.build import Build, build_leader, build_under_indicator


def build_for(option: Option, given: Given) -> Build:
    """Return how to tie the leader of an option: what to cut, with knots, and hints."""
    tippet = given.tippet(option.flies, floating=option.method.greased)
    heights = [placed.above_point_m for placed in option.rig.flies[1:]]
    if isinstance(option.action, Hang):
        shot = next((piece.kind for piece in option.rig.leader.hardware if piece.kind.startswith("shot")), None)
        return build_under_indicator(option.action.set_depth_m, heights, tippet, shot=shot)
    return build_leader(option.rig.leader.length_m, heights, tippet, greased=option.method.greased)

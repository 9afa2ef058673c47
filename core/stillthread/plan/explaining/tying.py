"""How an option is tied: the leader to cut for its team."""

from __future__ import annotations

from stillthread.plan.methods.base import Given
from stillthread.plan.option import Option
from stillthread.tackle.build import Build


def build_for(option: Option, given: Given) -> Build:
    """Return how to tie the leader of an option: what to cut, with knots, and hints."""
    tippet = given.tippet(option.flies, floating=option.method.greased)
    return option.method.build(option.rig, option.action, tippet)

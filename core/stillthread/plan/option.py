"""One way to fish, of any method, ready to simulate: what is tied on, and what is done with it."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

from stillthread.plan.methods.base import Method
from stillthread.sinking.action import Action
from stillthread.sinking.cast import CastResult, Water
from stillthread.sinking.spread import SpreadResult, spread_of
from stillthread.sinking.thread import FINE, Mesh
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.rig import Rig
from stillthread.trade.usual import STILL_MPS

_WORKERS = 2


@dataclass(frozen=True, slots=True)
class Option:
    """A method with what is tied on and done. `flies` are the rig's, point first, as they lie in the box."""

    method: Method
    rig: Rig
    flies: tuple[BoxFly, ...]
    action: Action

    @property
    def speed_mps(self) -> float:
        """How fast the flies move through the water, about [m/s]."""
        return self.action.pace_mps

    @property
    def static(self) -> bool:
        return self.speed_mps < float(STILL_MPS)

    def cycle_s(self, result: CastResult) -> float:
        """Time [s] from one cast or drift to the next."""
        return self.action.cycle_s(result.duration_s)


def simulate_option(option: Option, water: Water, mesh: Mesh = FINE) -> CastResult:
    """Simulate one option."""
    return option.action.simulate(option.rig, water, mesh)


def simulate_options(options: Sequence[Option], water: Water) -> list[CastResult]:
    """Simulate several options in one water finely, on two threads, in their order."""
    with ThreadPoolExecutor(_WORKERS) as pool:
        return list(pool.map(lambda option: simulate_option(option, water), options))


def spreads_of_options(options: Sequence[Option], runs: Sequence[CastResult], water: Water) -> list[SpreadResult]:
    """Return how unsure the depths of several runs are, as `spread_of` does, on two threads, in their order."""
    with ThreadPoolExecutor(_WORKERS) as pool:
        return list(pool.map(lambda one, run: spread_of(one.rig, one.action, water, run), options, runs))

"""One way to fish, of any method, ready to simulate: what is tied on, and what is done with it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import TypeVar

from stillthread.plan.methods import Method
from stillthread.plan.rank import RECAST_S
from stillthread.sinking.cast import Cast, CastResult, Water, simulate
from stillthread.sinking.indicator import Drift, Indicator, IndicatorRig, simulate_drift
from stillthread.sinking.spread import SpreadResult, spread_of
from stillthread.sinking.thread import FINE, QUICK, Mesh
from stillthread.sinking.troll import Troll, simulate_troll
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.rig import Rig

RESET_S = 25.0  # ours: lift, land the float, mend and let it hang again
BACK_SHARE = 0.6  # ours: time to go back for the next drift, as a share of the drift
_WORKERS = 2

Kept = TypeVar("Kept")


@dataclass(frozen=True, slots=True)
class Hang:
    """A float set `set_depth_m` [m] above the point, drifting `for_s` [s], lifted every `twitch_every_s` or left alone."""

    set_depth_m: float
    kind: str
    for_s: float
    wind_speed_ms: float
    twitch_every_s: float | None = None


Action = Cast | Hang | Troll


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
        if isinstance(self.action, Cast):
            return self.action.retrieve.mean_mps
        if isinstance(self.action, Troll):
            return self.action.speed_ms
        return 0.005 if self.action.twitch_every_s is None else 0.03

    @property
    def static(self) -> bool:
        return self.speed_mps < 0.025

    def cycle_s(self, result: CastResult) -> float:
        """Time [s] from one cast or drift to the next."""
        if isinstance(self.action, Cast):
            return result.duration_s + float(RECAST_S)
        if isinstance(self.action, Troll):
            return result.duration_s * (1.0 + BACK_SHARE)
        return result.duration_s + RESET_S


def simulate_action(rig: Rig, action: Action, water: Water, mesh: Mesh = FINE) -> CastResult:
    """Simulate what is done with a rig, by any method."""
    if isinstance(action, Cast):
        return simulate(rig, action, water, mesh=mesh)
    if isinstance(action, Troll):
        return simulate_troll(rig, action, water, mesh=mesh)
    hung = IndicatorRig(rig.leader, rig.flies, action.set_depth_m, Indicator(action.kind))
    return simulate_drift(hung, Drift(action.for_s, action.wind_speed_ms, action.twitch_every_s), water, mesh=mesh).run


def simulate_option(option: Option, water: Water, mesh: Mesh = FINE) -> CastResult:
    """Simulate one option."""
    return simulate_action(option.rig, option.action, water, mesh)


def simulate_action_spread(rig: Rig, action: Action, water: Water) -> SpreadResult:
    """Simulate what is done with a rig, and how unsure its depths are."""
    return spread_of(rig, lambda one, mesh: simulate_action(one, action, water, mesh))


def simulate_options(options: Sequence[Option], water: Water, *, quick: bool) -> list[CastResult]:
    """Simulate many options in one water, on two threads, in their order."""
    return for_each_option(options, water, lambda _, result: result, quick=quick)


def for_each_option(
    options: Sequence[Option], water: Water, keep: Callable[[Option, CastResult], Kept], *, quick: bool
) -> list[Kept]:
    """Simulate many options on two threads and keep of each what `keep` makes of it: hundreds of whole runs are much memory."""
    mesh = QUICK if quick else FINE
    with ThreadPoolExecutor(_WORKERS) as pool:
        return list(pool.map(lambda option: keep(option, simulate_option(option, water, mesh)), options))

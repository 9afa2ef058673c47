"""What can be done with a rig. Each kind - a cast, a float that hangs, a tow - is one class that answers for itself."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import ClassVar

from stillthread.errors import FloatArray
from stillthread.judgement import Judgement
from stillthread.phrase import Phrase
from stillthread.sinking.indicator import DriftResult
from stillthread.sinking.result import CastResult
from stillthread.sinking.run import Water
from stillthread.sinking.thread import FINE, Mesh
from stillthread.tackle.build import Landing
from stillthread.tackle.lines import Line
from stillthread.tackle.rig import Rig
from stillthread.trade.timing import cycle_s

LEAST_LEFT = 0.05  # ours: nothing that the wind does leaves a way without any worth


@dataclass(frozen=True, slots=True)
class DepthSteps:
    """How the same is fished deeper or higher: what its dial is turned to, the nearest first; `words` with a placeholder
    `name`; for how long [min] each is tried; `now` where it stands, and whether a denser line goes on where the dial ends."""

    values: tuple[float, ...]
    now: float
    words: str
    name: str
    usual_min: float
    line_goes_on: bool = False


class Action(ABC):
    """What is done with a rig.

    `kind` names it in the contract, and `done` in a sentence: "for that the flies are cast". `turns_over` where a cast has to
    straighten the leader, `passes` where it takes its flies past fish; `dragged` is what a bow in the line does to it.
    """

    __slots__ = ()
    kind: ClassVar[str]
    done: ClassVar[str]
    turns_over: ClassVar[bool] = False
    passes: ClassVar[bool] = True
    dragged: ClassVar[str] = "it drags the flies after {fishes_s}. Lift off then and cast again."

    @property
    @abstractmethod
    def pace_mps(self) -> float:
        """How fast the flies move through the water, about [m/s]."""

    @property
    @abstractmethod
    def reach_m(self) -> float:
        """How far from the rod the point fly begins [m]."""

    @property
    def mends_s(self) -> tuple[float, ...]:
        """When the floating line is laid back upwind [s]."""
        return ()

    @property
    def float_m(self) -> float | None:
        """How deep its float is set [m]; None without one."""
        return None

    def cycle_s(self, duration_s: float) -> float:
        """Return the time [s] from one to the next, of what is `duration_s` [s] in the water."""
        return cycle_s(self.kind, duration_s)

    @abstractmethod
    def simulate(self, rig: Rig, water: Water, mesh: Mesh = FINE) -> CastResult:
        """Return the run of it."""

    @abstractmethod
    def becalmed(self) -> Action:
        """Return what is done where there is no wind."""

    @abstractmethod
    def doubted(self, rig: Rig, x: FloatArray) -> Action:
        """Return what the hand does with a rig, `x` standard deviations off what was meant."""

    def drift_of(self, rig: Rig, run: CastResult, water: Water) -> DriftResult | None:
        """Return what a run says of the float it hung under; None where there is none."""
        return None

    @abstractmethod
    def key(self) -> str:
        """Return a text that tells it from others with the same tackle."""

    @abstractmethod
    def words(self) -> Phrase:
        """Return what the hands do, in short: "count 20, slow twist"."""

    def with_line(self, line: Line) -> Phrase:
        """Return it with the line it is done with."""
        done = self.words()
        return Phrase(f"{line.name.lower()}, {done.text}", done.values)

    @abstractmethod
    def neighbours(self, rig: Rig, bottom_m: float) -> Iterator[Action]:
        """Yield what is a step away by the hand alone: other depths, then other paces."""

    @abstractmethod
    def depth_steps(self, line: Line, bottom_m: float) -> DepthSteps:
        """Return how the same is fished deeper or higher over a bottom [m]."""

    @abstractmethod
    def turned(self, rig: Rig, bottom_m: float) -> Iterator[Action]:
        """Yield what a hand may turn it to, in even steps."""

    def landing(self, rod_m: float) -> Landing | None:
        """Return whether a fish can be landed on it with a rod of a length [m]; None where nothing stands in the way."""
        return None

    def left(self, judgement: Judgement, wind_mps: float) -> float:
        """Return what waves, depth and a caster's patience leave of its worth, 0 to 1."""
        return 1.0

    def says(self, line: Line, worth: Sequence[tuple[float, float]]) -> tuple[Phrase, ...]:
        """Return what an angler needs to be told of it; `worth` what its dial gives where it is turned [takes an hour]."""
        return ()

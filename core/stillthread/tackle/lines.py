"""Fly lines: classes by shape and sink rate, mass by line number, and the stretches a line is made of."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from types import MappingProxyType

from stillthread.errors import BadInput
from stillthread.phrase import Phrase
from stillthread.ranges import LINE_M, LINE_NUMBER, RATE_SPREAD, SINK_RATE_MPS, TIP_M
from stillthread.tackle.making import Make, make_of, weight_of

INCH_M = 0.0254  # by definition
FOOT_M = 0.3048  # by definition
SLOWEST_SINK_MPS = 0.002  # ours: what sinks slower floats
MOST_STRETCHES = 12  # ours: a bound
LABEL_ROUNDS = 0.03  # ours: labels are whole numbers, a little less is no fault

_REST_M = LINE_M.high  # the running part goes on to the reel


@dataclass(frozen=True, slots=True)
class Stretch:
    """A length of line, `length_m` 0.05 to 200, that sinks level at `sink_rate_mps` [m/s], 0 if it floats."""

    length_m: float
    sink_rate_mps: float

    def __post_init__(self) -> None:
        LINE_M.check("length_m", self.length_m)
        SINK_RATE_MPS.check("sink_rate_mps", self.sink_rate_mps)
        if 0.0 < self.sink_rate_mps < SLOWEST_SINK_MPS:
            raise BadInput(f"A line that sinks needs a rate of at least {SLOWEST_SINK_MPS:g} m/s.", field="sink_rate_mps")


@dataclass(frozen=True, slots=True)
class LineClass:
    """A kind of line.

    `shape` is from the leader end back, as (length [m], share of the line's rate); the last share goes on to the reel.
    `label_sink_rate_mps` [m/s] is the usual rate of the part with share 1, 0 for a floater.
    """

    key: str
    name: str
    label_sink_rate_mps: float
    shape: tuple[tuple[float, float], ...] = ((_REST_M, 1.0),)

    @property
    def has_tip(self) -> bool:
        """Whether only the front sinks, and the rest floats."""
        return len(self.shape) == 2 and self.shape[1][1] == 0.0


def _tip(key: str, name: str, inches_per_s: float, length_m: float) -> LineClass:
    return LineClass(key, name, inches_per_s * INCH_M, ((length_m, 1.0), (_REST_M, 0.0)))


# Rates and lengths are common practice (type N sinks at about N inches a second), no published source.
LINE_CLASSES: MappingProxyType[str, LineClass] = MappingProxyType(
    {
        c.key: c
        for c in (
            LineClass("floating", "Floating", 0.0),
            LineClass("very-slow", "Very slow sinker", 0.4 * INCH_M),
            LineClass("slow-intermediate", "Slow intermediate", 1.0 * INCH_M),
            LineClass("intermediate", "Intermediate", 1.5 * INCH_M),
            LineClass("fast-intermediate", "Fast intermediate", 2.0 * INCH_M),
            *(LineClass(f"type-{n}", f"Type {n} sinker", n * INCH_M) for n in (2, 3, 4, 5, 6, 7, 8, 9)),
            _tip("clear-tip", "Short clear tip, 5 ft", 1.0, 5.0 * FOOT_M),
            _tip("short-slow-tip", "Short slow tip, 6 ft", 1.5, 6.0 * FOOT_M),
            _tip("slow-tip", "Slow sink tip, 10 ft", 2.0, 10.0 * FOOT_M),
            _tip("fast-tip", "Fast sink tip, 15 ft", 6.0, 15.0 * FOOT_M),
            # A belly faster than the ends: the fly dives and then climbs.
            LineClass("fast-belly-3", "Fast-bellied sinker, type 3", 3.0 * INCH_M, ((3.0, 0.5), (7.0, 1.0), (_REST_M, 0.5))),
            LineClass("fast-belly-5", "Fast-bellied sinker, type 5", 5.0 * INCH_M, ((3.0, 0.6), (7.0, 1.0), (_REST_M, 0.4))),
            # A tip faster than the belly: it leads the line down.
            LineClass("fast-nose-5", "Fast-nosed sinker, type 5", 5.0 * INCH_M, ((4.0, 1.0), (_REST_M, 0.6))),
            LineClass("own", "Profile of your own", 0.0),
        )
    }
)

# What a class was called before, in boxes and logs of then.
CALLED_BEFORE: MappingProxyType[str, str] = MappingProxyType(
    {"hover": "very-slow", "midge-tip": "short-slow-tip", "sweep-3": "fast-belly-3", "sweep-5": "fast-belly-5"}
)


@dataclass(frozen=True, slots=True)
class LineSection:
    """A stretch of line as the water feels it: `length_m`, `diameter_m`, submerged weight `weight_npm` (negative floats)."""

    length_m: float
    diameter_m: float
    weight_npm: float


@dataclass(frozen=True, slots=True)
class Line:
    """A fly line.

    `number` is its rating, 4 to 8. `sink_rate_mps` [m/s], 0 to 0.3, is the label or, better, a calibrated rate of the
    part that names the line: the whole of a full line, the tip of a sink tip, the belly where that is faster. A floater has 0.
    `tip_m` [m] is the length of a sink tip where it differs from its class. A line of class `own` lists its
    `stretches` from the leader end back; its `sink_rate_mps` is that of the fastest. `looped` is a sinking leader
    looped to the front of any line. `rate_spread` is one standard deviation of the rate as a share, where it was timed.
    """

    name: str
    class_key: str
    number: int
    sink_rate_mps: float
    tip_m: float | None = None
    stretches: tuple[Stretch, ...] = ()
    looped: Stretch | None = None
    rate_spread: float | None = None

    def __post_init__(self) -> None:
        object.__setattr__(self, "class_key", CALLED_BEFORE.get(self.class_key, self.class_key))
        if self.class_key not in LINE_CLASSES:
            raise BadInput(f"line class {self.class_key!r} is not known. Known: {', '.join(LINE_CLASSES)}.", field="class_key")
        LINE_NUMBER.check("number", self.number)
        if self.rate_spread is not None:
            RATE_SPREAD.check("rate_spread", self.rate_spread)
        SINK_RATE_MPS.check("sink_rate_mps", self.sink_rate_mps)
        if (self.class_key == "own") != bool(self.stretches):
            raise BadInput("A profile of your own, and no other line, lists its stretches.", field="stretches")
        if len(self.stretches) > MOST_STRETCHES:
            raise BadInput(f"A line has at most {MOST_STRETCHES} stretches.", field="stretches")
        if self.class_key == "own":
            fastest = max(stretch.sink_rate_mps for stretch in self.stretches)
            if abs(fastest - self.sink_rate_mps) > 1e-9:
                raise BadInput("The rate of a profile of your own is that of its fastest stretch.", field="sink_rate_mps")
        elif self.floats and self.sink_rate_mps > 0.0:
            raise BadInput("A floating line has no sink rate: give 0.", field="sink_rate_mps")
        elif not self.floats and self.sink_rate_mps < SLOWEST_SINK_MPS:
            raise BadInput("A sinking line needs a sink rate of at least 0.002 m/s.", field="sink_rate_mps")
        if self.tip_m is not None:
            TIP_M.check("tip_m", self.tip_m)
            if not self.has_tip:
                raise BadInput("Only a sink tip has a tip length.", field="tip_m")

    @property
    def floats(self) -> bool:
        return self.class_key == "floating"

    @property
    def has_tip(self) -> bool:
        """Whether only the front sinks, and the rest floats."""
        return LINE_CLASSES[self.class_key].has_tip

    @property
    def tips(self) -> bool:
        """Whether it fishes as a sink tip: only its front sinks, be it a floater with a sinking leader looped on."""
        return self.has_tip or (self.floats and self.looped is not None and self.looped.sink_rate_mps > 0.0)

    @property
    def front_mps(self) -> float:
        """Sink rate [m/s] of the part that takes the flies down: of a looped leader where the line floats; 0 of a floater."""
        if self.floats:
            return 0.0 if self.looped is None else self.looped.sink_rate_mps
        return self.sink_rate_mps

    @property
    def profile(self) -> tuple[Stretch, ...]:
        """The line from the leader end back; the last stretch goes on to the reel."""
        if self.stretches:
            *front, last = self.stretches
            body = (*front, Stretch(_REST_M, last.sink_rate_mps))
        else:
            shape = LINE_CLASSES[self.class_key].shape
            if self.tip_m is not None:
                shape = ((self.tip_m, 1.0), *shape[1:])
            body = tuple(Stretch(length, share * self.sink_rate_mps) for length, share in shape)
        return body if self.looped is None else (self.looped, *body)

    @property
    def timed(self) -> bool:
        """Whether its rate was measured; else it is a label's."""
        return self.rate_spread is not None

    def make_at(self, rate_mps: float) -> Make:
        """Return what a stretch of it is made of that is said to sink at a rate [m/s]."""
        return make_of(self.number, rate_mps, timed=self.timed)

    @property
    def likely_mps(self) -> float:
        """Sink rate [m/s] of the part that names the line, as it can be: less than a label that no coating can reach."""
        return self.make_at(self.sink_rate_mps).rate_mps if self.sink_rate_mps > 0.0 else 0.0

    @property
    def too_fast_a_label(self) -> bool:
        """Whether the label promises more than a line of this number can do."""
        return self.likely_mps < (1.0 - LABEL_ROUNDS) * self.sink_rate_mps

    @property
    def diameter_m(self) -> float:
        """Thickness [m] of the part that names the line."""
        return self.make_at(self.sink_rate_mps).diameter_m

    def sections(self, length_m: float) -> tuple[LineSection, ...]:
        """Return what is out of the rod when `length_m` [m] of line is, from the leader end back."""
        found: list[LineSection] = []
        left = length_m
        for stretch in self.profile:
            if left <= 1e-6:
                break
            out = min(stretch.length_m, left)
            left -= out
            found.append(_section(out, self.make_at(stretch.sink_rate_mps)))
        return tuple(found)


def _section(length_m: float, make: Make) -> LineSection:
    return LineSection(length_m, make.diameter_m, weight_of(make))


def label_note(line: Line) -> Phrase | None:
    """Return what to tell of a label that promises more than a line of that number can do, or None."""
    if line.timed or not line.too_fast_a_label:
        return None
    return Phrase(
        "A label of {label_mps} on a line this light cannot be; expect about {likely_mps} until you time it.",
        {"label_mps": line.sink_rate_mps, "likely_mps": line.likely_mps},
    )


def line_of_class(class_key: str, number: int = 6) -> Line:
    """Return a line of this class with its label's rate.

    Examples
    --------
    >>> round(line_of_class("intermediate").sink_rate_mps, 4)
    0.0381
    """
    class_key = CALLED_BEFORE.get(class_key, class_key)
    if class_key not in LINE_CLASSES or class_key == "own":
        known = ", ".join(key for key in LINE_CLASSES if key != "own")
        raise BadInput(f"line class {class_key!r} is not known. Known: {known}.", field="class_key")
    kind = LINE_CLASSES[class_key]
    return Line(kind.name, class_key, number, kind.label_sink_rate_mps)


def own_line(name: str, number: int, stretches: Sequence[Stretch]) -> Line:
    """Return a line with a profile of one's own, its stretches given from the leader end back."""
    if not stretches:
        raise BadInput("Give at least one stretch.", field="stretches")
    return Line(name, "own", number, max(s.sink_rate_mps for s in stretches), stretches=tuple(stretches))


def plain_sum_m(line: Line, count_s: float) -> float:
    """Return sink rate times count [m]: the sum anglers do in their heads, with the rate that its label or trial says.

    Of a line of one's own it is the rate of its front, and of a sinking leader looped on that of the leader: what takes the
    flies down.

    Examples
    --------
    >>> round(plain_sum_m(line_of_class("intermediate"), 24.0) / 0.3048, 2)  # feet
    3.0
    """
    own = bool(line.stretches) or line.looped is not None
    return (line.profile[0].sink_rate_mps if own else line.sink_rate_mps) * count_s

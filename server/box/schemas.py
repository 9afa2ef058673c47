"""Tackle as the API speaks it: SI units, named."""

from __future__ import annotations

from typing import Annotated, Literal

from common.fields import Name, within
from ninja import Field, Schema

from stillthread.api import (
    ABOVE_POINT_M,
    BEAD_MM,
    EXTRA_G,
    FLIES_LEFT,
    FLOAT_DIAMETER_M,
    FLY_SINK_MPS,
    FOAM_MM3,
    LEADER_SECTION_M,
    LINE_M,
    LINE_NUMBER,
    RATE_SPREAD,
    ROD_M,
    ROD_NUMBER,
    SINK_RATE_MPS,
    STRAND_M,
    TIP_M,
)


class StretchIn(Schema):
    """A length of line that sinks level at this rate; 0 floats."""

    length_m: Annotated[float, within(LINE_M)]
    sink_rate_mps: Annotated[float, within(SINK_RATE_MPS)]


class LineIn(Schema):
    """A line. `tip_m` is a sink tip's length where it differs from its class; `stretches`, from the leader end back, belong
    to a profile of one's own (class `own`); `looped` is a sinking leader looped to the front; `rate_spread` is one standard
    deviation of its rate as a share, where it was timed."""

    name: Name
    class_key: Annotated[str, Field(max_length=24)]
    number: Annotated[int, within(LINE_NUMBER)] = 6
    sink_rate_mps: Annotated[float, within(SINK_RATE_MPS)]
    tip_m: Annotated[float | None, within(TIP_M)] = None
    stretches: Annotated[list[StretchIn], Field(max_length=12)] = []
    looped: StretchIn | None = None
    rate_spread: Annotated[float | None, within(RATE_SPREAD)] = None


class LineItemIn(LineIn):
    calibrated: bool = False


class LineOut(LineItemIn):
    """`label_mps` is what its label says, where it has been timed since; `likely_mps` what a line of its
    number can do, and `too_fast_a_label` whether that is less than its label promises."""

    id: int
    diameter_m: float
    label_mps: float | None
    likely_mps: float
    too_fast_a_label: bool


class LeaderSectionIn(Schema):
    length_m: Annotated[float, within(LEADER_SECTION_M)]
    diameter_m: Annotated[float, within(STRAND_M)]
    material: Literal["fluorocarbon", "nylon"] = "fluorocarbon"
    greased: bool = False


class HardwareIn(Schema):
    """A swivel, ring or shot, so far up from the point fly."""

    kind: Annotated[str, Field(max_length=20)]
    above_point_m: Annotated[float, within(ABOVE_POINT_M)]


class LeaderIn(Schema):
    name: Name
    sections: Annotated[list[LeaderSectionIn], Field(min_length=1, max_length=12)]
    hardware: Annotated[list[HardwareIn], Field(max_length=8)] = []


class LeaderOut(LeaderIn):
    id: int
    length_m: float


class FlyIn(Schema):
    """A fly. `measured_sink_mps` is a tank test of one's own, negative if it rises, and wins over the rest."""

    name: Name
    hook_size: int
    dressing: Literal["slim", "medium", "bulky"] = "medium"
    wire: Literal["fine", "standard", "heavy"] = "standard"
    bead: Literal["none", "glass", "brass", "tungsten"] = "none"
    bead_mm: Annotated[float, Field(ge=0, le=BEAD_MM.high)] = 0.0
    foam_mm3: Annotated[float, within(FOAM_MM3)] = 0.0
    extra_g: Annotated[float, within(EXTRA_G)] = 0.0
    wetted: bool = True
    measured_sink_mps: Annotated[float | None, within(FLY_SINK_MPS)] = None


class FlyItemIn(FlyIn):
    """`foods` are keys of what it imitates; `style` how it works; `left` how many there are."""

    imitates: Annotated[str, Field(max_length=60)] = ""
    foods: Annotated[list[Annotated[str, Field(max_length=24)]], Field(max_length=8)] = []
    style: Literal["natural", "attractor", "dry", "lure"] = "natural"
    left: Annotated[int, within(FLIES_LEFT)] = 2
    colour: Annotated[str, Field(max_length=30)] = ""


class FlyOut(FlyItemIn):
    """`sink_rate_mps` is what the fly does on its own in water of 10 C; negative if it floats."""

    id: int
    sink_rate_mps: float


class BoxFileOut(Schema):
    added: int
    changed: int


class LinePage(Schema):
    items: list[LineOut]
    count: int


class LeaderPage(Schema):
    items: list[LeaderOut]
    count: int


class FlyPage(Schema):
    items: list[FlyOut]
    count: int


class RodIn(Schema):
    name: Name
    length_m: Annotated[float, within(ROD_M)]
    number: Annotated[int, within(ROD_NUMBER)] = 6


class RodOut(RodIn):
    id: int


class FloatItemIn(Schema):
    """An indicator: `kind` says how it is held on the leader."""

    name: Name
    kind: Literal["fixed", "quick-release", "sliding"] = "fixed"
    diameter_m: Annotated[float, within(FLOAT_DIAMETER_M)] = 0.019


class FloatItemOut(FloatItemIn):
    id: int


class SpoolIn(Schema):
    """Leader material."""

    name: Name
    material: Literal["fluorocarbon", "nylon"] = "fluorocarbon"
    diameter_m: Annotated[float, within(STRAND_M)]


class SpoolOut(SpoolIn):
    id: int


class RodPage(Schema):
    items: list[RodOut]
    count: int


class FloatItemPage(Schema):
    items: list[FloatItemOut]
    count: int


class SpoolPage(Schema):
    items: list[SpoolOut]
    count: int

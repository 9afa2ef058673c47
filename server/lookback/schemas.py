"""What the log knows, as the API speaks it."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from common.fields import within
from ninja import Schema
from pydantic import AwareDatetime

from advice.picture_schemas import PhraseOut
from advice.search_schemas import Phase
from days.schemas import DepthOut
from stillthread.api import TRIAL_DEPTH_M, TRIAL_S, WATER_C

By = Literal[
    "depth", "above_bottom", "temperature", "light", "wind", "method", "fly", "line", "retrieve", "spot", "hour", "month"
]
Of = Literal["takes", "landed"]


class RateOut(Schema):
    """One way: hours of the fly there, what came, and takes an hour with the nine-in-ten interval. `thin`: under two hours.
    `low` and `high` are its ends where it is a range."""

    key: str
    name: PhraseOut
    low: float | None
    high: float | None
    hours: float
    takes: int
    days: int
    mean_ph: float
    low_ph: float
    high_ph: float
    thin: bool


class RatesOut(Schema):
    """A chart: its ways, the best of them with enough hours and whether that is sure, in words; how many were left out.
    `untallied` days are still to be worked out: ask again."""

    by: By
    of: Of
    ways: list[RateOut]
    best_key: str | None
    sure: bool
    words: PhraseOut
    left_out: int
    days: int
    hours: float
    untallied: int = 0


class PhaseOut(Schema):
    """How many fish took in a phase of the cast."""

    phase: Phase
    takes: int


class AnswersOut(Schema):
    """How deep, on what, when; and in which `phases` of the cast, of fish of which it is known, most first."""

    charts: list[RatesOut]
    days: int
    hours: float
    takes: int
    landed: int
    phases: list[PhaseOut]
    untallied: int


class WorkedOut(Schema):
    line: str
    fly: str
    takes: int
    hours: float


class AlikeDayOut(Schema):
    """A day like this one, 0 to 1, and what took most on it."""

    id: UUID
    alike: float
    on: date
    water_name: str
    surface_c: float
    wind_mps: float
    hours: float
    takes: int
    landed: int
    take_depths: list[DepthOut]
    worked: WorkedOut | None


class LeanOut(Schema):
    share: float
    words: PhraseOut


class AlikeOut(Schema):
    """The days most like this one of all that are `alike` at all; how they lean the belief, and whether they are let."""

    days: list[AlikeDayOut]
    alike: int
    lean: LeanOut | None
    counted: bool
    untallied: int


class BinOut(Schema):
    """Promises of about one size, and what came of them."""

    said_ph: float
    least_ph: float
    most_ph: float
    came_ph: float
    low_ph: float
    high_ph: float
    hours: float
    takes: int


class CorrectionOut(Schema):
    """By what promises would have to be multiplied, and whether the log is sure enough to offer it."""

    said: float
    came: int
    factor: float
    low: float
    high: float
    offered: bool
    words: PhraseOut


class AuditOut(Schema):
    """What came of advice that was followed, and of the rest. `within` of `promises` brought as many as their range said;
    `taken` is the correction in use at the water that was asked about."""

    followed: list[RateOut]
    bins: list[BinOut]
    promises: int
    within: int
    correction: CorrectionOut
    taken: float | None
    untallied: int


class TakenOut(Schema):
    takes_factor: float | None


class YearPointOut(Schema):
    on: date
    surface_c: float
    thermocline_m: float | None
    secchi_m: float


class YearFoodOut(Schema):
    """A food, and how much of it showed in each month, January first."""

    key: str
    name: str
    months: list[float]


class YearOut(Schema):
    """A water's year as the log has it; of very many days every so manieth is shown."""

    points: list[YearPointOut]
    shown_every: int
    foods: list[YearFoodOut]
    days_in_month: list[int]
    first_on: date | None
    last_on: date | None
    first_takes_on: list[date]
    last_takes_on: list[date]
    untallied: int


class TrialIn(Schema):
    """A line that sank level on slack to a known depth, from landing to touch."""

    at: AwareDatetime
    depth_m: Annotated[float, within(TRIAL_DEPTH_M)]
    elapsed_s: Annotated[float, within(TRIAL_S)]
    water_c: Annotated[float, within(WATER_C)]
    known_by: Literal["sounder", "mark", "weighted-line"]


class TrialOut(TrialIn):
    id: UUID


class TrialPage(Schema):
    items: list[TrialOut]
    count: int


class TimingOut(Schema):
    """What one trial, or the touch of an ordinary cast, speaks for, in water of the label's temperature; and the chance that it
    went wrong."""

    trial_id: UUID | None
    at: datetime
    depth_m: float
    elapsed_s: float
    water_c: float
    known_by: Literal["sounder", "mark", "weighted-line", "fished"]
    rate_mps: float
    stray: float


class LineRateOut(Schema):
    """Label against what was timed, with the nine-in-ten interval; `used` where simulations use it."""

    label_mps: float
    rate_mps: float
    spread: float
    low_mps: float
    high_mps: float
    used: bool
    enough: bool
    timed: list[TimingOut]

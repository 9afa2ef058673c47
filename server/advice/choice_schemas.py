"""The plan as the API speaks it: the best of each method, how to tie it, and the ladder behind it."""

from __future__ import annotations

from typing import Annotated, Literal

from common.fields import within
from common.trade_keys import PlanSchoolKey
from ninja import Field, Schema

from advice.action_schemas import ActionOut, FishedIn, Indicator, PlacedFlyIn
from advice.condition_schemas import ConditionsIn
from advice.picture_schemas import PhraseOut
from advice.run_schemas import CornerIn, RunOut
from box.schemas import LeaderIn, LineIn
from stillthread.api import (
    BUILT_LEADER_M,
    FISH_KG,
    HOOK_SIZE,
    HUNG_LEADER_M,
    PLANNED_CAST_M,
    ROD_M,
    ROD_NUMBER,
    SECCHI_M,
    SHARE,
    USUAL_CAST_M,
    WEED_M,
)


class PinsIn(Schema):
    """What is decided; the rest is solved around it."""

    method_key: Annotated[str | None, Field(max_length=24)] = None
    line_name: Annotated[str | None, Field(max_length=80)] = None
    fly_name: Annotated[str | None, Field(max_length=80)] = None
    leader: LeaderIn | None = None


class ChoicesIn(Schema):
    """Lines, flies and spools are those of the box; `rod_number` is the line the rod casts, null for any. `pressed`: the
    fish have been hard pressed. Without `thorough` about half is tried, for a first answer."""

    conditions: ConditionsIn
    cast_m: Annotated[float, within(PLANNED_CAST_M)] = float(USUAL_CAST_M)
    rod_m: Annotated[float, within(ROD_M)] = 3.0
    rod_number: Annotated[int | None, within(ROD_NUMBER)] = None
    boat: bool = False
    indicators: Annotated[list[Indicator], Field(max_length=3)] = ["fixed", "quick-release", "sliding"]
    school_key: PlanSchoolKey = "best"
    fluorocarbon: Literal["always", "when-bright", "never"] = "when-bright"
    pressed: bool = False
    thorough: bool = True
    pins: PinsIn = PinsIn()


class WeighingIn(Schema):
    """A way of one's own to weigh under the same question as the plan; its flies are looked up in the box by name."""

    choices: ChoicesIn
    method_key: Annotated[str, Field(max_length=24)]
    fished: FishedIn


class MethodOut(Schema):
    """A method: `way` is how it is fished; when it suits, what it needs, what spoils it."""

    key: str
    name: str
    way: Literal["cast", "hang", "tow"]
    suits: str
    needs: str
    spoils: str


class SeatOut(Schema):
    """A fly's place in the team and the depths it works."""

    place: str
    fly_name: str
    low_m: float
    high_m: float
    why: PhraseOut


class CutOut(Schema):
    """A length to cut, knots allowed for, and what it measures when tied."""

    what: str
    cut_m: float
    finished_m: float
    diameter_m: float
    material: str


class BuildOut(Schema):
    cuts: list[CutOut]
    total_m: float
    tippet_x: int
    tippet_diameter_m: float
    tippet_strength_kgf: float
    tippet_why: list[str]
    knots: list[str]
    hints: list[PhraseOut]


class LandingOut(Schema):
    ok: bool
    needs: str
    why: PhraseOut


class RungOut(Schema):
    changes: Literal["start", "depth", "fly", "method", "place"]
    minutes: float
    words: PhraseOut


class RankedOut(Schema):
    """The best option of one method with the run that won it. Takes an hour with the mood of the day as their spread.
    `as_good`: within a tenth of the first. `build` is null for a leader of one's own."""

    method: MethodOut
    line: LineIn
    leader: LeaderIn
    flies: list[PlacedFlyIn]
    action: ActionOut
    run: RunOut
    takes_ph: float
    takes_low_ph: float
    takes_high_ph: float
    if_deeper_ph: float
    if_shallower_ph: float
    if_calm_ph: float
    as_good: bool
    minutes_in_band: float
    low_m: float
    high_m: float
    reasons: list[PhraseOut]
    weak_point: PhraseOut
    seats: list[SeatOut]
    warnings: list[PhraseOut]
    build: BuildOut | None
    landing: LandingOut | None
    ladder: list[RungOut]


class ExcludedOut(Schema):
    method_key: str
    method_name: str
    why: str


class ChangeOut(Schema):
    """What would put another method first."""

    words: str
    method_key: str
    method_name: str


class SecondRodOut(Schema):
    """The method for a second rod, and the share of the belief covered by one and by both."""

    method_key: str
    covers_one: float
    covers_both: float


class AdditionOut(Schema):
    """What one tie or purchase would add: the share of takes an hour."""

    kind: Literal["fly", "line"]
    name: str
    gain: float


class OfLineOut(Schema):
    """What a line of the box would give at its best, by coarse runs, and the method that suits it."""

    name: str
    method_key: str
    method_name: str
    takes_ph: float


class PlanWaterOut(Schema):
    """The water the plan was simulated in: its temperature and the bottom as it runs out from the rod."""

    water_c: float
    bottom: list[CornerIn]
    weed_m: float


class ChoicesOut(Schema):
    """`correction` is what the angler has the log multiply promised takes by; they are said with it."""

    correction: float | None
    water: PlanWaterOut
    ranked: list[RankedOut]
    excluded: list[ExcludedOut]
    changes: list[ChangeOut]
    lines: list[OfLineOut]
    second_rod: SecondRodOut | None
    addition: AdditionOut | None
    rules: list[str]
    not_for_the_rod: list[str]
    tried: int


class CalendarIn(Schema):
    conditions: ConditionsIn


class LeaderBuildIn(Schema):
    """A leader to build: `length_m` from the line to the point, or from the float to the point under an indicator."""

    under_indicator: bool = False
    length_m: Annotated[float, Field(ge=HUNG_LEADER_M.low, le=BUILT_LEADER_M.high)]
    droppers_m: Annotated[list[Annotated[float, Field(ge=0.3, le=12)]], Field(max_length=3)] = []
    hook_size: Annotated[int, within(HOOK_SIZE)] = 12
    secchi_m: Annotated[float, within(SECCHI_M)] = 3.0
    brightness: Annotated[float, within(SHARE)] = 0.3
    weed_m: Annotated[float, within(WEED_M)] = 0.0
    fish_kg: Annotated[float, within(FISH_KG)] = 1.0
    fluorocarbon: Literal["always", "when-bright", "never"] = "when-bright"
    thin_m: Annotated[float, Field(ge=0.3, le=6)] = 2.13
    below_m: Annotated[float, Field(ge=0.2, le=2)] = 0.6
    rod_m: Annotated[float, within(ROD_M)] = 3.05
    indicator: Indicator = "fixed"


class LeaderBuildOut(Schema):
    """How to tie it, the leader as the box keeps it, and whether a fish can be landed with it."""

    build: BuildOut
    leader: LeaderIn
    landing: LandingOut | None

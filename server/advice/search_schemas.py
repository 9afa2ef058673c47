"""The search on the water as the API speaks it: the table that goes with a plan, the log so far, and what it means."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from common.fields import within
from common.trade_keys import HappenedKey, SchoolKey
from ninja import Field, Schema
from pydantic import BaseModel, model_validator

from advice.action_schemas import ActionOut, RigIn
from advice.picture_schemas import PhraseOut
from box.schemas import FlyIn
from stillthread.api import CAST_ELAPSED_S, CAST_TOWARD, DEPTH_TOLD, FELT

Metres = Annotated[float, Field(ge=0, le=120)]
Minutes = Annotated[float, Field(ge=0, le=2880)]
Share = Annotated[float, Field(ge=0, le=1)]
Key = Annotated[str, Field(max_length=400)]
RatePmin = Annotated[float | None, Field(gt=0, le=20)]
HookSize = Annotated[int, Field(ge=1, le=32)]
ToldPace = Literal["still", "slow", "quick"]
MOST_CELLS, MOST_FLIES, MOST_POINTS = 120, 4, 60
Seats = Annotated[list[Annotated[int, Field(ge=0, le=8)]], Field(max_length=MOST_FLIES)]
Phase = Literal["drop", "pull", "stop", "hang", "lift", "rest"]
MOST_TRAVEL_M, MOST_BARE = 120.0, 6  # what has to be worked out here, so that nobody is kept waiting by it


class TiedIO(BaseModel):
    """A fly on the leader and its class, counted from 1 in `classes`."""

    name: Annotated[str, Field(max_length=80)]
    fly_class: Annotated[int, Field(ge=1, le=8)]


class PresentationIO(BaseModel):
    """One cast, drift or tow as the search sees it: every fly's path over time.

    `met` is by which flies are wanted ("10": the point only), for each fly, cell by cell, the tenths of a second of one cast in
    which a fish of that cell would answer it; worked out anew where it is left out.
    """

    key: Key
    method: Annotated[str, Field(max_length=40)]
    line: Annotated[str, Field(max_length=80)]
    flies: Annotated[list[TiedIO], Field(min_length=1, max_length=MOST_FLIES)]
    minutes: Annotated[float, Field(gt=0, le=60)]
    time_s: Annotated[list[Annotated[float, Field(ge=0, le=7200)]], Field(min_length=2, max_length=MOST_POINTS)]
    depth_m: Annotated[
        list[Annotated[list[Metres], Field(min_length=2, max_length=MOST_POINTS)]], Field(min_length=1, max_length=MOST_FLIES)
    ]
    float_m: Metres | None = None
    words: Annotated[str, Field(max_length=400)] = ""
    values: Annotated[dict[str, float], Field(max_length=8)] = {}
    share: Share = 1.0
    action: ActionOut | None = None
    leader_m: Metres | None = None
    met: dict[
        Annotated[str, Field(pattern="^[01]{1,4}$")],
        Annotated[
            list[Annotated[list[Annotated[int, Field(ge=0, le=72_000)]], Field(max_length=MOST_CELLS)]],
            Field(max_length=MOST_FLIES),
        ],
    ] = {}

    @model_validator(mode="after")
    def _fits(self) -> PresentationIO:
        if len(self.depth_m) != len(self.flies) or any(len(path) != len(self.time_s) for path in self.depth_m):
            raise ValueError("each fly needs a depth for every time")
        if any(later < sooner for sooner, later in zip(self.time_s, self.time_s[1:], strict=False)):
            raise ValueError("time_s goes back")
        if any(sum(abs(b - a) for a, b in pairwise(path)) > MOST_TRAVEL_M for path in self.depth_m):
            raise ValueError(f"a fly goes up and down more than {MOST_TRAVEL_M:g} m in one cast")
        return self


class SearchGridIO(BaseModel):
    """Where they may feed, how far they may rise, what the reading says of the first and the plan of each class of fly, and how
    many interested fish a minute it expects."""

    centres_m: Annotated[list[Metres], Field(min_length=2, max_length=40)]
    reaches_m: Annotated[list[Annotated[float, Field(gt=0, le=20)]], Field(min_length=3, max_length=3)]
    stated: Annotated[list[Share], Field(min_length=2, max_length=40)]
    wanted: Annotated[list[Share], Field(min_length=1, max_length=8)]
    rate_pmin: RatePmin = None

    @model_validator(mode="after")
    def _fits(self) -> SearchGridIO:
        if len(self.stated) != len(self.centres_m):
            raise ValueError("stated needs a share for every centre")
        steps = [b - a for a, b in zip(self.centres_m, self.centres_m[1:], strict=False)]
        if min(steps) <= 0.01 or max(steps) - min(steps) > 1e-6:
            raise ValueError("centres_m are even steps down")
        if sum(self.stated) <= 0.0 or sum(self.wanted) <= 0.0:
            raise ValueError("stated and wanted can't all be nothing")
        return self


class CostsIO(BaseModel):
    """Minutes that a change takes."""

    line_min: Annotated[float, Field(ge=0, le=60)] = 6.0
    fly_min: Annotated[float, Field(ge=0, le=60)] = 2.5
    float_min: Annotated[float, Field(ge=0, le=60)] = 1.0
    count_min: Annotated[float, Field(ge=0, le=60)] = 0.0


class ShiftIO(BaseModel):
    """How much deeper than at the beginning they are expected by then, with the light."""

    at_min: Minutes
    deeper_m: Annotated[float, Field(ge=-20, le=20)]


class FlyAboutIO(BaseModel):
    """What a fly of the box is to the search: its class, from 1; how it sinks; what it is worth held still and pulled, beside
    the box's best; and by method and number of flies ("washing-line/3") which seats it may have, the point 0."""

    fly_class: Annotated[int, Field(ge=1, le=8)]
    colour: Annotated[str, Field(max_length=80)] = ""
    hook_size: HookSize = 12
    style: Annotated[str, Field(max_length=24)] = ""
    sinks: Annotated[str, Field(max_length=40)] = ""
    still: Share = 1.0
    pulled: Share = 1.0
    fits: Annotated[dict[Annotated[str, Field(max_length=40)], Seats], Field(max_length=60)] = {}


class RetrieveIO(BaseModel):
    """A way to bring a fly back: how fast, and its rhythm."""

    key: Annotated[str, Field(max_length=24)]
    name: Annotated[str, Field(max_length=40)]
    mps: Annotated[float, Field(gt=0, le=5)]
    rhythm: Annotated[str, Field(max_length=120)] = ""
    pull_s: Annotated[float, Field(ge=0, le=60)] = 1.0
    pause_s: Annotated[float, Field(ge=0, le=60)] = 0.0


class SearchTableIO(BaseModel):
    """What goes to the water with a plan. `flies` gives the class of every fly of the box, `classes` their names. With `about`
    and `retrieves` steps from any rig are thought of; `second_fly` is how much the weaker flies of a team add."""

    grid: SearchGridIO
    classes: Annotated[list[Annotated[str, Field(max_length=40)]], Field(min_length=1, max_length=8)]
    flies: Annotated[dict[str, int], Field(max_length=400)] = {}
    about: Annotated[dict[str, FlyAboutIO], Field(max_length=400)] = {}
    retrieves: Annotated[list[RetrieveIO], Field(max_length=40)] = []
    second_fly: Share = 0.0
    options: Annotated[list[PresentationIO], Field(max_length=120)]
    costs: CostsIO = CostsIO()
    shift: Annotated[list[ShiftIO], Field(max_length=48)] = []
    day_min: Annotated[float, Field(ge=10, le=2880)] = 240.0

    @model_validator(mode="after")
    def _fits(self) -> SearchTableIO:
        if len(self.grid.wanted) != len(self.classes):
            raise ValueError("wanted needs a share for every class")
        cells = len(self.grid.centres_m) * len(self.grid.reaches_m)
        for one in self.options:
            for met in one.met.values():
                if len(met) != len(one.flies) or any(len(of) != cells for of in met):
                    raise ValueError(f"met of {one.key[:60]} does not fit the grid")
        return self


class FishOut(Schema):
    """A presentation as it is fished: what `PUT /days/{id}/presentations/{id}` takes."""

    rig: RigIn
    action: ActionOut


class SearchOut(Schema):
    """The table, by its keys how each presentation is fished, and the flies of the box by name, to tie on others."""

    table: SearchTableIO
    fish: dict[str, FishOut]
    tie: dict[str, FlyIn] = {}


class HappenedIn(BaseModel):
    """A line of the log: what, when, with what `fished`, the fly's depth at that moment, which fly by its place from the point,
    how long after it landed and in which phase; of another's fly the class, colour, size and pace; where a cast went;
    and when the water `changed`, what its new reading has `stated` of the depths of the grid or of `centres_m`, `wanted` of
    the classes, and how many fish it expects."""

    kind: HappenedKey
    at_min: Minutes
    fished: Annotated[str | None, Field(max_length=400)] = None
    depth_m: Metres | None = None
    fly: Annotated[int | None, Field(ge=0, lt=MOST_FLIES)] = None
    elapsed_s: Annotated[float | None, within(CAST_ELAPSED_S)] = None
    phase: Phase | None = None
    fly_class: Annotated[int | None, Field(ge=1, le=8)] = None
    colour: Annotated[str | None, Field(max_length=80)] = None
    hook_size: HookSize | None = None
    pace: ToldPace | None = None
    toward: Annotated[int | None, within(CAST_TOWARD)] = None
    far: bool | None = None
    stated: Annotated[list[Share], Field(max_length=40)] | None = None
    centres_m: Annotated[list[Metres], Field(min_length=2, max_length=40)] | None = None
    wanted: Annotated[list[Annotated[float, Field(ge=0)]], Field(max_length=8)] | None = None
    rate_pmin: RatePmin = None


class RefusedIn(BaseModel):
    key: Key
    why: Annotated[str, Field(max_length=80)] = ""


class SearchLogIn(BaseModel):
    """The day so far.

    `now` is what is tied on, where it is not what was cast last; `most_min` the angler's own clock of minutes without anything
    before he changes.
    """

    fished: Annotated[dict[str, PresentationIO], Field(max_length=60)] = {}
    happened: Annotated[list[HappenedIn], Field(max_length=1200)] = []
    now_min: Minutes | None = None
    now: Annotated[str | None, Field(max_length=400)] = None
    refused: Annotated[list[RefusedIn], Field(max_length=120)] = []
    school: SchoolKey = "best"
    most_min: Annotated[float | None, Field(ge=1, le=240)] = None
    rods: Annotated[int, Field(ge=1, le=2)] = 1

    @model_validator(mode="after")
    def _fits(self) -> SearchLogIn:
        before = 0.0
        for one in self.happened:
            if one.at_min < before:
                raise ValueError("happened goes back in time")
            before = one.at_min
            if one.kind in {"cast", *FELT} and one.fished not in self.fished:
                raise ValueError(f"{one.kind} names nothing that was fished")
            if one.kind in FELT | DEPTH_TOLD and one.depth_m is None:
                raise ValueError(f"{one.kind} needs a depth")
        if self.now is not None and self.now not in self.fished:
            raise ValueError("now names nothing that was fished")
        if self.now_min is not None and self.now_min < before:
            raise ValueError("now_min lies before the last line")
        return self


class MovesIn(Schema):
    table: SearchTableIO
    log: SearchLogIn | None = None

    @model_validator(mode="after")
    def _bounded(self) -> MovesIn:
        if self.log is None:
            return self
        for one in self.log.happened:
            if (one.stated is None) != (one.wanted is None):
                raise ValueError("stated and wanted come together")
            if one.stated is not None and len(one.stated) != len(one.centres_m or self.table.grid.centres_m):
                raise ValueError("stated does not fit the grid")
            if one.wanted is not None and len(one.wanted) != len(self.table.grid.wanted):
                raise ValueError("wanted does not fit the classes")
        own = {one.key for one in self.table.options if one.met}
        every = [*self.table.options, *self.log.fished.values()]
        if len({one.key for one in every if not one.met and one.key not in own}) > MOST_BARE:
            raise ValueError(f"at most {MOST_BARE} presentations may come without met: take them from the table")
        return self


class RidgeOut(Schema):
    depth_m: float
    chance: float


class FishedOut(Schema):
    depth_m: float
    minutes: float


class WorthOut(Schema):
    """`value` takes over the horizon, `takes_ph` an hour while it is fished, `cost_min` minutes to come to it."""

    key: str
    value: float
    takes_ph: float
    cost_min: float


class DoneOut(Schema):
    """What the hands do, on the line and leader of the presentation whose key is `like`: of the table, or what is tied on."""

    action: ActionOut
    like: str


class BestOut(WorthOut):
    """What is proposed; a step from what is tied on that is not on the table comes with its presentation and how it is fished,
    tied to the same line and leader."""

    presentation: PresentationIO | None = None
    fish: DoneOut | None = None


class OwnChangeOut(BestOut):
    """A change of the angler's own: `turns` is what of the rig; where it is a fly, it goes on `seat`, the point 0."""

    turns: Literal["count", "float", "pace", "fly", "line"]
    seat: int | None


class OwnChangesOut(Schema):
    """What may be changed by hand, best first of each kind."""

    changes: list[OwnChangeOut]


class MoveOut(Schema):
    """`change` whether it is worth saying; `elsewhere`: this place is likely empty."""

    change: bool
    best: BestOut
    stay: WorthOut | None
    runner_up: WorthOut | None
    horizon_min: float
    elsewhere: bool
    words: list[PhraseOut]


class SearchBandOut(Schema):
    """The shortest run of depths that holds most of the chance."""

    top_m: float
    bottom_m: float
    chance: float


class SpotOut(Schema):
    """Where a cast goes: -2 hard left to 2 hard right, and whether far."""

    toward: int
    far: bool


class CoveredOut(SpotOut):
    casts: int


class FanOut(Schema):
    next: SpotOut
    covered: list[CoveredOut]


class OtherRodOut(Schema):
    key: str
    words: PhraseOut


class MovesOut(Schema):
    """What the log means: where they feed (`ridge`), the chance that nobody is home, which fly they want, what kind of day it
    is, where flies have been; and what to do, where the next cast goes, and how another rod is set."""

    casts: int
    band: SearchBandOut
    ridge: list[RidgeOut]
    empty: float
    wanted: dict[str, float]
    kinds: dict[str, float]
    fished: list[FishedOut]
    said: list[PhraseOut]
    move: MoveOut | None
    fan: FanOut
    other_rod: OtherRodOut | None

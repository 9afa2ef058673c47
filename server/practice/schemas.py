"""Practice days and drills as the API speaks them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Field, Schema

from advice.action_schemas import ActionIn, ActionOut, RigIn
from advice.choice_schemas import RankedOut
from advice.picture_schemas import PhraseOut, PictureOut

Level = Literal["easy", "fair", "hard"]
ReadingKey = Literal["lowering", "look", "sounding", "clarity"]
DrillKind = Literal["depth", "float", "line", "count"]


class PracticeDayIn(Schema):
    """A day to be dealt: by a code that a friend gave, the `week`'s own, or any."""

    level: Level = "fair"
    seed: Annotated[str, Field(max_length=12)] | None = None
    week: bool = False


class PracticeRowOut(Schema):
    """A practice day in the list; takes only once it has ended."""

    id: UUID
    seed: str
    level: Level
    created_at: datetime
    ended_at: datetime | None
    casts: int
    takes: int
    knew: float | None


class PracticePage(Schema):
    items: list[PracticeRowOut]
    count: int


class CameOut(Schema):
    """What came in a cast."""

    kind: Literal["take", "lost", "knock", "follow"]
    depth_m: float
    fly: str


class PracticeCastOut(Schema):
    """A cast as the angler knows it. `expected` is told once the day has ended."""

    number: int
    at_min: float
    words: str
    low_m: float
    high_m: float
    touched: bool
    came: list[CameOut]
    expected: float | None


class HiddenOut(Schema):
    """The truth, told afterwards: where they fed over the day, how far they rose, which class of fly they wanted."""

    kind: str
    at_min: list[float]
    centre_m: list[float]
    here: list[bool]
    other_m: float | None
    reach_m: float
    wanted: str


class MomentOut(Schema):
    at_min: float
    cast: int
    words: PhraseOut


class SchoolTakesOut(Schema):
    """What another school would have taken."""

    name: str
    takes: float


class ToldOut(Schema):
    """What came of the day: takes of the angler, and expected of his casts, of the classic ladder, of the advice and of one who
    knew, on the same day."""

    takes: int
    expected: float
    ladder: float
    advice: float
    knew: float
    luck: float
    hidden: HiddenOut
    moments: list[MomentOut]


class PracticeDayOut(Schema):
    """A practice day as far as it has been fished: nothing that a day on the water would not tell."""

    id: UUID
    seed: str
    level: Level
    water: str
    clock: str
    at_min: float
    day_min: float
    made: list[ReadingKey]
    costs_min: dict[str, float]
    place: int
    move_min: float
    found: str
    picture: PictureOut
    bottom_m: float
    wind_speed_ms: float
    cloud_fraction: float
    casts: list[PracticeCastOut]
    takes: int
    told: ToldOut | None


class PracticeReadingIn(Schema):
    reading: ReadingKey


class PracticeCastIn(Schema):
    """The cast of this number: sent again it is answered as before."""

    number: Annotated[int, Field(ge=0, le=1000)]
    rig: RigIn
    action: ActionIn


class PracticePlanOut(Schema):
    """The starter box's best of each method in the water as it has been read."""

    ranked: list[RankedOut]
    water_c: float


class PracticeAdviceOut(Schema):
    """What the app would do next: `change` or go on, with what and why."""

    change: bool
    elsewhere: bool
    words: list[PhraseOut]
    rig: RigIn | None
    action: ActionOut | None


class DrillIn(Schema):
    kind: DrillKind


class DrillOut(Schema):
    id: UUID
    kind: DrillKind
    name: str
    words: PhraseOut
    unit: Literal["m", "s", "choice"]
    choices: list[str]
    created_at: datetime
    points: int | None
    told: PhraseOut | None


class DrillPage(Schema):
    items: list[DrillOut]
    count: int


class DrillAnswerIn(Schema):
    """Metres, seconds, or the place of a choice."""

    answer: Annotated[float, Field(ge=0, le=1000)]

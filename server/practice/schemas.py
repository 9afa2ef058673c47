"""Practice days and drills as the API speaks them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Field, Schema

from advice.action_schemas import ActionIn, ActionOut, RigIn
from advice.choice_schemas import RankedOut
from advice.picture_schemas import PhraseOut, PictureOut

Level = Literal["easy", "fair", "hard"]
ReadingKey = Literal["lowering", "look", "sounding", "clarity"]
DrillKind = Literal["depth", "float", "line", "count"]


class PracticeDayIn(Schema):
    """A day to be dealt: by a code that a friend gave, the `week`'s own, or any; on a water made up, one's own, or the one of
    a day that was taken along, which it is `like` in all but where the fish are: it is taken along with it."""

    level: Level = "fair"
    seed: Annotated[str, Field(max_length=12)] | None = None
    week: bool = False
    water_id: int | None = None
    like: UUID | None = None


class PracticeRowOut(Schema):
    """A practice day in the list; the best takes only once it has ended. `water` names one's own."""

    id: UUID
    seed: str
    level: Level
    water: str | None
    taken: bool
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
    knew, on the same day. `advice` is None while a device still works it out."""

    takes: int
    expected: float
    ladder: float
    advice: float | None
    knew: float
    luck: float
    hidden: HiddenOut
    moments: list[MomentOut]


class PracticeNameOut(Schema):
    """What a day is called, whether its water is one's own, whether its code alone deals a friend the same day, and whether a
    device took it along."""

    id: UUID
    seed: str
    level: Level
    water: str
    own: bool
    for_friends: bool
    taken: bool


class SeenOut(Schema):
    """The water as it has been read by some hour."""

    picture: PictureOut
    bottom_m: float
    wind_speed_mps: float
    cloud_fraction: float


class PlayedOut(Schema):
    """What was done on a day so far, and what came: nothing that a day on the water would not tell. `acts` is the number of
    the next."""

    acts: int
    clock: str
    at_min: float
    day_min: float
    made: list[ReadingKey]
    costs_min: dict[str, float]
    place: int
    move_min: float
    found: str
    casts: list[PracticeCastOut]
    takes: int
    told: ToldOut | None


class PracticeDayOut(PracticeNameOut, PlayedOut, SeenOut):
    """A practice day as far as it has been fished."""


class ReadIn(Schema):
    """Read something of the water: it costs minutes."""

    kind: Literal["reading"]
    what: ReadingKey


class MoveIn(Schema):
    """Move to another place of the water."""

    kind: Literal["place"]


class ShotIn(Schema):
    """Any rig and what is done with it."""

    rig: RigIn
    action: ActionIn


class ShootIn(ShotIn):
    """Fish one cast."""

    kind: Literal["cast"]


class EndIn(Schema):
    """End the day, early or in its time."""

    kind: Literal["end"]


ActIn = Annotated[ReadIn | MoveIn | ShootIn | EndIn, Field(discriminator="kind")]


class ShotOut(Schema):
    """A cast as fish see it: `one` is for the search, with the depths between which its flies work, and whether one lies on
    the bottom."""

    one: dict[str, Any]
    low_m: float
    high_m: float
    bottom_m: float
    touched: bool


class TurnOut(Schema):
    """A way to fish at one count, or one depth of its float."""

    action: ActionOut
    shot: ShotOut


class WayOut(TurnOut):
    rig: RigIn


class PracticePlanOut(Schema):
    """The starter box's best of each method in the water as it has been read."""

    ranked: list[RankedOut]
    water_c: float


class PackPlanOut(PracticePlanOut):
    """A plan that was taken along: for what had been `made`, its best turned to other depths by method, and all that the advice
    may name by its key."""

    made: list[ReadingKey]
    turns: dict[str, list[TurnOut]]
    ways: dict[str, WayOut]


class PackOut(Schema):
    """A day as a device takes it along. `game` is for the device's Python; `seen` holds the water by what was read and the
    hour, as "lowering+look|2"; `log` what was done so far."""

    name: PracticeNameOut
    game: str
    plans: list[PackPlanOut]
    seen: dict[str, SeenOut]
    log: list[dict[str, Any]]


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

"""An invented season: two waters, an angler, and 25 days whose fish follow the same physics as the advice."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any, Literal

import numpy as np

from accounts.models import User
from accounts.services import DEMO_USERNAME, sign_up
from advice.action_schemas import CastIn, CastingIn, RigIn
from advice.condition_schemas import ReadingIn, SampleIn, SampleItemIn
from advice.payloads import cast_of, conditions_of, local_to_utc, rig_of
from box.models import Fly, Leader, Line
from box.services import core_fly, core_leader, core_line, items_of
from days import services as log
from days.models import Day
from days.schemas import AdviceIn, DayIn, EntryIn, LoggedPresentationIn
from demo.lakes import BRENNHOLT_LAKE, TRESCANAS_LAKE, DemoLake
from stillthread.api import (
    METHODS,
    MOOD,
    RETRIEVES,
    SCHOOLS,
    SIGNS,
    Box,
    BoxFly,
    Cast,
    CastResult,
    Option,
    PlacedFly,
    Rig,
    Scorer,
    WaterPicture,
    WaterRules,
    given_for,
    quick_exposure,
    read_water,
    season_progress,
    seasonal_ensemble,
    simulate,
    water_for,
)
from waters.marks import save_mark
from waters.models import Mark, Water
from waters.services import lake_of, rules_of, save_water
from waters.soundings import add_survey, set_outline

SEED = 20260825  # its newest days show a layered lake, north and south
# Takes in an hour by a fly that is where every feeding fish would take it: ours, an ordinary stocked reservoir.
TAKES_PER_HOUR = 30.0
CASTS_A_DAY = (14, 26)
AGED = timedelta(days=10)
COUNTS_S, RETRIEVED = (0.0, 10.0, 20.0, 40.0), ("slow-twist", "strip-pause", "two-handed")

BRENNHOLT = {
    "name": "Brennholt Reservoir", "latitude_deg": 61.2, "longitude_deg": 9.4, "altitude_m": 412.0, "fetch_km": 2.4,
    "usual_bottom_depth_m": 9.0, "usual_secchi_m": 3.5, "time_zone": "Etc/GMT-2", "species": "rainbow", "stocked": ["brown"],
    "rules": {"most_flies": 3, "barbless": True, "float_tubes": False, "bag_limit": 2, "opens": "04-15", "closes": "10-31"},
    "notes": "Upland reservoir of our invention. Drop-off along the north arm at 3 to 5 m.",
}  # fmt: skip
TRESCANAS = {
    "name": "Laguna Trescañas", "latitude_deg": -41.3, "longitude_deg": -71.2, "altitude_m": 780.0, "fetch_km": 3.1,
    "usual_bottom_depth_m": 7.0, "usual_secchi_m": 5.0, "time_zone": "Etc/GMT+3", "species": "brown",
    "stocked": ["rainbow", "brook"],
    "rules": {"most_flies": 2, "barbless": True, "release": "release-only", "opens": "11-01", "closes": "05-01"},
    "notes": "Clear southern lagoon of our invention. Reed beds in the west bay.",
}  # fmt: skip


NOTES = (
    "Rose along the ripple edge after five. Went a metre deeper too late.",
    "Cold hands, slow twitch, two in the last hour off the point.",
    "Flat calm until noon; they wanted it small and still.",
    "Wind swung west at ten and the far bank came alive.",
)


@dataclass(frozen=True)
class Truth:
    """What the fish really do on a day, which the log only shows through takes."""

    picture: WaterPicture
    mood: float

    def takes_of(self, result: CastResult, rng: np.random.Generator) -> list[float]:
        """Return the seconds into the cast at which fish take."""
        worth = self.picture.belief.worth(result.fly_depth_m[0])
        step = np.diff(result.time_s, prepend=0.0)
        rate = TAKES_PER_HOUR * self.mood / 3600.0 * worth * step
        return [float(result.time_s[i]) for i in np.flatnonzero(rng.random(len(rate)) < rate)][:1]


def load_season(*, today: date, days: int = 25) -> User:
    """Create the demo angler with the year before `today`, or return the one that is there."""
    known = User.objects.filter(username=DEMO_USERNAME).first()
    if known:
        return known
    angler = sign_up(username=DEMO_USERNAME, password=uuid.uuid4().hex)
    angler.set_unusable_password()  # entered by the demo button only
    angler.save()
    waters = [save_water(water=Water(owner=angler), changes=fields) for fields in (BRENNHOLT, TRESCANAS)]
    for water, lake in zip(waters, (BRENNHOLT_LAKE, TRESCANAS_LAKE), strict=True):
        chart_lake(water, lake)
    # Three northern days to two southern ones, over the open days of the last year; the last of each is the newest open day.
    at = [waters[0] if i % 5 < 3 else waters[1] for i in range(days)]
    last = {water.pk: i for i, water in enumerate(at)}
    open_days = {water.pk: _open_days(water, today) for water in waters}
    for i, water in enumerate(at):
        weather, fishing = _streams(i)
        share = (i + float(weather.random())) / days
        days_open = open_days[water.pk]
        on = days_open[-1 if i == last[water.pk] else int(share * len(days_open))]
        _fish_day(angler, water, on, weather, fishing, newest=i == last[water.pk])
    return angler


def _streams(i: int) -> tuple[np.random.Generator, np.random.Generator]:
    """Return a stream for a day's weather and one for its fish, so that other fish leave the water as it was."""
    weather, fishing = np.random.SeedSequence([SEED, i]).spawn(2)
    return np.random.default_rng(weather), np.random.default_rng(fishing)


def clear_season() -> None:
    """Take the demo angler away with all that is theirs."""
    Day.objects.filter(owner__username=DEMO_USERNAME).delete()
    User.objects.filter(username=DEMO_USERNAME).delete()


def has_aged(*, today: date, days: int = 25) -> bool:
    """Return whether the season is no longer of this time of the year, and nobody has logged anything into it."""
    kept = Day.objects.filter(owner__username=DEMO_USERNAME)
    newest = kept.order_by("-at").values_list("at", flat=True).first()
    if newest is None or today - newest.date() <= AGED:
        return False
    return set(kept.values_list("pk", flat=True)) == {_uuid(_streams(i)[1]) for i in range(days)}


def chart_lake(water: Water, lake: DemoLake) -> None:
    """Give a water the outline, the soundings and the marks of an invented lake."""
    set_outline(water, lake.geometry())
    track, depth = lake.soundings(SEED)
    add_survey(water, "Boat with sounder", lake.plane.to_lonlat(track), depth)
    for name, kind, x, y, notes in lake.marks:
        lon, lat = lake.plane.to_lonlat([[x, y]])[0].tolist()
        changes = {"name": name, "kind_key": kind, "latitude_deg": lat, "longitude_deg": lon, "notes": notes}
        save_mark(mark=Mark(water=water), changes=changes)


def _open_days(water: Water, today: date) -> list[date]:
    """Return the days of the year before `today` on which the water was open, oldest first."""
    rules = rules_of(water)
    year = (today - timedelta(days=back) for back in range(365, 0, -1))
    return [on for on in year if rules.open_on(on)]


def _fish_day(
    angler: User, water: Water, on: date, weather: np.random.Generator, rng: np.random.Generator, *, newest: bool
) -> None:
    hour = float(weather.choice([8.5, 10.0, 11.5, 16.0, 19.0]))
    begins = datetime(on.year, on.month, on.day) + timedelta(hours=hour)
    payload = _conditions(water, begins, weather)
    if not newest:  # a new plan starts from what was read last: without another day's signs
        payload = _with_food(angler, payload, weather)
    conditions = conditions_of(angler, payload, logged=True)
    picture = read_water(conditions)
    day_id = _uuid(rng)
    log.put_day(owner=angler, day_id=day_id, payload=payload)
    truth = Truth(picture, mood=float(rng.gamma(4.0, 0.25)))
    at = local_to_utc(begins, water.time_zone)
    for rank, presentation in enumerate(_choices(angler, picture, rng)):
        at = _fish_presentation(angler, day_id, rank, presentation, truth, at, rng)
    if float(weather.random()) < 0.4:
        Day.objects.filter(pk=day_id).update(notes=str(weather.choice(NOTES)), tallied=False)


def _conditions(water: Water, begins: datetime, rng: np.random.Generator) -> DayIn:
    """Return a believable morning: seasonal water, gusty wind, changing cloud; a full profile on most days."""
    lake = lake_of(water)
    progress = float(np.clip(season_progress(lake, begins.date()), 0.0, 1.0))
    warmest = 19.5 if water.latitude_deg > 0 else 18.0
    surface_c = round(
        6.0 + (warmest - 6.0) * float(np.sin(np.pi * min(progress * 1.05, 1.0))) ** 0.8 + float(rng.normal(0, 0.7)), 1
    )
    bottom_m = round(float(rng.uniform(0.55, 1.15)) * water.usual_bottom_depth_m, 1)
    readings = [ReadingIn(depth_m=0.0, water_c=surface_c)]
    if rng.random() < 0.7:
        depths = np.arange(1.0, bottom_m, 1.0 if bottom_m < 7 else 1.5)
        curves, weights = seasonal_ensemble(np.concatenate(([0.0], depths)), surface_c, lake, begins.date())
        curve = curves[int(rng.choice(len(weights), p=weights))]
        readings += [
            ReadingIn(depth_m=float(d), water_c=round(float(c + rng.normal(0, 0.1)), 1))
            for d, c in zip(depths, curve[1:], strict=True)
        ]
    return DayIn(
        water_id=water.pk,
        at_local=begins,
        readings=readings,
        wind_speed_mps=round(float(rng.gamma(3.0, 1.2)), 1),
        wind_from_deg=float(int(rng.normal(235, 50)) % 360),
        cloud_fraction=round(float(rng.beta(1.2, 1.2)), 1),
        secchi_m=round(water.usual_secchi_m * float(rng.uniform(0.75, 1.2)), 1),
        bottom_depth_m=bottom_m,
    )


def _with_food(angler: User, payload: DayIn, rng: np.random.Generator) -> DayIn:
    """Return the morning with what showed of its food: a sign on most days, now and then a throat sample."""
    foods = read_water(conditions_of(angler, payload, logged=True)).foods.chances
    on = foods[int(rng.choice(len(foods), p=[chance.probability / sum(c.probability for c in foods) for chance in foods]))].food
    showing = [key for key, sign in SIGNS.items() if sign.shows.get(on.key, 0.0) >= 0.3]
    changes: dict[str, Any] = {}
    if showing and rng.random() < 0.6:
        changes["signs"] = [str(rng.choice(showing))]
    if rng.random() < 0.3:
        items = [
            SampleItemIn(food_key=on.key, count=int(rng.integers(3, 12))),
            SampleItemIn(food_key=foods[0].food.key, count=2),
        ]
        changes["sample"] = SampleIn(items=items[: 1 if items[0].food_key == items[1].food_key else 2], age_h=1.0)
    return payload.model_copy(update=changes)


def _choices(angler: User, picture: WaterPicture, rng: np.random.Generator) -> list[CastingIn]:
    """Return two or three presentations as the angler would choose them from a few of the lines."""
    lines = [vars(line) for line in items_of(Line, angler)]
    carried = [lines[i] for i in sorted(rng.choice(len(lines), size=4, replace=False))]
    leader = vars(items_of(Leader, angler)[int(rng.integers(0, 2)) if picture.conditions.bottom_depth_m > 5 else 2])
    fly = vars(items_of(Fly, angler)[int(rng.integers(0, 7))])
    given = given_for(picture, Box(lines=(), flies=()), WaterRules())
    scorer = Scorer(given, SCHOOLS["best"])
    point, tied = BoxFly(core_fly(fly)), core_leader(leader)
    water = water_for(picture)

    def worth(line: dict[str, Any], cast: Cast) -> float:
        rig = Rig(core_line(line), tied, (PlacedFly(point.fly),))
        return scorer.takes_ph(Option(METHODS["intermediate"], rig, (point,), cast), quick_exposure(rig, cast, water))

    tried = [(line, Cast(18.0, count_s, RETRIEVES[key])) for line in carried for count_s in COUNTS_S for key in RETRIEVED]
    best = sorted(tried, key=lambda one: -worth(*one))
    # The best cast of each line, the best line first.
    chosen = list({line["name"]: (line, cast) for line, cast in reversed(best)}.values())
    chosen.sort(key=lambda one: -worth(*one))
    return [
        CastingIn(
            rig=RigIn.model_validate({"line": line, "leader": leader, "flies": [{"fly": fly}]}),
            action=CastIn(
                kind="cast", cast_m=18.0, count_s=cast.count_s, retrieve_key=cast.retrieve.key,
                retrieve_mps=cast.retrieve.mean_mps,
            ),
        )
        for line, cast in chosen[: int(rng.integers(2, 4))]
    ]  # fmt: skip


def _promised(rank: int, truth: Truth, result: CastResult) -> AdviceIn:
    """Return what the plan would have said of it, not knowing the day's mood: a little too much, as plans are."""
    worth = truth.picture.belief.worth(result.fly_depth_m[0])
    takes_ph = TAKES_PER_HOUR * float((worth * np.diff(result.time_s, prepend=0.0)).sum() / result.duration_s)
    low, high = (round(takes_ph * share, 3) for share in MOOD)
    standing: Literal["best", "other"] = "other" if rank else "best"
    return AdviceIn(standing=standing, method_key="sinker", takes_ph=round(takes_ph, 3), low_ph=low, high_ph=high)


def _fish_presentation(
    angler: User,
    day_id: uuid.UUID,
    rank: int,
    chosen: CastingIn,
    truth: Truth,
    at: datetime,
    rng: np.random.Generator,
) -> datetime:
    """Fish one presentation for a number of casts; return when it ends."""
    cast = cast_of(chosen.action)
    result = simulate(rig_of(chosen.rig), cast, water_for(truth.picture, cast.cast_m))
    promised = _promised(rank, truth, result)
    logged = LoggedPresentationIn(**chosen.dict(), started_at=at, long_leader_ok=True, advice=promised)
    stored, _ = log.put_presentation(owner=angler, day_id=day_id, presentation_id=_uuid(rng), payload=logged)

    def note(kind: str, when: datetime, **more: Any) -> None:
        entry = EntryIn(presentation_id=stored.pk, kind=kind, at=when, **more)
        log.put_entry(owner=angler, day_id=day_id, entry_id=_uuid(rng), payload=entry)

    for _ in range(int(rng.integers(*CASTS_A_DAY)) // 2):
        note("cast", at)
        takes = truth.takes_of(result, rng)
        if takes:
            elapsed = round(takes[0], 1)
            outcome = str(rng.choice(["knock", "take", "lost", "landed"], p=[0.3, 0.15, 0.15, 0.4]))
            more: dict[str, Any] = {"cast_elapsed_s": elapsed}
            if outcome == "landed":
                more |= {"species": truth.picture.conditions.species.key, "length_m": round(float(rng.normal(0.40, 0.05)), 2)}
            note(outcome, at + timedelta(seconds=elapsed), **more)
            at += timedelta(seconds=elapsed + (180 if outcome == "landed" else 30))
        else:
            note("nothing", at + timedelta(seconds=result.duration_s))
            at += timedelta(seconds=result.duration_s + 15)
    return at + timedelta(minutes=6)


def _uuid(rng: np.random.Generator) -> uuid.UUID:
    return uuid.UUID(bytes=rng.bytes(16), version=4)


def season_summary(angler: User) -> str:
    days = [log.show_day(day) for day in log.days_of(angler)]
    landed = sum(day["counts"]["landed"] for day in days)
    casts = sum(day["counts"]["cast"] for day in days)
    return f"{Day.objects.filter(owner=angler).count()} days, {casts} casts, {landed} trout landed"

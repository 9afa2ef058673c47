"""Accounts made at random, for archives: everything that a person can have, in every shape that the store allows."""

from __future__ import annotations

import base64
import json
import random
import uuid
import zipfile
from datetime import datetime, timedelta, timezone
from typing import IO, Any

from lookback.models import Trial

from accounts.models import Preferences, User
from box.models import Float, Fly, Leader, Line, Rod, Spool
from days.models import Catch, Change, Day, Entry, Photo, Presentation
from instruments.models import Instrument, Measurement
from project.tests.people import CAST, FLY, LEADER, LINE, conditions, picture
from stillthread.api import ENTRY_KINDS
from waters.models import Mark, Survey, Water
from waters.soundings import packed

START = datetime(2024, 5, 1, 6, tzinfo=timezone.utc)
WORDS = ("øre", "=1+1", "<script>alert(1)</script>", 'a, b; "c"', "日の出", "", "'", "\n two lines")
SECTIONS = LEADER["sections"]


def _name(rng: random.Random, i: int) -> str:
    return f"{rng.choice(WORDS).strip() or 'name'} {i}"


def _moment(rng: random.Random) -> datetime:
    return START + timedelta(seconds=rng.random() * 6e7)


def _maybe(rng: random.Random, value: Any) -> Any:
    return value if rng.random() < 0.6 else None


def _water(rng: random.Random, owner: User, i: int) -> Water:
    water = Water.objects.create(
        owner=owner, name=_name(rng, i), latitude_deg=rng.uniform(-60, 68), longitude_deg=rng.uniform(-179, 179),
        altitude_m=rng.uniform(0, 3000), fetch_km=rng.uniform(0.1, 20), takes_factor=_maybe(rng, 0.7), notes=rng.choice(WORDS).strip(),
        rules=rng.choice(({}, {"most_flies": 3, "barbless": True}, {"opens": "04-01", "closes": "10-31"})),
        stocked=rng.choice(([], ["brown"])), time_zone=rng.choice(("UTC", "Europe/Oslo")),
    )  # fmt: skip
    for j in range(rng.randrange(3)):
        Mark.objects.create(water=water, name=_name(rng, j), latitude_deg=water.latitude_deg, longitude_deg=water.longitude_deg,
                            depth_m=_maybe(rng, 3.25), notes=rng.choice(WORDS).strip())  # fmt: skip
    if rng.random() < 0.5:
        points = [value for _ in range(4) for value in (water.longitude_deg, water.latitude_deg, rng.uniform(0, 20))]
        count, data = packed(points)
        Survey.objects.create(water=water, name="soundings", count=count, points=data, made_at=_moment(rng))
    return water


def _box(rng: random.Random, owner: User) -> None:
    for i in range(rng.randrange(1, 4)):
        line = Line.objects.create(
            owner=owner, name=_name(rng, i), class_key="type-3", number=rng.randrange(4, 9), sink_rate_mps=rng.uniform(0.05, 0.1),
            calibrated=rng.random() < 0.5, rate_spread=_maybe(rng, 0.04), label_mps=_maybe(rng, 0.07),
            looped=_maybe(rng, {"length_m": 3.0, "sink_rate_mps": 0.1}),
        )  # fmt: skip
        for _ in range(rng.randrange(3)):
            Trial.objects.create(line=line, at=_moment(rng), depth_m=4.0, elapsed_s=rng.uniform(30, 80), water_c=12.0,
                                 known_by="mark", undone_at=_maybe(rng, _moment(rng)))  # fmt: skip
    Leader.objects.create(owner=owner, name="mine", sections=SECTIONS, hardware=[{"kind": "swivel", "above_point_m": 1.0}])
    Fly.objects.create(owner=owner, name=rng.choice(WORDS).strip() or "fly", hook_size=12, foods=["midge-pupa"], left=3,
                       measured_sink_mps=_maybe(rng, -0.01))  # fmt: skip
    Rod.objects.create(owner=owner, name="9 ft", length_m=2.75)
    Float.objects.create(owner=owner, name="cork", kind="sliding", diameter_m=0.02)
    Spool.objects.create(owner=owner, name="thin", material="nylon", diameter_m=0.0002)


def _presentation(rng: random.Random, day: Day) -> Presentation:
    steps = rng.randrange(1, 30)
    return Presentation.objects.create(
        id=uuid.UUID(int=rng.getrandbits(128)), day=day, started_at=_moment(rng), device_at=_maybe(rng, _moment(rng)),
        received_at=_maybe(rng, _moment(rng)), conditions=day.conditions, line=LINE, leader=LEADER,
        flies=[{"fly": FLY, "above_point_m": 0.0}], action=CAST, low_m=1.0, high_m=2.5, path_s=[float(i) for i in range(steps)],
        path_depth_m=[rng.uniform(0, 9) for _ in range(steps)], path_spread_m=[0.1] * steps,
        told=_maybe(rng, {"worth": [0.5, 0.25], "light": 0.5, "surface_c": 14.2, "thermocline_m": _maybe(rng, 5.0)}),
        advice=_maybe(rng, {"standing": "best", "method_key": "sinker", "takes_ph": 1.5, "low_ph": 0.5, "high_ph": None}),
    )  # fmt: skip


def _entry(rng: random.Random, one: Presentation) -> Entry:
    kind = rng.choice(list(ENTRY_KINDS))
    fish: dict[str, Any] = {}
    if kind == "landed":
        fish = {"species": "rainbow", "length_m": _maybe(rng, 0.41), "weight_kg": _maybe(rng, 0.8), "kept": _maybe(rng, False)}
    low = rng.uniform(0, 5)
    return Entry.objects.create(
        id=uuid.UUID(int=rng.getrandbits(128)), presentation=one, kind=kind, at=_moment(rng), device_at=_maybe(rng, _moment(rng)),
        received_at=_maybe(rng, _moment(rng)), cast_elapsed_s=_maybe(rng, rng.uniform(0, 90)), depth_low_m=low,
        depth_high_m=low + 0.4, toward=_maybe(rng, -1) if kind == "cast" else None, undone_at=_maybe(rng, _moment(rng)), **fish,
    )  # fmt: skip


def _day(rng: random.Random, water: Water) -> None:
    at = _moment(rng)
    read = {**conditions(water), "at_local": at.strftime("%Y-%m-%dT%H:%M:%S"), "species": "rainbow"}
    day = Day.objects.create(id=uuid.UUID(int=rng.getrandbits(128)), owner=water.owner, water=water, at=at, conditions=read,
                             notes=rng.choice(WORDS), device_at=_maybe(rng, at), received_at=_maybe(rng, at))  # fmt: skip
    for _ in range(rng.randrange(3)):
        one = _presentation(rng, day)
        entries = [_entry(rng, one) for _ in range(rng.randrange(6))]
        for entry in entries:
            if entry.kind == "landed":
                jpeg = base64.b64decode(picture(40, 30))
                Photo.objects.create(entry=entry, jpeg=jpeg, width_px=40, height_px=30, kept_at=_moment(rng))
        for entry in entries[:1]:
            Change.objects.create(day=day, entry=entry, at=_moment(rng), before={"kind": "take"}, after={"kind": entry.kind})
    if rng.random() < 0.4:
        Change.objects.create(day=day, before={"notes": ""}, after={"notes": day.notes})
        Catch.objects.create(day=day, at=at, timed=True, count=2, species="sea run", length_m=0.5, fly="=cmd", notes="x")


def fill(owner: User, seed: int, least_days: int = 0) -> None:
    """Give a person an account made from this seed."""
    rng = random.Random(seed)
    Preferences.objects.filter(user=owner).update(depth_unit=rng.choice(("m", "ft")), theme="dusk", left_handed=True)
    waters = [_water(rng, owner, i) for i in range(rng.randrange(1, 4))]
    _box(rng, owner)
    sounder = Instrument.objects.create(owner=owner, name="Sounder", port=10110)
    for _ in range(rng.randrange(5)):
        Measurement.objects.create(instrument=sounder, at=_moment(rng), kind="wind", a=rng.uniform(0, 9), b=_maybe(rng, 200.0))
    for _ in range(least_days + rng.randrange(5)):
        _day(rng, rng.choice(waters))


def unpacked(file: IO[bytes]) -> dict[str, Any]:
    """Return what an archive holds, but for when it was written and for whom."""
    with zipfile.ZipFile(file) as archive:
        files: dict[str, Any] = {
            name: json.loads(archive.read(name)) if name.endswith(".json") else archive.read(name)
            for name in archive.namelist()
        }
    for name in ("written_at", "username"):
        files["archive.json"].pop(name)
    return files

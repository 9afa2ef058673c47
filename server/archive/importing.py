"""Take an archive in: what it would do first, then all of it or nothing."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterable
from contextlib import nullcontext
from typing import Any, Literal, TypeVar
from uuid import UUID

import orjson
from common.problems import Refused
from django.db import IntegrityError, transaction
from django.db.models import Model
from lake.models import WeatherDay
from lookback.models import Trial
from PIL import Image
from pydantic import BaseModel

from accounts.models import Preferences, User
from advice.action_schemas import RigIn
from advice.payloads import rig_of
from archive.exporting import BOX, FIELDS, Row, day_row, instrument_row, plain, water_row
from archive.found import Found
from archive.reading import Archive, Came, Fault
from archive.shapes import DayRow, EntryRow, InstrumentRow, SurveyRow, WaterRow
from archive.staging import TakenIds, clear_log, hand_over, stage
from box.models import Line, Owned
from box.services import core_box_fly, core_leader, core_line
from days.models import Catch, Change, Day, Entry, Photo, Presentation
from days.photos import LONGEST_PX, MOST_PHOTOS, made_small
from instruments.models import Instrument, Measurement
from stillthread.api import Plane, StillthreadError, read_outline
from waters.models import DepthMap, Mark, Survey, Water
from waters.services import check_water
from waters.soundings import MOST_SURVEYS, packed

Mode = Literal["merge", "replace"]
T = TypeVar("T", bound=BaseModel)


def _same(here: Row, came: Row) -> bool:
    """Return whether both say the same, as the archive writes it."""
    return bool(orjson.loads(orjson.dumps(here)) == orjson.loads(orjson.dumps(came)))


class ArchiveImport:
    """One archive on its way into one account."""

    def __init__(self, owner: User, archive: Archive, mode: Mode, tick: Callable[[int, int], None] = lambda *_: None) -> None:
        self.owner, self.archive, self.mode, self._tick = owner, archive, mode, tick
        self.store = False
        # Whose new rows are until all of them are here, and what belongs to rows that are here already and waits for that.
        self._to = owner
        self._late: list[Callable[[], object]] = []
        self._ids = TakenIds()
        self.found = Found(archive.head.username, archive.head.written_at.isoformat())
        self._waters: dict[UUID, Water | None] = {}
        self._done, self._of = 0, archive.files()
        self._photos = 0

    def look(self) -> Found:
        """Go through the archive and store nothing."""
        self.store = False
        self._all()
        return self.found

    def take(self, *, leave_out: bool) -> Found:
        """Store all of it, but for what is refused where that may be left out; or nothing. Nobody sees a part of it.

        It comes in file by file, each in a short transaction, so that nobody's log waits for it, and is nobody's until the last
        step makes all of it the owner's. What it replaces goes in the same step.
        """
        self.store = True
        try:
            with stage() as self._to, stage() if self.mode == "replace" else nullcontext(self._to) as goes:
                self._all()
                self._check_refused(leave_out)
                with transaction.atomic():
                    if self.mode == "replace":
                        self._clear(goes)
                    for write in self._late:
                        write()
                    hand_over(self._to, self.owner)
        except IntegrityError:
            raise Refused(
                422, "bad_archive", "The archive holds two of what there can be one of. Nothing was stored."
            ) from None
        return self.found

    def _check_refused(self, leave_out: bool) -> None:
        if self.found.refused and not leave_out:
            text = f"{self.found.refused} rows can't be taken. Leave them out, or take nothing."
            raise Refused(409, "rows_refused", text)

    def _write(self, here: object | None, write: Callable[[], object]) -> None:
        """Write now what is new, and with all the rest what belongs to something that is here."""
        if here is not None:
            self._late.append(write)
        else:
            write()

    def _clear(self, goes: User) -> None:
        """Let all that is here go, its log at once and the rest as `goes`'s, and give what came the ids of the log."""
        clear_log(self.owner)
        Instrument.objects.filter(owner=self.owner).update(on=False)
        hand_over(self.owner, goes)
        self._ids.give()
        told = self.archive.head.preferences
        Preferences.objects.update_or_create(user=self.owner, defaults=dict(told))

    def _all(self) -> None:
        with transaction.atomic() if self.store else nullcontext():
            self._box()
        self._each(self.archive.waters(), self._water)
        self._each(self.archive.surveys(), self._survey)
        self._each(self.archive.instruments(), self._instrument)
        self._each(self.archive.days(), self._day)

    def _each(self, files: Iterable[Came[T]], take: Callable[[T, Row], None]) -> None:
        for came in files:
            self._done += 1
            self._tick(self._done, self._of)
            if came.row is None:
                self.found.refuse(came.faults)
                continue
            try:
                with transaction.atomic() if self.store else nullcontext():
                    take(came.row, came.said)
            except StillthreadError as error:
                self.found.refuse([Fault(came.file, error.field or "", error.message)])
            except Refused as error:
                if error.status >= 500:
                    raise
                self.found.refuse([Fault(came.file, next(iter(error.fields), ""), error.detail)])

    def _here(self, rows: Any, **known: Any) -> Any | None:
        """Return the row that is here already; to `replace`, nothing is."""
        return None if self.mode == "replace" else rows.filter(**known).first()

    # Waters

    def _water(self, row: WaterRow, said: Row) -> None:
        values = _values(row, Water)
        check_water(Water(owner=self.owner, **values))
        plane = Plane(row.latitude_deg, row.longitude_deg)
        if row.outline is not None:
            read_outline(row.outline, plane)
        mine = Water.objects.filter(owner=self.owner)
        here: Water | None = self._here(mine, uid=row.uid) or self._here(mine, name=row.name)
        if here is None:
            self.found.new["waters"] += 1
            self._waters[row.uid] = Water.objects.create(owner=self._to, **values) if self.store else None
        else:
            kind = self.found.same if _same(water_row(here), said) else self.found.differs
            kind["waters"] += 1
            self._waters[row.uid] = here
        self._of_water(row, here, self._waters[row.uid])

    def _of_water(self, row: WaterRow, here: Water | None, water: Water | None) -> None:
        known = set(here.marks.values_list("uid", flat=True)) if here else set()
        named = set(here.marks.values_list("name", flat=True)) if here else set()
        marks = [one for one in row.marks if one.uid not in known and one.name not in named]
        self.found.new["marks"] += len(marks)
        self.found.same["marks"] += len(row.marks) - len(marks)
        known_days = (
            set(WeatherDay.objects.filter(water=here, source=WeatherDay.STATION).values_list("on", flat=True))
            if here
            else set()
        )
        days = [one for one in row.weather if one.on not in known_days]
        if row.weather:
            self.found.new["weather"] += len(days)
            self.found.same["weather"] += len(row.weather) - len(days)
        if self.store and water is not None:
            told = [WeatherDay(water=water, on=one.on, source=WeatherDay.STATION, hours=one.hours) for one in days]
            self._write(here, lambda: WeatherDay.objects.bulk_create(told, batch_size=100))
            new = [Mark(water=water, **_values(one, Mark)) for one in marks]
            self._write(here, lambda: Mark.objects.bulk_create(new))

    def _survey(self, row: SurveyRow, said: Row) -> None:
        if row.water not in self._waters:
            raise Refused(422, "no_water", "The archive does not hold the water of these soundings.")
        water = self._waters[row.water]
        if water is not None and water.surveys.filter(uid=row.uid).exists():
            self.found.same["surveys"] += 1
            return
        if water is not None and water.surveys.count() >= MOST_SURVEYS:
            raise Refused(422, "too_many", f"A water holds {MOST_SURVEYS} surveys.")
        self.found.new["surveys"] += 1
        if self.store:
            assert water is not None
            count, points = packed(row.points)
            survey = Survey(water=water, uid=row.uid, name=row.name, made_at=row.made_at, count=count, points=points)

            def write() -> None:
                survey.save(force_insert=True)
                DepthMap.objects.filter(water=water).delete()  # drawn anew when it is next looked at

            self._write(water if water.owner_id == self.owner.pk else None, write)

    # The box

    def _box(self) -> None:
        box, faults = self.archive.box()
        self._done += 1
        if faults:
            self.found.refuse(faults)
            return
        check: dict[str, Callable[[Row], object]] = {"lines": core_line, "leaders": core_leader, "flies": core_box_fly}
        for name, kind in BOX.items():
            mine = list(kind._default_manager.filter(owner=self.owner)) if self.mode == "merge" else []
            by_uid = {item.uid: item for item in mine}
            alike = {_content(plain(item)): item for item in mine}
            for row in getattr(box, name):
                values = _values(row, kind)
                try:
                    if name in check:
                        check[name](values)
                except StillthreadError as error:
                    self.found.refuse([Fault("box.json", f"{name}.{row.name}", error.message)])
                    continue
                here = by_uid.get(row.uid) or alike.get(_content(values))
                if here is None:
                    self.found.new["box"] += 1
                    here = kind._default_manager.create(owner=self._to, **values) if self.store else None
                else:
                    same = _content(plain(here)) == _content(values)
                    (self.found.same if same else self.found.differs)["box"] += 1
                if name == "lines":
                    self._trials(row.trials, here)

    def _trials(self, rows: list[Any], line: Owned | None) -> None:
        taken = dict(Trial.objects.filter(pk__in=[one.id for one in rows]).values_list("pk", "line__owner_id"))
        new = []
        for one in rows:
            if one.id not in taken or self._mine_to_go(taken[one.id]):
                new.append(one)
            elif taken[one.id] != self.owner.pk:
                self.found.refuse([Fault("box.json", f"trial {one.id}", "another person here has a trial with this id")])
            else:
                self.found.same["trials"] += 1
        self.found.new["trials"] += len(new)
        if self.store and new:
            assert isinstance(line, Line)
            made = [Trial(line=line, **{**one.model_dump(), "id": self._id(Trial, one.id)}) for one in new]
            self._write(line if line.owner_id == self.owner.pk else None, lambda: Trial.objects.bulk_create(made))

    def _mine_to_go(self, owner_id: int) -> bool:
        """Return whether a row is here only until it is replaced."""
        return self.mode == "replace" and owner_id == self.owner.pk

    def _named(self, row: BaseModel, kind: type[Model]) -> Row:
        """Return a row's values under the id that it has on its way in."""
        values = _values(row, kind)
        return {**values, "id": self._id(kind, values["id"])}

    def _id(self, kind: type[Model], wanted: UUID) -> UUID:
        return self._ids.meanwhile(kind, wanted) if self.mode == "replace" else wanted

    # Instruments

    def _instrument(self, row: InstrumentRow, said: Row) -> None:
        mine = Instrument.objects.filter(owner=self.owner)
        here = self._here(mine, uid=row.uid) or self._here(mine, name=row.name)
        if here is not None:
            same = _same(instrument_row(here), said)
            (self.found.same if same else self.found.differs)["instruments"] += 1
            return
        self.found.new["instruments"] += 1
        if self.store:
            made = Instrument(owner=self._to, **_values(row, Instrument))
            if made.on:
                # Nobody listens to it before it is somebody's.
                made.on = False
                self._late.append(lambda: Instrument.objects.filter(pk=made.pk).update(on=True))
            made.save(force_insert=True)
            rows = (Measurement(instrument=made, at=one.at, kind=one.kind, a=one.a, b=one.b) for one in row.measurements)
            Measurement.objects.bulk_create(rows, batch_size=2000)

    # Days

    def _day(self, row: DayRow, said: Row) -> None:
        if row.water not in self._waters:
            water = Water.objects.filter(owner=self.owner, uid=row.water).first() if self.mode == "merge" else None
            if water is None:
                self.found.refuse([Fault(f"days/{row.id}.json", "water", "the archive does not hold this day's water")])
                return
            self._waters[row.water] = water
        for one in row.presentations:
            rig_of(RigIn.model_validate({"line": one.line, "leader": one.leader, "flies": one.flies or [_BARE]}))
        known = Day.objects.filter(pk=row.id).select_related("water").first()
        if known and known.owner_id != self.owner.pk:
            raise Refused(409, "id_taken", "Another person here has a day with this id.")
        here = None if known and self._mine_to_go(known.owner_id) else known
        whose = self._others(row)
        if whose:
            raise Refused(409, "id_taken", whose)
        if here is None:
            self.found.new["days"] += 1
        else:
            same = _same(day_row(here), said)
            (self.found.same if same else self.found.differs)["days"] += 1
        self._of_day(row, here)

    def _others(self, row: DayRow) -> str:
        """Say what of a day has an id that is somebody else's here, or another day's."""
        entries = [entry.id for one in row.presentations for entry in one.entries]
        for kind, ids, path, word in (
            (Presentation, [one.id for one in row.presentations], "day", "something fished"),
            (Entry, entries, "presentation__day", "an entry"),
            (Catch, [one.id for one in row.catches], "day", "a catch"),
        ):
            if len(set(ids)) != len(ids):
                return f"Two of its rows ({word}) have one id."
            rows: Any = kind._default_manager.filter(pk__in=ids).exclude(**{f"{path}__pk": row.id})
            if self.mode == "replace":
                rows = rows.exclude(**{f"{path}__owner": self.owner})
            if rows.exists():
                return f"Another day here has {word} with the id of one of this day's."
        return ""

    def _of_day(self, row: DayRow, here: Day | None) -> None:
        entries = [(one, entry) for one in row.presentations for entry in one.entries]
        known_fished, known_entries, known_catches, known_changes, known_photos = (
            (
                set(Presentation.objects.filter(day=here).values_list("pk", flat=True)),
                set(Entry.objects.filter(presentation__day=here).values_list("pk", flat=True)),
                set(here.catches.values_list("pk", flat=True)),
                set(here.changes.values_list("uid", flat=True)),
                set(Photo.objects.filter(entry__presentation__day=here).values_list("pk", flat=True)),
            )
            if here
            else (set(), set(), set(), set(), set())
        )
        fished = [one for one in row.presentations if one.id not in known_fished]
        new = [(one, entry) for one, entry in entries if entry.id not in known_entries]
        catches = [one for one in row.catches if one.id not in known_catches]
        self.found.new["entries"] += len(new)
        self.found.same["entries"] += len(entries) - len(new)
        self.found.new["catches"] += len(catches)
        self.found.same["catches"] += len(row.catches) - len(catches)
        photos = [entry for _, entry in entries if entry.photo and entry.id not in known_photos]
        pictures = self._pictures(row, photos)
        if not self.store:
            return
        water = self._waters[row.water]
        assert water is not None
        day = here or Day.objects.create(
            owner=self._to, water=water, conditions=_there(row.conditions, water), **self._named(row, Day)
        )
        changes = [
            Change(
                day=day,
                entry_id=one.entry and self._id(Entry, one.entry),
                uid=one.uid,
                at=one.at,
                before=one.before,
                after=one.after,
            )
            for one in row.changes
            if one.uid not in known_changes
        ]

        def write() -> None:
            Presentation.objects.bulk_create(
                Presentation(day=day, conditions=_there(one.conditions, day.water), **self._named(one, Presentation))
                for one in fished
            )
            Entry.objects.bulk_create(
                (Entry(presentation_id=self._id(Presentation, one.id), **self._named(entry, Entry)) for one, entry in new),
                batch_size=500,
            )
            Catch.objects.bulk_create(Catch(day=day, **self._named(one, Catch)) for one in catches)
            Photo.objects.bulk_create(pictures)
            Change.objects.bulk_create(changes)
            if here and (fished or new or catches):
                Day.objects.filter(pk=here.pk).update(tallied=False)

        if here is None or fished or new or catches or pictures or changes:
            self._write(here, write)

    def _pictures(self, row: DayRow, entries: list[EntryRow]) -> list[Photo]:
        """Return the pictures of these entries as they are to be kept; what is no picture is refused, the day is not."""
        made = []
        for entry in entries:
            where = f"photos/{entry.id}.jpg"
            assert entry.photo is not None
            self._photos += 1
            try:
                if self._photos > MOST_PHOTOS:
                    raise Refused(422, "too_many", f"An account has room for {MOST_PHOTOS} pictures.")
                data = self.archive.photo(entry.id)
                if data is None:
                    raise Refused(422, "missing", "The archive does not hold this picture.")
                jpeg, width, height = _bare(data)
            except Refused as error:
                self.found.refuse([Fault(where, f"day {row.id}", error.detail)])
                continue
            self.found.new["photos"] += 1
            of = self._id(Entry, entry.id)
            made.append(Photo(entry_id=of, jpeg=jpeg, width_px=width, height_px=height, kept_at=entry.photo.kept_at))
        return made


_BARE = {"fly": {"name": "none", "hook_size": 12}}
"""Tied on in thought where a rig was logged without a fly, so that the rest of it can be checked."""


def _values(row: Any, kind: type[Model]) -> Row:
    return {name: _plainly(getattr(row, name)) for name in FIELDS[kind]}


def _plainly(value: Any) -> Any:
    return value.model_dump() if hasattr(value, "model_dump") else value


def _content(values: Row) -> bytes:
    """Return all that a thing of the box is but its id."""
    return orjson.dumps({name: value for name, value in values.items() if name != "uid"}, option=orjson.OPT_SORT_KEYS)


def _there(conditions: Row, water: Water) -> Row:
    return {"water_id": water.pk, **conditions}


def _bare(data: bytes) -> tuple[bytes, int, int]:
    """Return a picture as this server would have kept it: as it is where it is so already, else made anew."""
    try:
        with Image.open(io.BytesIO(data), formats=("JPEG",)) as image:
            fits = max(image.size) <= LONGEST_PX and image.mode == "RGB" and not set(image.info) - _OF_A_BARE_JPEG
            if fits:
                image.load()
                return data, image.width, image.height
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError, Image.DecompressionBombWarning):
        pass
    return made_small(data)


_OF_A_BARE_JPEG = {"jfif", "jfif_version", "jfif_unit", "jfif_density", "dpi", "progressive", "progression"}

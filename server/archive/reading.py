"""Read an archive that came from anywhere: what is no archive, or too much of one, is refused before it is unpacked."""

from __future__ import annotations

import re
import stat
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from typing import IO, Any, Generic, TypeVar
from uuid import UUID

import orjson
from common.problems import Refused
from common.speeds import in_mps
from common.texts import SAID, may_hold, unstorable
from pydantic import BaseModel, ValidationError

from archive.shapes import FORMAT, VERSION, BoxRow, DayRow, HeadRow, InstrumentRow, SurveyRow, WaterRow

SPEEDS_IN_MPS_FROM = 2  # the version that names them so
MOST_FILES = 40_000
LARGEST_JSON = 48_000_000  # of soundings, or of what an instrument measured
LARGEST_DAY = 4_000_000
LARGEST_WATER = 12_000_000  # ten years of a station's weather
LARGEST_PHOTO = 3_000_000
MOST_BYTES = 2_000_000_000
MOST_TIMES = 200  # JSON packs to a tenth, or a thirtieth; what unpacks to more is made to fill memory
_LARGEST = {"waters/": LARGEST_WATER, "photos/": LARGEST_PHOTO, "surveys/": LARGEST_JSON, "instruments/": LARGEST_JSON}
_UID = r"[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}"
_NAME = re.compile(
    rf"(archive|box|schema)\.json|README\.txt|(waters|surveys|instruments|days)/({_UID})\.json|photos/({_UID})\.jpg"
)
T = TypeVar("T", bound=BaseModel)


def refused(text: str, code: str = "bad_archive") -> Refused:
    return Refused(422, code, text, {"archive": text})


@dataclass(frozen=True)
class Fault:
    """Why a file of the archive is not taken: which, where in it, and what is wrong."""

    file: str
    where: str
    why: str


@dataclass(frozen=True)
class Came(Generic[T]):
    """A file as it came: what it is read as, none where that can't be; what it says; and its faults."""

    file: str
    row: T | None
    said: Any
    faults: list[Fault]


class Archive:
    """An archive opened to be read, one file at a time."""

    def __init__(self, file: IO[bytes]) -> None:
        try:
            self._zip = zipfile.ZipFile(file)
            members = self._zip.infolist()
        except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError, OverflowError, UnicodeDecodeError):
            raise refused("This is no zip file, or a damaged one.") from None
        if len(members) > MOST_FILES:
            raise refused(f"The archive has {len(members)} files. The most is {MOST_FILES}.")
        self.unpacked_bytes = sum(member.file_size for member in members)
        self._members = {member.filename: member for member in members}
        if len(self._members) != len(members):
            raise refused("The archive has two files of one name.")
        for member in members:
            self._check(member)
        if self.unpacked_bytes > MOST_BYTES:
            raise refused(f"The archive unpacks to more than {MOST_BYTES // 1_000_000} MB.")
        if "archive.json" not in self._members:
            raise refused("This zip holds no archive.json: it is not an archive of Still Thread.")
        self.head = self._head()

    def _check(self, member: zipfile.ZipInfo) -> None:
        name = member.filename
        mode = member.external_attr >> 16
        if stat.S_ISLNK(mode):
            raise refused(f"{name[:80]!r} is a link. An archive holds files only.")
        if not _NAME.fullmatch(name):
            raise refused(f"{name[:80]!r} does not belong into an archive.")
        if member.flag_bits & 1:
            raise refused("The archive is locked with a password. Unlock it first.")
        most = next((most for folder, most in _LARGEST.items() if name.startswith(folder)), LARGEST_DAY)
        if member.file_size > most:
            raise refused(f"{name} unpacks to {member.file_size / 1e6:.1f} MB. The most is {most // 1_000_000} MB.")
        if member.file_size > 1_000_000 and member.file_size > MOST_TIMES * max(member.compress_size, 1):
            raise refused(f"{name} unpacks to {member.file_size // max(member.compress_size, 1)} times its size.")

    def _bytes(self, name: str) -> bytes:
        member = self._members[name]
        try:
            with self._zip.open(member) as file:
                # No more than it says it has, whatever it says.
                data = file.read(member.file_size + 1)
        except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError, RuntimeError, EOFError):
            raise refused(f"{name} is damaged.") from None
        except Exception as error:  # a broken stream raises its codec's own
            if type(error).__module__ in {"zlib", "lzma", "_lzma"}:
                raise refused(f"{name} is damaged.") from None
            raise
        if len(data) != member.file_size:
            raise refused(f"{name} is not as long as it says.")
        return data

    def _head(self) -> HeadRow:
        data = self._json("archive.json")
        if isinstance(data, dict) and data.get("format") == FORMAT:
            version = data.get("version")
            if isinstance(version, int) and version > VERSION:
                raise refused("This archive was written by a newer Still Thread. Bring this one up to date first.", "newer")
        head, faults = self._row("archive.json", HeadRow, data)
        if head is None:
            raise refused(f"archive.json: {faults[0].where}: {faults[0].why}")
        return head

    def _json(self, name: str) -> Any:
        data = self._bytes(name)
        try:
            said = orjson.loads(data)
        except orjson.JSONDecodeError:
            return None
        if may_hold(data) and unstorable(said) is not None:
            raise refused(f"{name}: {SAID}")
        return said

    def _of_now(self, name: str) -> Any:
        """Return a file as today's version would have written it."""
        data = self._json(name)
        try:
            return in_mps(data) if self.head.version < SPEEDS_IN_MPS_FROM else data
        except RecursionError:
            return data

    def _row(self, name: str, kind: type[T], data: Any) -> tuple[T | None, list[Fault]]:
        if not isinstance(data, dict):
            return None, [Fault(name, "", "this is no JSON object")]
        try:
            return kind.model_validate(data), []
        except ValidationError as error:
            found = error.errors(include_url=False, include_context=False, include_input=False)
            faults = [
                Fault(name, ".".join(map(str, one["loc"])), str(one["msg"]).removeprefix("Value error, ")) for one in found[:5]
            ]
            return None, faults
        except RecursionError:
            return None, [Fault(name, "", "this is nested too deeply")]

    def _names(self, folder: str) -> list[str]:
        return [name for name in self._members if name.startswith(f"{folder}/")]

    def _rows(self, folder: str, kind: type[T]) -> Iterator[Came[T]]:
        for name in self._names(folder):
            said = self._of_now(name)
            row, faults = self._row(name, kind, said)
            told = name.rsplit("/", 1)[1].removesuffix(".json")
            key = getattr(row, "uid", None) or getattr(row, "id", None)
            if row is not None and str(key) != told:
                row, faults = None, [Fault(name, "uid", "the file has another name than what is in it")]
            yield Came(name, row, said, faults)

    def box(self) -> tuple[BoxRow, list[Fault]]:
        empty = BoxRow(lines=[], leaders=[], flies=[], rods=[], floats=[], spools=[])
        if "box.json" not in self._members:
            return empty, []
        row, faults = self._row("box.json", BoxRow, self._of_now("box.json"))
        return row or empty, faults

    def waters(self) -> Iterator[Came[WaterRow]]:
        return self._rows("waters", WaterRow)

    def surveys(self) -> Iterator[Came[SurveyRow]]:
        return self._rows("surveys", SurveyRow)

    def instruments(self) -> Iterator[Came[InstrumentRow]]:
        return self._rows("instruments", InstrumentRow)

    def days(self) -> Iterator[Came[DayRow]]:
        return self._rows("days", DayRow)

    def photo(self, entry_id: UUID) -> bytes | None:
        name = f"photos/{entry_id}.jpg"
        return self._bytes(name) if name in self._members else None

    def files(self) -> int:
        return sum(len(self._names(folder)) for folder in ("waters", "surveys", "instruments", "days")) + 1

    def photos(self) -> int:
        return len(self._names("photos"))

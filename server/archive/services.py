"""Archives out and back in: written to a file that is sent, and taken in part by part until the whole of it is here."""

from __future__ import annotations

import errno
import shutil
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from pathlib import Path
from typing import IO, Any
from uuid import UUID

from common.problems import Refused
from django.conf import settings
from django.core.cache import cache
from django.db import transaction
from django.db.models import Sum
from django.shortcuts import get_object_or_404
from django.utils import timezone

from accounts.models import User
from accounts.services import own_only
from archive.exporting import write_archive
from archive.importing import ArchiveImport, Mode
from archive.models import Restore
from archive.reading import Archive

MOST_BYTES = 1_000_000_000
MOST_PART = 16_000_000
LEFT_FREE = 500_000_000
"""Of the disk: an archive must not take the room that the log needs."""
WAITS = timedelta(days=2)
PROGRESS_S = 3600


def archive_of(owner: User) -> IO[bytes]:
    """Return the person's archive as an open file that goes when it is closed."""
    file = tempfile.TemporaryFile()  # noqa: SIM115 - whoever sends it closes it
    try:
        write_archive(owner, file)
    except OSError as error:
        file.close()
        raise _no_room(error) from None
    except BaseException:
        file.close()
        raise
    file.seek(0)
    return file


def _no_room(error: OSError) -> Exception:
    if error.errno in {errno.ENOSPC, errno.EDQUOT, errno.EFBIG}:
        return Refused(507, "disk_full", "The server's disk has no room for an archive. Tell its keeper.")
    return error


def _path(restore: Restore) -> Path:
    return Path(settings.KEPT_DIR) / f"{restore.pk}.zip"


def restore_of(owner: User, restore_id: UUID) -> Restore:
    return get_object_or_404(Restore, pk=restore_id, owner=owner)


def begin(owner: User, size: int) -> Restore:
    """Make ready for an archive of so many bytes; another that waited goes."""
    if size > MOST_BYTES:
        text = f"The archive is larger than {MOST_BYTES // 1_000_000} MB."
        raise Refused(413, "too_big", text, {"size": text})
    folder = Path(settings.KEPT_DIR)
    folder.mkdir(parents=True, exist_ok=True)
    with transaction.atomic():
        User.objects.select_for_update().get(pk=owner.pk)  # two at once of one person come one after the other
        before = list(Restore.objects.filter(owner=owner))
        for one in before:
            one.delete()
        promised = Restore.objects.aggregate(size=Sum("size"), came=Sum("came"))
        # What others announced and is still to come has its room already.
        others = (promised["size"] or 0) - (promised["came"] or 0)
        _check_room(size + others - sum(one.came for one in before))
        restore = Restore.objects.create(owner=owner, size=size)
    for one in before:
        _path(one).unlink(missing_ok=True)
    return restore


def _check_room(size: int) -> None:
    if shutil.disk_usage(settings.KEPT_DIR).free < size + LEFT_FREE:
        raise Refused(507, "disk_full", "The server's disk has no room for this archive. Tell its keeper.")


def add_part(restore: Restore, offset: int, data: bytes) -> Restore:
    """Add bytes at `offset`; a part that is here already changes nothing."""
    if len(data) > MOST_PART:
        raise Refused(413, "too_big", f"Send parts of up to {MOST_PART // 1_000_000} MB.")
    with transaction.atomic():
        now = Restore.objects.select_for_update().get(pk=restore.pk)
        if offset + len(data) <= now.came:
            return now
        if offset != now.came or offset + len(data) > now.size:
            raise Refused(409, "wrong_part", f"The part belongs at byte {now.came} of {now.size}.")
        _check_room(len(data))
        try:
            with _path(now).open("r+b" if _path(now).exists() else "w+b") as file:
                file.seek(offset)
                file.write(data)
                file.truncate()
        except OSError as error:
            raise _no_room(error) from None
        now.came = offset + len(data)
        now.found = None
        now.save(update_fields=["came", "found"])
    return now


@contextmanager
def _opened(restore: Restore) -> Iterator[Archive]:
    if restore.came < restore.size:
        raise Refused(409, "incomplete", f"{restore.came} of {restore.size} bytes came. Send the rest first.")
    try:
        with _path(restore).open("rb") as file:
            yield Archive(file)
    except FileNotFoundError:
        raise Refused(409, "incomplete", "The archive is not here any more. Send it again.") from None


def _ticks(restore: Restore) -> Callable[[int, int], None]:
    def tick(done: int, of: int) -> None:
        if done % 8 == 0 or done == of:
            cache.set(f"restore:{restore.pk}", (done, of), PROGRESS_S)

    return tick


def progress(restore: Restore) -> tuple[int, int]:
    """Return how many files of the archive are done with, and of how many."""
    done, of = cache.get(f"restore:{restore.pk}", (0, 0))
    return int(done), int(of)


def look(owner: User, restore: Restore, mode: Mode) -> dict[str, Any]:
    """Return what taking it in would do."""
    with _opened(restore) as archive:
        found = ArchiveImport(owner, archive, mode, _ticks(restore)).look().shown()
    Restore.objects.filter(pk=restore.pk).update(found={"mode": mode, **found})
    return found


def take(owner: User, restore: Restore, mode: Mode, *, leave_out: bool) -> dict[str, Any]:
    """Take it in, all or nothing; then it is done with."""
    if mode == "replace":
        own_only(owner)
    with _opened(restore) as archive:
        _check_room(archive.unpacked_bytes)
        found = ArchiveImport(owner, archive, mode, _ticks(restore)).take(leave_out=leave_out).shown()
    drop(restore)
    return found


def drop(restore: Restore) -> None:
    path = _path(restore)
    restore.delete()
    path.unlink(missing_ok=True)


def tidy() -> int:
    """Let archives go that waited too long, and files that belong to none; return how many went."""
    old = list(Restore.objects.filter(begun_at__lt=timezone.now() - WAITS))
    for restore in old:
        drop(restore)
    known = {f"{pk}.zip" for pk in Restore.objects.values_list("pk", flat=True)}
    strays = [path for path in Path(settings.KEPT_DIR).glob("*.zip") if path.name not in known]
    for path in strays:
        path.unlink(missing_ok=True)
    return len(old) + len(strays)

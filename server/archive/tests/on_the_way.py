"""An archive of an account as a file, changed on the way, and taken in."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable

from accounts.models import User
from archive.exporting import write_archive
from archive.found import Found
from archive.importing import ArchiveImport, Mode
from archive.reading import Archive


def written(owner: User) -> io.BytesIO:
    file = io.BytesIO()
    write_archive(owner, file)
    file.seek(0)
    return file


def taken(owner: User, file: io.BytesIO, mode: Mode, *, leave_out: bool = False) -> Found:
    file.seek(0)
    return ArchiveImport(owner, Archive(file), mode).take(leave_out=leave_out)


def changed(file: io.BytesIO, change: Callable[[dict[str, bytes]], None]) -> io.BytesIO:
    """Return an archive with its files changed."""
    with zipfile.ZipFile(file) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    change(files)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data, zipfile.ZIP_STORED if name.startswith("photos/") else None)
    out.seek(0)
    return out

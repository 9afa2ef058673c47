"""Copies of the whole store, made while it is written to, and brought back in one step."""

from __future__ import annotations

import os
import re
import sqlite3
from collections.abc import Iterable
from contextlib import closing
from datetime import datetime, timezone
from pathlib import Path

from common.in_use import alone_with, store_file
from django.conf import settings
from django.db import connection
from django.db.migrations.loader import MigrationLoader

DAYS, MONTHS = 14, 12
COPY_OLD_H = 36.0
_NAME = re.compile(r"still-thread-(\d{8}T\d{6})Z\.sqlite3")


class NoCopy(Exception):
    """Why a copy can't be made or brought back."""


def store_path() -> Path:
    """Return the file of the store; another kind of store has its own tools."""
    store = store_file()
    if store is None:
        raise NoCopy("This store is no SQLite file. Copy it with its own tools: see docs/hosting.md.")
    return store


def back_up(folder: Path, now: datetime | None = None) -> Path:
    """Copy the store as it is at one moment, look whether the copy is whole, and let old ones go; return the new one."""
    store = store_path()
    if not store.is_file():
        raise NoCopy(f"There is no store at {store.name}.")
    name = f"still-thread-{now or datetime.now(timezone.utc):%Y%m%dT%H%M%SZ}.sqlite3"
    part, whole = folder / f".{name}.part", folder / name
    try:
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        part.unlink(missing_ok=True)
        with closing(_opened(store)) as source, closing(sqlite3.connect(part)) as copy:
            # In one go: a reader of a write-ahead log keeps no writer waiting; in steps it would begin anew with each write.
            source.backup(copy, pages=-1)
            copy.execute("PRAGMA journal_mode=DELETE")
        part.chmod(0o600)
        _check_whole(part)
        with part.open("rb") as file:
            os.fsync(file.fileno())
        part.replace(whole)
    except (sqlite3.Error, OSError) as error:
        part.unlink(missing_ok=True)
        raise NoCopy(f"The copy could not be made: {error}") from None
    for old in too_old(path.name for path in folder.iterdir()):
        (folder / old).unlink(missing_ok=True)
    return whole


def newest_copy_h(folder: Path, now: datetime | None = None) -> float | None:
    """Return how old the newest copy is [h]; None where there is none."""
    try:
        made = [found[1] for found in map(_NAME.fullmatch, os.listdir(folder)) if found]
    except OSError:
        return None
    if not made:
        return None
    newest = datetime.strptime(max(made), "%Y%m%dT%H%M%S").replace(tzinfo=timezone.utc)
    return round(((now or datetime.now(timezone.utc)) - newest).total_seconds() / 3600.0, 1)


def copy_is_late(old_h: float | None) -> bool:
    """Return whether last night's copy should be there and is not; nobody makes one of a store on one's own machine."""
    return not settings.LOCAL and connection.vendor == "sqlite" and (old_h is None or old_h > COPY_OLD_H)


def too_old(names: Iterable[str]) -> list[str]:
    """Return the copies that may go: all but the newest of each of the last days, and of each of the last months."""
    copies = sorted((name for name in names if _NAME.fullmatch(name)), reverse=True)
    kept: set[str] = set()
    for length, most in ((8, DAYS), (6, MONTHS)):
        newest: dict[str, str] = {}
        for name in copies:
            newest.setdefault(name.removeprefix("still-thread-")[:length], name)
        kept |= {newest[period] for period in sorted(newest, reverse=True)[:most]}
    return [name for name in copies if name not in kept]


People = dict[tuple[int, str], str]
"""Who has an account, by number and name, and the digest of the password."""


def bring_back(copy: Path, safe_folder: Path) -> tuple[Path, People | None]:
    """Put a copy in the place of what the store holds, in one transaction, while nobody works with it; return where what it
    held before was copied to, and who had an account until then: none where that was another store, as one laid anew after the
    first was lost, which tells nothing of who has gone.

    Nothing that is acknowledged meanwhile can be lost: a server is refused the store, or stands in the way.
    """
    store = store_path()
    if not copy.is_file():
        raise NoCopy(f"There is no copy at {copy}.")
    try:
        _check_whole(copy)
        _check_known(copy)
    except sqlite3.Error as error:
        raise NoCopy(f"{copy.name} is no copy of a store: {error}") from None
    with alone_with(store) as alone:
        if not alone:
            raise NoCopy(
                "A server works with this store: what is logged meanwhile would be lost. Stop it first:"
                " systemctl stop 'still-thread@*' still-thread-listener"
            )
        before = back_up(safe_folder / "before-restore")
        people = _people_of(store) if _begun(store) == _begun(copy) else None
        try:
            with closing(_opened(copy)) as source, closing(sqlite3.connect(store, timeout=30.0)) as target:
                source.backup(target, pages=-1)
        except sqlite3.Error as error:
            raise NoCopy(f"The store could not be written: {error}. It holds what it held.") from None
    return before, people


def _begun(path: Path) -> str:
    """Return when a store was first laid, which its copies share and no other store does."""
    with closing(_opened(path)) as opened:
        return str(opened.execute("SELECT min(applied) FROM django_migrations").fetchone()[0])


def _people_of(store: Path) -> People:
    with closing(_opened(store)) as opened:
        found = opened.execute("SELECT id, username, password FROM accounts_user").fetchall()
    return {(pk, username): password for pk, username, password in found}


def _opened(path: Path) -> sqlite3.Connection:
    return sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True, timeout=30.0)


def _check_whole(path: Path) -> None:
    with closing(_opened(path)) as copy:
        (said,) = copy.execute("PRAGMA integrity_check(1)").fetchone()
    if said != "ok":
        raise NoCopy(f"{path.name} is damaged: {said}")


def _check_known(path: Path) -> None:
    """Refuse a copy of a newer version: this one could not read it."""
    with closing(_opened(path)) as copy:
        applied = set(copy.execute("SELECT app, name FROM django_migrations").fetchall())
    known = set(MigrationLoader(None).disk_migrations)
    own = {app for app, _ in known}
    if any(app in own and (app, name) not in known for app, name in applied):
        raise NoCopy(f"{path.name} was made by a newer version. Bring this one up to date first.")

"""Whether anybody works with the store: a copy is brought back only while nobody does."""

from __future__ import annotations

import contextlib
import fcntl
from collections.abc import Iterator
from pathlib import Path
from typing import IO

from django.db import connection


def store_file() -> Path | None:
    """Return the file of the store; none of another kind of store, which has its own tools."""
    return Path(connection.settings_dict["NAME"]) if connection.vendor == "sqlite" else None


def _beside(store: Path) -> Path:
    return store.with_name(f"{store.name}.in-use")


def work_with_store() -> IO[str] | None:
    """Say that this process works with the store, until what is returned is closed or the process ends."""
    store = store_file()
    if store is None:
        return None
    file = _beside(store).open("w")
    fcntl.flock(file, fcntl.LOCK_SH)
    return file


@contextlib.contextmanager
def alone_with(store: Path) -> Iterator[bool]:
    """Keep others from the store meanwhile; false where some work with it already."""
    with _beside(store).open("w") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            yield False
            return
        yield True

"""Rewrite JSON columns of a whole table, for migrations: a row at a time is read, and only what changes is written."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

AT_ONCE = 200


def rewrite(model: Any, columns: Sequence[str], change: Callable[[Any], Any]) -> None:
    """Put each value of `columns` through `change`."""
    waiting: list[Any] = []

    def write() -> None:
        model.objects.bulk_update(waiting, columns)
        waiting.clear()

    for row in model.objects.only("pk", *columns).iterator(chunk_size=AT_ONCE):
        new = {column: change(getattr(row, column)) for column in columns}
        if any(new[column] != getattr(row, column) for column in columns):
            for column, value in new.items():
                setattr(row, column, value)
            waiting.append(row)
        if len(waiting) >= AT_ONCE:
            write()
    if waiting:
        write()

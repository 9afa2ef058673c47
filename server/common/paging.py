"""Pages of a list: {items, count}, at most 200 at a time."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any, TypeVar

from django.db.models import Model, QuerySet
from ninja import Query

T = TypeVar("T", bound=Model)
Limit = Annotated[int, Query(ge=1, le=200)]
Offset = Annotated[int, Query(ge=0, le=1_000_000)]


def page(rows: QuerySet[T], limit: int, offset: int, show: Callable[[T], Any] = lambda row: row) -> dict[str, Any]:
    """Return one page of `rows`, each passed through `show`."""
    return {"items": [show(row) for row in rows[offset : offset + limit]], "count": rows.count()}

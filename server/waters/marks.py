"""Marks: places of a water that were given a name."""

from __future__ import annotations

from typing import Any

import numpy as np
from common.problems import Refused
from django.db import IntegrityError, transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from stillthread.api import BadInput, Outline
from stillthread.api import Mark as CoreMark
from waters.models import Mark, Water
from waters.outlines import outline_of, plane_of

MOST_MARKS = 200


def marks_of(water: Water) -> QuerySet[Mark]:
    return Mark.objects.filter(water=water)


def mark_of(water: Water, mark_id: int) -> Mark:
    return get_object_or_404(Mark, pk=mark_id, water=water)


def core_mark(m: Mark) -> CoreMark:
    return CoreMark(
        name=m.name,
        kind_key=m.kind_key,
        latitude_deg=m.latitude_deg,
        longitude_deg=m.longitude_deg,
        depth_m=m.depth_m,
        notes=m.notes,
    )


def core_marks(water: Water) -> list[CoreMark]:
    return [core_mark(m) for m in marks_of(water)[:MOST_MARKS]]


def save_mark(*, mark: Mark, changes: dict[str, Any], outline: Outline | None = None) -> Mark:
    """Store a new or changed mark; refuse one far from the water or of a name used before. `outline`: the water's, if read."""
    for name, value in changes.items():
        setattr(mark, name, value)
    core_mark(mark)  # refused by the core where it can't be
    _check_near(mark, outline or outline_of(mark.water))
    if mark.pk is None and marks_of(mark.water).count() >= MOST_MARKS:
        raise BadInput(f"A water holds {MOST_MARKS} marks.", field="name")
    try:
        with transaction.atomic():
            mark.save()
    except IntegrityError:
        text = "This water has a mark of that name."
        raise Refused(409, "name_taken", text, {"name": text}) from None
    return mark


def _check_near(mark: Mark, outline: Outline | None) -> None:
    xy = plane_of(mark.water).to_xy([mark.longitude_deg, mark.latitude_deg])[0]
    if outline is not None:
        outline.in_water(xy)
    elif float(np.linalg.norm(xy)) > 50_000.0:
        text = f"The mark lies {float(np.linalg.norm(xy)) / 1000.0:.0f} km from the water. Are latitude and longitude swapped?"
        raise BadInput(text, field="latitude_deg")

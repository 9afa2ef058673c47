"""Ask and score drills."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from common.problems import Refused
from django.db import transaction
from django.shortcuts import get_object_or_404

from accounts.models import User
from advice.serializers import show_phrase
from practice.models import Drill
from stillthread.api import DRILL_KINDS, ask_drill, score_drill

MOST_DRILLS = 5000


def make_drill(owner: User, kind: str) -> Drill:
    if Drill.objects.filter(owner=owner).count() >= MOST_DRILLS:
        raise Refused(409, "too_many", f"There are {MOST_DRILLS} drills.")
    drill = Drill(owner=owner, kind=kind)
    drill.seed = str(drill.pk)
    drill.save()
    return drill


@transaction.atomic
def answer_drill(owner: User, drill_id: UUID, answer: float) -> Drill:
    """Score an answer; the first one counts."""
    drill = get_object_or_404(Drill.objects.select_for_update(), pk=drill_id, owner=owner)
    if drill.points is None:
        drill.points, drill.answer = score_drill(drill.kind, drill.seed, answer).points, answer
        drill.save(update_fields=["points", "answer"])
    return drill


def show_drill(drill: Drill) -> dict[str, Any]:
    question = ask_drill(drill.kind, drill.seed)
    scored = None if drill.answer is None else score_drill(drill.kind, drill.seed, drill.answer)
    return {
        **{name: getattr(drill, name) for name in ("id", "kind", "created_at", "points")},
        "name": DRILL_KINDS[drill.kind],
        "words": show_phrase(question.words),
        "unit": question.unit,
        "choices": list(question.choices),
        "told": None if scored is None else show_phrase(scored.words),
    }

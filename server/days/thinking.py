"""Think with a day's log: what goes to the water with a plan, where they feed by now, and what to do next."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Mapping
from dataclasses import asdict, replace
from datetime import datetime
from itertools import pairwise
from typing import Any

from django.db.models import Max, Min

from accounts.models import User
from advice import choices
from advice.choice_schemas import ChoicesIn
from advice.search_schemas import MovesIn, SearchTableIO
from days.models import Day, Entry, Presentation
from days.services import done_of, path_of
from stillthread.api import DEPTH_TOLD, Change, Table, Tackle, Thinker, as_json, change_between, learnt, met_of, read_log
from stillthread.api import Presentation as SearchPresentation

_thinkers: OrderedDict[str, tuple[str, Thinker]] = OrderedDict()
_thinking = threading.Lock()
MOST_THINKERS = 10  # some six megabytes each


def make_search(owner: User, payload: ChoicesIn) -> dict[str, Any]:
    """Return what goes to the water with a plan, with what changes cost this angler."""
    made = choices.make_search(owner, payload)
    return {**made, "table": {**made["table"], "costs": asdict(learnt(changes_of(owner)))}}


MOST_CHANGES = 300


def changes_of(owner: User) -> list[Change]:
    """Return what this angler changed between two casts of a day and how long it took, the latest `MOST_CHANGES`."""
    fished = Presentation.objects.filter(day__owner=owner).order_by("-started_at", "-id")[:MOST_CHANGES]
    casts = Entry.objects.filter(presentation__in=list(fished.values_list("pk", flat=True)), undone_at=None)
    spans = {
        one["presentation"]: (one["first"], one["last"])
        for one in casts.values("presentation").annotate(first=Min("at"), last=Max("at"))
    }
    found: list[Change | None] = []
    for after, before in pairwise(fished):
        if before.day_id == after.day_id and before.pk in spans and after.pk in spans:
            minutes = (spans[after.pk][0] - spans[before.pk][1]).total_seconds() / 60.0
            found.append(change_between(_tackle(before), _tackle(after), minutes))
    return [change for change in found if change is not None]


def _tackle(one: Presentation) -> Tackle:
    flies = tuple(placed["fly"]["name"] for placed in one.flies)
    return Tackle(one.line["name"], flies, one.action.get("set_depth_m"))


def own_log(day: Day, table: SearchTableIO) -> dict[str, Any]:
    """Return a day as it is in the log, for the search."""
    fished = list(day.presentations.all())
    begun = min((one.started_at for one in fished), default=day.at)
    entries = Entry.objects.filter(presentation__day=day, undone_at=None).order_by("at", "id")
    known = table.model_dump(include={"options": {"__all__": {"key", "share", "float_m"}}, "flies": True})
    runs = {str(one.pk): _run(one) for one in fished}
    read = read_log(known, {"fished": runs, "entries": [_line(entry, begun) for entry in entries]})
    grid = Table.of(table.model_dump()).grid
    seen = {name: SearchPresentation.of(one) for name, one in read["fished"].items()}
    # What fish of each cell would answer is worked out at once here; a device comes to it cast by cast.
    return {**read, "fished": {name: as_json(replace(one, met=met_of(one, grid))) for name, one in seen.items()}}


def _run(one: Presentation) -> dict[str, Any]:
    return {
        "line": one.line["name"], "kind": one.action["kind"], "set_depth_m": one.action.get("set_depth_m"),
        "action": done_of(one), **path_of(one),
    }  # fmt: skip


def _line(entry: Entry, begun: datetime) -> dict[str, Any]:
    told = 0.5 * (entry.depth_low_m + entry.depth_high_m) if entry.kind in DEPTH_TOLD else None
    return {
        "kind": entry.kind, "at_s": (entry.at - begun).total_seconds(), "fished": str(entry.presentation_id),
        "elapsed_s": entry.cast_elapsed_s, "depth_m": told, "toward": entry.toward, "far": entry.far,
        "fly": entry.fly, "phase": entry.phase or None, "fly_class": entry.fly_class, "colour": entry.colour or None,
        "hook_size": entry.hook_size, "pace": entry.pace or None,
    }  # fmt: skip


def think(day: Day, asked: MovesIn) -> dict[str, Any]:
    """Return what a log means; of the days that were asked about last the thinking is kept, and goes on with what is new."""
    return _asked_of(day, asked, Thinker.think)


def own_changes(day: Day, asked: MovesIn) -> dict[str, Any]:
    """Return what may be changed by hand from what is tied on."""
    return _asked_of(day, asked, Thinker.own_changes)


def _asked_of(day: Day, asked: MovesIn, what: Callable[[Thinker, Mapping[str, Any]], dict[str, Any]]) -> dict[str, Any]:
    day_id = str(day.pk)
    table = asked.table.model_dump_json()
    log = asked.log.model_dump(exclude_none=True) if asked.log is not None else own_log(day, asked.table)
    with _thinking:
        known = _thinkers.pop(day_id, None)
    thinker = known[1] if known and known[0] == table else Thinker(asked.table.model_dump())
    answer = what(thinker, log)
    with _thinking:
        _thinkers[day_id] = (table, thinker)
        while len(_thinkers) > MOST_THINKERS:
            _thinkers.popitem(last=False)
    return answer

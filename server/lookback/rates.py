"""Takes an hour in any grouping, with intervals and what they say; and in ten seconds: how deep, on what, when."""

from __future__ import annotations

from collections import Counter
from itertools import groupby
from typing import Any

from accounts.models import User
from advice.serializers import show_phrase
from days.finding import where_of
from days.models import Entry
from days.schemas import DaysQuery
from days.tally import tally
from lookback.stretches import ORDERED, StretchRows, Way, fished, grouped
from stillthread.api import FISH, Rate, best_of, compared_words, fish_among, rates_of

MOST_WAYS = 24
"""That a chart shows; of more flies or spots the least fished are left out and counted."""
ASKED = ("depth", "fly", "method", "hour")


def find_rates(owner: User, by: str, of: str, query: DaysQuery) -> dict[str, Any]:
    """Return the rates of one grouping."""
    left = tally(owner)
    found = fished(owner, query, [by])
    return {**_rates(found, by, of), "untallied": left}


def find_answers(owner: User, query: DaysQuery) -> dict[str, Any]:
    """Return the groupings that are asked first."""
    left = tally(owner)
    found = fished(owner, query, ASKED)
    return {
        "charts": [_rates(found, by, "takes") for by in ASKED],
        "days": found.days,
        "hours": round(found.total("hours"), 2),
        "takes": round(found.total("takes")),
        "landed": round(found.total("landed")),
        "phases": _phases(owner, query),
        "untallied": left,
    }


def _phases(owner: User, query: DaysQuery) -> list[dict[str, Any]]:
    """Return in which phase of the cast fish took, most first, of those of which it is known."""
    entries = Entry.objects.filter(
        where_of(query, "presentation__day__facts__"), presentation__day__owner=owner, undone_at=None
    )
    known = entries.exclude(phase="").filter(kind__in=FISH).values("presentation_id")
    rows = entries.filter(presentation_id__in=known, kind__in={"cast", *FISH}).order_by("presentation_id", "at", "id")
    counts: Counter[str] = Counter()
    for _, group in groupby(rows.values_list("presentation_id", "kind", "phase"), key=lambda row: row[0]):
        own = list(group)
        counts.update(own[i][2] for i in fish_among([kind for _, kind, _ in own]) if own[i][2])
    return [{"phase": phase, "takes": takes} for phase, takes in sorted(counts.items(), key=lambda one: (-one[1], one[0]))]


def _rates(found: StretchRows, by: str, of: str) -> dict[str, Any]:
    ways, groups = grouped(found, by, of)
    left_out = 0
    if len(ways) > MOST_WAYS:
        most = sorted(range(len(ways)), key=lambda i: -groups[i].hours.sum())[:MOST_WAYS]
        left_out = len(ways) - MOST_WAYS
        keep = sorted(most)
        ways, groups = [ways[i] for i in keep], [groups[i] for i in keep]
    rates = rates_of(groups)
    pairs = list(zip(ways, rates, strict=True))
    if by not in ORDERED:
        pairs.sort(key=lambda pair: -pair[1].mean_ph)
    best = best_of(rates)
    words = compared_words(best, {way.key: way.name for way in ways}, found.total("hours"))
    return {
        "by": by,
        "of": of,
        "ways": [show_rate(way, rate) for way, rate in pairs],
        "best_key": best.best.key if best else None,
        "sure": bool(best and best.sure),
        "words": show_phrase(words),
        "left_out": left_out,
        "days": found.days,
        "hours": round(found.total("hours"), 2),
    }


def show_rate(way: Way, rate: Rate) -> dict[str, Any]:
    return {
        "key": way.key,
        "name": show_phrase(way.name),
        "low": way.low,
        "high": way.high,
        "hours": round(rate.hours, 2),
        "takes": round(rate.takes),
        "days": rate.outings,
        "mean_ph": round(rate.mean_ph, 3),
        "low_ph": round(rate.low_ph, 3),
        "high_ph": round(rate.high_ph, 3),
        "thin": rate.thin,
    }

"""What would be proposed, step by step, if nothing came from here on: the search's own next moves, told beforehand."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from typing import Any

from stillthread.search.log import read_log
from stillthread.search.presentation import Presentation, as_json
from stillthread.search.thinker import AFTER_NEWS_CASTS, Thinker, thinker_of

MOST_RUNGS = 3  # ours: further ahead something has come, or the water has changed
MOST_CASTS = 24  # ours, bounds 5 to 60: nobody is told to do the same for longer


def next_rung(thinker: Thinker, log: Mapping[str, Any], rungs: Sequence[Mapping[str, Any]]) -> dict[str, Any] | None:
    """Return the rung after `rungs`, or None where it would be gone on with: JSON in, JSON out.

    A rung has `casts` and `minutes` of what was fished without anything, then the `words` of the change, whether it is the
    place that `changes`, and the `presentation` that is fished from there. `log` is as `Thinker.think` takes it, with what is
    tied on `now`. The thinker goes on from where it was: what is thought of here has not happened.
    """
    if len(rungs) >= MOST_RUNGS or (rungs and rungs[-1]["changes"] == "place"):
        return None
    ahead, on_table = thinker.apart(), {one.key: one for one in thinker.table.options}
    fished, happened = dict(log["fished"]), list(log["happened"])
    at_min, tied = float(log.get("now_min", 0.0)), str(log["now"])
    for i, rung in enumerate(rungs):
        at_min = _blank(happened, tied, at_min, fished[tied], rung["casts"])
        tied = f"~{i}"
        fished[tied] = rung["presentation"]
    begun_min = at_min
    for casts in range(1, MOST_CASTS + 1):
        at_min = _blank(happened, tied, at_min, fished[tied], 1)
        if casts < AFTER_NEWS_CASTS:
            continue
        told = ahead.think({**log, "fished": fished, "happened": happened, "now": tied, "now_min": at_min})
        move = told["move"]
        if move is not None and (move["change"] or move["elsewhere"]):
            return {
                "casts": casts,
                "minutes": at_min - begun_min,
                "changes": "place" if move["elsewhere"] else "way",
                "words": move["words"][0],
                "presentation": move["best"].get("presentation") or as_json(on_table[move["best"]["key"]]),
            }
    return None


def _blank(happened: list[dict[str, Any]], tied: str, at_min: float, one: Mapping[str, Any], casts: int) -> float:
    """Add casts that come to nothing, and return when the last is over."""
    minutes = Presentation.of(one).minutes
    for _ in range(casts):
        happened.append({"kind": "cast", "fished": tied, "at_min": at_min})
        at_min += minutes
        happened.append({"kind": "nothing", "fished": tied, "at_min": at_min})
    return at_min


def when_nothing_json(table: str, asked: str) -> str:
    """Return the rung after those that `asked` has as `rungs`, where its `log` was written down so, from text to text."""
    read, thinker = thinker_of(table)
    told = json.loads(asked)
    return json.dumps(next_rung(thinker, read_log(read, told["log"]), told["rungs"]))

"""A day's log as the search reads it: the one way from what was written down to what happened, on a server and on a device."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any

from stillthread.search.presentation import depth_along
from stillthread.trade.entries import CAME_NEAR, DEPTH_TOLD, FELT, OF_LINE, OF_WATER
from stillthread.trade.timing import cycle_s

MOST_LINES = 1200  # ours: a bound
LONGEST_DAY_MIN = 2880.0  # ours: two days
MOST_POINTS = 40  # ours: a path is told by no more
OF_OTHERS = ("depth_m", "fly_class", "colour", "hook_size", "pace")
OF_READING = ("stated", "centres_m", "wanted", "rate_pmin")
UNKNOWN_CLASS = 1
"""Of a fly that the table does not know, as one of one's own: the commonest."""


def read_log(table: Mapping[str, Any], logged: Mapping[str, Any]) -> dict[str, Any]:
    """Return what `stillthread.search.thinker.Thinker.think` is asked, from what was written down: JSON in, JSON out.

    Parameters
    ----------
    table : mapping
        The search table.
    logged : mapping
        `fished`: by its id what was tied on and its run: `key` in the table or None, `line`, `kind` of what was done,
        `set_depth_m` of a float, `time_s` and `flies`, each a `name` and its `depth_m`; where they are known the `method`, the
        `action`, the `share` and `leader_m`. `entries`: what was logged, in its
        order: `kind`, `at_s` since the day began, and where they belong to it the `fished`, `elapsed_s` since the fly landed,
        `fly`, `depth_m` and `fly_class` that were told, `toward` and `far`, or what water that changed has `stated` and
        `wanted`. What else there is (`now_s`, `now`, `refused`, `school`, `most_min`, `rods`) is the question itself.

    Notes
    -----
    A clock may be set: the log never goes back. A take that nobody timed came in the middle of its cast.
    """
    known = {str(one["key"]): one for one in table["options"]}
    fished = {name: known.get(str(one.get("key"))) or _presentation(name, one, table) for name, one in logged["fished"].items()}
    latest = 0.0
    happened: list[dict[str, Any]] = []
    for entry in list(logged["entries"])[-MOST_LINES:]:
        if entry["kind"] in OF_LINE or (entry["kind"] not in {*OF_WATER, "changed"} and entry.get("fished") not in fished):
            continue
        latest = min(max(latest, float(entry["at_s"]) / 60.0), LONGEST_DAY_MIN)
        happened.append({"at_min": latest, **_line(entry, logged["fished"])})
    asked = {name: logged[name] for name in ("now", "refused", "school", "most_min", "rods") if logged.get(name) is not None}
    now_min = min(max(latest, float(logged.get("now_s") or 0.0) / 60.0), LONGEST_DAY_MIN)
    return {**asked, "fished": fished, "happened": happened, "now_min": now_min}


def _line(entry: Mapping[str, Any], fished: Mapping[str, Any]) -> dict[str, Any]:
    kind = entry["kind"]
    line: dict[str, Any] = {"kind": kind}
    if kind in CAME_NEAR and entry.get("fished") in fished:
        line |= {name: entry[name] for name in ("fished", "fly", "phase") if entry.get(name) is not None}
    if kind in OF_WATER or kind == "changed":
        told = OF_OTHERS if kind in DEPTH_TOLD else OF_READING
        return line | {name: entry[name] for name in told if entry.get(name) is not None}
    line["fished"] = entry["fished"]
    if kind in FELT:
        run, elapsed_s = fished[entry["fished"]], entry.get("elapsed_s")
        line["depth_m"] = depth_at(run, elapsed_s, entry.get("fly") or 0)
        line["elapsed_s"] = 0.5 * run["time_s"][-1] if elapsed_s is None else elapsed_s
        line |= {name: entry[name] for name in ("fly", "phase") if entry.get(name) is not None}
    if entry.get("toward") is not None:
        line |= {"toward": entry["toward"], "far": bool(entry.get("far"))}
    return line


def depth_at(run: Mapping[str, Any], elapsed_s: float | None, fly: int = 0) -> float:
    """Return how deep a fly of a run was so long after it landed [m]; in the middle of the cast where nobody timed it.

    Examples
    --------
    >>> depth_at({"time_s": [0.0, 20.0], "flies": [{"depth_m": [0.0, 4.0]}]}, 5.0)
    1.0
    """
    times: Sequence[float] = run["time_s"]
    return depth_along(times, run["flies"][fly]["depth_m"], 0.5 * times[-1] if elapsed_s is None else elapsed_s)


def _presentation(name: str, one: Mapping[str, Any], table: Mapping[str, Any]) -> dict[str, Any]:
    """Return what is not on the table as the search sees it, by its run."""
    times: Sequence[float] = one["time_s"]
    kept = [*range(0, len(times) - 1, max(1, math.ceil(len(times) / MOST_POINTS))), len(times) - 1]
    classes: Mapping[str, int] = table.get("flies", {})
    return {
        "key": one.get("key") or name,
        "method": one.get("method") or one["kind"],
        "line": one["line"],
        "minutes": cycle_s(one["kind"], times[-1]) / 60.0,
        "flies": [{"name": fly["name"], "fly_class": classes.get(fly["name"], UNKNOWN_CLASS)} for fly in one["flies"]],
        "time_s": [times[i] for i in kept],
        "depth_m": [[max(0.0, fly["depth_m"][i]) for i in kept] for fly in one["flies"]],
        "float_m": one.get("set_depth_m"),
        "action": one.get("action"),
        "leader_m": one.get("leader_m"),
        "share": _share(one, table) if one.get("share") is None else one["share"],
    }


def _share(one: Mapping[str, Any], table: Mapping[str, Any]) -> float:
    """Return how far a rig of the angler's own is answered: as the best on the table that is fished alike."""
    hangs = one.get("set_depth_m") is not None
    alike = [other["share"] for other in table["options"] if "share" in other and (other.get("float_m") is not None) == hangs]
    return float(max(alike, default=1.0))

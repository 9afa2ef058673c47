"""Water to search in: a grid, and presentations with simple paths."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from stillthread.search.grid import Grid, grid_of
from stillthread.search.presentation import Presentation, TiedFly

CLASSES = ("light natural", "dark natural", "bright lure", "dark lure")


def grid(mean_m: float = 3.0, sd_m: float = 1.0, deepest_m: float = 6.0, wanted: Sequence[float] = (1, 1, 1, 1)) -> Grid:
    depths = [0.1 * i + 0.05 for i in range(int(10 * deepest_m))]
    chance = [2.718281828 ** (-0.5 * ((z - mean_m) / sd_m) ** 2) for z in depths]
    return grid_of(depths, chance, 0.9, deepest_m, wanted)


def hung(depth_m: float, fly_class: int = 1, second: int | None = None, minutes: float = 4.0) -> Presentation:
    """Return a float that holds its point at a depth, and a second fly a metre above it."""
    flies = [TiedFly(f"fly of class {fly_class}", fly_class)]
    paths = [(depth_m, depth_m)]
    if second is not None:
        flies.append(TiedFly(f"fly of class {second}", second))
        paths.append((depth_m - 1.0, depth_m - 1.0))
    key = f"float {depth_m:g} {fly_class} {second}"
    return Presentation(
        key=key,
        method="indicator",
        line="floating",
        flies=tuple(flies),
        minutes=minutes,
        time_s=(0.0, 180.0),
        depth_m=tuple(paths),
        float_m=depth_m,
        words=key,
    )


def sunk(count_s: float, rate_mps: float = 0.08, fly_class: int = 1, line: str = "sinker") -> Presentation:
    """Return a cast that sinks for its count, comes in level and rises at the end."""
    deep = rate_mps * count_s
    key = f"{line} {count_s:g} {fly_class}"
    times, depths = (0.0, count_s + 1e-3, count_s + 45.0, count_s + 55.0), (0.0, deep, deep, 0.3)
    flies = (TiedFly(f"fly of class {fly_class}", fly_class),)
    return Presentation(
        key=key,
        method="sinker",
        line=line,
        flies=flies,
        minutes=(count_s + 70.0) / 60.0,
        time_s=times,
        depth_m=(depths,),
        float_m=None,
        words=key,
    )


def table(options: Sequence[Presentation], **grid_is: Any) -> dict[str, Any]:
    of = grid(**grid_is)
    return {
        "grid": {n: list(getattr(of, n)) for n in ("centres_m", "reaches_m", "stated", "wanted")},
        "options": [told(one) for one in options], "classes": list(CLASSES), "day_min": 240.0,
    }  # fmt: skip


def told(one: Presentation) -> dict[str, Any]:
    return {
        "key": one.key, "method": one.method, "line": one.line, "minutes": one.minutes, "time_s": list(one.time_s),
        "depth_m": [list(path) for path in one.depth_m], "float_m": one.float_m, "words": one.words, "values": one.values,
        "flies": [{"name": fly.name, "fly_class": fly.fly_class} for fly in one.flies],
    }  # fmt: skip

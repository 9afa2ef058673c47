"""The foods and the signs as tables, for docs/foods.md: what a reader can check against his own practice."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from stillthread.food.catalogue import FOODS
from stillthread.food.signs import SIGNS


def food_rows() -> Iterator[str]:
    """Yield a table of every food and every stage of one."""
    yield "| food | where | usual | months | else | begins, full [C] | size [mm] | hooks | pace [m/s] | reach [m] | colours |"
    yield "|---|---|---|---|---|---|---|---|---|---|---|"
    for food in FOODS.values():
        warmth = "any" if food.warmth_c is None else _span(food.warmth_c)
        yield _row(
            food.name, food.layer, f"{food.usual:g}", _span(food.months), f"{food.off_season:g}", warmth, _span(food.size_mm),
            _span(food.hooks), _span(food.speed_mps), _reach(food.reach_m), ", ".join(food.colours),
        )  # fmt: skip
        for stage in food.stages:
            layer = stage.layer or food.layer
            top = "" if stage.top_m is None else f", top {stage.top_m:g} m"
            yield _row(
                f"- {stage.name}", layer + top, "", _span(stage.months), "", "", _span(stage.size_mm), _span(stage.hooks),
                _span(stage.speed_mps), _reach(stage.reach_m), "",
            )  # fmt: skip


def sign_rows() -> Iterator[str]:
    """Yield a table of every sign: how likely each food is to show it, and what it says of depth itself."""
    yield "| sign | shown when they are on | by chance | says they are | weighs | a rise |"
    yield "|---|---|---|---|---|---|"
    for sign in SIGNS.values():
        shows = ", ".join(f"{FOODS[key].name.lower()} {share:g}" for key, share in sign.shows.items())
        tells = sign.tells
        at = weighs = ""
        if tells is not None:
            middle = f"{tells.middle_share:g} of the depth" if tells.middle_share else f"{tells.middle_m:g} m"
            at, weighs = f"{middle}, within {tells.width_m:g} m", f"{tells.weight:g}"
        yield _row(sign.name, shows, f"{sign.by_chance:g}", at, weighs, "yes" if sign.rise else "")


def _row(*cells: str) -> str:
    return f"| {' | '.join(cells)} |"


def _span(pair: tuple[Any, Any]) -> str:
    return f"{pair[0]:g} to {pair[1]:g}"


def _reach(reach_m: float | None) -> str:
    return "as far as clear" if reach_m is None else f"{reach_m:g}"

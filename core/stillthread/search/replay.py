"""A day's log read line by line, into what is believed and what the day has been like."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from stillthread.search import messages
from stillthread.search.belief import EARLY_S, Event
from stillthread.search.day import Day
from stillthread.search.grid import on_centres, to_one
from stillthread.search.presentation import EVENT_SD_M, Presentation
from stillthread.trade.entries import CAME_NEAR, ENDS_CAST, FELT, FISH, OF_CAST, same_fish

CHANGED_SHARE, CHANGED_MORE = 0.3, 0.5  # ours, bounds 0 to 1
"""Of what is believed, how much a change of the water takes back to the reading; and how much more where it says all else."""
CATCHING_DOUBT, CLASS_DOUBT = 0.4, 0.4  # ours, bounds 0 to 1: others may fish otherwise
HEARD = {"seen": (0.4, 0.3), "told": (0.6, 0.5)}  # ours, bounds 0.1 to 2 m and 0 to 1
"""Fish at a depth by what is seen or told: how surely there [m], and the doubt that it says anything of these."""
CAME_SD_M, CAME_SHARE, CAME_DOUBT = 0.6, 0.3, 0.5  # ours, bounds 0.1 to 2 m and 0 to 1
"""The same of a fish that came to the fly and turned away: at least so surely, and as a share of how far the fly goes."""


@dataclass(kw_only=True)
class Replay:
    """A day as its log is read, line by line: what has been learnt, and the cast that is still in the water."""

    day: Day
    open_id: str | None = None
    open_min: float = 0.0
    came: list[Event] = field(default_factory=list)
    came_near: bool = False
    before: str | None = None

    def copy(self) -> Replay:
        day = self.day
        belief = day.belief.copy()
        same = replace(
            day, belief=belief, blanks=list(day.blanks), idle=dict(day.idle), minutes_in=list(day.minutes_in),
            events=list(day.events), answers=list(day.answers), came_off=list(day.came_off), took=set(day.took),
            felt=list(day.felt), spots=list(day.spots),
        )  # fmt: skip
        return Replay(
            day=same,
            open_id=self.open_id,
            open_min=self.open_min,
            came=list(self.came),
            came_near=self.came_near,
            before=self.before,
        )

    def read(self, one: Mapping[str, Any], fished: Mapping[str, Presentation]) -> None:
        """Take one line of the log.

        It has `at_min` since the beginning, its `kind`, and by kind the id of what was `fished`, a `depth_m`, a `fly` by its
        place on the leader, a `fly_class` that another took, where a cast went (`toward`, `far`), and of water that changed
        what a new reading has `stated` of the depths, of `centres_m` where they are others, and `wanted` of the flies.
        """
        day, kind, at_min = self.day, one["kind"], float(one["at_min"])
        if kind == "cast":
            self.close(fished)
            self.before = kind
            day.pass_to(at_min)
            self.open_id, self.open_min = one["fished"], at_min
            self._tied(fished, at_min)
            if one.get("toward") is not None:
                day.spots.append((int(one["toward"]), bool(one.get("far"))))
            return
        day.pass_to(at_min)
        last, self.before = self.before, kind if kind in OF_CAST else self.before
        if same_fish(last, kind):
            self._ended(kind, fished)
            return
        if kind in FELT:
            self._felt(one, fished)
        if kind in ENDS_CAST:
            self.close(fished)
        elif kind in CAME_NEAR:
            self._came_near(one, fished)
        elif kind in HEARD:
            day.heard_casts = day.casts
            day.belief.seen(float(one["depth_m"]), *HEARD[kind])
            if one.get("fly_class"):
                day.belief.takes_class(int(one["fly_class"]), CLASS_DOUBT)
            if kind == "told":
                day.others_min = at_min
                day.heard_of(one)
        elif kind == "catching":
            day.belief.catching(CATCHING_DOUBT)
            day.heard_casts = day.casts
        elif kind == "changed":
            self.close(fished)
            self._changed(one)
        elif kind == "place":
            self.close(fished)
            day.belief.elsewhere()
            day.here_since_min, day.blanks, day.idle, day.spots, day.took = at_min, [], {}, [], set()

    def _tied(self, fished: Mapping[str, Presentation], at_min: float) -> None:
        day = self.day
        if self.open_id is None or day.now == self.open_id:
            return
        before = fished[day.now].flies if day.now else None
        day.now, day.since_change_min, day.changed_casts = self.open_id, at_min, day.casts
        if before != fished[self.open_id].flies:
            day.spots = []

    def _felt(self, one: Mapping[str, Any], fished: Mapping[str, Presentation]) -> None:
        day, kind, at_min = self.day, one["kind"], float(one["at_min"])
        self.open_id = self.open_id or one["fished"]
        way, fly = fished[one["fished"]], one.get("fly")
        into_s = 60.0 * (at_min - self.open_min) if one.get("elapsed_s") is None else float(one["elapsed_s"])
        took = kind in FISH
        sd_m = math.hypot(EVENT_SD_M, 0.5 * way.changes_m(into_s, min(fly or 0, len(way.flies) - 1)))
        event = Event(float(one["depth_m"]), took, fly, sd_m, into_s <= EARLY_S)
        self.came.append(event)
        day.events.append((at_min, event))
        stray = event.early and not took
        day.felt.append(messages.Felt("splash" if stray else kind, at_min, event.depth_m, way.key, fly, one.get("phase")))
        if event.early and not took:
            return  # as likely weed, or a small fish at the splash
        day.answered(way, kind, fly)
        if took:
            day.fish_casts, day.came_off = day.casts, []
            day.took |= {tied.name for i, tied in enumerate(way.flies) if fly in (None, i)}
        else:
            day.miss(way, fly)

    def _ended(self, kind: str, fished: Mapping[str, Presentation]) -> None:
        """Tell how the fish that took ended."""
        felt = self.day.felt
        if felt:
            felt[-1] = replace(felt[-1], kind=kind)

    def _came_near(self, one: Mapping[str, Any], fished: Mapping[str, Presentation]) -> None:
        """Learn from a fish that came to the fly and would not have it: the level is about right, fly or pace is not."""
        day = self.day
        way = fished.get(one.get("fished") or self.open_id or day.now or "")
        if way is None:
            day.belief.seen(float(one["depth_m"]), CAME_SD_M, CAME_DOUBT)
            return
        fly = one.get("fly")
        works = way.works_m if fly is None else way.works[min(fly, len(way.flies) - 1)]
        paths = [depth for path in way.depth_m for depth in path]
        day.belief.seen(works, max(CAME_SD_M, CAME_SHARE * (max(paths) - min(paths))), CAME_DOUBT)
        day.answered(way, one["kind"], fly)
        day.miss(way, fly)
        day.felt.append(messages.Felt(one["kind"], float(one["at_min"]), works, way.key, fly, one.get("phase")))
        self.came_near = True

    def _changed(self, one: Mapping[str, Any]) -> None:
        """Read the water anew; the more a reading says otherwise, the less of what was learnt still holds."""
        day, new, share = self.day, None, CHANGED_SHARE
        if one.get("stated"):
            grid = day.table.grid
            stated = on_centres(one["stated"], one.get("centres_m") or grid.centres_m, grid.centres_m)
            rate = float(one.get("rate_pmin") or grid.rate_pmin)
            new = replace(grid, stated=stated, wanted=to_one(one["wanted"]), rate_pmin=rate)
            share += CHANGED_MORE * 0.5 * math.fsum(abs(a - b) for a, b in zip(stated, grid.stated, strict=True))
            day.table = replace(day.table, grid=new)
        day.belief.renewed(share, new)
        day.heard_casts = day.casts
        day.idle, day.water_changed, day.came_off, day.fish_casts = {}, True, [], None

    def close(self, fished: Mapping[str, Presentation]) -> None:
        """End the cast that is in the water, with what came in it."""
        if self.open_id is not None:
            self.day.cast(self.day.exposed(fished[self.open_id]), self.came, came_near=self.came_near)
        self.open_id, self.came, self.came_near = None, [], False

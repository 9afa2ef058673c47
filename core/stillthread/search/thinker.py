"""From the log so far to what it means and what to do: the one question that server and device both answer."""

from __future__ import annotations

import json
import math
from collections.abc import Mapping, Sequence
from copy import copy
from dataclasses import asdict, replace
from typing import Any

from stillthread.search import messages
from stillthread.search.belief import SearchBelief
from stillthread.search.day import Day, Table
from stillthread.search.fan import covered, next_spot
from stillthread.search.grid import Grid
from stillthread.search.likes import Likes
from stillthread.search.log import read_log
from stillthread.search.own import own_changes
from stillthread.search.policy import DEAR_MIN, GREEDY_MIN, Going, Move, empty, next_move, second_rod, takes_pmin
from stillthread.search.presentation import LAYER_M, Exposed, Presentation, as_json
from stillthread.search.replay import Replay
from stillthread.search.schools import leaned
from stillthread.search.steps import other_flies, steps_from
from stillthread.trade.usual import BAND_MASS

AFTER_NEWS_CASTS = 3  # common practice: a change, and what gave a fish, is given its casts
MISSES_ENOUGH = 2  # common practice: two that did not hold, and the fly or its pace is changed
RETIED, RETIED_FLIES = 3, 4  # ours, bounds 1 to 20: rigs on another line that are thought of with other flies, so many a seat
ENOUGH_CASTS = 4  # common practice: so many at a count or a float before it is left
# common practice: ten minutes in a good hour, thirty when they hardly feed
PATIENCE_MIN, PATIENCE_MOST_MIN = 10.0, 30.0
GOOD_PH = 1.0  # ours, bounds 0.5 to 2: takes an hour of a good hour
TAKEN = 0.5  # ours, bounds 0.1 to 0.8: of the fish that are there, how many a good way is taken by
OFF_TABLE = 0.35  # ours, bounds 0 to 1: what a method is worth that the new reading does not think of


class Thinker:
    """Answers the same question again and again as the log grows: what it has read it does not read again."""

    def __init__(self, table: Mapping[str, Any]) -> None:
        self.table = Table.of(table)
        self._known = {one.key: Exposed(one, self.table.grid) for one in self.table.options}
        self._of_table = {one.key: one for one in self.table.options}
        self._of_method: dict[str, float] = {}
        for one in self.table.options:
            self._of_method[one.method] = max(self._of_method.get(one.method, 0.0), one.share)
        self._of_fly: dict[str, float] = {}
        for one in self.table.options:
            for fly in one.flies:
                share = one.share / self._of_method[one.method]
                self._of_fly[fly.name] = max(self._of_fly.get(fly.name, 0.0), share)
        self._read: list[Any] = []
        self._stepped: tuple[tuple[str, float], list[Presentation]] | None = None
        self._at = self._begun()

    def _begun(self) -> Replay:
        return Replay(day=Day(self.table, SearchBelief(self.table.grid), self._known))

    def apart(self) -> Thinker:
        """Return one that stands where this one does, and goes its own way from here."""
        other = copy(self)
        other._read, other._at = list(self._read), self._at.copy()
        return other

    def day(self, log: Mapping[str, Any], fished: Mapping[str, Presentation]) -> Day:
        """Return the day after all that happened in it. A cast that is still in the water counts once something came in it."""
        happened = list(log.get("happened", ()))
        if self._read != happened[: len(self._read)]:
            self._read, self._at = [], self._begun()
        for one in happened[len(self._read) :]:
            self._at.read(one, fished)
        self._read = happened
        end = self._at.copy()
        if end.came:
            end.close(fished)
        end.day.pass_to(float(log.get("now_min", end.day.at_min)))
        return end.day

    def think(self, log: Mapping[str, Any]) -> dict[str, Any]:
        """Return what the log so far means, and the move: JSON in, JSON out.

        `log` holds `fished`, presentations by id; `happened`, in order (see `Replay.read`); `now_min`; the id of what is tied
        on `now`, where it is not what was cast last; and may hold `refused`, keys of presentations that the angler will not
        fish, the `school`, how many `rods` he fishes, and `most_min`, his own clock of minutes without anything before he
        changes.
        """
        day, now, fished = self._standing(log)
        refused = {one["key"] for one in log.get("refused", ())}
        ways = {one.key: one for one in (*self.table.options, *fished.values())}
        if now is not None:
            for one in self._steps(now.one):
                ways.setdefault(one.key, self._by_now(day, one))
            ways[now.one.key] = now.one
            if any(one.hit for one in day.answers):
                for one in self._retied(day, now.one):
                    ways.setdefault(one.key, one)
        options = [day.exposed(one) for one in ways.values() if one.key not in refused]
        if not options:
            return _told(day, None)
        likes = Likes(day.answers, day.casts)
        going, options = self._going(day, log, now, options)
        other = (
            second_rod(day.belief, [day.exposed(o) for o in self.table.options if o.key not in refused], now)
            if now is not None and log.get("rods", 1) > 1
            else None
        )
        move = next_move(
            day.belief, options, now, costs=self.table.costs, going=going,
            liked=lambda exposed: likes.of(exposed.one, self.table.about),
        )  # fmt: skip
        told = _told(day, move, other)
        day.forget({*ways, *(one.key for one in fished.values())})
        return told

    def own_changes(self, log: Mapping[str, Any]) -> dict[str, Any]:
        """Return what may be changed by hand from what is tied on, with what is expected of it: JSON in, JSON out, `log` as
        `think` takes it."""
        day, now, fished = self._standing(log)
        if now is None:
            return {"changes": []}
        rates, likes = day.belief.interest(), Likes(day.answers, day.casts)
        worth: dict[str, float] = {}

        def rate(one: Presentation) -> float:
            if one.key not in worth:
                worth[one.key] = takes_pmin(day.exposed(one), rates) * likes.of(one, self.table.about)
            return worth[one.key]

        steps = [self._by_now(day, one) for one in self._steps(now.one)]
        tied_before = [fly.name for one in fished.values() for fly in one.flies]
        changes = own_changes(now.one, steps, self.table.options, rate, tied_before)
        horizon_min = min(max(self.table.day_min - day.at_min, 1.0), GREEDY_MIN)
        told = []
        for change in changes:
            one, cost_min = change.to, self.table.costs.between(now.one, change.to)
            value = rate(one) * max(horizon_min - cost_min, 0.0)
            told.append(
                {"turns": change.turns, "seat": change.seat, "key": one.key, "value": value, "takes_ph": 60.0 * rate(one),
                 "cost_min": cost_min, **_tied_so(self.table, one)}
            )  # fmt: skip
        return {"changes": told}

    def _standing(self, log: Mapping[str, Any]) -> tuple[Day, Exposed | None, dict[str, Presentation]]:
        """Return the day so far, what is tied on, and what was fished by its id."""
        fished = {name: Presentation.of(one) for name, one in log.get("fished", {}).items()}
        day = self.day(log, fished)
        tied = log.get("now") or day.now
        if tied != day.now:
            day.now, day.since_change_min, day.changed_casts = tied, day.at_min, day.casts
        return day, day.exposed(self._as_it_is(day, fished[tied])) if tied else None, fished

    def _by_now(self, day: Day, step: Presentation) -> Presentation:
        return replace(step, share=self._worth_by_now(step)) if day.water_changed else step

    def _as_it_is(self, day: Day, one: Presentation) -> Presentation:
        """Return what is tied on as the table thinks of it by now: once the water has changed, a way that the new reading does
        not think of is worth at most what it thinks of its method, and of its flies."""
        known = self._of_table.get(one.key)
        if known is not None or not day.water_changed:
            return known or one
        share = min(one.share, self._worth_by_now(one))
        return one if share == one.share else replace(one, share=share)

    def _worth_by_now(self, one: Presentation) -> float:
        """Return how far a way is answered by what the table thinks of its method, and of its flies."""
        of_method = self._of_method.get(one.method, OFF_TABLE * min(self._of_method.values(), default=1.0))
        shares = [self._of_fly.get(fly.name, OFF_TABLE) for fly in one.flies]
        return of_method * sum(shares) / len(shares)

    def _steps(self, now: Presentation) -> list[Presentation]:
        """Return what is a step away from what is tied on; of the last rig that was asked for they are kept."""
        kept = (now.key, now.share)
        if self._stepped is None or self._stepped[0] != kept:
            table = self.table
            steps = steps_from(now, table.about, table.paces, table.options, table.grid.deepest_m, table.second_fly)
            self._stepped = kept, list(steps)
        return self._stepped[1]

    def _retied(self, day: Day, now: Presentation) -> list[Presentation]:
        """Return the table's best ways on another line with a fly that others are taken on: a new rig is tied with those."""
        rates = day.belief.interest()
        others = [one for one in self.table.options if self.table.costs.between(now, one) > DEAR_MIN]
        best = sorted(others, key=lambda one: (-takes_pmin(day.exposed(one), rates), one.key))[:RETIED]
        return [tied for one in best for tied in other_flies(one, self.table.about, self.table.second_fly, RETIED_FLIES)]

    def _going(
        self, day: Day, log: Mapping[str, Any], now: Exposed | None, options: list[Exposed]
    ) -> tuple[Going, list[Exposed]]:
        """Return how the day goes, and what the angler's school would look at of all that could be fished."""
        since = day.at_min - day.events[-1][0] if day.events else None
        quiet_min = min(day.at_min - day.since_change_min, since if since is not None else math.inf)
        school = str(log.get("school", "best"))
        most_min = float(log.get("most_min") or math.inf)
        patience_min = patience_of(day.belief)
        # What was chosen with a clear head is given its casts, too: only what others do or the water says comes sooner.
        news = day.casts - day.changed_casts < AFTER_NEWS_CASTS and day.heard_casts < day.changed_casts
        fish = day.fish_casts is not None and day.casts - day.fish_casts <= AFTER_NEWS_CASTS and not day.misses
        options, holds = leaned(
            options, now, school, searching=since is None or since > quiet_min,
            clock=quiet_min >= most_min,
        )  # fmt: skip
        blank_casts = sum(n for _, n in day.blanks)
        blank_min = sum(n * day.known[key].one.minutes for key, n in day.blanks)
        learnt = day.misses >= MISSES_ENOUGH and not day.took.isdisjoint(day.missed)
        # A school has its own next step; who trusts the best expected is told nothing that is worse.
        clock = quiet_min >= most_min or (school != "best" and quiet_min >= patience_min)
        ago = [day.at_min - at for at in (day.events[-1][0] if day.events else None, day.others_min) if at is not None]
        going = Going(
            left_min=max(self.table.day_min - day.at_min, 1.0),
            here_min=day.at_min - day.here_since_min,
            since_event_min=since,
            came_here=any(at_min >= day.here_since_min for at_min, _ in day.events),
            since_any_min=min(ago, default=None),
            blank_min=blank_min,
            blank_casts=blank_casts,
            blank_ways=len({key for key, _ in day.blanks}),
            misses=day.misses,
            missed=day.missed,
            worn=day.missed & day.took,
            held=news or fish,
            must_change=now is not None and (clock or not holds or learnt or day.misses > MISSES_ENOUGH),
            impatient=now is not None and (quiet_min >= patience_min or day.misses >= MISSES_ENOUGH),
            tried=frozenset(key for key, n in day.idle.items() if n >= ENOUGH_CASTS),
        )
        return going, options


def patience_of(belief: SearchBelief) -> float:
    """Return the minutes without anything after which something is changed, by how many there are as far as is known."""
    takes_ph = 60.0 * TAKEN * math.fsum(math.fsum(row) for row in belief.interest())
    return min(max(PATIENCE_MIN * math.sqrt(GOOD_PH / max(takes_ph, 1e-6)), PATIENCE_MIN), PATIENCE_MOST_MIN)


def think(table: Mapping[str, Any], log: Mapping[str, Any]) -> dict[str, Any]:
    """Return what a log means under a table, asked once."""
    return Thinker(table).think(log)


_kept: dict[str, tuple[dict[str, Any], Thinker]] = {}


def think_json(table: str, logged: str) -> str:
    """Return what a day's log means, as `read_log` takes it, from text to text: what crosses to a worker and back."""
    read, thinker = thinker_of(table)
    return json.dumps(thinker.think(read_log(read, json.loads(logged))))


def own_changes_json(table: str, logged: str) -> str:
    """Return what may be changed by hand, from text to text."""
    read, thinker = thinker_of(table)
    return json.dumps(thinker.own_changes(read_log(read, json.loads(logged))))


def thinker_of(table: str) -> tuple[dict[str, Any], Thinker]:
    """Return a table and its thinker, of which the last is kept."""
    if table not in _kept:
        _kept.clear()
        read = json.loads(table)
        _kept[table] = read, Thinker(read)
    return _kept[table]


def _band(grid: Grid, ridge: Sequence[float]) -> dict[str, float]:
    """Return the shortest run of depths that holds `BAND_MASS` of the chance."""
    best = (len(ridge), 0)
    for first in range(len(ridge)):
        held = 0.0
        for length, share in enumerate(ridge[first:], 1):
            held += share
            if held >= float(BAND_MASS):
                best = min(best, (length, first))
                break
    length, first = best
    top = grid.centres_m[first] - 0.5 * grid.step_m
    return {"top_m": top, "bottom_m": top + length * grid.step_m, "chance": math.fsum(ridge[first : first + length])}


def _told(day: Day, move: Move | None, other: Exposed | None = None) -> dict[str, Any]:
    grid, joint = day.table.grid, day.belief.joint()
    rates = len(joint[0]) // len(grid.cells)
    width = rates * len(grid.reaches_m)
    there = [
        math.fsum(row[c * width + i] for row in joint for i in range(width) if i % rates) for c in range(len(grid.centres_m))
    ]
    total = math.fsum(there) or 1.0
    flies = [math.fsum(row) for row in joint]
    ridge = [p / total for p in there]
    return {
        "casts": day.casts,
        "band": _band(grid, ridge),
        "ridge": [{"depth_m": c, "chance": p} for c, p in zip(grid.centres_m, ridge, strict=True)],
        "empty": empty(joint),
        "wanted": dict(zip(("any", *day.table.classes), flies, strict=True)),
        "kinds": day.belief.kinds(),
        "fished": [{"depth_m": LAYER_M * (i + 0.5), "minutes": m} for i, m in enumerate(day.minutes_in) if m > 0.0],
        "fan": {
            "next": dict(zip(("toward", "far"), next_spot(day.spots), strict=True)),
            "covered": [{"toward": t, "far": far, "casts": n} for (t, far), n in covered(day.spots).items()],
        },
        "other_rod": None if other is None else {"key": other.one.key, "words": asdict(messages.of_other_rod(other))},
        "said": [asdict(one) for one in messages.what_it_means(day)],
        "move": None if move is None else _shown(day, move),
    }


def _shown(day: Day, move: Move) -> dict[str, Any]:
    """Return a move; what it proposes comes with how it is fished, where that is not on the table."""
    told = asdict(move)
    told["best"] |= _tied_so(day.table, day.known[move.best.key].one)
    return {**told, "words": [asdict(one) for one in messages.what_to_do(day, move)]}


def _tied_so(table: Table, one: Presentation) -> dict[str, Any]:
    """Return how a way is fished that is not on the table: its path, what the hands do, and whose line and leader it has."""
    if any(one.key == known.key for known in table.options):
        return {}
    return {
        "presentation": as_json(one),
        "fish": {"action": dict(one.action), "like": one.like or one.key} if one.action else None,
    }

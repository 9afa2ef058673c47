"""From the log so far to what it means and what to do: the one question that server and device both answer."""

from __future__ import annotations

import json
import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import asdict, dataclass, field, replace
from typing import Any

from stillthread.search import messages
from stillthread.search.belief import EARLY_S, Event, SearchBelief
from stillthread.search.fan import Spot, covered, next_spot
from stillthread.search.grid import USUAL_RATE_PMIN, Grid, to_one
from stillthread.search.likes import HITS, MISSES, UNKNOWN_HOOK, Answer, FlyAbout, Likes
from stillthread.search.log import read_log
from stillthread.search.policy import DEAR_MIN, Going, Move, empty, next_move, second_rod, takes_pmin
from stillthread.search.presentation import EVENT_SD_M, LAYER_M, USUAL_PACE_MPS, Costs, Exposed, Presentation, as_json
from stillthread.search.schools import leaned
from stillthread.search.steps import Pace, other_flies, steps_from
from stillthread.trade.entries import CAME_NEAR, ENDS_CAST, FELT, FISH, OF_CAST, same_fish
from stillthread.trade.usual import BAND_MASS

CHANGED_SHARE, CHANGED_MORE = 0.3, 0.5  # ours, bounds 0 to 1
"""Of what is believed, how much a change of the water takes back to the reading; and how much more where it says all else."""
CATCHING_DOUBT, CLASS_DOUBT = 0.4, 0.4  # ours, bounds 0 to 1: others may fish otherwise
HEARD = {"seen": (0.4, 0.3), "told": (0.6, 0.5)}  # ours, bounds 0.1 to 2 m and 0 to 1
"""Fish at a depth by what is seen or told: how surely there [m], and the doubt that it says anything of these."""
CAME_SD_M, CAME_SHARE, CAME_DOUBT = 0.6, 0.3, 0.5  # ours, bounds 0.1 to 2 m and 0 to 1
"""The same of a fish that came to the fly and turned away: at least so surely, and as a share of how far the fly goes."""
PACES = {"still": 0.005, "slow": 0.05, "quick": 0.3}  # common practice: as an angler would tell his neighbour [m/s]
AFTER_NEWS_CASTS = 3  # common practice: a change, and what gave a fish, is given its casts
MISSES_ENOUGH = 2  # common practice: two that did not hold, and the fly or its pace is changed
RETIED, RETIED_FLIES = 3, 4  # ours, bounds 1 to 20: rigs on another line that are thought of with other flies, so many a seat
ENOUGH_CASTS = 4  # common practice: so many at a count or a float before it is left
PATIENCE_MIN, PATIENCE_MOST_MIN = (
    10.0,
    30.0,
)  # common practice: ten in a good hour, thirty when they hardly feed
GOOD_PH = 1.0  # ours, bounds 0.5 to 2: takes an hour of a good hour
TAKEN = 0.5  # ours, bounds 0.1 to 0.8: of the fish that are there, how many a good way is taken by
OFF_TABLE = 0.35  # ours, bounds 0 to 1: what a method is worth that the new reading does not think of


@dataclass
class Table:
    """What is handed over with the plan: the grid, every presentation worth thinking of, and what changes cost.

    `shift` tells how the light is expected to move the fish: pairs of minutes since the beginning and metres deeper than then.
    `about` tells of the flies of the box, `paces` how they may be brought back: with both, steps from any rig are thought of.
    """

    grid: Grid
    options: tuple[Presentation, ...]
    classes: tuple[str, ...]
    costs: Costs = field(default_factory=Costs)
    shift: tuple[tuple[float, float], ...] = ()
    day_min: float = 240.0
    about: Mapping[str, FlyAbout] = field(default_factory=dict)
    paces: tuple[Pace, ...] = ()

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> Table:
        centres_m, reaches_m, stated, wanted = (
            tuple(map(float, told["grid"][name])) for name in ("centres_m", "reaches_m", "stated", "wanted")
        )
        grid = Grid(centres_m, reaches_m, stated, wanted, float(told["grid"].get("rate_pmin") or USUAL_RATE_PMIN))
        options = tuple(Presentation.of(one) for one in told["options"])
        shift = tuple((float(one["at_min"]), float(one["deeper_m"])) for one in told.get("shift", ()))
        costs = Costs(**{name: float(value) for name, value in told.get("costs", {}).items()})
        about = {name: FlyAbout.of(one) for name, one in told.get("about", {}).items()}
        paces = tuple(Pace.of(one) for one in told.get("retrieves", ()))
        day_min = float(told.get("day_min", 240.0))
        return cls(grid, options, tuple(told["classes"]), costs, shift, day_min, about, paces)

    def shift_m(self, at_min: float) -> float:
        """Return how much deeper than at the beginning they are expected [m], between the hours of the day strip."""
        before = (0.0, 0.0)
        for at, by in self.shift:
            if at >= at_min:
                span = at - before[0]
                return by if span <= 0.0 else before[1] + (by - before[1]) * (at_min - before[0]) / span
            before = (at, by)
        return before[1]


@dataclass
class Day:
    """A day as it is fished: the belief, and what is needed to say what it rests on.

    `blanks` are ways with their casts in a row without anything, whatever was changed between them; `idle` the casts that each
    way has had without anything; `answers` what came of each fly; `misses` what came and did not hold since a fish that did.
    """

    table: Table
    belief: SearchBelief
    known: dict[str, Exposed] = field(default_factory=dict)
    paths: dict[tuple[Any, Any], Exposed] = field(default_factory=dict)
    blanks: list[tuple[str, int]] = field(default_factory=list)
    idle: dict[str, int] = field(default_factory=dict)
    minutes_in: list[float] = field(default_factory=list)
    events: list[tuple[float, Event]] = field(default_factory=list)
    answers: list[Answer] = field(default_factory=list)
    felt: list[messages.Felt] = field(default_factory=list)
    at_min: float = 0.0
    casts: int = 0
    misses: int = 0
    missed: list[str] = field(default_factory=list)
    took: set[str] = field(default_factory=set)
    others_min: float | None = None
    now: str | None = None
    since_change_min: float = 0.0
    changed_casts: int = 0
    heard_casts: int = -1
    fish_casts: int | None = None
    here_since_min: float = 0.0
    moved_cells: int = 0
    water_changed: bool = False
    spots: list[Spot] = field(default_factory=list)

    def exposed(self, one: Presentation) -> Exposed:
        known = self.known.get(one.key)
        if known is None or known.one.share != one.share:
            path = (one.time_s, one.depth_m)
            like = self.paths.get(path)
            known = self.known[one.key] = Exposed(one, self.table.grid, like)
            self.paths.setdefault(path, known)
        return known

    def forget(self, but: Collection[str]) -> None:
        """Keep no more in mind than what was fished and may be proposed."""
        for key in [key for key in self.known if key not in but]:
            del self.known[key]
        for path in [path for path, one in self.paths.items() if one.one.key not in but]:
            del self.paths[path]

    def pass_to(self, at_min: float) -> None:
        self.belief.wait(at_min - self.at_min)
        self.at_min = max(self.at_min, at_min)
        cells = round(self.table.shift_m(self.at_min) / self.table.grid.step_m)
        if cells != self.moved_cells:
            self.belief.shift(cells - self.moved_cells)
            self.moved_cells = cells

    def cast(self, exposed: Exposed, events: Sequence[Event], *, came_near: bool = False) -> None:
        """Learn from a cast; one that a fish followed and left is no blank."""
        self.casts += 1
        for span_min, depths in exposed.spans:
            for depth in depths:
                layer = int(depth / LAYER_M)
                self.minutes_in += [0.0] * (layer + 1 - len(self.minutes_in))
                self.minutes_in[layer] += span_min / len(depths)
        key = exposed.one.key
        if events or came_near:
            self.blanks = []
            self.idle[key] = 0
        else:
            self.idle[key] = self.idle.get(key, 0) + 1
            if self.blanks and self.blanks[-1][0] == key:
                self.blanks[-1] = (key, self.blanks[-1][1] + 1)
            else:
                self.blanks.append((key, 1))
        if events or not came_near:
            self.belief.cast(exposed, events)

    def answered(self, one: Presentation, kind: str, fly: int | None) -> None:
        """Keep what came of the flies of a way: of all of them, where nobody knows which."""
        seats = range(len(one.flies)) if fly is None else (min(fly, len(one.flies) - 1),)
        share = 1.0 / len(seats)
        for i in seats:
            about = self.table.about.get(one.flies[i].name) or FlyAbout(one.flies[i].fly_class)
            hit, miss = share * HITS.get(kind, 0.0), share * MISSES.get(kind, 0.0)
            self.answers.append(Answer(one.flies[i].name, about, one.pace_mps, hit, miss, self.casts))

    def miss(self, one: Presentation, fly: int | None) -> None:
        """Keep that something came to a fly and did not hold."""
        self.misses += 1
        self.missed += [tied.name for i, tied in enumerate(one.flies) if fly in (None, i)]

    def heard_of(self, told: Mapping[str, Any]) -> None:
        """Keep what another's fish took, as far as he told."""
        fly_class = int(told.get("fly_class") or 0)
        if fly_class or told.get("colour") or told.get("hook_size") or told.get("pace"):
            about = FlyAbout(fly_class, str(told.get("colour") or ""), int(told.get("hook_size") or UNKNOWN_HOOK))
            pace = PACES.get(str(told.get("pace")), USUAL_PACE_MPS)
            self.answers.append(Answer("", about, pace, HITS["told"], 0.0, self.casts))


@dataclass
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
            events=list(day.events), answers=list(day.answers), missed=list(day.missed), took=set(day.took),
            felt=list(day.felt), spots=list(day.spots),
        )  # fmt: skip
        return Replay(same, self.open_id, self.open_min, list(self.came), self.came_near, self.before)

    def read(self, one: Mapping[str, Any], fished: Mapping[str, Presentation]) -> None:
        """Take one line of the log.

        It has `at_min` since the beginning, its `kind`, and by kind the id of what was `fished`, a `depth_m`, a `fly` by its
        place on the leader, a `fly_class` that another took, where a cast went (`toward`, `far`), and of water that changed
        what a new reading has `stated` of the depths and `wanted` of the flies.
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
            day.fish_casts, day.misses, day.missed = day.casts, 0, []
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
            grid, stated = day.table.grid, to_one(one["stated"])
            rate = float(one.get("rate_pmin") or grid.rate_pmin)
            new = replace(grid, stated=stated, wanted=to_one(one["wanted"]), rate_pmin=rate)
            share += CHANGED_MORE * 0.5 * math.fsum(abs(a - b) for a, b in zip(stated, grid.stated, strict=True))
            day.table = replace(day.table, grid=new)
        day.belief.renewed(share, new)
        day.heard_casts = day.casts
        day.idle, day.water_changed, day.misses, day.missed, day.fish_casts = {}, True, 0, [], None

    def close(self, fished: Mapping[str, Presentation]) -> None:
        """End the cast that is in the water, with what came in it."""
        if self.open_id is not None:
            self.day.cast(self.day.exposed(fished[self.open_id]), self.came, came_near=self.came_near)
        self.open_id, self.came, self.came_near = None, [], False


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
        return Replay(Day(self.table, SearchBelief(self.table.grid), self._known))

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
        fished = {name: Presentation.of(one) for name, one in log.get("fished", {}).items()}
        day = self.day(log, fished)
        tied = log.get("now") or day.now
        if tied != day.now:
            day.now, day.since_change_min, day.changed_casts = tied, day.at_min, day.casts
        now = day.exposed(self._as_it_is(day, fished[tied])) if tied else None
        refused = {one["key"] for one in log.get("refused", ())}
        ways = {one.key: one for one in (*self.table.options, *fished.values())}
        if now is not None:
            for one in self._steps(now.one):
                by_now = replace(one, share=self._worth_by_now(one)) if day.water_changed else one
                ways.setdefault(one.key, by_now)
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
            steps = steps_from(now, self.table.about, self.table.paces, self.table.options, self.table.grid.deepest_m)
            self._stepped = kept, list(steps)
        return self._stepped[1]

    def _retied(self, day: Day, now: Presentation) -> list[Presentation]:
        """Return the table's best ways on another line with a fly that others are taken on: a new rig is tied with those."""
        rates = day.belief.interest()
        others = [one for one in self.table.options if self.table.costs.between(now, one) > DEAR_MIN]
        best = sorted(others, key=lambda one: (-takes_pmin(day.exposed(one), rates), one.key))[:RETIED]
        return [tied for one in best for tied in other_flies(one, self.table.about, RETIED_FLIES)]

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
            since_any_min=min(ago, default=None),
            blank_min=blank_min,
            blank_casts=blank_casts,
            blank_ways=len({key for key, _ in day.blanks}),
            misses=day.misses,
            missed=frozenset(day.missed),
            worn=frozenset(day.missed) & day.took,
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
    """Return what a day's log means, as `read_log` takes it, from text to text: what crosses to a worker and back. The last
    table's thinker is kept."""
    if table not in _kept:
        _kept.clear()
        read = json.loads(table)
        _kept[table] = read, Thinker(read)
    read, thinker = _kept[table]
    return json.dumps(thinker.think(read_log(read, json.loads(logged))))


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
        "move": None
        if move is None
        else {**_shown(day, move), "words": [asdict(one) for one in messages.what_to_do(day, move)]},
    }


def _shown(day: Day, move: Move) -> dict[str, Any]:
    """Return a move; what it proposes comes with how it is fished, where that is not on the table."""
    told = asdict(move)
    best = day.known[move.best.key].one
    if all(one.key != best.key for one in day.table.options):
        done = {"action": dict(best.action), "like": best.like or best.key} if best.action else None
        told["best"] |= {"presentation": as_json(best), "fish": done}
    return {**told, "words": [asdict(one) for one in messages.what_to_do(day, move)]}

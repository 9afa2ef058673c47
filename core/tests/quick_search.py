"""The belief and the move once more, in arrays: an independent check of `stillthread.search`, and quick enough for many days."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from stillthread.search import belief as of_belief
from stillthread.search import day as of_day
from stillthread.search import likes as of_likes
from stillthread.search import policy as of_policy
from stillthread.search import thinker as of_thinker
from stillthread.search.grid import RATE_PRIOR, RATE_TIMES, Grid
from stillthread.search.presentation import KNOCK, TAKE, Costs, Presentation, spans_of
from stillthread.search.steps import OTHER_PACE

Floats = NDArray[np.float64]
KINDS = (of_belief.STILL, of_belief.DRIFTING, of_belief.SCHOOLS)
RATES_N = len(RATE_TIMES)
OF_FISH = np.array([0.0, *RATE_PRIOR[1:]]) / sum(RATE_PRIOR[1:])
FLIES = 4


def answered(centre: Any, reach: Any, depth: Any) -> Floats:
    """Return how surely fish answer a fly, for arrays that broadcast."""
    off = np.where(depth <= centre, (centre - depth) / reach, (centre - depth) / 0.15)
    return np.asarray(np.exp(-off * off))


def shared(reached: Floats, wanted: Sequence[bool]) -> Floats:
    """Return which fly is answered; the flies are the first axis."""
    of = np.array(wanted if any(wanted) else [True] * len(wanted)).reshape(-1, *(1,) * (reached.ndim - 1))
    first, rest = np.where(of, reached, -1.0), np.where(of, -1.0, reached)
    best = first.max(axis=0)
    shares = np.where((np.arange(len(reached)).reshape(of.shape) == first.argmax(axis=0)) & of, best, 0.0)
    if not of.all():
        more = np.maximum(rest.max(axis=0) - best, 0.0)
        shares += np.where((np.arange(len(reached)).reshape(of.shape) == rest.argmax(axis=0)) & ~of, more, 0.0)
    return np.asarray(shares)


@dataclass
class Options:
    """Presentations against cells, as arrays: events, takes and events on each fly by option, class wanted and cell."""

    ways: list[Presentation]
    grid: Grid
    costs: Costs

    def __post_init__(self) -> None:
        n, classes, cells = len(self.ways), self.grid.classes + 1, len(self.grid.cells)
        self.minutes = np.array([one.minutes for one in self.ways])
        self.takes, self.events = np.zeros((n, classes, cells)), np.zeros((n, classes, cells))
        self.on = np.zeros((n, FLIES, classes, cells))
        self.cost = np.array([[self.costs.between(a, b) for b in self.ways] for a in self.ways])
        self.spans = [
            (np.array([m for m, _ in spans]), np.array([d for _, d in spans]).T) for spans in map(spans_of, self.ways)
        ]
        self.wanted = [[tuple(k in (0, fly.fly_class) for fly in one.flies) for k in range(classes)] for one in self.ways]
        self._met: dict[tuple[int, tuple[bool, ...]], Floats] = {}
        for o in range(n):
            for k, wanted in enumerate(self.wanted[o]):
                met = self.ways[o].share * self.met(o, wanted).sum(axis=1)
                for i, w in enumerate(wanted):
                    self.takes[o, k] += TAKE[w] * met[i]
                    self.on[o, i, k] = (TAKE[w] + KNOCK[w]) * met[i]
        self.events = self.on.sum(axis=1)
        most = max(len(one.flies) for one in self.ways)
        self.rates = np.array(self.grid.rates_pmin)
        self.seat = np.array([[i < len(one.flies) for i in range(most)] for one in self.ways])
        self.fly_class = np.array([[*(f.fly_class for f in one.flies), *[0] * (most - len(one.flies))] for one in self.ways])
        self.works_m = np.array([one.works_m for one in self.ways])
        self.pace = np.array([one.pace_mps for one in self.ways])
        self.still = np.array([one.still for one in self.ways])
        self.flat_takes, self.flat_events = self.takes.reshape(n, -1), self.events.reshape(n, -1)

    def met(self, o: int, wanted: tuple[bool, ...]) -> Floats:
        """Return minutes in which a fish would answer, by fly, span and cell."""
        if (o, wanted) not in self._met:
            minutes, depths = self.spans[o]
            centre, reach = (np.array(v)[None, None, :] for v in zip(*self.grid.cells, strict=True))
            self._met[o, wanted] = minutes[None, :, None] * shared(answered(centre, reach, depths[:, :, None]), wanted)
        return self._met[o, wanted]

    def likely(self, o: int, events: Sequence[of_belief.Event]) -> Floats:
        """Return the likelihood of one cast by class, cell and rate."""
        found: Floats = np.exp(-self.events[o][:, :, None] * self.rates)
        for event in events:
            off = (event.depth_m - self.spans[o][1]) / event.sd_m
            near = np.exp(-0.5 * off * off) / (event.sd_m * math.sqrt(2.0 * math.pi))
            part = 0.03 if event.took else 0.6 if event.early else 0.08
            stray = part * self.grid.rate_pmin * self.ways[o].share * self.minutes[o] / self.grid.deepest_m
            for k, wanted in enumerate(self.wanted[o]):
                weight = TAKE if event.took else KNOCK
                met = self.met(o, wanted)
                flies = range(len(wanted)) if event.fly is None else [event.fly]
                g = self.ways[o].share * sum(weight[wanted[i]] * (near[i] @ met[i]) for i in flies)
                found[k] *= np.asarray(g)[:, None] * self.rates + stray
        return found


class Belief:
    """The three kinds of day by class, cell and rate."""

    def __init__(self, grid: Grid) -> None:
        self.centres, self.step_m = len(grid.centres_m), grid.step_m
        self.rates = np.array(grid.rates_pmin)
        self.prior = np.array(grid.prior()).reshape(grid.classes + 1, len(grid.cells), RATES_N)
        self.of = np.stack([of_belief.WEIGHTS[kind] * self.prior for kind in KINDS])

    def wait(self, minutes: float) -> None:
        hours = minutes / 60.0
        for kind, fade_ph in of_belief.RATE_LEAK_PH.items():
            p = self.of[KINDS.index(kind)]
            share = 1.0 - math.exp(-fade_ph * hours)
            back = share * p[:, :, 1:].sum(axis=2)
            p[:, :, 1:] = (1.0 - share) * p[:, :, 1:] + back[:, :, None] * OF_FISH[1:]
        p = self.of[KINDS.index(of_belief.DRIFTING)]
        hops = of_belief.WALK_M2PH * hours / (2.0 * self.step_m**2)
        steps = max(1, math.ceil(hops / 0.25))
        by = p.reshape(p.shape[0], self.centres, -1)
        for _ in range(steps):
            up, down = np.concatenate([by[:, 1:], by[:, -1:]], axis=1), np.concatenate([by[:, :1], by[:, :-1]], axis=1)
            by[:] = (1.0 - 2.0 * hops / steps) * by + hops / steps * (up + down)
        share = 1.0 - math.exp(-of_belief.LEAK_PH * hours)
        back = share * p[:, :, 1:].sum() / self.prior[:, :, 1:].sum()
        p[:, :, 1:] = (1.0 - share) * p[:, :, 1:] + back * self.prior[:, :, 1:]

    def learn(self, likely: Floats) -> None:
        self.of *= likely
        self.of /= self.of.sum()

    def elsewhere(self) -> None:
        for p in self.of:
            total, empty = p.sum(axis=2), p[:, :, 0].copy()
            p[:, :, 0] = RATE_PRIOR[0] * total
            p[:, :, 1:] = (1.0 - RATE_PRIOR[0]) * (p[:, :, 1:] + empty[:, :, None] * OF_FISH[1:])
        self.of /= self.of.sum()

    def joint(self) -> Floats:
        return np.asarray(self.of.sum(axis=0))


class Diary:
    """A day's casts as the policy remembers them: what was idle, what came and did not hold, and what that says of flies."""

    def __init__(self, options: Options) -> None:
        self.options = options
        self.idle = np.zeros(len(options.ways), dtype=int)
        self.casts = self.changed = 0
        self.now: int | None = None
        self.fish: int | None = None
        self.came_off: list[tuple[int, set[str]]] = []
        self.took: set[str] = set()
        self.blanks: list[int] = []
        self.answers: list[tuple[int, float, float, float, int]] = []
        self.changed_min = self.event_min = self.here_min = math.nan

    def cast(self, o: int, begins_min: float, events: Sequence[of_belief.Event]) -> None:
        """Keep one cast, which begins so long into the day."""
        if self.now != o:
            self.now, self.changed, self.changed_min = o, self.casts, begins_min
        one = self.options.ways[o]
        for event in events:
            seats = range(len(one.flies)) if event.fly is None else [event.fly]
            self.event_min = begins_min + one.minutes
            if not (event.early and not event.took):
                for i in seats:
                    hit, miss = (of_likes.HITS["take"], 0.0) if event.took else (0.0, of_likes.MISSES["knock"])
                    self.answers.append((one.flies[i].fly_class, one.pace_mps, hit / len(seats), miss / len(seats), self.casts))
                if event.took:
                    self.fish, self.came_off = self.casts, []
                    self.took |= {one.flies[i].name for i in seats}
                else:
                    self.came_off.append((self.casts, {one.flies[i].name for i in seats}))
        self.casts += 1
        if events:
            self.blanks, self.idle[o] = [], 0
            return
        self.idle[o] += 1
        self.blanks.append(o)

    def elsewhere(self, at_min: float) -> None:
        self.here_min, self.blanks, self.idle, self.took = at_min, [], np.zeros_like(self.idle), set()

    def liked(self) -> Floats:
        """Return how far each way is taken beside what the belief says of it; each class of fly is one fly of one size."""
        opts = self.options
        if not self.answers:
            return np.ones(len(opts.ways))
        of, pace, hit, miss, casts = (np.array(column) for column in zip(*self.answers, strict=True))
        fresh = 0.5 ** ((self.casts - casts) / of_likes.FADES_CASTS)
        fresh = np.where(fresh > of_likes.FORGOTTEN, fresh, 0.0)
        mine = opts.fly_class[:, :, None]
        alike = np.where(mine == of, 1.0, np.where(mine % 2 == of % 2, of_likes.ALIKE["shade"], of_likes.ALIKE["other"]))
        ratio = np.abs(np.log(opts.pace[:, None] / pace))
        paced = of_likes.ANY_PACE + (1.0 - of_likes.ANY_PACE) * np.exp(-ratio / of_likes.PACE_WIDTH)
        weight = fresh * alike * paced[:, None, :]
        hits = of_likes.USUAL_OF * of_likes.USUAL + weight @ hit
        found = hits / (of_likes.USUAL_OF + weight @ (hit + miss)) / of_likes.USUAL
        best = np.where(opts.seat, found, -np.inf).max(axis=1)
        mean = np.where(opts.seat, found, 0.0).sum(axis=1) / opts.seat.sum(axis=1)
        return np.asarray(of_likes.BEST_SEAT * best + (1.0 - of_likes.BEST_SEAT) * mean)

    def of_late(self) -> list[set[str]]:
        return [names for casts, names in self.came_off if self.casts - casts <= of_day.OF_LATE_CASTS]

    def going(self, at_min: float, left_min: float, belief: Belief) -> of_policy.Going:
        patience_min = min(max(10.0 * math.sqrt(1.0 / (30.0 * float((belief.joint() @ belief.rates).sum()))), 10.0), 30.0)
        late = self.of_late()
        misses, missed = len(late), frozenset[str]().union(*late)
        learnt = misses >= of_thinker.MISSES_ENOUGH and not missed.isdisjoint(self.took)
        since = None if math.isnan(self.event_min) else at_min - self.event_min
        quiet = min(at_min - self.changed_min, math.inf if since is None else since)
        news = self.casts - self.changed < of_thinker.AFTER_NEWS_CASTS
        fish = self.fish is not None and self.casts - self.fish <= of_thinker.AFTER_NEWS_CASTS and not misses
        blank_min = sum(self.options.ways[o].minutes for o in self.blanks)
        tried = frozenset(self.options.ways[int(o)].key for o in np.flatnonzero(self.idle >= of_thinker.ENOUGH_CASTS))
        return of_policy.Going(
            left_min=left_min, here_min=at_min - (0.0 if math.isnan(self.here_min) else self.here_min), since_event_min=since,
            came_here=not math.isnan(self.event_min) and not self.event_min < self.here_min, since_any_min=since,
            blank_min=blank_min, blank_casts=len(self.blanks), blank_ways=len(set(self.blanks)),
            misses=misses, missed=missed, held=news or fish,
            must_change=self.now is not None and (learnt or misses > of_thinker.MISSES_ENOUGH),
            impatient=self.now is not None and (quiet >= patience_min or misses >= of_thinker.MISSES_ENOUGH),
            worn=missed & self.took, tried=tried,
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Move:
    best: int
    change: bool
    elsewhere: bool
    value: Floats


def next_move(belief: Belief, options: Options, now: int | None, going: of_policy.Going, liked: Floats) -> Move:
    """Return the move, as `policy.next_move` has it."""
    joint = belief.joint()
    interest = joint @ options.rates
    minutes = options.minutes
    rate = options.flat_takes @ interest.ravel() / minutes * liked
    about = going.since_event_min is not None and going.since_event_min <= of_policy.SILENCE_MIN
    known = about or (going.since_any_min is not None and going.since_any_min <= of_policy.SILENCE_MIN)
    horizon = max(min(going.left_min, of_policy.LOOK_MIN if known else of_policy.GREEDY_MIN), 1.0)
    cost = np.zeros(len(minutes)) if now is None else options.cost[now]
    value = rate * np.maximum(horizon - cost, 0.0)
    if now is None:
        return Move(best=int(np.argmax(value)), change=True, elsewhere=False, value=value)
    open_ = np.array([i != now and one.key not in going.tried for i, one in enumerate(options.ways)])
    if going.misses >= of_policy.MISSES_KEEP_DEPTH:
        reach = np.where(options.still & options.still[now], of_policy.NEAR_FLOAT_M, of_policy.NEAR_M)
        far_is_worth = of_policy.FAR_OF_FLOAT_IS_WORTH if options.still[now] else of_policy.FAR_IS_WORTH
        near = np.abs(options.works_m - options.works_m[now]) <= reach
        flies = [{fly.name for fly in one.flies} for one in options.ways]
        gone = np.array([bool(going.worn or going.missed - names) for names in flies])
        paces = np.abs(np.log(options.pace / options.pace[now])) > math.log(OTHER_PACE)
        open_ &= (near & (gone | paces)) | (value > far_is_worth * value[now])
        if going.worn:
            open_ &= np.array([bool(going.worn - names) for names in flies])
    dear = cost > of_policy.DEAR_MIN
    best = _best(value, open_ & ~dear)
    if best is not None and going.misses >= of_policy.MISSES_KEEP_DEPTH:
        open_ &= ~dear
    best_dear = _best(value, open_ & dear)
    beats = of_policy.DEAR_BEATS_CHEAP * (of_policy.WHILE_FISH_ARE_ABOUT if about else 1.0)
    if best_dear is not None and (best is None or value[best_dear] > beats * max(value[best], value[now])):
        best = best_dear
    away = False
    if going.here_min >= of_policy.SETTLED_MIN and joint[:, :, 0].sum() > of_policy.EMPTY:
        other = Belief.__new__(Belief)
        other.of = belief.of.copy()
        other.elsewhere()
        fresh = float((options.flat_takes @ (other.joint() @ options.rates).ravel() / minutes).max())
        away = fresh * (going.left_min - 15.0) > float(rate.max()) * going.left_min
    worn = not going.came_here and (
        going.blank_ways >= of_policy.TRIED_WAYS
        and going.blank_casts >= of_policy.TRIED_CASTS
        and going.blank_min >= of_policy.TRIED_MIN
    )
    if worn and not away:
        other_way = _best(value, open_ & dear & (value > of_policy.DEAR_BEATS_CHEAP * value[now]))
        best = best if other_way is None else other_way
        long = going.blank_min >= of_policy.LONG_TRIED * of_policy.TRIED_MIN
        away = other_way is None and bool(long or joint[:, :, 0].sum() > of_policy.LIKELIER_EMPTY * RATE_PRIOR[0])
    if best is None:
        return Move(best=now, change=False, elsewhere=away, value=value)
    gains = value[best] - value[now] > of_policy.has_to_bring(float(cost[best])) * value[now]
    change = bool(gains and not going.held)
    if not change and (going.must_change or going.impatient):
        free, cheap = _best(value, open_ & (cost <= of_policy.FREE_MIN)), _best(value, open_ & ~dear)
        least = (
            (free, of_policy.AS_GOOD),
            (cheap, of_policy.MISSED_AS_GOOD if going.misses >= of_policy.MISSES_KEEP_DEPTH else 1.0),
        )
        other_ways = [one for one, share in least if one is not None and value[one] >= share * value[now]]
        if other_ways or going.must_change:
            if other_ways:
                best = other_ways[0]
            elif cheap is not None and going.misses >= of_policy.MISSES_KEEP_DEPTH:
                best = cheap
            change = True
    return Move(best=best if change else now, change=change, elsewhere=away, value=value)


def _best(value: Floats, of: NDArray[np.bool_]) -> int | None:
    return int(np.argmax(np.where(of, value, -np.inf))) if of.any() else None

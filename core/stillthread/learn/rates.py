"""Takes an hour, with how sure that is: what the log can tell of two ways to fish, and what it cannot.

Fish come by moods: on one day many take, on another nobody, whatever is fished. So the takes of a day are Poisson about the
way's own rate times the day's mood, a gamma of mean 1 and some shape: over the moods a negative binomial. The rates of the ways
themselves (depths, flies, spots) scatter about a common one, lognormally: what was fished little is drawn to what is usual.
Common rate, scatter and mood are not known either and are averaged over, on a grid: nothing is fitted and then believed.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from stillthread.errors import FloatArray, check_range
from stillthread.sourced import Sourced

LEVEL = 0.9  # ours: nine in ten
LITTLE_H = Sourced(2.0, "h", "common-practice", "two hours of something say little of it")
USUAL_PH = Sourced(1.0, "1/h", "common-practice", "takes an hour at an ordinary water, before anything is logged")
SHARED = Sourced(0.7, "1", "ours", "ways fished on one day share its mood: together they say less than each alone")
USUAL_SPREAD = Sourced(1.5, "1", "ours", "on a log scale: a ninth to nine times as many would not surprise")
# Shapes of the mood, from three days in four that bring next to nothing to days that are all alike; scatter of the ways, on a
# log scale, from alike to one bringing six times what another does.
_SHAPES = (0.3, 0.5, 0.8, 1.3, 2.0, 3.0, 5.0, 10.0, 40.0)  # ours: a grid
_SCATTERS = (0.1, 0.3, 0.55, 0.9, 1.3)  # ours: a grid
_RATES, _CENTRES, _FINE = 161, 41, 121  # ours: a grid
_LIVES = 1e-3  # ours: a mood less likely than this beside the likeliest is not carried on
_NARROW = 3.0  # ours: a chance narrower than so many steps of the grid is worked out on a finer one
_MANY, _ALIKE = 200, 0.04  # of more outings than this, hours are told apart on a log scale to this
_OUT = 6.0  # ours: standard deviations that the finer grid reaches either way


@dataclass(frozen=True, slots=True)
class Group:
    """One way to fish: `takes` and `hours` on each outing that fished it, shape (n_outing,), hours above 0; `counted` are the
    hours as they count, where they do not all alike (see `part_of_day`), and `unsure` the standard deviation of their
    logarithm as a whole."""

    key: str
    takes: FloatArray
    hours: FloatArray
    counted: FloatArray | None = None
    unsure: float = 0.0

    @property
    def counts(self) -> FloatArray:
        return self.hours if self.counted is None else self.counted


@dataclass(kw_only=True, frozen=True, slots=True)
class Rate:
    """Takes an hour of one way: mean and the ends of the interval, what it rests on, and the chance of each rate.

    `log_rate` (n,) is evenly spaced, `chance` (n,) sums to 1.
    """

    key: str
    takes: float
    hours: float
    outings: int
    mean_ph: float
    low_ph: float
    high_ph: float
    log_rate: FloatArray
    chance: FloatArray

    @property
    def thin(self) -> bool:
        """Whether it was fished too little to say much."""
        return self.hours < float(LITTLE_H)


def rates_of(groups: Sequence[Group], level: float = LEVEL) -> tuple[Rate, ...]:
    """Return the rate of every way with the interval that holds it with probability `level`, in their order.

    Parameters
    ----------
    groups : sequence of Group
        Each with at least one outing.
    level : float
        0.5 to 0.99.

    References
    ----------
    gelman-bda-2013, chapter 5, for the hierarchy; the negative binomial as a gamma mixture of Poissons, chapter 2.
    """
    check_range("level", level, 0.5, 0.99, "")
    if not groups:
        return ()
    grid = _rate_grid(groups)
    prior = _prior(grid)
    gathered = [_gathered(group) for group in groups]
    shapes = _moods(gathered)
    liked = [np.array([_log_likelihood(group, grid, k) for group in gathered]) for k in shapes]
    top = np.max(np.array(liked), axis=(0, 2))
    scaled = [np.exp(one - top[:, None]) for one in liked]
    gave = [np.maximum(prior @ one.T, 1e-300) for one in scaled]  # (n_prior, n_group): what each prior gave each group
    evidence = np.log(np.array(gave))  # (n_mood, n_prior, n_group)
    together = evidence.sum(axis=2)
    usual = np.log(_centre_weights(grid))
    found = []
    for i, group in enumerate(groups):
        # What the others, and the common rate, have to say of this one.
        said = float(SHARED) * (together - evidence[:, :, i]) + usual
        others = np.exp(said - said.max()) @ prior
        chance = np.asarray(sum(one[i] * other for one, other in zip(scaled, others, strict=True)))
        at, chance = _blurred(*_finer(gathered[i], grid, chance, shapes, others, float(top[i])), group.unsure)
        found.append(_rate(group, at, chance, level))
    return tuple(found)


def more_likely(a: Rate, b: Rate) -> float:
    """Return the chance that `a` brings more takes an hour than `b`, 0 to 1.

    Each is looked at alone: of two that share days, moods are shared too, and the truth is a little surer than this.
    """
    at = np.union1d(a.log_rate, b.log_rate)
    up_to_b = np.interp(at, b.log_rate, np.cumsum(b.chance) - 0.5 * b.chance, left=0.0, right=1.0)
    mass_a = np.diff(np.interp(at, a.log_rate, np.cumsum(a.chance) - 0.5 * a.chance, left=0.0, right=1.0), prepend=0.0)
    middle = 0.5 * (up_to_b + np.concatenate(([0.0], up_to_b[:-1])))
    return float(np.clip((mass_a * middle).sum() / max(mass_a.sum(), 1e-12), 0.0, 1.0))


def _rate_grid(groups: Sequence[Group]) -> FloatArray:
    takes, hours = (float(sum(getattr(group, name).sum() for group in groups)) for name in ("takes", "counts"))
    base = (takes + 1.0) / (hours + 1.0 / float(USUAL_PH))
    return np.linspace(np.log(min(base, 1.0) / 60.0), np.log(max(base, 1.0) * 20.0), _RATES)


def _prior(grid: FloatArray) -> FloatArray:
    """Return what each common rate and scatter say of a way's rate, shape (n_scatter * n_centre, n_rate), each summing to 1."""
    centres = np.linspace(grid[0], grid[-1], _CENTRES)
    rows = [
        np.exp(-0.5 * ((grid[None, :] - centres[:, None]) / max(scatter, 0.7 * (grid[1] - grid[0]))) ** 2)
        for scatter in _SCATTERS
    ]
    prior = np.concatenate(rows)
    return np.asarray(prior / prior.sum(axis=1, keepdims=True))


def _centre_weights(grid: FloatArray) -> FloatArray:
    centres = np.linspace(grid[0], grid[-1], _CENTRES)
    usual = np.exp(-0.5 * ((centres - np.log(float(USUAL_PH))) / float(USUAL_SPREAD)) ** 2)
    return np.tile(np.maximum(usual, 1e-300), len(_SCATTERS))[None, :]


@dataclass(frozen=True, slots=True)
class _Gathered:
    """Outings of a group, those alike as one: takes and hours of each kind and how many there are, shape (n_kind,)."""

    takes: FloatArray
    hours: FloatArray
    times: FloatArray

    @property
    def all_takes(self) -> float:
        return float((self.takes * self.times).sum())


def _gathered(group: Group) -> _Gathered:
    """Return the outings of a group; of very many, those of as many takes in nearly the same time as one."""
    if len(group.takes) < _MANY:
        return _Gathered(group.takes, group.counts, np.ones(len(group.takes)))
    # Takes and hours as one number: takes are whole, and no two hours lie a million steps apart.
    step = np.round(np.log(group.counts) / _ALIKE) + 5e5
    kinds, which, times = np.unique(1e6 * group.takes + step, return_inverse=True, return_counts=True)
    hours = np.bincount(which.ravel(), weights=group.counts) / times
    return _Gathered(np.floor(kinds / 1e6), hours, times.astype(float))


def _moods(groups: Sequence[_Gathered]) -> tuple[float, ...]:
    """Return the shapes of the mood that are worth carrying on: what all groups at one rate each make likely."""
    if sum(float(group.times.sum()) for group in groups) < 500:
        return _SHAPES
    rates = [float(np.log((g.all_takes + 0.5) / (float((g.hours * g.times).sum()) + 0.5))) for g in groups]
    fits = np.array([_at_rates(groups, rates, k) for k in _SHAPES])
    lives = fits >= float(np.max(fits)) + math.log(_LIVES)
    return tuple(k for k, keep in zip(_SHAPES, lives, strict=True) if keep)


def _at_rates(groups: Sequence[_Gathered], log_rates: Sequence[float], k: float) -> float:
    return sum(float(_log_likelihood(g, np.array([rate]), k)[0]) for g, rate in zip(groups, log_rates, strict=True))


def _log_likelihood(group: _Gathered, log_rate: FloatArray, k: float) -> FloatArray:
    """Return how well each rate explains a group's outings under a mood of this shape, less what no rate changes; (n_rate,)."""
    takes, hours, times = group.takes, group.hours, group.times
    shape = np.zeros(len(takes))
    for n in range(int(np.max(takes)) if len(takes) else 0):
        # log of gamma(takes + k) / gamma(k) for whole takes: no more than a few logs.
        shape += np.where(takes > n, np.log1p(n / k), 0.0)
    expected = np.exp(log_rate)[None, :] * (hours / k)[:, None]
    fits = -((takes + k) * times) @ np.log1p(expected)
    return np.asarray(fits + group.all_takes * log_rate + float((times * (takes * np.log(hours) + shape)).sum()))


def _finer(
    group: _Gathered, grid: FloatArray, chance: FloatArray, shapes: Sequence[float], others: Sequence[FloatArray], top: float
) -> tuple[FloatArray, FloatArray]:
    """Return the grid and the chances of each rate on it, on a finer one where the log knows the rate that well."""
    chance = chance / chance.sum()
    mean = float(chance @ grid)
    spread, step = math.sqrt(max(float(chance @ (grid - mean) ** 2), 0.0)), float(grid[1] - grid[0])
    if spread > _NARROW * step:
        return grid, chance
    reach = _OUT * max(spread, 0.5 * step)
    at = np.linspace(mean - reach, mean + reach, _FINE)
    fine = np.zeros(_FINE)
    for k, other in zip(shapes, others, strict=True):
        fine += np.exp(_log_likelihood(group, at, k) - top) * np.interp(at, grid, other)
    return at, np.asarray(fine / fine.sum())


def _blurred(at: FloatArray, chance: FloatArray, sd: float) -> tuple[FloatArray, FloatArray]:
    """Return a chance over evenly spaced log rates with an error of this standard deviation added to each."""
    if sd <= 0.0:
        return at, chance
    step = float(at[1] - at[0])
    reach = math.ceil(3.0 * sd / step)
    by = step * np.arange(-reach, reach + 1)
    bell = np.exp(-0.5 * (by / max(sd, step)) ** 2)
    wider = np.convolve(chance, bell / bell.sum())
    return at[0] + step * np.arange(-reach, len(at) + reach), np.asarray(wider / wider.sum())


def _rate(group: Group, at: FloatArray, chance: FloatArray, level: float) -> Rate:
    half = 0.5 * float(at[1] - at[0])
    edges = np.concatenate((at - half, [at[-1] + half]))
    reached = np.concatenate(([0.0], np.cumsum(chance)))
    low, high = np.exp(np.interp([0.5 - 0.5 * level, 0.5 + 0.5 * level], reached, edges))
    mean = float(chance @ np.exp(at))
    takes, hours = float(group.takes.sum()), float(group.hours.sum())
    return Rate(
        key=group.key,
        takes=takes,
        hours=hours,
        outings=len(group.takes),
        mean_ph=mean,
        low_ph=float(low),
        high_ph=float(high),
        log_rate=at,
        chance=chance,
    )

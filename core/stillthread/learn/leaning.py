"""What the log has to say of where they feed: takes of days like this one against what was expected of them, by depth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from stillthread.errors import FloatArray
from stillthread.learn.exposure import LOG_LAYER_M
from stillthread.phrase import Phrase
from stillthread.sourced import Sourced

BELIEVED_TAKES = Sourced(12.0, "1", "ours", "so many takes on days just like this one move the belief by half of the most")
MOST_SHARE = Sourced(0.5, "1", "ours", "the log never has more than this to say: fish move, and a habit is no proof")
MOST_RATIO = Sourced(2.5, "1", "ours", "of one depth the log says at most so many times more, or less, than was expected")
PRIOR_TAKES = Sourced(2.0, "1", "ours", "in each layer what was expected counts as so many takes")
SMOOTH_M = Sourced(0.75, "m", "ours", "takes and hours of neighbouring depths speak for one another over this")
LEAST_SHARE = 0.03  # ours: below this nothing is said or moved


@dataclass(frozen=True, slots=True)
class LikeDay:
    """A day of the log: how `alike` it is, 0 to 1; `takes` by layer of depth; and what its own advice `expected` of the hours
    that were fished in each layer, in any one unit; both (n_layer,)."""

    alike: float
    takes: FloatArray
    expected: FloatArray


@dataclass(frozen=True, slots=True)
class Lean:
    """How the log moves the belief: `ratio` (n_layer,) by layers of `LOG_LAYER_M` from the top, of which `share` counts.

    `days` like this one, their `takes`, and between which depths [m] more took than was expected, `None` where nowhere.
    """

    ratio: FloatArray
    share: float
    days: int
    takes: float
    more_m: tuple[float, float] | None

    def factor(self, depth_m: FloatArray) -> FloatArray:
        """Return by what the density at these depths [m] is multiplied, before it is made whole again, shape of `depth_m`.

        No two depths are moved apart by more than `most_moved`.
        """
        middles = LOG_LAYER_M * (np.arange(len(self.ratio)) + 0.5)
        return np.asarray(1.0 - self.share + self.share * np.interp(depth_m, middles, self.ratio))

    @property
    def why(self) -> Phrase:
        values = {"days_n": self.days, "takes_n": self.takes, "share_pct": 100.0 * self.share}
        many = "{days_n} days" if self.days > 1 else "one day"
        if self.more_m is None:
            return Phrase(f"{many.capitalize()} like this one, {{takes_n}} takes: where they were expected.", values)
        values |= {"low_m": self.more_m[0], "high_m": self.more_m[1]}
        text = f"{many.capitalize()} like this one: more took at {{low_m}} to {{high_m}} than expected."
        text += " The log counts {share_pct}."
        return Phrase(text, values)


def most_moved() -> float:
    """Return by how much the log can at most move one depth against another: so much, and no more, it can mislead."""
    share, ratio = float(MOST_SHARE), float(MOST_RATIO)
    return (1.0 - share + share * ratio) / (1.0 - share + share / ratio)


def lean_of(days: Sequence[LikeDay], deepest_m: float) -> Lean | None:
    """Return how days like this one lean the belief over a water so deep [m]; `None` while the log has nothing to say.

    In every layer takes are gamma-Poisson about what was expected there: (takes + a) / (expected + a). What is expected is
    scaled to as many takes as there were, so that a good day says nothing and a good depth does.
    """
    layers = max(int(np.ceil(deepest_m / LOG_LAYER_M)), 1)
    takes, expected = (
        np.asarray(sum((day.alike * _fit(getattr(day, name), layers) for day in days), np.zeros(layers)))
        for name in ("takes", "expected")
    )
    total = float(takes.sum())
    share = float(MOST_SHARE) * total / (total + float(BELIEVED_TAKES))
    if share < LEAST_SHARE or float(expected.sum()) <= 0.0:
        return None
    near = _smoothing(layers)
    took, hoped = near @ takes, near @ (expected * total / float(expected.sum()))
    ratio = (took + float(PRIOR_TAKES)) / (hoped + float(PRIOR_TAKES))
    ratio = np.clip(ratio, 1.0 / float(MOST_RATIO), float(MOST_RATIO))
    counted = [day for day in days if day.alike >= 0.1]
    found = float(sum(day.takes.sum() for day in counted))
    return Lean(ratio, share, len(counted), found, _more(ratio, deepest_m))


def _fit(values: FloatArray, layers: int) -> FloatArray:
    """Return values by layer for a water of so many; what was deeper counts at the bottom."""
    out = np.zeros(layers)
    n = min(len(values), layers)
    out[:n] = values[:n]
    out[-1] += float(values[layers:].sum())
    return out


def _smoothing(layers: int) -> FloatArray:
    at = LOG_LAYER_M * np.arange(layers)
    near = np.exp(-0.5 * ((at[:, None] - at[None, :]) / float(SMOOTH_M)) ** 2)
    return np.asarray(near / near.sum(axis=0, keepdims=True))


def _more(ratio: FloatArray, deepest_m: float) -> tuple[float, float] | None:
    """Return the depths [m] about the layer that gave most beyond what was expected, where one stands out."""
    best = int(np.argmax(ratio))
    if ratio[best] < 1.15:
        return None
    level = 1.0 + 0.5 * (float(ratio[best]) - 1.0)
    first, last = best, best
    while first > 0 and ratio[first - 1] >= level:
        first -= 1
    while last + 1 < len(ratio) and ratio[last + 1] >= level:
        last += 1
    return LOG_LAYER_M * first, min(LOG_LAYER_M * (last + 1), deepest_m)

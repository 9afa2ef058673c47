"""What is seen is evidence of depth itself: rises are fish at the top, whatever light and season say."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from stillthread.depth.factors import LEAST_SHARE, Factor
from stillthread.errors import FloatArray
from stillthread.food.signs import Sign
from stillthread.judgement import JUDGEMENT, Judgement
from stillthread.phrase import Phrase


def seen_layer(depth_m: FloatArray, signs: Sequence[Sign]) -> tuple[float, FloatArray]:
    """Return how far what was seen outweighs what is expected, 0 to 1, and where it says they are.

    Each sign that tells of depth leaves its own share of doubt; the shares multiply. The layers are averaged by their weights.

    Parameters
    ----------
    depth_m : array, shape (n_depth,)
        Rising from 0 to the bottom [m].
    signs : sequence of Sign

    Returns
    -------
    weight : float
    layer : array, shape (n_depth,)
        Share of them at each grid depth, summing to 1; zeros where nothing was seen.
    """
    layer, total, doubt = np.zeros_like(depth_m), 0.0, 1.0
    width = np.gradient(depth_m)
    for sign in signs:
        if sign.tells is None:
            continue
        middle = sign.tells.middle_m + sign.tells.middle_share * float(depth_m[-1])
        bell = np.exp(-(((depth_m - middle) / sign.tells.width_m) ** 2)) * width
        layer = layer + sign.tells.weight * bell / bell.sum()
        total += sign.tells.weight
        doubt *= 1.0 - sign.tells.weight
    return 1.0 - doubt, layer / total if total > 0.0 else layer


def seen_factor(layer_pm: FloatArray, weight: float, signs: Sequence[Sign]) -> Factor:
    """Return what was seen as a reason: `layer_pm` (n_depth,) its density, `weight` how far it outweighs the rest."""
    telling = sorted((sign for sign in signs if sign.tells is not None), key=lambda sign: -sign.tells.weight)  # type: ignore[union-attr]
    share = 1.0 - weight + weight * layer_pm / float(layer_pm.max())
    names = " and ".join(sign.name.lower() for sign in telling[:2])
    text = f"Seen: {names}. What is seen outweighs what is expected, by {{weight_pct}}."
    return Factor("seen", "Seen", np.maximum(share, LEAST_SHARE), Phrase(text, {"weight_pct": 100.0 * weight}))


def nothing_factor(depth_m: FloatArray, judgement: Judgement = JUDGEMENT) -> Factor:
    """Return what it says that nothing shows: few are near the top."""
    share = 1.0 - judgement.nothing_tells * np.exp(-((depth_m / judgement.nothing_top_m) ** 2))
    text = "Nothing shows: few of them are above {top_m}. Go down."
    return Factor("seen", "Seen", share, Phrase(text, {"top_m": judgement.nothing_top_m}))

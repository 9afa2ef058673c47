"""Which casts a log holds, and for how long each was in the water."""

from __future__ import annotations

from collections.abc import Sequence

from stillthread.trade.entries import ENDS_CAST


def casts_of(
    kinds: Sequence[str], at_s: Sequence[float], elapsed_s: Sequence[float | None], most_s: float
) -> list[tuple[int, float]]:
    """Return each cast of one presentation as its entry's index and how long the fly was in the water [s].

    It ended with what is said to have ended it, or when the next was made; never later than `most_s`, when it is fished out.

    Parameters
    ----------
    kinds, at_s, elapsed_s : sequences of one length, in order
        What was logged, when [s], and how far into its cast [s] where that is known.
    most_s : float
        How long a cast lasts that nothing ends [s].

    Examples
    --------
    >>> casts_of(["cast", "nothing", "cast", "take"], [0.0, 90.0, 100.0, 130.0], [None, None, None, 25.0], 80.0)
    [(0, 80.0), (2, 25.0)]
    """
    found: list[tuple[int, float]] = []
    for i, kind in enumerate(kinds):
        if kind != "cast":
            continue
        ends = most_s
        for j in range(i + 1, len(kinds)):
            if kinds[j] == "cast":
                ends = min(ends, at_s[j] - at_s[i])
                break
            if kinds[j] in ENDS_CAST:
                into = elapsed_s[j]
                ends = min(ends, at_s[j] - at_s[i] if into is None else into)
                break
        found.append((i, max(ends, 0.0)))
    return found

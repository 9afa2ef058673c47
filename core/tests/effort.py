"""How hard the tests look: every run a little, `make test-long` (STILLTHREAD_TESTS=long) at leisure."""

from __future__ import annotations

import os

LONG = os.environ.get("STILLTHREAD_TESTS") == "long"
SHARE, LEAST = 0.25, 8


def examples(most: int) -> int:
    """Return how many examples a property is held to: `most`, or a share of them in a run of every day."""
    return most if LONG else max(min(most, LEAST), round(SHARE * most))

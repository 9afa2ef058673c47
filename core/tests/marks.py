"""Named tolerances and the marker for pinned output."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

Case = TypeVar("Case", bound=Callable[..., None])

HALF_A_PRINTED_DIGIT_MGL = 0.0005
FORMULA_AGREES_KGM3 = 0.0007  # tanaka-2001 against IAPWS-95 over 4 to 32 C
CORRELATIONS_DIFFER = 0.25  # published cylinder correlations differ by up to this share
CALM_C = 0.05


def pinned(why: str) -> Callable[[Case], Case]:
    """Tag a test that compares with today's own output: it guards against drift and proves nothing."""

    def tag(case: Case) -> Case:
        case.pinned = why  # type: ignore[attr-defined]
        return case

    return tag

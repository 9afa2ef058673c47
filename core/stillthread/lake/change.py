"""What has changed in a lake of late, in words: where the thermocline went, and which wind or sun did it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from stillthread.phrase import Phrase

LOOKED_BACK_D = 5  # ours: what happened before is known by now
LEAST_M, LEAST_C = 0.8, 1.5  # ours: a lesser change calls for no other count
STRONG_MPS = 6.0  # ours: a day's mean wind that mixes


@dataclass(frozen=True, slots=True)
class DayOf:
    """A day of the lake: `thermocline_m` [m] or none, `top_c` [C] at a metre, its mean wind [m/s], and whether it was read
    on it."""

    on: date
    thermocline_m: float | None
    top_c: float
    wind_mps: float
    read: bool = False


def lake_changed(days: Sequence[DayOf], today: date) -> Phrase | None:
    """Return what changed over the last days before `today`, or nothing where nothing did; `days` in order."""
    near = [day for day in days if 0 <= (today - day.on).days <= LOOKED_BACK_D]
    # What a reading put right is no weather's doing: told is what came since.
    near = near[max((i for i, day in enumerate(near) if day.read), default=0) :]
    if len(near) < 2:
        return None
    first, last = near[0], near[-1]
    windiest = max(near[1:], key=lambda day: day.wind_mps)
    values: dict[str, float] = {"days_n": float((last.on - first.on).days)}
    cause = f"The wind of {windiest.on:%A}" if windiest.wind_mps >= STRONG_MPS else "Wind and cool nights"
    if first.thermocline_m is not None and last.thermocline_m is None:
        return Phrase(f"{cause} mixed the lake to the bottom: no layer holds them now.", values)
    if last.thermocline_m is None:
        return None
    values["now_m"] = last.thermocline_m
    if first.thermocline_m is None:
        return Phrase("The lake has layered within {days_n} days: the step lies at {now_m}. Fish the water above it.", values)
    by = last.thermocline_m - first.thermocline_m
    if by >= LEAST_M:
        values["by_m"] = by
        text = f"{cause} mixed it to {{now_m}}: the thermocline lies {{by_m}} deeper than {{days_n}} days ago, and so may they."
        return Phrase(text, values)
    if by <= -LEAST_M:
        values["by_m"] = -by
        text = "Calm and sun have made a new step at {now_m}: {by_m} higher than {days_n} days ago. Count less."
        return Phrase(text, values)
    if abs(last.top_c - first.top_c) >= LEAST_C:
        values |= {"was_c": first.top_c, "top_c": last.top_c}
        text = "The top went from {was_c} to {top_c} in {days_n} days; the thermocline stays at {now_m}."
        return Phrase(text, values)
    return None

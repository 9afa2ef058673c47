"""What a comparison says, and when the log cannot tell."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from stillthread.learn.rates import LITTLE_H, Rate, more_likely
from stillthread.phrase import Phrase
from stillthread.sourced import Sourced

SURE = Sourced(0.9, "1", "ours", "from this chance on one way is said to bring more than another")


@dataclass(frozen=True, slots=True)
class Compared:
    """The way that brought most, the one after it, the chance that it really is better, and whether that will do."""

    best: Rate
    other: Rate | None
    chance: float
    sure: bool


def best_of(rates: Sequence[Rate]) -> Compared | None:
    """Return the way that brought most of those that were fished enough, and how surely it did; `None` where none was."""
    able = sorted((rate for rate in rates if not rate.thin), key=lambda rate: -rate.mean_ph)
    if not able:
        return None
    best, other = able[0], able[1] if len(able) > 1 else None
    chance = more_likely(best, other) if other else 1.0
    return Compared(best, other, chance, other is not None and chance >= float(SURE))


def compared_words(found: Compared | None, names: Mapping[str, Phrase], hours: float) -> Phrase:
    """Return it in words; `names` says each way by its key, `hours` how long was fished in all."""
    if found is None:
        values = {"hours_n1": hours, "little_n": float(LITTLE_H)}
        return Phrase("{hours_n1} h is too little to tell: nothing was fished for {little_n} h.", values)
    best = _as("a", names[found.best.key])
    values = {**best.values, "rate_n1": found.best.mean_ph, "low_n1": found.best.low_ph, "high_n1": found.best.high_ph}
    lead = f"{best.text[:1].upper()}{best.text[1:]}: {{rate_n1}} an hour ({{low_n1}} to {{high_n1}})"
    if found.other is None:
        return Phrase(f"{lead}. Nothing else was fished enough to compare.", values)
    other = _as("b", names[found.other.key])
    values |= {**other.values, "other_n1": found.other.mean_ph, "sure_pct": 100.0 * found.chance}
    if found.sure:
        return Phrase(f"{lead}, more than {other.text} ({{other_n1}}): {{sure_pct}} sure.", values)
    values["least_n1"] = min(found.best.hours, found.other.hours)
    text = f"{lead}, but the log can’t tell it from {other.text} ({{other_n1}}): {{least_n1}} h is too little."
    return Phrase(text, values)


def _as(prefix: str, phrase: Phrase) -> Phrase:
    """Return a phrase whose values have names of their own."""
    text = re.sub(r"\{(\w+)\}", lambda found: f"{{{prefix}_{found[1]}}}", phrase.text)
    return Phrase(text, {f"{prefix}_{name}": value for name, value in phrase.values.items()})

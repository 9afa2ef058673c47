"""A sentence with its numbers kept apart, so that an interface can show them in the reader's own units."""

from __future__ import annotations

import re
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True)
class Phrase:
    """Words with placeholders whose last part is the SI unit: "sinks on to {deepest_m}".

    Units in use: `_m` depth or length, `_cm` small heights, `_c` temperature, `_mps` line speed, `wind_mps` wind speed,
    `_s` seconds, `_pct` percent, `_mgl` milligrams per litre, `_km` kilometres, `_min` minutes, `_n` a count,
    `_n1` and `_n2` a number to so many places.

    Examples
    --------
    >>> Phrase("sinks on to {deepest_m}", {"deepest_m": 2.416}).plain()
    'sinks on to 2.4 m'
    """

    text: str
    values: dict[str, float] = field(default_factory=dict)

    def plain(self) -> str:
        """Return the sentence in SI units, rounded for reading."""
        return re.sub(r"\{(\w+)\}", lambda found: _plain_number(found[1], self.values[found[1]]), self.text)


_PLAIN = {
    "m": (1, " m"), "c": (1, " C"), "s": (0, " s"), "cm": (0, " cm"), "pct": (0, " %"),
    "mgl": (1, " mg/L"), "km": (1, " km"), "min": (0, " min"), "n": (0, ""), "n1": (1, ""), "n2": (2, ""),
}  # fmt: skip


def _plain_number(name: str, value: float) -> str:
    unit = name.rsplit("_", 1)[-1]
    if unit == "mps":
        return f"{value:.0f} m/s" if name.endswith("wind_mps") else f"{100 * value:.0f} cm/s"
    digits, label = _PLAIN[unit]
    return f"{value:.{digits}f}{label}"

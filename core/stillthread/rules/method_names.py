"""What the ways of fishing are called, by the key under which rules, plans and logs know them."""

from __future__ import annotations

from types import MappingProxyType

METHOD_NAMES: MappingProxyType[str, str] = MappingProxyType(
    {
        "dry": "Dry or emerger on top",
        "sight": "Sight fishing to cruisers",
        "nymphs-floating": "Nymphs on a floater and long leader",
        "tip": "Sink tip and team",
        "intermediate": "Intermediate, moved",
        "sinker": "Full sinker, moved",
        "washing-line": "Washing line",
        "buoyant-deep": "Buoyant fly close to the bottom",
        "indicator": "Under an indicator",
        "drift-boat": "Drifting boat, short line",
        "tow": "Wind drift or slow troll",
        "fry": "Fry feeders",
    }
)

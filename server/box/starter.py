"""The starter box: descriptive tackle of no maker, for someone who has not listed their own yet."""

from __future__ import annotations

from dataclasses import asdict

from stillthread.api import FOODS, LINE_CLASSES, STARTER_LINE_KEYS
from stillthread.api import STARTER_FLIES as BOX_FLIES

STARTER_LINES = [
    {"name": kind.name, "class_key": kind.key, "number": 6, "sink_rate_mps": kind.label_sink_rate_mps}
    for kind in (LINE_CLASSES[key] for key in STARTER_LINE_KEYS)
]

STARTER_LEADERS = [
    {
        "name": "12 ft, for one or two flies",
        "sections": [
            {"length_m": 1.2, "diameter_m": 0.00045, "material": "nylon"},
            {"length_m": 1.5, "diameter_m": 0.00025, "material": "fluorocarbon"},
            {"length_m": 0.95, "diameter_m": 0.00020, "material": "fluorocarbon"},
        ],
    },
    {
        "name": "15 ft, bright and flat",
        "sections": [
            {"length_m": 1.2, "diameter_m": 0.00045, "material": "nylon"},
            {"length_m": 1.9, "diameter_m": 0.00023, "material": "fluorocarbon"},
            {"length_m": 1.5, "diameter_m": 0.00018, "material": "fluorocarbon"},
        ],
    },
    {
        "name": "6 ft, buoyant fly on a fast line",
        "sections": [
            {"length_m": 0.6, "diameter_m": 0.00040, "material": "nylon"},
            {"length_m": 1.2, "diameter_m": 0.00025, "material": "fluorocarbon"},
        ],
    },
]

STARTER_FLIES: list[dict[str, object]] = [
    {
        "imitates": FOODS[one.foods[0]].name.lower() if one.foods else "searching",
        "foods": list(one.foods),
        "style": one.style,
        "colour": one.colour,
        "left": one.left,
        **asdict(one.fly),
    }
    for one in BOX_FLIES
]

STARTER_FLOATS = ("fixed", "quick-release", "sliding")
STARTER_SPOOLS = [
    {"name": f"{1000 * diameter_m:.2f} mm {material}", "material": material, "diameter_m": diameter_m}
    for material, diameter_m in (
        ("nylon", 0.00045),
        ("nylon", 0.00020),
        ("fluorocarbon", 0.00025),
        ("fluorocarbon", 0.00020),
        ("fluorocarbon", 0.00015),
    )
]

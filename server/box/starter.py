"""The starter box: descriptive tackle of no maker, for someone who has not listed their own yet."""

from __future__ import annotations

from stillthread.tackle.lines import LINE_CLASSES

STARTER_LINE_KEYS = (
    "floating", "midge-tip", "hover", "intermediate", "fast-intermediate", "fast-tip", "type-3", "type-5", "type-7",
)  # fmt: skip
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
    {"name": "Slim olive nymph", "imitates": "damselfly nymph", "colour": "olive", "hook_size": 12, "dressing": "slim"},
    {"name": "Black ribbed pupa", "imitates": "midge pupa", "colour": "black", "hook_size": 12, "dressing": "slim"},
    {"name": "Fine-wire brown pupa", "imitates": "midge pupa", "colour": "brown", "hook_size": 14, "wire": "fine"},
    {
        "name": "Weighted olive shrimp", "imitates": "shrimp", "colour": "olive", "hook_size": 12,
        "bead": "brass", "bead_mm": 2.4,
    },
    {"name": "Red bottom larva", "imitates": "midge larva", "colour": "red", "hook_size": 12, "bead": "glass", "bead_mm": 2.5},
    {"name": "Black marabou leech", "imitates": "leech", "colour": "black", "hook_size": 10, "dressing": "bulky"},
    {
        "name": "Tungsten-headed black nymph", "imitates": "searching", "colour": "black", "hook_size": 10,
        "dressing": "slim", "bead": "tungsten", "bead_mm": 3.0,
    },
    {"name": "Foam-backed dragon nymph", "imitates": "dragonfly nymph", "colour": "brown", "hook_size": 10,
     "dressing": "bulky", "foam_mm3": 150.0},
    {"name": "Bright orange attractor", "imitates": "attractor", "colour": "orange", "hook_size": 10, "dressing": "bulky"},
    {"name": "Small pale fry", "imitates": "fry", "colour": "silver", "hook_size": 10, "dressing": "medium"},
]  # fmt: skip

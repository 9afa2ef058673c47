"""What today's tables and formulas make of a dozen situations, as plain numbers; written by `python -m tests.pinning` in core/."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np

from stillthread.depth.picture import read_water
from stillthread.plan.actions import HANGING_MPS
from stillthread.plan.match import Matcher
from stillthread.plan.methods import METHODS
from stillthread.plan.setting import setting_of
from stillthread.tackle.starter import STARTER_FLIES
from tests.practice.asking import conditions_of
from tests.practice.rows import ROWS

KEPT = Path(__file__).with_name("pinned.json")
KEYS = (
    "early-boat", "winter-pupae", "winter-margin", "winter-flies", "film-morning", "caddis-dusk", "ants", "boatmen", "late-autumn",
    "hot-sharp", "fleas", "pin-fry", "autumn-fry", "ledge", "damsels-over-weed", "one-and-one", "south-hatch", "coloured", "duns",
    "leeches-late", "big-dry",
)  # fmt: skip
SPEEDS_MPS = (HANGING_MPS, 0.05, 0.12, 0.4)


def told() -> dict[str, Any]:
    """Return foods, the belief at tenths of the depth, activity, and what every fly answers, situation by situation."""
    found: dict[str, Any] = {}
    for row in ROWS:
        if row.key not in KEYS:
            continue
        picture = read_water(conditions_of(row))
        belief = picture.belief
        at = np.linspace(0.0, float(belief.depth_m[-1]), 11)
        matcher = Matcher(picture.foods, setting_of(picture, pressed=row.pressed))
        found[row.key] = {
            "foods": {c.food.key: round(c.probability, 5) for c in picture.foods.chances if c.probability > 0.002},
            "hooks": {c.food.key: list(c.hooks) for c in picture.foods.chances[:6]},
            "reasons": [[why.plain() for why in c.reasons] for c in picture.foods.chances[:4]],
            "look_for": picture.foods.look_for.key if picture.foods.look_for else None,
            "belief": [round(float(x), 5) for x in np.interp(at, belief.depth_m, belief.density_pm)],
            "factors": {
                f.key: [round(float(x), 4) for x in np.interp(at[::2], belief.depth_m, f.share)] for f in belief.factors
            },
            "why": [f.why.plain() for f in belief.factors],
            "activity": round(picture.feeding_activity, 5),
            "flies": [[round(matcher.worth(fly, speed), 5) for speed in SPEEDS_MPS] for fly in STARTER_FLIES],
        }
    methods = {
        m.key: [m.way, list(m.lines_mps), m.tips, m.least_flies, m.most_flies, list(m.leaders_m), m.spacing_m, list(m.retrieves), m.greased]
        for m in METHODS.values()
    }  # fmt: skip
    return {"situations": found, "methods": methods}


if __name__ == "__main__":
    KEPT.write_text(json.dumps(told(), indent=1, sort_keys=True) + "\n")

"""Rigs and waters that several tests use."""

from __future__ import annotations

from datetime import datetime, timedelta, timezone

from stillthread.depth.picture import Conditions
from stillthread.sinking.cast import Water
from stillthread.tackle.flies import Fly
from stillthread.tackle.leaders import Leader, LeaderSection
from stillthread.tackle.lines import line_of_class
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.water.comfort import SPECIES
from stillthread.water.reading import Reading
from stillthread.water.seasonal import Lake
from stillthread.weather.sun import Place
from stillthread.weather.wind import Wind

DEEP_WATER = Water(10.0, ((0.0, 30.0), (1.0, 30.0)))
LIGHT_NYMPH = Fly(name="slim olive nymph", hook_size=14, dressing="medium", wire="fine")
HEAVY_NYMPH = Fly(name="beaded black nymph", hook_size=10, dressing="slim", bead="tungsten", bead_mm=3.0)
FOAM_NYMPH = Fly(name="foam-backed dragon nymph", hook_size=10, dressing="bulky", foam_mm3=150.0)
LEADER = Leader(
    "12 ft",
    (LeaderSection(1.2, 0.00045, "nylon"), LeaderSection(1.5, 0.00025), LeaderSection(1.0, 0.00020)),
)
SUMMER_TIME = timezone(timedelta(hours=2))
SUMMER_READINGS = tuple(Reading(float(d), t) for d, t in enumerate((18.6, 18.5, 18.4, 18.0, 16.8, 14.6, 12.5, 11.2, 10.2)))


def rig(class_key: str, fly: Fly = LIGHT_NYMPH, leader: Leader = LEADER) -> Rig:
    """Return one fly on a leader on a 6-weight line of this class."""
    return Rig(line_of_class(class_key), leader, (PlacedFly(fly),))


def conditions(**changes: object) -> Conditions:
    """Return a bright July morning on an upland reservoir, with whatever is changed."""
    usual: dict[str, object] = {
        "place": Place(61.2, 9.4),
        "lake": Lake(61.2, 412.0, 2.0),
        "at": datetime(2026, 7, 14, 10, 40, tzinfo=SUMMER_TIME),
        "readings": SUMMER_READINGS,
        "wind": Wind(4.0, 225.0),
        "cloud_fraction": 0.2,
        "secchi_m": 3.5,
        "bottom_depth_m": 9.0,
        "species": SPECIES["rainbow"],
    }
    return Conditions(**{**usual, **changes})  # type: ignore[arg-type]

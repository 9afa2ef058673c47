"""The face of the core: what a program that uses it needs, from one place.

Read the water (`Conditions`, `read_water`), plan out of a box (`Box`, `choose`), or simulate what is fished (`Rig`, `Cast`,
`simulate`). Everything is in SI units, and checked: errors are those of `StillthreadError`, each with its field.
"""

from stillthread import __version__
from stillthread.depth.day import DayStrip, Forecast, day_strip
from stillthread.depth.picture import Conditions, WaterPicture, read_water
from stillthread.depth.where_to_start import Start, where_to_start
from stillthread.errors import (
    BadFile,
    BadInput,
    MissingReading,
    NoAnswer,
    OnIce,
    OutOfRange,
    StillthreadError,
)
from stillthread.food.inference import Sample, SampleItem
from stillthread.phrase import Phrase
from stillthread.plan.box import Box, Pins
from stillthread.plan.casting_water import water_for
from stillthread.plan.choose import Plan, Ranked, choose, given_for, second_rod
from stillthread.plan.explaining.ladder import Rung, ladder
from stillthread.plan.methods import METHODS
from stillthread.plan.option import Option
from stillthread.plan.seeking.weigh import weigh
from stillthread.rules.water_rules import AgainstTheRules, WaterRules
from stillthread.sinking.action import Action
from stillthread.sinking.cast import Cast, CastResult, Water, level_water, simulate
from stillthread.sinking.hang import Hang
from stillthread.sinking.indicator import Drift, Indicator, IndicatorRig, simulate_drift
from stillthread.sinking.retrieves import RETRIEVES, Retrieve, retrieve_named
from stillthread.sinking.spread import simulate_spread
from stillthread.sinking.troll import Troll, simulate_troll
from stillthread.tackle.flies import Fly
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.leaders import Leader, LeaderSection
from stillthread.tackle.lines import Line, line_of_class, plain_sum_m
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from stillthread.water.comfort import SPECIES, Species, species_named
from stillthread.water.oxygen import OxygenReading
from stillthread.water.reading import Lowering, Reading
from stillthread.water.seasonal import Lake
from stillthread.weather.sun import Place
from stillthread.weather.wind import Wind

__all__ = [
    "METHODS",
    "RETRIEVES",
    "SPECIES",
    "STARTER_FLIES",
    "Action",
    "AgainstTheRules",
    "BadFile",
    "BadInput",
    "Box",
    "BoxFly",
    "Cast",
    "CastResult",
    "Conditions",
    "DayStrip",
    "Drift",
    "Fly",
    "Forecast",
    "Hang",
    "Indicator",
    "IndicatorRig",
    "Lake",
    "Leader",
    "LeaderSection",
    "Line",
    "Lowering",
    "MissingReading",
    "NoAnswer",
    "OnIce",
    "Option",
    "OutOfRange",
    "OxygenReading",
    "Phrase",
    "Pins",
    "Place",
    "PlacedFly",
    "Plan",
    "Ranked",
    "Reading",
    "Retrieve",
    "Rig",
    "Rung",
    "Sample",
    "SampleItem",
    "Species",
    "Start",
    "StillthreadError",
    "Troll",
    "Water",
    "WaterPicture",
    "WaterRules",
    "Wind",
    "__version__",
    "choose",
    "day_strip",
    "given_for",
    "ladder",
    "level_water",
    "line_of_class",
    "plain_sum_m",
    "read_water",
    "retrieve_named",
    "second_rod",
    "simulate",
    "simulate_drift",
    "simulate_spread",
    "simulate_troll",
    "species_named",
    "starter_lines",
    "water_for",
    "weigh",
    "where_to_start",
]  # fmt: skip

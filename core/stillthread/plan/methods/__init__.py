"""The methods of the trade, each an object that knows what it needs, who sits where and what is done. All common practice."""

from __future__ import annotations

from types import MappingProxyType

from stillthread.plan.methods.base import Method
from stillthread.plan.methods.buoyant_deep import BuoyantDeep
from stillthread.plan.methods.drift_boat import DriftBoat
from stillthread.plan.methods.dry import Dry
from stillthread.plan.methods.fry import FryFeeders
from stillthread.plan.methods.indicator import UnderIndicator
from stillthread.plan.methods.intermediate import Intermediate
from stillthread.plan.methods.nymphs_floating import NymphsFloating
from stillthread.plan.methods.sight import Sight
from stillthread.plan.methods.sinker import Sinker
from stillthread.plan.methods.tip import Tip
from stillthread.plan.methods.tow import Tow
from stillthread.plan.methods.washing_line import WashingLine

_ROWS: tuple[Method, ...] = (
    Dry(), Sight(), NymphsFloating(), Tip(), Intermediate(), Sinker(), WashingLine(), BuoyantDeep(), UnderIndicator(),
    DriftBoat(), Tow(), FryFeeders(),
)  # fmt: skip

METHODS: MappingProxyType[str, Method] = MappingProxyType({method.key: method for method in _ROWS})

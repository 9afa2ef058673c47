"""Whether a rig and a way to fish may be used on a water: its rules are constraints, never advice."""

from __future__ import annotations

from datetime import date

from stillthread.plan.methods import METHODS
from stillthread.plan.option import Option
from stillthread.rules.water_rules import LURE_STYLES, AgainstTheRules, WaterRules
from stillthread.sinking.cast import Cast
from stillthread.tackle.rig import Rig


def check_rig(rules: WaterRules, rig: Rig, on: date) -> None:
    """Raise `AgainstTheRules` when a rig may not be fished here on this day."""
    if not rules.open_on(on):
        raise AgainstTheRules(f"This water is closed on {on.day} {on:%B}. {rules.sentences()[0]}", field="at_local")
    if rules.most_flies is not None and len(rig.flies) > rules.most_flies:
        allowed = WaterRules(most_flies=rules.most_flies).sentences()[0]
        raise AgainstTheRules(f"{len(rig.flies)} flies are tied on. {allowed}", field="flies")
    for placed in rig.flies:
        if rules.largest_hook is not None and placed.fly.hook_size < rules.largest_hook:
            allowed = WaterRules(largest_hook=rules.largest_hook).sentences()[0]
            raise AgainstTheRules(f"{placed.fly.name} is on a {placed.fly.hook_size}. {allowed}", field="flies")
    # A cast is of any method that its line serves: it is against the rules when every one of them is.
    serving = [method.key for method in METHODS.values() if issubclass(method.action, Cast) and method.takes(rig.line)]
    bans = [rules.ban_on(key, on) for key in serving]
    if bans and all(bans):
        raise AgainstTheRules(" ".join(ban.sentence for ban in bans if ban), field="line")


def check_option(option: Option, rules: WaterRules, on: date) -> None:
    """Raise `AgainstTheRules` when a way to fish may not be used here on this day."""
    check_rig(rules, option.rig, on)
    ban = rules.ban_on(option.method.key, on)
    if ban is not None:
        raise AgainstTheRules(ban.sentence, field="method_key")
    for broken, what in (
        (not rules.indicators and option.action.float_m is not None, "Indicators"),
        (not rules.boats and option.method.boat, "Boats"),
        (not rules.lures and any(fly.style in LURE_STYLES for fly in option.flies), "Lures"),
        (not rules.static_buoyant and option.static and any(fly.buoyant for fly in option.flies), "Buoyant flies fished still"),
    ):
        if broken:
            raise AgainstTheRules(f"{what} are not allowed on this water.", field="method_key")

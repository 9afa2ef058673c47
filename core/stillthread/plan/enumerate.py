"""What can be fished here: every method that box, rules and water allow, with its lines, teams, leaders, counts and depths."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

from stillthread.depth.picture import WaterPicture
from stillthread.plan.cruisers import SEEN_TO_M
from stillthread.plan.match import Matcher, Setting, matcher_of, setting_of
from stillthread.plan.methods import METHODS, Method
from stillthread.plan.options import Hang, Option
from stillthread.rules.water_rules import WaterRules
from stillthread.sinking.cast import Cast
from stillthread.sinking.indicator import recast_after_s
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.sinking.troll import Troll
from stillthread.tackle.build import (
    Build,
    Spool,
    Tippet,
    build_leader,
    build_under_indicator,
    check_landing,
    from_spools,
    tippet_for,
)
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.leaders import Leader
from stillthread.tackle.lines import Line
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.weather.effects import boat_drift_ms

COUNTS_S = (0.0, 10.0, 20.0, 30.0, 45.0, 60.0)
FLOATING_COUNTS_S = (0.0, 20.0, 45.0)
SET_DEPTHS_M = (0.9, 1.5, 2.1, 2.7, 3.4, 4.0, 4.6, 5.5, 6.5, 7.5)
OFF_BOTTOM_M = (0.12, 0.45)  # common practice: 4 to 6 in. for larvae, 1 to 2 ft for ascending pupae
STRONG_WIND_MS = 9.0
BRIGHT_ENOUGH = 0.35
FIRST_LINES = 4  # ours: tried of each method for a first answer


@dataclass(frozen=True, slots=True)
class Box:
    """What is carried. `lines` 1 to 30, `flies` 1 to 400, `rod_m` [m] the rod's length, `boat` whether one fishes from one.

    `rod_number` is the line the rod is built for, None if any; leaders are cut from `spools`, or from anything if empty.
    """

    lines: tuple[Line, ...]
    flies: tuple[BoxFly, ...]
    rod_m: float = 3.0
    boat: bool = False
    indicators: tuple[str, ...] = ("fixed", "quick-release", "sliding")
    rod_number: int | None = None
    spools: tuple[Spool, ...] = ()

    def suits_rod(self, line: Line) -> bool:
        """Return whether the rod casts a line: its own number, and one either side (common practice)."""
        return self.rod_number is None or abs(line.number - self.rod_number) <= 1


@dataclass(frozen=True, slots=True)
class Pins:
    """What the angler has decided; the rest is solved around it. Names are those of the box, keys those of `METHODS`."""

    method_key: str | None = None
    line_name: str | None = None
    fly_name: str | None = None
    leader: Leader | None = None


@dataclass(slots=True)
class Feasible:
    """`options` to simulate, and for each method that is left out, why."""

    options: list[Option] = field(default_factory=list)
    excluded: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class _Given:
    picture: WaterPicture
    box: Box
    rules: WaterRules
    pins: Pins
    cast_m: float
    fluorocarbon: str
    setting: Setting
    matcher: Matcher
    flies: tuple[BoxFly, ...]
    thorough: bool

    @property
    def bottom_m(self) -> float:
        return self.picture.conditions.bottom_depth_m


def feasible_options(
    picture: WaterPicture,
    box: Box,
    rules: WaterRules,
    *,
    cast_m: float = 18.0,
    pins: Pins | None = None,
    fluorocarbon: str = "when-bright",
    thorough: bool = True,
    matcher: Matcher | None = None,
) -> Feasible:
    """Return every option that may be fished, and why the other methods may not; for a first answer about one in fifteen.

    Rules are constraints: what they forbid is never among the options. Flies of which none are left are not used.
    """
    pins = pins or Pins()
    allowed = tuple(fly for fly in box.flies if fly.left > 0 and _fly_allowed(fly, rules))
    given = _Given(
        picture, box, rules, pins, cast_m, fluorocarbon, setting_of(picture), matcher or matcher_of(picture), allowed, thorough
    )
    found = Feasible()
    for method in METHODS.values():
        if pins.method_key not in {None, method.key}:
            continue
        why = _why_not(method, given)
        if why:
            found.excluded[method.key] = why
            continue
        options = list(_options(method, given))
        if options:
            found.options.extend(options)
        else:
            found.excluded[method.key] = _missing(method, given)
    return found


def _fly_allowed(fly: BoxFly, rules: WaterRules) -> bool:
    if rules.largest_hook is not None and fly.fly.hook_size < rules.largest_hook:
        return False
    return rules.lures or fly.style != "lure"


def _why_not(method: Method, given: _Given) -> str:
    """Return why a method can't be fished here now, or an empty text."""
    rules, conditions, picture = given.rules, given.picture.conditions, given.picture
    if not given.flies:
        return "No fly in the box may be used here."
    ban = rules.ban_on(method.key, conditions.at.date())
    if ban is not None:
        return ban.why_not
    if method.key == "indicator" and not rules.indicators:
        return "Indicators are not allowed on this water."
    if method.key in {"drift-boat", "tow"}:
        if not rules.boats:
            return "Boats are not allowed on this water."
        if not given.box.boat:
            return "It needs a boat."
    if method.key in {"washing-line", "buoyant-deep"} and not any(fly.buoyant for fly in given.flies):
        return "No buoyant fly in the box."
    if method.key == "indicator" and conditions.wind.speed_ms > STRONG_WIND_MS:
        return "Too much wind: the drift would drag the flies up."
    seen_into = conditions.cloud_fraction <= 0.4 and conditions.secchi_m >= 2.5 and conditions.wind.speed_ms <= 6.0
    if method.key == "sight" and not (seen_into and picture.sun_elevation_deg >= 25.0):
        return "Not bright, clear and calm enough to see fish."
    if method.key == "sight" and float(picture.belief.mass()[picture.belief.depth_m <= SEEN_TO_M].sum()) < 0.35:
        return "They are likely too deep to be seen."
    if method.key == "fry" and picture.foods.probability("fry") < 0.1:
        return "Fry are unlikely now, and none were seen."
    if method.key == "buoyant-deep" and given.bottom_m < 1.5:
        return "Too shallow."
    return ""


def _missing(method: Method, given: _Given) -> str:
    """Return what keeps a method that could be fished here from being tied on."""
    taken = [line for line in given.box.lines if method.takes(line)]
    if not taken:
        return "No line in the box for it."
    if given.pins.line_name is not None and all(line.name != given.pins.line_name for line in taken):
        return "Not with the line you chose."
    if given.pins.line_name is None and not any(given.box.suits_rod(line) for line in taken):
        return f"The rod is built for number {given.box.rod_number}; no line for it is within one of that."
    if not _teams(method, given):
        return "No fly in the box for it." if given.pins.fly_name is None else "Not with the fly you chose."
    if method.way == "hang":
        return "No float in the box that can be landed at the depths worth hanging at."
    return "The leader it needs leaves too little line to cast."


def _lines(method: Method, given: _Given) -> list[Line]:
    fitting = []
    for line in given.box.lines:
        if given.pins.line_name not in {None, line.name}:
            continue
        if given.pins.line_name is None and not given.box.suits_rod(line):
            continue
        if method.takes(line):
            fitting.append(line)
    return fitting if given.thorough else fitting[:: -(-len(fitting) // FIRST_LINES) or 1]


def _options(method: Method, given: _Given) -> Iterator[Option]:
    lines = _lines(method, given)
    if not lines:
        return
    if method.way == "hang":
        yield from _hung(method, given, lines[0])
        return
    for team in _teams(method, given):
        leader = _leader(method, given, team)
        if leader is None or leader.length_m + 0.5 > given.cast_m:
            continue
        placed = _place(team, _heights(method, leader.length_m, len(team)))
        for line in lines:
            rig = Rig(line, leader, placed)
            if method.way == "tow":
                yield from _towed(method, given, rig, team)
            else:
                yield from _casts(method, given, rig, team)


def _casts(method: Method, given: _Given, rig: Rig, team: tuple[BoxFly, ...]) -> Iterator[Option]:
    tip_ms = min(boat_drift_ms(given.picture.conditions.wind, drogue=True), 0.5) if method.key == "drift-boat" else 0.0
    rate = rig.line.sink_rate_mps
    counts: tuple[float, ...] = FLOATING_COUNTS_S if rig.line.floats else COUNTS_S
    retrieves = method.retrieves
    if not given.thorough:
        middle = len(retrieves) // 2 if method.moved else 0
        counts, retrieves = (counts[:2] if rig.line.floats else COUNTS_S[1:4:2]), retrieves[middle : middle + 1]
    if method.key in {"dry", "sight", "fry", "drift-boat"}:
        counts = counts[:2]
    deepest_m = given.picture.conditions.deepest_m
    for count_s in counts:
        # A line that has long been lying on the bottom tells nothing new.
        if count_s > 5.0 and not rig.line.floats and rate * count_s > 1.3 * deepest_m:
            break
        for key in retrieves:
            if key == "static" and not given.rules.static_buoyant and any(fly.buoyant for fly in team):
                continue
            yield Option(method, rig, team, Cast(given.cast_m, count_s, RETRIEVES[key], tip_ms=tip_ms))


def _towed(method: Method, given: _Given, rig: Rig, team: tuple[BoxFly, ...]) -> Iterator[Option]:
    drift_ms = boat_drift_ms(given.picture.conditions.wind, drogue=True)
    for speed_ms in sorted({round(min(max(drift_ms, 0.1), 0.6), 2), 0.45}):
        for out_m in (given.cast_m, given.cast_m + 10.0):
            yield Option(method, rig, team, Troll(out_m, speed_ms, 180.0))


def _hung(method: Method, given: _Given, line: Line) -> Iterator[Option]:
    wind_ms = given.picture.conditions.wind.speed_ms
    drift_ms = given.picture.conditions.wind.surface_drift_ms
    for_s = 180.0 if drift_ms < 0.005 else min(max(2.0 * recast_after_s(10.0, 2.0, max(drift_ms, 0.001)), 60.0), 200.0)
    depths = {d for d in SET_DEPTHS_M if d < given.bottom_m - 0.1}
    depths |= {round(given.bottom_m - off, 2) for off in OFF_BOTTOM_M if 0.6 <= given.bottom_m - off <= 10.0}
    if not depths:
        return
    if not given.thorough:
        depths = set(sorted(depths)[::-2])
    for team in _teams(method, given):
        if any(fly.buoyant for fly in team):
            continue
        for set_m in sorted(depths):
            landing = check_landing(set_m, given.box.rod_m, "fixed")
            kind = "fixed" if landing.ok else landing.needs
            if kind not in given.box.indicators:
                kind = next((k for k in ("sliding", "quick-release") if k in given.box.indicators), "")
            if not kind:
                continue
            apart = min(method.spacing_m, (set_m - 0.3) / len(team))
            if len(team) > 1 and apart < 0.4:
                continue
            heights = tuple(k * apart for k in range(len(team)))
            leader = given.pins.leader or build_under_indicator(set_m, heights[1:], _tippet(given, team)).leader
            if leader.length_m < set_m:
                continue
            rig = Rig(line, leader, _place(team, heights))
            yield Option(method, rig, team, Hang(set_m, kind, for_s, wind_ms))
            if wind_ms < 2.0:
                yield Option(method, rig, team, Hang(set_m, kind, for_s, wind_ms, 25.0))


def _place(team: tuple[BoxFly, ...], heights: Sequence[float]) -> tuple[PlacedFly, ...]:
    return tuple(PlacedFly(fly.fly, height, 0.12 if height else 0.0) for fly, height in zip(team, heights, strict=True))


def _heights(method: Method, leader_m: float, flies: int) -> tuple[float, ...]:
    if flies == 1:
        return (0.0,)
    apart = min(method.spacing_m, (leader_m - 0.9) / (flies - 1))
    return tuple(k * apart for k in range(flies))


def _tippet(given: _Given, team: tuple[BoxFly, ...]) -> Tippet:
    smallest = max(fly.fly.hook_size for fly in team)
    wanted = tippet_for(
        smallest,
        secchi_m=given.setting.secchi_m,
        brightness=given.setting.brightness,
        weed_m=given.picture.conditions.weed_m,
        fluorocarbon=given.fluorocarbon,
    )
    return from_spools(wanted, given.box.spools, any_material=given.fluorocarbon == "when-bright")


def _leader(method: Method, given: _Given, team: tuple[BoxFly, ...]) -> Leader | None:
    """Return the angler's own leader, or one built for method and light; None when the team does not fit it."""
    if given.pins.leader is not None:
        heights = _heights(method, given.pins.leader.length_m, len(team))
        spaced = len(team) == 1 or heights[1] >= 0.4
        return given.pins.leader if spaced else None
    length_m = method.leader_m
    if (
        given.setting.brightness > BRIGHT_ENOUGH
        and given.picture.conditions.wind.speed_ms < 2.0
        and method.key != "buoyant-deep"
    ):
        length_m += 0.9  # common practice: 12 ft standard, 15 ft when flat and bright
    if given.setting.secchi_m < 1.5:
        length_m -= 0.6
    if len(team) == 1:
        length_m = min(length_m, 4.6)
    heights = _heights(method, length_m, len(team))
    return build_leader(length_m, heights[1:], _tippet(given, team)).leader


def build_for(option: Option, picture: WaterPicture, fluorocarbon: str = "when-bright", spools: Sequence[Spool] = ()) -> Build:
    """Return how to tie the leader of an option: what to cut, with knots, and hints."""
    setting = setting_of(picture)
    wanted = tippet_for(
        max(fly.fly.hook_size for fly in option.flies),
        secchi_m=setting.secchi_m,
        brightness=setting.brightness,
        weed_m=picture.conditions.weed_m,
        fluorocarbon=fluorocarbon,
    )
    tippet = from_spools(wanted, spools, any_material=fluorocarbon == "when-bright")
    heights = [placed.above_point_m for placed in option.rig.flies[1:]]
    if isinstance(option.action, Hang):
        return build_under_indicator(option.action.set_depth_m, heights, tippet)
    return build_leader(option.rig.leader.length_m, heights, tippet)


def _teams(method: Method, given: _Given) -> list[tuple[BoxFly, ...]]:
    """Return a few teams, point fly first: the best single flies, and the best team of each size the rules allow.

    Common practice: an attractor on the top dropper to be seen and followed, naturals below, a buoyant or heavy fly on the
    point as the method asks.
    """
    speed = _usual_speed(method)
    worth = sorted(given.flies, key=lambda fly: -given.matcher.worth(fly, speed))
    pinned = [fly for fly in given.flies if fly.name == given.pins.fly_name]
    if given.pins.fly_name is not None and not pinned:
        return []
    dry = method.key == "dry"
    if dry:
        worth = [fly for fly in worth if fly.style == "dry"]
    elif method.key == "fry":
        worth = [fly for fly in worth if "fry" in fly.foods or fly.style == "lure"]
    elif method.key not in {"sight", "buoyant-deep"}:
        worth = [fly for fly in worth if fly.style != "dry"]
    needs_buoyant = method.key in {"washing-line", "buoyant-deep"}
    points = [fly for fly in worth if fly.buoyant and fly.style != "dry"] if needs_buoyant else worth
    if not needs_buoyant and not dry and method.key != "sight":
        points = [fly for fly in points if not fly.buoyant]
    points = pinned or points
    if not points:
        return []
    most = min(method.most_flies, given.rules.most_flies or method.most_flies)
    single: list[tuple[BoxFly, ...]] = [] if method.key == "washing-line" and most > 1 else [(points[0],)]
    if most == 1:
        return single
    point = points[0]
    if not needs_buoyant and not pinned and not dry:
        # Common practice: the heaviest on the point, if one of the better flies is heavy.
        point = next((fly for fly in points[:6] if fly.weighted), point)
    upper = [fly for fly in worth if fly is not point and (dry or (not fly.buoyant and fly.style == "natural"))]
    seen = [fly for fly in worth if fly is not point and not fly.buoyant and fly.style == "attractor"]
    above = [*upper[:1], *(seen[:1] if seen and not dry else upper[1:2])][: most - 1]
    if not above:
        return single
    return [*single, (point, *above)] if given.thorough else [(point, *above)]


def _usual_speed(method: Method) -> float:
    if method.way == "hang":
        return 0.005
    if method.way == "tow":
        return 0.3
    speeds = [RETRIEVES[key].mean_mps for key in method.retrieves]
    return sorted(speeds)[len(speeds) // 2]

"""Leaders to build: sections to cut, in order, for a method, a depth and what the water asks for."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from stillthread.errors import BadInput
from stillthread.phrase import Phrase
from stillthread.ranges import BUILT_LEADER_M, FISH_KG, HUNG_LEADER_M, ROD_M
from stillthread.sourced import Sourced
from stillthread.tackle.leaders import Hardware, Leader, LeaderSection, tippet_diameter_m

BUTT_M, BUTT_WIDE_M = 0.9, 0.00045  # common practice
BELOW_SWIVEL_M = Sourced(0.6, "m", "common-practice", "always two feet from swivel to fly: it doubles as a ruler")
THIN_M = Sourced(2.13, "m", "common-practice", "seven feet of thin section under the butt")
SHOT_ABOVE_M = Sourced(0.3, "m", "common-practice", "split shot one foot above the flies if needed")
KNOT_LENGTH_M = 0.08  # ours: what each of two ends gives to a knot
DROPPER_M = 0.12  # common practice: four to six inches
SHORTEST_SPLICE_M = 0.15  # ours: less is two knots for nothing
STRENGTH_KGF_PER_MM2 = Sourced(75.0, "kgf/mm2", "ours", "middling of labels seen; makers differ by a third, knots take a tenth")
REACH_M = Sourced(0.6, "m", "common-practice", "what an arm adds to the rod when a fish is drawn to the net")
FAR_OFF = math.log(4.0 / 3.0)  # ours
AS_GOOD = math.log(1.06)  # ours: labels round to the hundredth of a millimetre
GREASE_HINT = Phrase("Grease it from the line to a hand from the fly, and wipe that last hand clean.")
KNOTS = ("a joining knot of two interlocked half-hitches", "a loop knot at the fly, so that it moves freely")


@dataclass(frozen=True, slots=True)
class Tippet:
    """A tippet by its `x_number`, with `diameter_m` and about what it holds, `strength_kgf`."""

    x_number: int
    diameter_m: float
    strength_kgf: float
    material: str
    why: tuple[str, ...]


FINEST_X = 5  # common practice: finer breaks on the take, and gains nothing with a fish of a kilo
LURE_X, HEAVY_X, STOUT_MONTHS_X = 3, 2, 4  # common practice: stouter for what is taken hard, is heavy, and early and late
HEAVY_FISH_KG, LIGHT_FISH_KG = 2.0, 0.4  # ours


@dataclass(frozen=True, slots=True)
class Tied:
    """What a tippet has to carry: `hook_size`, whether it is `stout` (taken hard: a lure, leech or fry), and `heavy`."""

    hook_size: int
    stout: bool = False
    heavy: bool = False


def tippet_for(
    team: Sequence[Tied],
    *,
    secchi_m: float,
    brightness: float,
    weed_m: float = 0.0,
    fish_kg: float = 1.0,
    stout_months: bool = False,
    fluorocarbon: str = "when-bright",
) -> Tippet:
    """Return the tippet that the flies, the water and the fish ask for.

    Common practice: the X number is about a third of the hook size and never finer than `FINEST_X`; stouter for what is taken
    hard or is heavy, in weed, in coloured water, for large fish, and early and late in the year; finer when bright and clear.
    Of a team the fly that needs the stoutest decides. `fluorocarbon` is "always", "when-bright" or "never".

    Examples
    --------
    >>> tippet = tippet_for([Tied(12)], secchi_m=3.0, brightness=0.4)
    >>> tippet.x_number, round(1000 * tippet.diameter_m, 2), tippet.material
    (4, 0.18, 'fluorocarbon')
    >>> tippet_for([Tied(12), Tied(8, stout=True, heavy=True)], secchi_m=3.0, brightness=0.4).x_number
    2
    """
    FISH_KG.check("fish_kg", fish_kg)
    first = min(team, key=_finest)
    x, why = first.hook_size / 3.0, [f"a third of hook {first.hook_size}"]
    for holds, change, reason in (
        (brightness > 0.35 and secchi_m > 4.0, 1.0, "finer: bright and clear"),
        (secchi_m < 1.5, -1.0, "stouter: coloured water hides it"),
        (weed_m > 0.25, -1.0, "stouter: weed"),
        (fish_kg > HEAVY_FISH_KG, -1.0, "stouter: large fish"),
        (fish_kg < LIGHT_FISH_KG, 1.0, "finer: small fish"),
    ):
        if holds:
            x, why = x + change, [*why, reason]
    for holds, most, reason in (
        (True, FINEST_X, ""),
        (stout_months, STOUT_MONTHS_X, "stouter: early and late they are not shy of it"),
        (first.stout, LURE_X, "stouter: such a fly is taken hard"),
        (first.heavy, HEAVY_X if first.stout else LURE_X, "stouter: a heavy or bulky fly"),
    ):
        if holds and x > most:
            x, why = float(most), [*why, reason] if reason else why
    number = int(min(max(round(x), 0), 7))
    diameter = tippet_diameter_m(number)
    sinks = fluorocarbon == "always" or (fluorocarbon == "when-bright" and brightness > 0.1)
    strength = float(STRENGTH_KGF_PER_MM2) * (1000.0 * diameter) ** 2
    return Tippet(number, diameter, strength, "fluorocarbon" if sinks else "nylon", tuple(why))


def _finest(one: Tied) -> float:
    """Return the finest X number that a fly goes with."""
    most = (HEAVY_X if one.stout else LURE_X) if one.heavy else LURE_X if one.stout else FINEST_X
    return min(one.hook_size / 3.0, most)


@dataclass(frozen=True, slots=True)
class Spool:
    """Leader material in the box: `material` a key of `MATERIALS`, `diameter_m` 0.00005 to 0.001."""

    material: str
    diameter_m: float


def from_spools(tippet: Tippet, spools: Sequence[Spool], *, any_material: bool = True) -> Tippet:
    """Return the tippet as it can be cut from the spools that are owned; any will do where none are listed.

    The same material comes before the same thickness, unless the nearest of it is more than a third off. Then the other
    material serves, or without `any_material` the tippet stays as it was wanted, and says that it is to be bought.

    Examples
    --------
    >>> wanted = tippet_for([Tied(12)], secchi_m=3.0, brightness=0.4)
    >>> cut = from_spools(wanted, [Spool("fluorocarbon", 0.0002), Spool("nylon", 0.00018)])
    >>> cut.material, round(1000 * cut.diameter_m, 2), cut.x_number, cut.why[-1]
    ('fluorocarbon', 0.2, 3, 'the nearest spool you have')
    """
    if not spools:
        return tippet

    def off(spool: Spool) -> float:
        return abs(math.log(spool.diameter_m / tippet.diameter_m))

    near = [spool for spool in spools if off(spool) < FAR_OFF]
    fit = [spool for spool in near if spool.material == tippet.material] or (near if any_material else [])
    if not fit:
        return replace(tippet, why=(*tippet.why, "no spool you have is near it"))
    best = min(fit, key=off)
    if off(best) < AS_GOOD and best.material == tippet.material:
        return tippet
    number = int(min(max(round(11.0 - best.diameter_m / 0.0254e-3), 0), 8))
    strength = float(STRENGTH_KGF_PER_MM2) * (1000.0 * best.diameter_m) ** 2
    return Tippet(number, best.diameter_m, strength, best.material, (*tippet.why, "the nearest spool you have"))


@dataclass(frozen=True, slots=True)
class Cut:
    """One length to cut [m], knots allowed for, and what it is; `finished_m` is what it measures when tied."""

    what: str
    cut_m: float
    finished_m: float
    diameter_m: float
    material: str


@dataclass(kw_only=True, frozen=True, slots=True)
class Build:
    """A leader to tie: the `leader` as it fishes, its `cuts` from the line down, droppers' places, and hints."""

    leader: Leader
    cuts: tuple[Cut, ...]
    droppers_m: tuple[float, ...]
    tippet: Tippet
    knots: tuple[str, ...]
    hints: tuple[Phrase, ...]


def build_leader(
    total_m: float, droppers_m: Sequence[float], tippet: Tippet, name: str = "", *, greased: bool = False
) -> Build:
    """Return a leader of so much length, with droppers so far above the point.

    Parameters
    ----------
    total_m : float
        From the line to the point fly [m], 0.9 to 12.
    droppers_m : sequence of float
        Heights of the upper flies above the point [m], rising.
    tippet : Tippet
        For everything from the top dropper down; the middle is 0.05 mm thicker, the butt stout.
    greased : bool
        Whether it is greased down to the last half metre, for flies that sit on top.

    Raises
    ------
    BadInput
        A dropper above the leader's butt, or two closer than 0.3 m.
    """
    BUILT_LEADER_M.check("total_m", total_m)
    marks = [0.0, *droppers_m]
    if any(b - a < 0.3 for a, b in itertools.pairwise(marks)) or (droppers_m and droppers_m[-1] > total_m - 0.3):
        raise BadInput("Droppers sit 0.3 m or more apart and below the top of the leader.", field="droppers")
    top = marks[-1]
    butt = min(BUTT_M, 0.3 * total_m)
    if top > 0.0 and total_m - butt - top < SHORTEST_SPLICE_M:
        butt = total_m - top  # a stub between two knots serves nothing
    pieces: list[tuple[str, float, float, str]] = [("butt", butt, BUTT_WIDE_M, "nylon")]
    middle = total_m - butt - top
    thicker = min(tippet.diameter_m + 0.00005, 0.0004)
    if top == 0.0:
        # A single fly: half of what is left steps down, half is tippet.
        pieces.append(("middle", 0.5 * middle, thicker, tippet.material))
        pieces.append(("to the fly", 0.5 * middle, tippet.diameter_m, tippet.material))
    else:
        if middle > 0.0:
            pieces.append(("to the top dropper", middle, thicker, tippet.material))
        for upper, lower in zip(reversed(marks[1:]), reversed(marks[:-1]), strict=True):
            what = "to the point" if lower == 0.0 else "to the next dropper"
            pieces.append((what, upper - lower, tippet.diameter_m, tippet.material))
    flies = "1 fly" if len(marks) == 1 else f"{len(marks)} flies"
    hints = (GREASE_HINT,) if greased else ()
    return _build(name or f"{total_m:.1f} m, {flies}", pieces, tuple(droppers_m), tippet, hints, greased=greased)


def build_under_indicator(
    target_m: float,
    droppers_m: Sequence[float],
    tippet: Tippet,
    *,
    thin_m: float = float(THIN_M),
    below_m: float = float(BELOW_SWIVEL_M),
    shot: str | None = None,
) -> Build:
    """Return a leader that hangs a fly `target_m` [m] under an indicator, 0.4 to 10.

    Butt above the float; then a thin section, a spliced length that makes up the depth, a swivel, and the last piece. A target
    that thin section and last piece already exceed needs no splice: the thin section is cut shorter. It is cut wherever a
    dropper stands, `droppers_m` above the point; a joint that would fall within a hand of one is tied at it. `shot`, a key of
    `HARDWARE`, is pinched on a foot above the point, or half-way to the swivel where that is nearer.

    References
    ----------
    common practice: a target of 15 ft with 7 ft of thin section and 2 ft below the swivel needs a splice of 6 ft.
    """
    HUNG_LEADER_M.check("target_m", target_m)
    marks = [0.0, *droppers_m]
    if any(b - a < 0.3 for a, b in itertools.pairwise(marks)) or marks[-1] > target_m - 0.1:
        raise BadInput("Droppers sit 0.3 m or more apart and below the float.", field="droppers")
    below = _snap(min(below_m, 0.5 * target_m), droppers_m)
    thin = min(thin_m, target_m - below)
    spliced = _snap(target_m - thin, droppers_m)
    joints = sorted({below, *droppers_m, *((spliced,) if spliced - below >= SHORTEST_SPLICE_M else ())}, reverse=True)
    pieces = [("butt, above the float", BUTT_M, BUTT_WIDE_M, "nylon")]
    above = target_m
    for lower in (*joints, 0.0):
        what = _under_float(above, lower, below, target_m, droppers_m)
        pieces.append((what, above - lower, tippet.diameter_m, tippet.material))
        above = lower
    folds = int(target_m / below + 1e-6)
    rest_m = target_m - folds * below
    more = " and {rest_m} more" if rest_m > 0.05 else ""
    hints = [
        Phrase(
            f"The last piece is your ruler: {{below_m}}. Fold the leader by it {{folds_n}} times{more} to mark {{target_m}}.",
            {"below_m": below, "folds_n": float(folds), "rest_m": rest_m, "target_m": target_m},
        ),
        Phrase("Set a stopper at the mark, so that the float goes back to it after every fish."),
    ]  # fmt: skip
    hardware = [Hardware("swivel", below)]
    if shot is not None:
        above_m = min(float(SHOT_ABOVE_M), 0.5 * below)
        hardware.append(Hardware(shot, above_m))
        words = f"Pinch a {shot.replace('-', ' number ')} on, {{above_m}} above the point: it hangs sooner and steadier."
        hints.append(Phrase(words, {"above_m": above_m}))
    return _build(f"{target_m:.1f} m under a float", pieces, tuple(droppers_m), tippet, tuple(hints), tuple(hardware))


def _snap(joint_m: float, droppers_m: Sequence[float]) -> float:
    """Return where a joint is best tied: at a dropper that is close by, since a stub between two knots serves nothing."""
    return next((d for d in droppers_m if abs(d - joint_m) < SHORTEST_SPLICE_M), joint_m)


def _under_float(above: float, lower: float, swivel_m: float, target_m: float, droppers_m: Sequence[float]) -> str:
    """Return what the piece between two heights above the point is called."""
    part = "thin section" if above == target_m else "swivel" if above == swivel_m else "splice"
    if lower == 0.0:
        return "swivel to fly" if above == swivel_m else "to the point"
    if lower in droppers_m:
        return f"{part} to the {'top' if lower == droppers_m[-1] else 'next'} dropper"
    return part


def _build(
    name: str,
    pieces: Sequence[tuple[str, float, float, str]],
    droppers_m: tuple[float, ...],
    tippet: Tippet,
    hints: tuple[Phrase, ...],
    hardware: tuple[Hardware, ...] = (),
    *,
    greased: bool = False,
) -> Build:
    cuts = []
    for i, (what, length, diameter, material) in enumerate(pieces):
        ends = 2 if i > 0 else 1
        own = DROPPER_M if "dropper" in what else 0.0
        cut = math.ceil(100.0 * (length + KNOT_LENGTH_M * ends + own) - 1e-6) / 100.0
        cuts.append(Cut(what, cut, length, diameter, material))
    sections = tuple(LeaderSection(length, d, material, greased) for _, length, d, material in pieces)
    leader = Leader(name, sections, hardware)
    knots = (*KNOTS, "a dropper left long from the joining knot") if droppers_m else KNOTS
    return Build(leader=leader, cuts=tuple(cuts), droppers_m=droppers_m, tippet=tippet, knots=knots, hints=hints)


@dataclass(frozen=True, slots=True)
class Landing:
    """Whether a fish can be drawn to the net with what hangs below the fixed point; `needs` "fixed", "quick-release" or
    "sliding", and why."""

    ok: bool
    needs: str
    why: Phrase


def check_landing(set_depth_m: float, rod_m: float, kind: str) -> Landing:
    """Return whether a float fixed `set_depth_m` [m] above the point lets a fish be landed with a rod of `rod_m` [m].

    Common practice: a fixed float deeper than about a rod's length can't be landed; use one that lets go or slides.

    Examples
    --------
    >>> check_landing(2.5, 3.0, "fixed").ok, check_landing(6.1, 2.7, "fixed").needs
    (True, 'quick-release')
    """
    ROD_M.check("rod_m", rod_m)
    reach = rod_m + float(REACH_M)
    values = {"set_m": set_depth_m, "reach_m": reach}
    if set_depth_m <= reach:
        return Landing(True, "fixed", Phrase("A fixed float at {set_m} can be landed: rod and arm reach {reach_m}.", values))
    needs = "sliding" if set_depth_m > 2.0 * reach else "quick-release"
    if kind == "fixed":
        text = "Fixed at {set_m} it can't be landed: rod and arm reach {reach_m}. Use a float that lets go or slides."
        return Landing(False, needs, Phrase(text, values))
    text = "At {set_m} the float must let go or slide: rod and arm reach {reach_m}. Take a net with a long handle."
    return Landing(True, needs, Phrase(text, values))

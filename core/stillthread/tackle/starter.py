"""A box to pick from: lines and flies under descriptive names of our own, for someone who has not listed their own yet.

Every row is common practice, no published source: what such flies imitate, and how such flies are built.
"""

from __future__ import annotations

from stillthread.tackle.flies import Fly
from stillthread.tackle.flybox import BoxFly, Style
from stillthread.tackle.lines import Line, line_of_class

STARTER_LINE_KEYS = (
    "floating", "clear-tip", "short-slow-tip", "slow-tip", "fast-tip", "very-slow", "slow-intermediate", "intermediate",
    "fast-intermediate", "type-3", "type-5", "type-7", "fast-belly-5", "type-8",
)  # fmt: skip

PUPA, LARVA, FILM = ("midge-pupa",), ("midge-larva",), ("midge-film",)


def _fly(
    name: str, foods: tuple[str, ...], colour: str, hook: int, dressing: str = "medium", *, style: Style = "natural",
    wire: str = "standard", bead: str = "none", bead_mm: float = 0.0, foam_mm3: float = 0.0, extra_g: float = 0.0,
) -> BoxFly:  # fmt: skip
    return BoxFly(
        Fly(
            name=name,
            hook_size=hook,
            dressing=dressing,
            wire=wire,
            bead=bead,
            bead_mm=bead_mm,
            foam_mm3=foam_mm3,
            extra_g=extra_g,
        ),
        foods,
        style,
        colour,
        2,
    )


def _bead(
    name: str,
    foods: tuple[str, ...],
    colour: str,
    hook: int,
    bead: str,
    mm: float,
    dressing: str = "slim",
    style: Style = "natural",
) -> BoxFly:
    return _fly(name, foods, colour, hook, dressing, style=style, bead=bead, bead_mm=mm)


def _foam(
    name: str,
    foods: tuple[str, ...],
    colour: str,
    hook: int,
    foam_mm3: float,
    dressing: str = "medium",
    style: Style = "natural",
) -> BoxFly:
    return _fly(name, foods, colour, hook, dressing, style=style, foam_mm3=foam_mm3)


STARTER_FLIES: tuple[BoxFly, ...] = (
    # Midges, from the bottom up.
    _fly("Red bottom larva", LARVA, "red", 12, "slim", bead="glass", bead_mm=2.5),
    _fly("Maroon larva, bare shank", LARVA, "maroon", 14, "slim", wire="heavy"),
    _fly("Green tube larva", LARVA, "green", 12, "slim", wire="heavy"),
    _fly("Black ribbed pupa", PUPA, "black", 12, "slim"),
    _fly("Fine-wire brown pupa", PUPA, "brown", 14, "slim", wire="fine"),
    _fly("Olive ribbed pupa", PUPA, "olive", 14, "slim"),
    _fly("Stout black pupa", PUPA, "black", 10, "slim", wire="heavy"),
    _bead("White-gilled pupa, glass head", PUPA, "black", 12, "glass", 2.5),
    _bead("Tungsten-thorax pupa", PUPA, "brown", 12, "tungsten", 2.5),
    _fly("Tiny grey pupa", PUPA, "grey", 18, "slim", wire="fine"),
    _foam("Foam-gilled film pupa", FILM, "black", 14, 58.0, "slim", "dry"),
    _foam("Brown film sitter", FILM, "brown", 16, 40.0, "slim", "dry"),
    _foam("Grey shuck sitter", FILM, "grey", 16, 40.0, "slim", "dry"),
    # Shrimps, leeches, dragons, damsels.
    _bead("Weighted olive shrimp", ("shrimp",), "olive", 12, "brass", 2.4, "medium"),
    _bead("Orange-spot shrimp", ("shrimp",), "olive with an orange spot", 12, "tungsten", 2.4, "medium"),
    _fly("Pale shrimp, unweighted", ("shrimp",), "olive", 14),
    _fly("Black marabou leech", ("leech",), "black", 10, "bulky"),
    _bead("Brown leech, brass head", ("leech",), "brown", 10, "brass", 3.2, "bulky"),
    _bead("Dark olive leech, tungsten head", ("leech",), "dark olive", 8, "tungsten", 3.5, "bulky"),
    _fly("Slim olive nymph", ("damsel-nymph",), "slim olive", 12, "slim"),
    _bead("Swimming olive nymph, glass eyes", ("damsel-nymph",), "olive", 10, "glass", 3.0, "slim"),
    _fly("Long marabou nymph", ("damsel-nymph",), "olive", 10),
    _foam("Foam-backed dragon nymph", ("dragon-nymph",), "brown", 10, 150.0, "bulky"),
    _foam("Deer-hair dragon nymph", ("dragon-nymph",), "dark olive", 8, 180.0, "bulky"),
    _bead("Crawling dragon nymph", ("dragon-nymph",), "brown", 8, "brass", 3.2, "bulky"),
    # Mayflies and caddis.
    _fly("Soft olive nymph", ("mayfly-nymph",), "olive", 14, "slim", wire="fine"),
    _bead("Slim brown nymph, gold head", ("mayfly-nymph",), "brown", 14, "brass", 2.4),
    _fly("Rough brown nymph", ("mayfly-nymph", "caddis-pupa"), "brown", 12),
    _foam("Upwing sitter", ("mayfly-dun",), "olive", 14, 58.0, "medium", "dry"),
    _foam("Cream dun", ("mayfly-dun",), "cream", 14, 58.0, "medium", "dry"),
    _bead("Amber caddis pupa", ("caddis-pupa",), "amber", 12, "glass", 2.5, "medium"),
    _fly("Green caddis pupa", ("caddis-pupa",), "green", 12),
    _foam("Roof-wing skater", ("caddis-adult",), "brown", 12, 85.0, "bulky", "dry"),
    _foam("Small grey roof-wing", ("caddis-adult",), "grey", 14, 58.0, "medium", "dry"),
    # Boatmen, fry, land insects.
    _bead("Silver-bellied boatman", ("boatman",), "brown with a silver belly", 12, "glass", 2.5, "medium"),
    _foam("Buoyant boatman", ("boatman",), "brown", 12, 85.0),
    _fly("Small pale fry", ("fry",), "silver", 10),
    _fly("Pin fry", ("fry",), "silver", 12, "slim"),
    _fly("Silver-sided fry", ("fry",), "silver", 8, style="lure"),
    _foam("Floating fry", ("fry",), "white", 8, 220.0, "bulky", "lure"),
    _fly("Perch-barred fry", ("fry",), "olive", 6, "bulky", style="lure"),
    _foam("Black beetle", ("terrestrial",), "black", 12, 85.0, "medium", "dry"),
    _foam("Winged ant", ("terrestrial",), "black", 14, 58.0, "slim", "dry"),
    _foam("Crane-legged sitter", ("terrestrial",), "brown", 10, 120.0, "medium", "dry"),
    _foam("Brown heather fly", ("terrestrial",), "brown", 12, 85.0, "medium", "dry"),
    # Searching flies and attractors.
    _bead("Tungsten-headed black nymph", (), "black", 10, "tungsten", 3.0),
    _bead("Black and green nymph", (), "black and green", 10, "brass", 2.8),
    _fly("Palmered wet, claret", ("midge-film", "caddis-pupa"), "claret", 12),
    _fly("Soft-hackled black wet", ("midge-pupa", "midge-film"), "black", 14, "slim"),
    _fly("Bright orange attractor", ("daphnia",), "orange", 10, "bulky", style="attractor"),
    _fly("Sunburst attractor", ("daphnia",), "yellow", 10, "bulky", style="attractor"),
    _fly("Pink string attractor", (), "pink", 10, "medium", style="attractor"),
    _bead("Orange-headed attractor", ("daphnia",), "orange", 10, "brass", 3.2, "bulky", "attractor"),
    _foam("Orange buoyant attractor", ("daphnia",), "orange", 10, 200.0, "bulky", "attractor"),
    _foam("Black foam-eyed lure", ("leech",), "black", 10, 200.0, "bulky", "lure"),
    _foam("White foam-eyed lure", ("fry",), "white", 10, 200.0, "bulky", "lure"),
    _fly("White streamer", ("fry",), "white", 8, "bulky", style="lure"),
    _bead("Black streamer, heavy head", ("leech",), "black", 8, "tungsten", 4.0, "bulky", "lure"),
    _bead("Olive streamer", ("leech", "fry"), "olive", 8, "brass", 3.5, "bulky", "lure"),
    _bead("Pale deep streamer", ("fry",), "white", 6, "tungsten", 4.5, "bulky", "lure"),
)


def starter_lines(number: int = 6) -> tuple[Line, ...]:
    return tuple(line_of_class(key, number) for key in STARTER_LINE_KEYS)

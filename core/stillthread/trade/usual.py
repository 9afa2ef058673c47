"""Usual values, thresholds and words of colour: what is taken where nobody says otherwise."""

from __future__ import annotations

from stillthread.sourced import Sourced

BELOW_M = Sourced(0.15, "m", "common-practice", "trout look up: a fly so far below them is hardly taken", (0.05, 0.3))
BAND_MASS = Sourced(0.6, "1", "ours", "what is called the band holds so much of where they feed: six in ten")

USUAL_CAST_M = Sourced(18.0, "m", "common-practice", "a cast that most make all day")
USUAL_DRIFT_S = Sourced(180.0, "s", "common-practice", "a float left alone: with landing it anew, three are ten minutes")
USUAL_TOW_S = Sourced(180.0, "s", "ours", "a pull along one side of a bay, before one turns")
LONGEST_COUNT_S = Sourced(60.0, "s", "common-practice", "hardly anyone counts longer: the way down is then a denser line")
DIAL_COUNT_S = Sourced(120.0, "s", "ours", "the longest count that a dial offers: one who counts on may")
STILL_MPS = Sourced(0.025, "m/s", "ours", "what is moved slower is fished still", (0.005, 0.05))
USUAL_FLOAT_M = Sourced(0.019, "m", "common-practice", "the float most carry: three quarters of an inch")
CLEAR_M = Sourced(2.0, "m", "ours", "Secchi depth from which water is called clear")
CLEAREST_M = Sourced(5.0, "m", "ours", "Secchi depth past which clearer water changes nothing for the angler")

BRIGHT_COLOURS = frozenset({"orange", "red", "yellow", "white", "silver", "pink", "gold"})
DARK_COLOURS = frozenset({"black", "brown", "dark", "olive", "claret"})


def colour_words(colour: str) -> frozenset[str]:
    """Return the words of a colour: "olive-black" is olive and black."""
    return frozenset(colour.lower().replace("-", " ").split())

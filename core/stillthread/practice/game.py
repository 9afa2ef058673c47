"""A practice day as it is played: what each act costs and brings, what is shown of it and what is told in the end.

A day is its log: acts in their order, each with the minutes it took. Standard library alone, so that the server and a device
with no connection play the same day by the same code.
"""

from __future__ import annotations

import json
import random
from base64 import b64decode, b64encode
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from stillthread.phrase import Phrase
from stillthread.practice.answer import PLAYED_MIN, cast, takes_of
from stillthread.practice.debrief import FishedCast, by_advice, by_ladder, fished_by, knew, luck_of, moments
from stillthread.practice.scenario_levels import Likely, new_seed, truth_again
from stillthread.practice.truth import BEGINS_H, DAY_MIN, MOVE_MIN, READING_MIN, Hidden
from stillthread.search.day import Table
from stillthread.search.presentation import Costs, Presentation
from stillthread.search.thinker import Thinker
from stillthread.trade.entries import FISH

Log = Sequence[Mapping[str, Any]]
TOLD_EVERY_MIN = 5.0  # ours
FOUND = {
    "lowering": "You lowered a thermometer.",
    "look": "You looked about.",
    "sounding": "You sounded the bottom.",
    "clarity": "You let down a disc.",
    "place": "You moved to another place.",
}
_THE_SEARCH_SAYS = {"follow": "follow", "knock": "knock", "take": "take", "lost": "take"}


class NotNow(Exception):
    """What can not be done as the day stands: a short `code`, and why."""

    def __init__(self, code: str, detail: str) -> None:
        super().__init__(detail)
        self.code, self.detail = code, detail


def at_min(log: Log) -> float:
    return float(log[-1]["ends_min"]) if log else 0.0


def made(log: Log) -> frozenset[str]:
    """Return which readings were made."""
    return frozenset(one["what"] for one in log if one["kind"] == "reading")


def place(log: Log) -> int:
    return sum(one["kind"] == "place" for one in log)


def casts(log: Log) -> list[Mapping[str, Any]]:
    return [one for one in log if one["kind"] == "cast"]


def took(one: Mapping[str, Any]) -> int:
    return sum(came["kind"] in FISH for came in one["came"])


def act(hidden: Hidden, log: Log, done: Mapping[str, Any]) -> dict[str, Any]:
    """Return the line of the log that an act becomes: a "reading" of `what`, another "place", or a "cast" of a `shot`, which is
    what `practice.fished.shot_of` makes of a rig.

    Raises
    ------
    NotNow
        The day is over, or that was read before.
    """
    at = at_min(log)
    if at >= DAY_MIN:
        raise NotNow("day_over", "The day is over: end it and see what it was.")
    if done["kind"] == "reading":
        if done["what"] in made(log):
            raise NotNow("read_before", "That was read before: it says the same all day.")
        return {"kind": "reading", "what": done["what"], "at_min": at, "ends_min": at + READING_MIN[done["what"]]}
    if done["kind"] == "place":
        return {"kind": "place", "at_min": at, "ends_min": at + MOVE_MIN}
    shot = done["shot"]
    one, before = Presentation.of(shot["one"]), casts(log)
    begins = at + Costs().between(Presentation.of(before[-1]["one"]) if before else None, one)
    came = cast(hidden, len(before), one, begins, place(log))
    played = PLAYED_MIN if came and came[-1].kind in FISH else 0.0
    return {
        "kind": "cast", **shot, "at_min": round(begins, 2), "ends_min": round(begins + one.minutes + played, 2),
        "place": place(log), "expected": takes_of(hidden.truth, one, begins, place(log)),
        "came": [{"kind": c.kind, "depth_m": min(c.depth_m, shot["bottom_m"]), "fly": c.fly} for c in came],
        "words": _words(one),
    }  # fmt: skip


def _words(one: Presentation) -> str:
    flies = " / ".join(fly.name for fly in reversed(one.flies))
    return f"{'Float' if one.float_m is not None else one.line}: {flies}"


def happened(log: Log) -> tuple[list[dict[str, Any]], dict[str, Any]]:
    """Return the day as the search reads a log, and what was fished in it."""
    lines: list[dict[str, Any]] = []
    fished: dict[str, Any] = {}
    for one in log:
        if one["kind"] == "place" and fished:
            lines.append({"kind": "place", "at_min": one["ends_min"], "fished": next(reversed(fished))})
        if one["kind"] != "cast":
            continue
        key, ends = one["one"]["key"], one["ends_min"]
        fished[key] = one["one"]
        lines.append({"kind": "cast", "at_min": one["at_min"], "fished": key})
        for c in one["came"]:
            kind = _THE_SEARCH_SAYS[c["kind"]]
            lines.append({"kind": kind, "at_min": ends, "fished": key, "depth_m": c["depth_m"], "fly": c["fly"]})
        lines.append({"kind": "landed" if took(one) else "nothing", "at_min": ends, "fished": key, "depth_m": 0.0})
    return lines, fished


def advise(table: Mapping[str, Any], log: Log) -> dict[str, Any]:
    """Return what the app would do next, from what the angler knows: the `key` of what it would fish, if anything else."""
    lines, fished = happened(log)
    if not lines:
        first = Phrase("Nothing was cast yet: begin with what the plan puts first.")
        return {"change": True, "elsewhere": False, "words": [asdict(first)], "key": table["options"][0]["key"]}
    move = Thinker(table).think({"fished": fished, "happened": lines, "now_min": at_min(log)})["move"]
    if move is None:
        return {"change": False, "elsewhere": False, "words": [], "key": None}
    key = move["best"]["key"] if move["change"] else None
    return {"change": move["change"], "elsewhere": move["elsewhere"], "words": move["words"], "key": key}


def tell(hidden: Hidden, table: Mapping[str, Any], log: Log, *, with_advice: bool = True) -> dict[str, Any]:
    """Return what the day was. What the advice would have taken takes longest to say: None where it is left for later."""
    truth, options = hidden.truth, Table.of(table).options
    fished = [
        FishedCast(one["at_min"], Presentation.of(one["one"]), one["place"], one["expected"], took(one)) for one in casts(log)
    ]
    every = [TOLD_EVERY_MIN * k for k in range(int(DAY_MIN / TOLD_EVERY_MIN) + 1)]
    return {
        "takes": sum(one.takes for one in fished),
        "expected": round(sum(one.expected for one in fished), 2),
        "ladder": round(fished_by(hidden, by_ladder(options)), 2),
        "advice": round(fished_by(hidden, by_advice(table)), 2) if with_advice else None,
        "knew": round(knew(hidden, options), 2),
        "luck": round(luck_of(fished), 2),
        "hidden": {
            "kind": truth.kind, "at_min": every, "centre_m": [truth.centre_m(at) for at in every],
            "here": [truth.rate_at(at, place(log)) > 0.0 for at in every], "other_m": truth.other_m, "reach_m": truth.reach_m,
            "wanted": "anything" if truth.fly == 0 else table["classes"][truth.fly - 1],
        },
        "moments": [{"at_min": one.at_min, "cast": one.cast, "words": asdict(one.words)}
                    for one in moments(hidden, fished, options)],
    }  # fmt: skip


def show(log: Log, told: Mapping[str, Any] | None) -> dict[str, Any]:
    """Return a day as far as it was fished. Of the truth nothing is in it before it is `told`."""
    at = at_min(log)
    last = log[-1] if log else None
    found = "" if last is None else FOUND.get(str(last.get("what") or last["kind"]), "")
    clock = 60 * BEGINS_H + round(at)
    return {
        "acts": len(log),
        "clock": f"{clock // 60:02d}:{clock % 60:02d}",
        "at_min": round(at, 1),
        "day_min": DAY_MIN,
        "made": sorted(made(log)),
        "costs_min": dict(READING_MIN),
        "place": place(log),
        "move_min": MOVE_MIN,
        "found": found,
        "casts": [
            {
                "number": k, **{name: one[name] for name in ("at_min", "words", "low_m", "high_m", "touched")},
                "came": [{"kind": c["kind"], "depth_m": c["depth_m"], "fly": one["one"]["flies"][c["fly"]]["name"]}
                         for c in one["came"]],
                "expected": round(one["expected"], 3) if told else None,
            }
            for k, one in enumerate(casts(log))
        ],
        "takes": sum(map(took, casts(log))),
        "told": told,
    }  # fmt: skip


def ahead(read: frozenset[str]) -> list[frozenset[str]]:
    """Return for which readings a plan is taken along: those made, and one more after the other, the weightiest first."""
    sets = [read]
    for what in ("lowering", "sounding", "look", "clarity"):
        if what not in read:
            sets.append(sets[-1] | {what})
    return sets


def nearest(sets: Sequence[frozenset[str]], read: frozenset[str]) -> int:
    """Return which of the plans taken along fits best: the one that rests on most of what was read, and on nothing else."""
    return max((k for k, one in enumerate(sets) if one <= read), key=lambda k: len(sets[k]), default=0)


def seal(hidden: Hidden, likely: Likely) -> str:
    """Return the truth as a device carries it, with what another day of the same water is drawn from: out of sight, not out of
    reach of one who looks for it."""
    return b64encode(json.dumps({"hidden": hidden.told(), "likely": asdict(likely)}).encode()).decode()


@dataclass(frozen=True, slots=True)
class _Game:
    hidden: Hidden
    likely: Likely
    sets: tuple[frozenset[str], ...]
    tables: tuple[Mapping[str, Any], ...]

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> _Game:
        sealed = json.loads(b64decode(told["sealed"]))
        sets = tuple(frozenset(plan["made"]) for plan in told["plans"])
        tables = tuple(plan["table"] for plan in told["plans"])
        return cls(Hidden.of(sealed["hidden"]), Likely.of(sealed["likely"]), sets, tables)


_games: dict[str, _Game] = {}


def play_json(game: str, asked: str) -> str:
    """Play a day that was taken along, from text to text: what crosses to a worker and back. The last game is kept.

    `game` holds the `sealed` truth and `plans`, each a search `table` and the readings it rests on. `asked` holds the `log`,
    what is `told`, and what to do: `act` with one, "advise", "tell", "by" a school, "again" at a level, or merely show.
    """
    if game not in _games:
        _games.clear()
        _games[game] = _Game.of(json.loads(game))
    try:
        return json.dumps(_play(_games[game], json.loads(asked)))
    except NotNow as refused:
        return json.dumps({"refused": {"code": refused.code, "detail": refused.detail}})


def _play(of: _Game, asked: Mapping[str, Any]) -> dict[str, Any]:
    log, told, doing = list(asked["log"]), asked.get("told"), asked["ask"]
    answer: dict[str, Any] = {}
    if doing == "again":
        seed = asked.get("seed") or new_seed(random.SystemRandom())
        hidden = Hidden(seed, asked["level"], truth_again(of.likely, seed, asked["level"]))
        return {"seed": seed, "sealed": seal(hidden, of.likely)}
    if doing == "act":
        log.append(act(of.hidden, log, asked["act"]))
        answer["new"] = log[-1]
    plan = nearest(of.sets, made(log))
    if doing == "advise":
        answer["advice"] = advise(of.tables[plan], log)
    elif doing == "tell":
        told = tell(of.hidden, of.tables[plan], log, with_advice=asked["with_advice"])
    elif doing == "by":
        answer["takes"] = round(fished_by(of.hidden, by_advice(of.tables[plan], asked["school"])), 2)
    return {**answer, "plan": plan, "told": told, "day": show(log, told)}

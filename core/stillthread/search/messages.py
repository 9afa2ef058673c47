"""What the belief says, in words: what was learnt, from what, and what to do about it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from stillthread.phrase import Phrase
from stillthread.search.grid import RATES_PMIN
from stillthread.search.policy import Move, empty
from stillthread.search.presentation import Exposed

if TYPE_CHECKING:
    from stillthread.search.day import Day

UNLIKELY, LIKELY = 0.35, 0.6  # ours, bounds 0 to 1: from here it is said
FEW_CASTS = 3  # common practice: one cast or two say nothing
BARREN = 0.5  # ours, bounds 0 to 1


def what_it_means(day: Day) -> list[Phrase]:
    """Return what the last answers mean, the newest first."""
    found: list[Phrase] = []
    if day.events:
        at_min, event = day.events[-1]
        kind = "Fish" if event.took else "Knock"
        meant = "" if event.took else ": the depth is right, the fly perhaps not"
        values = {"at_m": event.depth_m, "ago_min": day.at_min - at_min}
        ago = ", {ago_min} ago" if values["ago_min"] >= 1.0 else ""
        found.append(Phrase(f"{kind} at {{at_m}}{ago}{meant}.", values))
    if day.blanks:
        # In a row, whatever was changed between them: of one way to fish the depths are its own.
        key, _ = day.blanks[-1]
        casts = sum(n for k, n in day.blanks if k == key)
        low, high = span_of(day.known[key])
        if casts >= FEW_CASTS:
            share = _chance_in(day, low, high)
            was = _stated_in(day, low, high)
            word = "less likely there" if share < was else "it says little yet"
            word = "unlikely there" if share < UNLIKELY * was else word
            values = {"casts_n": float(casts), "low_m": low, "high_m": high}
            found.append(Phrase(f"{{casts_n}} blank casts through {{low_m}} to {{high_m}}: {word}.", values))
    nobody = empty(day.belief.joint())
    if nobody > BARREN:
        found.append(Phrase("Likely nobody home here: {empty_pct}.", {"empty_pct": 100.0 * nobody}))
    return found


def what_to_do(day: Day, move: Move) -> list[Phrase]:
    """Return the move in one line, its reason with price and gain, and the runner-up."""
    if move.elsewhere:
        lead = Phrase("Move to another place: the next mark, or along the same depth.")
        why = Phrase("Nothing in {here_min} here; depth and fly go with you.", {"here_min": day.at_min - day.here_since_min})
        return [lead, why]
    best = day.known[move.best.key]
    if not move.change:
        gain = Phrase("Go on so: {takes_n1} takes an hour expected, and no change is worth its minutes.",
                      {"takes_n1": move.best.takes_ph if move.stay is None else move.stay.takes_ph})  # fmt: skip
        return [Phrase("Stay with it."), gain]
    now = day.known[move.stay.key] if move.stay is not None else None
    lead = _change("{}.", now, best)
    low, high = span_of(best)
    values = {"low_m": low, "high_m": high, "cost_min": move.best.cost_min, "gain_n2": move.best.value - _stay(move)}
    text = (
        "It works {low_m} to {high_m}. Costs {cost_min}; "
        if move.best.cost_min
        else "It works {low_m} to {high_m}. Costs no time; "
    )
    text += "about {gain_n2} takes more over the next " + ("half hour." if move.horizon_min <= 30.0 else "hour.")
    found = [lead, Phrase(text, values)]
    if move.runner_up is not None:
        found.append(_change("Or: {}.", now, day.known[move.runner_up.key]))
    return found


def _stay(move: Move) -> float:
    return move.stay.value if move.stay is not None else 0.0


def _change(frame: str, now: Exposed | None, to: Exposed) -> Phrase:
    """Return what is changed, and only that."""
    one, before = to.one, now.one if now is not None else None
    names = [fly.name for fly in one.flies]
    flies = " and ".join(name.lower() for name in names)
    done = one.words or one.key
    if before is None or before.line != one.line or (before.float_m is None) != (one.float_m is None):
        text = f"{one.line}, {done}, with {flies}"
    else:
        off = [fly.name for fly in before.flies if fly.name not in names]
        on = [name for name in names if name not in [fly.name for fly in before.flies]]
        swap = f"{' and '.join(on)} for {' and '.join(off).lower()}" if on and off else f"with {flies}"
        same = before.words == one.words and before.float_m == one.float_m
        text = swap if same and (on or off) else done if not on and not off else f"{done}; {swap}"
    text = text[:1].upper() + text[1:]
    return Phrase(frame.replace("{}", text), dict(one.values))


def of_other_rod(other: Exposed) -> Phrase:
    """Return how a second rod is set."""
    return _change("Second rod: {}.", None, other)


def span_of(one: Exposed) -> tuple[float, float]:
    """Return between which depths [m] the flies are most of the time."""
    spent: dict[float, float] = {}
    for minutes, depths in one.spans:
        for depth in depths:
            spent[depth] = spent.get(depth, 0.0) + minutes
    total, at, low, high = sum(spent.values()), 0.0, 0.0, 0.0
    for depth in sorted(spent):
        low = depth if at <= 0.1 * total else low
        at += spent[depth]
        high = depth
        if at >= 0.9 * total:
            break
    return low, high


def _chance_in(day: Day, low: float, high: float) -> float:
    """Return the chance of fish that would have met a fly worked between two depths [m]: from there down by their reach."""
    grid, joint = day.table.grid, day.belief.joint()
    width = len(joint[0]) // len(grid.centres_m)
    near = [c for c, at in enumerate(grid.centres_m) if low - grid.step_m <= at <= high + grid.reaches_m[1]]
    return sum(row[c * width + i] for row in joint for c in near for i in range(width) if i % len(RATES_PMIN))


def _stated_in(day: Day, low: float, high: float) -> float:
    grid = day.table.grid
    flat = 1.0 / len(grid.centres_m)
    near = [c for c, at in enumerate(grid.centres_m) if low - grid.step_m <= at <= high + grid.reaches_m[1]]
    return 0.9 * sum(0.5 * grid.stated[c] + 0.5 * flat for c in near)

"""What the belief says, in words: what was learnt, from what, and what to do about it."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import TYPE_CHECKING

from stillthread.phrase import Phrase
from stillthread.search.grid import RATE_TIMES
from stillthread.search.policy import Move, empty
from stillthread.search.presentation import Exposed

if TYPE_CHECKING:
    from stillthread.search.day import Day

UNLIKELY, LIKELY = 0.35, 0.6  # ours, bounds 0 to 1: from here it is said
FEW_CASTS = 3  # common practice: one cast or two say nothing
BARREN = 0.5  # ours, bounds 0 to 1


@dataclass(frozen=True, slots=True)
class Felt:
    """Something that came, as it is told: its kind (of a fish how it ended), when, how deep [m], to what way and which fly,
    and in which phase of the cast."""

    kind: str
    at_min: float
    depth_m: float
    key: str
    fly: int | None = None
    phase: str | None = None


WHAT_CAME = {"knock": "Knock", "follow": "A follow", "refused": "Refused", "lost": "Lost one"}
SEVERAL_CAME = {"knock": "knocks", "follow": "follows", "refused": "refused", "lost": "lost"}
PHASES = {
    "drop": "as it sank", "pull": "on the pull", "stop": "on the stop", "hang": "on the hang", "lift": "as it was lifted",
    "rest": "as it hung still",
}  # fmt: skip
# Common practice: what a phase says of what to repeat.
REPEATS = {
    "drop": "Let it sink on a tight line: same count, no deeper, and watch the line as it goes down.",
    "pull": "Same pull again.",
    "stop": "More stops, longer ones: they take as it stops.",
    "hang": "They follow: hang it longer before you lift, and once half way in.",
    "lift": "They rise behind it: hang it before you lift, and lift slowly.",
    "rest": "Leave it lie: they take it hanging still.",
}
LOST_ALL = 3  # common practice: so many in a row are no accident


def what_it_means(day: Day) -> list[Phrase]:
    """Return what the last answers mean, the newest first."""
    found: list[Phrase] = []
    if day.felt:
        found.append(_came(day))
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


def _came(day: Day) -> Phrase:
    """Return what came last, how often in a row, and what that says."""
    last = day.felt[-1]
    if last.kind == "splash":
        return Phrase("A touch as the fly landed: weed, the splash or a small fish. It says little.", {})
    alike = _in_a_row(day)
    values = {"at_m": last.depth_m, "ago_min": day.at_min - last.at_min}
    ago = ", {ago_min} ago" if values["ago_min"] >= 1.0 else ""
    phase = f", {PHASES[last.phase]}" if last.phase else ""
    if len(alike) > 1:
        values["times_n"] = float(len(alike))
        what = f"{{times_n}} {SEVERAL_CAME.get(last.kind, 'fish')}"
    else:
        what = WHAT_CAME.get(last.kind, "Fish")
    if last.kind in {"knock", "follow", "refused"}:
        meant = ": the depth is right, the fly or its pace perhaps not"
    elif last.kind == "lost" and len(alike) >= LOST_ALL:
        meant = ", none held: look at hook point and barb, knots and a straight line before the strike; depth and fly are liked"
    else:
        meant = ""
    return Phrase(f"{what} at {{at_m}}{phase}{ago}{meant}.", values)


def _in_a_row(day: Day) -> list[Felt]:
    """Return the last things that came that are alike: fish, or all of one kind that did not hold."""
    found: list[Felt] = []
    fish = {"take", "landed"}
    for one in reversed(day.felt):
        if found and one.kind != found[0].kind and not {one.kind, found[0].kind} <= fish:
            break
        found.append(one)
    return found


def repeats(day: Day) -> Phrase | None:
    """Return what to do again, where most of the last fish came in one phase of the cast."""
    fish = [one for one in day.felt[-4:] if one.kind in {"take", "landed", "lost"} and one.phase]
    of = Counter(str(one.phase) for one in fish)
    if not of:
        return None
    phase, times = of.most_common(1)[0]
    return Phrase(REPEATS[phase], {}) if 2 * times > len(fish) else None


def what_to_do(day: Day, move: Move) -> list[Phrase]:
    """Return the move in one line, its reason with price and gain, and the runner-up."""
    if move.elsewhere:
        lead = Phrase("Move to another place: the next mark, or along the same depth.")
        why = Phrase("Nothing in {here_min} here; depth and fly go with you.", {"here_min": day.at_min - day.here_since_min})
        return [lead, why]
    again = repeats(day)
    if not move.change:
        takes = {"takes_n1": move.best.takes_ph if move.stay is None else move.stay.takes_ph}
        gain = Phrase("Go on so: {takes_n1} takes an hour expected, and no change is worth its minutes.", takes)
        fish = day.felt and day.felt[-1].kind in {"take", "landed"} and not day.blanks
        lead = Phrase("Same again: same place, same count, same fly.") if fish else Phrase("Stay with it.")
        return [lead, again or gain, *([gain] if again else [])]
    best = day.known[move.best.key]
    now = day.known[move.stay.key] if move.stay is not None else None
    lead = _change("{}.", now, best)
    low, high = span_of(best)
    gain_n2 = move.best.value - _stay(move)
    values = {"low_m": low, "high_m": high}
    text = "It works {low_m} to {high_m}. "
    if move.best.cost_min:
        values["cost_min"] = move.best.cost_min
        text += "Costs {cost_min}; "
    else:
        text += "Costs no time; "
    if gain_n2 >= 0.0:
        values["gain_n2"] = gain_n2
        text += "about {gain_n2} takes more over the next " + ("half hour." if move.horizon_min <= 30.0 else "hour.")
    else:
        text += "they touch it and let go." if day.misses > 1 else "it has been long enough without anything."
    found = [lead, Phrase(text, values)]
    if again is not None:
        found.append(again)
    if move.runner_up is not None and move.runner_up.key in day.known:
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
    return sum(row[c * width + i] for row in joint for c in near for i in range(width) if i % len(RATE_TIMES))


def _stated_in(day: Day, low: float, high: float) -> float:
    grid = day.table.grid
    flat = 1.0 / len(grid.centres_m)
    near = [c for c, at in enumerate(grid.centres_m) if low - grid.step_m <= at <= high + grid.reaches_m[1]]
    return 0.9 * sum(0.5 * grid.stated[c] + 0.5 * flat for c in near)

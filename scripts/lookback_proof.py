"""Hold what is learnt from the log against simulated seasons whose truth is known, and write docs/lookback.md."""

from __future__ import annotations

import argparse
import math
from pathlib import Path

from stillthread.api import MOST_SHARE, most_moved
from tests.seasons import Habit, coverage_of_lines, coverage_of_rates, favourites, gain_of_log

ROOT = Path(__file__).resolve().parents[1]
HABITS_M = (0.0, 0.8, -1.0, 1.5)
LOG_DAYS = (3, 8, 20)


def lean_rows(tries: int) -> list[str]:
    rows = []
    for off in HABITS_M:
        cells = []
        for days in LOG_DAYS:
            mean, error, _ = gain_of_log(11, tries, days, Habit(off))
            cells.append(f"{mean:+.3f} ± {error:.3f}")
        rows.append(f"| fish {off:+.1f} m off what was advised | " + " | ".join(cells) + " |")
    for off in HABITS_M[1:]:
        cells = []
        for days in LOG_DAYS:
            mean, error, worst = gain_of_log(12, tries, days, Habit(off), Habit(-off))
            cells.append(f"{mean:+.3f} ± {error:.3f}, worst {worst:+.2f}")
        rows.append(f"| log of {off:+.1f} m, day of {-off:+.1f} m: it misleads | " + " | ".join(cells) + " |")
    return rows


def main() -> None:
    asked = argparse.ArgumentParser()
    asked.add_argument("--seasons", type=int, default=2000)
    asked.add_argument("--tries", type=int, default=600)
    told = asked.parse_args()
    inside, below, above = coverage_of_rates(told.seasons)
    lines = coverage_of_lines(told.seasons)
    plain, alike = (favourites(told.seasons, alike=alike) for alike in (False, True))
    most = f"{100 * float(MOST_SHARE):.0f} % at most and moves no two depths apart by more than {most_moved():.1f} times"
    text = [
        "# Learning from the log, held against a known truth",
        "",
        f"Written by `make lookback` ({told.seasons} seasons and lines, {told.tries} held-out days a cell). The worlds are in",
        "core/tests/seasons.py; a smaller run of each is part of the tests.",
        "",
        "**Takes an hour.** Seasons of 25 days and up to six ways to fish: common rate, scatter of the ways and mood of the",
        "days drawn anew for each, moods shared by what is fished on a day, hours from minutes to a day.",
        "",
        "| nine-in-ten intervals | of true rates |",
        "|---|---|",
        f"| hold it | {100 * inside:.1f} % (aim 88 to 92) |",
        f"| true rate below | {100 * below:.1f} % |",
        f"| true rate above | {100 * above:.1f} % |",
        "",
        "**A favourite kept for the evening**, when two to four times as many take whatever is fished: with hours that count",
        f"alike in every part of the day {100 * alike[0]:.1f} % of true rates lie in their interval",
        f"({100 * plain[0]:.1f} % with hours as they are), and the favourite is called surely the best",
        f"wrongly in {alike[2]} of {told.seasons} seasons",
        f"({plain[2]}), rightly in {alike[1]} ({plain[1]}).",
        "",
        "**Lines.** Three to eight trials of a line whose rate is off its label by a fifth (one standard deviation), by",
        "steady and unsteady hands, 8 % of the trials gone wrong: the nine-in-ten interval holds the true rate in",
        f"{100 * lines:.1f} % of {told.seasons} lines.",
        "",
        "**Days like this one.** Log score of where the fish of a held-out day were, gained by the lean [nats a take, mean",
        "and its standard error]; days on which about four took; the angler fishes mostly where he is told to.",
        "",
        "| | " + " | ".join(f"{days} days" for days in LOG_DAYS) + " |",
        "|---|" + "---|" * len(LOG_DAYS),
        *lean_rows(told.tries),
        "",
        f"Whatever a log holds, it counts {most},",
        f"so no day can lose more than {math.log(most_moved()):.2f} nats by it.",
        "",
        "Read it with this in mind: the worlds are ours, and days in them differ by more than fish do. What a real log gains",
        "is not known before there are real logs.",
    ]
    out = ROOT / "docs" / "lookback.md"
    out.write_text("\n".join(text) + "\n")
    print(out.read_text())


if __name__ == "__main__":
    main()

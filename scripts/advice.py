"""Ask the plan for every row of practice: write docs/advice.md, and the numbers of the judgement into docs/judgement.md."""

from __future__ import annotations

from collections import Counter
from datetime import date
from pathlib import Path

from stillthread.api import STARTER_FLIES, Ranked, food_rows, numbers, sign_rows
from tests.practice.asking import Asked, ask, holds, share_held
from tests.practice.rows import ROWS

ROOT = Path(__file__).resolve().parents[1]

MARK = "<!-- written by scripts/advice.py from here to the end of the table -->"


def how(one: Ranked) -> str:
    """Return a choice in a line."""
    action, low_high = one.option.action, one.result.middle_depth_m()
    flies = ", ".join(fly.name.lower() for fly in one.option.flies)
    works = f"{low_high[0]:.1f} to {low_high[1]:.1f} m"
    return f"{action.with_line(one.option.rig.line).plain()}, {works}: {flies}"


def table(asked: list[Asked]) -> list[str]:
    rows = ["| practice | the plan's first | how | next | holds |", "|---|---|---|---|---|"]
    for q in asked:
        first, *others = q.plan.ranked
        after = ", ".join(f"{one.option.method.name.lower()}{' (as good)' if one.as_good else ''}" for one in others[:2])
        broken = [
            "{} {}".format(kind, " ".join(map(str, wants))) for kind, *wants in q.row.checks if not holds(q, (kind, *wants))
        ]
        said = "yes" if not broken else f"not {'; not '.join(broken)}"
        rows.append(f"| {q.row.says} | {first.option.method.name} | {how(first)} | {after} | {said} |")
    return rows


def write_advice(asked: list[Asked]) -> None:
    held = sum(share_held(q)[0] for q in asked) / sum(share_held(q)[1] for q in asked)
    methods = Counter(q.plan.ranked[0].option.method.name for q in asked)
    first_flies = Counter(fly.name for q in asked for fly in q.plan.ranked[0].option.flies)
    shown = {fly.name for q in asked for one in q.plan.ranked[:3] for fly in one.option.flies}
    fly, times = first_flies.most_common(1)[0]
    lines = [
        "# What practice would choose, and what the plan chooses",
        "",
        f"Written by `make advice` on {date.today():%-d %B %Y} from `core/tests/practice/rows.py`, with the starter box",
        "(60 flies, 14 lines). All of it is common practice, no published source; one test a row holds the plan to it",
        "(`core/tests/test_practice_rows.py`). Why it judges so: [judgement.md](judgement.md).",
        "",
        f"- **{held:.1%}** of the weight of {len(asked)} situations holds.",
        f"- First methods: {', '.join(f'{name.lower()} {n}' for name, n in methods.most_common())}.",
        f"- The commonest fly of first choices, {fly.lower()}, is in {times} of {len(asked)};"
        f" {len(shown)} of {len(STARTER_FLIES)} flies reach a top three.",
        "",
        *table(asked),
        "",
        "**What is simulated and what is not.** Side wind bows the line in the run itself; waves, gusts and the fish are no",
        "part of it, and a",
        "float pays for waves in the score. The order of methods within a tenth of each other means little: the screen says",
        "that they are as good,",
        "and takes an hour are shown as a range.",
    ]
    (ROOT / "docs/advice.md").write_text("\n".join(lines) + "\n")


def write_numbers() -> None:
    path = ROOT / "docs/judgement.md"
    text = path.read_text()
    head, _, rest = text.partition(MARK)
    tail = rest.partition("\n\n## ")[2]
    rows = ["| number | value | unit | bounds | source | why |", "|---|---|---|---|---|---|"]
    rows += [
        f"| `{name}` | {value:g} | {about['unit']} | {low:g} to {high:g} | {about['source']} | {about['why']} |"
        for name, value, about in numbers()
        for low, high in [about["bounds"]]
    ]
    path.write_text(head + MARK + "\n\n" + "\n".join(rows) + "\n" + (f"\n## {tail}" if tail else ""))


def write_foods() -> None:
    lines = [
        "# Foods and signs",
        "",
        "Written by `make advice` from `food/catalogue.py` and `food/signs.py`; a test holds it to them. All of it is common",
        "practice, no published source; the chances are ours. `else` is how common a food is out of its months, as a share.",
        "",
        *food_rows(),
        "",
        *sign_rows(),
    ]
    (ROOT / "docs/foods.md").write_text("\n".join(lines) + "\n")


def main() -> int:
    asked = [ask(row) for row in ROWS]
    write_advice(asked)
    write_numbers()
    write_foods()
    print(f"docs/advice.md, docs/judgement.md and docs/foods.md written from {len(asked)} rows")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())

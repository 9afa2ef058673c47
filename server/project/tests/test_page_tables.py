"""The page takes what the trade takes for granted from the tables that the core writes for it, and states none of it by hand."""

from __future__ import annotations

import re

from django.conf import settings
from django.test import SimpleTestCase

from stillthread.api import ENTRY_KINDS, SCHOOLS, trade_numbers

KEPT_AS_IT_WAS = ("upgrades.ts",)  # shapes of earlier builds
QUANTITIES = r"recast|reset|drift|tow|count|cast|band|below|clear|float"


def page() -> dict[str, str]:
    root = settings.ROOT_DIR / "web" / "src"
    files = [path for ending in ("ts", "tsx") for path in root.rglob(f"*.{ending}")]
    return {
        str(path.relative_to(root)): path.read_text()
        for path in files
        if path.parent.name != "api" and path.name not in KEPT_AS_IT_WAS and ".test." not in path.name
    }


def listed_by_hand(text: str) -> list[str]:
    """Return lists that name three kinds of entry or schools or more, one after the other."""
    kinds = "|".join(map(re.escape, (*ENTRY_KINDS, *(key for key in SCHOOLS if "-" in key))))
    return re.findall(rf"(?:'(?:{kinds})'\s*[,|]\s*){{2,}}'(?:{kinds})'", text)


def numbers_by_hand(text: str) -> list[str]:
    """Return constants and bounds that are named for a quantity of the tables and hold its number."""
    values = "|".join(sorted({re.escape(f"{value:g}") for value in trade_numbers().values()}))
    named = re.findall(rf"const \w*(?:{QUANTITIES})\w*(?:_S|_M|S|M)\s*=\s*(?:{values})\b", text, re.IGNORECASE)
    counts = re.findall(r"label=\"Count\"[^/]*?most=\{\d+\}", text)
    return named + counts


class PageTableTests(SimpleTestCase):
    def test_no_list_of_kinds_or_schools_and_no_usual_value_stands_in_the_page(self) -> None:
        for name, text in page().items():
            with self.subTest(name):
                self.assertEqual(listed_by_hand(text), [])
                self.assertEqual(numbers_by_hand(text), [])

    def test_units_for_people_live_in_one_room(self) -> None:
        conversion = re.compile(r"\b0\.3048\b|\b0\.0254\b|\b2\.54\b|\b1609\.34\b|\b2\.2046\d*\b|\b0\.4535\d*\b")
        found = [name for name, text in page().items() if not name.startswith("format/") and conversion.search(text)]
        self.assertEqual(found, [])

    def test_what_was_stated_by_hand_once_would_be_found(self) -> None:
        self.assertEqual(len(listed_by_hand("const OF = ['nothing', 'knock', 'take'] as const")), 1)
        self.assertEqual(len(listed_by_hand("['depth-first', 'fly-first', 'top-down']")), 1)
        for line in ("const RECAST_S = 15", "const DRIFT_S = 180", "const LONGEST_COUNT_S = 120", 'label="Count" most={90}'):
            self.assertEqual(len(numbers_by_hand(line)), 1, line)

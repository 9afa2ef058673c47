"""The ladder of when nothing comes is the search's own next moves, told beforehand."""

from __future__ import annotations

import json
import unittest
from typing import Any

from stillthread.search.thinker import Thinker
from stillthread.search.when_nothing import MOST_RUNGS, next_rung, when_nothing_json
from tests.searching import hung, sunk, table, told

WAYS = [hung(1.5, 1), hung(3.0, 1), hung(4.5, 1), hung(3.0, 3), sunk(20.0), sunk(40.0)]
TABLE = table(WAYS, mean_m=3.0, sd_m=1.2)


def begun(way: int = 0) -> dict[str, Any]:
    return {"fished": {"a": told(WAYS[way])}, "happened": [], "now": "a", "now_min": 0.0}


def ladder(log: dict[str, Any], thinker: Thinker | None = None) -> list[dict[str, Any]]:
    thinker, rungs = thinker or Thinker(TABLE), list[dict[str, Any]]()
    while (rung := next_rung(thinker, log, rungs)) is not None:
        rungs.append(rung)
    return rungs


class WhenNothingTests(unittest.TestCase):
    def test_each_rung_is_what_the_search_says_once_so_many_casts_came_to_nothing(self) -> None:
        rungs = ladder(begun())
        self.assertTrue(1 <= len(rungs) <= MOST_RUNGS)
        thinker, log, at_min, tied = Thinker(TABLE), begun(), 0.0, "a"
        for i, rung in enumerate(rungs):
            for casts in range(1, rung["casts"] + 1):
                minutes = log["fished"][tied]["minutes"]
                log["happened"] += [{"kind": "cast", "fished": tied, "at_min": at_min},
                                    {"kind": "nothing", "fished": tied, "at_min": at_min + minutes}]  # fmt: skip
                at_min += minutes
                move = thinker.think({**log, "now": tied, "now_min": at_min})["move"]
                self.assertEqual(move["change"] or move["elsewhere"], casts == rung["casts"], (i, casts))
            self.assertEqual(move["words"][0], rung["words"])
            tied = f"~{i}"
            log["fished"][tied] = rung["presentation"]

    def test_what_is_thought_of_ahead_has_not_happened(self) -> None:
        thinker, log = Thinker(TABLE), begun(1)
        before = json.dumps(thinker.think(log))
        ladder(log, thinker)
        self.assertEqual(json.dumps(thinker.think(log)), before)

    def test_a_day_that_has_gone_on_is_gone_on_from(self) -> None:
        log = begun(1)
        log |= {"happened": [{"kind": "told", "at_min": 1.0, "depth_m": 4.5, "fly_class": 1}], "now_min": 2.0}
        depths = [[rung["presentation"]["float_m"] for rung in ladder(of)] for of in (log, begun(1))]
        self.assertNotEqual(*depths)
        self.assertIn(4.5, depths[0][:2])

    def test_each_school_has_its_own(self) -> None:
        up, down = ([one["presentation"]["depth_m"][0][0] for one in ladder({**begun(1), "school": school})]
                    for school in ("bottom-up", "top-down"))  # fmt: skip
        self.assertLess(up[0], 3.0)
        self.assertGreater(down[0], 3.0)

    def test_it_crosses_to_a_device_as_text(self) -> None:
        one = WAYS[0]
        run = {"key": one.key, "line": one.line, "kind": "hang", "set_depth_m": one.float_m, "time_s": list(one.time_s),
               "flies": [{"name": fly.name, "depth_m": list(p)} for fly, p in zip(one.flies, one.depth_m, strict=True)]}  # fmt: skip
        asked = json.dumps({"log": {"fished": {"a": run}, "entries": [], "now": "a"}, "rungs": []})
        self.assertEqual(json.loads(when_nothing_json(json.dumps(TABLE), asked))["words"], ladder(begun())[0]["words"])

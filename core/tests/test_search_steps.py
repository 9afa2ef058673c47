"""What is a step away from what is tied on, and what fish that came to a fly say of others."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

from stillthread.search.likes import Answer, FlyAbout, Likes
from stillthread.search.presentation import Exposed, Presentation, TiedFly, as_json
from stillthread.search.steps import Pace, key_of, steps_from
from stillthread.search.thinker import Thinker
from stillthread.trade.usual import LONGEST_COUNT_S
from tests.searching import grid, hung, table

FITS = {"sinker/1": (0,), "sinker/2": (0, 1), "indicator/1": (0,), "indicator/2": (0, 1)}


def fly(fly_class: int, colour: str = "black", hook: int = 12, sinks: str = "light", worth: float = 1.0) -> FlyAbout:
    return FlyAbout(
        fly_class=fly_class, colour=colour, hook_size=hook, style="natural", sinks=sinks, still=worth, pulled=worth, fits=FITS
    )


ABOUT = {
    "Black nymph": fly(1), "Small black nymph": fly(1, hook=16), "Olive nymph": fly(2, "olive", worth=0.9),
    "Black lure": fly(3, hook=8, worth=0.8), "Orange lure": fly(4, "orange", hook=8, worth=0.7),
    "Heavy nymph": fly(1, sinks="heavy"), "Pale nymph": fly(2, "white", worth=0.6),
}  # fmt: skip
PACES = (Pace(key="static", name="Static", mps=0.01), Pace(key="slow", name="Slow twist", mps=0.05), Pace(key="strip", name="Strip and pause", mps=0.12),
         Pace(key="fast", name="Two-handed", mps=0.4))  # fmt: skip


def cast(count_s: float = 20.0, names: tuple[str, ...] = ("Black nymph",), pace: Pace = PACES[2]) -> Presentation:
    """Return a cast that sinks 8 cm a second for its count, comes in and rises."""
    deep, end = 0.08 * count_s + 0.3, count_s + 50.0
    times = (0.0, count_s / 2.0, count_s, count_s + 40.0, end)
    paths = tuple((0.0, deep / 2.0, deep, 0.8 * deep, 0.1) for _ in names)
    flies = tuple(TiedFly(name, ABOUT[name].fly_class) for name in names)
    action = {
        "kind": "cast",
        "count_s": count_s,
        "retrieve_key": pace.key,
        "retrieve_mps": pace.mps,
        "retrieve_name": pace.name,
    }
    one = Presentation(
        key="",
        method="sinker",
        line="Type 3",
        flies=flies,
        minutes=(end + 15.0) / 60.0,
        time_s=times,
        depth_m=paths,
        action=action,
    )
    return replace(one, key=key_of(one), words=f"count {count_s:.0f}")


def near(now: Presentation, options: tuple[Presentation, ...] = (), deepest_m: float = 6.0) -> list[Presentation]:
    return list(steps_from(now, ABOUT, PACES, options or (now,), deepest_m))


class StepTests(unittest.TestCase):
    def test_a_count_goes_on_as_it_sank_and_no_deeper_than_its_line_is_known_to_take_a_fly(self) -> None:
        now, deep = cast(20.0), cast(50.0)
        counts = {one.count_s: one for one in near(now, (now, deep)) if one.pace_mps == now.pace_mps and one.flies == now.flies}
        self.assertEqual(sorted(counts), [5.0, 10.0, 15.0, 17.0, 23.0, 25.0, 30.0, 35.0])
        for count_s in (10.0, 30.0):
            drawn, run = counts[count_s], cast(count_s)
            self.assertAlmostEqual(drawn.works_m, run.works_m, delta=0.25)
            self.assertAlmostEqual(drawn.minutes, run.minutes, delta=0.02)
            self.assertAlmostEqual(max(drawn.depth_m[0]), max(run.depth_m[0]), delta=0.25)
        alone = {one.count_s: max(one.depth_m[0]) for one in near(now) if one.flies == now.flies}
        self.assertAlmostEqual(alone[35.0], max(now.depth_m[0]), places=2)

    def test_no_count_is_longer_than_is_counted_nor_a_fly_put_below_the_bottom(self) -> None:
        for one in near(cast(55.0), deepest_m=5.0):
            self.assertLessEqual(one.count_s, float(LONGEST_COUNT_S))
            self.assertLessEqual(max(one.depth_m[0]), 5.0)
            self.assertTrue(all(b >= a for a, b in zip(one.time_s, one.time_s[1:], strict=False)), one.key)

    def test_a_pace_changes_the_time_and_hardly_the_depth(self) -> None:
        now = cast(20.0)
        paces = {one.pace_mps: one for one in near(now) if one.count_s == now.count_s and one.flies == now.flies}
        self.assertEqual(sorted(paces), [0.01, 0.05, 0.4])
        slow, quick = paces[0.05], paces[0.4]
        self.assertTrue(slow.time_s[-1] > now.time_s[-1] > quick.time_s[-1])
        self.assertTrue(slow.works_m > now.works_m > quick.works_m)
        self.assertEqual(slow.action["retrieve_key"], "slow")

    def test_a_float_goes_by_a_foot_within_leader_and_water_and_never_takes_its_top_fly_out_of_it(self) -> None:
        action = {"kind": "hang", "set_depth_m": 2.0, "indicator": "fixed"}
        now = replace(hung(2.0, 1, 3), action=action, leader_m=2.4, flies=(TiedFly("Black nymph", 1), TiedFly("Black lure", 3)))
        floats = sorted(one.float_m for one in near(now) if one.flies == now.flies and one.float_m is not None)
        self.assertEqual(floats, [1.4, 1.7, 2.3])
        one = next(one for one in near(now) if one.float_m == 1.7)
        self.assertAlmostEqual(one.depth_m[0][1], 1.7, places=6)
        self.assertEqual((one.action["set_depth_m"], one.words), (1.7, "float at {set_m}"))

    def test_another_fly_sits_where_it_may_sinks_alike_and_is_worth_what_it_is_worth(self) -> None:
        now = cast(20.0, ("Black nymph", "Olive nymph"))
        swapped = [one for one in near(now) if one.count_s == now.count_s and one.pace_mps == now.pace_mps]
        names = {tuple(fly.name for fly in one.flies) for one in swapped}
        self.assertIn(("Black lure", "Olive nymph"), names)
        self.assertIn(("Black nymph", "Pale nymph"), names)
        self.assertFalse(any("Heavy nymph" in pair for pair in names))
        self.assertTrue(all(len(set(pair)) == 2 for pair in names))
        worth = {tuple(fly.name for fly in one.flies): one.share for one in swapped}
        self.assertGreater(worth["Small black nymph", "Olive nymph"], worth["Orange lure", "Olive nymph"])
        self.assertEqual({one.like for one in swapped}, {now.key})

    def test_keys_of_steps_are_those_of_the_table_and_a_step_of_a_step_does_not_grow(self) -> None:
        now = cast(20.0)
        there = next(one for one in near(now) if one.count_s == 25.0)
        self.assertEqual(there.key, key_of(cast(25.0)))
        back = next(one for one in near(there, (now, cast(50.0))) if one.count_s == 20.0 and one.pace_mps == now.pace_mps)
        self.assertEqual((back.key, back.like), (now.key, now.key))


class OwnChangeTests(unittest.TestCase):
    """What the angler may change by himself, of a team of two on a counted line."""

    def setUp(self) -> None:
        self.now = cast(20.0, ("Black nymph", "Olive nymph"))
        self.other = replace(cast(30.0), key="other", line="Type 5")
        deeper = replace(cast(50.0), key="deeper", line="Type 5")
        self.fished = [{"a": as_json(replace(self.now, key="own"))}]
        told = table([self.other, deeper]) | {
            "about": {name: {f: getattr(about, f) for f in about.__slots__} for name, about in ABOUT.items()},
            "retrieves": [{"key": p.key, "name": p.name, "mps": p.mps} for p in PACES],
        }
        self.told = told | {"options": [as_json(self.other), as_json(deeper)]}

    def changes(self, happened: list[dict[str, Any]] | None = None) -> list[dict[str, Any]]:
        begun = [{"kind": "cast", "at_min": 0.0, "fished": "a"}]
        log = {"fished": self.fished[0], "happened": begun + (happened or []), "now_min": 5.0}
        found: list[dict[str, Any]] = Thinker(self.told).own_changes(log)["changes"]
        return found

    def test_each_turns_one_thing_in_the_order_of_its_dial_and_says_how_it_is_fished(self) -> None:
        of: dict[str, list[dict[str, Any]]] = {}
        for one in self.changes():
            of.setdefault(one["turns"], []).append(one)
        self.assertEqual(set(of), {"count", "pace", "fly", "line"})
        counts = [one["presentation"]["action"]["count_s"] for one in of["count"]]
        self.assertEqual(counts, [5.0, 10.0, 15.0, 17.0, 23.0, 25.0, 30.0, 35.0])
        self.assertEqual([one["presentation"]["action"]["retrieve_mps"] for one in of["pace"]], [0.01, 0.05, 0.4])
        self.assertEqual({one["fish"]["like"] for one in of["count"]}, {"own"})
        self.assertTrue(all(one["cost_min"] == 0.0 for one in of["count"]))

    def test_a_fly_changes_one_seat_and_what_was_tied_on_before_stands_first(self) -> None:
        flies = [one for one in self.changes() if one["turns"] == "fly"]
        self.assertEqual({one["seat"] for one in flies}, {0, 1})
        for one in flies:
            names = [fly["name"] for fly in one["presentation"]["flies"]]
            self.assertEqual(names[1 - one["seat"]], self.now.flies[1 - one["seat"]].name)
        before = replace(cast(20.0, ("Orange lure", "Pale nymph")), key="before")
        self.fished = [{"a": self.fished[0]["a"], "b": as_json(before)}]
        first = [one for one in self.changes() if one["turns"] == "fly" and one["seat"] == 0][:2]
        self.assertEqual({one["presentation"]["flies"][0]["name"] for one in first}, {"Orange lure", "Pale nymph"})

    def test_of_another_line_its_best_stands_for_it(self) -> None:
        lines = [one for one in self.changes() if one["turns"] == "line"]
        self.assertEqual(len(lines), 1)
        self.assertNotIn("presentation", lines[0])
        self.assertGreater(lines[0]["cost_min"], 0.0)
        rates = {one["key"]: one["takes_ph"] for one in lines}
        self.assertEqual(set(rates) <= {"other", "deeper"}, True)

    def test_nothing_is_offered_where_nothing_is_tied_on(self) -> None:
        self.assertEqual(Thinker(self.told).own_changes({"fished": {}, "happened": []}), {"changes": []})


class ReplayTests(unittest.TestCase):
    def test_what_was_blank_is_tried_again_once_the_light_has_moved_them(self) -> None:
        way = hung(2.0)
        blanks = [{"kind": "cast", "at_min": 4.0 * i, "fished": "a"} for i in range(6)]
        for deeper_m, idle in ((0.0, 5), (2.0, 0)):
            of = table([way]) | {"shift": [{"at_min": 0.0, "deeper_m": 0.0}, {"at_min": 24.0, "deeper_m": deeper_m}]}
            thinker = Thinker(of)
            day = thinker.day({"happened": blanks, "now_min": 24.0}, {"a": way})
            self.assertEqual(day.idle.get(way.key, 0), idle, deeper_m)

    def test_a_bottom_found_deeper_is_read_on_the_cells_that_the_day_began_with(self) -> None:
        way = hung(2.0)
        of = table([way], mean_m=1.0, sd_m=0.4)
        begun = Thinker(of).think({"happened": [], "now_min": 1.0})
        stated = [0.0] * 7 + [1.0]
        changed = {"kind": "changed", "at_min": 1.0, "stated": stated, "wanted": [1.0] * 4}
        deeper = Thinker(of).think({"happened": [changed | {"centres_m": [0.5 + i for i in range(8)]}], "now_min": 1.0})
        self.assertEqual([one["depth_m"] for one in begun["ridge"]], [one["depth_m"] for one in deeper["ridge"]])
        self.assertGreater(deeper["ridge"][-1]["chance"], 5.0 * begun["ridge"][-1]["chance"])


class LikesTests(unittest.TestCase):
    def liked(self, *answers: tuple[str, float, float], casts: int = 1) -> dict[str, float]:
        told = [Answer(name, ABOUT[name], 0.12, hit, miss, 0) for name, hit, miss in answers]
        likes = Likes(told, casts)
        return {name: likes.of_fly(name, about, 0.12) for name, about in ABOUT.items()}

    def test_what_was_refused_is_worth_less_and_its_like_the_more_the_more_alike(self) -> None:
        found = self.liked(("Black nymph", 0.0, 0.9))
        order = ["Black nymph", "Small black nymph", "Black lure", "Orange lure"]
        self.assertEqual(sorted(order, key=found.__getitem__), order)
        self.assertLess(found["Orange lure"], 1.0)
        self.assertGreater(self.liked(("Black nymph", 1.0, 0.0))["Black nymph"], 1.0)

    def test_it_is_the_beta_posterior_of_the_books_for_the_fly_itself(self) -> None:
        """Beta(a, b) after h hits and m misses has the mean (a + h) / (a + b + h + m) (any textbook, from memory)."""
        found = self.liked(*[("Black nymph", 1.0, 0.0)] * 2, ("Black nymph", 0.0, 0.6), casts=0)
        self.assertAlmostEqual(found["Black nymph"], (1.2 + 2.0) / (2.0 + 2.6) / 0.6, places=9)

    def test_it_fades_with_casts_and_a_pace_that_differs_counts_less(self) -> None:
        self.assertGreater(self.liked(("Black nymph", 0.0, 0.9), casts=9)["Black nymph"], 0.9)
        likes = Likes([Answer("Black nymph", ABOUT["Black nymph"], 0.12, 0.0, 0.9, 0)], 1)
        self.assertGreater(
            likes.of_fly("Black nymph", ABOUT["Black nymph"], 0.005), likes.of_fly("Black nymph", ABOUT["Black nymph"], 0.12)
        )

    def test_a_take_on_a_fly_thought_little_of_says_more_than_one_on_the_best(self) -> None:
        poor = {**ABOUT, "Orange lure": fly(4, "orange", 8, worth=0.2)}
        hits = [Answer("Orange lure", poor["Orange lure"], 0.12, 1.0, 0.0, 0)]
        better = Likes(hits, 0).of_fly("Orange lure", poor["Orange lure"], 0.12)
        self.assertGreater(better, 1.3 * self.liked(("Black nymph", 1.0, 0.0), casts=0)["Black nymph"])

    def test_what_another_told_of_his_fly_counts_for_those_of_its_class_and_colour(self) -> None:
        told = Likes([Answer("", FlyAbout(fly_class=3, colour="black", hook_size=8), 0.05, 1.6, 0.0, 0)], 0)
        found = {name: told.of_fly(name, about, 0.05) for name, about in ABOUT.items()}
        self.assertEqual(max(found, key=found.__getitem__), "Black lure")


class ProposedTests(unittest.TestCase):
    def thought(self, kinds: str, now: Presentation, **log: Any) -> dict[str, Any]:
        """Return what is said after casts so: b(lank), k(nock), t(ake), l(ost), f(ollow)."""
        of = table([now, cast(50.0, tuple(fly.name for fly in now.flies))], mean_m=1.8, sd_m=0.6)
        of["options"] = [{**one, "action": dict(way.action)} for one, way in zip(of["options"], (now, cast(50.0)), strict=True)]
        about = {name: {"fly_class": a.fly_class, "colour": a.colour, "hook_size": a.hook_size, "sinks": a.sinks,
                        "still": a.still, "pulled": a.pulled, "fits": a.fits} for name, a in ABOUT.items()}  # fmt: skip
        paces = [{"key": p.key, "name": p.name, "mps": p.mps} for p in PACES]
        happened, at = [], 0.0
        words = {"b": "nothing", "k": "knock", "t": "take", "l": "lost", "f": "follow"}
        for kind in kinds:
            happened.append({"kind": "cast", "fished": "a", "at_min": at})
            if kind != "b":
                happened.append(
                    {"kind": words[kind], "fished": "a", "at_min": at + 0.6, "depth_m": 1.7, "fly": 0, "phase": "hang"}
                )
            at += now.minutes
            if kind in "bkf":
                happened.append({"kind": "nothing", "fished": "a", "at_min": at})
        asked = {"fished": {"a": as_json(now)}, "happened": happened, "now_min": at, **log}
        return Thinker({**of, "about": about, "retrieves": paces}).think(asked)

    def test_two_knocks_change_the_fly_or_its_pace_and_nothing_else_and_what_is_proposed_comes_with_how_it_is_fished(
        self,
    ) -> None:
        now = cast(20.0, ("Black nymph",))
        move = self.thought("kk", now)["move"]
        self.assertTrue(move["change"])
        best = Presentation.of(move["best"]["presentation"])
        self.assertTrue(best.flies != now.flies or best.pace_mps != now.pace_mps)
        self.assertLess(abs(best.works_m - now.works_m), 0.5)
        self.assertEqual(move["best"]["fish"]["like"], now.key)
        self.assertEqual(move["best"]["fish"]["action"]["retrieve_mps"], best.pace_mps)

    def test_follows_are_no_blanks_and_three_of_them_change_something(self) -> None:
        now = cast(20.0)
        told = self.thought("fff", now)
        self.assertTrue(told["move"]["change"])
        self.assertNotIn("blank", " ".join(one["text"] for one in told["said"]))
        self.assertIn("follows", told["said"][0]["text"])

    def test_what_just_gave_a_fish_is_fished_again_and_the_phase_says_how(self) -> None:
        told = self.thought("btt", cast(20.0))["move"]
        self.assertFalse(told["change"])
        self.assertIn("hang it longer", " ".join(one["text"] for one in told["words"]))

    def test_three_lost_in_a_row_point_at_hook_and_strike_and_not_at_the_depth(self) -> None:
        told = self.thought("lll", cast(20.0))
        self.assertIn("hook", told["said"][0]["text"])
        self.assertFalse(told["move"]["change"] and abs(told["move"]["best"]["cost_min"]) > 3.0)

    def test_a_fly_that_had_fish_and_is_now_followed_has_been_learnt_and_comes_off(self) -> None:
        move = self.thought("ttff", cast(20.0, ("Black nymph",)))["move"]
        self.assertTrue(move["change"])
        self.assertNotIn("Black nymph", [fly["name"] for fly in move["best"]["presentation"]["flies"]])

    def test_a_way_that_had_its_casts_is_not_proposed_until_the_water_changes(self) -> None:
        now = cast(20.0)
        thinker = self.thought("bbbbbbbb", now, most_min=5.0)
        self.assertTrue(thinker["move"]["change"])
        self.assertNotEqual(thinker["move"]["best"]["key"], now.key)

    def test_a_lone_knock_as_the_fly_lands_hardly_moves_what_is_believed(self) -> None:
        now = cast(50.0)
        of = table([now], mean_m=4.2, sd_m=0.8)
        happened = [{"kind": "cast", "fished": "a", "at_min": 0.0},
                    {"kind": "knock", "fished": "a", "at_min": 0.02, "depth_m": 0.2, "fly": 0}]  # fmt: skip
        log = {"fished": {"a": as_json(now)}, "now_min": 0.5}
        before, after = (
            sum(one["chance"] for one in Thinker(of).think({**log, "happened": lines})["ridge"] if one["depth_m"] > 2.5)
            for lines in (happened[:1], happened)
        )
        self.assertGreater(after, 0.7 * before)
        later = [happened[0], {**happened[1], "at_min": 0.5}]
        moved = sum(one["chance"] for one in Thinker(of).think({**log, "happened": later})["ridge"] if one["depth_m"] > 2.5)
        self.assertLess(moved, after)

    def test_of_two_paths_that_are_one_what_is_met_is_worked_out_once_and_is_the_same(self) -> None:
        of, now = grid(), cast(20.0, ("Black nymph", "Black lure"))
        other = replace(now, key="other", flies=(TiedFly("Olive nymph", 2), now.flies[1]))
        first = Exposed(now, of)
        first.minutes((True, False))
        self.assertEqual(Exposed(other, of, first).minutes((True, False)), Exposed(other, of).minutes((True, False)))

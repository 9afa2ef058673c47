"""What a way to fish is worth: hand-worked values of seats, costs and what a method has of its own."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace
from typing import Any

import numpy as np

from stillthread.judgement import JUDGEMENT
from stillthread.plan.explaining.reasons import still_or_moved, weak_point
from stillthread.plan.exposure import Exposure
from stillthread.plan.methods import METHODS
from stillthread.plan.option import Option, simulate_option
from stillthread.plan.scoring.scorer import Scorer
from stillthread.plan.scoring.setting import Setting
from stillthread.sinking.cast import Cast, level_water
from stillthread.sinking.hang import Hang
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.sinking.thread import QUICK
from stillthread.sinking.troll import Troll
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.lines import line_of_class
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.trade.schools import SCHOOLS
from stillthread.weather.wind import Wind
from tests.planning import SUMMER_DAY, fly, picture, scorer_for
from tests.rigs import LEADER

J = JUDGEMENT


def exposure(*layer_s: object, duration_s: float = 100.0, weed_s: float = 0.0) -> Exposure:
    layers = np.array(layer_s, dtype=np.float64)
    return Exposure(layers, np.tile([1.0, 1.4], (len(layers), 1)), duration_s, weed_s)


SLOW, BRISK, STILL = (Cast(18.0, 10.0, RETRIEVES[key]) for key in ("slow-twist", "two-handed", "static"))
SUNK_LINE, FLOATER = line_of_class("type-5"), line_of_class("floating")


class ScorerTests(unittest.TestCase):
    def test_a_school_leans_by_a_quarter_toward_its_own(self) -> None:
        for school, mps, lean in (("static", "static", 1.25), ("static", "two-handed", 1.0), ("moved", "static", 1.0),
                                  ("moved", "two-handed", 1.25), ("best", "static", 1.0)):  # fmt: skip
            leaning = Scorer(scorer_for(SUMMER_DAY).given, SCHOOLS[school])
            self.assertEqual(leaning.lean(Cast(18.0, 5.0, RETRIEVES[mps])), lean, (school, mps))

    def test_a_team_is_the_best_of_its_flies_and_a_little_of_the_others(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        q = scorer.ground().q
        first, second = np.zeros_like(q), np.zeros_like(q)
        first[:, 0], second[:, 0], second[:, 1] = 0.6, 0.2, 0.5
        seen = np.zeros((2, len(scorer.matcher.reaches_m), q.shape[1]))
        pupae = (fly("Black ribbed pupa"), fly("Olive ribbed pupa"))
        by_hand = float((q[:, 0] * (0.6 + J.second_fly * 0.2) + q[:, 1] * 0.5).sum())
        self.assertAlmostEqual(scorer.union(np.stack([first, second]), seen, pupae), by_hand)

    def test_a_natural_below_an_attractor_that_is_in_sight_gains(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        q = scorer.ground().q
        offered = np.stack([np.full_like(q, 0.5), np.zeros_like(q)])
        seen = np.ones((2, len(scorer.matcher.reaches_m), q.shape[1]))
        natural, bright = fly("Black ribbed pupa"), fly("Bright orange attractor")
        plain = 0.5 * float(q.sum())
        self.assertAlmostEqual(scorer.union(offered, seen, (natural, bright)), (1.0 + J.hands_on) * plain)
        self.assertAlmostEqual(scorer.union(offered, seen, (natural, fly("Olive ribbed pupa"))), plain)
        self.assertAlmostEqual(scorer.union(offered[::-1], seen, (bright, natural)), plain)  # the natural is above it
        seen[1] = 0.0
        self.assertAlmostEqual(scorer.union(offered, seen, (natural, bright)), plain)

    def test_the_ground_holds_every_food_with_its_chance_and_how_much_they_feed(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        ground, belief = scorer.ground(), SUMMER_DAY.belief
        width = np.gradient(belief.depth_m)
        for row, chance in zip(ground.q, scorer.matcher.chances, strict=True):
            density = next(on.density_pm for on in belief.feeding if on.chance.food.key == chance.food.key)
            by_hand = chance.probability * float((density * width * SUMMER_DAY.activity).sum())
            self.assertAlmostEqual(float(row.sum()), by_hand)
        self.assertTrue(((ground.takes >= 0.0) & (ground.takes <= 1.0)).all())

    def test_fish_do_not_come_up_into_light(self) -> None:
        glare = picture(7, 10, 13, ((0, 14.0),), cloud_fraction=0.0, bottom_depth_m=4.0, secchi_m=5.0, wind=Wind(5.0, 0.0))
        scorer = scorer_for(glare)
        ground, chase = scorer.ground(), len(scorer.matcher.reaches_m) - 1
        takes = ground.takes.reshape(len(scorer.layers), chase + 1, -1)[:, chase]
        j = int(np.argmin(np.abs(ground.fish_m - 1.5)))
        fish_m, fly_m = float(ground.fish_m[j]), float(scorer.layers[8])
        lets = np.ones_like(glare.belief.depth_m)
        for factor in glare.belief.factors:
            if factor.key in {"light", "temperature"}:
                lets = lets * factor.share
        at_fly, at_fish = (float(np.interp(m, glare.belief.depth_m, lets)) for m in (fly_m, fish_m))
        self.assertLess(at_fly, at_fish)
        reach = scorer.matcher.reaches_m[chase]
        by_hand = math.exp(-(((fish_m - fly_m) / reach) ** 2)) * (at_fly / at_fish) ** J.rise_power
        self.assertAlmostEqual(float(takes[8, j]), by_hand)
        # Down into the dark they go as they are.
        below = int(np.argmin(np.abs(scorer.layers - fish_m - 0.1)))
        self.assertAlmostEqual(float(takes[below, j]), math.exp(-(((float(scorer.layers[below]) - fish_m) / J.below_m) ** 2)))

    def test_deeper_fish_are_met_by_deeper_flies(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        n = len(scorer.layers)
        rig = Rig(SUNK_LINE, LEADER, (PlacedFly(fly("Long marabou nymph").fly),))
        option = Option(METHODS["sinker"], rig, (fly("Long marabou nymph"),), SLOW)
        shallow, deep = np.zeros(n), np.zeros(n)
        shallow[5], deep[45] = 100.0, 100.0
        at = [[scorer.takes_ph(option, exposure(layers), shift) for shift in (-1.0, 0.0, 1.0)] for layers in (shallow, deep)]
        self.assertGreater(at[0][0], at[0][2])
        self.assertGreater(at[1][2], at[1][0])

    def test_the_top_costs_a_wet_fly_and_an_uneven_bottom_a_moved_one_that_sinks(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        n = len(scorer.layers)
        top, low = np.zeros(n), np.zeros(n)
        top[0], low[48] = 100.0, 100.0
        wet, dry, foam = fly("Black ribbed pupa"), fly("Black beetle"), fly("Deer-hair dragon nymph")

        def seen(layers: object, one: BoxFly, action: Cast = SLOW) -> float:
            return float(scorer.seen(exposure(layers), (one,), action).sum())

        self.assertAlmostEqual(seen(top, wet) / seen(top, dry), 1.0 - J.skin_cost)
        above = 5.0 - 4.85
        lost = 1.0 - J.uneven_cost * math.exp(-((above / J.uneven_m) ** 2))
        self.assertAlmostEqual(seen(low, wet) / seen(low, foam), lost)
        self.assertAlmostEqual(seen(low, wet, STILL), seen(low, foam, STILL))

    def test_flies_and_lures_cost_more_before_shy_fish(self) -> None:
        plain = scorer_for(SUMMER_DAY)
        shy = plain.setting.shy
        each = J.fly_cost + J.fly_cost_shy * shy
        self.assertAlmostEqual(float(plain.of_numbers(3, 0)), (1.0 - each) ** 2)
        self.assertAlmostEqual(float(plain.of_numbers(1, 2)), (1.0 - J.lure_shy_cost * shy) ** 2)
        self.assertAlmostEqual(
            plain.of_team((fly("Black ribbed pupa"), fly("White streamer"))), (1.0 - each) * (1.0 - J.lure_shy_cost * shy)
        )
        windy = scorer_for(picture(6, 25, 12, ((0, 15.0),), bottom_depth_m=5.0, wind=Wind(8.0, 0.0)))
        left = 1.0 - J.fly_cost - J.fly_cost_shy * windy.setting.shy - J.fly_cost_windy
        self.assertAlmostEqual(float(windy.of_numbers(2, 0)), left)

    def test_snags_cost_takes_and_time(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        self.assertEqual(scorer.of_snags(SLOW, exposure([0.0])), 1.0)
        # Half of a cast on the bottom: half of contact_cost is lost, and two quarters of a cast cost snag_min each.
        left = (1.0 - 0.5 * J.contact_cost) * 115.0 / (115.0 + 2.0 * 60.0 * J.snag_min)
        self.assertAlmostEqual(scorer.of_snags(SLOW, exposure([0.0], weed_s=50.0)), left)

    def test_glare_pressure_and_cold_cost_what_moves_by_how_briskly_it_does(self) -> None:
        glassy = picture(6, 10, 13, ((0, 16.0),), bottom_depth_m=4.0, cloud_fraction=0.0, secchi_m=4.0, wind=Wind(0.0, 0.0))
        scorer = scorer_for(glassy)
        self.assertEqual(glassy.conditions.wind.speed_mps, 0.0)
        bright = scorer.setting.bright
        self.assertAlmostEqual(scorer.undisturbed(BRISK), 1.0 - J.glare_cost * bright)
        self.assertAlmostEqual(scorer.undisturbed(SLOW, depth_m=J.glare_m), 1.0 - J.glare_cost * bright / math.e)
        self.assertAlmostEqual(scorer.undisturbed(STILL), 1.0 - J.glare_cost * bright * 0.1)
        self.assertEqual(scorer.undisturbed(BRISK, 5.0), 1.0)
        pressed = scorer_for(glassy, pressed=True)
        self.assertAlmostEqual(pressed.undisturbed(BRISK, 5.0), 1.0 - J.pressed_cost)
        self.assertAlmostEqual(pressed.undisturbed(SLOW, 5.0), 1.0 - J.pressed_cost * (0.05 / J.brisk_mps + 0.5))
        self.assertEqual(pressed.undisturbed(STILL, 5.0), 1.0)
        cold = scorer_for(picture(3, 10, 12, ((0, 4.0),), bottom_depth_m=4.0, wind=Wind(3.0, 0.0)))
        self.assertAlmostEqual(cold.undisturbed(BRISK), 1.0 - J.cold_cost * cold.setting.cold)

    def test_waves_bounce_a_float_and_a_gale_ends_casting(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        self.assertEqual(scorer.undisturbed(SLOW, 8.0), 1.0)
        float_at = Hang(set_depth_m=2.0, indicator="fixed", for_s=120.0, wind_speed_mps=4.0)
        self.assertAlmostEqual(scorer.undisturbed(float_at, J.float_wave_mps + 2.0), 1.0 - 2.0 * J.float_wave_cost)
        deep = replace(float_at, set_depth_m=J.float_deep_m + 1.0)
        self.assertAlmostEqual(scorer.undisturbed(deep, J.float_wave_mps), 1.0 - J.float_deep_cost)
        self.assertAlmostEqual(scorer.undisturbed(SLOW, J.gale_from_mps + 2.0), 1.0 - 2.0 * J.gale_cost)

    def test_what_moves_passes_more_fish_until_something_pins_them_down(self) -> None:
        def gain(*signs: str) -> float:
            water = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), bottom_depth_m=5.0, signs=signs)
            scorer = scorer_for(water)
            moved, towed = (scorer.costs(METHODS["tow"], (), action, exposure([0.0])) for action in (SLOW, Troll(18.0, 0.3)))
            self.assertAlmostEqual(moved, towed)
            still = scorer.costs(METHODS["tow"], (), STILL, exposure([0.0]))
            return (moved / still - 1.0) / water.feeding_activity

        self.assertAlmostEqual(gain(), J.passes_more, delta=0.01)
        self.assertAlmostEqual(gain("nothing"), 0.5 * J.passes_more, delta=0.01)
        self.assertAlmostEqual(gain("shucks"), 0.0, delta=0.01)
        scorer = scorer_for(SUMMER_DAY)
        self.assertAlmostEqual(
            scorer.costs(METHODS["tow"], (), STILL, exposure([0.0])),
            J.takes_ph * scorer.undisturbed(STILL),
        )


class OwnTests(unittest.TestCase):
    """What each method has of its own."""

    def own(self, key: str, middle_m: object = ((1.0, 1.2),), **changes: object) -> float:
        water = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), **{"bottom_depth_m": 5.0, **changes})
        middles = np.array(middle_m, dtype=np.float64)
        run = Exposure(np.zeros((len(middles), 50)), middles, 100.0, 0.0)
        return METHODS[key].suits_now(scorer_for(water).given, run, len(middles))

    def test_a_rise_is_cast_to_and_without_one_few_look_up(self) -> None:
        self.assertEqual([self.own("dry", signs=signs) for signs in (("sips",), ("shucks",))], [J.shown_to, J.not_shown])
        self.assertEqual([self.own("fry", signs=signs) for signs in (("fry-seen",), ())], [J.fry_seen, 1.0])

    def test_a_washing_line_holds_one_layer_or_is_not_one(self) -> None:
        self.assertEqual(self.own("washing-line", ((0.5, 0.7), (0.6, 0.9))), 1.0)
        self.assertEqual(self.own("washing-line", ((0.1, 0.3), (1.1, 1.3))), 0.0)
        half = 0.5 * (J.layer_hold_m + 0.9)
        self.assertAlmostEqual(self.own("washing-line", ((0.5, 0.7), (0.5 + half, 0.7 + half))), 0.7)
        self.assertAlmostEqual(self.own("washing-line", ((0.2, 1.6), (0.2, 1.6))), 1.0 - 0.4 * 0.5)

    def test_below_the_top_two_metres_a_take_on_a_floater_is_hardly_felt(self) -> None:
        self.assertEqual(self.own("nymphs-floating", ((2.0, 2.2),)), 1.0)
        self.assertAlmostEqual(self.own("nymphs-floating", ((3.1, 3.3),)), 0.75)
        self.assertEqual(self.own("nymphs-floating", ((8.0, 8.2),)), 0.2)

    def test_a_drift_wants_a_ripple_and_fish_that_nothing_pins_down(self) -> None:
        self.assertAlmostEqual(self.own("drift-boat", wind=Wind(6.0, 0.0)), 0.7 + J.drift_meets)
        self.assertAlmostEqual(self.own("drift-boat", wind=Wind(3.25, 0.0)), 0.7 + 0.5 * J.drift_meets)
        self.assertAlmostEqual(self.own("drift-boat", wind=Wind(6.0, 0.0), signs=("shucks",)), 0.6)

    def test_sight_wants_sun_clarity_and_waves(self) -> None:
        def own(**changes: object) -> float:
            return self.own("sight", **{"cloud_fraction": 0.0, "secchi_m": 6.0, "wind": Wind(6.5, 0.0), **changes})

        self.assertAlmostEqual(own(), 0.7 + J.sight_gain, delta=0.02)
        self.assertAlmostEqual(own(secchi_m=3.0), 0.7 + 0.6 * J.sight_gain, delta=0.02)
        self.assertAlmostEqual(own(wind=Wind(0.0, 0.0)), 0.7 + 0.2 * J.sight_gain, delta=0.02)


class WeakPointTests(unittest.TestCase):
    def said(self, action: Any, key: str = "sinker", line: object = SUNK_LINE, weed_s: float = 0.0, **changes: object) -> str:
        pressed = bool(changes.pop("pressed", False))
        water = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), **{"bottom_depth_m": 5.0, **changes})
        rig = Rig(line, LEADER, (PlacedFly(fly("Black ribbed pupa").fly),))  # type: ignore[arg-type]
        option = Option(METHODS[key], rig, (fly("Black ribbed pupa"),), action)
        run = simulate_option(option, level_water(12.0, 5.0), QUICK)
        return weak_point(scorer_for(water, pressed=pressed), option, exposure([0.0], weed_s=weed_s), run).plain()

    def test_the_one_thing_that_costs_most_is_said(self) -> None:
        glassy: dict[str, Any] = {"wind": Wind(0.0, 0.0), "cloud_fraction": 0.0, "secchi_m": 5.0}
        self.assertIn("snags", self.said(SLOW, weed_s=20.0))
        self.assertIn("They are pressed", self.said(BRISK, pressed=True))
        self.assertIn("Flat and bright", self.said(BRISK, **glassy))
        self.assertNotIn("Flat and bright", self.said(STILL, **glassy))
        windy = replace(SLOW, wind_speed_mps=6.0)
        self.assertIn("drags the flies after", self.said(windy, "nymphs-floating", FLOATER, wind=Wind(6.0, 0.0)))
        self.assertNotIn("drags", self.said(windy, "sinker", SUNK_LINE, wind=Wind(6.0, 0.0)))
        self.assertIn(
            "drags the float",
            self.said(
                Hang(set_depth_m=2.0, indicator="fixed", for_s=90.0, wind_speed_mps=7.5),
                "indicator",
                FLOATER,
                wind=Wind(7.5, 0.0),
            ),
        )
        self.assertIn("Spoiled by", self.said(SLOW))
        rig = Rig(SUNK_LINE, LEADER, (PlacedFly(fly("Black ribbed pupa").fly),))
        option = Option(METHODS["sinker"], rig, (fly("Black ribbed pupa"),), BRISK)
        cold = scorer_for(picture(3, 10, 12, ((0, 4.5),), bottom_depth_m=4.0, wind=Wind(3.0, 0.0)))
        self.assertIn(
            "Cold for chasing",
            weak_point(cold, option, exposure([0.0]), simulate_option(option, level_water(4.5, 4.0), QUICK)).plain(),
        )


class WhyTests(unittest.TestCase):
    """Why the flies are left still, or moved; each threshold from both sides."""

    def why(self, retrieve: str, **setting: Any) -> str:
        scorer = scorer_for(SUMMER_DAY)
        scorer.setting = Setting(**{"secchi_m": 3.0, "brightness": 0.3, "unpinned": 0.0, **setting})
        cast = Cast(18.0, 5.0, RETRIEVES[retrieve])
        rig = Rig(SUNK_LINE, LEADER, (PlacedFly(fly("Black ribbed pupa").fly),))
        return still_or_moved(scorer, Option(METHODS["sinker"], rig, (fly("Black ribbed pupa"),), cast)).plain()

    def test_still_for_pressure_glare_cold_or_what_hardly_moves(self) -> None:
        self.assertIn("have pressed them", self.why("static", pressed=True))
        # A wind of 1.5 m/s leaves two fifths of a calm, 1.8 m/s 28 %: half of full daylight is as bright as it matters.
        self.assertIn("flat and bright", self.why("static", brightness=0.5, wind_mps=1.5))
        self.assertIn("hardly moves", self.why("static", brightness=0.5, wind_mps=1.8))
        # Of the 4.5 degrees between 8.5 and 4 C, three tenths are gone at 7.15 C.
        self.assertIn("they do not chase", self.why("static", water_c=7.0))
        self.assertIn("hardly moves", self.why("static", water_c=7.3))

    def test_moved_slowly_in_cold_to_pass_more_or_at_the_pace_of_what_they_are_on(self) -> None:
        self.assertIn("Moved slowly", self.why("two-handed", water_c=7.0))
        self.assertIn("at the pace", self.why("two-handed", water_c=7.3))
        self.assertIn("it passes more fish", self.why("two-handed", unpinned=0.6))
        self.assertIn("at the pace", self.why("two-handed", unpinned=0.5))

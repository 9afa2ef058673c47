# Every name of the core that a program may use, and where it stands: the types for checkers, and what `api.py` fetches from.

__all__: list[str]

from . import ranges as ranges
from .chart.coordinates import MOST_LETTERS as MOST_LETTERS
from .chart.coordinates import read_place as read_place
from .chart.coordinates import written as written
from .chart.fetch import fetch_rose as fetch_rose
from .chart.fetch import longest_fetch_km as longest_fetch_km
from .chart.fetch import shore_exposure as shore_exposure
from .chart.lake_shape import hypsography_of as hypsography_of
from .chart.marks import MARK_KINDS as MARK_KINDS
from .chart.marks import Mark as Mark
from .chart.marks import nearest as nearest
from .chart.outline import Outline as Outline
from .chart.outline import read_outline as read_outline
from .chart.plane import Plane as Plane
from .chart.shapes import drop_offs as drop_offs
from .chart.shapes import section as section
from .chart.soundings import DepthGrid as DepthGrid
from .chart.soundings import depth_grid_of as depth_grid_of
from .chart.standing import (
    ShoreExposure as ShoreExposure,
)
from .chart.standing import (
    drift_along_s as drift_along_s,
)
from .chart.standing import (
    exposure_at as exposure_at,
)
from .chart.standing import (
    stand as stand,
)
from .depth.assumed import NAMES as NAMES
from .depth.assumed import SURFACE as SURFACE
from .depth.assumed import Usual as Usual
from .depth.assumed import assume as assume
from .depth.assumed import filled as filled
from .depth.belief import Belief as Belief
from .depth.day import DayStrip as DayStrip
from .depth.day import Forecast as Forecast
from .depth.day import day_strip as day_strip
from .depth.factors import LAYER_WORDS as LAYER_WORDS
from .depth.picture import (
    Conditions as Conditions,
)
from .depth.picture import (
    WaterPicture as WaterPicture,
)
from .depth.picture import (
    check_open_water as check_open_water,
)
from .depth.picture import (
    check_time as check_time,
)
from .depth.picture import (
    read_water as read_water,
)
from .depth.refining import worths as worths
from .depth.where_to_start import Start as Start
from .depth.where_to_start import where_to_start as where_to_start
from .drag.laws import body_sink_rate_mps as body_sink_rate_mps
from .drag.laws import cylinder_cd as cylinder_cd
from .errors import (
    BadFile as BadFile,
)
from .errors import (
    BadInput as BadInput,
)
from .errors import (
    FloatArray as FloatArray,
)
from .errors import (
    MissingReading as MissingReading,
)
from .errors import (
    NoAnswer as NoAnswer,
)
from .errors import (
    OnIce as OnIce,
)
from .errors import (
    OutOfRange as OutOfRange,
)
from .errors import (
    StillthreadError as StillthreadError,
)
from .food.catalogue import FOODS as FOODS
from .food.inference import FoodChance as FoodChance
from .food.inference import Sample as Sample
from .food.inference import SampleItem as SampleItem
from .food.signs import SIGNS as SIGNS
from .food.signs import Sign as Sign
from .food.tables import food_rows as food_rows
from .food.tables import sign_rows as sign_rows
from .formats.box_csv import (
    BOX_CSV_MOST_BYTES as BOX_CSV_MOST_BYTES,
)
from .formats.box_csv import (
    BoxLine as BoxLine,
)
from .formats.box_csv import (
    read_flies_csv as read_flies_csv,
)
from .formats.box_csv import (
    read_leaders_csv as read_leaders_csv,
)
from .formats.box_csv import (
    read_lines_csv as read_lines_csv,
)
from .formats.box_csv import (
    write_flies_csv as write_flies_csv,
)
from .formats.box_csv import (
    write_leaders_csv as write_leaders_csv,
)
from .formats.box_csv import (
    write_lines_csv as write_lines_csv,
)
from .formats.calendar_ics import Window as Window
from .formats.calendar_ics import write_calendar as write_calendar
from .formats.chart_geojson import read_chart_geojson as read_chart_geojson
from .formats.chart_geojson import write_chart_geojson as write_chart_geojson
from .formats.forecast_json import read_forecast_json as read_forecast_json
from .formats.log_csv import (
    ASKED as ASKED,
)
from .formats.log_csv import (
    OtherRow as OtherRow,
)
from .formats.log_csv import (
    look_at_log as look_at_log,
)
from .formats.log_csv import (
    read_other_log as read_other_log,
)
from .formats.log_csv import (
    write_table as write_table,
)
from .formats.marks_gpx import read_marks_gpx as read_marks_gpx
from .formats.marks_gpx import write_marks_gpx as write_marks_gpx
from .formats.nmea import (
    NMEA_MOST_BYTES as NMEA_MOST_BYTES,
)
from .formats.nmea import (
    Measured as Measured,
)
from .formats.nmea import (
    Reader as Reader,
)
from .formats.nmea import (
    read_nmea_log as read_nmea_log,
)
from .formats.nmea import (
    sentence as sentence,
)
from .formats.nmea import (
    soundings_of as soundings_of,
)
from .formats.profile_csv import (
    PROFILE_CSV_MOST_BYTES as PROFILE_CSV_MOST_BYTES,
)
from .formats.profile_csv import (
    DepthUnit as DepthUnit,
)
from .formats.profile_csv import (
    read_profile_csv as read_profile_csv,
)
from .formats.soundings_csv import read_soundings_csv as read_soundings_csv
from .formats.weather_csv import WEATHER_CSV_MOST_BYTES as WEATHER_CSV_MOST_BYTES
from .formats.weather_csv import read_weather_csv as read_weather_csv
from .formats.weather_json import WEATHER_LIMITS as WEATHER_LIMITS
from .formats.weather_json import read_weather_json as read_weather_json
from .judgement import numbers as numbers
from .lake.change import DayOf as DayOf
from .lake.change import lake_changed as lake_changed
from .lake.ensemble import LakeState as LakeState
from .lake.ensemble import LakeWater as LakeWater
from .lake.ensemble import begin_lake as begin_lake
from .lake.ensemble import carry_lake_on as carry_lake_on
from .lake.ensemble import lake_begins_at as lake_begins_at
from .lake.ensemble import tell_lake as tell_lake
from .lake.weather import STANDING as STANDING
from .lake.weather import WEATHER_NAMES as WEATHER_NAMES
from .lake.weather import Weather as Weather
from .lake.weather import standing as standing
from .learn.alike import DayTraits as DayTraits
from .learn.alike import alikeness as alikeness
from .learn.audit import (
    Correction as Correction,
)
from .learn.audit import (
    Promise as Promise,
)
from .learn.audit import (
    correction_of as correction_of,
)
from .learn.audit import (
    reliability as reliability,
)
from .learn.calibrating import Calibration as Calibration
from .learn.calibrating import Timed as Timed
from .learn.calibrating import calibrated as calibrated
from .learn.calibrating import timed_level as timed_level
from .learn.comparing import best_of as best_of
from .learn.comparing import compared_words as compared_words
from .learn.exposure import (
    LOG_LAYER_M as LOG_LAYER_M,
)
from .learn.exposure import (
    layer_of as layer_of,
)
from .learn.exposure import (
    layer_seconds as layer_seconds,
)
from .learn.exposure import (
    seconds_above_bottom as seconds_above_bottom,
)
from .learn.leaning import (
    MOST_SHARE as MOST_SHARE,
)
from .learn.leaning import (
    Lean as Lean,
)
from .learn.leaning import (
    LikeDay as LikeDay,
)
from .learn.leaning import (
    lean_of as lean_of,
)
from .learn.leaning import (
    most_moved as most_moved,
)
from .learn.part_of_day import PARTS as PARTS
from .learn.part_of_day import hours_alike as hours_alike
from .learn.part_of_day import part_of as part_of
from .learn.part_of_day import unsure_by as unsure_by
from .learn.rates import Group as Group
from .learn.rates import Rate as Rate
from .learn.rates import rates_of as rates_of
from .learn.touching import timed_touch as timed_touch
from .learn.ways import Setup as Setup
from .learn.ways import changed as changed
from .learn.ways import changed_words as changed_words
from .learn.ways import way_of as way_of
from .log.casts import casts_of as casts_of
from .log.clocks import DeviceClock as DeviceClock
from .log.clocks import is_odd as is_odd
from .log.clocks import put_right as put_right
from .log.depths import depth_of_take as depth_of_take
from .log.fish import (
    Handling as Handling,
)
from .log.fish import (
    condition_pct as condition_pct,
)
from .log.fish import (
    handling as handling,
)
from .log.fish import (
    usual_weight_kg as usual_weight_kg,
)
from .log.fish import (
    usual_weights as usual_weights,
)
from .phrase import Phrase as Phrase
from .plan.box import Box as Box
from .plan.box import Pins as Pins
from .plan.casting_water import check_leader_fits as check_leader_fits
from .plan.casting_water import water_for as water_for
from .plan.choose import (
    MOOD as MOOD,
)
from .plan.choose import (
    Plan as Plan,
)
from .plan.choose import (
    Ranked as Ranked,
)
from .plan.choose import (
    choose as choose,
)
from .plan.choose import (
    given_for as given_for,
)
from .plan.choose import (
    second_rod as second_rod,
)
from .plan.explaining.cast_report import CastReport as CastReport
from .plan.explaining.cast_report import cast_report as cast_report
from .plan.explaining.ladder import Rung as Rung
from .plan.explaining.ladder import ladder as ladder
from .plan.explaining.team import seats as seats
from .plan.explaining.team import warnings as warnings
from .plan.explaining.tying import build_for as build_for
from .plan.exposure import quick_exposure as quick_exposure
from .plan.methods import METHODS as METHODS
from .plan.option import Option as Option
from .plan.option import spreads_of_options as spreads_of_options
from .plan.regulations import check_rig as check_rig
from .plan.scoring.scorer import Scorer as Scorer
from .plan.search_table.table import (
    met_of as met_of,
)
from .plan.search_table.table import (
    minutes_left as minutes_left,
)
from .plan.search_table.table import (
    search_table as search_table,
)
from .plan.search_table.table import (
    shift_of as shift_of,
)
from .plan.seeking.addition import best_addition as best_addition
from .plan.seeking.weigh import weigh as weigh
from .practice import game as game
from .practice.answer import PLAYED_MIN as PLAYED_MIN
from .practice.debrief import by_advice as by_advice
from .practice.debrief import by_ladder as by_ladder
from .practice.debrief import fished_by as fished_by
from .practice.debrief import knew as knew
from .practice.drills import DRILL_KINDS as DRILL_KINDS
from .practice.drills import ask_drill as ask_drill
from .practice.drills import score_drill as score_drill
from .practice.fished import search_of as search_of
from .practice.fished import shot_of as shot_of
from .practice.game import play_json as play_json
from .practice.scenario import (
    Own as Own,
)
from .practice.scenario import (
    Scenario as Scenario,
)
from .practice.scenario import (
    another_day as another_day,
)
from .practice.scenario import (
    check_seed as check_seed,
)
from .practice.scenario import (
    likely_of as likely_of,
)
from .practice.scenario import (
    read_so_far as read_so_far,
)
from .practice.scenario import (
    scenario_of as scenario_of,
)
from .practice.scenario import (
    seed_of_week as seed_of_week,
)
from .practice.scenario_levels import LEVELS as LEVELS
from .practice.scenario_levels import new_seed as new_seed
from .practice.scenario_levels import truth_of as truth_of
from .practice.truth import DAY_MIN as DAY_MIN
from .practice.truth import READING_MIN as READING_MIN
from .practice.truth import Hidden as Hidden
from .practice.truth import Truth as Truth
from .practice.truth import seeded as seeded
from .ranges import (
    ABOVE_POINT_M as ABOVE_POINT_M,
)
from .ranges import (
    AIR_C as AIR_C,
)
from .ranges import (
    ALTITUDE_M as ALTITUDE_M,
)
from .ranges import (
    BAG_LIMIT as BAG_LIMIT,
)
from .ranges import (
    BEAD_MM as BEAD_MM,
)
from .ranges import (
    BOTTOM_DEPTH_M as BOTTOM_DEPTH_M,
)
from .ranges import (
    BUILT_LEADER_M as BUILT_LEADER_M,
)
from .ranges import (
    CAST_ELAPSED_S as CAST_ELAPSED_S,
)
from .ranges import (
    CAST_M as CAST_M,
)
from .ranges import (
    CAST_TOWARD as CAST_TOWARD,
)
from .ranges import (
    COUNT_S as COUNT_S,
)
from .ranges import (
    DEPTH_M as DEPTH_M,
)
from .ranges import (
    DISTANCE_M as DISTANCE_M,
)
from .ranges import (
    DRAG_MPS as DRAG_MPS,
)
from .ranges import (
    DROPPER_M as DROPPER_M,
)
from .ranges import (
    EXTRA_G as EXTRA_G,
)
from .ranges import (
    FED_MPS as FED_MPS,
)
from .ranges import (
    FETCH_KM as FETCH_KM,
)
from .ranges import (
    FISH_KG as FISH_KG,
)
from .ranges import (
    FISH_LENGTH_M as FISH_LENGTH_M,
)
from .ranges import (
    FISH_WEIGHT_KG as FISH_WEIGHT_KG,
)
from .ranges import (
    FLIES_LEFT as FLIES_LEFT,
)
from .ranges import (
    FLOAT_DIAMETER_M as FLOAT_DIAMETER_M,
)
from .ranges import (
    FLOAT_DISTANCE_M as FLOAT_DISTANCE_M,
)
from .ranges import (
    FLY_SINK_MPS as FLY_SINK_MPS,
)
from .ranges import (
    FOAM_MM3 as FOAM_MM3,
)
from .ranges import (
    FOOD_SIZE_MM as FOOD_SIZE_MM,
)
from .ranges import (
    FOR_S as FOR_S,
)
from .ranges import (
    HOOK_SIZE as HOOK_SIZE,
)
from .ranges import (
    HUNG_LEADER_M as HUNG_LEADER_M,
)
from .ranges import (
    LARGEST_HOOK as LARGEST_HOOK,
)
from .ranges import (
    LATITUDE_DEG as LATITUDE_DEG,
)
from .ranges import (
    LEADER_SECTION_M as LEADER_SECTION_M,
)
from .ranges import (
    LINE_M as LINE_M,
)
from .ranges import (
    LINE_NUMBER as LINE_NUMBER,
)
from .ranges import (
    LONGITUDE_DEG as LONGITUDE_DEG,
)
from .ranges import (
    MARK_DEPTH_M as MARK_DEPTH_M,
)
from .ranges import (
    MEND_S as MEND_S,
)
from .ranges import (
    MOST_FLIES as MOST_FLIES,
)
from .ranges import (
    OFF_WIND_DEG as OFF_WIND_DEG,
)
from .ranges import (
    OUT_M as OUT_M,
)
from .ranges import (
    OXYGEN_MGL as OXYGEN_MGL,
)
from .ranges import (
    PLANNED_CAST_M as PLANNED_CAST_M,
)
from .ranges import (
    PLAYED_S as PLAYED_S,
)
from .ranges import (
    RATE_SPREAD as RATE_SPREAD,
)
from .ranges import (
    RETRIEVE_MPS as RETRIEVE_MPS,
)
from .ranges import (
    ROD_M as ROD_M,
)
from .ranges import (
    ROD_NUMBER as ROD_NUMBER,
)
from .ranges import (
    SAMPLE_AGE_H as SAMPLE_AGE_H,
)
from .ranges import (
    SAMPLE_COUNT as SAMPLE_COUNT,
)
from .ranges import (
    SECCHI_M as SECCHI_M,
)
from .ranges import (
    SET_DEPTH_M as SET_DEPTH_M,
)
from .ranges import (
    SHARE as SHARE,
)
from .ranges import (
    SINK_RATE_MPS as SINK_RATE_MPS,
)
from .ranges import (
    SLACK as SLACK,
)
from .ranges import (
    STRAND_M as STRAND_M,
)
from .ranges import (
    TIP_M as TIP_M,
)
from .ranges import (
    TIP_MPS as TIP_MPS,
)
from .ranges import (
    TOW_MPS as TOW_MPS,
)
from .ranges import (
    TRIAL_DEPTH_M as TRIAL_DEPTH_M,
)
from .ranges import (
    TRIAL_S as TRIAL_S,
)
from .ranges import (
    TWITCH_EVERY_S as TWITCH_EVERY_S,
)
from .ranges import (
    WATER_C as WATER_C,
)
from .ranges import (
    WEED_M as WEED_M,
)
from .ranges import (
    WIND_FROM_DEG as WIND_FROM_DEG,
)
from .ranges import (
    WIND_MPS as WIND_MPS,
)
from .ranges import (
    Range as Range,
)
from .rules.water_rules import (
    AgainstTheRules as AgainstTheRules,
)
from .rules.water_rules import (
    Days as Days,
)
from .rules.water_rules import (
    MethodBan as MethodBan,
)
from .rules.water_rules import (
    WaterRules as WaterRules,
)
from .search.belief import Event as Event
from .search.changing import Change as Change
from .search.changing import Tackle as Tackle
from .search.changing import change_between as change_between
from .search.changing import learnt as learnt
from .search.day import Table as Table
from .search.grid import ANY as ANY
from .search.grid import USUAL_RATE_PMIN as USUAL_RATE_PMIN
from .search.grid import Grid as Grid
from .search.grid import grid_of as grid_of
from .search.log import read_log as read_log
from .search.presentation import KNOCK as KNOCK
from .search.presentation import TAKE as TAKE
from .search.presentation import Costs as Costs
from .search.presentation import Presentation as Presentation
from .search.presentation import TiedFly as TiedFly
from .search.presentation import as_json as as_json
from .search.thinker import Thinker as Thinker
from .search.thinker import think as think
from .sinking.across import (
    DRAGGED_MPS as DRAGGED_MPS,
)
from .sinking.across import (
    MOST_MENDS as MOST_MENDS,
)
from .sinking.across import (
    Side as Side,
)
from .sinking.across import (
    bow_m as bow_m,
)
from .sinking.across import (
    side_of as side_of,
)
from .sinking.action import Action as Action
from .sinking.cast import (
    LAYER_M as LAYER_M,
)
from .sinking.cast import (
    Cast as Cast,
)
from .sinking.cast import (
    CastResult as CastResult,
)
from .sinking.cast import (
    Water as Water,
)
from .sinking.cast import (
    level_water as level_water,
)
from .sinking.cast import (
    simulate as simulate,
)
from .sinking.doubts import CALIBRATED_SPREAD as CALIBRATED_SPREAD
from .sinking.hang import Hang as Hang
from .sinking.indicator import (
    Drift as Drift,
)
from .sinking.indicator import (
    DriftResult as DriftResult,
)
from .sinking.indicator import (
    Indicator as Indicator,
)
from .sinking.indicator import (
    IndicatorRig as IndicatorRig,
)
from .sinking.indicator import (
    simulate_drift as simulate_drift,
)
from .sinking.retrieves import RETRIEVES as RETRIEVES
from .sinking.retrieves import Retrieve as Retrieve
from .sinking.retrieves import retrieve_named as retrieve_named
from .sinking.spread import SpreadResult as SpreadResult
from .sinking.spread import simulate_spread as simulate_spread
from .sinking.thread import FINE as FINE
from .sinking.thread import QUICK as QUICK
from .sinking.troll import Troll as Troll
from .sinking.troll import simulate_troll as simulate_troll
from .tackle.build import (
    Build as Build,
)
from .tackle.build import (
    Landing as Landing,
)
from .tackle.build import (
    Spool as Spool,
)
from .tackle.build import (
    Tied as Tied,
)
from .tackle.build import (
    build_leader as build_leader,
)
from .tackle.build import (
    build_under_indicator as build_under_indicator,
)
from .tackle.build import (
    check_landing as check_landing,
)
from .tackle.build import (
    from_spools as from_spools,
)
from .tackle.build import (
    tippet_for as tippet_for,
)
from .tackle.flies import Fly as Fly
from .tackle.flybox import BoxFly as BoxFly
from .tackle.leaders import (
    Hardware as Hardware,
)
from .tackle.leaders import (
    Leader as Leader,
)
from .tackle.leaders import (
    LeaderSection as LeaderSection,
)
from .tackle.leaders import (
    tapered_leader as tapered_leader,
)
from .tackle.lines import (
    FOOT_M as FOOT_M,
)
from .tackle.lines import (
    LINE_CLASSES as LINE_CLASSES,
)
from .tackle.lines import (
    Line as Line,
)
from .tackle.lines import (
    Stretch as Stretch,
)
from .tackle.lines import (
    line_of_class as line_of_class,
)
from .tackle.lines import (
    plain_sum_m as plain_sum_m,
)
from .tackle.rig import PlacedFly as PlacedFly
from .tackle.rig import Rig as Rig
from .tackle.starter import (
    STARTER_FLIES as STARTER_FLIES,
)
from .tackle.starter import (
    STARTER_LINE_KEYS as STARTER_LINE_KEYS,
)
from .tackle.starter import (
    starter_lines as starter_lines,
)
from .trade.entries import (
    CAME_NEAR as CAME_NEAR,
)
from .trade.entries import (
    DEPTH_TOLD as DEPTH_TOLD,
)
from .trade.entries import (
    ENDS_CAST as ENDS_CAST,
)
from .trade.entries import (
    ENTRY_KINDS as ENTRY_KINDS,
)
from .trade.entries import (
    FELT as FELT,
)
from .trade.entries import (
    FISH as FISH,
)
from .trade.entries import (
    OUTCOMES as OUTCOMES,
)
from .trade.entries import (
    THOUGHT_OF as THOUGHT_OF,
)
from .trade.entries import (
    fish_among as fish_among,
)
from .trade.schools import SCHOOLS as SCHOOLS
from .trade.tables import entry_kinds as entry_kinds
from .trade.tables import schools as schools
from .trade.tables import trade_numbers as trade_numbers
from .trade.usual import (
    USUAL_CAST_M as USUAL_CAST_M,
)
from .trade.usual import (
    USUAL_DRIFT_S as USUAL_DRIFT_S,
)
from .trade.usual import (
    USUAL_FLOAT_M as USUAL_FLOAT_M,
)
from .trade.usual import (
    USUAL_TOW_S as USUAL_TOW_S,
)
from .water.comfort import SPECIES as SPECIES
from .water.comfort import Species as Species
from .water.comfort import species_named as species_named
from .water.expected import ExpectedColumn as ExpectedColumn
from .water.hypsography import Hypsography as Hypsography
from .water.light import surface_brightness as surface_brightness
from .water.oxygen import LIVABLE_MGL as LIVABLE_MGL
from .water.oxygen import OxygenReading as OxygenReading
from .water.properties import (
    GRAVITY_MS2 as GRAVITY_MS2,
)
from .water.properties import (
    water_density_kgm3 as water_density_kgm3,
)
from .water.properties import (
    water_viscosity_pas as water_viscosity_pas,
)
from .water.reading import (
    SURFACE_WITHIN_M as SURFACE_WITHIN_M,
)
from .water.reading import (
    Lowering as Lowering,
)
from .water.reading import (
    Reading as Reading,
)
from .water.reading import (
    readings_now as readings_now,
)
from .water.seasonal import (
    Lake as Lake,
)
from .water.seasonal import (
    northern_day as northern_day,
)
from .water.seasonal import (
    season_progress as season_progress,
)
from .water.seasonal import (
    seasonal_ensemble as seasonal_ensemble,
)
from .water.stratification import find_layers as find_layers
from .weather.effects import wind_effects as wind_effects
from .weather.sun import Place as Place
from .weather.sun import sun_elevation_deg as sun_elevation_deg
from .weather.wind import Wind as Wind

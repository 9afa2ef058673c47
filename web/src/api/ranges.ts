/** Written by `make schema` from the API's contract: the least and most of each number that is sent. */
export const RANGES = {
  TokenIn: {
    days: [1, 366],
  },
  RulesIn: {
    most_flies: [1, 4],
    largest_hook: [1, 28],
    bag_limit: [0, 100],
  },
  WaterIn: {
    latitude_deg: [-90, 90],
    longitude_deg: [-180, 180],
    altitude_m: [-400, 6000],
    fetch_km: [0.05, 100],
    usual_bottom_depth_m: [0.3, 100],
    usual_secchi_m: [0.2, 20],
    usual_fish_kg: [0.05, 15],
  },
  MarkIn: {
    latitude_deg: [-90, 90],
    longitude_deg: [-180, 180],
    depth_m: [0, 400],
  },
  WindIn: {
    wind_speed_mps: [0, 40],
    wind_from_deg: [0, 360],
  },
  StandingIn: {
    wind_speed_mps: [0, 40],
    wind_from_deg: [0, 360],
    x_m: [-200000, 200000],
    y_m: [-200000, 200000],
    cast_m: [3, 60],
  },
  SectionIn: {
    wind_speed_mps: [0, 40],
    wind_from_deg: [0, 360],
  },
  InstrumentIn: {
    port: [1, 65535],
  },
  StretchIn: {
    length_m: [0.05, 200],
    sink_rate_mps: [0, 0.3],
  },
  LineItemIn: {
    number: [4, 8],
    sink_rate_mps: [0, 0.3],
    tip_m: [0.3, 12],
    rate_spread: [0.005, 0.5],
  },
  HardwareIn: {
    above_point_m: [0, 15],
  },
  LeaderSectionIn: {
    length_m: [0.05, 15],
    diameter_m: [0.00005, 0.001],
  },
  FlyItemIn: {
    bead_mm: [0, 6],
    foam_mm3: [0, 1000],
    extra_g: [0, 10],
    measured_sink_mps: [-1, 2],
    left: [0, 999],
  },
  RodIn: {
    length_m: [1.8, 5.5],
    number: [1, 12],
  },
  FloatItemIn: {
    diameter_m: [0.006, 0.06],
  },
  SpoolIn: {
    diameter_m: [0.00005, 0.001],
  },
  ConditionsIn: {
    wind_speed_mps: [0, 40],
    wind_from_deg: [0, 360],
    cloud_fraction: [0, 1],
    secchi_m: [0.2, 20],
    bottom_depth_m: [0.3, 100],
    far_bottom_depth_m: [0.3, 100],
    weed_m: [0, 20],
  },
  OxygenReadingIn: {
    depth_m: [0, 100],
    oxygen_mgl: [0, 25],
  },
  PlaceIn: {
    latitude_deg: [-90, 90],
    longitude_deg: [-180, 180],
  },
  ReadingIn: {
    depth_m: [0, 100],
    water_c: [-1, 40],
  },
  SampleIn: {
    age_h: [0, 72],
  },
  SampleItemIn: {
    count: [1, 500],
    size_mm: [0.5, 150],
  },
  DeviceClockIn: {
    x_written_ms: [0, 253370764800000],
    x_now_ms: [0, 253370764800000],
    x_ran_ms: [0, 253370764800000],
  },
  DayIn: {
    wind_speed_mps: [0, 40],
    wind_from_deg: [0, 360],
    cloud_fraction: [0, 1],
    secchi_m: [0.2, 20],
    bottom_depth_m: [0.3, 100],
    far_bottom_depth_m: [0.3, 100],
    weed_m: [0, 20],
  },
  AdviceIn: {
    takes_ph: [0, 1000],
    low_ph: [0, 1000],
    high_ph: [0, 1000],
  },
  FlyIn: {
    bead_mm: [0, 6],
    foam_mm3: [0, 1000],
    extra_g: [0, 10],
    measured_sink_mps: [-1, 2],
  },
  HangIn: {
    set_depth_m: [0.2, 15],
    diameter_m: [0.006, 0.06],
    drift_s: [5, 600],
    twitch_every_s: [2, 600],
    distance_m: [1, 60],
    off_wind_deg: [0, 180],
    fed_mps: [0, 0.5],
  },
  LineIn: {
    number: [4, 8],
    sink_rate_mps: [0, 0.3],
    tip_m: [0.3, 12],
    rate_spread: [0.005, 0.5],
  },
  PlacedFlyIn: {
    above_point_m: [0, 15],
    dropper_m: [0, 0.5],
  },
  TowIn: {
    out_m: [3, 200],
    tow_mps: [0, 2],
    for_s: [5, 600],
  },
  CastIn: {
    cast_m: [3, 60],
    count_s: [0, 300],
    retrieve_mps: [0.01, 3],
    slack: [0, 0.5],
    tip_mps: [-1, 1],
    tip_y_mps: [-1, 1],
    off_wind_deg: [0, 180],
    drag_mps: [0.005, 1],
  },
  EntryIn: {
    cast_elapsed_s: [0, 3600],
    length_m: [0.02, 1.5],
    weight_kg: [0.005, 30],
    played_s: [0, 7200],
    toward: [-2, 2],
    depth_m: [0, 100],
    fly_class: [1, 8],
  },
  EntryChangeIn: {
    length_m: [0.02, 1.5],
    weight_kg: [0.005, 30],
  },
  ChoicesIn: {
    cast_m: [6, 40],
    rod_m: [1.8, 5.5],
    rod_number: [1, 12],
  },
  HappenedIn: {
    at_min: [0, 2880],
    depth_m: [0, 120],
    fly_class: [1, 8],
    toward: [-2, 2],
  },
  SearchLogIn: {
    now_min: [0, 2880],
    most_min: [1, 240],
    rods: [1, 2],
  },
  ForecastHourIn: {
    cloud_fraction: [0, 1],
    wind_speed_mps: [0, 40],
    wind_from_deg: [0, 360],
    air_c: [-60, 60],
  },
  CornerIn: {
    distance_m: [-500, 500],
    depth_m: [0.3, 100],
  },
  LeaderBuildIn: {
    length_m: [0.4, 12],
    hook_size: [2, 24],
    secchi_m: [0.2, 20],
    brightness: [0, 1],
    weed_m: [0, 20],
    fish_kg: [0.05, 15],
    thin_m: [0.3, 6],
    below_m: [0.2, 2],
    rod_m: [1.8, 5.5],
  },
  RunIn: {
    water_c: [-1, 40],
    weed_m: [0, 20],
    wind_speed_mps: [0, 40],
  },
  TrialIn: {
    depth_m: [0.5, 30],
    elapsed_s: [2, 1800],
    water_c: [-1, 40],
  },
  DrillAnswerIn: {
    answer: [0, 1000],
  },
  RestoreIn: {
    size: [1, 10000000000],
  },
} as const

/** Generated from the service's document: between what numbers lie. Never edited. */
export const AsRead = {
  depth_m: { min: 0.05, max: 4 },
  surface_speed_m_s: { min: 0.01, max: 4 },
} as const;
export const Asked = {
  lane: { min: 1, max: 12 },
  stance: { min: 1, max: 99 },
} as const;
export const BeatIn = {
  position: { min: 0, max: 1000 },
  flows_to_deg: { min: 0, max: 360 },
} as const;
export const BeatRules = {
  max_flies: { min: 1, max: 3 },
} as const;
export const Bottom = {
  lane: { min: 1, max: 12 },
  stance: { min: 1, max: 99 },
  depth_m: { min: 0.05, max: 4 },
  depth_sd_m: { min: 0, max: 2 },
} as const;
export const Cast = {
  depth_setting_m: { min: 0.1, max: 6 },
  point_bead_mm: { min: 1.5, max: 6 },
  up_m: { min: 0, max: 12 },
  lane: { min: 1, max: 12 },
  strike_s: { min: 0, max: 30 },
} as const;
export const CatchIn = {
  length_mm: { min: 30, max: 1200 },
} as const;
export const ChangesIn = {
  drifts: { min: 1, max: 200 },
} as const;
export const Conditions = {
  clarity_m: { min: 0.02, max: 10 },
  temperature_c: { min: 0, max: 30 },
  distance_m: { min: 0.5, max: 30 },
  wind_m_s: { min: 0, max: 25 },
  under_line_m_s: { min: 0.01, max: 4 },
} as const;
export const DayAsked = {
  begins_min: { min: -1440, max: 2880 },
  ends_min: { min: -1440, max: 2880 },
  best_from_min: { min: -1440, max: 2880 },
  best_until_min: { min: -1440, max: 2880 },
  dark_min: { min: -1440, max: 2880 },
} as const;
export const DriftLogIn = {
  lane: { min: 1, max: 12 },
  stance: { min: 1, max: 99 },
} as const;
export const DryIn = {
  count: { min: 0, max: 999 },
} as const;
export const DrySetup = {
  tippet_x: { min: 0, max: 8 },
} as const;
export const Due = {
  score: { min: 0, max: 1 },
  drifts: { min: 1, max: 200 },
} as const;
export const Fished = {
  depth_setting_m: { min: 0.1, max: 6 },
  point_bead_mm: { min: 1.5, max: 6 },
  lane: { min: 1, max: 12 },
  stance: { min: 1, max: 99 },
} as const;
export const FloatIn = {
  count: { min: 0, max: 999 },
} as const;
export const Fly = {
  hook: { min: 2, max: 26 },
  bead_mm: { min: 1.5, max: 6 },
  drag_factor: { min: 0.05, max: 20 },
} as const;
export const Found = {
  body_mm: { min: 1, max: 60 },
} as const;
export const Game = {
  seed: { min: 0, max: 999999 },
} as const;
export const HereIn = {
  temperature_c: { min: 0, max: 30 },
} as const;
export const LieIn = {
  along_m: { min: 0, max: 100000 },
  latitude: { min: -90, max: 90 },
  longitude: { min: -180, max: 180 },
} as const;
export const Made = {
  ago_min: { min: 0, max: 1440 },
} as const;
export const NymphIn = {
  hook: { min: 2, max: 26 },
  bead_mm: { min: 1.5, max: 6 },
  count: { min: 0, max: 999 },
} as const;
export const Place = {
  distance_m: { min: 0.5, max: 30 },
  wind_m_s: { min: 0, max: 25 },
} as const;
export const ReadingIn = {
  clarity_m: { min: 0.02, max: 10 },
  temperature_c: { min: 0, max: 30 },
  distance_m: { min: 0.5, max: 30 },
  wind_m_s: { min: 0, max: 25 },
  under_line_m_s: { min: 0.01, max: 4 },
  depth_m: { min: 0.05, max: 4 },
  depth_sd_m: { min: 0, max: 2 },
} as const;
export const RetiredBeatOut = {
  position: { min: 0, max: 1000 },
  flows_to_deg: { min: 0, max: 360 },
} as const;
export const RetiredLieOut = {
  along_m: { min: 0, max: 100000 },
  latitude: { min: -90, max: 90 },
  longitude: { min: -180, max: 180 },
} as const;
export const RiverIn = {
  latitude: { min: -90, max: 90 },
  longitude: { min: -180, max: 180 },
} as const;
export const RiverOut = {
  latitude: { min: -90, max: 90 },
  longitude: { min: -180, max: 180 },
} as const;
export const Rod = {
  length_m: { min: 1.8, max: 4.6 },
  line_weight: { min: 0, max: 9 },
} as const;
export const Rules = {
  max_flies: { min: 1, max: 3 },
} as const;
export const SettingIn = {
  depth_setting_m: { min: 0.1, max: 6 },
  point_bead_mm: { min: 1.5, max: 6 },
} as const;
export const Setup = {
  flies: { min: 1, max: 3 },
  point_bead_mm: { min: 1.5, max: 6 },
  point_hook: { min: 2, max: 26 },
  dropper_hook: { min: 2, max: 26 },
  dropper_bead_mm: { min: 1.5, max: 6 },
  depth_setting_m: { min: 0.1, max: 6 },
  dropper_spacing_m: { min: 0.05, max: 1.5 },
  dropper_tag_m: { min: 0, max: 0.3 },
  tippet_x: { min: 0, max: 8 },
  shot_g: { min: 0, max: 5 },
  tip_pace: { min: 0, max: 1.5 },
  lead_m: { min: 0, max: 60 },
} as const;
export const ShareIn = {
  blur_m: { min: 0, max: 50000 },
} as const;
export const Situation = {
  month: { min: 1, max: 12 },
} as const;
export const SoundingIn = {
  lane: { min: 1, max: 12 },
  stance: { min: 1, max: 99 },
  depth_m: { min: 0.05, max: 4 },
  depth_sd_m: { min: 0, max: 2 },
} as const;
export const SpeedBubbles = {
  distance_m: { min: 0.5, max: 50 },
  seconds: { min: 0.3, max: 300 },
} as const;
export const SpeedTimed = {
  surface_speed_m_s: { min: 0.01, max: 4 },
  error_m_s: { min: 0, max: 2 },
} as const;
export const SpeedTyped = {
  surface_speed_m_s: { min: 0.01, max: 4 },
} as const;
export const TankIn = {
  depth_m: { min: 0.1, max: 3 },
  time_s: { min: 0.1, max: 60 },
  temperature_c: { min: 0, max: 30 },
} as const;
export const Tuning = {
  depth_setting_m: { min: 0.1, max: 6 },
  point_bead_mm: { min: 1.5, max: 6 },
  flies: { min: 1, max: 3 },
  dropper_bead_mm: { min: 1.5, max: 6 },
  dropper_spacing_m: { min: 0.05, max: 1.5 },
  dropper_tag_m: { min: 0, max: 0.3 },
  tippet_x: { min: 0, max: 8 },
  shot_g: { min: 0, max: 5 },
  tip_pace: { min: 0, max: 1.5 },
} as const;
export const Water = {
  depth_m: { min: 0.05, max: 4 },
  surface_speed_m_s: { min: 0.01, max: 4 },
  depth_sd_m: { min: 0, max: 2 },
  clarity_m: { min: 0.02, max: 10 },
  temperature_c: { min: 0, max: 30 },
  speed_sd_m_s: { min: 0, max: 2 },
  under_line_ratio: { min: 0, max: 400 },
} as const;

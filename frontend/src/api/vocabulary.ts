/** Made from the rules by `manage.py api_schema`: never typed by hand. */
import { worded } from "../messages/area";

/** The kinds of score: the units each may be shown in, and the keys it needs on a pad. */
export const KINDS = worded("KINDS", [
  {
    code: "count",
    words: "Count of reps",
    units: ["reps"],
    noise_grows: false,
    pad: [],
  },
  {
    code: "time",
    words: "Time, held or taken",
    units: ["s"],
    noise_grows: true,
    pad: [":", "."],
  },
  {
    code: "length",
    words: "Length",
    units: ["cm", "m", "mm"],
    noise_grows: true,
    pad: [".", "'"],
  },
  {
    code: "marks",
    words: "Difference of two marks",
    units: ["cm"],
    noise_grows: true,
    pad: [".", " "],
  },
  {
    code: "offset",
    words: "Distance from zero, with a sign",
    units: ["cm"],
    noise_grows: false,
    pad: ["-", "+"],
  },
  {
    code: "sides",
    words: "Yes or no, each side",
    units: ["sides"],
    noise_grows: false,
    pad: [],
  },
  {
    code: "hits",
    words: "Hits out of N",
    units: ["hits"],
    noise_grows: false,
    pad: ["x", "o"],
  },
  {
    code: "stage",
    words: "Stage and shuttle",
    units: ["shuttles"],
    noise_grows: false,
    pad: ["."],
  },
  {
    code: "laps",
    words: "Laps and part of a lap",
    units: ["m"],
    noise_grows: true,
    pad: ["+", "."],
  },
  {
    code: "total",
    words: "Total over movements",
    units: ["reps"],
    noise_grows: false,
    pad: ["+", "c"],
  },
  {
    code: "mass",
    words: "Weight",
    units: ["kg"],
    noise_grows: false,
    pad: ["."],
  },
  {
    code: "pulse",
    words: "Pulse",
    units: ["bpm"],
    noise_grows: false,
    pad: ["/"],
  },
] as const);
/** What may differ from one attempt to another. */
export const CONDITIONS = worded("CONDITIONS", [
  {
    code: "course_mm",
    words: "course length",
  },
  {
    code: "step_mm",
    words: "step height",
  },
  {
    code: "ball",
    words: "ball",
  },
  {
    code: "target_mm",
    words: "distance to the target",
  },
  {
    code: "beat",
    words: "beat",
  },
  {
    code: "movement",
    words: "movement",
  },
  {
    code: "calls",
    words: "movements called",
  },
] as const);
/** One of a unit in the canonical unit of its kind: milliseconds, millimetres or grams. */
export const UNIT_SIZES = [
  {
    code: "s",
    size: 1000.0,
  },
  {
    code: "min",
    size: 60000.0,
  },
  {
    code: "mm",
    size: 1.0,
  },
  {
    code: "cm",
    size: 10.0,
  },
  {
    code: "m",
    size: 1000.0,
  },
  {
    code: "in",
    size: 25.4,
  },
  {
    code: "ft",
    size: 304.8,
  },
  {
    code: "yd",
    size: 914.4,
  },
  {
    code: "mile",
    size: 1609344.0,
  },
  {
    code: "g",
    size: 1.0,
  },
  {
    code: "kg",
    size: 1000.0,
  },
  {
    code: "lb",
    size: 453.59237,
  },
] as const;
/** How much a test asks of a child. */
export const EFFORTS = worded("EFFORTS", [
  {
    code: "rest",
    words: "at rest",
  },
  {
    code: "low",
    words: "low effort",
  },
  {
    code: "high",
    words: "high effort",
  },
  {
    code: "maximal",
    words: "maximal effort",
  },
] as const);
/** What a test or a station asks for. */
export const LOADS = [
  "whole body",
  "legs",
  "push",
  "pull",
  "core",
  "flexibility",
  "balance",
  "skill",
  "aerobic",
] as const;
/** Where a test can be done. */
export const PLACES = ["hall", "playground", "grass"] as const;
/** Who needs one of an item of kit. */
export const KIT_FOR = ["child", "pair", "group", "class"] as const;
/** How several tries become one score. */
export const MERGES = worded("MERGES", [
  {
    code: "best",
    words: "the best",
  },
  {
    code: "last",
    words: "the last",
  },
  {
    code: "mean",
    words: "the average",
  },
  {
    code: "sum",
    words: "the sum",
  },
] as const);
/** Why there is no score, with the key that says so. */
export const REASONS = worded("REASONS", [
  {
    key: "a",
    code: "absent",
    words: "absent",
  },
  {
    key: "x",
    code: "sat_out",
    words: "sat out",
  },
  {
    key: "k",
    code: "no_kit",
    words: "no kit or helper",
  },
  {
    key: "r",
    code: "did_not_want",
    words: "did not want to",
  },
  {
    key: "v",
    code: "void",
    words: "void",
  },
] as const);
/** The kinds of block of a plan: what a new one begins with, the settings it can have, whether it ends when somebody says so, and whether it stays at the end. */
export const BLOCKS = worded("BLOCKS", [
  {
    code: "briefing",
    words: "Briefing",
    new: {
      kind: "briefing",
      label: "Briefing",
      seconds: 120,
    },
    settings: ["say", "seconds"],
    talks: true,
    closing: false,
  },
  {
    code: "warm_up",
    words: "Warm-up",
    new: {
      kind: "warm_up",
      label: "Warm-up",
      levels: [
        [1, 30],
        [2, 60],
        [3, 30],
        [2, 30],
        [4, 15],
        [1, 30],
      ],
    },
    settings: ["levels", "seconds"],
    talks: false,
    closing: false,
  },
  {
    code: "stretch",
    words: "Stretch",
    new: {
      kind: "stretch",
      label: "Stretch",
      seconds: 120,
    },
    settings: ["say", "seconds"],
    talks: true,
    closing: false,
  },
  {
    code: "pulse",
    words: "Pulse check",
    new: {
      kind: "pulse",
      label: "Pulse check",
      count_seconds: 10,
      seconds: 60,
      hold: 10,
      waits: true,
    },
    settings: ["hold", "count_seconds", "seconds", "waits"],
    talks: false,
    closing: false,
  },
  {
    code: "test",
    words: "Test",
    new: {
      kind: "test",
      label: "",
      waits: true,
    },
    settings: ["say", "setup", "get_ready", "pause", "waits"],
    talks: false,
    closing: false,
  },
  {
    code: "intervals",
    words: "Intervals",
    new: {
      kind: "intervals",
      label: "Intervals",
      movements: [
        {
          name: "star jumps",
          efforts: "25/15/25/15",
        },
        {
          name: "high knees",
          efforts: "12/8/12",
        },
      ],
    },
    settings: ["say", "movements"],
    talks: false,
    closing: false,
  },
  {
    code: "beats",
    words: "To the beat",
    new: {
      kind: "beats",
      label: "To the beat",
      movement: "squats",
      bpm: 120,
      every: 8,
      calls: 30,
    },
    settings: ["say", "movement", "bpm", "every", "calls", "times", "seconds"],
    talks: false,
    closing: false,
  },
  {
    code: "rep_target",
    words: "Rep target",
    new: {
      kind: "rep_target",
      label: "Rep target",
      seconds: 600,
      names: ["press-ups", "squats", "star jumps"],
      carries: "",
    },
    settings: ["say", "seconds", "names", "carries", "apart", "weights"],
    talks: false,
    closing: false,
  },
  {
    code: "stations",
    words: "Stations",
    new: {
      kind: "stations",
      label: "Stations",
      stations: [
        {
          name: "skipping",
          loads: ["aerobic"],
          room: 1,
        },
        {
          name: "press-ups",
          loads: ["push"],
          room: 1,
        },
        {
          name: "step-ups",
          loads: ["legs"],
          room: 1,
        },
        {
          name: "plank",
          loads: ["core"],
          room: 1,
        },
      ],
      work: 45,
      change: 20,
      rounds: 4,
    },
    settings: ["say", "stations", "work", "change", "rounds", "groups"],
    talks: false,
    closing: false,
  },
  {
    code: "water",
    words: "Water",
    new: {
      kind: "water",
      label: "Water",
      seconds: 60,
    },
    settings: ["say", "seconds"],
    talks: true,
    closing: false,
  },
  {
    code: "cool_down",
    words: "Cool-down",
    new: {
      kind: "cool_down",
      label: "Cool-down",
      steps: 40,
      hold: 3,
      seconds: 90,
    },
    settings: ["say", "steps", "hold", "seconds"],
    talks: false,
    closing: true,
  },
  {
    code: "report",
    words: "Report",
    new: {
      kind: "report",
      label: "Report",
      seconds: 180,
    },
    settings: ["say", "seconds"],
    talks: true,
    closing: true,
  },
] as const);
/** Whose mark a challenge may have. */
export const RIVALS = worded("RIVALS", [
  {
    code: "person",
    words: "a person",
  },
  {
    code: "group",
    words: "a class or house",
  },
  {
    code: "rung",
    words: "a rung of the ladder",
  },
  {
    code: "self",
    words: "myself last time",
  },
] as const);
/** What earns points in a challenge. */
export const POINT_RULES = worded("POINT_RULES", [
  {
    code: "took_part",
    words: "took part",
  },
  {
    code: "beat_own_best",
    words: "beat their own best",
  },
  {
    code: "reached_rung",
    words: "reached a new rung",
  },
  {
    code: "beat_rival",
    words: "beat the rival",
  },
] as const);
/** What a child may be kept from, after “is not to”. */
export const EXCLUSIONS = worded("EXCLUSIONS", [
  {
    code: "running",
    words: "run to their limit",
  },
  {
    code: "maximal",
    words: "do anything to their limit",
  },
  {
    code: "hanging",
    words: "hang from a bar",
  },
  {
    code: "hands",
    words: "put weight on the hands",
  },
] as const);
/** How long the beats of a pulse are counted. */
export const COUNT_SECONDS = [10, 15, 20, 30, 60] as const;

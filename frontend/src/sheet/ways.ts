/** The ways to take scores, each fit for some kinds of score: what router, tabs and planner know. */
import { t } from "../messages/sheet";
import type { Component } from "vue";

export interface Way {
  name: string;
  /** Asked for when it is shown: a language is there by then. */
  readonly label: string;
  /** The kinds of score it takes; all where it is null. */
  kinds: string[] | null;
  /** Whether it is the best way to take its kinds in the hall. */
  best: boolean;
  screen: () => Promise<Component | { default: Component }>;
}

export const WAYS: Way[] = [
  {
    name: "list",
    get label() {
      return t("list");
    },
    kinds: null,
    best: false,
    screen: () => import("./ways/list/List.vue"),
  },
  {
    name: "tally",
    get label() {
      return t("tally");
    },
    kinds: ["count"],
    best: false,
    screen: () => import("./ways/tally/Tally.vue"),
  },
  {
    name: "tap",
    get label() {
      return t("tap");
    },
    kinds: ["time"],
    best: true,
    screen: () => import("./ways/tap/Tap.vue"),
  },
  {
    name: "measure",
    get label() {
      return t("measure");
    },
    kinds: ["marks", "length", "offset"],
    best: true,
    screen: () => import("./ways/measure/Measure.vue"),
  },
  {
    name: "target",
    get label() {
      return t("target");
    },
    kinds: ["total"],
    best: true,
    screen: () => import("./ways/target/Target.vue"),
  },
  {
    name: "beeps",
    get label() {
      return t("beeps");
    },
    kinds: ["stage"],
    best: true,
    screen: () => import("./ways/beeps/Beeps.vue"),
  },
  {
    name: "partner",
    get label() {
      return t("partner");
    },
    kinds: ["count", "hits", "total"],
    best: false,
    screen: () => import("./ways/partner/Partner.vue"),
  },
];

export function waysOf(kind: string): Way[] {
  return WAYS.filter((way) => !way.kinds || way.kinds.includes(kind));
}

/** The way that a test of this kind is best taken in the hall: the list where none is better. */
export function wayFor(kind: string): string {
  return WAYS.find((way) => way.best && way.kinds?.includes(kind))?.name ?? "list";
}

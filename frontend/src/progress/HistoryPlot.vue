<script setup lang="ts">
/** Scores of one test in time. Each variant has a shape of its own; estimates are dashed. */
import { t } from "../messages/progress";
import { useElementSize } from "@vueuse/core";
import { computed, useTemplateRef } from "vue";
import type { Schemas } from "../api/client";
import { shortDay } from "../parts/words";

const props = defineProps<{ history: Schemas["HistoryEntry"][]; label: string }>();
const box = useTemplateRef<HTMLElement>("box");
const { width } = useElementSize(box);
const HEIGHT = 190;
const LEFT = 34;
const SHAPES = ["circle", "square", "triangle"];

const marks = computed(() =>
  props.history
    .filter((entry) => entry.score.value !== null)
    .map((entry) => ({
      id: entry.id,
      at: new Date(entry.on).getTime(),
      on: entry.on,
      value: entry.score.value as number,
      shown: entry.score.shown,
      variant: entry.variant,
      estimate: entry.score.estimate,
    }))
    .reverse(),
);
const variants = computed(() => [...new Set(marks.value.map((mark) => mark.variant))]);
const range = computed(() => {
  const values = marks.value.map((mark) => mark.value);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  // Counts begin at nought; what lies far from it, or below it, has its own stretch.
  const from = low < 0 || low > 0.6 * high ? low - Math.max(1, (high - low) * 0.35) : 0;
  return { from, to: high + Math.max(0.5, (high - from) * 0.12) };
});
const span = computed(() => {
  const times = marks.value.map((mark) => mark.at);
  const day = 86_400_000;
  return { from: Math.min(...times) - 4 * day, to: Math.max(...times) + 4 * day };
});
const x = (at: number) =>
  LEFT +
  8 +
  ((width.value - LEFT - 20) * (at - span.value.from)) / (span.value.to - span.value.from);
const y = (value: number) =>
  HEIGHT - 26 - ((HEIGHT - 44) * (value - range.value.from)) / (range.value.to - range.value.from);
const lines = computed(() =>
  variants.value.map((variant) =>
    marks.value
      .filter((mark) => mark.variant === variant)
      .map((mark) => `${x(mark.at)},${y(mark.value)}`)
      .join(" "),
  ),
);
/** As many scores as have room for their figures; of more, the first, the newest and both ends. */
const ROOM = 7;
const named = computed(() => {
  const all = marks.value;
  if (all.length <= ROOM) return new Set(all.map((mark) => mark.id));
  const byValue = [...all].sort((a, b) => a.value - b.value);
  return new Set([all[0], all.at(-1), byValue[0], byValue.at(-1)].map((mark) => mark?.id));
});
/** The year is said where there is more than one. */
const day = (on: string) =>
  marks.value[0]?.on.slice(0, 4) === marks.value.at(-1)?.on.slice(0, 4)
    ? shortDay(on).replace(/ \d{4}$/, "")
    : shortDay(on);
const shape = (variant: string) => SHAPES[variants.value.indexOf(variant) % SHAPES.length];
</script>

<template>
  <div ref="box">
    <p v-if="!marks.length" class="quiet">{{ t("noMeasuredScoresYet") }}</p>
    <svg v-else-if="width" :width="width" :height="HEIGHT" role="img" :aria-label="label">
      <line :x1="LEFT" :x2="width" :y1="y(range.from)" :y2="y(range.from)" class="floor" />
      <polyline v-for="line in lines" :key="line" :points="line" class="path" />
      <g v-for="mark in marks" :key="mark.id" :class="{ estimate: mark.estimate }" class="mark">
        <title>{{ shortDay(mark.on) }}: {{ mark.shown }} {{ mark.variant }}</title>
        <circle
          v-if="shape(mark.variant) === 'circle'"
          :cx="x(mark.at)"
          :cy="y(mark.value)"
          r="6"
        />
        <rect
          v-else-if="shape(mark.variant) === 'square'"
          :x="x(mark.at) - 6"
          :y="y(mark.value) - 6"
          width="12"
          height="12"
        />
        <path v-else :d="`M${x(mark.at)} ${y(mark.value) - 7}l7 12h-14z`" />
        <text
          v-if="named.has(mark.id)"
          :x="x(mark.at)"
          :y="y(mark.value) - 11"
          text-anchor="middle"
        >
          {{ mark.shown }}
        </text>
      </g>
      <text :x="x(marks[0]!.at)" :y="HEIGHT - 8" text-anchor="middle" class="day">
        {{ day(marks[0]!.on) }}
      </text>
      <text
        v-if="marks.length > 1"
        :x="x(marks.at(-1)!.at)"
        :y="HEIGHT - 8"
        text-anchor="end"
        class="day"
      >
        {{ day(marks.at(-1)!.on) }}
      </text>
    </svg>
    <p v-if="variants.length > 1" class="quiet">
      <span v-for="variant in variants" :key="variant"> {{ shape(variant) }}: {{ variant }}. </span>
    </p>
  </div>
</template>

<style scoped>
.floor {
  stroke: var(--line);
  stroke-width: 2;
}
.path {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 1.5;
}
.mark :is(circle, rect, path) {
  fill: var(--ink);
  stroke: var(--ink);
  stroke-width: 2;
}
.mark.estimate :is(circle, rect, path) {
  fill: var(--board);
  stroke-dasharray: 3 2;
}
text {
  fill: var(--ink);
  font-family: var(--figure);
  font-weight: 600;
  font-size: var(--type-16);
}
.day {
  font-weight: 500;
  font-size: var(--type-14);
}
</style>

<script setup lang="ts">
/**
 * The lane: one child and test. Left edge zero, rungs as painted ticks, earlier attempts hollow,
 * today solid, the best with a pennant, a hatched band for day-to-day variation. Right is better.
 */
import { t } from "../messages/parts";
import { useElementSize } from "@vueuse/core";
import { computed, useId, useTemplateRef } from "vue";
import type { Schemas } from "../api/client";
import { placed } from "./labels";
import { placer } from "./place";

const props = defineProps<{ lane: Schemas["Lane"]; label: string; named?: boolean }>();
const box = useTemplateRef<HTMLElement>("box");
const { width } = useElementSize(box);
const hatch = useId();

const height = computed(() => (props.named ? 74 : 40));
const top = computed(() => (props.named ? 24 : 10));
const middle = computed(() => top.value + 13);
const place = computed(() =>
  placer(width.value || 400, props.lane.scale, props.lane.better === "down", props.lane.origin),
);
const band = computed(() => {
  if (!props.lane.band) return null;
  const [a, b] = props.lane.band as [number, number];
  const [left, right] = [place.value(a), place.value(b)].sort((one, other) => one - other);
  return { left: left as number, width: (right as number) - (left as number) };
});
/** Names above and thresholds below, as far as there is room. */
const labels = computed(() => {
  if (!props.named) return { above: [], below: [] };
  const near = props.lane.today ? place.value(props.lane.today.at) : null;
  const of = (words: "name" | "shown") =>
    placed(
      props.lane.rungs.map((rung) => ({ x: place.value(rung.at), words: rung[words] })),
      width.value,
      near,
    );
  return { above: of("name"), below: of("shown") };
});
const start = computed(() =>
  place.value(props.lane.better === "down" ? props.lane.scale : Math.max(0, props.lane.origin)),
);
</script>

<template>
  <div ref="box" class="lane" :style="{ height: `${height}px` }">
    <svg v-if="width" role="img" :aria-label="label" :width="width" :height="height">
      <defs>
        <pattern :id="hatch" width="6" height="6" patternUnits="userSpaceOnUse">
          <path d="M0 6L6 0" class="hatching" />
        </pattern>
      </defs>
      <line :x1="0" :x2="width" :y1="top" :y2="top" class="edge" />
      <line :x1="0" :x2="width" :y1="top + 26" :y2="top + 26" class="edge" />
      <rect :x="start - 1.5" :y="top" width="3" height="26" class="start" />
      <rect
        v-if="band"
        :x="band.left"
        :y="top + 1"
        :width="band.width"
        height="24"
        :fill="`url(#${hatch})`"
        class="band"
      />
      <g v-for="rung in lane.rungs" :key="rung.name">
        <line :x1="place(rung.at)" :x2="place(rung.at)" :y1="top" :y2="top + 26" class="rung" />
      </g>
      <text
        v-for="one in labels.below"
        :key="t('wordsBelow', { words: one.words })"
        :x="one.x"
        :y="top + 41"
        text-anchor="middle"
        class="value"
      >
        {{ one.words }}
      </text>
      <text
        v-for="one in labels.above"
        :key="t('wordsAbove', { words: one.words })"
        :x="one.x"
        :y="top - 8"
        text-anchor="middle"
        class="name"
      >
        {{ one.words }}
      </text>
      <circle
        v-for="mark in lane.earlier"
        :key="`${mark.on}-${mark.at}`"
        :cx="place(mark.at)"
        :cy="middle"
        r="5"
        class="earlier"
        :class="{ estimate: mark.estimate }"
      >
        <title>{{ mark.on }}: {{ mark.shown }}{{ mark.estimate ? t("estimate") : "" }}</title>
      </circle>
      <path
        v-if="lane.best !== null"
        :d="`M${place(lane.best)} ${middle - 6}V${top - 8}l11 4.5l-11 4.5`"
        class="best"
      />
      <rect
        v-if="lane.today"
        :x="place(lane.today.at) - 7"
        :y="middle - 7"
        width="14"
        height="14"
        rx="2"
        class="today"
        :class="{ estimate: lane.today.estimate }"
      />
    </svg>
  </div>
</template>

<style scoped>
.lane {
  width: 100%;
}
.edge {
  stroke: var(--rule);
  stroke-width: 1.5;
}
.start {
  fill: var(--line);
}
.rung {
  stroke: var(--line);
  stroke-width: 2;
}
.hatching {
  stroke: var(--chalk);
  stroke-width: 1.1;
  opacity: 0.55;
}
.earlier {
  fill: var(--board);
  stroke: var(--ink);
  stroke-width: 2;
}
.today {
  fill: var(--ink);
}
.estimate {
  fill: var(--board);
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 3 2.4;
}
.best {
  fill: var(--pennant);
  stroke: var(--pennant);
  stroke-width: 1.8;
}
text {
  fill: var(--ink);
  font-family: var(--figure);
  font-size: var(--type-14);
}
.value {
  font-weight: 600;
}
</style>

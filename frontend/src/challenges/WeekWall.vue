<script setup lang="ts">
/** Houses and classes on the wall: taking part first, one after the other, nobody's name. */
import { t } from "../messages/challenges";
import { useQuery } from "@tanstack/vue-query";
import { useEventListener } from "@vueuse/core";
import { computed, onBeforeUnmount, ref } from "vue";
import { useTheme } from "vuetify";
import { answer, client, type Schemas } from "../api/client";
import LoadState from "../parts/LoadState.vue";

type Sum = Schemas["WallSum"];
const props = defineProps<{ weekId: string }>();
// Dark for the projector; the floor of before when it is left.
const theme = useTheme();
const floor = theme.global.name.value;
void theme.change("dark");
onBeforeUnmount(() => theme.change(floor));
const page = useQuery({
  queryKey: ["week-wall", props.weekId],
  queryFn: () =>
    answer(
      client.GET("/api/weeks/{week_id}/wall", { params: { path: { week_id: props.weekId } } }),
    ),
});
const share = (one: Sum) => (one.children ? Math.round((100 * one.took_part) / one.children) : 0);
interface Row {
  name: string;
  bar: number;
  words: string;
}
/** What is told, in its order: taking part of classes, then of houses; then points a child. */
const parts = computed(() => {
  const wall = page.data.value;
  if (!wall) return [];
  const taking = (rows: Sum[]): Row[] =>
    rows.map((one) => ({
      name: one.name,
      bar: share(one),
      words: t("tookpartOfChildren", { tookPart: one.took_part, children: one.children }),
    }));
  const most = Math.max(1, ...wall.houses.map((one) => one.each));
  const points = [...wall.houses]
    .sort((a, b) => a.each - b.each)
    .map((one) => ({
      name: one.name,
      bar: Math.round((100 * one.each) / most),
      words: t("nPointsEachPerChild", { n: one.points, each: one.each }),
    }));
  return [
    { title: t("takingPartByClass"), rows: taking(wall.classes) },
    { title: t("takingPartByHouse"), rows: taking(wall.houses) },
    { title: t("pointsPerChild"), rows: points },
  ].filter((one) => one.rows.length);
});
const at = ref(0);
/** So many rows of the part are shown. */
const shown = ref(0);
const part = computed(() => parts.value[at.value]);
const isLast = computed(
  () => at.value >= parts.value.length - 1 && shown.value >= (part.value?.rows.length ?? 0),
);
function next() {
  if (!part.value || isLast.value) return;
  if (shown.value < part.value.rows.length) shown.value += 1;
  else {
    at.value += 1;
    shown.value = 0;
  }
}
useEventListener("keydown", (event) => {
  if (event.key !== " " || (event.target as HTMLElement).closest("button, a")) return;
  event.preventDefault();
  next();
});
</script>

<template>
  <main id="main" tabindex="-1" class="page wall">
    <LoadState :query="page">
      <template v-if="page.data.value">
        <div class="head">
          <h1>{{ page.data.value.name }}</h1>
          <div class="line">
            <v-btn size="large" color="primary" :disabled="isLast" @click="next">{{
              t("next")
            }}</v-btn>
            <v-btn size="large" variant="outlined" :to="{ name: 'week', params: { weekId } }">{{
              t("backToTheWeek")
            }}</v-btn>
          </div>
        </div>
        <p v-if="!part" class="board">{{ t("noPointsYet") }}</p>
        <section v-else aria-live="polite">
          <h2>{{ part.title }}</h2>
          <div v-for="(row, place) in part.rows" :key="row.name" class="row">
            <template v-if="place < shown">
              <strong class="figure">{{ row.name }}</strong>
              <span class="bar"><i :style="{ width: `${row.bar}%` }"></i></span>
              <b class="figure">{{ row.words }}</b>
            </template>
            <span v-else class="quiet figure" aria-hidden="true">…</span>
          </div>
        </section>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
h1 {
  font-size: var(--type-64);
}
h2 {
  font-size: var(--type-40);
  margin: var(--gap-16) 0;
}
.row {
  display: grid;
  grid-template-columns: minmax(140px, 260px) 1fr minmax(120px, auto);
  gap: var(--gap-24);
  align-items: center;
  min-height: 64px;
  font-size: var(--type-28);
}
.bar {
  height: 34px;
  border: var(--line-2) solid var(--rule);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--line);
}
@media (max-width: 600px) {
  .row {
    grid-template-columns: 1fr;
    gap: var(--gap-4);
  }
}
</style>

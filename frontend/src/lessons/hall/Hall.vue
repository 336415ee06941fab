<script setup lang="ts">
/**
 * The lesson on one screen: a frame of fixed zones (strip, message line, tools, the way of taking
 * scores, drawer, pad) that keep their place and size whatever happens. The page does not scroll.
 */
import { t } from "../../messages/lessons";
import { forget } from "../../parts/forget";
import { useQueryClient } from "@tanstack/vue-query";
import { useEventListener, useMediaQuery } from "@vueuse/core";
import { computed, nextTick, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from "vue";
import LoadState from "../../parts/LoadState.vue";
import { useSession } from "../../account/session";
import { provideFrame, type Zone } from "../../sheet/frame";
import { fetchBattery } from "../../sheet/sources/battery";
import { fetchLanes } from "../../sheet/sources/lanes";
import { useCare } from "../../sheet/useCare";
import HallClock from "./clock/HallClock.vue";
import HallDrawer from "./HallDrawer.vue";
import HallSummary from "./HallSummary.vue";
import HallRail from "./HallRail.vue";
import HallStrip from "./HallStrip.vue";
import HallTools from "./HallTools.vue";
import SwapDialog from "./SwapDialog.vue";
import { restBefore } from "./clock/conductor";
import { fetchScreens, SCREENS } from "./screens";
import { useConductor } from "./clock/useConductor";
import { TYPED_WAYS, useEarlyKeys } from "./useEarlyKeys";
import { takesScores, useHall } from "./useHall";
import { useHallKeys } from "./useHallKeys";
import { useLesson } from "../useLesson";
import { useResults } from "../useResults";

const { lesson, line } = useLesson();
const lessonId = lesson.value?.id ?? "";
const session = useSession();
const lead = useConductor();
const { query, plan, state, place, flash, spoken } = lead;
lead.openHere.value += 1;
onBeforeUnmount(() => (lead.openHere.value -= 1));
// A way or a test that is wanted in the middle of the lesson is there, whatever the network does then.
const queries = useQueryClient();
onMounted(async () => {
  await fetchScreens();
  // Who looks at a body measurement is on record: nobody does before it is opened.
  const all = lesson.value?.activities ?? [];
  const plain = all.filter((one) => !one.private);
  await Promise.all(plain.map((one) => fetchLanes(queries, one.id)));
  if (all.length > 1 && plain.length === all.length) await fetchBattery(queries, lessonId);
});

/** The hall is there once its lesson is. */
function theLesson() {
  if (!lesson.value) throw new Error("a hall without its lesson");
  return lesson.value;
}
const { page: results } = useResults(lessonId);
const hall = useHall(
  theLesson,
  lead,
  (id) => results.value?.tests.find((one) => one.activity_id === id)?.missing === 0,
);
const { shown, isOn, live, waiting, clock, touched, way, segment } = hall;
const { zones, drawer, idle, begun, early, pulsesIn } = provideFrame(hall.ownStarted, hall.leaving);
/** A zone is where it is as long as it is shown. */
function put(name: Zone, element: HTMLElement | null) {
  if (element) zones[name] = element;
  else forget(zones, name);
}
const messages = useTemplateRef<HTMLElement>("messages");
const pad = useTemplateRef<HTMLElement>("pad");
const wayField = useTemplateRef<HTMLElement>("wayField");
watch(messages, (element) => put("messages", element));
watch(pad, (element) => put("pad", element));
const narrow = useMediaQuery("(max-width: 600px)");
const swapping = ref(false);
/** The clock fills the screen because somebody pressed the key. */
const filled = ref(false);
const hasScores = computed(() => takesScores(shown.value));
/** A pulse is found and counted with the clock alone; then it is written down. */
const counting = computed(
  () => shown.value?.kind === "pulse" && isOn(shown.value) && segment.value?.phase !== "write",
);
/** The clock waits for pulses that are all in. */
const waitsForNobody = computed(
  () => hall.waitsForPulses.value && pulsesIn.value && isOn(shown.value),
);
watch(waitsForNobody, (is) => is && lead.goOn());
const isWhole = computed(() => filled.value || counting.value || !hasScores.value);
/** Ways that are tapped have a tall strip: its clock is read from the finish line. */
const isTall = computed(() => TALL.has(way.value?.name ?? "") && shown.value?.kind !== "grid");
const TALL = new Set(["tap", "beeps", "tally"]);
/** The block in which the class is told what it found. */
const isReport = computed(() => plan.value?.blocks[shown.value?.block ?? -1]?.kind === "report");

const care = useCare(lessonId, () =>
  shown.value?.kind === "grid" ? null : (shown.value?.activity?.id ?? ""),
);
const keptFrom = computed(() => care.notes.value.filter((one) => !one.care.allowed));
/** What is to be minded before the start, while nothing else is said. */
watch(
  [live, lesson, keptFrom, shown],
  () => {
    const words = [
      ...keptFrom.value.map((one) => `⊘ ${one.name} ${one.care.words}.`),
      ...(lesson.value?.medical_notes ?? []).map((one) => `✚ ${one.name}: ${one.note}.`),
      ...(shown.value?.activity?.cautions ?? []),
    ];
    idle.value =
      !live.value && words.length ? t("beforeYouStartWords", { words: words.join(" ") }) : "";
  },
  { immediate: true },
);
const stale = computed(
  () =>
    live.value &&
    query.data.value !== undefined &&
    (query.data.value.newer_plan || state.value?.plan_revision !== query.data.value.plan_revision),
);
/** The screen of what is shown, made anew for another test, and what it is handed. */
const screen = computed(() => {
  const stop = shown.value;
  if (stop?.kind === "grid")
    return { is: SCREENS.grid, key: "grid", held: { lesson: lesson.value } };
  if (stop?.kind === "pulse") {
    const { check } = stop;
    const called = isOn(stop);
    const rested = plan.value && restBefore(plan.value, state.value, stop.block);
    const held = { lessonId, standIns: session.standIns, check, called, live: live.value, rested };
    return { is: SCREENS.pulse, key: "pulse", held };
  }
  if (!stop?.activity || !way.value) return null;
  const more = {
    tally: { clock: clock.value },
    tap: { standIns: session.standIns },
    target: { clock: clock.value },
  }[way.value.name];
  const held = { activity: stop.activity, ...more };
  return { is: SCREENS[way.value.name], key: `${way.value.name} ${stop.activity.id}`, held };
});
function fill() {
  filled.value = !filled.value;
}
/** The test's own clock is started as by its button, which is the main one then. */
function startOwn() {
  if (!begun.value) zones.main?.querySelector<HTMLElement>("button:enabled")?.click();
}
/** Whether children's cells are typed in there, once they are there. */
const isTyped = computed(() => {
  const name = shown.value?.activity ? way.value?.name : shown.value?.kind;
  return !isWhole.value && TYPED_WAYS.has(name ?? "");
});
// Before the hall's own keys: what is typed ahead is meant for the sheet.
useEarlyKeys(early, () => {
  if (hall.leaving.value) return true;
  return isTyped.value && !wayField.value?.querySelector("[data-cell], [data-first], [role=alert]");
});
watch([isTyped, hall.leaving], ([typed, leaving], [, before]) => {
  if ((!typed && !leaving) || (leaving && !before)) early.value = "";
});
useHallKeys(hall, { fill, startOwn, swap: () => (swapping.value = true), stretch: lead.stretch });
useEventListener(window, "keydown", (event) => {
  if (event.key === "Escape" && drawer.value && !event.defaultPrevented) drawer.value = null;
});

// Filled or hidden, the way stays as it is; the typing comes back to it.
async function focusCell() {
  await nextTick();
  if (isWhole.value || !wayField.value) return;
  // What is to be filled in before the cell takes the typing first.
  const first = wayField.value.querySelector<HTMLElement>("[data-first]");
  (first ?? wayField.value.querySelector<HTMLElement>("[data-cell]"))?.focus();
}
watch(isWhole, (_now, before) => before && void focusCell());
/** No button of the hall takes the typing away. */
function giveBack(event: MouseEvent) {
  const button = (event.target as HTMLElement).closest("button");
  if (button && !button.closest(".way, .messages, .drawer, [aria-expanded='true']"))
    void focusCell();
}
</script>

<template>
  <LoadState :query="query">
    <section
      v-if="plan && lesson"
      class="hall"
      :class="{ tall: isTall, whole: isWhole }"
      @click="giveBack"
    >
      <Teleport v-if="line" :to="line">
        <HallRail :hall="hall" :tests="results?.tests ?? []" />
      </Teleport>
      <HallStrip :hall="hall" :whole="isWhole" :filled="filled" @fill="fill" @zone="put" />
      <p class="sr-only" role="status" aria-live="assertive">{{ spoken }}</p>
      <div
        v-show="hasScores"
        ref="messages"
        class="messages no-print"
        data-testid="messages"
        @click="touched = true"
      >
        <p v-if="early" class="early quiet" role="status">
          {{ t("typedEarlyKeys", { keys: early.replaceAll("\n", " ⏎ ") }) }}
        </p>
      </div>
      <HallTools
        v-show="!isWhole"
        :hall="hall"
        :notes="lesson.medical_notes.length"
        :kept="keptFrom.length"
        :stale="stale"
        @tools="put('tools', $event)"
        @settings="put('settings', $event)"
      />
      <div
        v-if="screen"
        v-show="!isWhole"
        ref="wayField"
        class="way"
        @keydown="(event: KeyboardEvent) => event.key.length === 1 && (touched = true)"
        @click="touched = true"
      >
        <component :is="screen.is" :key="screen.key" v-bind="screen.held">
          <template #test="{ test }">{{ test.test }}</template>
          <template #after>
            <p class="after no-print">
              <v-btn color="primary" size="large" :to="{ name: 'results', query: $route.query }">
                {{ t("goToResults") }}
              </v-btn>
            </p>
          </template>
        </component>
      </div>
      <div v-show="!isWhole" ref="pad" class="pad-zone no-print" />
      <div v-if="isWhole" class="clock" :class="{ filled }">
        <p v-if="lesson.medical_notes.length && !live" class="board notes">
          <strong>{{ t("beforeYouStart") }}</strong>
          <span v-for="note in lesson.medical_notes" :key="note.pupil_id">
            ✚ {{ note.name }}: {{ note.note }}
          </span>
        </p>
        <p v-if="shown?.closed" class="board">
          {{ t("testIsPrivateStaffWhoMay", { test: shown.label }) }}
        </p>
        <p v-if="stale" role="status" class="board">
          {{ t("thePlanHasChangedSinceThe") }}
        </p>
        <HallClock :plan="plan" :state="state" :place="place" :flash="flash" :waiting="waiting" />
        <v-btn v-if="filled" class="fold" size="large" variant="outlined" @click="fill">{{
          t("collapse")
        }}</v-btn>
        <HallSummary v-if="isReport" :lesson-id="lessonId" />
      </div>
      <HallDrawer
        v-show="drawer"
        :hall="hall"
        :lesson="lesson"
        :tests="results?.tests ?? []"
        :stale="stale"
        :narrow="narrow"
        @zone="put('drawer', $event)"
        @swap="swapping = true"
        @fill="fill"
      />
      <SwapDialog v-model="swapping" :hall="hall" :lesson-id="lessonId" />
    </section>
  </LoadState>
</template>

<style scoped src="./hall.css"></style>

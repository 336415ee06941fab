<script setup lang="ts">
/** The lesson on one screen: one clock, and under it the way that fits the block that is on. */
import CareNotes from "../sheet/parts/CareNotes.vue";
import { useQueryClient } from "@tanstack/vue-query";
import { useEventListener, useMediaQuery } from "@vueuse/core";
import { fetchLanes } from "../sheet/sources/lanes";
import { computed, nextTick, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from "vue";
import DoneRecord from "../parts/DoneRecord.vue";
import LoadState from "../parts/LoadState.vue";
import { useSession } from "../people/session";
import HallBar from "./HallBar.vue";
import HallBrief from "./HallBrief.vue";
import HallFound from "./HallFound.vue";
import HallButtons from "./HallButtons.vue";
import HallClock from "./HallClock.vue";
import HallMore from "./HallMore.vue";
import HallRail from "./HallRail.vue";
import SwapDialog from "./SwapDialog.vue";
import { fetchScreens, SCREENS } from "./screens";
import { provideMessageLine } from "../sheet/messageLine";
import { useConductor } from "./useConductor";
import { takesScores, useHall } from "./useHall";
import { useLesson } from "./useLesson";
import { useResults } from "./useResults";

const { lesson } = useLesson();
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
  for (const one of lesson.value?.activities ?? []) {
    // Who looks at a body measurement is on record: nobody does before it is opened.
    if (!one.private) await fetchLanes(queries, one.id);
  }
});

const results = useResults(lessonId);
const hall = useHall(
  () => lesson.value!,
  lead,
  (id) => results.data.value?.tests.find((one) => one.activity_id === id)?.missing === 0,
);
const { shown, isOn, live, waiting, clock, touched, ways, way, segment, phase } = hall;
const swapping = ref(false);
const moreShown = ref(false);
const briefShown = ref<boolean | null>(null);
/** The clock fills the screen, or folds, because somebody pressed the key. */
const filled = ref(false);
const hasScores = computed(() => takesScores(shown.value));
/** A pulse is found and counted with the clock alone; then it is written down. */
const counting = computed(
  () => shown.value?.kind === "pulse" && isOn(shown.value) && segment.value?.phase !== "write",
);
// Folded by a key only: nothing may move under a finger that is on its way to a button.
const typing = ref(false);
const coarse = useMediaQuery("(pointer: coarse)");
watch([() => shown.value?.id, () => phase.value === "ready"], () => (typing.value = false));
function onTyped(event: KeyboardEvent) {
  if (event.key.length === 1) touched.value = typing.value = true;
}
const size = computed(() => {
  if (filled.value || counting.value || !hasScores.value) return "whole";
  const busy =
    typing.value || coarse.value || shown.value?.kind === "pulse" || shown.value?.kind === "grid";
  const runs = !state.value || phase.value === "ready" || phase.value === "work" || waiting.value;
  return busy || !runs || hall.isOwnClock.value ? "folded" : "tall";
});
const brief = computed(() => {
  const test = shown.value?.activity;
  return test && (briefShown.value ?? (!live.value && !coarse.value)) ? test : null;
});
/** The block in which the class is told what it found. */
const isReport = computed(() => plan.value?.blocks[shown.value?.block ?? -1]?.kind === "report");
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
    const held = { lessonId, standIns: session.standIns, check, called: isOn(stop) };
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
/** Keys that are the hall's also while an empty cell has the typing. */
function onEmptyField(event: KeyboardEvent): boolean {
  if (event.key === " " && event.shiftKey) fill();
  else if (event.key === " " && hall.primary.value?.space) hall.primary.value.act();
  else if (event.shiftKey && event.key === "ArrowRight" && live.value) hall.skip();
  else if (event.shiftKey && event.key === "ArrowLeft" && live.value) hall.back();
  else return false;
  return true;
}
function beside(event: KeyboardEvent): boolean {
  if (!live.value) return false;
  if (event.key === "ArrowRight" || event.key === "n") hall.skip();
  else if (event.key === "ArrowLeft" || event.key === "b") hall.back();
  else if (event.key === "+") lead.stretch(15_000);
  else if (event.key === "-") lead.stretch(-15_000);
  else if (event.key === "s") swapping.value = true;
  else return false;
  return true;
}
useEventListener(
  window,
  "keydown",
  (event: KeyboardEvent) => {
    const target = event.target as HTMLElement;
    if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
    if (target.closest("select,[role=dialog],[role=alertdialog],.v-overlay")) return;
    if (event.key === " " && target.closest("button")) return; // the pressed button does it
    const field = target.closest<HTMLInputElement>("input,textarea");
    if (field?.value) return;
    const isCell = field === null || (field.type === "text" && typesHere(field));
    if (!isCell || !(onEmptyField(event) || (!field && !typesHere(target) && beside(event))))
      return;
    event.preventDefault();
    event.stopPropagation();
  },
  { capture: true },
);
const messageLine = useTemplateRef<HTMLElement>("messageLine");
provideMessageLine(messageLine);
// Filled or hidden, the way stays as it is; the typing comes back to it.
const wayField = useTemplateRef<HTMLElement>("wayField");
async function focusCell() {
  await nextTick();
  if (size.value !== "whole") wayField.value?.querySelector<HTMLElement>("[data-cell]")?.focus();
}
watch(size, (_now, before) => before === "whole" && void focusCell());
/** No button of the hall takes the typing away. */
function giveBack(event: MouseEvent) {
  const button = (event.target as HTMLElement).closest("button");
  if (button && !button.closest(".way, .messages, .more, [aria-expanded]")) void focusCell();
}
/** Ways with keys of their own keep them. */
function typesHere(target: HTMLElement): boolean {
  return target.closest(".way, .messages") !== null;
}
</script>

<template>
  <LoadState :query="query">
    <section
      v-if="plan && lesson"
      class="hall"
      :class="[size, { noted: lesson.medical_notes.length && !live }]"
      @click="giveBack"
    >
      <HallRail :hall="hall" :tests="results.data.value?.tests ?? []" />
      <p v-if="lesson.medical_notes.length && !live" class="board notes">
        <strong>Before you start:</strong>
        <span v-for="note in lesson.medical_notes" :key="note.pupil_id">
          ✚ {{ note.name }}: {{ note.note }}
        </span>
      </p>
      <p v-if="shown?.closed" class="board">
        {{ shown.label }} is private: it is entered by staff with the growth permission. The clock
        goes on as planned.
      </p>
      <p v-if="stale" role="status" class="board">
        The plan was changed after the start; this goes on as it began. Start again to use the new
        plan.
      </p>
      <div v-if="size === 'whole'" class="clock" :class="{ filled }">
        <HallClock :plan="plan" :state="state" :place="place" :flash="flash" :waiting="waiting" />
        <HallButtons
          class="controls"
          :hall="hall"
          large
          :filled="filled"
          :more-shown="moreShown"
          @fill="fill"
          @more="moreShown = !moreShown"
        />
      </div>
      <HallBar
        v-else
        :hall="hall"
        :folded="size === 'folded'"
        :more-shown="moreShown"
        @fill="fill"
        @more="moreShown = !moreShown"
      />
      <HallMore
        v-if="moreShown"
        :hall="hall"
        :lesson-id="lessonId"
        @swap="swapping = true"
        @fill="fill"
      />
      <p class="sr-only" role="status" aria-live="assertive">{{ spoken }}</p>
      <div
        v-show="hasScores"
        ref="messageLine"
        class="messages no-print"
        tabindex="-1"
        data-testid="messages"
        @click="touched = true"
      />
      <div v-if="shown?.activity || shown?.kind === 'stations'" class="line tools no-print">
        <nav v-if="ways.length > 1" class="ways" aria-label="Ways to take the scores">
          <button
            v-for="one in ways"
            :key="one.name"
            type="button"
            class="tag"
            :class="{ strong: one.name === way?.name }"
            :aria-pressed="one.name === way?.name"
            @click="hall.chooseWay(one.name)"
          >
            {{ one.label }}
          </button>
        </nav>
        <button
          v-if="shown?.activity"
          type="button"
          class="tag"
          :aria-pressed="brief !== null"
          @click="briefShown = brief === null"
        >
          How it is done
        </button>
        <RouterLink
          v-if="shown?.kind === 'stations'"
          class="tag"
          :to="{ name: 'stations', params: { block: shown.block ?? 0 } }"
        >
          Who is where
        </RouterLink>
      </div>
      <div
        v-if="screen"
        v-show="size !== 'whole'"
        ref="wayField"
        class="way"
        :class="{ briefed: brief }"
        @keydown="onTyped"
        @click="touched = true"
      >
        <CareNotes
          v-if="shown?.activity || shown?.kind === 'grid'"
          :lesson-id="lessonId"
          :activity-id="shown.activity?.id ?? null"
          class="cared"
        />
        <component :is="screen.is" :key="screen.key" class="screen" v-bind="screen.held">
          <template #test="{ test }">{{ test.test }}</template>
          <template #after>
            <p class="after no-print">
              <v-btn color="primary" size="large" :to="{ name: 'results', query: $route.query }">
                To the results
              </v-btn>
            </p>
          </template>
        </component>
        <HallBrief v-if="brief" :test="brief" />
      </div>
      <HallFound v-if="isReport" :lesson-id="lessonId" />
      <p class="quiet keys no-print">
        <kbd>Space</kbd> the large button · <kbd>Shift</kbd> <kbd>Space</kbd> the clock fills the
        screen · <kbd>Shift</kbd> <kbd>→</kbd> skip · <kbd>Shift</kbd> <kbd>←</kbd> back
        <template v-if="!hasScores">
          · <kbd>+</kbd> <kbd>-</kbd> 15 s · <kbd>s</kbd> swap
        </template>
      </p>
      <DoneRecord
        v-if="state"
        :lesson-id="lessonId"
        :revision="state.revision"
        :done="state.done?.length ?? 0"
      />
      <SwapDialog v-model="swapping" :hall="hall" :lesson-id="lessonId" />
    </section>
  </LoadState>
</template>

<style scoped src="./hall.css"></style>

<script setup lang="ts">
/** Beside the way, over it, or from below on a phone: what is looked at and put away again. */
import { t } from "../../messages/lessons";
import { useTemplateRef, watch } from "vue";
import type { Schemas } from "../../api/client";
import DoneRecord from "../../parts/DoneRecord.vue";
import { useFrame } from "../../sheet/frame";
import CareNotes from "../../sheet/parts/CareNotes.vue";
import HallBrief from "./HallBrief.vue";
import HallMore from "./HallMore.vue";
import HallRail from "./HallRail.vue";
import { useConductor } from "./clock/useConductor";
import type { Hall } from "./useHall";

const props = defineProps<{
  hall: Hall;
  lesson: Schemas["LessonPage"];
  tests: Schemas["TestWaits"][];
  /** The plan was changed after the start. */
  stale: boolean;
  /** Whether the rail has no room above the strip. */
  narrow: boolean;
}>();
const emit = defineEmits<{ zone: [element: HTMLElement | null]; swap: []; fill: [] }>();
const { drawer } = useFrame();
const { state } = useConductor();
const { shown } = props.hall;
const zone = useTemplateRef<HTMLElement>("zone");
// Who chose a block in it wants to see that.
watch(
  () => shown.value?.id,
  () => (drawer.value = null),
);
/** What had the keys when it was opened gets them back when it is put away. */
const box = useTemplateRef<HTMLElement>("box");
let opener: Element | null = null;
watch(
  drawer,
  (now, before) => {
    if (now && !before) opener = document.activeElement;
  },
  { flush: "sync" },
);
watch(
  drawer,
  (now) => {
    const at = document.activeElement;
    const lost = !at || at === document.body || box.value?.contains(at);
    if (!now && lost && opener instanceof HTMLElement) opener.focus();
  },
  { flush: "post" },
);
watch(zone, (element) => emit("zone", element));
const TITLES = {
  brief: t("howItIsDone"),
  aims: t("ownTargets"),
  keys: t("keys"),
  conditions: t("edit"),
  forms: t("choose"),
  unit: t("measure"),
  more: t("more"),
};
</script>

<template>
  <aside ref="box" class="drawer no-print" :aria-label="drawer ? TITLES[drawer] : undefined">
    <p class="top">
      <strong class="figure">{{ drawer ? TITLES[drawer] : "" }}</strong>
      <button type="button" class="tool" @click="drawer = null">{{ t("close") }}</button>
    </p>
    <div class="inside">
      <template v-if="drawer === 'brief'">
        <p v-if="lesson.medical_notes.length" class="board notes">
          <strong>{{ t("medicalNotes") }}</strong>
          <span v-for="note in lesson.medical_notes" :key="note.pupil_id">
            ✚ {{ note.name }}: {{ note.note }}
          </span>
        </p>
        <CareNotes
          v-if="shown?.activity || shown?.kind === 'grid'"
          :key="shown.id"
          :lesson-id="lesson.id"
          :activity-id="shown.activity?.id ?? null"
        />
        <HallBrief v-if="shown?.activity" :test="shown.activity" />
      </template>
      <template v-if="drawer === 'more'">
        <p v-if="stale" role="status" class="board">
          {{ t("thePlanHasChangedSinceThe") }}
        </p>
        <HallRail v-if="narrow" :hall="hall" :tests="tests" down />
        <HallMore
          :hall="hall"
          :lesson-id="lesson.id"
          @swap="$emit('swap')"
          @fill="((drawer = null), $emit('fill'))"
        />
        <DoneRecord
          v-if="state"
          :lesson-id="lesson.id"
          :revision="state.revision"
          :done="state.done?.length ?? 0"
        />
        <p v-if="!narrow" class="quiet">
          <i18n-t keypath="lessons.key1MainButtonKey2Key3Full" scope="global"
            ><template #key1
              ><kbd>{{ t("space") }}</kbd></template
            ><template #key2
              ><kbd>{{ t("shift") }}</kbd></template
            ><template #key3
              ><kbd>{{ t("space") }}</kbd></template
            ><template #key4
              ><kbd>{{ t("shift") }}</kbd></template
            ><template #key5><kbd>→</kbd></template
            ><template #key6
              ><kbd>{{ t("shift") }}</kbd></template
            ><template #key7><kbd>←</kbd></template
            ><template #key8><kbd>+</kbd></template
            ><template #key9><kbd>-</kbd></template
            ><template #key10><kbd>s</kbd></template></i18n-t
          >
        </p>
      </template>
      <div ref="zone" class="from-way" />
    </div>
  </aside>
</template>

<style scoped>
.drawer {
  position: absolute;
  inset: calc(var(--strip) + 116px) 0 0 auto; /* below strip, message line and tools */
  width: 320px;
  z-index: 5;
  display: flex;
  flex-direction: column;
  border: var(--line-3) solid var(--line);
  border-radius: var(--radius);
  background: var(--floor);
}
.top {
  flex: none;
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin: 0;
  padding: var(--gap-4) var(--gap-4) var(--gap-4) var(--gap-12);
  border-bottom: var(--line-2) solid var(--rule);
}
.top strong {
  font-size: var(--type-24);
}
.inside,
.from-way {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
  gap: var(--gap-8);
}
.inside {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: var(--gap-8);
}
.inside :deep(.board) {
  padding: var(--gap-8) var(--gap-12);
}
.notes {
  border-left: var(--bar) solid var(--pennant);
  display: grid;
  gap: var(--gap-4);
}
@media (max-width: 600px) {
  .drawer {
    inset: auto 0 0 0;
    width: auto;
    height: 66%;
  }
}
@media (max-height: 500px) {
  .drawer {
    inset: calc(var(--strip) + 4px) 0 0 auto;
  }
}
</style>

<script setup lang="ts">
/** A large area a child: a tap counts one, a swipe to the left takes it back. */
import { t } from "../../../messages/sheet";
import { ref } from "vue";
import StateMark from "../../../parts/StateMark.vue";
import type { Row } from "../../useTest";
import type { Tallying } from "./useTally";

const props = defineProps<{ tallying: Tallying; row: Row; place: number }>();
const { count, add, takeBack, others, replace, reasons, giveReason, runs, state } = props.tallying;
const SWIPE_PX = 60;
const choosing = ref(false);
let pressedAt: number | null = null;
let swiped = false;
let counted = 0;

function onDown(event: PointerEvent) {
  pressedAt = event.clientX;
  swiped = false;
}
function onMove(event: PointerEvent) {
  if (pressedAt === null || swiped || pressedAt - event.clientX < SWIPE_PX) return;
  swiped = true;
  takeBack(props.row.child.pupil_id);
}
function onUp() {
  if (pressedAt !== null && !swiped) {
    counted = performance.now();
    add(props.row.child.pupil_id);
  }
  pressedAt = null;
}
/** Keyboards and readers press without a pointer. */
function onClick() {
  if (performance.now() - counted > 600 && !swiped) add(props.row.child.pupil_id);
}
function choose(value: string) {
  choosing.value = false;
  const reason = reasons.value.find((one) => value === `why ${one.code}`);
  if (reason) giveReason(props.place, reason.key);
  else if (value) replace(props.place, value);
}
</script>

<template>
  <li>
    <button
      type="button"
      class="area"
      :class="{ still: !runs && state.taps.length > 0 }"
      @pointerdown="onDown"
      @pointermove="onMove"
      @pointerup="onUp"
      @pointercancel="pressedAt = null"
      @click="onClick"
    >
      <span class="figure count">{{ count(row.child.pupil_id) }}</span>
      <span class="name">
        <kbd aria-hidden="true">{{ place + 1 }}</kbd> {{ row.child.name }}
      </span>
    </button>
    <div class="under">
      <v-btn size="large" variant="text" @click="takeBack(row.child.pupil_id)">
        {{ t("oneLess")
        }}<span class="sr-only"> {{ t("forChild", { child: row.child.name }) }}</span>
      </v-btn>
      <v-btn size="large" variant="text" :aria-expanded="choosing" @click="choosing = !choosing">
        {{ t("someoneElseOrWhyNot") }}
      </v-btn>
      <StateMark v-if="row.state !== 'empty'" :state="row.state" />
      <span v-if="row.shown" class="quiet">{{ t("hasScore", { score: row.shown }) }}</span>
    </div>
    <v-autocomplete
      v-if="choosing"
      auto-select-first
      :model-value="''"
      :aria-label="t('whoIsCountedInsteadOfChild', { child: row.child.name })"
      :placeholder="t('chooseAChild')"
      :items="[
        ...others.map((other) => ({
          value: other.child.pupil_id,
          title: `${other.child.name} ${other.shown}`.trim(),
        })),
        { type: 'subheader', title: t('childIsNotCounted', { child: row.child.name }) },
        ...reasons.map((one) => ({ value: `why ${one.code}`, title: one.words })),
      ]"
      @update:model-value="choose"
    />
  </li>
</template>

<style scoped>
.area {
  width: 100%;
  min-height: 64px;
  overflow: hidden;
  border: var(--line-3) solid var(--line);
  border-radius: var(--radius);
  background: var(--board);
  color: var(--ink);
  display: grid;
  align-content: center;
  justify-items: center;
  touch-action: pan-y;
  user-select: none;
}
.area:active {
  background: var(--rule);
}
.area.still {
  border-color: var(--rule);
}
li {
  position: relative;
  display: grid;
  grid-template-rows: minmax(64px, 1fr) auto;
  min-height: 0;
  min-width: 0;
}
.count {
  font-size: clamp(2.5rem, 11vh, 8rem);
  line-height: 0.9;
}
.name {
  font-weight: 700;
  font-size: var(--type-18);
  padding: 0 var(--gap-8);
}
.under {
  display: flex;
  align-items: center;
  gap: var(--gap-4);
  overflow: hidden;
  white-space: nowrap;
}
/* Over what it stands under: nothing moves for it. */
.name {
  white-space: nowrap;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
}
@media (max-width: 700px), (max-height: 500px) {
  .count {
    font-size: clamp(1.75rem, 6vh, 4rem);
  }
  .name {
    font-size: var(--type-16);
  }
  .under :deep(.v-btn) {
    flex: 0 1 auto;
    padding: 0 var(--gap-8);
    min-width: 48px;
    font-size: var(--type-14);
  }
  .under :deep(.v-btn__content) {
    white-space: normal;
    line-height: 1.1;
  }
}
</style>

<script setup lang="ts">
/**
 * The hall's message line: one thing at a time, the most urgent first. What wants an answer, what went
 * wrong, how the entry will be kept, what is the matter with this device, what was just saved.
 */
import { t } from "../../messages/sheet";
import { computed } from "vue";
import { useFrame } from "../frame";
import type { Hold } from "../useHold";
import type { Sheet } from "../useSheet";
import type { TypedEntry } from "../useEntry";
import HeldLine from "./HeldLine.vue";
import InZone from "../parts/InZone.vue";

const props = defineProps<{
  sheet: Sheet;
  hold: Hold;
  /** What went wrong with the last press, where it is not an entry of the sheet. */
  problem?: string;
  /** What can be typed, while nothing else is to be said. */
  accepted?: string;
  /** Whose cell the typing is at, and of what; how it will be kept. */
  where?: string;
  entry?: TypedEntry;
  /** What an entry would take the place of. */
  instead?: string;
  /** The next child, to whom what is held goes. */
  next?: string;
  cannotUndo?: boolean;
  /** Ways that are tapped have nothing to type again. */
  typed?: boolean;
}>();
defineEmits<{
  undo: [];
  right: [];
  correct: [];
  later: [];
  here: [];
  decide: [change: { typed?: string; over?: boolean } | null];
}>();
const { sync, announcement } = props.sheet;
const { idle } = useFrame();
const wrong = computed(() => props.problem || props.sheet.problem.value);
const typing = computed(() => {
  const { entry } = props;
  if (!entry?.text.value) return "";
  return entry.kept.value ? `= ${entry.kept.value}${props.instead ?? ""}` : entry.doubt.value;
});
const device = computed(() => {
  if (sync.unkept.value) {
    return t("thisDeviceIsFullNScore", sync.unkept.value);
  }
  return sync.deviceClock.value;
});
</script>

<template>
  <InZone name="messages">
    <div class="message" :class="{ asks: hold.matter.value }">
      <HeldLine
        v-if="hold.matter.value"
        :sheet="sheet"
        :hold="hold"
        :next="next ?? ''"
        :typed="typed ?? false"
        @right="$emit('right')"
        @correct="$emit('correct')"
        @later="$emit('later')"
        @here="$emit('here')"
        @decide="$emit('decide', $event)"
      />
      <div v-else class="text">
        <p v-if="wrong" id="problem" role="alert" class="problem">{{ wrong }}</p>
        <p v-else-if="typing">
          <span class="where">{{ where }}</span>
          <b id="kept" class="kept" data-testid="kept">{{ typing }}</b>
        </p>
        <p v-else-if="sync.signedOut.value" role="alert" class="warn">
          <i18n-t keypath="sheet.youAreSignedOutScoresAre" scope="global"
            ><template #link
              ><RouterLink :to="{ name: 'sign-in' }">{{ t("signIn") }}</RouterLink></template
            ></i18n-t
          >
        </p>
        <p v-else-if="device" role="alert" class="warn">{{ device }}</p>
        <slot v-else />
      </div>
      <p
        class="announcement quiet"
        :class="{ 'sr-only': hold.matter.value || wrong || typing }"
        role="status"
        aria-live="polite"
        data-testid="announcement"
      >
        {{ announcement || idle || accepted }}
      </p>
      <slot v-if="!hold.matter.value" name="acts" />
      <button
        v-if="hold.open.value && !hold.matter.value"
        type="button"
        class="tool open"
        @pointerdown.prevent
        @click="hold.reopen"
      >
        {{ t("nOpen", { n: hold.open.value }) }}
      </button>
      <button
        type="button"
        class="tool undo"
        :disabled="cannotUndo"
        @pointerdown.prevent
        @click="$emit('undo')"
      >
        {{ t("undo") }}
      </button>
    </div>
  </InZone>
</template>

<style scoped src="./message.css"></style>

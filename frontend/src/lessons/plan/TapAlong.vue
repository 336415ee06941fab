<script setup lang="ts">
/** Times tapped on the space bar (or the large button) along with the music, or without it. */
import { t } from "../../messages/lessons";
import { useEventListener } from "@vueuse/core";
import { computed, onBeforeUnmount, ref, useTemplateRef } from "vue";
import { decoded, type Sound } from "../../parts/sound/music";
import { playFile, wake } from "../../parts/sound/sound";

const props = defineProps<{ sound: Sound | null }>();
const emit = defineEmits<{ tapped: [times: string] }>();
/** A key that bounces, or is held, is one tap. */
const LEAST_APART_MS = 250;

const begun = ref<number | null>(null);
const taps = ref<number[]>([]);
const button = useTemplateRef<HTMLButtonElement>("button");
const last = computed(() => (taps.value.at(-1) ?? 0) / 1000);
let quiet: (() => void) | null = null;

async function begin() {
  wake();
  const file = props.sound && (await decoded(props.sound.bytes));
  taps.value = [];
  begun.value = performance.now();
  quiet = file ? playFile(file, 0, file.duration * 1000) : null;
  button.value?.focus();
}
function tap(event: Event) {
  if (begun.value === null) return;
  const at = Math.round(event.timeStamp - begun.value);
  if (at >= 0 && at - (taps.value.at(-1) ?? -LEAST_APART_MS) >= LEAST_APART_MS) taps.value.push(at);
}
function end(keep: boolean) {
  quiet?.();
  begun.value = null;
  if (keep && taps.value.length) {
    emit("tapped", taps.value.map((at) => (at / 1000).toFixed(3)).join("\n"));
  }
}
useEventListener(window, "keydown", (event) => {
  if (begun.value === null) return;
  if (event.key === " " && !event.repeat) tap(event);
  else if (event.key === "Backspace") taps.value.pop();
  else if (event.key === "Escape") end(false);
  else if (event.key !== " ") return;
  event.preventDefault();
  event.stopPropagation();
});
onBeforeUnmount(() => quiet?.());
</script>

<template>
  <div class="tapping">
    <v-btn v-if="begun === null" variant="outlined" @click="begin">{{ t("tapTheTimes") }}</v-btn>
    <template v-else>
      <button ref="button" type="button" class="field pad" @pointerdown="tap">
        <i18n-t keypath="lessons.nTappedTapHereOrPress" scope="global"
          ><template #n
            ><b class="figure">{{ taps.length }}</b></template
          ><template #key
            ><kbd>{{ t("space") }}</kbd></template
          ><template #last
            ><span v-if="taps.length" class="quiet">{{
              t("lastAtSecondsS", { seconds: last.toFixed(1) })
            }}</span></template
          ></i18n-t
        >
      </button>
      <div class="line">
        <v-btn color="primary" @click="end(true)">{{ t("useTheseTimes") }}</v-btn>
        <v-btn variant="outlined" @click="end(false)">{{ t("cancel") }}</v-btn>
        <span class="quiet"
          ><i18n-t keypath="lessons.keyRemovesTheLastOne" scope="global"
            ><template #key><kbd>Backspace</kbd></template></i18n-t
          ></span
        >
      </div>
    </template>
  </div>
</template>

<style scoped>
.pad {
  display: grid;
  place-items: center;
  width: 15em;
  min-height: 120px;
}
.pad b {
  font-size: var(--type-40);
  line-height: 1;
}
</style>

<script setup lang="ts">
/** Keys large enough for a thumb in a hall; the kind of score says which there are. */
import { t } from "../../messages/sheet";
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import { KINDS } from "../../api/vocabulary";

const props = defineProps<{
  name: string;
  typed: string;
  kind: string;
  /** Hits: out of how many. */
  of: number | null;
  reasons: Schemas["ReasonRow"][];
  variant: string;
  wave: number | null;
  tryWords: string;
  /** Keys beside the digits, where they are not those of the kind. */
  beside?: readonly string[];
}>();
const emit = defineEmits<{ press: [key: string]; type: [text: string] }>();
const extra = computed<readonly string[]>(
  () => props.beside ?? KINDS.find((one) => one.code === props.kind)?.pad ?? [],
);
/** Four in a row: digits, and at the right what goes with them. */
const keys = computed(() => [
  ...["1", "2", "3", "back"],
  ...["4", "5", "6", "~"],
  ...["7", "8", "9", extra.value[0] ?? ""],
  ...[extra.value[1] ?? "", "0"],
]);
const LABELS: Record<string, string> = {
  back: t("backspace"),
  "~": t("estimate"),
  " ": t("space"),
};
const FACES: Record<string, string> = { back: "⌫", " ": "␣", x: t("hit"), o: t("miss") };
const shots = computed(() => (/^[xo]+$/.test(props.typed) ? props.typed : ""));
const hits = computed(() => shots.value.replaceAll("o", "").length);
const SIDES = [
  { typed: "y y", words: t("both") },
  { typed: "y n", words: t("leftOnly") },
  { typed: "n y", words: t("rightOnly") },
  { typed: "n n", words: t("neither") },
];
function press(key: string) {
  if (props.kind !== "hits" || (key !== "x" && key !== "o")) {
    emit("press", key);
  } else if (props.of === null || shots.value.length < props.of) emit("type", shots.value + key);
}
</script>

<template>
  <div class="pad" role="group" :aria-label="t('padTest', { test: name })" @pointerdown.prevent>
    <div class="reasons">
      <span v-if="tryWords" class="quiet">{{ tryWords }}</span>
      <button
        v-for="reason in reasons"
        :key="reason.key"
        type="button"
        @click="$emit('press', reason.key)"
      >
        {{ reason.words }}
      </button>
    </div>
    <div v-if="kind === 'sides'" class="sides">
      <button
        v-for="side in SIDES"
        :key="side.typed"
        type="button"
        :aria-pressed="typed === side.typed"
        @click="$emit('type', side.typed)"
      >
        {{ side.words }}
      </button>
      <button type="button" class="save" @click="$emit('press', 'save')">
        {{ typed ? t("save") : t("next") }}
      </button>
    </div>
    <div v-else class="keys figure">
      <template v-for="(key, at) in keys" :key="at">
        <button
          v-if="key"
          type="button"
          :class="{ words: FACES[key]?.includes(' ') }"
          :aria-label="LABELS[key]"
          @click="press(key)"
        >
          {{ FACES[key] ?? key }}
        </button>
        <span v-else />
      </template>
      <button
        type="button"
        class="save"
        :aria-label="typed ? t('save') : t('next')"
        @click="$emit('press', 'save')"
      >
        {{ typed ? t("save") : t("next") }}
        <span v-if="shots" data-testid="pad-typed">{{
          t("hitsOfShots", { hits, shots: shots.length })
        }}</span>
      </button>
    </div>
    <div class="last">
      <button type="button" @click="$emit('press', 'undo')">{{ t("undo") }}</button>
      <button v-if="variant" type="button" @click="$emit('press', 'variant')">{{ variant }}</button>
      <button v-if="wave" type="button" @click="$emit('press', 'wave')">
        {{ t("waveWave", { wave }) }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.pad {
  display: grid;
  grid-template: "reasons" auto "keys" auto "last" auto / minmax(0, 1fr);
  gap: 4px;
  width: 300px;
  background: var(--board);
  border: 2px solid var(--line);
  border-radius: 4px;
  padding: 4px;
  touch-action: manipulation;
}
button {
  min-height: 48px;
  min-width: 0;
  border: 2px solid var(--rule);
  border-radius: 4px;
  background: var(--floor);
  color: var(--ink);
  font-weight: 700;
  padding: 2px;
}
button:active {
  background: var(--line);
  color: var(--floor);
}
.reasons,
.last {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 4px;
  align-items: center;
}
.reasons {
  grid-area: reasons;
}
.last {
  grid-area: last;
}
.reasons button,
.last button {
  font-weight: 400;
  font-size: 0.82rem;
  line-height: 1.05;
  overflow: hidden;
}
.keys {
  grid-area: keys;
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 4px;
}
.keys button {
  font-size: 1.75rem;
}
.keys .words {
  font-size: 1.1rem;
}
.keys .save {
  grid-column: 3 / -1;
}
.sides {
  grid-area: keys;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px;
}
.sides button {
  min-height: 56px;
  font-size: 1.1rem;
}
.sides .save {
  grid-column: 1 / -1;
}
.sides button[aria-pressed="true"] {
  border-color: var(--line);
  border-width: 4px;
}
.save {
  background: var(--line);
  border-color: var(--line);
  color: rgb(var(--v-theme-on-primary));
}
/* Below the way on an upright tablet: flat and wide. */
@media (max-width: 1023px) and (orientation: portrait) {
  .pad {
    width: 100%;
  }
}
@media (max-width: 600px) {
  .pad {
    gap: 2px;
    padding: 2px;
  }
  .keys,
  .reasons,
  .last {
    gap: 2px;
  }
}
@media (min-width: 601px) and (max-width: 1023px) and (orientation: portrait) {
  .pad {
    grid-template: "reasons keys" 1fr "last keys" auto / minmax(0, 1fr) minmax(0, 2fr);
  }
  .reasons {
    grid-auto-flow: row;
    grid-template-columns: 1fr 1fr;
  }
}
/* Beside the way on a device that lies down. */
@media (max-height: 500px) {
  .pad {
    width: 320px;
    gap: 2px;
    padding: 2px;
    grid-template: "keys reasons" auto "last last" auto / minmax(0, 2fr) minmax(0, 1fr);
  }
  .reasons {
    grid-auto-flow: row;
    gap: 2px;
  }
  button {
    min-height: 44px;
  }
  .reasons button,
  .last button {
    min-height: 34px;
  }
}
</style>

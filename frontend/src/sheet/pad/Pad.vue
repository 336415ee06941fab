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
  gap: var(--gap-4);
  width: 300px;
  background: var(--board);
  border: var(--line-2) solid var(--line);
  border-radius: var(--radius);
  padding: var(--gap-4);
  touch-action: manipulation;
}
button {
  min-height: 48px;
  min-width: 0;
  border: var(--line-2) solid var(--rule);
  border-radius: var(--radius);
  background: var(--floor);
  color: var(--ink);
  font-weight: 700;
  padding: 0 var(--gap-4);
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
  gap: var(--gap-4);
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
  font-size: var(--type-14);
  line-height: 1.05;
  overflow: hidden;
}
.keys {
  grid-area: keys;
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: var(--gap-4);
}
.keys button {
  font-size: var(--type-28);
}
.keys .words {
  font-size: var(--type-18);
}
.keys .save {
  grid-column: 3 / -1;
}
.sides {
  grid-area: keys;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--gap-4);
}
.sides button {
  min-height: 56px;
  font-size: var(--type-18);
}
.sides .save {
  grid-column: 1 / -1;
}
.sides button[aria-pressed="true"] {
  border-color: var(--line);
  border-width: var(--line-3);
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
    gap: var(--gap-4);
    padding: var(--gap-4);
  }
  .keys,
  .reasons,
  .last {
    gap: var(--gap-4);
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
    gap: var(--gap-4);
    padding: var(--gap-4);
    grid-template: "keys reasons" auto "last last" auto / minmax(0, 2fr) minmax(0, 1fr);
  }
  .reasons {
    grid-auto-flow: row;
    gap: var(--gap-4);
  }
  button {
    min-height: 44px;
  }
  .reasons button,
  .last button {
    min-height: 44px;
  }
}
</style>

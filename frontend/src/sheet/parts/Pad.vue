<script setup lang="ts">
/** Keys large enough for a thumb in a hall; the kind of score says which there are. */
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import { padKeys } from "../check";

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
  /** How what is typed will be kept, or what is wrong with it. */
  said: string;
}>();
const emit = defineEmits<{ press: [key: string]; type: [text: string] }>();
const DIGITS = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];
const extra = computed(() => padKeys(props.kind));
const shots = computed(() => (/^[xo]+$/.test(props.typed) ? props.typed : ""));
const hits = computed(() => [...shots.value].filter((one) => one === "x").length);
const SIDES = [
  { typed: "y y", words: "both" },
  { typed: "y n", words: "left only" },
  { typed: "n y", words: "right only" },
  { typed: "n n", words: "neither" },
];
function shot(mark: "x" | "o") {
  if (props.of === null || shots.value.length < props.of) emit("type", shots.value + mark);
}
</script>

<template>
  <div class="pad" role="group" aria-label="Pad" @pointerdown.prevent>
    <p class="who">
      <strong>{{ name }}</strong>
      <span v-if="tryWords" class="quiet">{{ tryWords }}</span>
      <span class="figure typed" data-testid="pad-typed">
        {{ shots ? `${hits} of ${shots.length}` : typed || "–" }}
      </span>
    </p>
    <p v-if="said" class="said">{{ said }}</p>
    <div class="reasons">
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
    </div>
    <template v-else>
      <div v-if="kind === 'hits'" class="shots">
        <button type="button" @click="shot('x')">● hit</button>
        <button type="button" @click="shot('o')">○ miss</button>
      </div>
      <div class="keys figure">
        <button v-for="digit in DIGITS" :key="digit" type="button" @click="$emit('press', digit)">
          {{ digit }}
        </button>
        <button type="button" aria-label="Estimate" @click="$emit('press', '~')">~</button>
        <button type="button" @click="$emit('press', '0')">0</button>
        <button type="button" aria-label="Rub out" @click="$emit('press', 'back')">⌫</button>
        <button
          v-for="key in extra"
          :key="key"
          type="button"
          :aria-label="key === '␣' ? 'Space' : key"
          @click="$emit('press', key === '␣' ? ' ' : key)"
        >
          {{ key }}
        </button>
      </div>
    </template>
    <div class="last">
      <button type="button" @click="$emit('press', 'undo')">Undo</button>
      <button v-if="variant" type="button" @click="$emit('press', 'variant')">{{ variant }}</button>
      <button v-if="wave" type="button" @click="$emit('press', 'wave')">wave {{ wave }}</button>
      <button type="button" class="save" @click="$emit('press', 'save')">
        {{ typed ? "Save" : "Next" }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.pad {
  position: sticky;
  top: 12px;
  align-self: start;
  display: grid;
  gap: 8px;
  background: var(--board);
  border: 2px solid var(--line);
  border-radius: 6px;
  padding: 10px;
  touch-action: manipulation;
}
.who {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.typed {
  font-size: 2.2rem;
}
button {
  min-height: 48px;
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
.keys {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
}
.keys button {
  font-size: 2rem;
  min-height: 62px;
}
.sides,
.shots {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.sides button,
.shots button {
  min-height: 62px;
  font-size: 1.15rem;
}
.sides button[aria-pressed="true"] {
  border-color: var(--line);
  border-width: 4px;
}
.reasons {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  gap: 6px;
}
.reasons button {
  font-weight: 400;
  font-size: 0.82rem;
  line-height: 1.05;
}
.last {
  display: flex;
  gap: 6px;
}
.last button {
  flex: 1;
  min-height: 56px;
  line-height: 1.1;
}
.last .save {
  flex: 1.6;
  background: var(--line);
  border-color: var(--line);
  color: rgb(var(--v-theme-on-primary));
  font-size: 1.15rem;
}
.said {
  font-size: 0.9rem;
  max-height: 4.2em;
  overflow: auto;
}
@media (max-width: 700px) {
  .pad {
    position: fixed;
    inset: auto 0 0 0;
    top: auto;
    border-radius: 6px 6px 0 0;
    padding: 8px;
    gap: 5px;
    z-index: 4;
  }
  .keys {
    gap: 5px;
  }
  .keys button {
    min-height: 50px;
    font-size: 1.7rem;
  }
}
</style>

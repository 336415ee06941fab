<script setup lang="ts">
/** What wants an answer before the typing goes on, and the keys and buttons that give it. */
import { computed } from "vue";
import type { Hold } from "../useHold";
import type { Sheet } from "../useSheet";

const props = defineProps<{ sheet: Sheet; hold: Hold; next: string; typed: boolean }>();
defineEmits<{
  right: [];
  correct: [];
  later: [];
  here: [];
  decide: [change: { typed?: string; over?: boolean } | null];
}>();
const { matter, refusal, held, canBeRight } = props.hold;
const name = computed(() =>
  matter.value?.place ? props.sheet.source.name(matter.value.place.pupilId) : "",
);
const sent = computed(() => {
  const place = matter.value?.place;
  return place ? props.sheet.cell(place).typed : "";
});
const current = computed(() => refusal.value?.current ?? null);
const words = computed(() => {
  const now = matter.value;
  if (now?.kind === "local") return [now.local.message, now.local.accepted];
  if (now?.kind === "refused") return [refusal.value?.message ?? "", refusal.value?.accepted ?? ""];
  if (now?.kind === "asked") {
    return [`${now.question.shown}?`, now.question.flags.map((flag) => flag.words).join(" ")];
  }
  return ["", ""];
});
const role = computed(() => (matter.value?.kind === "asked" ? "group" : "alert"));
</script>

<template>
  <div
    class="text"
    :role="role"
    :aria-label="matter?.kind === 'asked' ? 'Odd score' : undefined"
    data-testid="problem"
  >
    <p v-if="matter?.kind === 'aside'">Typed while you were asked, and not kept yet.</p>
    <p v-else-if="current">
      <strong>{{ name }}:</strong> {{ current.by }} entered {{ current.typed || "nothing" }} on
      another device; you typed {{ sent }}.
    </p>
    <p v-else>
      <strong>{{ name }}: {{ words[0] }}</strong> {{ words[1] }}
    </p>
  </div>
  <p v-if="held.length" class="held" data-testid="held">
    Held: <b class="figure">{{ held.join(", ") }}</b>
  </p>
  <div class="acts" @pointerdown.prevent>
    <template v-if="current">
      <button type="button" class="tool" @click="$emit('decide', null)">
        Keep {{ current.typed || "theirs" }}
      </button>
      <button type="button" class="tool" @click="$emit('decide', { over: true })">
        Use {{ sent }}
      </button>
    </template>
    <template v-for="choice in refusal?.choices ?? []" :key="choice.typed">
      <button type="button" class="tool" @click="$emit('decide', { typed: choice.typed })">
        {{ choice.words }}
      </button>
    </template>
    <button v-if="canBeRight" type="button" class="tool main" @click="$emit('right')">
      <kbd>!</kbd> It is right
    </button>
    <button v-if="typed && name && !current" type="button" class="tool" @click="$emit('correct')">
      <kbd>&lt;</kbd> Correct it
    </button>
    <button v-if="name && held.length" type="button" class="tool" @click="$emit('here')">
      <kbd>=</kbd> {{ held[0] }} for {{ name.split(" ")[0] }}
    </button>
    <button type="button" class="tool" @click="$emit('later')">
      <kbd>&gt;</kbd>
      {{ !held.length ? "Later" : `${held[0]} for ${next.split(" ")[0] || "the next"}` }}
    </button>
    <button
      v-if="(matter?.kind === 'refused' && !current) || matter?.kind === 'aside'"
      type="button"
      class="tool"
      @click="$emit('decide', null)"
    >
      {{ matter.kind === "aside" ? "Drop them" : "Let it go" }}
    </button>
  </div>
</template>

<style scoped src="./message.css"></style>

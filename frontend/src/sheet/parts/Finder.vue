<script setup lang="ts">
/** Find a child by letters; Enter goes to the first. */
import { t } from "../../messages/sheet";
import { vFocus } from "../../parts/form/focus";

defineProps<{ matches: { name: string; index: number }[] }>();
const letters = defineModel<string | null>({ required: true });
const emit = defineEmits<{ pick: [index: number | undefined] }>();
</script>

<template>
  <div v-if="letters !== null" class="board find">
    <label>
      {{ t("findAChild") }}
      <input
        v-model="letters"
        v-focus
        autocomplete="off"
        @keydown.enter.prevent="emit('pick', matches[0]?.index)"
        @keydown.esc.prevent="emit('pick', undefined)"
        @keydown.stop
      />
    </label>
    <button
      v-for="match in matches"
      :key="match.index"
      type="button"
      @click="emit('pick', match.index)"
    >
      {{ match.name }}
    </button>
    <span v-if="letters && !matches.length" class="quiet">{{ t("noNameStartsLikeThat") }}</span>
  </div>
</template>

<style scoped>
/* Over the message line, in whose place it stands while it is asked. */
.find {
  position: absolute;
  inset: 0;
  z-index: 2;
  display: flex;
  align-items: center;
  gap: var(--gap-8);
  padding: 0 var(--gap-8);
  overflow-x: auto;
  border: 0;
}
.find button,
.find label {
  flex: none;
}
.find input,
.find button {
  min-height: 44px;
  border: var(--line-2) solid var(--line);
  border-radius: var(--radius);
  padding: 0 var(--gap-12);
  background: var(--board);
}
</style>

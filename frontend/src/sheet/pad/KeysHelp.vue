<script setup lang="ts">
/** The keys of the screen one is looking at, for those who ask. */
import type { Board } from "../types";

defineProps<{
  board: Pick<Board, "reasons" | "variants" | "accepted">;
  tries?: number;
  waves?: number;
}>();
</script>

<template>
  <div class="board keys">
    <span><kbd>Enter</kbd> keep what is typed, next</span>
    <span v-for="reason in board.reasons" :key="reason.key">
      <kbd>{{ reason.key }}</kbd> {{ reason.key === reason.words ? "" : reason.words }}
    </span>
    <span><kbd>~</kbd> after the score: an estimate</span>
    <span v-if="board.variants.length > 1"><kbd>*</kbd> another form, this child only</span>
    <span v-if="(waves ?? 1) > 1"><kbd>#</kbd> the other wave</span>
    <span><kbd>!</kbd> what was asked about is right</span>
    <span><kbd>&lt;</kbd> correct it: <kbd>Enter</kbd> or <kbd>Backspace</kbd> alone do too</span>
    <span><kbd>&gt;</kbd> later: what was typed meanwhile goes to the next</span>
    <span><kbd>=</kbd> what was typed meanwhile is for this child</span>
    <span><kbd>↑</kbd> <kbd>↓</kbd> move</span>
    <span v-if="(tries ?? 1) > 1"><kbd>←</kbd> <kbd>→</kbd> another try</span>
    <span><kbd>/</kbd> find by letters</span>
    <span><kbd>Ctrl Z</kbd> take back the last</span>
    <span><kbd>Esc</kbd> clear what is typed</span>
    <p class="quiet">{{ board.accepted }}</p>
  </div>
</template>

<style scoped>
.keys {
  display: grid;
  gap: 8px;
}
</style>

<script setup lang="ts">
/** Every key of the capture screen, for those who ask. */
import type { Schemas } from "../api/client";

defineProps<{ board: Schemas["ClassLanes"] }>();
</script>

<template>
  <div class="board keys">
    <span><kbd>Enter</kbd> save, next</span>
    <span v-for="reason in board.reasons" :key="reason.key">
      <kbd>{{ reason.key }}</kbd> {{ reason.key === reason.words ? "" : reason.words }}
    </span>
    <span><kbd>~</kbd> after the score: an estimate</span>
    <span v-for="one in board.variants" :key="one.code">
      <kbd>{{ one.key }}</kbd> {{ one.name }}, kept for the next child
    </span>
    <span v-if="board.waves > 1"><kbd>w</kbd> the other wave</span>
    <span><kbd>!</kbd> what was asked about is right</span>
    <span><kbd>&lt;</kbd> back to it, to correct</span>
    <span><kbd>↑</kbd> <kbd>↓</kbd> move</span>
    <span v-if="board.tries > 1"><kbd>←</kbd> <kbd>→</kbd> another try</span>
    <span><kbd>/</kbd> find by letters</span>
    <span><kbd>Ctrl Z</kbd> undo</span>
    <span><kbd>Esc</kbd> clear what is typed</span>
    <p class="quiet">{{ board.accepted }}</p>
  </div>
</template>

<style scoped>
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 22px;
  margin-bottom: 10px;
}
.keys p {
  width: 100%;
}
</style>

<script setup lang="ts">
/** A score that may be right all the same: kept, and asked about. */
import type { Question } from "../types";
import type { Sheet } from "../useSheet";

const props = defineProps<{ sheet: Sheet; question: Question; name?: string }>();
const emit = defineEmits<{ correct: [] }>();

function correct() {
  props.sheet.unask(props.question);
  emit("correct");
}
</script>

<template>
  <p class="line asked">
    <strong v-if="name">{{ name }}:</strong>
    <strong>{{ question.shown }}?</strong>
    {{ question.flags.map((flag) => flag.words).join(" ") }}
    <v-btn size="small" color="primary" @click.stop="sheet.settle(question)">
      <kbd>!</kbd>&nbsp;It is right
    </v-btn>
    <v-btn size="small" variant="outlined" @click.stop="correct">
      <kbd>&lt;</kbd>&nbsp;Correct it
    </v-btn>
  </p>
</template>

<style scoped>
.asked {
  gap: 4px 10px;
  padding: 4px 0 8px;
}
</style>

<script setup lang="ts">
/** Says that a form stands as it was left, and begins it anew. */
import { ask } from "./ask";
import type { useDraft } from "./useDraft";

const props = defineProps<{ draft: ReturnType<typeof useDraft> }>();

async function anew() {
  const question = {
    title: "Begin this form anew?",
    words: "What was typed into it goes.",
    yes: "Begin anew",
  };
  if (await ask(question)) props.draft.anew();
}
</script>

<template>
  <p v-if="draft.taken.value" role="status" class="line finding">
    <span>As you left it; not kept yet.</span>
    <v-btn variant="outlined" @click="anew">Begin anew</v-btn>
  </p>
</template>

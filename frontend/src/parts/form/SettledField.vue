<script setup lang="ts">
/** A text field that tells what was typed once it is left or Enter is pressed, not at every key. */
import { ref, watch } from "vue";

type Typed = string | number | null | undefined;

/** With `rows` it is a field of several lines. */
defineProps<{ rows?: string | number }>();
const model = defineModel<Typed>();
const typed = ref<Typed>(model.value);
watch(model, (now) => (typed.value = now));

function settle() {
  if (typed.value !== model.value) model.value = typed.value;
}
</script>

<template>
  <v-textarea v-if="rows" v-model="typed" :rows="rows" @change="settle" />
  <v-text-field v-else v-model="typed" @change="settle" />
</template>

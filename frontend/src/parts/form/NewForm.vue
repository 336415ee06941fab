<script setup lang="ts">
/** The fields of something new side by side, what was wrong with them, and how it is sent. */
import { t } from "../../messages/parts";

defineProps<{ says: string; saving: boolean; error: Error | null }>();
const emit = defineEmits<{ send: []; cancel: [] }>();
</script>

<template>
  <form class="new" @submit.prevent="emit('send')">
    <slot />
    <p v-if="error" role="alert" class="problem">{{ error.message }}</p>
    <div class="line">
      <v-btn type="submit" color="primary" :loading="saving">{{ says }}</v-btn>
      <v-btn variant="text" @click="emit('cancel')">{{ t("cancel") }}</v-btn>
    </div>
  </form>
</template>

<style scoped>
.new {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: var(--gap-8) var(--gap-16);
  margin: var(--gap-8) 0 var(--gap-16);
}
.new > .problem,
.new > .line {
  grid-column: 1 / -1;
}
</style>

<script setup lang="ts">
import { t } from "../../messages/parts";
defineProps<{ title: string; words: string; yes: string }>();
defineEmits<{ yes: [] }>();
const open = defineModel<boolean>({ required: true });
</script>

<template>
  <v-dialog v-model="open" max-width="480">
    <div class="board" role="alertdialog" :aria-label="title">
      <h2>{{ title }}</h2>
      <p class="mt-2">{{ words }}</p>
      <slot />
      <div class="mt-4 actions">
        <v-btn variant="outlined" @click="open = false">{{ t("cancel") }}</v-btn>
        <v-btn color="primary" @click="$emit('yes')">{{ yes }}</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.actions {
  display: flex;
  justify-content: end;
  gap: var(--gap-8);
}
</style>

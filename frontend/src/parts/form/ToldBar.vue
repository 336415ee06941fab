<script setup lang="ts">
/** The line at the foot of the window that says what was done. */
import { t } from "../../messages/parts";
import { computed } from "vue";
import { putBack, told } from "./tell";

/** Long enough to read; longer where it can be undone. */
const READ_MS = 5_000;
const UNDO_MS = 12_000;
const open = computed({
  get: () => told.value !== null,
  set: (is) => {
    if (!is) told.value = null;
  },
});
</script>

<template>
  <v-snackbar v-model="open" class="no-print" :timeout="told?.undo ? UNDO_MS : READ_MS">
    {{ told?.words }}
    <template #actions>
      <v-btn v-if="told?.undo" variant="text" @click="putBack">{{ t("undo") }}</v-btn>
      <v-btn v-else variant="text" @click="open = false">{{ t("close") }}</v-btn>
    </template>
  </v-snackbar>
</template>

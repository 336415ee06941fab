<script setup lang="ts">
import { t } from "../../messages/parts";
/** The foot of a form of settings: keep it, what went wrong, that it is kept. */
defineProps<{ error: Error | null; pending: boolean; kept: boolean; words?: string }>();
</script>

<template>
  <p v-if="error" role="alert" class="problem">{{ error.message }}</p>
  <div class="line mt-2">
    <v-btn type="submit" color="primary" :loading="pending">{{ words ?? t("save") }}</v-btn>
    <span v-if="kept && !error" role="status">{{ t("saved") }}</span>
    <slot />
  </div>
</template>

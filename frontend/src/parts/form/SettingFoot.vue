<script setup lang="ts">
import { watch } from "vue";
import { t } from "../../messages/parts";
import { tell } from "./tell";
/** The foot of a form of settings: save it, and what went wrong. That it is saved is told. */
const props = defineProps<{
  error: Error | null;
  pending: boolean;
  kept: boolean;
  words?: string;
}>();
watch(
  () => props.pending,
  (now, before) => {
    if (before && !now && props.kept && !props.error) tell(t("saved"));
  },
);
</script>

<template>
  <p v-if="error" role="alert" class="problem">{{ error.message }}</p>
  <div class="line mt-2">
    <v-btn type="submit" color="primary" :loading="pending">{{ words ?? t("save") }}</v-btn>
    <slot />
  </div>
</template>

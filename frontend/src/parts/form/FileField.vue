<script setup lang="ts">
/** A field that asks for one file; the same file may be chosen again. */
import { ref } from "vue";

defineProps<{ label: string; accept: string; name?: string | null }>();
const emit = defineEmits<{ chosen: [file: File | undefined] }>();
const file = ref<File | null>(null);

function choose(chosen: File | File[] | null | undefined) {
  emit("chosen", Array.isArray(chosen) ? chosen[0] : (chosen ?? undefined));
}
</script>

<template>
  <v-file-input
    v-model="file"
    :accept="accept"
    :label="label"
    :hint="file ? undefined : (name ?? undefined)"
    persistent-hint
    prepend-icon=""
    :clearable="false"
    @update:model-value="choose"
  />
</template>

<script setup lang="ts">
/** A button that asks for files; the same file may be chosen again. */
defineProps<{ words: string; accept: string; multiple?: boolean; strong?: boolean }>();
const emit = defineEmits<{ chosen: [files: File[]] }>();
function choose(event: Event) {
  const field = event.target as HTMLInputElement;
  const files = [...(field.files ?? [])];
  if (files.length) emit("chosen", files);
  field.value = "";
}
</script>

<template>
  <label class="file" :class="{ strong }">
    {{ words }}
    <input type="file" :multiple="multiple" :accept="accept" class="sr-only" @change="choose" />
  </label>
</template>

<style scoped>
.file {
  display: inline-grid;
  place-items: center;
  min-height: 44px;
  padding: 0 var(--gap-24);
  border: var(--line-2) solid var(--ink);
  border-radius: var(--radius);
  font-weight: 700;
  cursor: pointer;
}
.file.strong {
  border-color: var(--line);
  background: var(--line);
  color: rgb(var(--v-theme-on-primary));
}
.file:focus-within {
  outline: 3px solid var(--pennant);
  outline-offset: 2px;
}
</style>

<script setup lang="ts">
/** The pictures of a class: a child chooses itself, or its partner, without a name. */
import type { Schemas } from "../../api/client";
import Picture from "./Picture.vue";

defineProps<{ title: string; children: Schemas["MyPicture"][] }>();
defineEmits<{ choose: [child: Schemas["MyPicture"]] }>();
</script>

<template>
  <section>
    <h1>{{ title }}</h1>
    <div class="pictures">
      <button
        v-for="one in children"
        :key="one.slip_id"
        type="button"
        :aria-label="one.picture.word"
        @click="$emit('choose', one)"
      >
        <Picture :picture="one.picture" />
      </button>
    </div>
  </section>
</template>

<style scoped>
.pictures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(72px, 1fr));
  gap: var(--gap-8);
  margin-top: var(--gap-12);
}
button {
  aspect-ratio: 1;
  border: var(--line-2) solid var(--rule);
  border-radius: var(--radius);
  background: var(--board);
  color: var(--line);
  padding: var(--gap-8);
}
button:active {
  background: var(--line);
  color: var(--floor);
}
</style>

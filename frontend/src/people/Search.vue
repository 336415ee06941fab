<script setup lang="ts">
/** Children and classes by any part of their names. */
import { useQuery } from "@tanstack/vue-query";
import { onClickOutside, refDebounced } from "@vueuse/core";
import { computed, ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client } from "../api/client";

const router = useRouter();
const words = ref("");
const asked = refDebounced(words, 200);
const open = ref(false);
const at = ref(0);
const box = ref<HTMLElement | null>(null);
const field = ref<HTMLInputElement | null>(null);
const hits = useQuery({
  queryKey: computed(() => ["search", asked.value]),
  queryFn: () => answer(client.GET("/api/search", { params: { query: { q: asked.value } } })),
  enabled: computed(() => asked.value.trim().length > 1),
});
const found = computed(() =>
  asked.value.trim().length > 1 && hits.data.value
    ? [
        ...hits.data.value.classes.map((one) => ({
          ...one,
          to: { name: "class", params: { classId: one.id } },
        })),
        ...hits.data.value.pupils.map((one) => ({
          ...one,
          to: { name: "pupil", params: { pupilId: one.id } },
        })),
      ]
    : [],
);
onClickOutside(box, () => (open.value = false));
function go(index: number) {
  const one = found.value[index];
  if (!one) return;
  words.value = "";
  open.value = false;
  field.value?.blur();
  void router.push(one.to);
}
function step(by: number) {
  at.value = Math.max(0, Math.min(found.value.length - 1, at.value + by));
}
</script>

<template>
  <div ref="box" class="search">
    <input
      ref="field"
      v-model="words"
      class="field"
      type="search"
      role="combobox"
      aria-label="Find a child or a class"
      aria-controls="search-found"
      :aria-expanded="open && found.length > 0"
      :aria-activedescendant="open && found.length ? `found-${at}` : undefined"
      placeholder="Find a child or a class"
      @focus="open = true"
      @input="((open = true), (at = 0))"
      @keydown.down.prevent="step(1)"
      @keydown.up.prevent="step(-1)"
      @keydown.enter.prevent="go(at)"
      @keydown.esc="((words = ''), (open = false))"
    />
    <ul v-show="open && asked.trim().length > 1" id="search-found" role="listbox" class="board">
      <li
        v-for="(one, index) in found"
        :id="`found-${index}`"
        :key="one.id"
        role="option"
        :aria-selected="index === at"
        @mousedown.prevent="go(index)"
      >
        {{ one.name }} <span class="quiet">{{ one.where }}</span>
      </li>
      <li v-if="hits.isSuccess.value && !found.length" role="option" aria-selected="false">
        Nobody of that name.
      </li>
    </ul>
  </div>
</template>

<style scoped>
.search {
  position: relative;
}
.search .field {
  width: 230px;
}
ul {
  position: absolute;
  right: 0;
  top: calc(100% + 4px);
  z-index: 20;
  width: 320px;
  max-width: 90vw;
  list-style: none;
  padding: 4px;
  max-height: 70vh;
  overflow-y: auto;
}
li {
  padding: 10px 12px;
  min-height: 44px;
  cursor: pointer;
}
li[aria-selected="true"] {
  outline: 2px solid var(--line);
  outline-offset: -2px;
}
</style>

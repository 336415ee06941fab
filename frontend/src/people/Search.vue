<script setup lang="ts">
/** Children and classes by any part of their names, from anywhere. */
import { t } from "../messages/people";
import { useQuery } from "@tanstack/vue-query";
import { refDebounced } from "@vueuse/core";
import { computed, ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client } from "../api/client";
import { vFocus } from "../parts/form/focus";

const emit = defineEmits<{ done: [] }>();
const router = useRouter();
const words = ref("");
const asked = refDebounced(words, 200);
const at = ref(0);
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
function go(index: number) {
  const one = found.value[index];
  if (!one) return;
  emit("done");
  void router.push(one.to);
}
function step(by: number) {
  at.value = Math.max(0, Math.min(found.value.length - 1, at.value + by));
}
</script>

<template>
  <v-dialog :model-value="true" max-width="560" @update:model-value="emit('done')">
    <div class="board search">
      <input
        v-model="words"
        v-focus
        class="field"
        type="search"
        role="combobox"
        :aria-label="t('findAChildOrAClass')"
        aria-controls="search-found"
        :aria-expanded="found.length > 0"
        :aria-activedescendant="found.length ? `found-${at}` : undefined"
        :placeholder="t('findAChildOrAClass')"
        @input="at = 0"
        @keydown.down.prevent="step(1)"
        @keydown.up.prevent="step(-1)"
        @keydown.enter.prevent="go(at)"
        @keydown.esc="emit('done')"
      />
      <ul
        v-show="asked.trim().length > 1"
        id="search-found"
        role="listbox"
        :aria-label="t('found')"
      >
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
          {{ t("noChildOrClassFound") }}
        </li>
      </ul>
    </div>
  </v-dialog>
</template>

<style scoped>
.search .field {
  width: 100%;
}
ul {
  list-style: none;
  padding: var(--gap-4) 0 0;
  max-height: 60vh;
  overflow-y: auto;
}
li {
  padding: var(--gap-8) var(--gap-12);
  min-height: 44px;
  cursor: pointer;
}
li[aria-selected="true"] {
  outline: 2px solid var(--line);
  outline-offset: -2px;
}
</style>

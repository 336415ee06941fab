<script setup lang="ts">
/** What a group, or the whole class, says it will do together. */
import { t } from "../../messages/sheet";
import { ownKeys } from "../../parts/form/focus";
import { useTypedFields } from "../../parts/form/useTypedFields";
import type { Aims } from "../sources/aims";

const props = defineProps<{ aims: Aims }>();
const { page, together } = props.aims;
const nameOf = (group: string) => group || t("theWholeClass");
const { typed, wrong, type, keep } = useTypedFields((group, entry) =>
  together.mutateAsync({ group, typed: entry }),
);
</script>

<template>
  <ul v-if="page" class="together" :aria-label="t('together')">
    <li v-for="one in page.groups" :key="one.group" class="line">
      <label class="line">
        <b>{{ nameOf(one.group) }}</b>
        <span class="quiet">{{ t("nTogether", { n: one.children }) }}</span>
        <b v-if="one.begun" class="figure">{{ one.said ?? "–" }}</b>
        <input
          v-else
          :value="typed[one.group] ?? one.said ?? ''"
          class="field figure"
          inputmode="numeric"
          autocomplete="off"
          :aria-label="t('targetOfGroup', { group: nameOf(one.group) })"
          :aria-invalid="Boolean(wrong[one.group])"
          @input="type(one.group, $event)"
          @keydown.enter.prevent="keep(one.group)"
          @change="keep(one.group)"
          @keydown="ownKeys"
        />
      </label>
      <span v-if="wrong[one.group]" role="alert" class="problem">{{ wrong[one.group] }}</span>
      <span v-else>{{ one.words }}</span>
    </li>
  </ul>
</template>

<style scoped>
.together {
  list-style: none;
  padding: 0;
}
.field {
  width: 110px;
  min-height: var(--control);
}
</style>

<script setup lang="ts">
/** The groups of a class: a name beside each child, kept as it is written. */
import { t } from "../messages/people";
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { computed, reactive, useId } from "vue";
import { answer, client, type Schemas } from "../api/client";
import SettingFoot from "../parts/form/SettingFoot.vue";

const props = defineProps<{ page: Schemas["ClassPage"] }>();
const emit = defineEmits<{ done: [] }>();
const queries = useQueryClient();
const groups = useId();
const group = reactive<Record<string, string>>(
  Object.fromEntries(props.page.pupils.map((one) => [one.id, one.group])),
);
const names = computed(() =>
  [...new Set(Object.values(group).map((one) => one.trim()))].filter(Boolean),
);
const keeping = useMutation({
  mutationFn: () =>
    answer(
      client.PUT("/api/classes/{class_id}/groups", {
        params: { path: { class_id: props.page.id } },
        body: {
          rows: Object.entries(group).map(([pupil_id, name]) => ({ pupil_id, group: name })),
        },
      }),
    ),
  onSuccess: (found) => queries.setQueryData(["class", props.page.id], found),
});
</script>

<template>
  <form class="board fields" @submit.prevent="keeping.mutate()">
    <p class="quiet">
      {{ t("giveChildrenWhoWorkTogetherThe") }}
    </p>
    <datalist :id="groups">
      <option v-for="name in names" :key="name" :value="name" />
    </datalist>
    <ul class="children">
      <li v-for="pupil in page.pupils" :key="pupil.id">
        <span class="who" aria-hidden="true">{{ pupil.name }}</span>
        <v-text-field
          v-model="group[pupil.id]"
          maxlength="40"
          :list="groups"
          :aria-label="pupil.name"
        />
      </li>
    </ul>
    <SettingFoot
      :error="keeping.error.value"
      :pending="keeping.isPending.value"
      :kept="keeping.isSuccess.value"
    >
      <v-btn variant="text" type="button" @click="emit('done')">{{ t("done") }}</v-btn>
    </SettingFoot>
  </form>
</template>

<style scoped src="../parts/form/settings.css"></style>
<style scoped>
.children {
  list-style: none;
  padding: 0;
  columns: 2 320px;
}
.children li {
  break-inside: avoid;
  display: flex;
  align-items: center;
  gap: var(--gap-8);
  padding: var(--gap-4) 0;
}
.who {
  flex: 1;
}
.children .v-input {
  width: 150px;
}
</style>

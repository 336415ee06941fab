<script setup lang="ts">
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/people";
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";

const queries = useQueryClient();
const list = useQuery({
  queryKey: ["classes"],
  queryFn: () => answer(client.GET("/api/classes")),
});
const adding = ref(false);
const form = reactive({ name: "", year_group_id: null as string | null, children: "" });
const problem = ref("");

async function add() {
  problem.value = "";
  if (!form.year_group_id) {
    problem.value = t("chooseTheYearGroup");
    return;
  }
  try {
    const body = { ...form, year_group_id: form.year_group_id };
    await answer(client.POST("/api/classes", { body }));
    Object.assign(form, { name: "", children: "" });
    adding.value = false;
    await queries.invalidateQueries({ queryKey: ["classes"] });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="t('classes')">
      <template v-if="list.data.value?.may_add">
        <v-btn variant="outlined" :to="{ name: 'people-list' }">{{
          t("importChildrenFromAList")
        }}</v-btn>
        <v-btn color="primary" @click="adding = !adding">{{ t("addClass") }}</v-btn>
      </template>
    </PageHead>
    <form v-if="adding && list.data.value" class="board mb-4" @submit.prevent="add">
      <h2>{{ t("newClass") }}</h2>
      <div class="two mt-4">
        <v-text-field v-model="form.name" :label="t('className')" />
        <v-select
          v-model="form.year_group_id"
          :items="list.data.value.year_groups"
          item-title="name"
          item-value="id"
          :label="t('yearGroup')"
        />
      </div>
      <v-textarea
        v-model="form.children"
        class="mt-4"
        rows="8"
        :label="t('childrenOnePerLineGivenFamily')"
      />
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <v-btn type="submit" color="primary" class="mt-4">{{ t("addClass") }}</v-btn>
      <v-btn variant="text" class="mt-4 ml-2" @click="adding = false">{{ t("cancel") }}</v-btn>
    </form>
    <LoadState :query="list">
      <p v-if="!list.data.value?.classes.length" class="board">
        {{ t("thereAreNoClassesYet") }}
        <template v-if="list.data.value?.may_add">{{ t("thereAreNoClassesYetAdd") }}</template>
        <template v-else>{{ t("thereAreNoClassesYetAsk") }}</template>
      </p>
      <ul class="classes">
        <li v-for="row in list.data.value?.classes" :key="row.id">
          <RouterLink :to="{ name: 'class', params: { classId: row.id } }" class="board">
            <span class="figure name">{{ row.name }}</span>
            <span>{{ row.year_group }} · {{ t("nChild", row.children) }}</span>
            <span v-if="row.medical_notes" class="quiet">{{ t("nNote", row.medical_notes) }}</span>
          </RouterLink>
        </li>
      </ul>
    </LoadState>
  </main>
</template>

<style scoped>
.classes {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  gap: var(--gap-12);
}
.classes a {
  display: grid;
  gap: var(--gap-4);
  text-decoration: none;
  color: var(--ink);
  border-left: var(--bar) solid var(--line);
}
.name {
  font-size: var(--type-28);
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--gap-16);
}
</style>

<script setup lang="ts">
import { counted } from "../parts/words";
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
    problem.value = "Choose the year group.";
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
    <div class="head">
      <h1>Classes</h1>
      <div class="line">
        <template v-if="list.data.value?.may_add">
          <v-btn variant="outlined" :to="{ name: 'people-list' }">Children from a list</v-btn>
          <v-btn color="primary" @click="adding = !adding">Add a class</v-btn>
        </template>
      </div>
    </div>
    <hr class="court-line" />
    <form v-if="adding && list.data.value" class="board mb-4" @submit.prevent="add">
      <h2>A new class</h2>
      <div class="two mt-4">
        <v-text-field v-model="form.name" label="Name of the class" />
        <v-select
          v-model="form.year_group_id"
          :items="list.data.value.year_groups"
          item-title="name"
          item-value="id"
          label="Year group"
        />
      </div>
      <v-textarea
        v-model="form.children"
        class="mt-4"
        rows="8"
        label="Children, one a line: Given Family, 2018-05-31 (the birth date may be left out)"
      />
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <v-btn type="submit" color="primary" class="mt-4">Add the class</v-btn>
      <v-btn variant="text" class="mt-4 ml-2" @click="adding = false">Not now</v-btn>
    </form>
    <LoadState :query="list">
      <p v-if="!list.data.value?.classes.length" class="board">
        There are no classes yet.
        <template v-if="list.data.value?.may_add">Add the first one above.</template>
        <template v-else>Ask your head of PE to add yours.</template>
      </p>
      <ul class="classes">
        <li v-for="row in list.data.value?.classes" :key="row.id">
          <RouterLink :to="{ name: 'class', params: { classId: row.id } }" class="board">
            <span class="figure name">{{ row.name }}</span>
            <span>{{ row.year_group }} · {{ counted(row.children, "child", "children") }}</span>
            <span v-if="row.medical_notes" class="quiet">✚ {{ row.medical_notes }} notes</span>
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
  gap: 14px;
}
.classes a {
  display: grid;
  gap: 2px;
  text-decoration: none;
  color: var(--ink);
  border-left: 6px solid var(--line);
}
.name {
  font-size: 1.8rem;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
}
</style>

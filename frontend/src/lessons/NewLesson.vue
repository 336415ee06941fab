<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { answer, client } from "../api/client";
import { useTests } from "../catalogue/useTests";

const route = useRoute();
const router = useRouter();
const classes = useQuery({
  queryKey: ["classes"],
  queryFn: () => answer(client.GET("/api/classes")),
});
const tests = useTests();

/** The next full five minutes, as the form wants it: local, without a zone. */
function soon(): string {
  const at = new Date(Math.ceil(Date.now() / 300_000) * 300_000);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}
const form = reactive({
  class_id: typeof route.query.class === "string" ? route.query.class : null,
  test_id: typeof route.query.test === "string" ? route.query.test : null,
  starts_at: soon(),
  minutes: 45,
  place: "Hall",
});
const problem = ref("");

async function plan() {
  problem.value = "";
  if (!form.class_id || !form.test_id || !form.starts_at) {
    problem.value = "Choose the class, the test and the time.";
    return;
  }
  try {
    const body = {
      ...form,
      class_id: form.class_id,
      test_id: form.test_id,
      minutes: Number(form.minutes),
      starts_at: new Date(form.starts_at).toISOString(),
    };
    const made = await answer(client.POST("/api/lessons", { body }));
    await router.push({ name: "run", params: { lessonId: made.id } });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <main id="main" tabindex="-1" class="page narrow">
    <h1>New lesson</h1>
    <hr class="court-line" />
    <form class="board grid" @submit.prevent="plan">
      <v-autocomplete
        v-model="form.class_id"
        :items="classes.data.value?.classes ?? []"
        item-title="name"
        item-value="id"
        label="Class"
        auto-select-first
      />
      <v-autocomplete
        v-model="form.test_id"
        auto-select-first
        :items="tests.data.value ?? []"
        item-title="name"
        item-value="id"
        label="Test"
      />
      <v-text-field v-model="form.starts_at" type="datetime-local" label="Begins" />
      <v-text-field v-model="form.minutes" type="number" label="Minutes" />
      <v-text-field v-model="form.place" label="Place" />
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <v-btn type="submit" color="primary" size="large">Open the lesson</v-btn>
    </form>
  </main>
</template>

<style scoped>
.grid {
  display: grid;
  gap: 16px;
}
</style>

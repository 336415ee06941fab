<script setup lang="ts">
/** A norm table from a CSV file: looked at before it is kept, every fault by row and column. */
import { reactive, ref } from "vue";
import { answer, ApiError, client, type Schemas } from "../api/client";
import DraftNote from "../parts/form/DraftNote.vue";
import { useDraft } from "../parts/form/useDraft";

const props = defineProps<{ testId: string; unit: string; variant: string }>();
const emit = defineEmits<{ kept: []; leave: [] }>();
const form = reactive({
  text: "",
  unit: props.unit,
  at_points: false,
  name: "",
  source: "",
  population: "",
  year: new Date().getFullYear(),
  standing: "",
  variant: props.variant,
});
const draft = useDraft(form, () => `norm.${props.testId}.${props.variant}`);
const preview = ref<Schemas["NormPreview"] | null>(null);
const problem = ref("");
const busy = ref(false);
const params = { path: { test_id: props.testId } };

async function look() {
  problem.value = "";
  preview.value = null;
  if (!form.text.trim()) return;
  try {
    preview.value = await answer(
      client.POST("/api/tests/{test_id}/norms/preview", { params, body: form }),
    );
  } catch (error) {
    problem.value = (error as ApiError).message;
  }
}
async function choose(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (!file) return;
  form.text = await file.text();
  if (!form.name) form.name = file.name.replace(/\.csv$/i, "");
  await look();
}
async function keep() {
  busy.value = true;
  problem.value = "";
  try {
    await answer(client.POST("/api/tests/{test_id}/norms", { params, body: form }));
    draft.forget();
    emit("kept");
  } catch (error) {
    problem.value = (error as ApiError).message;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form class="board stack import" @submit.prevent="keep">
    <DraftNote :draft="draft" />
    <p>
      A CSV file with the columns <kbd>sex</kbd>, <kbd>age</kbd> and either percentiles such as
      <kbd>P5</kbd> <kbd>P50</kbd> <kbd>P95</kbd>, or <kbd>L</kbd> <kbd>M</kbd> <kbd>S</kbd>. Sex is
      girl, boy, or empty for both; age in years.
    </p>
    <div class="two-columns">
      <label class="labelled">
        The file
        <input type="file" accept=".csv,text/csv,text/plain" class="field file" @change="choose" />
      </label>
      <label class="labelled">
        or paste it
        <textarea v-model="form.text" class="field" rows="3" @change="look" />
      </label>
    </div>
    <div v-if="preview?.faults.length" role="alert">
      <p class="problem">
        {{ preview.faults.length }} {{ preview.faults.length === 1 ? "fault" : "faults" }} in the
        file. Put them right and choose it again; nothing was kept.
      </p>
      <table class="plain faults">
        <thead>
          <tr>
            <th scope="col">Row</th>
            <th scope="col">Column</th>
            <th scope="col">What is wrong</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="fault in preview.faults" :key="`${fault.row}${fault.column}${fault.words}`">
            <td>{{ fault.row }}</td>
            <td>{{ fault.column }}</td>
            <td>{{ fault.words }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <template v-else-if="preview">
      <p role="status">
        {{ preview.form === "lms" ? "An LMS table" : "Percentiles" }},
        {{ preview.rows.length }} rows shown:
      </p>
      <div class="scroll rows">
        <table class="plain">
          <thead>
            <tr>
              <th scope="col">Sex</th>
              <th scope="col">Age</th>
              <th v-for="column in preview.columns" :key="column" scope="col">{{ column }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in preview.rows" :key="`${row.sex}${row.age}`">
              <td>{{ row.sex || "both" }}</td>
              <td>{{ row.age }}</td>
              <td v-for="(cell, place) in row.cells" :key="place">{{ cell }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="line">
        <label class="labelled">
          Unit of the scores <input v-model="form.unit" class="field" size="6" required />
        </label>
        <label class="labelled"> Name <input v-model="form.name" class="field" required /> </label>
        <label class="labelled">
          Source
          <input v-model="form.source" class="field" required placeholder="who published it" />
        </label>
        <label class="labelled">
          Measured on
          <input v-model="form.population" class="field" required placeholder="which children" />
        </label>
        <label class="labelled">
          Year <input v-model.number="form.year" class="field" type="number" required />
        </label>
        <label class="labelled">
          Standing
          <input v-model="form.standing" class="field" placeholder="how far it can be trusted" />
        </label>
        <label class="line">
          <input v-model="form.at_points" type="checkbox" /> ages are points (interpolate between)
        </label>
      </div>
    </template>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <div class="line">
      <v-btn
        type="submit"
        color="primary"
        :disabled="!preview || preview.faults.length > 0"
        :loading="busy"
      >
        Keep the table
      </v-btn>
      <v-btn variant="text" @click="$emit('leave')">Not now</v-btn>
    </div>
  </form>
</template>

<style scoped>
.import {
  border-color: var(--line);
  margin: 8px 0;
}
.file {
  padding: 8px;
}
.rows {
  max-height: 260px;
  overflow: auto;
}
.labelled .field {
  width: 100%;
}
</style>

<script setup lang="ts">
/** A norm table from a CSV file: looked at before it is kept, every fault by row and column. */
import FileField from "../parts/form/FileField.vue";
import { t } from "../messages/catalogue";
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
async function choose(file: File | undefined) {
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
      <i18n-t keypath="catalogue.useACsvFileWithThe" scope="global"
        ><template #key1><kbd>sex</kbd></template
        ><template #key2><kbd>age</kbd></template
        ><template #key3><kbd>P5</kbd></template
        ><template #key4><kbd>P50</kbd></template
        ><template #key5><kbd>P95</kbd></template
        ><template #key6><kbd>L</kbd></template
        ><template #key7><kbd>M</kbd></template
        ><template #key8><kbd>S</kbd></template></i18n-t
      >
    </p>
    <div class="two-columns">
      <FileField accept=".csv,text/csv,text/plain" :label="t('file')" @chosen="choose" />
      <v-textarea v-model="form.text" rows="3" :label="t('orPasteItHere')" @change="look" />
    </div>
    <div v-if="preview?.faults.length" role="alert">
      <p class="problem">
        {{ t("nErrorInTheFileCorrect", preview.faults.length) }}
      </p>
      <v-table class="faults">
        <thead>
          <tr>
            <th scope="col">{{ t("row") }}</th>
            <th scope="col">{{ t("column") }}</th>
            <th scope="col">{{ t("whatIsWrong") }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="fault in preview.faults" :key="`${fault.row}${fault.column}${fault.words}`">
            <td>{{ fault.row }}</td>
            <td>{{ fault.column }}</td>
            <td>{{ fault.words }}</td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <template v-else-if="preview">
      <p role="status">
        {{
          preview.form === "lms"
            ? t("lmsTableNRowsShown", { n: preview.rows.length })
            : t("percentilesNRowsShown", { n: preview.rows.length })
        }}
      </p>
      <div class="scroll rows">
        <v-table>
          <thead>
            <tr>
              <th scope="col">{{ t("sex") }}</th>
              <th scope="col">{{ t("age") }}</th>
              <th v-for="column in preview.columns" :key="column" scope="col" class="number">
                {{ column }}
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in preview.rows" :key="`${row.sex}${row.age}`">
              <td>{{ row.sex || t("both") }}</td>
              <td>{{ row.age }}</td>
              <td v-for="(cell, place) in row.cells" :key="place" class="number">{{ cell }}</td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <div class="line">
        <v-text-field v-model="form.unit" size="6" required :label="t('unitOfTheScores')" />
        <v-text-field v-model="form.name" required :label="t('name')" />
        <v-text-field
          v-model="form.source"
          required
          :placeholder="t('whoPublishedIt')"
          :label="t('source')"
        />
        <v-text-field
          v-model="form.population"
          required
          :placeholder="t('whichChildren')"
          :label="t('measuredOn')"
        />
        <v-text-field v-model.number="form.year" type="number" required :label="t('year')" />
        <v-text-field
          v-model="form.standing"
          :placeholder="t('howFarItCanBeTrusted')"
          :label="t('evidence')"
        />
        <v-checkbox v-model="form.at_points" :label="t('agesAreExactPointsValuesIn')" />
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
        {{ t("saveNorms") }}
      </v-btn>
      <v-btn variant="text" @click="$emit('leave')">{{ t("cancel") }}</v-btn>
    </div>
  </form>
</template>

<style scoped>
.import {
  border-color: var(--line);
  margin: var(--gap-8) 0;
}
.file {
  padding: var(--gap-8);
}
.rows {
  max-height: 260px;
  overflow: auto;
}
</style>

<script setup lang="ts">
/** Children from the office's list: pasted or a file, shown row by row, kept once it is agreed to. */
import { t } from "../messages/people";
import { forget } from "../parts/forget";
import { useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { answer, client } from "../api/client";
import { vFocus } from "../parts/form/focus";
import { useListImport, type Row } from "./useListImport";

const list = useListImport();
const { given, said, found, problem, busy, leavers, open, effect, keeping } = list;
const classes = useQuery({
  queryKey: ["classes"],
  queryFn: () => answer(client.GET("/api/classes")),
});
const STATUS: Record<Row["status"], { mark: string; words: string }> = {
  new: { mark: "+", words: "new" },
  changed: { mark: "≠", words: "changed" },
  moved: { mark: "→", words: "moved" },
  same: { mark: "=", words: "same" },
  ask: { mark: "?", words: t("whoIsThis") },
  cannot: { mark: "✕", words: "cannot" },
  out: { mark: "–", words: t("leftOut") },
};
const ORDER: Row["status"][] = ["ask", "cannot", "new", "moved", "changed", "out", "same"];
/** What wants a look stands first. */
const rows = computed(() =>
  [...(found.value?.rows ?? [])].sort(
    (a, b) => ORDER.indexOf(a.status) - ORDER.indexOf(b.status) || a.row - b.row,
  ),
);
const summary = computed(() => {
  const counts = found.value?.counts ?? {};
  return ORDER.filter((one) => counts[one]).map((one) => `${counts[one]} ${STATUS[one].words}`);
});
const wanted = computed(() =>
  rows.value.filter((row) => row.status === "ask" || said.decisions[row.row]),
);
function whatItDoes(row: Row): string {
  const changes = row.changes.map(
    ({ field, was, now }) => `${field}: ${was || "nothing"} → ${now}`,
  );
  return [...changes, row.why].filter(Boolean).join("; ");
}
function decide(row: Row, decision: string) {
  if (decision) said.decisions[row.row] = decision;
  else forget(said.decisions, row.row);
}
/** Where rows go that name no class: one there is, or "new". */
const makesNew = ref(Boolean(said.new_class));
const whither = computed(() => (makesNew.value ? "new" : (said.class_id ?? "")));
function sendTo(event: Event) {
  const to = (event.target as HTMLSelectElement).value;
  makesNew.value = to === "new";
  said.class_id = to && to !== "new" ? to : null;
  said.new_class = "";
}
// Of another list nothing is said yet.
watch([() => given.text, () => given.data], () => (makesNew.value = false));
function drop(event: DragEvent) {
  void list.choose(event.dataTransfer?.files[0]);
}
</script>

<template>
  <main id="main" tabindex="-1" class="page" @dragover.prevent @drop.prevent="drop">
    <p>
      <RouterLink :to="{ name: 'classes' }">{{ t("classes") }}</RouterLink>
    </p>
    <h1>{{ t("importChildrenFromAList") }}</h1>
    <hr class="court-line" />
    <p v-if="keeping.data.value" role="status" class="board done">
      <i18n-t
        keypath="people.savedNNewChildChangedChanged"
        scope="global"
        :plural="keeping.data.value.new"
        ><template #n>{{ keeping.data.value.new }}</template
        ><template #changed>{{ keeping.data.value.changed }}</template
        ><template #left>{{ keeping.data.value.left }}</template
        ><template #saved
          ><strong>{{ t("saved") }}</strong></template
        ><template #link
          ><RouterLink :to="{ name: 'classes' }">{{ t("goToClasses") }}</RouterLink></template
        ></i18n-t
      >
    </p>
    <div class="give">
      <label class="labelled">
        {{ t("pasteTheCellsWithTheirHeadings") }}
        <textarea
          class="field paste"
          rows="5"
          :value="given.text"
          placeholder="First name	Last name	Date of birth	Class"
          @input="list.paste(($event.target as HTMLTextAreaElement).value)"
        />
      </label>
      <label class="labelled">
        {{ t("orChooseAFileCsvXlsx") }}
        <input
          class="field"
          type="file"
          accept=".csv,.txt,.tsv,.xlsx,.zip"
          @change="list.choose(($event.target as HTMLInputElement).files?.[0])"
        />
        <span v-if="given.file_name" class="quiet">{{ given.file_name }}</span>
      </label>
    </div>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <p v-if="busy && !found && (given.text || given.data)" role="status" class="quiet">
      {{ t("readingTheList") }}
    </p>
    <template v-if="found">
      <section class="board questions" :aria-label="t('whatTheListContains')">
        <label v-if="found.sheets.length > 1" class="labelled">
          {{ t("sheet") }}
          <select v-model="said.sheet" class="field">
            <option v-for="(name, place) in found.sheets" :key="place" :value="place">
              {{ name || t("sheetPlace", { place: place + 1 }) }}
            </option>
          </select>
        </label>
        <div class="columns">
          <label v-for="(column, place) in found.columns" :key="place" class="labelled">
            <span class="head">{{
              found.heads[place] || t("columnPlace", { place: place + 1 })
            }}</span>
            <select
              class="field"
              :value="column"
              :aria-label="
                t('whatColumnContains', {
                  column: found.heads[place] || t('columnPlace', { place: place + 1 }),
                })
              "
              @change="
                list.setColumn(place, ($event.target as HTMLSelectElement).value as typeof column)
              "
            >
              <option v-for="one in found.kinds" :key="one.code" :value="one.code">
                {{ one.words }}
              </option>
            </select>
            <span class="quiet">{{ found.sample[place] }}</span>
          </label>
        </div>
        <label v-if="found.ask_order || said.order" class="labelled">
          {{ t("datesStartWith") }}
          <select v-model="said.order" class="field">
            <option :value="null">{{ t("choose") }}</option>
            <option value="day">{{ t("theDay") }}</option>
            <option value="month">{{ t("theMonth") }}</option>
          </select>
        </label>
        <div v-if="found.ask_class || said.class_id || said.new_class" class="line">
          <label class="labelled">
            {{ t("putRowsWithoutAClassInto") }}
            <select :value="whither" class="field" @change="sendTo">
              <option value="">{{ t("choose") }}</option>
              <option v-for="one in classes.data.value?.classes" :key="one.id" :value="one.id">
                {{ one.name }}
              </option>
              <option value="new">{{ t("aNewClass") }}</option>
            </select>
          </label>
          <label v-if="whither === 'new'" class="labelled">
            {{ t("nameOfTheNewClass") }}
            <input v-model.lazy.trim="said.new_class" v-focus class="field" maxlength="40" />
          </label>
        </div>
        <label v-for="name in found.ask_years" :key="name" class="labelled">
          {{ t("classIsNewItsYearGroup", { class: name }) }}
          <select v-model="said.years[name]" class="field">
            <option v-for="one in classes.data.value?.year_groups" :key="one.id" :value="one.id">
              {{ one.name }}
            </option>
          </select>
        </label>
      </section>
      <section class="sum">
        <p class="figure" data-testid="summary">{{ summary.join(" · ") }}</p>
        <p v-if="found.new_classes.length || found.new_houses.length" class="quiet">
          <template v-if="found.new_classes.length">
            {{ t("newClassesNewclasses", { newClasses: found.new_classes.join(", ") }) }}
          </template>
          <template v-if="found.new_houses.length">
            {{ t("newHousesNewhouses", { newHouses: found.new_houses.join(", ") }) }}
          </template>
        </p>
        <p v-if="found.left_out.length" class="quiet">
          {{ t("nRowHasNoChildEmpty", found.left_out.length) }}
        </p>
        <span class="space" />
        <p v-if="open.length" class="quiet">
          {{ t("firstChooseWhat", { what: open.join("; ") }) }}
        </p>
        <v-btn
          color="primary"
          size="large"
          :loading="keeping.isPending.value"
          :disabled="busy || open.length > 0 || !effect"
          @click="keeping.mutate()"
        >
          {{ t("saveBattery") }}
        </v-btn>
      </section>
      <p v-if="keeping.error.value" role="alert" class="problem">
        {{ keeping.error.value.message }}
      </p>
      <div class="board scroll">
        <table class="plain">
          <thead>
            <tr>
              <th scope="col">{{ t("row") }}</th>
              <th scope="col">{{ t("child") }}</th>
              <th scope="col">{{ t("born") }}</th>
              <th scope="col">{{ t("class") }}</th>
              <th scope="col">{{ t("whatHappens") }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.row" :data-status="row.status">
              <td class="quiet">{{ row.row }}</td>
              <td>{{ row.name }}</td>
              <td>{{ row.born ?? "" }}</td>
              <td>{{ row.class_name }}</td>
              <td>
                <strong class="status">
                  <span aria-hidden="true">{{ STATUS[row.status].mark }}</span>
                  {{ STATUS[row.status].words }}
                </strong>
                {{ whatItDoes(row) }}
                <select
                  v-if="wanted.includes(row)"
                  class="field"
                  :aria-label="t('whoIsChild', { child: row.name })"
                  :value="said.decisions[row.row] ?? ''"
                  @change="decide(row, ($event.target as HTMLSelectElement).value)"
                >
                  <option value="">{{ t("notDecided") }}</option>
                  <option v-for="one in row.maybe" :key="one.id" :value="one.id">
                    {{ t("thisIsChild", { child: one.name }) }}
                  </option>
                  <option value="new">{{ t("aNewChild") }}</option>
                  <option value="out">{{ t("leaveThisRowOut") }}</option>
                </select>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <section v-if="found.leavers.length" class="board">
        <h2>{{ t("noLongerInTheList") }}</h2>
        <p class="quiet">{{ t("tickedChildrenHaveLeftTheyDisappear") }}</p>
        <div class="leavers">
          <label v-for="one in found.leavers" :key="one.id">
            <input v-model="leavers" type="checkbox" :value="one.id" />
            {{ one.name }} <span class="quiet">{{ one.class_name }}</span>
          </label>
        </div>
      </section>
    </template>
  </main>
</template>

<style scoped>
.give {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  align-items: start;
  gap: 18px;
}
.give input[type="file"] {
  width: 100%;
  height: auto;
  padding: 10px;
}
.paste {
  width: 100%;
  font-family: inherit;
}
.questions {
  margin: 14px 0;
  display: grid;
  gap: 12px;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px;
}
.columns .head {
  font-weight: 700;
}
.columns .quiet {
  font-weight: 400;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  display: block;
}
.sum {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 18px;
}
.sum .figure {
  font-size: 1.5rem;
}
.space {
  flex: 1;
}
.status {
  white-space: nowrap;
  margin-right: 8px;
}
.scroll {
  overflow-x: auto;
  margin: 12px 0;
}
.leavers {
  columns: 3 220px;
}
.leavers label {
  display: block;
  min-height: 32px;
}
.done {
  border-left: 6px solid var(--line);
  margin-bottom: 14px;
}
@media (max-width: 700px) {
  .give {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

<script setup lang="ts">
/** Children from the office's list: pasted or a file, shown row by row, kept once it is agreed to. */
import PageHead from "../parts/PageHead.vue";
import FileField from "../parts/form/FileField.vue";
import SettledField from "../parts/form/SettledField.vue";
import { t } from "../messages/people";
import { forget } from "../parts/forget";
import { vFocus } from "../parts/form/focus";
import { useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { answer, client } from "../api/client";
import { useListImport, type Row } from "./useListImport";

const list = useListImport();
const { given, answers, found, problem, busy, leavers, open, effect, keeping } = list;
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
  rows.value.filter((row) => row.status === "ask" || answers.decisions[row.row]),
);
function whatItDoes(row: Row): string {
  const changes = row.changes.map(
    ({ field, was, now }) => `${field}: ${was || "nothing"} → ${now}`,
  );
  return [...changes, row.why].filter(Boolean).join("; ");
}
function decide(row: Row, decision: string) {
  if (decision) answers.decisions[row.row] = decision;
  else forget(answers.decisions, row.row);
}
/** Where rows go that name no class: one there is, or "new". */
const makesNew = ref(Boolean(answers.new_class));
const whither = computed(() => (makesNew.value ? "new" : (answers.class_id ?? "")));
function sendTo(to: string) {
  makesNew.value = to === "new";
  answers.class_id = to && to !== "new" ? to : null;
  answers.new_class = "";
}
// Of another list nothing is said yet.
watch([() => given.text, () => given.data], () => (makesNew.value = false));
function drop(event: DragEvent) {
  void list.choose(event.dataTransfer?.files[0]);
}
</script>

<template>
  <main id="main" tabindex="-1" class="page" @dragover.prevent @drop.prevent="drop">
    <PageHead :title="t('importChildrenFromAList')"
      ><template #trail
        ><RouterLink :to="{ name: 'classes' }">{{ t("classes") }}</RouterLink></template
      ></PageHead
    >
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
      <v-textarea
        class="paste"
        rows="5"
        :model-value="given.text"
        placeholder="First name	Last name	Date of birth	Class"
        :label="t('pasteTheCellsWithTheirHeadings')"
        @input="list.paste(($event.target as HTMLTextAreaElement).value)"
      />
      <FileField
        accept=".csv,.txt,.tsv,.xlsx,.zip"
        :label="t('orChooseAFileCsvXlsx')"
        :name="given.file_name"
        @chosen="list.choose"
      />
    </div>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <p v-if="busy && !found && (given.text || given.data)" role="status" class="quiet">
      {{ t("readingTheList") }}
    </p>
    <template v-if="found">
      <section class="board questions" :aria-label="t('whatTheListContains')">
        <v-select
          v-if="found.sheets.length > 1"
          v-model="answers.sheet"
          :label="t('sheet')"
          :items="
            found.sheets.map((name, place) => ({
              value: place,
              title: name || t('sheetPlace', { place: place + 1 }),
            }))
          "
        />
        <div class="columns">
          <v-select
            v-for="(column, place) in found.columns"
            :key="place"
            :model-value="answers.columns?.[place] ?? column"
            :aria-labelledby="undefined"
            :aria-label="
              t('whatColumnContains', {
                column: found.heads[place] || t('columnPlace', { place: place + 1 }),
              })
            "
            :label="found.heads[place] || t('columnPlace', { place: place + 1 })"
            :items="found.kinds.map((one) => ({ value: one.code, title: one.words }))"
            :hint="found.sample[place]"
            persistent-hint
            @update:model-value="list.setColumn(place, $event as typeof column)"
          />
        </div>
        <v-select
          v-if="found.ask_order || answers.order"
          v-model="answers.order"
          :label="t('datesStartWith')"
          :items="[
            { value: null, title: t('choose') },
            { value: 'day', title: t('theDay') },
            { value: 'month', title: t('theMonth') },
          ]"
        />
        <div v-if="found.ask_class || answers.class_id || answers.new_class" class="line">
          <v-select
            :model-value="whither"
            :label="t('putRowsWithoutAClassInto')"
            :items="[
              { value: '', title: t('choose') },
              ...(classes.data.value?.classes ?? []).map((one) => ({
                value: one.id,
                title: one.name,
              })),
              { value: 'new', title: t('aNewClass') },
            ]"
            @update:model-value="sendTo"
          />
          <SettledField
            v-if="whither === 'new'"
            v-model.trim="answers.new_class"
            v-focus
            maxlength="40"
            :label="t('nameOfTheNewClass')"
          />
        </div>
        <v-select
          v-for="name in found.ask_years"
          :key="name"
          v-model="answers.years[name]"
          :label="t('classIsNewItsYearGroup', { class: name })"
          :items="
            (classes.data.value?.year_groups ?? []).map((one) => ({
              value: one.id,
              title: one.name,
            }))
          "
        />
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
        <v-table>
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
                <v-select
                  v-if="wanted.includes(row)"
                  :aria-label="t('whoIsChild', { child: row.name })"
                  :model-value="answers.decisions[row.row] ?? ''"
                  :items="[
                    { value: '', title: t('notDecided') },
                    ...row.maybe.map((one) => ({
                      value: one.id,
                      title: t('thisIsChild', { child: one.name }),
                    })),
                    { value: 'new', title: t('aNewChild') },
                    { value: 'out', title: t('leaveThisRowOut') },
                  ]"
                  @update:model-value="decide(row, $event)"
                />
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <section v-if="found.leavers.length" class="board">
        <h2>{{ t("noLongerInTheList") }}</h2>
        <p class="quiet">{{ t("tickedChildrenHaveLeftTheyDisappear") }}</p>
        <div class="leavers">
          <v-checkbox
            v-for="one in found.leavers"
            :key="one.id"
            v-model="leavers"
            :value="one.id"
            :label="one.name"
            :hint="one.class_name"
            persistent-hint
          />
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
  gap: var(--gap-16);
}
.paste {
  width: 100%;
  font-family: inherit;
}
.questions {
  margin: var(--gap-12) 0;
  display: grid;
  gap: var(--gap-12);
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: var(--gap-8);
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
  gap: var(--gap-8) var(--gap-16);
}
.sum .figure {
  font-size: var(--type-24);
}
.space {
  flex: 1;
}
.status {
  white-space: nowrap;
  margin-right: var(--gap-8);
}
.scroll {
  overflow-x: auto;
  margin: var(--gap-12) 0;
}
.leavers {
  columns: 3 220px;
}
.done {
  border-left: var(--bar) solid var(--line);
  margin-bottom: var(--gap-12);
}
@media (max-width: 700px) {
  .give {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

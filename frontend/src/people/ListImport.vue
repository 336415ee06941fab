<script setup lang="ts">
/** Children from the office's list: pasted or a file, shown row by row, kept once it is agreed to. */
import { forget } from "../parts/forget";
import { useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { answer, client } from "../api/client";
import { vFocus } from "../parts/form/focus";
import { counted } from "../parts/words";
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
  ask: { mark: "?", words: "who is it?" },
  cannot: { mark: "✕", words: "cannot" },
  out: { mark: "–", words: "left out" },
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
    <p><RouterLink :to="{ name: 'classes' }">Classes</RouterLink></p>
    <h1>Children from a list</h1>
    <hr class="court-line" />
    <p v-if="keeping.data.value" role="status" class="board done">
      <strong>Kept:</strong> {{ counted(keeping.data.value.new, "new child", "new children") }},
      {{ keeping.data.value.changed }} changed, {{ keeping.data.value.left }} left.
      <RouterLink :to="{ name: 'classes' }">To the classes</RouterLink>
    </p>
    <div class="give">
      <label class="labelled">
        Paste the cells, with their heads
        <textarea
          class="field paste"
          rows="5"
          :value="given.text"
          placeholder="First name	Last name	Date of birth	Class"
          @input="list.paste(($event.target as HTMLTextAreaElement).value)"
        />
      </label>
      <label class="labelled">
        or choose a file: CSV, XLSX, a zip of them
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
      Reading the list …
    </p>
    <template v-if="found">
      <section class="board questions" aria-label="What the list says">
        <label v-if="found.sheets.length > 1" class="labelled">
          Sheet
          <select v-model="said.sheet" class="field">
            <option v-for="(name, place) in found.sheets" :key="place" :value="place">
              {{ name || `sheet ${place + 1}` }}
            </option>
          </select>
        </label>
        <div class="columns">
          <label v-for="(column, place) in found.columns" :key="place" class="labelled">
            <span class="head">{{ found.heads[place] || `column ${place + 1}` }}</span>
            <select
              class="field"
              :value="column"
              :aria-label="`What ${found.heads[place] || `column ${place + 1}`} holds`"
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
          In its dates first comes
          <select v-model="said.order" class="field">
            <option :value="null">choose</option>
            <option value="day">the day</option>
            <option value="month">the month</option>
          </select>
        </label>
        <div v-if="found.ask_class || said.class_id || said.new_class" class="line">
          <label class="labelled">
            Rows without a class go to
            <select :value="whither" class="field" @change="sendTo">
              <option value="">choose</option>
              <option v-for="one in classes.data.value?.classes" :key="one.id" :value="one.id">
                {{ one.name }}
              </option>
              <option value="new">a new class</option>
            </select>
          </label>
          <label v-if="whither === 'new'" class="labelled">
            Its name
            <input v-model.lazy.trim="said.new_class" v-focus class="field" maxlength="40" />
          </label>
        </div>
        <label v-for="name in found.ask_years" :key="name" class="labelled">
          {{ name }} is new; its year group is
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
            New classes: {{ found.new_classes.join(", ") }}.
          </template>
          <template v-if="found.new_houses.length">
            New houses: {{ found.new_houses.join(", ") }}.
          </template>
        </p>
        <p v-if="found.left_out.length" class="quiet">
          No children: {{ counted(found.left_out.length, "row") }} (empty, headings, sums, page
          ends).
        </p>
        <span class="space" />
        <p v-if="open.length" class="quiet">Say first {{ open.join("; ") }}.</p>
        <v-btn
          color="primary"
          size="large"
          :loading="keeping.isPending.value"
          :disabled="busy || open.length > 0 || !effect"
          @click="keeping.mutate()"
        >
          Keep it
        </v-btn>
      </section>
      <p v-if="keeping.error.value" role="alert" class="problem">
        {{ keeping.error.value.message }}
      </p>
      <div class="board scroll">
        <table class="plain">
          <thead>
            <tr>
              <th scope="col">Row</th>
              <th scope="col">Child</th>
              <th scope="col">Born</th>
              <th scope="col">Class</th>
              <th scope="col">What it does</th>
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
                  :aria-label="`Who is ${row.name}?`"
                  :value="said.decisions[row.row] ?? ''"
                  @change="decide(row, ($event.target as HTMLSelectElement).value)"
                >
                  <option value="">not decided</option>
                  <option v-for="one in row.maybe" :key="one.id" :value="one.id">
                    it is {{ one.name }}
                  </option>
                  <option value="new">a new child</option>
                  <option value="out">leave the row out</option>
                </select>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <section v-if="found.leavers.length" class="board">
        <h2>No longer in the list</h2>
        <p class="quiet">Whoever is ticked has left: in no list any more; their scores stay.</p>
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

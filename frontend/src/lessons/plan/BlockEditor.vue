<script setup lang="ts">
/** The settings of one block; every kind has its own few. */
import { COUNT_SECONDS, LOADS } from "../../api/vocabulary";
import { computed, reactive, watch } from "vue";
import { type Schemas } from "../../api/client";
import { useTests } from "../../catalogue/useTests";
import BeatsEditor from "./BeatsEditor.vue";
import GroupMaker from "./GroupMaker.vue";

type Entry = Schemas["BlockEntry"];

const props = defineProps<{ entry: Entry }>();
const emit = defineEmits<{ change: [entry: Entry] }>();
const tests = useTests();
const LEVELS = ["Walk", "Jog", "Run", "Sprint"];
const form = reactive<Entry>(JSON.parse(JSON.stringify(props.entry)) as Entry);
let sent = JSON.stringify(form);
watch(
  form,
  () => {
    if (form.kind === "test" && !form.test_id) return;
    const now = JSON.stringify(form);
    if (now === sent) return;
    sent = now;
    emit("change", JSON.parse(now) as Entry);
  },
  { deep: true },
);
type Load = (typeof LOADS)[number];
// A block that is called as its movement is renamed with it.
watch(
  () => props.entry.label,
  (label) => {
    form.label = label;
    sent = JSON.stringify(form);
  },
);
const totals = computed(() => tests.data.value?.filter((one) => one.kind === "total") ?? []);
function load(one: string): Load[] {
  return one ? [one as Load] : [];
}
function listed(text: string): string[] {
  return text
    .split(",")
    .map((name) => name.trim())
    .filter(Boolean);
}
const timed = ["briefing", "stretch", "water", "report", "rep_target", "cool_down", "pulse"];
/** What a test block takes beside the test itself; the protocol's own where nothing is typed. */
const TEST_SECONDS = {
  setup: "Seconds to set up",
  get_ready: "Seconds to get ready",
  pause: "Seconds between goes",
} as const;
function seconds(event: Event): number | null {
  const { value } = event.target as HTMLInputElement;
  return value === "" ? null : Number(value);
}
function chooseTest(id: string | null) {
  form.test_id = id;
  form.label = tests.data.value?.find((one) => one.id === id)?.name ?? "";
  form.activity_id = null;
}
/** How long the test runs that a rep target counts for; null for another block. */
const itsOwn = computed(() => {
  if (form.kind !== "rep_target" || !form.test_id) return null;
  return totals.value.find((one) => one.id === form.test_id)?.seconds ?? null;
});
/** A target runs as long as the test that it counts for. */
function countFor(id: string | null) {
  form.test_id = id;
  if (itsOwn.value !== null) form.seconds = itsOwn.value;
}
function asGame(game: boolean) {
  form.levels = game
    ? []
    : [
        [1, 30],
        [2, 60],
        [3, 30],
        [1, 30],
      ];
  form.seconds = game ? 240 : null;
}
</script>

<template>
  <div class="line fields">
    <v-autocomplete
      auto-select-first
      v-if="form.kind === 'test'"
      :model-value="form.test_id"
      :items="tests.data.value ?? []"
      item-title="name"
      item-value="id"
      label="Test"
      class="wide"
      @update:model-value="chooseTest"
    />
    <label v-else class="labelled">
      Name <input v-model.lazy="form.label" class="field" maxlength="80" />
    </label>
    <label
      v-if="timed.includes(form.kind) || (form.kind === 'warm_up' && !form.levels?.length)"
      class="labelled"
    >
      {{ form.kind === "pulse" ? "Seconds to write down" : "Seconds" }}
      <input
        v-model.lazy.number="form.seconds"
        class="field num"
        type="number"
        min="0"
        max="7200"
        step="15"
        :disabled="itsOwn !== null && itsOwn === form.seconds"
      />
      <span v-if="itsOwn !== null" class="quiet">the time of its test</span>
    </label>
    <template v-if="form.kind === 'test' && form.test_id">
      <label v-for="(words, name) in TEST_SECONDS" :key="name" class="labelled">
        {{ words }}
        <input
          :value="form[name] ?? ''"
          class="field num"
          type="number"
          :min="name === 'setup' ? 0 : 3"
          placeholder="usual"
          @change="form[name] = seconds($event)"
        />
      </label>
      <label class="line">
        <input
          type="checkbox"
          :checked="form.waits !== false"
          @change="form.waits = ($event.target as HTMLInputElement).checked"
        />
        each go waits until you say that all are ready
      </label>
    </template>
    <label v-if="form.kind === 'pulse'" class="line">
      <input v-model="form.waits" type="checkbox" />
      then the clock waits until all are written down
    </label>
    <template v-if="form.kind === 'warm_up'">
      <label class="line">
        <input
          type="checkbox"
          :checked="!form.levels?.length"
          @change="asGame(Boolean(form.levels?.length))"
        />
        a free game
      </label>
      <div v-for="(level, place) in form.levels" :key="place" class="line">
        <select v-model="level[0]" class="field" :aria-label="`Level ${place + 1}`">
          <option v-for="(words, at) in LEVELS" :key="words" :value="at + 1">
            {{ at + 1 }} {{ words }}
          </option>
        </select>
        <input
          v-model.lazy.number="level[1]"
          class="field num"
          type="number"
          min="1"
          :aria-label="`Seconds of level ${place + 1}`"
        />
        <v-btn
          size="small"
          variant="text"
          :aria-label="`Take level ${place + 1} out`"
          @click="form.levels?.splice(place, 1)"
          >×</v-btn
        >
      </div>
      <v-btn v-if="form.levels?.length" variant="outlined" @click="form.levels?.push([2, 30])"
        >Add a level</v-btn
      >
    </template>
    <label v-if="form.kind === 'pulse'" class="labelled">
      Count for
      <select v-model.number="form.count_seconds" class="field">
        <option v-for="n in COUNT_SECONDS" :key="n" :value="n">{{ n }} s</option>
      </select>
    </label>
    <template v-if="form.kind === 'intervals'">
      <div v-for="(one, place) in form.movements" :key="place" class="line">
        <input v-model.lazy="one.name" class="field" :aria-label="`Movement ${place + 1}`" />
        <input
          v-model.lazy="one.efforts"
          class="field"
          placeholder="25/15/25"
          :aria-label="`Work and rest of movement ${place + 1}`"
        />
        <v-btn
          size="small"
          variant="text"
          :aria-label="`Take movement ${place + 1} out`"
          @click="form.movements?.splice(place, 1)"
          >×</v-btn
        >
      </div>
      <v-btn variant="outlined" @click="form.movements?.push({ name: 'squats', efforts: '30/15' })"
        >Add a movement</v-btn
      >
      <span class="quiet">Seconds of work and rest in turn.</span>
    </template>
    <BeatsEditor v-if="form.kind === 'beats'" :model-value="form" :block-id="entry.id ?? null" />
    <template v-if="form.kind === 'rep_target'">
      <v-select
        :model-value="form.test_id"
        :items="totals"
        item-title="name"
        item-value="id"
        label="Counts for"
        clearable
        class="wide"
        @update:model-value="countFor"
      />
      <label class="labelled grow">
        Movements, with commas
        <input
          class="field"
          :value="(form.names ?? []).join(', ')"
          @change="form.names = listed(($event.target as HTMLInputElement).value)"
        />
      </label>
      <label class="labelled">
        Carried in from the warm-up
        <select v-model="form.carries" class="field">
          <option value="">nothing</option>
          <option v-for="name in form.names ?? []" :key="name" :value="name">{{ name }}</option>
        </select>
      </label>
      <label class="line">
        <input v-model="form.apart" type="checkbox" />
        count easier, usual and harder ones apart
      </label>
      <label v-if="form.apart" class="labelled">
        One of each counts
        <input
          v-model.lazy.trim="form.weights"
          class="field"
          maxlength="30"
          placeholder="1/1/1"
          size="8"
        />
      </label>
    </template>
    <template v-if="form.kind === 'stations'">
      <div v-for="(one, place) in form.stations" :key="place" class="line">
        <input v-model.lazy="one.name" class="field" :aria-label="`Station ${place + 1}`" />
        <select
          class="field"
          :aria-label="`What station ${place + 1} loads`"
          :value="one.loads?.[0] ?? ''"
          @change="one.loads = load(($event.target as HTMLSelectElement).value)"
        >
          <option value="">no load</option>
          <option v-for="load in LOADS" :key="load" :value="load">{{ load }}</option>
        </select>
        <label class="line">
          room for
          <input
            v-model.lazy.number="one.room"
            class="field num small"
            type="number"
            min="1"
            max="8"
            :aria-label="`Groups that have room at station ${place + 1}`"
          />
        </label>
        <v-btn
          size="small"
          variant="text"
          :aria-label="`Take station ${place + 1} out`"
          @click="form.stations?.splice(place, 1)"
          >×</v-btn
        >
      </div>
      <v-btn
        variant="outlined"
        @click="form.stations?.push({ name: 'squats', loads: ['legs'], room: 1 })"
        >Add a station</v-btn
      >
      <label class="labelled"
        >Work, s <input v-model.lazy.number="form.work" class="field num" type="number" min="1"
      /></label>
      <label class="labelled"
        >Move on, s
        <input v-model.lazy.number="form.change" class="field num" type="number" min="3"
      /></label>
      <label class="labelled"
        >Rounds <input v-model.lazy.number="form.rounds" class="field num" type="number" min="1"
      /></label>
      <GroupMaker
        :groups="form.groups ?? null"
        :stations="form.stations?.length ?? 4"
        @made="form.groups = $event"
      />
    </template>
    <label v-if="form.kind === 'cool_down'" class="labelled">
      Steps to walk
      <input v-model.lazy.number="form.steps" class="field num" type="number" min="0" />
    </label>
    <label
      v-if="
        ['briefing', 'stretch', 'beats', 'rep_target', 'cool_down', 'report'].includes(form.kind)
      "
      class="labelled grow"
    >
      Say <input v-model.lazy="form.say" class="field" maxlength="120" />
    </label>
  </div>
</template>

<style scoped>
.fields {
  padding: 8px 0 10px;
  align-items: end;
}
.num {
  width: 96px;
}
.num.small {
  width: 64px;
}
.wide {
  min-width: 320px;
}
.grow {
  flex: 1;
  min-width: 200px;
}
.grow .field {
  width: 100%;
}
</style>

<script setup lang="ts">
/** The pulses of a lesson: counted together, then written down. */
import { reactive, ref, watch } from "vue";
import LoadState from "../../parts/LoadState.vue";
import { vFocus } from "../../parts/focus";
import Belts from "../parts/Belts.vue";
import Finder from "../parts/Finder.vue";
import PulseCount from "../parts/PulseCount.vue";
import PulsePlot from "../parts/PulsePlot.vue";
import SheetNotes from "../parts/SheetNotes.vue";
import PulseTable from "./PulseTable.vue";
import { usePulse } from "./usePulse";

const props = defineProps<{
  lessonId: string;
  standIns: boolean;
  check?: number | null;
  called?: boolean;
}>();
const pulsing = usePulse(props.lessonId);
const { query, page, sheet, children, moments, moment, seconds, waited, formula, done } = pulsing;
const { cursor, finder, focus } = pulsing;
const belts = ref(false);
const adding = reactive({ open: false, label: "" });

// The pulse check that the plan has come to.
watch(
  [() => props.check, () => moments.value.length],
  ([check, there]) => {
    if (check != null && check < there) pulsing.choose(check);
  },
  { immediate: true },
);
function add() {
  pulsing.addMoment(adding.label.trim());
  adding.open = false;
  adding.label = "";
}
</script>

<template>
  <LoadState :query="query">
    <section v-if="page" class="stack">
      <div class="board">
        <div class="line">
          <span class="figure sum">{{ done }} / {{ children.length }}</span>
          <label class="line">
            Counted for
            <select v-model.number="seconds" class="field" @change="focus">
              <option v-for="one in page.seconds" :key="one" :value="one">
                {{ one === 60 ? "60 s, or beats a minute" : `${one} s` }}
              </option>
            </select>
          </label>
          <span class="quiet">one beat is {{ 60 / seconds }} a minute</span>
          <label v-if="moment?.moment === 'recovery'" class="line">
            after
            <input v-model.number="waited" class="field num" type="number" min="0" /> s of rest
          </label>
          <PulseCount
            v-if="!called"
            :seconds="seconds"
            @done="pulsing.choose(cursor.column.value)"
          />
          <span class="space" />
          <v-btn variant="text" @click="pulsing.takeBack">Undo</v-btn>
          <v-btn
            v-if="standIns"
            variant="outlined"
            :aria-pressed="belts"
            @click="((belts = !belts), focus())"
          >
            Belts
          </v-btn>
          <v-btn variant="outlined" @click="adding.open = !adding.open">Add a moment</v-btn>
        </div>
        <form v-if="adding.open" class="line mt-2" @submit.prevent="add">
          <label class="line">
            After <input v-model="adding.label" v-focus class="field" placeholder="star jumps" />
          </label>
          <v-btn type="submit" color="primary">Add it</v-btn>
        </form>
        <Belts
          v-if="belts"
          class="mt-2"
          :lesson-id="lessonId"
          :children="children"
          :moment="moment?.moment ?? 'rest'"
          @take="pulsing.takeBelts"
        />
      </div>
      <Finder v-model="finder.letters.value" :matches="finder.matches.value" @pick="pulsing.pick" />
      <SheetNotes :sheet="sheet" in-rows />
      <PulseTable :pulsing="pulsing" :lesson-id="lessonId" />
      <p
        v-if="cursor.rested.value"
        :ref="pulsing.field"
        data-cell
        tabindex="0"
        class="board"
        data-testid="all-in"
        @keydown="pulsing.onKey"
      >
        <strong class="figure">{{ moment ? `${moment.words}: ${done}` : "" }}</strong>
        Nothing is typed here. <kbd>↑</kbd> goes back, a tap to any.
      </p>
      <PulsePlot :columns="moments" :most="page.most" />
      <p class="board care">
        {{ page.caution }}
        <label class="line mt-2">
          Estimated maximum
          <select v-model="formula" class="field">
            <option value="tanaka">208 − 0.7 × age (Tanaka 2001)</option>
            <option value="220">220 − age (common practice)</option>
          </select>
        </label>
      </p>
    </section>
  </LoadState>
</template>

<style scoped>
.sum {
  font-size: 1.7rem;
}
.space {
  flex: 1;
}
.num {
  width: 84px;
}
.care {
  border-left: 6px solid var(--pennant);
}
</style>

<script setup lang="ts">
/** A battery as one grid, by keyboard or with a pad. */
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import LoadState from "../../parts/LoadState.vue";
import { shortDay } from "../../parts/words";
import Asked from "../parts/Asked.vue";
import CellProblem from "../parts/CellProblem.vue";
import KeptWords from "../parts/KeptWords.vue";
import Finder from "../parts/Finder.vue";
import KeysHelp from "../parts/KeysHelp.vue";
import Pad from "../parts/Pad.vue";
import WhyButton from "../../parts/WhyButton.vue";
import SheetNotes from "../parts/SheetNotes.vue";
import VariantBar from "../parts/VariantBar.vue";
import { usePad } from "../usePad";
import GridTable from "./GridTable.vue";
import { useGrid } from "./useGrid";

const props = defineProps<{ lesson: Schemas["LessonPage"] }>();
const battery = useGrid(() => props.lesson);
const { query, grid, sheet, children, tests, variants, test, child, cell, entry } = battery;
const { along, keysShown, cursor, finder, comparedWith, filled, doer, focus } = battery;
const { pad, turnPad } = usePad();
const here = computed(() => child.value?.cells[cursor.column.value] ?? null);
const who = computed(() => (child.value ? doer(cursor.row.value, cursor.column.value) : null));
const question = computed(() => sheet.questions.value.at(-1) ?? null);
</script>

<template>
  <LoadState :query="query">
    <section v-if="grid" class="capture" :class="{ 'with-pad': pad }">
      <div class="stack">
        <div class="line">
          <span class="figure count" data-testid="filled">
            {{ filled }} / {{ children.length * tests.length }}
          </span>
          <span class="line" role="group" aria-label="After a score">
            <button
              v-for="way in [false, true]"
              :key="String(way)"
              type="button"
              class="tag"
              :aria-pressed="along === way"
              @click="((along = way), focus())"
            >
              {{ way ? "along one child" : "down the class" }}
            </button>
          </span>
          <label v-if="grid.sittings.length" class="line">
            Compared with
            <select v-model="comparedWith" class="field">
              <option :value="undefined">the sitting before</option>
              <option v-for="one in grid.sittings" :key="one.id" :value="one.id">
                {{ shortDay(one.on) }}
              </option>
            </select>
          </label>
          <span class="space" />
          <v-btn variant="text" @click="battery.takeBack">Undo</v-btn>
          <v-btn variant="text" :aria-pressed="pad" @click="(turnPad(), focus())"> Pad </v-btn>
          <v-btn variant="text" @click="((keysShown = !keysShown), focus())">
            <kbd>?</kbd>&nbsp;Keys
          </v-btn>
        </div>
        <KeysHelp v-if="keysShown && test" :board="test" />
        <SheetNotes :sheet="sheet" in-rows />
        <Finder
          v-model="finder.letters.value"
          :matches="finder.matches.value"
          @pick="battery.pick"
        />
        <div v-if="test && child" class="board now">
          <p class="line">
            <strong class="figure">{{ test.test }}</strong>
            <span>{{ child.name }}</span>
            <KeptWords v-if="entry.doubt.value !== cell?.refusal?.message" :entry="entry" />
            <span v-if="!entry.typed.value && here?.score" class="quiet">
              {{ [here.rung, here.change].filter(Boolean).join(" · ") }}
              <WhyButton
                v-if="here.score.value !== null && !test.private"
                :attempt-id="here.score.id"
                :label="`${test.test}, ${child.name}`"
              />
            </span>
            <span v-else-if="!entry.typed.value && here?.then" class="quiet"
              >earlier {{ here.then }}</span
            >
          </p>
          <p v-if="entry.problem.value" role="alert" class="problem" data-testid="problem">
            {{ entry.problem.value.message }} {{ entry.problem.value.accepted }}
          </p>
          <div v-else-if="cell?.refusal" role="alert" class="problem" data-testid="problem">
            <CellProblem :sheet="sheet" :cell="cell" @done="cursor.next()" />
          </div>
          <p v-else class="quiet">{{ test.accepted }}</p>
          <VariantBar
            :variants="test.variants"
            :name="child.name"
            :code="who ? variants.of(who) : ''"
            :would-change="(code) => variants.wouldChange(battery.doers.value, code)"
            @choose="(code) => who && variants.choose(who, code)"
            @for-all="(code) => (variants.chooseForAll(battery.doers.value, code), focus())"
          />
        </div>
        <p
          v-else
          :ref="battery.field"
          data-cell
          tabindex="0"
          class="board now"
          data-testid="all-in"
          @keydown="battery.onKey"
        >
          <strong class="figure">
            {{ filled === children.length * tests.length ? "All in" : "The end of the sheet" }}
          </strong>
          Nothing is typed here. <kbd>↑</kbd> goes back, a tap to any cell.
        </p>
        <Asked
          v-if="question"
          class="board"
          :sheet="sheet"
          :question="question"
          :name="sheet.source.name(question.place.pupilId)"
          @correct="battery.goTo(question.place)"
        />
        <GridTable :grid="battery" :pad="pad">
          <template #test="{ test: one }"
            ><slot name="test" :test="one">{{ one.test }}</slot></template
          >
        </GridTable>
      </div>
      <Pad
        v-if="pad && test && child"
        :name="child.name"
        :typed="entry.typed.value"
        :kind="test.kind"
        :of="test.of"
        :try-words="test.test"
        :reasons="test.reasons"
        :variant="test.variants.length > 1 && who ? variants.nameOf(who.at, variants.of(who)) : ''"
        :wave="null"
        :said="entry.problem.value?.message ?? entry.kept.value"
        @press="battery.onPad"
        @type="entry.typed.value = $event"
      />
    </section>
  </LoadState>
</template>

<style scoped src="./capture.css"></style>

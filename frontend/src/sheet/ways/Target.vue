<script setup lang="ts">
/** Choose the movement, type what a child has done of it, see total, rung and the pace needed. */
import type { Schemas } from "../../api/client";
import LoadState from "../../parts/LoadState.vue";
import StateMark from "../../parts/StateMark.vue";
import { clockShown } from "../../parts/clockShown";
import FormsLine from "../parts/FormsLine.vue";
import SheetNotes from "../parts/SheetNotes.vue";
import type { HallClock } from "../types";
import type { Activity } from "../useTest";
import { levelsTyped } from "./total";
import { useTarget } from "./useTarget";

const props = defineProps<{ activity: Activity; clock?: HallClock | null }>();
const target = useTarget(
  () => props.activity,
  () => props.clock ?? null,
);
const { test, query, page, movement, typed, problem, doubted, children, names, carries } = target;
const { left, cursor, rowOf, partsOf, total, idle, focus } = target;
const { apart, called, toCarry, carryIn } = target;
const { canTakeBack } = test.sheet;
/** What a child has done so far, by movement. */
function told(child: Schemas["TargetChild"]): string {
  const { carried, reps } = partsOf(child);
  const done = reps.map((levels, at) => `${levelsTyped(levels)} ${names.value[at] ?? ""}`);
  return [...(carried ? [`${carried} carried in`] : []), ...done].join(", ");
}
const isHere = (index: number) => !cursor.rested.value && index === cursor.row.value;
</script>

<template>
  <LoadState :query="query">
    <section v-if="page && test.board.value" class="stack">
      <div class="board line">
        <span class="figure clock" data-testid="left">{{ clockShown(left) }}</span>
        <v-btn v-if="idle" color="primary" size="x-large" @click="(target.own.start(), focus())">
          Start the clock
        </v-btn>
        <span class="quiet">left</span>
        <div class="line" role="group" aria-label="Movement">
          <button
            v-for="(name, place) in names"
            :key="name"
            type="button"
            class="tag move"
            :aria-pressed="place === movement"
            @click="((movement = place), focus())"
          >
            {{ name }}
          </button>
        </div>
        <span v-if="carries" class="quiet">
          <kbd>c40</kbd> carries 40 {{ carries }} in from the warm-up, once<template
            v-if="called !== null"
            >; {{ called }} were called</template
          >
        </span>
        <v-btn v-if="toCarry.length" size="large" variant="outlined" @click="carryIn">
          Carry in what was counted ({{ toCarry.length }})
        </v-btn>
        <span v-if="apart" class="quiet" data-testid="levels">
          <kbd>20e/10/5h</kbd> easier, usual, harder<template v-if="page.weights !== '1/1/1'"
            >: one counts {{ page.weights }}</template
          >
        </span>
        <FormsLine :test="test" />
        <v-btn size="large" variant="outlined" :disabled="!canTakeBack" @click="target.undo">
          Undo
        </v-btn>
      </div>
      <SheetNotes :sheet="test.sheet" />
      <div class="board scroll">
        <table class="plain middle">
          <thead>
            <tr>
              <th scope="col">Child</th>
              <th scope="col">{{ names[movement] }} since last time</th>
              <th scope="col">Total</th>
              <th scope="col">Rung</th>
              <th scope="col">Still needed</th>
              <th scope="col">At this pace</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(child, index) in children" :id="`target-${index}`" :key="child.pupil_id">
              <th scope="row">
                <button type="button" class="pick" @click="cursor.go(index)">
                  {{ child.name }}
                </button>
              </th>
              <td>
                <input
                  v-if="isHere(index)"
                  :ref="target.field"
                  data-cell
                  v-model="typed"
                  class="field reps"
                  inputmode="text"
                  autocomplete="off"
                  :aria-label="`Reps of ${child.name}`"
                  @keydown="target.onKey"
                />
                <span v-else class="quiet">
                  {{ told(child) }}
                </span>
                <p v-if="isHere(index) && problem" role="alert" class="problem">
                  {{ problem }}
                  <v-btn v-if="doubted" size="small" @click="target.save(true)">
                    <kbd>!</kbd>&nbsp;It is right
                  </v-btn>
                </p>
              </td>
              <td class="figure total">
                {{ total(child) || "–" }}
                <StateMark :state="rowOf(child)?.state ?? 'empty'" />
              </td>
              <td>
                {{ child.rung ?? "–" }}
                <span v-for="words in child.moved_up" :key="words" class="tag up">{{ words }}</span>
              </td>
              <td>
                <template v-if="child.needed">
                  {{ child.needed }} to {{ child.next_rung
                  }}<template v-if="child.a_minute">, {{ child.a_minute }} a minute</template>
                </template>
                <template v-else-if="child.rung">at the top</template>
              </td>
              <td class="figure">{{ child.projected ?? "" }}</td>
            </tr>
          </tbody>
        </table>
        <p
          v-if="cursor.rested.value"
          :ref="target.field"
          data-cell
          tabindex="0"
          class="mt-2"
          @keydown="target.onKey"
        >
          The end of the class. <kbd>↑</kbd> goes back, a tap on a name to anybody.
        </p>
      </div>
    </section>
  </LoadState>
</template>

<style scoped src="./target.css"></style>

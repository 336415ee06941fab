<script setup lang="ts">
/**
 * What every way of taking scores says: that nothing is sent, what was not taken, what is asked, and
 * what the last press did. Rows that show their own problem leave the lists out.
 */
import { computed } from "vue";
import type { Place } from "../types";
import type { Sheet } from "../useSheet";
import Asked from "./Asked.vue";
import CellProblem from "./CellProblem.vue";
import InMessageLine from "./InMessageLine.vue";

const props = defineProps<{ sheet: Sheet; inRows?: boolean }>();
const emit = defineEmits<{ correct: [place: Place]; done: [place: Place] }>();
const refused = computed(() => (props.inRows ? [] : props.sheet.refused.value));
const questions = computed(() => (props.inRows ? [] : props.sheet.questions.value));
const { sync, said, problem } = props.sheet;
</script>

<template>
  <InMessageLine>
    <div class="notes">
      <slot />
      <p v-if="sync.signedOut.value" role="alert" class="board warn">
        You are signed out. What you enter is kept on this device and sent after you sign in.
        <RouterLink :to="{ name: 'sign-in' }">Sign in</RouterLink>
      </p>
      <p v-if="sync.unkept.value" role="alert" class="board warn">
        This device keeps no more: {{ sync.unkept.value }}
        {{ sync.unkept.value === 1 ? "entry is" : "entries are" }} on this screen only. Leave the
        page open until everything is sent, and free some space.
      </p>
      <p v-if="sync.deviceClock.value" role="alert" class="board warn">
        {{ sync.deviceClock.value }}
      </p>
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <div v-if="refused.length" role="alert" class="board warn">
        <div v-for="one in refused" :key="one.job.id" class="line" data-testid="problem">
          <strong>{{ sheet.source.name(one.place.pupilId) }}</strong>
          <CellProblem
            :sheet="sheet"
            :cell="sheet.cell(one.place)"
            @done="emit('done', one.place)"
          />
        </div>
      </div>
      <div v-if="questions.length" class="board" role="group" aria-label="Odd scores">
        <Asked
          v-for="one in questions"
          :key="one.entryId"
          :sheet="sheet"
          :question="one"
          :name="sheet.source.name(one.place.pupilId)"
          @correct="emit('correct', one.place)"
        />
      </div>
      <p class="said quiet" role="status" aria-live="polite" data-testid="said">{{ said }}</p>
    </div>
  </InMessageLine>
</template>

<style scoped>
.notes {
  display: grid;
  gap: 6px;
}
.warn {
  border-color: rgb(var(--v-theme-warning));
}
.said {
  min-height: 1.4em;
}
</style>

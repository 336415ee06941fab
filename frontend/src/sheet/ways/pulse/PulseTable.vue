<script setup lang="ts">
/** Every child's pulses, moment by moment, and what the series says. */
import { t } from "../../../messages/sheet";
import PulseRow from "./PulseRow.vue";
import type { Pulsing } from "./usePulse";

const props = defineProps<{ pulsing: Pulsing; lessonId: string; pad: boolean }>();
const { children, moments, cursor } = props.pulsing;
</script>

<template>
  <div class="board sheet">
    <table class="plain pulses" :style="{ minWidth: `${520 + moments.length * 108}px` }">
      <thead>
        <tr>
          <th scope="col" class="name">{{ t("child") }}</th>
          <th v-for="(one, column) in moments" :key="one.position" scope="col">
            <button
              type="button"
              class="moment"
              :aria-pressed="column === cursor.column.value"
              @click="pulsing.choose(column)"
            >
              {{ one.words }}
            </button>
          </th>
          <th scope="col">{{ t("result") }}</th>
        </tr>
      </thead>
      <tbody>
        <PulseRow
          v-for="(child, row) in children"
          :id="`pulse-${row}`"
          :key="child.pupil_id"
          :pulsing="pulsing"
          :lesson-id="lessonId"
          :child="child"
          :row="row"
          :pad="pad"
        />
      </tbody>
    </table>
  </div>
</template>

<style scoped src="./pulse.css"></style>

<script setup lang="ts">
/** Who does which form of the movement, on the ways that have no row to say it in. */
import { ref } from "vue";
import type { TestSheet } from "../useTest";

const props = defineProps<{ test: TestSheet }>();
const { board, rows, variants, doers } = props.test;
const open = ref(false);
const number = (code: string) => rows.value.filter((one) => one.variant === code).length;
</script>

<template>
  <div v-if="board && board.variants.length > 1" class="no-print">
    <button type="button" class="tag strong turn" :aria-expanded="open" @click="open = !open">
      <template v-for="(one, place) in board.variants" :key="one.code">
        {{ place ? " · " : "" }}{{ one.name }} {{ number(one.code) }}
      </template>
    </button>
    <div v-if="open" class="board">
      <p class="line">
        <b>All without a score:</b>
        <v-btn
          v-for="one in board.variants"
          :key="one.code"
          size="large"
          variant="outlined"
          :disabled="!variants.wouldChange(doers, one.code)"
          @click="variants.chooseForAll(doers, one.code)"
        >
          {{ one.name }}: changes {{ variants.wouldChange(doers, one.code) }}
        </v-btn>
      </p>
      <p class="line">
        <v-btn
          v-for="row in rows"
          :key="row.child.pupil_id"
          size="large"
          variant="text"
          @click="variants.turn(test.doer(row))"
        >
          {{ row.child.name }}: {{ variants.nameOf("", row.variant) }}
        </v-btn>
      </p>
    </div>
  </div>
</template>

<style scoped>
.turn {
  min-height: 44px;
  padding: 0 14px;
  background: var(--board);
}
</style>

<script setup lang="ts">
/** The buttons of the hall's clock: the large one, and those beside it. */
import type { Hall } from "./useHall";

const props = defineProps<{ hall: Hall; large: boolean; filled: boolean; moreShown: boolean }>();
defineEmits<{ fill: []; more: [] }>();
const { primary, live, canPause } = props.hall;
</script>

<template>
  <div class="buttons no-print" @pointerdown.prevent>
    <v-btn v-if="primary" color="primary" :size="large ? 'x-large' : 'large'" @click="primary.act">
      {{ primary.says }}
    </v-btn>
    <v-btn v-if="canPause" size="large" variant="outlined" @click="hall.pause">Pause</v-btn>
    <template v-if="live">
      <v-btn class="seldom" size="large" variant="outlined" @click="hall.back">Back</v-btn>
      <v-btn class="seldom" size="large" variant="outlined" @click="hall.skip">Skip</v-btn>
    </template>
    <v-btn :class="{ seldom: !filled }" size="large" variant="text" @click="$emit('fill')">
      {{ filled ? "Fold" : "Fill" }}
    </v-btn>
    <v-btn size="large" variant="text" :aria-expanded="moreShown" @click="$emit('more')">
      More
    </v-btn>
  </div>
</template>

<style scoped>
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
@media (max-width: 600px) {
  .seldom {
    display: none; /* they stand under "More" too */
  }
}
</style>

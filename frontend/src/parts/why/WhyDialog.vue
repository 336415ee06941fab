<script setup lang="ts">
import Why from "./Why.vue";
import { askedWhy, endWhy } from "./why";
</script>

<template>
  <v-dialog :model-value="true" max-width="900" @update:model-value="endWhy">
    <div class="board" role="dialog" aria-label="Why?">
      <div class="head">
        <h2>Why?</h2>
        <v-btn variant="text" autofocus @click="endWhy">Close</v-btn>
      </div>
      <Why v-if="askedWhy" :key="askedWhy" :attempt-id="askedWhy" />
    </div>
  </v-dialog>
</template>

<script setup lang="ts">
import { t } from "../../messages/parts";
import { vFocus } from "../form/focus";
import Why from "./Why.vue";
import { askedWhy, endWhy } from "./why";
</script>

<template>
  <v-dialog :model-value="true" max-width="900" @update:model-value="endWhy">
    <div class="board" role="dialog" :aria-label="t('why')">
      <div class="head">
        <h2>{{ t("why") }}</h2>
        <v-btn v-focus variant="text" @click="endWhy">{{ t("close") }}</v-btn>
      </div>
      <Why v-if="askedWhy" :key="askedWhy" :attempt-id="askedWhy" />
    </div>
  </v-dialog>
</template>

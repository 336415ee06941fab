<script setup lang="ts">
/** What is unfolded when somebody wants it: its title is always there, the rest is drawn then. */
defineProps<{ board?: boolean }>();
</script>

<template>
  <v-expansion-panels class="fold-out" :class="{ board }" variant="accordion" flat>
    <v-expansion-panel>
      <v-expansion-panel-title>
        <span class="line"><slot name="title" /></span>
      </v-expansion-panel-title>
      <v-expansion-panel-text><slot /></v-expansion-panel-text>
    </v-expansion-panel>
  </v-expansion-panels>
</template>

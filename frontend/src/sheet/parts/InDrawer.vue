<script setup lang="ts">
/** What the hall's drawer shows when it is asked for. */
import { useFrame, type Drawn } from "../frame";
import InZone from "./InZone.vue";

defineProps<{ what: Drawn }>();
const { drawer } = useFrame();
</script>

<template>
  <InZone v-if="drawer === what" name="drawer">
    <slot />
  </InZone>
</template>

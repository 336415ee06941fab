<script setup lang="ts">
/** What stands in a zone of the hall's frame. */
import { computed } from "vue";
import { useFrame, type Zone } from "../frame";

const props = defineProps<{ name: Zone }>();
const { zones } = useFrame();
const to = computed(() => zones[props.name] ?? null);
</script>

<template>
  <Teleport v-if="to" :to="to">
    <slot />
  </Teleport>
</template>

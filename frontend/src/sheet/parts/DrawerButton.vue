<script setup lang="ts">
/** Opens the hall's drawer at something, and closes it again. */
import { useFrame, type Drawn } from "../frame";

const props = defineProps<{ what: Drawn }>();
const { drawer } = useFrame();
function turn() {
  drawer.value = drawer.value === props.what ? null : props.what;
}
</script>

<template>
  <button
    type="button"
    class="tool"
    :aria-expanded="drawer === what"
    @pointerdown.prevent
    @click="turn"
  >
    <slot />
  </button>
</template>

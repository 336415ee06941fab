<script setup lang="ts">
/** The message line of a way that is typed in. */
import { computed } from "vue";
import type { Sheet } from "../useSheet";
import type { Typing } from "../useTyping";
import MessageLine from "./MessageLine.vue";

const props = defineProps<{
  sheet: Sheet;
  typing: Typing;
  where: string;
  /** What an entry would take the place of. */
  instead?: string;
  problem?: string;
  accepted?: string;
}>();
const { hold, entry } = props.typing;
const next = computed(() => props.typing.nextName());
</script>

<template>
  <MessageLine
    typed
    :sheet="sheet"
    :hold="hold"
    :entry="entry"
    :where="where"
    :instead="instead ?? ''"
    :problem="problem ?? ''"
    :accepted="accepted ?? ''"
    :next="next"
    @undo="typing.takeBack"
    @right="typing.right"
    @correct="typing.correct"
    @later="typing.later"
    @here="typing.giveHere"
    @decide="typing.decide"
  >
    <template #acts><slot /></template>
  </MessageLine>
</template>

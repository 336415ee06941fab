<script setup lang="ts">
/** The clock of a test that is timed by itself, as the hall's strip shows it. */
import { t } from "../../messages/sheet";
import { watchEffect } from "vue";
import { useFrame } from "../frame";

const props = defineProps<{
  name: string;
  /** Who is still at it, in words. */
  going: string;
  begun: boolean;
}>();
const frame = useFrame();
watchEffect(() => (frame.begun.value = props.begun));
</script>

<template>
  <div class="own">
    <slot />
    <p class="words">
      <strong class="figure name">{{ name }}</strong>
      <span class="quiet" data-testid="going">{{ begun ? going : t("notStarted") }}</span>
    </p>
  </div>
</template>

<style scoped>
.own {
  display: flex;
  align-items: center;
  gap: var(--gap-16);
  min-width: 0;
  height: 100%;
}
.words {
  display: grid;
  min-width: 0;
  margin: 0;
  line-height: 1.1;
}
.name,
.words span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name {
  font-size: var(--type-28);
}
@media (max-width: 600px) {
  .own {
    display: grid;
    grid-template-rows: 42px 1fr;
    gap: var(--gap-4);
    align-items: center;
  }
  .words {
    display: flex;
    gap: var(--gap-8);
    align-self: start;
    font-size: var(--type-14);
  }
  .name {
    font-size: var(--type-16);
  }
}
</style>

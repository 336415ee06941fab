<script setup lang="ts">
/** The lesson's blocks in their order: what is on, what is shown, how far scores are in. */
import { t } from "../../messages/lessons";
import { nextTick, useTemplateRef, watch } from "vue";
import type { Schemas } from "../../api/client";
import { takesScores, type Hall, type Stop } from "./useHall";

const props = defineProps<{
  hall: Hall;
  tests: Schemas["TestWaits"][];
  /** One under the other, in the drawer of a phone. */
  down?: boolean;
}>();
const { stops, stopOn, isOn, shown, chosen, live, show } = props.hall;
// Before, now and next are in view, however many blocks there are.
const rail = useTemplateRef<HTMLElement>("rail");
watch(
  () => shown.value?.id,
  async () => {
    await nextTick();
    rail.value
      ?.querySelector("[aria-pressed=true]")
      ?.scrollIntoView({ inline: "center", block: "nearest" });
  },
  { immediate: true },
);
function recorded(stop: Stop): string {
  const one = props.tests.find((test) => test.activity_id === stop.activity?.id);
  return one ? `${one.recorded}/${one.recorded + one.missing}` : "";
}
</script>

<template>
  <nav ref="rail" class="rail no-print" :class="{ down }" :aria-label="t('blocks')">
    <button
      v-for="stop in stops"
      :key="stop.id"
      type="button"
      class="stop"
      :class="{ on: isOn(stop), scores: takesScores(stop) }"
      :aria-pressed="stop.id === shown?.id"
      @pointerdown.prevent
      @click="show(stop)"
    >
      <span>{{ stop.label }}</span>
      <b v-if="isOn(stop)" class="mark">{{ t("now") }}</b>
      <span v-else-if="recorded(stop)" class="figure in">{{ recorded(stop) }}</span>
    </button>
    <button
      v-if="live && chosen && !isOn(chosen)"
      type="button"
      class="stop follow"
      @click="show(stopOn)"
    >
      {{ t("backToTheCurrentBlockBlock", { block: stopOn?.label }) }}
    </button>
  </nav>
</template>

<style scoped>
.rail {
  flex: 1;
  display: flex;
  gap: var(--gap-4);
  min-width: 0;
  overflow-x: auto;
}
.rail.down {
  flex: none;
  flex-direction: column;
  overflow: visible;
}
.down .stop {
  max-width: none;
}
.stop {
  flex: none;
  display: flex;
  align-items: center;
  gap: var(--gap-8);
  min-height: 46px;
  max-width: 15em;
  padding: var(--gap-4) var(--gap-12);
  border: var(--line-2) solid var(--rule);
  border-bottom-width: var(--line-3);
  border-radius: var(--radius);
  background: var(--board);
  text-align: left;
  line-height: 1.1;
}
.stop.scores {
  border-bottom-color: var(--line);
}
.stop[aria-pressed="true"] {
  border-color: var(--line);
  font-weight: 700;
  box-shadow: inset 0 0 0 1px var(--line);
}
.mark {
  background: var(--line);
  color: rgb(var(--v-theme-on-primary));
  padding: var(--gap-4) var(--gap-8);
  border-radius: var(--radius);
}
.in {
  color: var(--chalk);
  font-size: var(--type-18);
}
/* However many blocks there are, the way back is in view. */
.follow {
  position: sticky;
  right: 0;
  border-style: dashed;
  border-color: var(--pennant);
  font-weight: 700;
  max-width: none;
}
</style>

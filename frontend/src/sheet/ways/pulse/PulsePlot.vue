<script setup lang="ts">
/** The class's middle pulse, moment by moment: bars of chalk, with the number on each. */
import { t } from "../../../messages/sheet";
import { computed } from "vue";
import type { Schemas } from "../../../api/client";

const props = defineProps<{ columns: Schemas["PulseColumn"][]; most: string | null }>();
const taken = computed(() => props.columns.filter((one) => one.median !== null));
const top = computed(() => Math.max(120, ...taken.value.map((one) => one.median ?? 0)));
</script>

<template>
  <figure v-if="taken.length" class="board plot">
    <figcaption>{{ most ?? t("theClassMedianInBeatsPer") }}</figcaption>
    <div class="bars">
      <div v-for="one in taken" :key="one.position" class="bar">
        <span class="figure value">{{ one.median }}</span>
        <span class="fill" :style="{ height: `${((one.median ?? 0) / top) * 96}px` }" />
        <span class="label"
          >{{ one.words }} <span class="quiet">({{ one.n }})</span></span
        >
      </div>
    </div>
  </figure>
</template>

<style scoped>
.bars {
  display: flex;
  gap: var(--gap-24);
  align-items: end;
  border-bottom: 0;
}
.bar {
  flex: 1;
  max-width: 180px;
  display: grid;
  justify-items: center;
  align-content: end;
}
.fill {
  width: 62%;
  border: var(--line-3) solid var(--line);
  border-bottom-width: var(--bar);
  background: repeating-linear-gradient(
    45deg,
    transparent 0 5px,
    rgba(var(--v-theme-chalk), 0.35) 5px 6.5px
  );
}
.value {
  font-size: var(--type-24);
}
.label {
  text-align: center;
  font-size: var(--type-14);
  line-height: 1.15;
  margin-top: var(--gap-4);
}
figcaption {
  font-weight: 700;
  margin-bottom: var(--gap-4);
}
</style>

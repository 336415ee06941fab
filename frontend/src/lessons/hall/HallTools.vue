<script setup lang="ts">
/** Under the message line: what the way puts there, the other ways, and what the drawer holds. */
import { t } from "../../messages/lessons";
import { useTemplateRef, watch } from "vue";
import DrawerButton from "../../sheet/parts/DrawerButton.vue";
import { takesScores, type Hall } from "./useHall";

const props = defineProps<{ hall: Hall; notes: number; kept: number; stale: boolean }>();
const emit = defineEmits<{
  tools: [zone: HTMLElement | null];
  settings: [zone: HTMLElement | null];
}>();
const { shown, ways, way } = props.hall;
const tools = useTemplateRef<HTMLElement>("tools");
const settings = useTemplateRef<HTMLElement>("settings");
watch(tools, (zone) => emit("tools", zone));
watch(settings, (zone) => emit("settings", zone));
</script>

<template>
  <div class="tools hall-tools no-print">
    <div class="row">
      <div ref="tools" class="zone" />
      <nav v-if="ways.length > 1" class="ways" :aria-label="t('waysToTakeScores')">
        <button
          v-for="one in ways"
          :key="one.name"
          type="button"
          class="tool"
          :aria-pressed="one.name === way?.name"
          @click="hall.chooseWay(one.name)"
        >
          {{ one.label }}
        </button>
      </nav>
      <RouterLink
        v-if="shown?.kind === 'stations'"
        class="tool"
        :to="{ name: 'stations', params: { block: shown.block ?? 0 } }"
      >
        {{ t("whoIsWhere") }}
      </RouterLink>
      <DrawerButton v-if="takesScores(shown)" what="brief">
        <i18n-t keypath="lessons.notesKeptHowItIsDone" scope="global"
          ><template #notes
            ><span v-if="notes">✚ {{ notes }}</span></template
          ><template #kept
            ><span v-if="kept">⊘ {{ kept }}</span></template
          ></i18n-t
        >
      </DrawerButton>
      <DrawerButton v-if="stale" what="more">{{ t("thePlanHasChanged") }}</DrawerButton>
    </div>
    <div ref="settings" class="settings" />
  </div>
</template>

<style scoped>
.tools {
  grid-area: tools;
  min-width: 0;
}
.row,
.zone,
.settings,
.ways {
  display: flex;
  align-items: center;
  gap: var(--gap-8);
}
.row {
  height: 48px;
  overflow-x: auto;
}
.zone {
  flex: 1 0 auto;
  white-space: nowrap;
}
.ways {
  flex: none;
}
.settings {
  overflow-x: auto;
  white-space: nowrap;
}
.settings:not(:empty) {
  height: 48px;
}
@media (max-width: 600px), (max-height: 500px) {
  /* One line that is pushed along: every zone keeps its height. */
  .tools {
    display: flex;
    gap: var(--gap-8);
    height: 48px;
    overflow-x: auto;
  }
  .row,
  .settings {
    flex: none;
    overflow: visible;
  }
}
</style>

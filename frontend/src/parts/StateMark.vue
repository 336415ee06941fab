<script setup lang="ts">
import { t } from "../messages/parts";
/** Where an entry stands, told by shape: saved ■, saving ◐, not yet sent ◁, wants a look ◇. */
const props = defineProps<{ state: "empty" | "saved" | "saving" | "waiting" | "refused" }>();
const WORDS = {
  empty: "",
  saved: t("savedMark"),
  saving: t("saving"),
  waiting: t("notSentYet"),
  refused: t("notAccepted"),
};
</script>

<template>
  <span class="mark" :title="WORDS[props.state]" :data-state="props.state">
    <svg v-if="props.state !== 'empty'" viewBox="0 0 20 20" width="20" height="20" role="img">
      <title>{{ WORDS[props.state] }}</title>
      <path v-if="props.state === 'saved'" d="M3 3h14v14H3z" class="solid" />
      <g v-else-if="props.state === 'saving'">
        <circle cx="10" cy="10" r="7" class="hollow" />
        <path d="M10 3a7 7 0 0 1 0 14z" class="solid" />
      </g>
      <path v-else-if="props.state === 'waiting'" d="M16 3v14L3 10z" class="hollow" />
      <path v-else d="M10 1l9 9-9 9-9-9zM10 6v5M10 13v1.5" class="hollow alert" />
    </svg>
  </span>
</template>

<style scoped>
.mark {
  display: inline-flex;
  width: 20px;
  height: 20px;
}
.solid {
  fill: var(--line);
}
.hollow {
  fill: none;
  stroke: rgb(var(--v-theme-warning));
  stroke-width: 2.2;
}
.alert {
  stroke: rgb(var(--v-theme-error));
}
</style>

<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** The blocks in their order: opened, moved by pointer or key, taken out. */
import { t } from "../../messages/lessons";
import { ref } from "vue";
import { minutes } from "../../parts/time/minutes";
import BlockEditor from "./BlockEditor.vue";
import type { Plan } from "./usePlan";

const props = defineProps<{ plan: Plan }>();
const { draft, rows, open, move, remove, replace } = props.plan;
const dragged = ref<number | null>(null);

function onRowKey(event: KeyboardEvent, index: number) {
  if (!event.altKey) return;
  const to = { ArrowUp: index - 1, ArrowDown: index + 1 }[event.key];
  if (to === undefined) return;
  event.preventDefault();
  move(index, to);
}
</script>

<template>
  <ol class="blocks">
    <li
      v-for="(block, index) in draft"
      :key="index"
      class="board block"
      :class="{ open: open === index, dragged: dragged === index }"
      draggable="true"
      @dragstart="dragged = index"
      @dragend="dragged = null"
      @dragover.prevent
      @drop.prevent="dragged !== null && move(dragged, index)"
      @keydown="onRowKey($event, index)"
    >
      <span class="at figure">{{ minutes(rows[index]?.start ?? 0) }}</span>
      <button
        type="button"
        class="title"
        :aria-expanded="open === index"
        :disabled="!!block.closed"
        @click="open = open === index ? null : index"
      >
        <strong class="figure">{{
          block.label || rows[index]?.block?.entry.label || t("chooseATest")
        }}</strong>
        <span v-if="block.closed" class="tag">{{ t("private") }}</span>
        <span class="quiet">{{ rows[index]?.block?.why }}</span>
      </button>
      <span class="length figure">{{ minutes(rows[index]?.block?.seconds ?? 0) }}</span>
      <span class="acts no-print">
        <v-btn
          size="small"
          variant="text"
          :aria-label="t('moveWhatUp', { what: block.label })"
          :disabled="index === 0"
          @click="move(index, index - 1)"
          >↑</v-btn
        >
        <v-btn
          size="small"
          variant="text"
          :aria-label="t('moveWhatDown', { what: block.label })"
          :disabled="index === draft.length - 1"
          @click="move(index, index + 1)"
          >↓</v-btn
        >
        <v-btn
          :icon="mdiClose"
          variant="text"
          :aria-label="t('removeTest', { test: block.label })"
          :disabled="!!block.closed"
          @click="remove(index)"
        />
      </span>
      <p v-if="block.closed" class="quiet closed">
        {{ t("onlyForStaffWhoMaySee") }}
      </p>
      <p v-for="one in rows[index]?.warnings" :key="one.words" class="warning">? {{ one.words }}</p>
      <p v-if="block.kind === 'stations' && open !== index" class="warning plain no-print">
        <RouterLink :to="{ name: 'stations', params: { block: index } }">
          {{ t("groupsRoundsAndCards") }}
        </RouterLink>
      </p>
      <BlockEditor
        v-if="open === index"
        class="editor no-print"
        :entry="block"
        @change="replace(index, { ...$event, id: block.id })"
      />
    </li>
  </ol>
</template>

<style scoped>
.blocks {
  list-style: none;
  padding: 0;
  display: grid;
  gap: var(--gap-8);
  margin-bottom: var(--gap-12);
}
.block {
  display: grid;
  grid-template-columns: 70px 1fr 70px auto;
  align-items: center;
  gap: 0 var(--gap-12);
  padding: var(--gap-4) var(--gap-12);
}
.block.open {
  border-color: var(--line);
}
.block.dragged {
  opacity: 0.5;
}
.at {
  color: var(--chalk);
  font-size: var(--type-18);
}
.title {
  text-align: left;
  min-height: 48px;
  color: inherit;
}
.title:disabled {
  opacity: 1;
}
.title .tag {
  margin-right: var(--gap-8);
}
.closed {
  grid-column: 2 / -1;
}
.title strong {
  font-size: var(--type-24);
  margin-right: var(--gap-8);
}
.length {
  font-size: var(--type-24);
  text-align: right;
}
.acts {
  white-space: nowrap;
}
.acts .v-btn {
  min-width: var(--control);
}
.warning {
  grid-column: 2 / -1;
  color: rgb(var(--v-theme-warning));
  font-weight: 700;
}
.warning.plain {
  font-weight: 400;
}
.editor {
  grid-column: 1 / -1;
}
@media (max-width: 600px) {
  .block {
    grid-template-columns: 52px 1fr 60px;
  }
  .acts {
    grid-column: 2 / -1;
  }
}
@media print {
  .blocks {
    gap: 0;
    margin: 0;
  }
  .block {
    padding: var(--gap-4) 0;
    border-width: 0 0 var(--line-2);
    border-radius: 0;
    break-inside: avoid;
  }
  .at,
  .title strong,
  .length {
    font-size: var(--type-14);
  }
  .title {
    min-height: 0;
  }
}
</style>

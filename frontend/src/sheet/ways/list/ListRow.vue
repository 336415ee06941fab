<script setup lang="ts">
/** One child of the list: its tries, its lane, what the score means, and what is wrong or odd. */
import { t } from "../../../messages/sheet";
import { computed } from "vue";
import type { Schemas } from "../../../api/client";
import Lane from "../../../parts/Lane.vue";
import WhyButton from "../../../parts/why/WhyButton.vue";
import StateMark from "../../../parts/StateMark.vue";
import { openFlags } from "../../sources/lanes";
import { unitOf } from "../../parts/unit";
import { LITERAL } from "../../useEntry";
import type { Row } from "../../useTest";
import type { List } from "./useList";

const props = defineProps<{
  list: List;
  row: Row;
  index: number;
  pad: boolean;
  /** What the child said before, and how it went. */
  aim: Schemas["AimRow"] | null;
}>();
defineEmits<{ measure: [] }>();
const { test, cursor, entry } = props.list;
const { board, many } = test;
const child = computed(() => props.row.child);
const active = computed(() => !cursor.rested.value && cursor.row.value === props.index);
const variant = computed(() => board.value?.variants.find((one) => one.code === props.row.variant));
const open = computed(() => props.list.isOpen(props.row));
/** How the entry will be kept, beside it too. */
const kept = computed(() => entry.kept.value || entry.doubt.value);
/** A child's own measure, which can be measured. */
const informal = computed(() => unitOf(child.value.score?.typed ?? ""));
</script>

<template>
  <li
    class="child"
    :class="{ active, tries: many, open }"
    @click="list.press(index, active ? cursor.column.value : 0, $event)"
  >
    <span class="number figure">{{ child.number }}</span>
    <span class="name">
      <strong v-if="active">{{ child.name }}</strong>
      <button v-else type="button" tabindex="-1" @click.stop="cursor.go(index)">
        {{ child.name }}
      </button>
      <span v-if="child.medical_note" class="note" :title="child.medical_note">
        ✚<span class="sr-only">{{ t("medicalNoteNote", { note: child.medical_note }) }}</span>
      </span>
      <span v-if="child.care && !child.care.allowed" class="note" :title="child.care.words">
        ⊘<span class="sr-only">{{ child.care.words }}</span>
      </span>
    </span>
    <span
      class="wave quiet"
      :class="{ none: (board?.waves ?? 1) < 2 }"
      :title="t('waveWave2', { wave: row.wave })"
    >
      <span class="sr-only">{{ t("wave") }} </span>{{ row.wave }}
    </span>
    <span
      class="variant"
      :class="{ other: row.variant !== child.variant, none: !variant }"
      :title="test.variants.titleOf('', row.variant, child.variant)"
    >
      {{ variant?.key.toUpperCase() }}
    </span>
    <span class="score figure" :class="{ wide: many }">
      <template v-for="(cell, place) in row.cells" :key="place">
        <input
          v-if="active && place === cursor.column.value"
          :ref="list.field"
          v-model="entry.typed.value"
          data-cell
          :inputmode="pad ? 'none' : 'text'"
          v-bind="LITERAL"
          :aria-label="
            many
              ? t('tryNOfChild', { n: place + 1, child: child.name })
              : t('scoreOfName', { name: child.name })
          "
          :aria-invalid="entry.problem.value !== null"
          :placeholder="cell.shown || '–'"
          @keydown="list.onKey"
        />
        <button
          v-else-if="many"
          type="button"
          class="try"
          tabindex="-1"
          :title="t('tryN2', { n: place + 1 })"
          @click.stop="cursor.go(index, place)"
        >
          {{ cell.shown || "–" }}
        </button>
        <template v-else>{{ row.shown || "–" }}</template>
      </template>
    </span>
    <StateMark :state="row.state" />
    <Lane
      class="lane-cell"
      :lane="child.lane"
      :label="
        t('laneOfChildWords', {
          child: child.name,
          words: child.words.join(', ') || t('noScoreToday'),
        })
      "
    />
    <span class="words">
      <b v-if="active && kept" class="kept" aria-hidden="true">{{ kept }}</b>
      <template v-else>
        <span v-if="many && child.score?.value != null" class="lead">
          {{ board?.merge }} {{ row.shown }} ·
        </span>
        <template v-for="(words, place) in child.words" :key="place">
          <span v-if="place" class="dot"> · </span>
          <span :class="{ lead: place === 0 }">{{ words }}</span>
        </template>
        <span v-if="aim?.said" class="said-before" data-testid="aim">
          <i18n-t keypath="sheet.spanTargetSaidResult" scope="global"
            ><template #said>{{ aim.said }}</template
            ><template #result>{{ aim.words ? `: ${aim.words}` : "" }}</template
            ><template #span
              ><span v-if="child.words.length" class="dot"> · </span></template
            ></i18n-t
          >
        </span>
        <span v-else-if="child.target" class="quiet">
          {{ t("suggestedTargetTarget", { target: child.target }) }}</span
        >
        <WhyButton
          v-if="child.score && child.score.value !== null"
          :attempt-id="child.score.id"
          :label="child.name"
          tabindex="-1"
        />
        <button
          v-if="informal"
          type="button"
          class="unit"
          tabindex="-1"
          @click.stop="$emit('measure')"
        >
          {{ t("measureTheUnit", { unit: informal }) }}
        </button>
        <span v-for="flag in openFlags(child)" :key="flag.code">
          <span class="dot"> · </span><span class="flag">? {{ flag.words }}</span>
        </span>
      </template>
    </span>
  </li>
</template>

<style scoped src="./list.css"></style>

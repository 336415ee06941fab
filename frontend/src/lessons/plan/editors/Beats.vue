<script setup lang="ts">
/** What is called to a beat: by a metre, or at the times of a list, typed, tapped or read. */
import FileField from "../../../parts/form/FileField.vue";
import SettledField from "../../../parts/form/SettledField.vue";
import { t } from "../../../messages/lessons";
import { useAsyncState } from "@vueuse/core";
import { computed, ref } from "vue";
import type { EntryOf } from "../blocks";
import { useTests } from "../../../catalogue/useTests";
import { forgetSound, keepSound, soundOf } from "../../../parts/sound/music";
import TapAlong from "../TapAlong.vue";

const form = defineModel<EntryOf<"beats">>({ required: true });
const props = defineProps<{ blockId: string | null }>();
const tests = useTests();
const counted = computed(() => tests.data.value?.filter((one) => one.called) ?? []);
const byList = ref(Boolean(form.value.times));
const problem = ref("");
const sound = useAsyncState(
  async () => (props.blockId ? ((await soundOf(props.blockId)) ?? null) : null),
  null,
);
const LONGEST = 20_000;
const BEAT = { bpm: t("beatsPerMinute"), every: t("oneEveryBeats"), calls: t("howMany") } as const;

function choose(list: boolean) {
  byList.value = list;
  if (!list) form.value.times = null;
}
async function readText(file: File | undefined) {
  if (!file) return;
  const text = await file.text();
  problem.value = text.length > LONGEST ? t("fileIsTooLongAList", { file: file.name }) : "";
  if (!problem.value) form.value.times = text;
}
async function takeSound(file: File | undefined) {
  if (!file || !props.blockId) return;
  problem.value = "";
  try {
    const { seconds } = await keepSound(props.blockId, file);
    form.value.seconds = Math.ceil(seconds);
    await sound.execute();
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
async function dropSound() {
  if (!props.blockId) return;
  await forgetSound(props.blockId);
  form.value.seconds = null;
  await sound.execute();
}
</script>

<template>
  <SettledField v-model.trim="form.movement" maxlength="40" :label="t('movement')" />
  <div class="line" role="group" :aria-label="t('called')">
    <v-btn variant="outlined" size="small" :aria-pressed="!byList" @click="choose(false)">
      {{ t("toABeat") }}
    </v-btn>
    <v-btn variant="outlined" size="small" :aria-pressed="byList" @click="choose(true)">
      {{ t("atTheTimesInAList") }}
    </v-btn>
  </div>
  <template v-if="!byList">
    <SettledField
      v-for="(words, name) in BEAT"
      :key="name"
      v-model.number="form[name]"
      class="num"
      type="number"
      min="1"
      max="600"
      :label="words"
    />
  </template>
  <div v-else class="list">
    <SettledField
      v-model="form.times"
      class="times"
      rows="6"
      :maxlength="LONGEST"
      :placeholder="t('n2040104')"
      :label="t('timesFromTheStartOnePer')"
    />
    <div class="stack">
      <FileField accept=".txt,.csv,text/plain" :label="t('orOpenATextFile')" @chosen="readText" />
      <TapAlong :sound="sound.state.value" @tapped="form.times = $event" />
    </div>
  </div>
  <v-select
    v-model="form.test_id"
    :items="counted"
    item-title="name"
    item-value="id"
    :label="t('saveEachChildsCountAs')"
    clearable
    class="wide"
  />
  <div class="labelled sound">
    {{ t("yourOwnSoundFileStaysOn") }}
    <div v-if="sound.state.value" class="line">
      <strong>{{ sound.state.value.name }}</strong>
      <v-btn size="small" variant="text" @click="dropSound">{{ t("removeSound") }}</v-btn>
    </div>
    <FileField v-else-if="blockId" accept="audio/*" :label="t('soundFile')" @chosen="takeSound" />
    <span v-else class="quiet">{{ t("youCanAddASoundFile") }}</span>
  </div>
  <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
</template>

<style scoped>
.num {
  width: 96px;
}
.v-btn[aria-pressed="true"] {
  background: var(--line);
  color: rgb(var(--v-theme-on-primary));
}
.list {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-12);
}
.times {
  width: 15em;
  height: auto;
  font-variant-numeric: tabular-nums;
}
.wide {
  min-width: 320px;
}
</style>

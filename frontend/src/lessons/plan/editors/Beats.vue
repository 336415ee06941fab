<script setup lang="ts">
/** What is called to a beat: by a metre, or at the times of a list, typed, tapped or read. */
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
async function readText(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (!file) return;
  const text = await file.text();
  problem.value = text.length > LONGEST ? t("fileIsTooLongAList", { file: file.name }) : "";
  if (!problem.value) form.value.times = text;
}
async function takeSound(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0];
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
  <label class="labelled">
    {{ t("movement") }} <input v-model.lazy.trim="form.movement" class="field" maxlength="40" />
  </label>
  <div class="line" role="group" :aria-label="t('called')">
    <button type="button" class="tag" :aria-pressed="!byList" @click="choose(false)">
      {{ t("toABeat") }}
    </button>
    <button type="button" class="tag" :aria-pressed="byList" @click="choose(true)">
      {{ t("atTheTimesInAList") }}
    </button>
  </div>
  <template v-if="!byList">
    <label v-for="(words, name) in BEAT" :key="name" class="labelled">
      {{ words }}
      <input v-model.lazy.number="form[name]" class="field num" type="number" min="1" max="600" />
    </label>
  </template>
  <div v-else class="list">
    <label class="labelled">
      {{ t("timesFromTheStartOnePer") }}
      <textarea
        v-model.lazy="form.times"
        class="field times"
        rows="6"
        :maxlength="LONGEST"
        :placeholder="t('n2040104')"
      />
    </label>
    <div class="stack">
      <label class="labelled">
        {{ t("orOpenATextFile") }}
        <input type="file" accept=".txt,.csv,text/plain" class="field" @change="readText" />
      </label>
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
      <v-btn size="small" variant="text" @click="dropSound">{{ t("turnOff") }}</v-btn>
    </div>
    <input
      v-else-if="blockId"
      type="file"
      accept="audio/*"
      class="field"
      :aria-label="t('soundFile')"
      @change="takeSound"
    />
    <span v-else class="quiet">{{ t("youCanAddASoundFile") }}</span>
  </div>
  <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
</template>

<style scoped>
.num {
  width: 96px;
}
.tag[aria-pressed="true"] {
  background: var(--line);
  color: rgb(var(--v-theme-on-primary));
}
.list {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
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

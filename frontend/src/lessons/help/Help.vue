<script setup lang="ts">
/** A helper's phone: in by the teacher's code, then one lesson and its scores. */
import { t } from "../../messages/lessons";
import { computed, ref, useTemplateRef, watch } from "vue";
import { useOnline } from "@vueuse/core";
import { choices } from "../../parts/form/choices";
import { ask } from "../../parts/form/ask";
import { wordsOf } from "../../api/client";
import { provideFrame } from "../../sheet/frame";
import Helper from "../../sheet/ways/helper/Helper.vue";
import { useHelp } from "./useHelp";

const { query, lesson, joining, leaving, sync, isLocked, isOut } = useHelp();
const isOnline = useOnline();
/** The square holds it after the number sign. */
const secret = window.location.hash.slice(1);
const code = ref("");
const name = ref("");
const isIn = computed(() => Boolean(lesson.value) && !isOut.value);
const problem = computed(() => (joining.error.value ? wordsOf(joining.error.value) : ""));
function join() {
  joining.mutate({ code: secret || code.value.trim(), name: name.value.trim() });
}

const { zones } = provideFrame(() => undefined);
const messages = useTemplateRef<HTMLElement>("messages");
const pad = useTemplateRef<HTMLElement>("pad");
watch(messages, (element) => element && (zones.messages = element));
watch(pad, (element) => element && (zones.pad = element));

const chosen = ref<string | null>(null);
const test = computed(
  () =>
    lesson.value?.tests.find((one) => one.activity_id === chosen.value) ?? lesson.value?.tests[0],
);
const ALL = "";
const part = ref(ALL);
const group = computed(
  () => lesson.value?.groups.find((one) => one.name === part.value)?.children ?? null,
);
const tests = computed(() =>
  choices(Object.fromEntries(lesson.value?.tests.map((one) => [one.activity_id, one.test]) ?? [])),
);
const parts = computed(() => [
  { title: t("wholeClass"), value: ALL },
  ...(lesson.value?.groups.map((one) => ({ title: one.name, value: one.name })) ?? []),
]);
const showsHow = ref(false);

async function leave() {
  const waiting = sync.entries.value;
  const yes = await ask({
    title: waiting ? t("nScoreNotSentYetHelper", waiting) : t("stopHelping"),
    words: waiting ? t("showThePhoneToTheTeacher") : t("youNeedTheCodeToComeBack"),
    yes: t("stopHelping"),
  });
  if (yes) leaving.mutate();
}
</script>

<template>
  <main id="main" tabindex="-1" class="help">
    <template v-if="isIn && lesson && test">
      <header class="strip">
        <h1>{{ lesson.class_name }}</h1>
        <span class="space" />
        <v-btn
          variant="outlined"
          size="small"
          :aria-expanded="showsHow"
          @click="showsHow = !showsHow"
          >{{ t("howItIsDone") }}</v-btn
        >
        <v-btn variant="text" size="small" @click="leave">{{ t("stopHelping") }}</v-btn>
        <p class="state" role="status">
          <span class="quiet">{{
            t("nameHelpsTeacher", { name: lesson.name, teacher: lesson.teacher })
          }}</span>
          <b v-if="isLocked" class="warn">{{ t("notOpenToHelpersNow") }}</b>
          <b v-else-if="!isOnline">{{ t("noNetworkKeepOn") }}</b>
          <span v-if="sync.unsent.value">{{ t("nNotSentYet", { n: sync.unsent.value }) }}</span>
          <span v-if="sync.refused.value">{{ t("nNotAccepted", { n: sync.refused.value }) }}</span>
        </p>
      </header>
      <div class="choices">
        <v-select
          v-if="lesson.tests.length > 1"
          :model-value="test.activity_id"
          :aria-label="t('test')"
          :items="tests"
          @update:model-value="(id: string) => (chosen = id)"
        />
        <h2 v-else>{{ test.test }}</h2>
        <v-select v-model="part" :aria-label="t('children')" :items="parts" />
      </div>
      <section v-if="showsHow" class="board how">
        <p v-for="line in test.say" :key="line">{{ line }}</p>
        <template v-if="test.counts.length">
          <h3>{{ t("itCounts") }}</h3>
          <p v-for="line in test.counts" :key="line">{{ line }}</p>
        </template>
        <template v-if="test.does_not_count.length">
          <h3>{{ t("itDoesNotCount") }}</h3>
          <p v-for="line in test.does_not_count" :key="line">{{ line }}</p>
        </template>
        <p v-for="line in test.cautions" :key="line" class="caution">{{ line }}</p>
        <p class="caution">{{ t("ifAChildFeelsUnwell") }}</p>
      </section>
      <div ref="messages" class="messages" data-testid="messages" />
      <div class="way">
        <Helper :key="test.activity_id" :lesson="lesson" :test="test" :group="group" />
      </div>
      <div ref="pad" class="pad-zone" />
    </template>
    <section v-else-if="isIn && lesson" class="board narrow">
      <h1>{{ lesson.class_name }}</h1>
      <p>{{ t("thisLessonHasNoTestsForHelpers") }}</p>
    </section>
    <section v-else-if="isLocked && !lesson" class="board narrow">
      <h1>{{ t("helpInALesson") }}</h1>
      <p role="alert">{{ t("notOpenToHelpersNow") }}</p>
      <v-btn color="primary" @click="query.refetch()">{{ t("tryAgain") }}</v-btn>
    </section>
    <form v-else-if="!query.isPending.value" class="board narrow" @submit.prevent="join">
      <h1>{{ t("helpInALesson") }}</h1>
      <p class="quiet">{{ t("youSeeGivenNamesOnly") }}</p>
      <v-text-field
        v-if="!secret"
        v-model="code"
        class="mt-4"
        autocomplete="off"
        autocapitalize="characters"
        maxlength="12"
        :label="t('codeFromTheTeacher')"
      />
      <v-text-field
        v-model="name"
        class="mt-4"
        autocomplete="name"
        maxlength="40"
        :label="t('yourName')"
      />
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <v-btn
        type="submit"
        color="primary"
        class="mt-4"
        size="large"
        :loading="joining.isPending.value"
        :disabled="!name.trim() || !(secret || code.trim())"
        >{{ t("startHelping") }}</v-btn
      >
      <p v-if="sync.entries.value" class="warn">
        {{ t("nScoreOfBeforeOnThisPhone", sync.entries.value) }}
      </p>
    </form>
  </main>
</template>

<style scoped>
.help {
  height: 100dvh;
  display: flex;
  flex-direction: column;
  gap: var(--gap-4);
  padding: var(--gap-4) var(--gap-8);
  max-width: 720px;
  margin: 0 auto;
}
.strip {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 var(--gap-12);
}
.strip h1 {
  font-size: var(--type-24);
}
.space {
  flex: 1;
}
.state {
  flex-basis: 100%;
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-12);
  font-size: var(--type-14);
}
.choices {
  display: flex;
  align-items: center;
  gap: var(--gap-8);
}
.choices > :not(.v-btn) {
  flex: 1;
  min-width: 0;
}
.messages {
  position: relative;
  min-height: 56px;
  border: var(--line-2) solid var(--rule);
  border-radius: var(--radius);
  background: var(--board);
}
.choices h2 {
  font-size: var(--type-18);
}
.way {
  flex: 1;
  min-height: 104px;
  overflow: auto;
}
.how {
  max-height: 40dvh;
  overflow: auto;
}
.caution {
  border-left: var(--line-3) solid var(--pennant);
  padding-left: var(--gap-8);
}
.pad-zone :deep(.pad) {
  width: 100%;
}
</style>

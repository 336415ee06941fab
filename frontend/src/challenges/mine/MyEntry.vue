<script setup lang="ts">
/** One child: what it did, typed or counted, its goes and its own lane. */
import { t } from "../../messages/challenges";
import { computed, ref, useTemplateRef, watch } from "vue";
import { answer, client, type Schemas } from "../../api/client";
import Lane from "../../parts/Lane.vue";
import { choices } from "../../parts/form/choices";
import Pad from "../../sheet/pad/Pad.vue";
import { LITERAL, useEntry } from "../../sheet/useEntry";
import GoClock from "./GoClock.vue";
import Picture from "./Picture.vue";
import { useMyGoes, type ShownGo, type Standing } from "./useMine";

const props = defineProps<{
  week: Schemas["MyWeek"];
  child: Schemas["MyPicture"];
  /** Who counts for it. */
  partner: Schemas["MyPicture"] | null;
}>();
const emit = defineEmits<{ partner: []; noPartner: []; done: [] }>();
const typed = defineModel<string>("typed", { required: true });
const chosen = defineModel<string>("test", { required: true });

const tests = computed(() => props.week.tests);
const test = computed(
  () => tests.value.find((one) => one.challenge_id === chosen.value) ?? tests.value[0],
);
const { query, goes, write, undo, isOnline } = useMyGoes(() => props.child.slip_id);
const here = computed(() => goes.value.filter((go) => go.challengeId === test.value?.challenge_id));
const lane = computed(() =>
  query.data.value?.lanes.find((one) => one.challenge_id === test.value?.challenge_id),
);
const variant = ref("");
watch(
  test,
  (now) =>
    (variant.value = (now?.variants.find((one) => one.usual) ?? now?.variants[0])?.code ?? ""),
  { immediate: true },
);
function turnVariant() {
  const codes = test.value?.variants.map((one) => one.code) ?? [];
  variant.value = codes[(codes.indexOf(variant.value) + 1) % codes.length] ?? "";
}

const entry = useEntry(() =>
  test.value
    ? {
        activityId: test.value.challenge_id,
        quick: test.value.quick_check,
        reasons: [],
        accepted: test.value.accepted,
        counts: test.value.kind === "count" ? [t("oneRep"), t("reps")] : null,
        reading: (text: string) =>
          answer(
            client.GET("/api/mine/challenges/{challenge_id}/reading", {
              params: {
                path: { challenge_id: test.value?.challenge_id ?? "" },
                query: { typed: text },
              },
            }),
          ),
      }
    : null,
);
// What was typed is there again for a child that was away.
entry.typed.value = typed.value;
watch(entry.typed, (text) => {
  typed.value = text;
  entry.problem.value = null;
});
const field = useTemplateRef<HTMLInputElement>("field");
const saved = ref("");
function save() {
  const text = entry.text.value;
  if (!test.value) return;
  if (!text) {
    // Nothing to save: on the tablet of a class it is the next child's turn.
    saved.value = "";
    if (!props.week.by_slip) emit("done");
    return;
  }
  const wrong = entry.wrongWith(text);
  if (wrong) {
    entry.problem.value = wrong;
    return;
  }
  write({
    challengeId: test.value.challenge_id,
    typed: text,
    shown: entry.kept.value || text,
    variant: variant.value,
    countedBy: props.partner?.slip_id ?? null,
  });
  saved.value = text;
  entry.clear();
}
function press(key: string) {
  const { typed: text } = entry;
  if (key === "save") save();
  else if (key === "back") text.value = text.value.slice(0, -1);
  else if (key === "variant") turnVariant();
  else if (key === "undo") undoLast();
  else if (key === "+1") {
    if (/^\d*$/.test(text.value)) text.value = String(Number(text.value) + 1);
  } else text.value += key;
  field.value?.focus({ preventScroll: true });
}
const canUndo = (go: ShownGo) => ["waiting", "unsent", "refused"].includes(go.standing);
function undoLast() {
  const last = here.value.find(canUndo);
  if (last) undo(last);
  saved.value = "";
}
const WORDS: Record<Standing, string> = {
  waiting: t("waitsForYourTeacher"),
  accepted: t("goCounts"),
  declined: t("goDoesNotCount"),
  undone: t("goUndone"),
  unsent: t("notSentYetGo"),
  refused: t("notAcceptedGo"),
};
const says = computed(() => {
  if (entry.problem.value) return `${entry.problem.value.message} ${entry.problem.value.accepted}`;
  if (entry.doubt.value) return entry.doubt.value;
  if (entry.kept.value) return `= ${entry.kept.value}`;
  return saved.value ? t("scoreSaved", { score: saved.value }) : (test.value?.accepted ?? "");
});
</script>

<template>
  <section v-if="test" class="mine">
    <header>
      <Picture class="me" :picture="child.picture" />
      <h1>{{ child.name || t("hello") }}</h1>
      <span class="space" />
      <v-btn variant="outlined" @click="emit('done')">{{
        week.by_slip ? t("stop") : t("nextChild")
      }}</v-btn>
      <p class="state" role="status">
        <b v-if="!isOnline">{{ t("noNetworkCarryOn") }}</b>
      </p>
    </header>
    <v-select
      v-if="tests.length > 1"
      :model-value="test.challenge_id"
      :aria-label="t('test')"
      :items="choices(Object.fromEntries(tests.map((one) => [one.challenge_id, one.test])))"
      hide-details
      @update:model-value="(id: string) => (chosen = id)"
    />
    <h2 v-else>{{ test.test }}</h2>
    <GoClock v-if="test.seconds" :key="test.challenge_id" :seconds="test.seconds" />
    <label class="entry">
      <span class="quiet">{{ t("iDid") }}</span>
      <input
        ref="field"
        v-model="entry.typed.value"
        class="figure"
        inputmode="none"
        v-bind="LITERAL"
        :aria-label="t('iDid')"
        @keydown.enter="save"
      />
    </label>
    <p id="kept" class="says" :class="{ problem: entry.problem.value }" aria-live="polite">
      {{ says }}
    </p>
    <Pad
      :name="test.test"
      :typed="entry.typed.value"
      :kind="test.kind"
      :of="test.of"
      try-words=""
      :reasons="[]"
      :variant="
        test.variants.length > 1
          ? (test.variants.find((one) => one.code === variant)?.name ?? '')
          : ''
      "
      :wave="null"
      :beside="test.kind === 'count' ? ['+1'] : undefined"
      @press="press"
      @type="(text: string) => (entry.typed.value = text)"
    />
    <p v-if="!week.by_slip" class="line">
      <template v-if="partner">
        {{ t("countedByPartner") }} <Picture class="small" :picture="partner.picture" />
        <v-btn variant="text" @click="emit('noPartner')">{{ t("iCountedMyself") }}</v-btn>
      </template>
      <v-btn v-else variant="text" @click="emit('partner')">{{ t("aPartnerCounts") }}</v-btn>
    </p>
    <template v-if="here.length">
      <h2>{{ t("myGoes") }}</h2>
      <ol class="goes">
        <li v-for="go in here" :key="go.id" :data-standing="go.standing">
          <b class="figure">{{ go.shown }}</b>
          <span>{{ WORDS[go.standing] }} {{ go.why }}</span>
          <v-btn v-if="canUndo(go)" variant="text" size="small" @click="undo(go)">{{
            t("undo")
          }}</v-btn>
        </li>
      </ol>
    </template>
    <template v-if="lane">
      <Lane :lane="lane.lane" named :label="test.test" />
      <p v-if="lane.best">
        {{ t("myBest") }} <b class="figure">{{ lane.best }}</b>
      </p>
    </template>
    <section class="board how">
      <p v-for="line in [...test.say, ...test.counts]" :key="line">{{ line }}</p>
      <p class="caution">{{ t("warmUpAndStopIfItHurts") }}</p>
    </section>
  </section>
</template>

<style scoped>
.mine {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-8);
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 var(--gap-12);
}
.me {
  width: 48px;
  height: 48px;
  color: var(--line);
}
.small {
  display: inline-block;
  width: 32px;
  height: 32px;
  vertical-align: middle;
  color: var(--line);
}
.space {
  flex: 1;
}
.state {
  flex-basis: 100%;
}
.entry {
  display: flex;
  align-items: center;
  gap: var(--gap-12);
}
.entry input {
  flex: 1;
  min-width: 0;
  font-size: var(--type-40);
  border: var(--line-3) solid var(--line);
  border-radius: var(--radius);
  background: var(--board);
  color: var(--ink);
  padding: 0 var(--gap-12);
}
.says {
  min-height: 48px;
}
.goes {
  list-style: none;
  padding: 0;
}
.goes li {
  display: flex;
  align-items: center;
  gap: var(--gap-12);
  min-height: 48px;
  border-bottom: var(--line-2) solid var(--rule);
}
.goes .figure {
  min-width: 3em;
  font-size: var(--type-28);
}
.goes span {
  flex: 1;
}
.mine :deep(.pad) {
  width: 100%;
}
.caution {
  border-left: var(--line-3) solid var(--pennant);
  padding-left: var(--gap-8);
}
</style>

<script setup lang="ts">
/** A child's page: in by the code of the class or a slip, then its own goes of the week. */
import { t } from "../../messages/challenges";
import { useIdle } from "@vueuse/core";
import { computed, reactive, ref, watch } from "vue";
import { wordsOf, type Schemas } from "../../api/client";
import { ask } from "../../parts/form/ask";
import { dayWords } from "../../parts/words";
import MyEntry from "./MyEntry.vue";
import Pictures from "./Pictures.vue";
import { useMyWeek } from "./useMine";

/** A tablet that is put down is the next child's. */
const PUT_DOWN_MS = 60_000;

const { query, opening, closing, sync, isLocked, isOut } = useMyWeek();
const week = computed(() => (isOut.value ? undefined : query.data.value));
const code = ref("");
const problem = computed(() => (opening.error.value ? wordsOf(opening.error.value) : ""));
// The square holds it after the number sign. It is used once: a reload is a look at what is open.
const fromSquare = window.location.hash.slice(1);
if (fromSquare) {
  window.history.replaceState(window.history.state, "", window.location.pathname);
  opening.mutate({ code: fromSquare });
}

const chosen = ref<Schemas["MyPicture"] | null>(null);
const child = computed(() => (week.value?.by_slip ? week.value.children[0] : chosen.value));
const partner = ref<Schemas["MyPicture"] | null>(null);
const choosesPartner = ref(false);
const test = ref("");
/** What each child has typed and not saved. */
const typed = reactive<Record<string, string>>({});

function nextChild() {
  chosen.value = partner.value = null;
  choosesPartner.value = false;
}
const { idle } = useIdle(PUT_DOWN_MS);
watch(idle, (now) => now && nextChild());

async function done() {
  if (!week.value?.by_slip) {
    nextChild();
    return;
  }
  const waiting = sync.entries.value;
  const yes = await ask({
    title: waiting ? t("nGoNotSentYet", waiting) : t("stop"),
    words: waiting ? t("theyAreSentWhenThisPhoneIsOnline") : t("youNeedTheSlipToComeBack"),
    yes: t("stop"),
  });
  if (yes) closing.mutate();
}
</script>

<template>
  <main id="main" tabindex="-1" class="page-of-mine">
    <template v-if="week">
      <p class="week quiet">
        <b>{{ week.week }}</b> {{ t("untilDay", { day: dayWords(week.ends_on) }) }}
        <span v-if="sync.unsent.value">{{ t("nGoNotSentYet", sync.unsent.value) }}</span>
      </p>
      <p v-if="isLocked" role="alert" class="board">{{ t("thisChallengeIsClosed") }}</p>
      <p v-if="!week.tests.length" class="board">{{ t("nothingToEnterHere") }}</p>
      <Pictures
        v-else-if="!child"
        :title="t('whichPictureIsYours')"
        :children="week.children"
        @choose="(one) => (chosen = one)"
      />
      <Pictures
        v-else-if="choosesPartner"
        :title="t('whoCounts')"
        :children="week.children.filter((one) => one.slip_id !== child?.slip_id)"
        @choose="
          (one) => {
            partner = one;
            choosesPartner = false;
          }
        "
      />
      <MyEntry
        v-else
        :key="child.slip_id"
        v-model:test="test"
        :typed="typed[child.slip_id] ?? ''"
        :week="week"
        :child="child"
        :partner="partner"
        @update:typed="(text: string) => child && (typed[child.slip_id] = text)"
        @partner="choosesPartner = true"
        @no-partner="partner = null"
        @done="done"
      />
      <p v-if="week.in_class.length" class="quiet">
        {{ t("withYourTeacher", { tests: week.in_class.join(", ") }) }}
      </p>
      <p v-if="!week.by_slip && !child" class="foot">
        <v-btn variant="text" @click="closing.mutate()">{{ t("useAnotherCode") }}</v-btn>
      </p>
    </template>
    <section v-else-if="isLocked" class="board">
      <h1>{{ t("myScores") }}</h1>
      <p role="alert">{{ t("thisChallengeIsClosed") }}</p>
      <v-btn variant="outlined" class="mt-4" @click="closing.mutate()">{{
        t("useAnotherCode")
      }}</v-btn>
    </section>
    <form
      v-else-if="!query.isPending.value"
      class="board"
      @submit.prevent="opening.mutate({ code: code.replaceAll(' ', '') })"
    >
      <h1>{{ t("myScores") }}</h1>
      <p>{{ t("typeTheCodeFromYourSlip") }}</p>
      <v-text-field
        v-model="code"
        class="mt-4"
        autocomplete="off"
        autocapitalize="characters"
        maxlength="14"
        :label="t('code')"
      />
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <v-btn
        type="submit"
        color="primary"
        class="mt-4"
        size="large"
        :loading="opening.isPending.value"
        :disabled="!code.trim()"
        >{{ t("start") }}</v-btn
      >
      <p v-if="sync.entries.value" class="warn">{{ t("nGoOfBefore", sync.entries.value) }}</p>
    </form>
  </main>
</template>

<style scoped>
.page-of-mine {
  max-width: 560px;
  margin: 0 auto;
  padding: var(--gap-8);
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-8);
}
.week {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-12);
}
.foot {
  margin-top: var(--gap-24);
}
</style>

<script setup lang="ts">
/** A new week of challenges, or a set for one day, with its tests and its rival's name. */
import Fold from "../parts/Fold.vue";
import { t } from "../messages/challenges";
import { useMutation, useQuery } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import { POINT_RULES } from "../api/vocabulary";
import { useTests } from "../catalogue/useTests";
import DraftNote from "../parts/form/DraftNote.vue";
import { useDraft } from "../parts/form/useDraft";
import { useOwnId } from "../parts/form/useOwnId";
import { isoDay } from "../parts/words";

const props = defineProps<{
  kind: "week" | "set";
  /** What another page proposes to begin with. */
  asked: { classId: string; tests: string[] };
}>();
defineEmits<{ close: [] }>();
const router = useRouter();
const isSet = props.kind === "set";
const classes = useQuery({
  queryKey: ["classes"],
  queryFn: () => answer(client.GET("/api/classes")),
});
const ready = useQuery({
  queryKey: ["ready-sets"],
  queryFn: () => answer(client.GET("/api/ready-sets")),
});
const tests = useTests();
const form = reactive({
  name: "",
  starts_on: isoDay(0),
  ends_on: isoDay(4),
  class_ids: props.asked.classId ? [props.asked.classId] : ([] as string[]),
  test_ids: [...props.asked.tests],
  points: { took_part: 1, beat_own_best: 2, reached_rung: 2, beat_rival: 3 },
  seconds: null as number | null,
  pause: 30,
});
const id = useOwnId(form);
const rival = ref("");
const draft = useDraft(reactive({ form, rival }), () =>
  ["new", props.kind, props.asked.classId, ...props.asked.tests].join("."),
);

function take(one: Schemas["ReadySet"]) {
  form.test_ids = one.tests.map((test) => test.id);
  form.name ||= one.name;
}
/** The rival is named for all of them at once; the marks are typed in one row on the next page. */
async function nameRival(week: Schemas["WeekPage"]) {
  if (!rival.value.trim() || !week.challenges.length) return;
  const marks = week.challenges.map((one) => ({
    challenge_id: one.id,
    typed: "",
    variant: "",
    course: "",
  }));
  await answer(
    client.PUT("/api/weeks/{week_id}/rival", {
      params: { path: { week_id: week.id } },
      body: { kind: "person", name: rival.value, best: false, marks },
    }),
  );
}
const making = useMutation({
  mutationFn: async () => {
    const body = {
      ...form,
      id: id.value,
      name: form.name.trim() || (isSet ? t("challengeSet") : ""),
      spread: isSet ? ("one_day" as const) : ("day_each" as const),
      seconds: form.seconds || null,
    };
    const week = await answer(client.POST("/api/weeks", { body }));
    await nameRival(week);
    return week;
  },
  onSuccess: (week) => {
    draft.forget();
    const params = { weekId: week.id };
    return router.push(
      isSet && week.challenges.length
        ? { name: "set", params, query: { on: week.starts_on } }
        : { name: "week", params },
    );
  },
});
</script>

<template>
  <form class="board stack" @submit.prevent="making.mutate()">
    <DraftNote :draft="draft" />
    <div class="line">
      <fieldset class="line">
        <legend>{{ t("classes") }}</legend>
        <v-checkbox
          v-for="one in classes.data.value?.classes"
          :key="one.id"
          v-model="form.class_ids"
          class="pick"
          :value="one.id"
          :label="one.name"
        />
      </fieldset>
      <fieldset class="line">
        <legend>{{ isSet ? t("theSet") : t("testsOneADayYouCan") }}</legend>
        <v-btn
          v-for="one in ready.data.value"
          :key="one.name"
          variant="outlined"
          size="small"
          :title="one.tests.map((test) => test.name).join(', ')"
          @click="take(one)"
        >
          {{ one.name }} · {{ one.tests.length }}
        </v-btn>
      </fieldset>
    </div>
    <v-autocomplete
      v-model="form.test_ids"
      multiple
      chips
      closable-chips
      auto-select-first
      clear-on-select
      hide-details
      :items="tests.data.value ?? []"
      item-title="name"
      item-value="id"
      :label="isSet ? t('exercisesInOrder') : t('testsInOrder')"
    />
    <div class="line">
      <v-text-field
        v-model="form.name"
        maxlength="60"
        :placeholder="isSet ? t('challengeSet') : t('springWeek')"
        :label="t('name')"
      />
      <v-text-field
        v-model="rival"
        maxlength="60"
        :placeholder="t('theHeadTeacher')"
        :label="t('rivalOptional')"
      />
      <v-text-field
        v-model="form.starts_on"
        type="date"
        :label="isSet ? t('day') : t('firstDay')"
      />
      <v-text-field v-model="form.ends_on" type="date" :label="t('lastDayToTryAgain')" />
      <v-text-field
        v-model.number="form.seconds"
        class="num"
        type="number"
        min="5"
        max="3600"
        :placeholder="t('asInTheTest')"
        :label="t('secondsEach')"
      />
      <v-text-field
        v-if="isSet"
        v-model.number="form.pause"
        class="num"
        type="number"
        min="0"
        max="300"
        :label="t('pauseForWritingDownSeconds')"
      />
    </div>
    <Fold>
      <template #title>{{ t("pointsEachAtMostOncePer") }}</template>
      <div class="line">
        <v-text-field
          v-for="rule in POINT_RULES"
          :key="rule.code"
          v-model.number="form.points[rule.code]"
          class="num"
          type="number"
          min="0"
          max="20"
          :label="rule.words"
        />
      </div>
    </Fold>
    <p v-if="form.seconds" class="quiet">
      {{ t("withADifferentClockATest") }}
    </p>
    <p v-if="making.error.value" role="alert" class="problem">{{ making.error.value.message }}</p>
    <div class="line">
      <v-btn type="submit" color="primary" size="large" :loading="making.isPending.value">
        {{ isSet ? t("createSet") : t("createWeek") }}
      </v-btn>
      <v-btn variant="outlined" size="large" @click="$emit('close')">{{ t("cancel") }}</v-btn>
    </div>
  </form>
</template>

<style scoped>
fieldset {
  border: var(--line-2) solid var(--rule);
  border-radius: var(--radius);
  padding: var(--gap-4) var(--gap-12) var(--gap-8);
}
legend {
  font-weight: 700;
  padding: 0 var(--gap-8);
}
.pick,
.num {
  width: 130px;
}
</style>

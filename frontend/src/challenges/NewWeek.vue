<script setup lang="ts">
/** A new week of challenges, or a set for one day, with its tests and its rival's name. */
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
      name: form.name.trim() || (isSet ? "Set" : ""),
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
        <legend>Classes</legend>
        <label v-for="one in classes.data.value?.classes" :key="one.id" class="line pick">
          <input v-model="form.class_ids" type="checkbox" :value="one.id" /> {{ one.name }}
        </label>
      </fieldset>
      <fieldset class="line">
        <legend>{{ isSet ? "The set" : "Tests, one a day; all can come later" }}</legend>
        <button
          v-for="one in ready.data.value"
          :key="one.name"
          type="button"
          class="tag ready"
          :title="one.tests.map((test) => test.name).join(', ')"
          @click="take(one)"
        >
          {{ one.name }} · {{ one.tests.length }}
        </button>
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
      :label="isSet ? 'Exercises, in their order' : 'Tests, in their order'"
    />
    <div class="line">
      <label class="labelled">
        Name
        <input
          v-model="form.name"
          class="field"
          maxlength="60"
          :placeholder="isSet ? 'Set' : 'Spring week'"
        />
      </label>
      <label class="labelled">
        Rival (or nobody)
        <input v-model="rival" class="field" maxlength="60" placeholder="the head" />
      </label>
      <label class="labelled">
        {{ isSet ? "Day" : "First day" }}
        <input v-model="form.starts_on" class="field" type="date" />
      </label>
      <label class="labelled">
        Last day to try again <input v-model="form.ends_on" class="field" type="date" />
      </label>
      <label class="labelled">
        Seconds each
        <input
          v-model.number="form.seconds"
          class="field num"
          type="number"
          min="5"
          max="3600"
          placeholder="as they are"
        />
      </label>
      <label v-if="isSet" class="labelled">
        Pause to write down, s
        <input v-model.number="form.pause" class="field num" type="number" min="0" max="300" />
      </label>
    </div>
    <details>
      <summary>Points, each at most once a child and challenge</summary>
      <div class="line">
        <label v-for="rule in POINT_RULES" :key="rule.code" class="line">
          {{ rule.words }}
          <input
            v-model.number="form.points[rule.code]"
            class="field num"
            type="number"
            min="0"
            max="20"
          />
        </label>
      </div>
    </details>
    <p v-if="form.seconds" class="quiet">
      A test that is counted against another clock is taken as the test of its own that it is then:
      scores of 30 s and of 60 s are never compared.
    </p>
    <p v-if="making.error.value" role="alert" class="problem">{{ making.error.value.message }}</p>
    <div class="line">
      <v-btn type="submit" color="primary" size="large" :loading="making.isPending.value">
        {{ isSet ? "Make the set" : "Make the week" }}
      </v-btn>
      <v-btn variant="outlined" size="large" @click="$emit('close')">Not now</v-btn>
    </div>
  </form>
</template>

<style scoped>
fieldset {
  border: 2px solid var(--rule);
  border-radius: 4px;
  padding: 4px 12px 8px;
}
legend {
  font-weight: 700;
  padding: 0 6px;
}
.pick,
.ready {
  min-height: 44px;
}
.ready {
  background: var(--board);
  padding: 0 10px;
}
.num {
  width: 130px;
}
summary {
  min-height: 44px;
  align-content: center;
  cursor: pointer;
}
</style>

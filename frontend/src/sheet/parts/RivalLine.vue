<script setup lang="ts">
/** Whoever performs against the class, as one more at the end of the list. */
import { t } from "../../messages/sheet";
import { ownKeys } from "../../parts/form/focus";
import { forget } from "../../parts/forget";
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import { answer, client, type ApiError, type Schemas } from "../../api/client";
import { rivalsPage } from "../sources/rivals";
import { useTypedFields } from "../../parts/form/useTypedFields";

const props = defineProps<{ activityId: string }>();
type Performing = Schemas["PerformingRival"];
const queries = useQueryClient();
const page = rivalsPage(props.activityId);
const key = page.queryKey;
const query = useQuery(page);
/** The form a mark is made in, where it was chosen here. */
const forms = reactive<Record<string, string>>({});
/** What only a clock speaks against: "it is right" keeps it. */
const doubted = ref("");
const formOf = (one: Performing) => forms[one.challenge_id] ?? one.rival.variant;

async function send(challenge_id: string, typed: string, sure = false) {
  const one = query.data.value?.find((each) => each.challenge_id === challenge_id);
  if (!one) return;
  doubted.value = "";
  try {
    const path = { activity_id: props.activityId, challenge_id };
    const found = await answer(
      client.PUT("/api/activities/{activity_id}/rivals/{challenge_id}", {
        params: { path },
        body: { typed, variant: formOf(one), sure },
      }),
    );
    queries.setQueryData(key, found);
  } catch (error) {
    if ((error as ApiError).sure) doubted.value = challenge_id;
    throw error;
  }
}
const { typed, wrong, type, keep } = useTypedFields(send);
async function right(challenge_id: string) {
  await send(challenge_id, typed[challenge_id] ?? "", true);
  forget(typed, challenge_id);
  forget(wrong, challenge_id);
}
/** A mark that was made is of the form it was made in: choosing another says it anew. */
function choose(one: Performing, code: string) {
  forms[one.challenge_id] = code;
  typed[one.challenge_id] ??= one.rival.typed;
  void keep(one.challenge_id);
}
</script>

<template>
  <ul v-if="query.data.value?.length" class="rivals" :aria-label="t('rivals')">
    <li v-for="one in query.data.value" :key="one.challenge_id" class="line">
      <label class="line">
        <strong>{{ one.rival.name }}</strong>
        <span class="quiet">{{ t("goesToo") }}</span>
        <input
          :value="typed[one.challenge_id] ?? one.rival.typed"
          class="field figure"
          autocomplete="off"
          :aria-label="t('markOfRival', { rival: one.rival.name })"
          :aria-invalid="Boolean(wrong[one.challenge_id])"
          @input="type(one.challenge_id, $event)"
          @keydown.enter.prevent="keep(one.challenge_id)"
          @change="keep(one.challenge_id)"
          @keydown="ownKeys"
        />
      </label>
      <v-select
        v-if="one.variants.length > 1"
        class="form"
        :model-value="formOf(one)"
        :aria-label="t('formForRival', { rival: one.rival.name })"
        :items="one.variants.map((form) => ({ value: form.code, title: form.name }))"
        @update:model-value="choose(one, $event)"
      />
      <span v-if="wrong[one.challenge_id]" role="alert" class="problem">
        {{ wrong[one.challenge_id] }}
        <button
          v-if="doubted === one.challenge_id"
          type="button"
          class="tool"
          @click="right(one.challenge_id)"
        >
          {{ t("itIsRight") }}
        </button>
      </span>
      <span v-else-if="typed[one.challenge_id] === undefined" class="quiet">
        {{ one.rival.made ? t("scoreToBeat", { score: one.rival.shown }) : t("notSetYet") }}
        {{ one.rival.course ? t("onCourse", { course: one.rival.course }) : "" }}
      </span>
      <span v-else class="quiet">{{ t("pressEnterToSave") }}</span>
    </li>
  </ul>
</template>

<style scoped>
.rivals {
  list-style: none;
  padding: var(--gap-8) 0;
  border-bottom: var(--line-3) solid var(--line);
}
.field {
  width: 110px;
}
.form {
  width: auto;
}
</style>

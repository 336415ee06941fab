<script setup lang="ts">
/** Targets of their own, typed down the class before the clock; afterwards how it went. */
import { t } from "../../messages/sheet";
import { computed, nextTick, useTemplateRef, watch } from "vue";
import { ownKeys, toNextField } from "../../parts/form/focus";
import { useTypedFields } from "../../parts/form/useTypedFields";
import type { Aims } from "../sources/aims";
import GroupAims from "./GroupAims.vue";

const props = defineProps<{ aims: Aims }>();
const { page, saying, accepting } = props.aims;
const table = useTemplateRef<HTMLElement>("table");
// Opened to type in: the first who has not said anything is where the typing goes.
watch(
  page,
  async (there, before) => {
    if (!there || before) return;
    await nextTick();
    const empty = "tbody input:placeholder-shown, tbody input";
    table.value?.querySelector<HTMLInputElement>(empty)?.focus();
  },
  { immediate: true },
);
const open = computed(() => page.value?.children.filter((one) => !one.done) ?? []);
const proposed = computed(() => open.value.filter((one) => !one.said && one.proposed).length);

const { typed, wrong, type, keep } = useTypedFields((pupilId, entry) => {
  const variant = props.aims.of(pupilId)?.variant ?? "";
  return saying.mutateAsync({ pupilId, typed: entry, variant });
});
</script>

<template>
  <section v-if="page" class="board stack" :aria-label="t('ownTargets')">
    <div class="line">
      <h2>{{ t("whatDoYouThinkYouCan") }}</h2>
      <v-btn
        v-if="proposed"
        variant="outlined"
        :loading="accepting.isPending.value"
        @click="accepting.mutate()"
      >
        {{ t("useTheSuggestedTargetsNChild", proposed) }}
      </v-btn>
    </div>
    <p v-if="page.words" class="figure" role="status">{{ page.words }}</p>
    <p v-else class="quiet">
      {{ t("sayItBeforeTheClockStarts") }}
    </p>
    <p v-if="accepting.error.value" role="alert" class="problem">
      {{ accepting.error.value.message }}
    </p>
    <GroupAims v-if="page.groups.length" :aims="aims" />
    <table ref="table" class="plain middle">
      <thead>
        <tr>
          <th scope="col">{{ t("child") }}</th>
          <th scope="col">{{ t("target") }}</th>
          <th scope="col">{{ t("suggested") }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in page.children" :key="one.pupil_id">
          <th scope="row">
            {{ one.name }} <span class="quiet form">{{ one.variant_name }}</span>
            <p v-if="wrong[one.pupil_id]" role="alert" class="problem">
              {{ wrong[one.pupil_id] }}
            </p>
            <p v-else-if="one.shown" class="went">
              <b class="figure">{{ one.shown }}</b> {{ one.words }}
            </p>
          </th>
          <td>
            <b v-if="one.done" class="figure">{{ one.said || "–" }}</b>
            <input
              v-else
              :value="typed[one.pupil_id] ?? one.said"
              class="field figure"
              autocomplete="off"
              :aria-label="t('targetOfGroup', { group: one.name })"
              :aria-invalid="Boolean(wrong[one.pupil_id])"
              @input="type(one.pupil_id, $event)"
              @keydown.enter.prevent="(keep(one.pupil_id), toNextField(table, $event))"
              @change="keep(one.pupil_id)"
              @keydown="ownKeys"
            />
          </td>
          <td class="quiet figure">{{ one.proposed ?? "" }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.field {
  width: 84px;
  min-height: var(--control);
}
.went {
  font-weight: 400;
}
.form {
  font-weight: 400;
}
tbody td,
tbody th {
  padding-block: 0;
  line-height: 1.2;
}
</style>

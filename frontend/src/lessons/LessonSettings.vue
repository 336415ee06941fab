<script setup lang="ts">
/** When and where a lesson is, and whose; and an unused one deleted. */
import { t } from "../messages/lessons";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import { ask } from "../parts/form/ask";
import { localInput } from "../parts/words";

const props = defineProps<{ lesson: Schemas["LessonPage"] }>();
const router = useRouter();
const queries = useQueryClient();
const open = ref(false);
const form = reactive({ class_id: "", starts_at: "", minutes: 45, place: "" });
const classes = useQuery({
  queryKey: ["classes"],
  queryFn: () => answer(client.GET("/api/classes")),
  enabled: open,
});
const params = { path: { lesson_id: props.lesson.id } };

function edit() {
  const { class_id, starts_at, minutes, place } = props.lesson;
  Object.assign(form, { class_id, minutes, place, starts_at: localInput(new Date(starts_at)) });
  keeping.reset();
  removing.reset();
  open.value = true;
}
const keeping = useMutation({
  mutationFn: () => {
    const starts_at = new Date(form.starts_at).toISOString();
    // eslint-disable-next-line @typescript-eslint/no-unnecessary-type-conversion -- an emptied field is text
    const body = { ...form, minutes: Number(form.minutes), starts_at };
    return answer(client.PUT("/api/lessons/{lesson_id}", { params: params, body }));
  },
  onSuccess(page) {
    open.value = false;
    queries.setQueryData(["lesson", page.id], page);
    void queries.invalidateQueries();
  },
});
const removing = useMutation({
  mutationFn: () => answer(client.DELETE("/api/lessons/{lesson_id}", { params })),
  async onSuccess() {
    open.value = false;
    await router.push({ name: "today" });
    void queries.invalidateQueries({ queryKey: ["today"] });
  },
});
async function remove() {
  const yes = await ask({
    title: t("deleteThisLesson"),
    words: t("nothingHasBeenRecordedInIt"),
    yes: t("deleteLesson"),
  });
  if (yes) removing.mutate();
}
</script>

<template>
  <v-btn variant="text" size="small" class="no-print" @click="edit">{{ t("edit") }}</v-btn>
  <v-dialog v-model="open" max-width="560" :aria-label="t('editLesson')">
    <form class="board stack" @submit.prevent="keeping.mutate()">
      <h2>{{ t("editLesson") }}</h2>
      <p v-if="lesson.used" class="quiet">
        {{ t("thisLessonHasScoresSoIts") }}
      </p>
      <v-select
        v-model="form.class_id"
        :disabled="lesson.used"
        :label="t('class')"
        :items="
          (classes.data.value?.classes ?? []).map((one) => ({ value: one.id, title: one.name }))
        "
      />
      <v-text-field v-model="form.starts_at" type="datetime-local" required :label="t('starts')" />
      <v-text-field
        v-model.number="form.minutes"
        type="number"
        min="10"
        max="180"
        :label="t('minutes')"
      />
      <v-text-field v-model="form.place" maxlength="60" required :label="t('place')" />
      <p v-if="keeping.error.value || removing.error.value" role="alert" class="problem">
        {{ (keeping.error.value ?? removing.error.value)?.message }}
      </p>
      <div class="line">
        <v-btn type="submit" color="primary" :loading="keeping.isPending.value">{{
          t("saveBattery")
        }}</v-btn>
        <v-btn variant="outlined" @click="open = false">{{ t("cancel") }}</v-btn>
        <span class="space" />
        <v-btn v-if="!lesson.used" variant="text" @click="remove">{{ t("deleteLesson") }}</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.space {
  flex: 1;
}
</style>

<script setup lang="ts">
/** A child added to a class, or changed: what is known, moved, gone. */
import { t } from "../messages/people";
import { tell } from "../parts/form/tell";
import { moveTo } from "./moveTo";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { reactive } from "vue";
import { ApiError, answer, client, type Schemas } from "../api/client";
import { ask } from "../parts/form/ask";

const props = defineProps<{
  page: Schemas["ClassPage"];
  pupil: Schemas["PupilRow"] | null;
}>();
const emit = defineEmits<{ done: [] }>();
const queries = useQueryClient();
const old = props.pupil;
const form = reactive({
  given: old?.given ?? "",
  family: old?.family ?? "",
  born: old?.born ?? "",
  sex: (old?.sex ?? "") as "" | "female" | "male",
  house_id: old?.house_id ?? null,
  note: old?.medical_note ?? "",
  number: old?.number ?? "",
});
const classes = useQuery({
  queryKey: ["classes"],
  queryFn: () => answer(client.GET("/api/classes")),
});

async function finished() {
  await queries.invalidateQueries();
  emit("done");
}
const keeping = useMutation({
  async mutationFn(sure: boolean) {
    const body = { ...form, born: form.born || null, sure };
    if (old) {
      const params = { path: { pupil_id: old.id } };
      return answer(client.PUT("/api/pupils/{pupil_id}/details", { params, body }));
    }
    const params = { path: { class_id: props.page.id } };
    return answer(client.POST("/api/classes/{class_id}/pupils", { params, body }));
  },
  onSuccess: finished,
});
/** What the server asks about can be kept all the same; what it refuses cannot. */
const isAsked = (error: Error | null) => error instanceof ApiError && error.sure;
const moving = useMutation({
  mutationFn: (class_id: string) => moveTo(class_id, old?.id ?? ""),
  onSuccess: finished,
});
const leaving = useMutation({
  async mutationFn() {
    const sure = await ask({
      title: t("hasChildLeftTheSchool", { child: old?.name }),
      words: t("theChildDisappearsFromAllLists"),
      yes: t("markAsLeft"),
    });
    if (!sure) return;
    const params = { path: { pupil_id: old?.id ?? "" } };
    await answer(client.POST("/api/pupils/{pupil_id}/leave", { params }));
    tell(t("childIsMarkedAsLeft", { child: old?.name }), async () => {
      await moveTo(props.page.id, params.path.pupil_id);
      await queries.invalidateQueries();
    });
    await finished();
  },
});
</script>

<template>
  <form class="board child" @submit.prevent="keeping.mutate(false)">
    <v-text-field v-model="form.given" maxlength="60" required :label="t('firstName')" />
    <v-text-field v-model="form.family" maxlength="60" :label="t('lastName')" />
    <v-text-field v-model="form.born" type="date" :label="t('born')" />
    <v-select
      v-model="form.sex"
      :label="t('girlOrBoy')"
      :items="[
        { value: '', title: t('notSaid') },
        { value: 'female', title: t('girl') },
        { value: 'male', title: t('boy') },
      ]"
    />
    <v-select
      v-model="form.house_id"
      :label="t('house')"
      :items="[
        { value: null, title: t('none') },
        ...page.houses.map((one) => ({ value: one.id, title: one.name })),
      ]"
    />
    <v-text-field v-model="form.number" maxlength="40" :label="t('schoolsOwnNumber')" />
    <v-text-field
      v-model="form.note"
      class="wide"
      maxlength="240"
      :label="t('medicalNoteShortAndPractical')"
    />
    <p v-if="keeping.error.value" role="alert" class="problem wide">
      {{ keeping.error.value.message }}
      <v-btn
        v-if="isAsked(keeping.error.value)"
        size="small"
        variant="outlined"
        @click="keeping.mutate(true)"
      >
        {{ t("yesSaveIt") }}
      </v-btn>
    </p>
    <div class="line wide">
      <v-btn type="submit" color="primary" :loading="keeping.isPending.value">
        {{ old ? t("save") : t("add") }}
      </v-btn>
      <v-btn variant="text" @click="emit('done')">{{ t("cancel") }}</v-btn>
      <template v-if="old">
        <span class="space" />
        <v-select
          :model-value="page.id"
          :label="t('moveToAnotherClass')"
          :items="
            (classes.data.value?.classes ?? []).map((one) => ({ value: one.id, title: one.name }))
          "
          @update:model-value="moving.mutate($event)"
        />
        <v-btn variant="outlined" @click="leaving.mutate()">{{ t("markAsLeft") }}</v-btn>
      </template>
    </div>
    <p v-if="moving.error.value ?? leaving.error.value" role="alert" class="problem wide">
      {{ (moving.error.value ?? leaving.error.value)?.message }}
    </p>
  </form>
</template>

<style scoped>
.child {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
  gap: var(--gap-8) var(--gap-16);
  margin: var(--gap-8) 0;
}
.wide {
  grid-column: 1 / -1;
}
.space {
  flex: 1;
}
</style>

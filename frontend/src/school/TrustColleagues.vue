<script setup lang="ts">
/** Who works in the office of a trust. */
import { t } from "../messages/school";
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import NewForm from "../parts/form/NewForm.vue";
import { answer, client, type Schemas } from "../api/client";

defineProps<{ trust: Schemas["TrustPage"] }>();
const emit = defineEmits<{ made: [link: Schemas["StaffLink"]] }>();
const queries = useQueryClient();
const adding = ref(false);
const NOBODY = { name: "", username: "", leads: false };
const form = reactive({ ...NOBODY });
const inviting = useMutation({
  mutationFn() {
    const { name, username, leads } = form;
    const role = leads ? ("head" as const) : ("teacher" as const);
    const nothing = { may_edit_tests: false, may_see_growth: false, may_see_school: false };
    const body = { name, username, role, class_ids: [], email: "", ...nothing };
    return answer(client.POST("/api/staff", { body }));
  },
  async onSuccess(made) {
    adding.value = false;
    Object.assign(form, NOBODY);
    emit("made", made);
    await queries.invalidateQueries({ queryKey: ["trust"] });
  },
});
</script>

<template>
  <section class="board mt-4">
    <div class="line">
      <h2>{{ t("yourOffice") }}</h2>
      <span class="space" />
      <v-btn v-if="trust.may_change" variant="outlined" @click="adding = !adding">{{
        t("inviteSomebodyToYourOffice")
      }}</v-btn>
    </div>
    <NewForm
      v-if="adding"
      :says="t('createInvitation')"
      :saving="inviting.isPending.value"
      :error="inviting.error.value"
      @send="inviting.mutate()"
      @cancel="adding = false"
    >
      <v-text-field v-model="form.name" v-focus required maxlength="120" :label="t('name')" />
      <v-text-field
        v-model="form.username"
        required
        maxlength="60"
        autocapitalize="off"
        autocomplete="off"
        :label="t('userNameForSigningIn')"
      />
      <v-checkbox v-model="form.leads" :label="t('mayChangeSchools')" />
    </NewForm>
    <ul class="people">
      <li v-for="one in trust.colleagues" :key="one.id">
        <b>{{ one.name }}</b> <span class="quiet">{{ one.username }}</span>
        <span class="tag">{{
          one.is_active ? (one.leads ? t("leadsTheOffice") : t("looksOnly")) : t("suspended")
        }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.space {
  flex: 1;
}
.people {
  list-style: none;
  padding: 0;
  display: grid;
  gap: var(--gap-8);
  margin-top: var(--gap-8);
}
.people li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-8);
}
</style>

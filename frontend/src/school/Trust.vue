<script setup lang="ts">
/** The office of a trust: its schools in sums, what they may hold, and new ones. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/school";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, reactive, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import { ask } from "../parts/form/ask";
import { tell } from "../parts/form/tell";
import { shortDay } from "../parts/words";
import NewForm from "../parts/form/NewForm.vue";
import StaffLinkCard from "./StaffLinkCard.vue";
import TrustColleagues from "./TrustColleagues.vue";

type School = Schemas["TrustSchool"];
const queries = useQueryClient();
const page = useQuery({
  queryKey: ["trust"],
  queryFn: () => answer(client.GET("/api/trust")),
});
const trust = computed(() => page.data.value);
const link = ref<Schemas["StaffLink"] | null>(null);
const adding = ref(false);
const NEW = { school_name: "", name: "", username: "" };
const form = reactive({ ...NEW });
/** Whose limits are open, and what stands in the two fields. */
const open = ref<string | null>(null);
const limits = reactive({ children: "", staff: "" });

async function again() {
  await queries.invalidateQueries({ queryKey: ["trust"] });
}
const opening = useMutation({
  mutationFn: () => answer(client.POST("/api/trust/schools", { body: { ...form } })),
  async onSuccess(made) {
    link.value = made;
    adding.value = false;
    Object.assign(form, NEW);
    await again();
  },
});
const linking = useMutation({
  mutationFn: (id: string) =>
    answer(
      client.POST("/api/trust/schools/{school_id}/link", { params: { path: { school_id: id } } }),
    ),
  onSuccess: (made) => (link.value = made),
});
const limiting = useMutation({
  mutationFn(school: School) {
    const most = (typed: string) => (typed.trim() ? Number(typed) : null);
    const body = { most_children: most(limits.children), most_staff: most(limits.staff) };
    const params = { path: { school_id: school.id } };
    return answer(client.PUT("/api/trust/schools/{school_id}/limits", { params, body }));
  },
  onSuccess(kept, school) {
    queries.setQueryData(["trust"], kept);
    open.value = null;
    tell(t("schoolSaved", { school: school.name }));
  },
});
const pausing = useMutation({
  mutationFn({ school, paused }: { school: School; paused: boolean }) {
    const params = { path: { school_id: school.id } };
    return answer(
      client.PUT("/api/trust/schools/{school_id}/paused", { params, body: { paused } }),
    );
  },
  onSuccess(kept, { school, paused }) {
    queries.setQueryData(["trust"], kept);
    tell(t(paused ? "schoolIsClosed" : "schoolIsOpen", { school: school.name }));
  },
});
const problem = computed(
  () => (linking.error.value ?? limiting.error.value ?? pausing.error.value)?.message,
);

async function close(school: School) {
  const sure = await ask({
    title: t("closeSchoolFor", { school: school.name }),
    words: t("everybodyThereIsStopped"),
    yes: t("closeSchool"),
  });
  if (sure) pausing.mutate({ school, paused: true });
}
function show(school: School) {
  if (open.value === school.id) {
    open.value = null;
    return;
  }
  open.value = school.id;
  limits.children = String(school.most_children ?? "");
  limits.staff = String(school.most_staff ?? "");
}
const of = (n: number, most: number | null) => (most === null ? n : t("nOfMost", { n, most }));
const tested = (school: School) => {
  if (school.tested === null) return t("tooFewToTell");
  return t("nOfMost", { n: school.tested, most: school.children });
};
const sum = computed(() => {
  const found = { children: 0, staff: 0, classes: 0, lessons: 0, scores: 0 };
  for (const one of trust.value?.schools ?? []) {
    for (const name of Object.keys(found) as (keyof typeof found)[]) found[name] += one[name];
  }
  return found;
});
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="trust?.name ?? t('schoolsOfTheTrust')">
      <template v-if="trust" #facts>{{
        t("countedSinceDay", { day: shortDay(trust.since) })
      }}</template>
      <v-btn v-if="trust?.may_change" color="primary" @click="adding = !adding">{{
        t("addASchool")
      }}</v-btn>
    </PageHead>
    <LoadState :query="page">
      <template v-if="trust">
        <NewForm
          v-if="adding"
          class="board"
          :says="t('createSchool')"
          :saving="opening.isPending.value"
          :error="opening.error.value"
          @send="opening.mutate()"
          @cancel="adding = false"
        >
          <v-text-field
            v-model="form.school_name"
            v-focus
            required
            maxlength="120"
            :label="t('nameOfTheSchool')"
          />
          <v-text-field v-model="form.name" required maxlength="120" :label="t('headOfPesName')" />
          <v-text-field
            v-model="form.username"
            required
            maxlength="60"
            autocapitalize="off"
            autocomplete="off"
            :label="t('userNameForSigningIn')"
          />
        </NewForm>
        <StaffLinkCard v-if="link" :link="link" @done="link = null" />
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
        <p v-if="!trust.schools.length" class="board">{{ t("noSchoolsYetAddTheFirst") }}</p>
        <section v-else class="board" :aria-label="t('schoolsOfTheTrust')">
          <div class="scroll">
            <v-table>
              <thead>
                <tr>
                  <th scope="col">{{ t("school") }}</th>
                  <th scope="col" class="number">{{ t("childrenOnRoll") }}</th>
                  <th scope="col" class="number">{{ t("staffWhoSignIn") }}</th>
                  <th scope="col" class="number">{{ t("classes") }}</th>
                  <th scope="col" class="number">{{ t("lessonsThisYear") }}</th>
                  <th scope="col" class="number">{{ t("scoresThisYear") }}</th>
                  <th scope="col" class="number">{{ t("childrenTested") }}</th>
                  <th scope="col">{{ t("lastLesson") }}</th>
                  <th v-if="trust.may_change" scope="col">
                    <span class="sr-only">{{ t("actions") }}</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                <template v-for="one in trust.schools" :key="one.id">
                  <tr :class="{ out: one.paused_at }">
                    <th scope="row">
                      {{ one.name }}
                      <span v-if="one.paused_at" class="tag">{{ t("closed") }}</span>
                      <span v-else-if="one.waits_for_head" class="tag">{{
                        t("waitsForItsHead")
                      }}</span>
                    </th>
                    <td class="number figure">{{ of(one.children, one.most_children) }}</td>
                    <td class="number figure">{{ of(one.staff, one.most_staff) }}</td>
                    <td class="number figure">{{ one.classes }}</td>
                    <td class="number figure">{{ one.lessons }}</td>
                    <td class="number figure">{{ one.scores }}</td>
                    <td class="number" :class="{ figure: one.tested !== null }">
                      {{ tested(one) }}
                    </td>
                    <td>{{ one.last_lesson ? shortDay(one.last_lesson) : t("notYet") }}</td>
                    <td v-if="trust.may_change" class="acts">
                      <v-btn
                        v-if="one.waits_for_head"
                        size="small"
                        variant="outlined"
                        :aria-label="t('newInvitationForSchool', { school: one.name })"
                        @click="linking.mutate(one.id)"
                        >{{ t("invitationAnew") }}</v-btn
                      >
                      <v-btn
                        size="small"
                        variant="outlined"
                        :aria-label="t('limitsOfSchool', { school: one.name })"
                        :aria-expanded="open === one.id"
                        @click="show(one)"
                        >{{ t("limits") }}</v-btn
                      >
                      <v-btn
                        v-if="one.paused_at"
                        size="small"
                        variant="outlined"
                        :aria-label="t('openSchoolAgain', { school: one.name })"
                        @click="pausing.mutate({ school: one, paused: false })"
                        >{{ t("openAgain") }}</v-btn
                      >
                      <v-btn
                        v-else
                        size="small"
                        variant="text"
                        :aria-label="t('closeTheSchoolNamed', { school: one.name })"
                        @click="close(one)"
                        >{{ t("closeSchool") }}</v-btn
                      >
                    </td>
                  </tr>
                  <tr v-if="open === one.id">
                    <td colspan="9">
                      <form class="limits" @submit.prevent="limiting.mutate(one)">
                        <v-text-field
                          v-model="limits.children"
                          v-focus
                          type="number"
                          min="1"
                          max="20000"
                          :label="t('mostChildren')"
                        />
                        <v-text-field
                          v-model="limits.staff"
                          type="number"
                          min="1"
                          max="20000"
                          :label="t('mostStaff')"
                        />
                        <v-btn type="submit" color="primary" :loading="limiting.isPending.value">{{
                          t("save")
                        }}</v-btn>
                        <v-btn variant="text" @click="open = null">{{ t("cancel") }}</v-btn>
                      </form>
                    </td>
                  </tr>
                </template>
              </tbody>
              <tfoot>
                <tr>
                  <th scope="row">{{ t("schoolsInAllN", trust.schools.length) }}</th>
                  <td class="number figure">{{ sum.children }}</td>
                  <td class="number figure">{{ sum.staff }}</td>
                  <td class="number figure">{{ sum.classes }}</td>
                  <td class="number figure">{{ sum.lessons }}</td>
                  <td class="number figure">{{ sum.scores }}</td>
                  <td colspan="3" />
                </tr>
              </tfoot>
            </v-table>
          </div>
          <p class="quiet mt-2">{{ t("youSeeSumsOnly", { n: trust.fewest }) }}</p>
        </section>
        <TrustColleagues :trust="trust" @made="link = $event" />
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.limits {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-8) var(--gap-16);
  padding: var(--gap-8) 0;
}
.limits > .v-text-field {
  min-width: 240px;
  max-width: 320px;
}
.number,
.scroll .v-table tfoot td.number {
  text-align: right;
  white-space: nowrap;
}
th[scope="row"] {
  font-weight: 700;
  text-align: left;
}
/* Figures are of another face: they stand on one line with the school's name. */
.scroll .v-table tbody :is(th, td),
.scroll .v-table tfoot :is(th, td) {
  vertical-align: baseline;
}
tfoot th,
tfoot td {
  border-top: var(--line-3) solid var(--line);
  font-weight: 700;
}
.out th,
.out td {
  color: var(--chalk);
}
.acts {
  white-space: nowrap;
}
</style>

<script setup lang="ts">
/** Who signs in and what they may, in one table; let in by a link, shut out, let in again. */
import { t } from "../messages/school";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, reactive, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { ask } from "../parts/form/ask";
import { shortDay } from "../parts/words";
import { useSession } from "../account/session";
import NewForm from "../parts/form/NewForm.vue";
import StaffLinkCard from "./StaffLinkCard.vue";
import { useSetting } from "./useSchool";

type Person = Schemas["StaffRow"];
const props = defineProps<{ school: Schemas["SchoolSettings"] }>();
const staff = computed(() => props.school.staff);
const queries = useQueryClient();
const session = useSession();
const classes = useQuery({
  queryKey: ["classes"],
  queryFn: () => answer(client.GET("/api/classes")),
});
const link = ref<Schemas["StaffLink"] | null>(null);
const adding = ref(false);
const open = ref<string | null>(null);
/** What a person may beside their role, in plain words: in the order of the columns. */
const RIGHTS = [
  {
    right: "may_edit_tests",
    head: t("testsAndBenchmarks"),
    may: t("mayEdit"),
    of: t("editTestsAndBenchmarks"),
  },
  {
    right: "may_see_growth",
    head: t("heightAndWeight"),
    may: t("maySee"),
    of: t("seeHeightAndWeight"),
  },
  {
    right: "may_see_school",
    head: t("theWholeSchool"),
    may: t("maySee"),
    of: t("seeTheWholeSchoolAndCover"),
  },
] as const;
const NOBODY = {
  name: "",
  username: "",
  email: "",
  role: "teacher" as "teacher" | "head",
  class_ids: [] as string[],
  may_edit_tests: true,
  may_see_growth: false,
  may_see_school: false,
};
const form = reactive({ ...NOBODY });
/** A head of PE may see and change all of it, but for bodies. */
const always = (person: Person, right: string) =>
  person.role === "head" && right !== "may_see_growth";

const changing = useMutation({
  // One after the other, each on what the one before has left.
  scope: { id: "staff" },
  async mutationFn({ id, change }: { id: string; change: Partial<Person> }) {
    const page = queries.getQueryData<Schemas["SchoolSettings"]>(["school"]);
    const person = page?.staff.find((one) => one.id === id);
    if (!person) return;
    const { name, email, role, class_ids, is_active, ...rights } = { ...person, ...change };
    const { may_edit_tests, may_see_growth, may_see_school } = rights;
    const may = { may_edit_tests, may_see_growth, may_see_school };
    const body = { name, email, role: role as "head", class_ids, is_active, ...may };
    const params = { path: { staff_id: person.id } };
    const kept = await answer(client.PUT("/api/staff/{staff_id}", { params, body }));
    queries.setQueryData(["school"], kept);
    await queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "school" });
    session.take(await answer(client.GET("/api/session")));
  },
  // What was not kept is not shown as if it were.
  onError: () => queries.invalidateQueries({ queryKey: ["school"] }),
});
const inviting = useMutation({
  mutationFn: () => answer(client.POST("/api/staff", { body: { ...form } })),
  async onSuccess(made) {
    link.value = made;
    adding.value = false;
    Object.assign(form, NOBODY, { class_ids: [] });
    await queries.invalidateQueries({ queryKey: ["school"] });
  },
});
const requiring = useSetting((required: boolean) =>
  answer(client.PUT("/api/school/second-factor", { body: { required } })),
);
const linking = useMutation({
  mutationFn: (person: Person) =>
    answer(
      client.POST("/api/staff/{staff_id}/link", { params: { path: { staff_id: person.id } } }),
    ),
  async onSuccess(made) {
    link.value = made;
    await queries.invalidateQueries({ queryKey: ["school"] });
  },
});

function change(person: Person, what: Partial<Person>) {
  changing.mutate({ id: person.id, change: what });
}
async function shutOut(person: Person) {
  const sure = await ask({
    title: t("suspendName", { name: person.name }),
    words: t("theyAreSignedOutAtOnce"),
    yes: t("suspend"),
  });
  if (sure) change(person, { is_active: false });
}
function toggle(person: Person, group: string) {
  const class_ids = person.class_ids.includes(group)
    ? person.class_ids.filter((one) => one !== group)
    : [...person.class_ids, group];
  change(person, { class_ids });
}
function classNames(person: Person): string {
  const found = classes.data.value?.classes.filter((one) => person.class_ids.includes(one.id));
  return found?.map((one) => one.name).join(", ") || t("noClass");
}
function state(person: Person): string {
  if (!person.is_active) return t("suspended");
  if (person.link_until && new Date(person.link_until) > new Date()) {
    return t("invitedUntilDay", { day: shortDay(person.link_until) });
  }
  return person.has_password ? "" : t("invitationExpired");
}
const setRole = (person: Person, role: string) => change(person, { role });
</script>

<template>
  <section class="board staff">
    <div class="line">
      <h2>{{ t("staff") }}</h2>
      <span class="space" />
      <v-btn color="primary" class="no-print" @click="adding = !adding">{{
        t("inviteAColleague")
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
      <v-text-field v-model="form.name" required maxlength="120" :label="t('name')" />
      <v-text-field
        v-model="form.username"
        required
        maxlength="60"
        autocapitalize="off"
        autocomplete="off"
        :label="t('userNameForSigningIn')"
      />
      <v-select
        v-model="form.role"
        :label="t('role')"
        :items="[
          { value: 'teacher', title: t('teacher') },
          { value: 'head', title: t('headOfPe') },
        ]"
      />
      <fieldset class="labelled">
        <legend>{{ t("classes") }}</legend>
        <v-checkbox
          v-for="one in classes.data.value?.classes"
          :key="one.id"
          v-model="form.class_ids"
          :value="one.id"
          :label="one.name"
        />
      </fieldset>
      <v-text-field
        v-model="form.email"
        type="email"
        maxlength="200"
        :label="t('eMailToSendTheInvitation')"
      />
      <v-checkbox
        v-for="one in RIGHTS"
        :key="one.right"
        v-model="form[one.right]"
        :label="t('mayWhat', { what: one.of })"
      />
    </NewForm>
    <StaffLinkCard v-if="link" :link="link" @done="link = null" />
    <p v-if="changing.error.value ?? linking.error.value" role="alert" class="problem">
      {{ (changing.error.value ?? linking.error.value)?.message }}
    </p>
    <div class="scroll no-print">
      <v-table>
        <thead>
          <tr>
            <th scope="col">{{ t("nameAndRole") }}</th>
            <th scope="col">{{ t("classes") }}</th>
            <th v-for="one in RIGHTS" :key="one.right" scope="col">{{ one.head }}</th>
            <th scope="col">
              <span class="sr-only">{{ t("actions") }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="person in staff" :key="person.id" :class="{ out: !person.is_active }">
            <th scope="row">
              {{ person.name }}
              <span class="quiet">{{ person.username }}</span>
              <span v-if="state(person)" class="tag">{{ state(person) }}</span>
              <span v-if="person.second_factor" class="tag">{{ t("twoStepSignIn") }}</span>
              <v-select
                class="role"
                :aria-label="t('roleOfName', { name: person.name })"
                :model-value="person.role"
                :items="[
                  { value: 'teacher', title: t('teacher') },
                  { value: 'head', title: t('headOfPe') },
                ]"
                @update:model-value="setRole(person, $event)"
              />
            </th>
            <td>
              <v-btn
                variant="outlined"
                size="small"
                :aria-expanded="open === person.id"
                @click="open = open === person.id ? null : person.id"
              >
                <span class="sr-only">{{ t("classesOfName", { name: person.name }) }}</span>
                {{ person.role === "head" ? t("all") : classNames(person) }}
              </v-btn>
              <div v-if="open === person.id" class="groups">
                <v-checkbox
                  v-for="one in classes.data.value?.classes"
                  :key="one.id"
                  :model-value="person.class_ids.includes(one.id)"
                  :label="one.name"
                  @update:model-value="toggle(person, one.id)"
                />
              </div>
            </td>
            <td v-for="one in RIGHTS" :key="one.right">
              <v-checkbox
                :model-value="person[one.right] || always(person, one.right)"
                :disabled="always(person, one.right)"
                :aria-label="t('nameMayWhat', { name: person.name, what: one.of })"
                :label="one.may"
                @update:model-value="change(person, { [one.right]: !person[one.right] })"
              />
            </td>
            <td class="acts">
              <template v-if="person.is_active">
                <v-btn size="small" variant="outlined" @click="linking.mutate(person)">
                  {{ person.has_password ? t("resetPassword") : t("newInvitation") }}
                </v-btn>
                <v-btn
                  v-if="person.id !== session.person?.id"
                  size="small"
                  variant="text"
                  :aria-label="t('suspendName2', { name: person.name })"
                  @click="shutOut(person)"
                >
                  {{ t("suspend") }}
                </v-btn>
              </template>
              <v-btn
                v-else
                size="small"
                variant="outlined"
                @click="change(person, { is_active: true })"
              >
                {{ t("reinstate") }}
              </v-btn>
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <v-checkbox
      class="no-print mt-2"
      :model-value="school.second_factor_required"
      :label="t('everybodyNeedsTwoStepSignIn')"
      @update:model-value="requiring.mutate(!school.second_factor_required)"
    />
    <p v-if="requiring.error.value" role="alert" class="problem">
      {{ requiring.error.value.message }}
    </p>
  </section>
</template>

<style scoped>
.space {
  flex: 1;
}
fieldset {
  border: 0;
  padding: 0;
  grid-column: 1 / -1;
}
.role {
  display: block;
  margin-top: var(--gap-4);
}
.out th,
.out td {
  color: var(--chalk);
}
th[scope="row"] {
  font-weight: 700;
  text-align: left;
}
.acts {
  white-space: nowrap;
}
</style>

<script setup lang="ts">
/** Whom to look after, with the numbers and a next step, set aside with a reason; and praise. */
import Fold from "../parts/Fold.vue";
import { t } from "../messages/progress";
import { vFocus } from "../parts/form/focus";
import { tell } from "../parts/form/tell";
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import type { BoardChild } from "./useBoard";

type Note = Schemas["BoardNote"];
const props = defineProps<{ children: BoardChild[] }>();
const queries = useQueryClient();
const rows = (pick: (note: Note) => boolean) =>
  props.children
    .map((child) => ({ child, notes: child.notes.filter(pick) }))
    .filter(({ notes }) => notes.length);
const needs = computed(() => rows((one) => one.need !== "praise" && !one.aside));
const praised = computed(() => rows((one) => one.need === "praise"));
const aside = computed(() => rows((one) => Boolean(one.aside)));

const asking = ref("");
const why = ref("");
const key = (child: BoardChild, note: Note) => `${child.pupil_id} ${note.need}`;
function askWhy(child: BoardChild, note: Note) {
  asking.value = key(child, note);
  why.value = "";
}
async function settle(child: BoardChild, note: Note, aside: boolean) {
  const params = { path: { pupil_id: child.pupil_id, need: note.need } };
  const body = { words: note.words, why: why.value };
  await (aside
    ? answer(client.PUT("/api/pupils/{pupil_id}/notes/{need}", { params, body }))
    : answer(client.DELETE("/api/pupils/{pupil_id}/notes/{need}", { params })));
  await queries.invalidateQueries({ queryKey: ["board"] });
}
const settling = useMutation({
  mutationFn: ({ child, note }: { child: BoardChild; note: Note }) =>
    settle(child, note, !note.aside),
  onSuccess(_, { child, note }) {
    asking.value = "";
    if (!note.aside) {
      tell(t("theNoteOnChildIsDismissed", { child: child.name }), () => settle(child, note, false));
    }
  },
});
</script>

<template>
  <div class="two">
    <section>
      <h2>{{ t("whoNeedsACloserLook") }}</h2>
      <p v-if="!needs.length" class="quiet">{{ t("nobodyNeedsACloserLookIn") }}</p>
      <ul class="short">
        <li v-for="{ child, notes } in needs" :key="child.pupil_id">
          <RouterLink :to="{ name: 'pupil', params: { pupilId: child.pupil_id } }">{{
            child.name
          }}</RouterLink>
          <div v-for="note in notes" :key="note.need" class="note">
            <p>
              {{ note.words }}.
              <span class="quiet">{{ t("nextStep", { step: note.next_step }) }}</span>
              <v-btn
                v-if="asking !== key(child, note)"
                variant="text"
                size="small"
                @click="askWhy(child, note)"
              >
                <i18n-t keypath="progress.dismissWho" scope="global"
                  ><template #who
                    ><span class="sr-only"> {{ child.name }}: {{ note.words }}</span></template
                  ></i18n-t
                >
              </v-btn>
            </p>
            <form
              v-if="asking === key(child, note)"
              class="line"
              @submit.prevent="settling.mutate({ child, note })"
            >
              <v-text-field
                v-model="why"
                v-focus
                maxlength="240"
                :aria-label="t('reasonOptional')"
                :placeholder="t('reasonOptional')"
              />
              <v-btn type="submit" color="primary" :loading="settling.isPending.value">{{
                t("dismiss")
              }}</v-btn>
              <v-btn variant="text" @click="asking = ''">{{ t("cancel") }}</v-btn>
            </form>
          </div>
        </li>
      </ul>
      <p v-if="settling.error.value" role="alert" class="problem">
        {{ settling.error.value.message }}
      </p>
    </section>
    <section>
      <h2>{{ t("wellDone") }}</h2>
      <p v-if="!praised.length" class="quiet">{{ t("nobodyHasMovedUpInTwo") }}</p>
      <ul class="short">
        <li v-for="{ child, notes } in praised" :key="child.pupil_id">
          <strong>{{ child.name }}</strong>: {{ notes[0]?.words }}
        </li>
      </ul>
      <Fold v-if="aside.length" class="mt-4">
        <template #title>{{ t("dismissedN", { n: aside.length }) }}</template>
        <ul class="short">
          <li v-for="{ child, notes } in aside" :key="child.pupil_id">
            <strong>{{ child.name }}</strong>
            <p v-for="note in notes" :key="note.need">
              {{ note.words }} —
              <span class="quiet">{{ note.aside?.by }}: {{ note.aside?.why }}</span>
              <v-btn variant="text" size="small" @click="settling.mutate({ child, note })">
                <i18n-t keypath="progress.restoreWho" scope="global"
                  ><template #who
                    ><span class="sr-only"> {{ child.name }}</span></template
                  ></i18n-t
                >
              </v-btn>
            </p>
          </li>
        </ul>
      </Fold>
    </section>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(320px, 100%), 1fr));
  gap: var(--gap-24);
  margin-top: var(--gap-24);
}
.short {
  list-style: none;
  padding: 0;
}
.short li {
  padding: var(--gap-8) 0;
  border-bottom: var(--line-2) solid var(--rule);
}
</style>

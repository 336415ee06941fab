<script setup lang="ts">
/** The free conditions of a test: set once for the class, changed for one child. */
import { t } from "../../messages/sheet";
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../../api/client";
import { ownKeys, vFocus } from "../../parts/form/focus";
import { useFrame } from "../frame";
import type { Conditions } from "../types";
import InDrawer from "./InDrawer.vue";

const props = defineProps<{
  board: Pick<Schemas["ClassLanes"], "activity_id" | "conditions">;
  /** The child whose own conditions are changed; nobody for the class. */
  child: string | null;
  own: Conditions;
}>();
const emit = defineEmits<{ own: [conditions: Conditions] }>();
const queries = useQueryClient();
/** The condition that is a length of a course. */
const COURSE = "course_mm";
const { drawer } = useFrame();
const code = ref<string | null>(null);
const open = computed(() => props.board.conditions.find((one) => one.code === code.value) ?? null);
const typed = ref("");
const forChild = ref(false);
const problem = ref("");
/** The courses the school has measured: chosen by name, they fill in their length. */
const courses = useQuery({
  queryKey: ["courses"],
  queryFn: () => answer(client.GET("/api/courses")),
  enabled: computed(() => code.value === COURSE),
});

function edit(which: string, shown: string) {
  const again = drawer.value === "conditions" && code.value === which;
  code.value = which;
  drawer.value = again ? null : "conditions";
  typed.value = shown;
  problem.value = "";
}
function close() {
  drawer.value = null;
}
async function keep(which: string) {
  const held = { [which]: typed.value };
  if (forChild.value && props.child) {
    emit("own", { ...props.own, ...held });
    close();
    return;
  }
  try {
    await answer(
      client.PUT("/api/activities/{activity_id}/conditions", {
        params: { path: { activity_id: props.board.activity_id } },
        body: { conditions: held },
      }),
    );
    close();
    await queries.invalidateQueries({ queryKey: ["lanes", props.board.activity_id] });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <template v-for="one in board.conditions" :key="one.code">
    <button
      type="button"
      class="tool"
      :aria-expanded="drawer === 'conditions' && code === one.code"
      @click="edit(one.code, one.shown)"
    >
      {{ one.words }}: {{ one.shown }}
      <template v-if="own[one.code]"> ({{ child }}: {{ own[one.code] }})</template>
    </button>
  </template>
  <InDrawer what="conditions">
    <form v-if="open" class="board stack" @submit.prevent="keep(open.code)">
      <h2>{{ open.words }}</h2>
      <label class="labelled">
        {{ open.words }}
        <input v-model="typed" v-focus class="field" @keydown="ownKeys" />
      </label>
      <v-checkbox v-if="child" v-model="forChild" :label="t('onlyForChild', { child })" />
      <div class="line">
        <v-btn type="submit" color="primary">{{ t("challengeSet") }}</v-btn>
        <v-btn variant="text" @click="close">{{ t("cancel") }}</v-btn>
      </div>
      <!-- Below the buttons: they come later, and move nothing under a hand. -->
      <div v-if="open.code === COURSE && courses.data.value?.length" class="line">
        {{ t("measured") }}
        <button
          v-for="course in courses.data.value"
          :key="course.id"
          type="button"
          class="tool"
          @click="((typed = `${course.lap_mm}mm`), keep(open.code))"
        >
          {{ course.name }}
        </button>
      </div>
      <p class="quiet">{{ t("usualUsualScoresAlreadyTakenKeep", { usual: open.usual }) }}</p>
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    </form>
  </InDrawer>
</template>

<script setup lang="ts">
/** What a class might be tested in next, for whom another form fits; one press makes the lesson. */
import { useMutation, useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { answer, client } from "../api/client";
import ClassTabs from "../parts/ClassTabs.vue";
import LoadState from "../parts/LoadState.vue";
import { useOwnId } from "../parts/form/useOwnId";
import { counted, localInput, shortDay } from "../parts/words";

const props = defineProps<{ classId: string }>();
const router = useRouter();
const page = useQuery({
  queryKey: ["next", props.classId],
  queryFn: () =>
    answer(
      client.GET("/api/classes/{class_id}/next", {
        params: { path: { class_id: props.classId } },
      }),
    ),
});
const tests = computed(() => page.data.value?.tests ?? []);
/** What is due is chosen; nobody is surprised by the rest. */
const chosen = ref<string[]>([]);
watch(tests, (found) => {
  chosen.value = found.filter((one) => one.due).map((one) => one.test_id);
});
const at = ref(localInput(new Date()));
const minutes = ref(50);
const place = ref("Hall");
const id = useOwnId(() => [chosen.value, at.value, minutes.value, place.value]);
const making = useMutation({
  mutationFn: () =>
    answer(
      client.POST("/api/lessons", {
        body: {
          id: id.value,
          class_id: props.classId,
          test_ids: chosen.value,
          starts_at: new Date(at.value).toISOString(),
          minutes: minutes.value,
          place: place.value,
          pulses: false,
        },
      }),
    ),
  onSuccess: (made) => router.push({ name: "plan", params: { lessonId: made.id } }),
});
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <LoadState :query="page">
      <template v-if="page.data.value">
        <div class="head">
          <h1>{{ page.data.value.class_name }}</h1>
          <ClassTabs :class-id="classId" />
        </div>
        <hr class="court-line" />
        <p v-if="!tests.length" class="board">
          Nothing yet: once half of the class has a score in a test, it stands here.
        </p>
        <form v-else @submit.prevent="making.mutate()">
          <div class="board scroll">
            <table class="plain">
              <thead>
                <tr>
                  <th scope="col">Test</th>
                  <th scope="col">Last</th>
                  <th scope="col">Missing this term</th>
                  <th scope="col">A harder form for</th>
                  <th scope="col">An easier form for</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="test in tests" :key="test.test_id">
                  <th scope="row">
                    <label class="line pick">
                      <input v-model="chosen" type="checkbox" :value="test.test_id" />
                      {{ test.test }}
                    </label>
                    <p v-if="test.try_instead" class="quiet light">{{ test.try_instead }}</p>
                  </th>
                  <td>
                    {{ shortDay(test.last) }}
                    <span class="tag" :class="{ strong: test.due }">{{
                      test.due ? "due again" : "not due yet"
                    }}</span>
                  </td>
                  <td>{{ test.missing || "nobody" }}</td>
                  <td v-for="(rows, side) in [test.harder, test.easier]" :key="side">
                    <details v-if="rows.length">
                      <summary>{{ counted(rows.length, "child", "children") }}</summary>
                      <ul>
                        <li v-for="one in rows" :key="one.pupil_id">
                          {{ one.name }}: {{ one.form }} <span class="quiet">{{ one.why }}</span>
                        </li>
                      </ul>
                    </details>
                    <span v-else class="quiet">nobody</span>
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
          <div class="line mt-4">
            <label class="labelled">
              When <input v-model="at" class="field" type="datetime-local" required />
            </label>
            <label class="labelled">
              Minutes
              <input v-model.number="minutes" class="field" type="number" min="10" max="180" />
            </label>
            <label class="labelled">
              Place <input v-model="place" class="field" maxlength="60" required />
            </label>
            <v-btn
              type="submit"
              color="primary"
              size="large"
              :disabled="!chosen.length"
              :loading="making.isPending.value"
            >
              Make the lesson of {{ counted(chosen.length, "test") }}
            </v-btn>
          </div>
          <p v-if="making.error.value" role="alert" class="problem">
            {{ making.error.value.message }}
          </p>
          <p class="quiet mt-2">
            Due again in a later term, or eight weeks after the last time. In the hall each child
            begins with the form it did last; change it there where another fits.
          </p>
        </form>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.pick {
  flex-wrap: nowrap;
}
.pick input {
  width: 24px;
  height: 24px;
}
.light {
  font-weight: 400;
}
summary {
  min-height: 28px;
  cursor: pointer;
}
</style>

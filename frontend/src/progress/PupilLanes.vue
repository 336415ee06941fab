<script setup lang="ts">
/** All of a child's tests as small lanes, grouped by what they train; one is chosen for its detail. */
import { t } from "../messages/progress";
import { computed } from "vue";
import type { Schemas } from "../api/client";
import Lane from "../parts/Lane.vue";
import { shortDay } from "../parts/words";
import { shapeOf } from "./useBoard";

const props = defineProps<{ tests: Schemas["TestRecord"][]; chosen: string }>();
defineEmits<{ choose: [testId: string] }>();
/** In the order of what was done last, each family together. */
const rows = computed(() => {
  const families = [...new Set(props.tests.map((one) => one.family_words))];
  return families.flatMap((family) => props.tests.filter((one) => one.family_words === family));
});
</script>

<template>
  <ul class="lanes">
    <li
      v-for="test in rows"
      :key="test.test_id"
      class="board"
      :class="{ on: test.test_id === chosen }"
    >
      <button
        type="button"
        :aria-expanded="test.test_id === chosen"
        @click="$emit('choose', test.test_id)"
      >
        <span class="family quiet">{{ test.family_words }}</span>
        <strong>{{ test.test }}</strong>
      </button>
      <template v-if="test.lanes[0]">
        <p class="now">
          <b class="figure">{{ test.lanes[0].shown }}</b>
          <span v-if="shapeOf(test.lanes[0].verdict)" class="shape" aria-hidden="true">{{
            shapeOf(test.lanes[0].verdict)?.[0]
          }}</span>
          <span class="change">{{ test.lanes[0].change }}</span>
        </p>
        <Lane :lane="test.lanes[0].lane" :label="`${test.test}: ${test.lanes[0].shown}`" />
        <p class="small">
          <i18n-t keypath="progress.bestStrong" scope="global"
            ><template #strong
              ><b>{{ test.lanes[0].best ?? "–" }}</b></template
            ></i18n-t
          >
          <template v-if="test.lanes[0].target">
            <i18n-t keypath="progress.nextStrong" scope="global"
              ><template #strong
                ><b>{{ test.lanes[0].target }}</b></template
              ></i18n-t
            ></template
          >
          · {{ shortDay(test.lanes[0].latest_on)
          }}<span v-if="test.due" class="tag strong">{{ t("dueAgain") }}</span>
        </p>
      </template>
      <p v-else class="quiet">{{ t("noScoreYet") }}</p>
    </li>
  </ul>
</template>

<style scoped>
.lanes {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 285px), 1fr));
  gap: var(--gap-8);
}
.lanes li {
  padding: var(--gap-8) var(--gap-12);
}
.lanes .on {
  border-color: var(--line);
}
button {
  display: grid;
  width: 100%;
  min-height: var(--control);
  text-align: left;
  color: var(--line);
  line-height: 1.15;
}
.family {
  font-size: var(--type-14);
}
.now {
  display: flex;
  align-items: baseline;
  gap: var(--gap-8);
}
.figure {
  font-size: var(--type-28);
  white-space: nowrap;
}
.change {
  font-size: var(--type-14);
  line-height: 1.1;
}
.small {
  font-size: var(--type-14);
}
.tag {
  margin-left: var(--gap-8);
}
</style>

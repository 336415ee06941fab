<script setup lang="ts">
/** Who is kept from what is on, and the teacher's own word over it. */
import { t } from "../../messages/sheet";
import { useCare } from "../useCare";

const props = defineProps<{ lessonId: string; activityId: string | null }>();
const { notes, allowing } = useCare(props.lessonId, () => props.activityId);
</script>

<template>
  <div v-if="notes.length" class="board care" role="group" :aria-label="t('notAllowed')">
    <p v-for="note in notes" :key="note.key" class="line">
      <span class="mark" aria-hidden="true">{{ note.care.allowed ? "✓" : "⊘" }}</span>
      <span>
        <strong>{{ note.name }}</strong> {{ note.care.words
        }}<template v-if="note.test"> ({{ note.test }})</template
        ><template v-if="note.care.allowed">{{ t("allowedTodayYourDecision") }}</template>
      </span>
      <v-btn
        size="small"
        variant="outlined"
        :aria-label="`${note.care.allowed ? t('undo') : t('allowToday')}: ${note.name}`"
        @click="allowing.mutate(note)"
      >
        {{ note.care.allowed ? t("undo") : t("allowToday") }}
      </v-btn>
    </p>
    <p v-if="allowing.error.value" role="alert" class="problem">
      {{ allowing.error.value.message }}
    </p>
  </div>
</template>

<style scoped>
.care {
  padding: var(--gap-8) var(--gap-12);
}
.mark {
  font-size: var(--type-24);
  color: rgb(var(--v-theme-warning));
}
</style>

<script setup lang="ts">
/** Says that a form stands as it was left, and begins it anew. */
import { t } from "../../messages/parts";
import { ask } from "./ask";
import type { useDraft } from "./useDraft";

const props = defineProps<{ draft: ReturnType<typeof useDraft> }>();

async function anew() {
  const question = {
    title: t("startThisFormAgain"),
    words: t("everythingTypedIntoItIsDeleted"),
    yes: t("startAgain"),
  };
  if (await ask(question)) props.draft.anew();
}
</script>

<template>
  <p v-if="draft.taken.value" role="status" class="line finding">
    <span>{{ t("draftNotSavedYet") }}</span>
    <v-btn variant="outlined" @click="anew">{{ t("startAgain") }}</v-btn>
  </p>
</template>

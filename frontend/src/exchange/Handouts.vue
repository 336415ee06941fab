<script setup lang="ts">
/** What a class is given on paper: reports, certificates, the class list and recording sheets. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/exchange";
import { computed } from "vue";
import { useRoute, useRouter } from "vue-router";
import ClassTabs from "../parts/ClassTabs.vue";
import { useClassName } from "./useClassName";
import Certificates from "./Certificates.vue";
import ClassList from "./ClassList.vue";
import Reports from "./Reports.vue";
import Sheets from "./Sheets.vue";

const props = defineProps<{ classId: string }>();
const route = useRoute();
const router = useRouter();
const KINDS = { reports: Reports, certificates: Certificates, list: ClassList, sheets: Sheets };
const WORDS: Record<keyof typeof KINDS, string> = {
  reports: t("familyReports"),
  certificates: t("certificates"),
  list: t("listForTheClassTeacher"),
  sheets: t("recordingSheets"),
};
const kind = computed((): keyof typeof KINDS => {
  const asked = String(route.query.kind ?? "");
  return asked in KINDS ? (asked as keyof typeof KINDS) : "reports";
});
const name = useClassName(props.classId);
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="name || t('handouts')"
      ><template #beside><ClassTabs :class-id="classId" /></template
    ></PageHead>
    <div class="line" role="group" :aria-label="t('chooseAHandout')">
      <v-btn
        v-for="(words, one) in WORDS"
        :key="one"
        :variant="one === kind ? 'flat' : 'outlined'"
        :color="one === kind ? 'primary' : undefined"
        :aria-pressed="one === kind"
        @click="router.replace({ query: { ...route.query, kind: one } })"
      >
        {{ words }}
      </v-btn>
    </div>
    <component :is="KINDS[kind]" :class-id="classId" class="mt-4" />
  </main>
</template>

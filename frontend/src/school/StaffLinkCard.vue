<script setup lang="ts">
/** A link that lets somebody in, shown this one time: to open, scan, copy or print. */
import { t } from "../messages/school";
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { clockTime, shortDay } from "../parts/words";

const props = defineProps<{ link: Schemas["StaffLink"] }>();
defineEmits<{ done: [] }>();
const address = computed(() => window.location.origin + props.link.path);
const isHere = ["127.0.0.1", "localhost", "[::1]"].includes(window.location.hostname);
async function copy() {
  // There is none where the page came without TLS.
  await (navigator.clipboard as Clipboard | undefined)?.writeText(address.value);
}
function print() {
  window.print();
}
</script>

<template>
  <div class="link" role="status">
    <img :src="link.qr" alt="" width="180" height="180" />
    <div>
      <p class="figure whose">{{ t("forName", { name: link.name }) }}</p>
      <p>
        {{
          t("openThisInvitationOrScanThe", {
            day: shortDay(link.until),
            time: clockTime(link.until),
          })
        }}
      </p>
      <p class="address" data-testid="link">{{ address }}</p>
      <p v-if="isHere" class="quiet no-print">{{ t("thisAddressWorksOnThisMachine") }}</p>
      <p v-if="link.mailed_to" class="no-print">
        {{ t("alsoSentToAddress", { address: link.mailed_to }) }}
      </p>
      <p class="quiet no-print">{{ t("itIsShownOnlyOnce") }}</p>
      <div class="line no-print">
        <v-btn variant="outlined" @click="copy">{{ t("copy") }}</v-btn>
        <v-btn variant="outlined" @click="print">{{ t("print") }}</v-btn>
        <v-btn variant="text" @click="$emit('done')">{{ t("done") }}</v-btn>
      </div>
    </div>
  </div>
</template>

<style scoped>
.link {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-16);
  border: var(--line-2) solid var(--line);
  border-radius: var(--radius);
  padding: var(--gap-12);
  margin: var(--gap-8) 0;
}
.link img {
  background: var(--paper);
}
.whose {
  font-size: var(--type-24);
}
.address {
  font-weight: 700;
  overflow-wrap: anywhere;
}
</style>

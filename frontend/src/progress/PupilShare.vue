<script setup lang="ts">
/** What a child may see of itself: on this device, or by a code for some days. */
import Fold from "../parts/Fold.vue";
import { t } from "../messages/progress";
import { useMutation } from "@tanstack/vue-query";
import { answer, client } from "../api/client";
import { shortDay } from "../parts/words";

const props = defineProps<{ pupilId: string; name: string }>();
const params = { path: { pupil_id: props.pupilId } };
const opening = useMutation({
  mutationFn: () => answer(client.POST("/api/pupils/{pupil_id}/own-code", { params })),
});
const closing = useMutation({
  mutationFn: () => answer(client.DELETE("/api/pupils/{pupil_id}/own-code", { params })),
  onSuccess: () => opening.reset(),
});
const here = `${location.origin}/own`;
</script>

<template>
  <Fold board>
    <template #title>{{ t("aPageForChild", { child: name }) }}</template>
    <p>{{ t("itShowsTheirOwnLanesAnd") }}</p>
    <div class="line mt-2">
      <v-btn variant="outlined" :to="{ name: 'own', params: { pupilId } }">{{
        t("onThisDevice")
      }}</v-btn>
      <v-btn variant="outlined" :loading="opening.isPending.value" @click="opening.mutate()">
        {{ t("makeACode") }}
      </v-btn>
      <v-btn
        v-if="opening.data.value"
        variant="text"
        :loading="closing.isPending.value"
        @click="closing.mutate()"
      >
        {{ t("withdrawCode") }}
      </v-btn>
    </div>
    <p v-if="opening.data.value" role="status">
      <i18n-t keypath="progress.codeOpensItAtAddressUntil" scope="global"
        ><template #address>{{ here }}</template
        ><template #day>{{ shortDay(opening.data.value.until) }}</template
        ><template #code
          ><b class="figure code">{{ opening.data.value.code }}</b></template
        ></i18n-t
      >
    </p>
    <p v-if="closing.isSuccess.value && !opening.data.value" role="status">
      {{ t("theCodeNoLongerWorks") }}
    </p>
    <p v-if="opening.error.value ?? closing.error.value" role="alert" class="problem">
      {{ (opening.error.value ?? closing.error.value)?.message }}
    </p>
  </Fold>
</template>

<style scoped>
.code {
  font-size: var(--type-24);
  letter-spacing: 0.06em;
}
</style>

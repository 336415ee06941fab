<script setup lang="ts">
/** How the children of a class come to a week: the code, the slips, the pictures. */
import { t } from "../messages/challenges";
import { useMutation } from "@tanstack/vue-query";
import { v4 as newId } from "uuid";
import { answer, client, wordsOf, type Schemas } from "../api/client";
import HandoutFile from "../parts/files/HandoutFile.vue";
import { useHandout } from "../parts/files/useHandout";
import { ask } from "../parts/form/ask";
import Fold from "../parts/Fold.vue";
import Picture from "./mine/Picture.vue";

const props = defineProps<{
  weekId: string;
  group: Schemas["PublishedClass"];
  square: Schemas["EntrySquare"] | null;
}>();
const emit = defineEmits<{ changed: [page: Schemas["GoesAnswer"]] }>();
const path = { week_id: props.weekId };
const body = { class_id: props.group.class_id };
const printing = useHandout();
const change = useMutation({
  mutationFn: (how: "open" | "close" | { renew: string } | { withdraw: string }) => {
    if (how === "open") {
      return answer(client.POST("/api/weeks/{week_id}/goes/open", { params: { path }, body }));
    }
    if (how === "close") {
      return answer(client.POST("/api/weeks/{week_id}/goes/close", { params: { path }, body }));
    }
    if ("renew" in how) {
      const params = { path: { ...path, pupil_id: how.renew } };
      return answer(
        client.POST("/api/weeks/{week_id}/slips/{pupil_id}", { params, body: { id: newId() } }),
      );
    }
    const params = { path: { ...path, pupil_id: how.withdraw } };
    return answer(client.DELETE("/api/weeks/{week_id}/slips/{pupil_id}", { params }));
  },
  onSuccess: (now) => emit("changed", now),
});
async function close() {
  const yes = await ask({
    title: t("closeToTheChildren"),
    words: t("childrenCanEnterNothingMore"),
    yes: t("closeToTheChildren"),
  });
  if (yes) change.mutate("close");
}
async function withdraw(child: Schemas["SlipRow"]) {
  const yes = await ask({
    title: t("withdrawSlipOfChild", { child: child.name }),
    words: t("theSlipOpensNothingMore"),
    yes: t("withdrawSlip"),
  });
  if (yes) change.mutate({ withdraw: child.pupil_id });
}
function print(pupilId: string | null = null) {
  void printing.begin(() =>
    answer(
      client.POST("/api/weeks/{week_id}/slips", {
        params: { path },
        body: { ...body, pupil_id: pupilId },
      }),
    ),
  );
}
</script>

<template>
  <section class="board">
    <h2>{{ group.name }}</h2>
    <template v-if="square && group.code">
      <div class="code">
        <img :src="square.qr" :alt="t('squareForChildren')" width="160" height="160" />
        <div>
          <p>{{ t("onATabletInClass") }}</p>
          <p class="big figure" data-testid="code">{{ group.code }}</p>
          <p class="quiet">
            {{ t("orOpenAndType", { address: square.address.split("#")[0] ?? "" }) }}
          </p>
        </div>
      </div>
      <p class="quiet">{{ t("eachChildChoosesItsPicture") }}</p>
      <div class="line acts">
        <v-btn color="primary" :loading="printing.busy.value" @click="print()">{{
          t("printSlips")
        }}</v-btn>
        <v-btn variant="outlined" @click="change.mutate('open')">{{
          t("slipsForNewChildren")
        }}</v-btn>
        <v-btn variant="outlined" @click="close">{{ t("closeToTheChildren") }}</v-btn>
      </div>
      <HandoutFile :file="printing.current.value" :problem="printing.problem.value" />
      <Fold>
        <template #title>{{ t("picturesAndSlips") }}</template>
        <ul class="children">
          <li v-for="child in group.children" :key="child.pupil_id">
            <Picture v-if="child.picture" class="picture" :picture="child.picture" />
            <span v-else class="picture" />
            <span class="name"
              >{{ child.name
              }}<span class="quiet">{{
                child.has_slip ? (child.picture?.word ?? "") : t("noSlip")
              }}</span></span
            >
            <template v-if="child.has_slip">
              <v-btn
                variant="text"
                size="small"
                :aria-label="t('newSlipForChild', { child: child.name })"
                @click="change.mutate({ renew: child.pupil_id })"
                >{{ t("newSlip") }}</v-btn
              >
              <v-btn
                variant="text"
                size="small"
                :aria-label="t('withdrawSlipOfChild', { child: child.name })"
                @click="withdraw(child)"
                >{{ t("withdraw") }}</v-btn
              >
            </template>
          </li>
        </ul>
      </Fold>
    </template>
    <template v-else>
      <p>{{ t("childrenEnterTheirOwnGoes") }}</p>
      <v-btn
        class="mt-4"
        color="primary"
        :loading="change.isPending.value"
        @click="change.mutate('open')"
        >{{ t("openToTheChildren") }}</v-btn
      >
    </template>
    <p v-if="change.error.value" role="alert" class="problem">
      {{ wordsOf(change.error.value) }}
    </p>
  </section>
</template>

<style scoped>
.code {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-16);
}
.code > div {
  flex: 1;
  min-width: 200px;
}
.big {
  font-size: var(--type-40);
  letter-spacing: 0.08em;
}
.acts {
  flex-wrap: wrap;
  margin-top: var(--gap-12);
}
.children {
  list-style: none;
  padding: 0;
}
.children li {
  display: flex;
  align-items: center;
  gap: var(--gap-8);
  min-height: 48px;
}
.picture {
  width: 32px;
  height: 32px;
  color: var(--line);
}
.name {
  flex: 1;
  display: grid;
}
</style>

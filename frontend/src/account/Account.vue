<script setup lang="ts">
/** One's own password and second factor, where one is signed in, and one's calendar. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/account";
import { tell } from "../parts/form/tell";
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { reactive } from "vue";
import { answer, client } from "../api/client";
import { ask } from "../parts/form/ask";
import { clockTime, shortDay } from "../parts/words";
import SecondFactor from "./SecondFactor.vue";
import { useSession } from "./session";

const session = useSession();
const form = reactive({ old: "", new: "" });
const setting = useMutation({
  mutationFn: () => answer(client.PUT("/api/session/password", { body: { ...form } })),
  onSuccess(found) {
    session.take(found);
    Object.assign(form, { old: "", new: "" });
    tell(t("passwordChangedYourOtherDevices"));
  },
});
const queries = useQueryClient();
const account = useQuery({
  queryKey: ["account"],
  queryFn: () => answer(client.GET("/api/session/account")),
});
const again = () => queries.invalidateQueries({ queryKey: ["account"] });
const ending = useMutation({
  mutationFn: () => answer(client.DELETE("/api/session/others")),
  onSuccess(found) {
    session.take(found);
    tell(t("youAreNowSignedInOn"));
    return again();
  },
});
const endingOne = useMutation({
  mutationFn: (device_id: string) =>
    answer(client.DELETE("/api/session/devices/{device_id}", { params: { path: { device_id } } })),
  onSuccess: (found) => queries.setQueryData(["account"], found),
});
const calendar = useMutation({
  mutationFn: () => answer(client.POST("/api/session/calendar")),
  onSuccess: again,
});
async function newCalendar() {
  const sure =
    !account.data.value?.has_calendar ||
    (await ask({
      title: t("replaceTheCalendarAddress"),
      words: t("calendarsThatUseTheOldAddress"),
      yes: t("newAddress"),
    }));
  if (sure) calendar.mutate();
}
</script>

<template>
  <main id="main" tabindex="-1" class="page narrow">
    <PageHead :title="session.person?.name ?? t('account')"
      ><template #facts>{{ session.person?.school }}</template></PageHead
    >
    <form class="board" @submit.prevent="setting.mutate()">
      <h2>{{ t("yourPassword") }}</h2>
      <v-text-field
        v-model="form.old"
        :label="t('currentPassword')"
        type="password"
        autocomplete="current-password"
        class="mt-4"
      />
      <v-text-field
        v-model="form.new"
        :label="t('newPasswordAtLeast10Characters')"
        type="password"
        autocomplete="new-password"
        class="mt-4"
      />
      <p v-if="setting.error.value" role="alert" class="problem">
        {{ setting.error.value.message }}
      </p>
      <v-btn type="submit" color="primary" class="mt-4" :loading="setting.isPending.value">
        {{ t("changePassword") }}
      </v-btn>
    </form>
    <SecondFactor v-if="account.data.value" :account="account.data.value" class="mt-4" />
    <section class="board mt-4">
      <h2>{{ t("whereYouAreSignedIn") }}</h2>
      <ul class="rows">
        <li v-for="one in account.data.value?.devices" :key="one.id" class="line">
          {{ one.device }}
          <span class="quiet">{{
            t("sinceDayTime", { day: shortDay(one.at), time: clockTime(one.at) })
          }}</span>
          <b v-if="one.here">{{ t("thisDevice") }}</b>
          <v-btn
            v-else
            size="small"
            variant="outlined"
            :aria-label="t('signOutDevice', { device: one.device })"
            @click="endingOne.mutate(one.id)"
          >
            {{ t("signOut") }}
          </v-btn>
        </li>
      </ul>
      <p class="quiet">{{ t("leftATabletBehindOrForgot") }}</p>
      <p v-if="ending.error.value" role="alert" class="problem">{{ ending.error.value.message }}</p>
      <v-btn
        variant="outlined"
        class="mt-2"
        :loading="ending.isPending.value"
        @click="ending.mutate()"
      >
        {{ t("signOutEverywhereElse") }}
      </v-btn>
    </section>
    <section class="board mt-4">
      <h2>{{ t("yourLessonsInACalendar") }}</h2>
      <p>
        {{ t("addThisPrivateAddressIcalendar") }}
      </p>
      <p v-if="calendar.data.value" class="address" data-testid="calendar">
        {{ calendar.data.value.url }}
      </p>
      <p v-if="calendar.error.value" role="alert" class="problem">
        {{ calendar.error.value.message }}
      </p>
      <v-btn
        variant="outlined"
        class="mt-2"
        :loading="calendar.isPending.value"
        @click="newCalendar"
      >
        {{ account.data.value?.has_calendar ? t("newAddress") : t("showTheAddress") }}
      </v-btn>
    </section>
  </main>
</template>

<style scoped>
.rows {
  list-style: none;
  padding: 0;
}
.address {
  font-weight: 700;
  overflow-wrap: anywhere;
}
</style>

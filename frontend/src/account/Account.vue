<script setup lang="ts">
/** One's own password and second factor, where one is signed in, and one's calendar. */
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
      title: "A new address?",
      words: "The calendar that has the old one shows nothing any more.",
      yes: "A new address",
    }));
  if (sure) calendar.mutate();
}
</script>

<template>
  <main id="main" tabindex="-1" class="page narrow">
    <h1>{{ session.person?.name }}</h1>
    <p class="quiet">{{ session.person?.school }}</p>
    <hr class="court-line" />
    <form class="board" @submit.prevent="setting.mutate()">
      <h2>Your password</h2>
      <v-text-field
        v-model="form.old"
        label="The one of now"
        type="password"
        autocomplete="current-password"
        class="mt-4"
      />
      <v-text-field
        v-model="form.new"
        label="A new one, 10 letters or more"
        type="password"
        autocomplete="new-password"
        class="mt-4"
      />
      <p v-if="setting.error.value" role="alert" class="problem">
        {{ setting.error.value.message }}
      </p>
      <p v-if="setting.isSuccess.value" role="status">
        It is set. Other devices have to sign in again.
      </p>
      <v-btn type="submit" color="primary" class="mt-4" :loading="setting.isPending.value">
        Set it
      </v-btn>
    </form>
    <SecondFactor v-if="account.data.value" :account="account.data.value" class="mt-4" />
    <section class="board mt-4">
      <h2>Where you are signed in</h2>
      <ul class="rows">
        <li v-for="one in account.data.value?.devices" :key="one.id" class="line">
          {{ one.device }}
          <span class="quiet">since {{ shortDay(one.at) }}, {{ clockTime(one.at) }}</span>
          <b v-if="one.here">this one</b>
          <v-btn
            v-else
            size="small"
            variant="outlined"
            :aria-label="`Sign ${one.device} out`"
            @click="endingOne.mutate(one.id)"
          >
            Sign out
          </v-btn>
        </li>
      </ul>
      <p class="quiet">Was a tablet left behind, or a browser not signed out?</p>
      <p v-if="ending.error.value" role="alert" class="problem">{{ ending.error.value.message }}</p>
      <p v-if="ending.isSuccess.value" role="status">You are signed in here only.</p>
      <v-btn
        variant="outlined"
        class="mt-2"
        :loading="ending.isPending.value"
        @click="ending.mutate()"
      >
        Sign out everywhere else
      </v-btn>
    </section>
    <section class="board mt-4">
      <h2>Your lessons in a calendar</h2>
      <p>
        A private address (iCalendar) for the calendar on your phone: class, place and tests, no
        child's name. Whoever has it sees your lessons.
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
        {{ account.data.value?.has_calendar ? "A new address" : "Show the address" }}
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

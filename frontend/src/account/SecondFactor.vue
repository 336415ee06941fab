<script setup lang="ts">
/** A code from one's phone beside the password: set up, proved, taken away. */
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { useSession } from "./session";

defineProps<{ account: Schemas["Account"] }>();
const queries = useQueryClient();
const session = useSession();
const password = ref("");
const code = ref("");
const asking = ref<"" | "begin" | "away">("");
const again = async () => {
  await queries.invalidateQueries({ queryKey: ["account"] });
  session.take(await answer(client.GET("/api/session")));
};
const beginning = useMutation({
  mutationFn: () =>
    answer(client.POST("/api/session/second-factor", { body: { password: password.value } })),
  onSuccess() {
    asking.value = "";
    password.value = "";
    proving.reset();
  },
});
const proving = useMutation({
  mutationFn: () =>
    answer(client.PUT("/api/session/second-factor", { body: { code: code.value } })),
  async onSuccess() {
    code.value = "";
    beginning.reset();
    await again();
  },
});
const takingAway = useMutation({
  mutationFn: () =>
    answer(
      client.POST("/api/session/second-factor/away", {
        body: { password: password.value, code: code.value },
      }),
    ),
  async onSuccess() {
    asking.value = "";
    password.value = "";
    code.value = "";
    proving.reset();
    await again();
  },
});
function go() {
  if (asking.value === "begin") beginning.mutate();
  else takingAway.mutate();
}
const secret = (uri: string) => new URL(uri).searchParams.get("secret") ?? "";
function print() {
  window.print();
}
</script>

<template>
  <section class="board">
    <h2>Second factor</h2>
    <p v-if="session.person?.factor_missing" role="alert" class="problem">
      Your school asks everybody for a second factor: set yours up to go on.
    </p>
    <p v-if="account.second_factor">
      A code from your phone is asked for at every sign-in.
      {{ account.papers_left }} codes on paper are left.
    </p>
    <p v-else>Beside the password, a code that an app on your phone makes. You need such an app.</p>
    <form v-if="asking" class="mt-2" @submit.prevent="go">
      <label class="labelled">
        Your password
        <input
          v-model="password"
          class="field"
          type="password"
          autocomplete="current-password"
          required
        />
      </label>
      <label v-if="asking === 'away'" class="labelled mt-2">
        A code from your phone, or one on paper
        <input v-model="code" class="field" autocomplete="one-time-code" maxlength="40" required />
      </label>
      <div class="line mt-2">
        <v-btn
          type="submit"
          color="primary"
          :loading="beginning.isPending.value || takingAway.isPending.value"
        >
          {{ asking === "begin" ? "Begin" : "Take it away" }}
        </v-btn>
        <v-btn variant="text" @click="asking = ''">Not now</v-btn>
      </div>
    </form>
    <template v-else-if="!beginning.data.value">
      <v-btn
        v-if="!account.second_factor"
        variant="outlined"
        class="mt-2"
        @click="asking = 'begin'"
      >
        Set it up
      </v-btn>
      <v-btn
        v-else-if="!account.factor_required"
        variant="outlined"
        class="mt-2"
        @click="asking = 'away'"
      >
        Take it away
      </v-btn>
    </template>
    <form v-if="beginning.data.value" class="mt-2" @submit.prevent="proving.mutate()">
      <img :src="beginning.data.value.qr" alt="" width="200" height="200" class="square" />
      <p>Point the app at the square, or type this into it:</p>
      <p class="figure secret" data-testid="secret">{{ secret(beginning.data.value.uri) }}</p>
      <label class="labelled mt-2">
        The code it shows now
        <input
          v-model="code"
          class="field"
          inputmode="numeric"
          autocomplete="one-time-code"
          maxlength="10"
          required
        />
      </label>
      <v-btn type="submit" color="primary" class="mt-2" :loading="proving.isPending.value">
        That is it
      </v-btn>
    </form>
    <p
      v-for="one in [beginning.error.value, proving.error.value, takingAway.error.value].filter(
        Boolean,
      )"
      :key="one?.message"
      role="alert"
      class="problem"
    >
      {{ one?.message }}
    </p>
    <div v-if="proving.data.value" class="papers mt-2" role="status">
      <p>
        <b>It is asked for from now on.</b> For the day the phone is lost: print these and keep them
        apart from it. Each works once; they are shown this one time.
      </p>
      <ul class="figure">
        <li v-for="paper in proving.data.value.codes" :key="paper">{{ paper }}</li>
      </ul>
      <v-btn variant="outlined" class="no-print" @click="print">Print</v-btn>
    </div>
  </section>
</template>

<style scoped>
.square {
  background: #fff;
}
.secret {
  font-size: 1.4rem;
  overflow-wrap: anywhere;
}
.papers ul {
  columns: 2 140px;
  font-size: 1.3rem;
  list-style: none;
  padding: 0;
}
</style>

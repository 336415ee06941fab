<script setup lang="ts">
/** A code from one's phone beside the password: set up, proved, taken away. */
import { t } from "../messages/account";
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
    <h2>{{ t("twoStepSignIn") }}</h2>
    <p v-if="session.person?.factor_missing" role="alert" class="problem">
      {{ t("yourSchoolAsksEverybodyForTwo") }}
    </p>
    <p v-if="account.second_factor">
      {{ t("youNeedACodeFromYour", account.papers_left) }}
    </p>
    <p v-else>{{ t("afterYourPasswordLaufAsksFor") }}</p>
    <form v-if="asking" class="mt-2" @submit.prevent="go">
      <v-text-field
        v-model="password"
        type="password"
        autocomplete="current-password"
        required
        :label="t('yourPassword')"
      />
      <v-text-field
        v-if="asking === 'away'"
        v-model="code"
        class="mt-2"
        autocomplete="one-time-code"
        maxlength="40"
        required
        :label="t('codeFromYourPhoneOrA')"
      />
      <div class="line mt-2">
        <v-btn
          type="submit"
          color="primary"
          :loading="beginning.isPending.value || takingAway.isPending.value"
        >
          {{ asking === "begin" ? t("setUp") : t("turnOff") }}
        </v-btn>
        <v-btn variant="text" @click="asking = ''">{{ t("cancel") }}</v-btn>
      </div>
    </form>
    <template v-else-if="!beginning.data.value">
      <v-btn
        v-if="!account.second_factor"
        variant="outlined"
        class="mt-2"
        @click="asking = 'begin'"
      >
        {{ t("setUpTwoStepSignIn") }}
      </v-btn>
      <v-btn
        v-else-if="!account.factor_required"
        variant="outlined"
        class="mt-2"
        @click="asking = 'away'"
      >
        {{ t("turnOff") }}
      </v-btn>
    </template>
    <form v-if="beginning.data.value" class="mt-2" @submit.prevent="proving.mutate()">
      <img :src="beginning.data.value.qr" alt="" width="200" height="200" class="square" />
      <p>{{ t("scanThisSquareWithTheApp") }}</p>
      <p class="figure secret" data-testid="secret">{{ secret(beginning.data.value.uri) }}</p>
      <v-text-field
        v-model="code"
        class="mt-2"
        inputmode="numeric"
        autocomplete="one-time-code"
        maxlength="10"
        required
        :label="t('codeShownInTheApp')"
      />
      <v-btn type="submit" color="primary" class="mt-2" :loading="proving.isPending.value">
        {{ t("confirm") }}
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
        <i18n-t keypath="account.onPrintTheseBackupCodesAnd" scope="global"
          ><template #on
            ><b>{{ t("twoStepSignInIsOn") }}</b></template
          ></i18n-t
        >
      </p>
      <ul class="figure">
        <li v-for="paper in proving.data.value.codes" :key="paper">{{ paper }}</li>
      </ul>
      <v-btn variant="outlined" class="no-print" @click="print">{{ t("print") }}</v-btn>
    </div>
  </section>
</template>

<style scoped>
.square {
  background: var(--paper);
}
.secret {
  font-size: var(--type-24);
  overflow-wrap: anywhere;
}
.papers ul {
  columns: 2 140px;
  font-size: var(--type-24);
  list-style: none;
  padding: 0;
}
</style>

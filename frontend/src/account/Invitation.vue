<script setup lang="ts">
/** A link was opened: whose it is, and a password of one's own. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/account";
import { ref } from "vue";
import { useRouter } from "vue-router";
import { answer, client, type Schemas, wordsOf } from "../api/client";
import { useSession } from "./session";

const session = useSession();
const router = useRouter();
const token = window.location.hash.slice(1);
const who = ref<Schemas["Welcome"] | null>(null);
const password = ref("");
const problem = ref("");
const busy = ref(true);

answer(client.POST("/api/welcome", { body: { token } }))
  .then((found) => (who.value = found))
  .catch((error: unknown) => (problem.value = wordsOf(error)))
  .finally(() => (busy.value = false));

/** Who signs in to another school here already needs no second password. */
const hasAccount = ref(false);
const username = ref("");
const code = ref("");
const isCodeWanted = ref(false);

async function enter() {
  if (busy.value) return;
  busy.value = true;
  problem.value = "";
  try {
    const own = { token, password: password.value };
    const taken = hasAccount.value
      ? await answer(
          client.PUT("/api/welcome/post", {
            body: { ...own, username: username.value, code: code.value },
          }),
        )
      : await answer(client.PUT("/api/welcome", { body: own }));
    isCodeWanted.value = taken.code_needed;
    if (!taken.person) return;
    session.take(taken);
    await router.replace({ name: "today" });
  } catch (error) {
    problem.value = (error as Error).message;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <main id="main" tabindex="-1" class="page narrow">
    <PageHead :title="who ? t('welcomeName', { name: who.name }) : t('welcome')" />
    <p v-if="busy && !who" role="status" class="quiet">{{ t("checkingYourInvitation") }}</p>
    <form v-if="who && hasAccount" class="board" @submit.prevent="enter">
      <p>{{ t("signInAsInYourOther", { school: who.school }) }}</p>
      <v-text-field
        v-model="username"
        v-focus
        :label="t('userName')"
        autocomplete="username"
        autocapitalize="off"
        required
        class="mt-4"
      />
      <v-text-field
        v-model="password"
        :label="t('password')"
        type="password"
        autocomplete="current-password"
        required
      />
      <v-text-field
        v-if="isCodeWanted"
        v-model="code"
        :label="t('codeFromYourPhoneOrA')"
        autocomplete="one-time-code"
        maxlength="40"
      />
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <v-btn type="submit" color="primary" size="large" block class="mt-4" :loading="busy">
        {{ t("signIn") }}
      </v-btn>
      <v-btn variant="text" block class="mt-2" @click="hasAccount = false">{{
        t("chooseANewPasswordInstead")
      }}</v-btn>
    </form>
    <form v-else-if="who" class="board" @submit.prevent="enter">
      <p>{{ t("schoolUsesLaufSignInWith", { school: who.school }) }}</p>
      <p class="figure name">{{ who.username }}</p>
      <input
        class="sr-only"
        autocomplete="username"
        :aria-label="t('userName')"
        :value="who.username"
        readonly
        tabindex="-1"
      />
      <v-text-field
        v-model="password"
        :label="t('chooseAPasswordAtLeast10')"
        type="password"
        autocomplete="new-password"
        class="mt-4"
      />
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <v-btn type="submit" color="primary" size="large" block class="mt-4" :loading="busy">
        {{ t("saveAndSignIn") }}
      </v-btn>
      <v-btn variant="text" block class="mt-2" @click="hasAccount = true">{{
        t("iAlreadySignInAtAnother")
      }}</v-btn>
    </form>
    <p v-else-if="problem" role="alert" class="problem">{{ problem }}</p>
  </main>
</template>

<style scoped>
.name {
  font-size: var(--type-28);
}
</style>

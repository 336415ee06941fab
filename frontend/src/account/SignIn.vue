<script setup lang="ts">
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/account";
import { nextTick, onMounted, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import type { Schemas } from "../api/client";
import { useSession } from "./session";

const session = useSession();
const router = useRouter();
const route = useRoute();
const username = ref("");
const password = ref("");
const problem = ref("");
const busy = ref(false);
const code = ref("");
/** The password was right; the second factor is still to come. */
const wanted = ref(false);
/** All was right, and somebody works in several schools: one is still to be chosen. */
const posts = ref<Schemas["Post"][]>([]);
const postsHead = ref<HTMLElement | null>(null);
const codeField = ref<HTMLInputElement | null>(null);

onMounted(() => document.getElementById("username")?.focus());

/** The field that nothing was typed into. */
const empty = ref<"username" | "password" | null>(null);

async function signIn(post: string | null = null) {
  if (busy.value) return;
  empty.value = !username.value.trim() ? "username" : password.value ? null : "password";
  if (empty.value) {
    problem.value = t(empty.value === "username" ? "enterYourUserName" : "enterYourPassword");
    document.getElementById(empty.value)?.focus();
    return;
  }
  busy.value = true;
  problem.value = "";
  try {
    const given = { username: username.value, password: password.value };
    const asked = await session.signIn({ ...given, code: code.value, post });
    wanted.value = asked.code_needed;
    posts.value = asked.posts;
    if (!asked.person) {
      await nextTick();
      (codeField.value ?? postsHead.value)?.focus();
      return;
    }
    const to = typeof route.query.to === "string" ? route.query.to : "/";
    await router.push(to.startsWith("/") && !to.startsWith("//") ? to : "/");
  } catch (error) {
    problem.value = (error as Error).message;
  } finally {
    busy.value = false;
  }
}

function take(entry: { username: string; password: string }) {
  username.value = entry.username;
  password.value = entry.password;
  void signIn();
}
</script>

<template>
  <main id="main" tabindex="-1" class="page narrow">
    <PageHead :title="t('lauf')" />
    <section v-if="posts.length" class="board" :aria-label="t('whichSchool')">
      <h2 ref="postsHead" tabindex="-1">{{ t("whichSchool") }}</h2>
      <v-btn
        v-for="one in posts"
        :key="one.id"
        variant="outlined"
        size="large"
        block
        class="mt-4"
        :disabled="busy"
        @click="signIn(one.id)"
      >
        {{ one.school }}
      </v-btn>
      <p v-if="problem" role="alert" class="problem mt-2">{{ problem }}</p>
      <v-btn variant="text" block class="mt-4" @click="posts = []">{{ t("back") }}</v-btn>
    </section>
    <form v-else class="board" @submit.prevent="signIn()">
      <h2>{{ t("signIn") }}</h2>
      <label class="labelled mt-4">
        {{ t("userName") }}
        <input
          id="username"
          v-model="username"
          class="field"
          autocomplete="username"
          :aria-invalid="empty === 'username' || undefined"
          :aria-describedby="problem ? 'sign-in-problem' : undefined"
        />
      </label>
      <label class="labelled mt-4">
        {{ t("password") }}
        <input
          id="password"
          v-model="password"
          class="field"
          type="password"
          autocomplete="current-password"
          :aria-invalid="empty === 'password' || undefined"
          :aria-describedby="problem ? 'sign-in-problem' : undefined"
        />
      </label>
      <label v-if="wanted" class="labelled mt-4">
        {{ t("codeFromYourPhoneOrA") }}
        <input
          ref="codeField"
          v-model="code"
          class="field"
          inputmode="text"
          autocomplete="one-time-code"
          maxlength="40"
        />
      </label>
      <p v-if="problem" id="sign-in-problem" role="alert" class="problem">{{ problem }}</p>
      <v-btn type="submit" color="primary" size="large" block class="mt-4" :loading="busy">
        {{ t("signIn") }}
      </v-btn>
    </form>
    <section
      v-if="session.demoSignIns.length && !posts.length"
      class="board mt-4"
      :aria-label="t('demoSignIns')"
    >
      <h2>{{ t("demoSchool") }}</h2>
      <p class="quiet">{{ t("theSchoolAndItsChildrenAre") }}</p>
      <v-btn
        v-for="entry in session.demoSignIns"
        :key="entry.username"
        variant="outlined"
        block
        class="mt-2"
        @click="take(entry)"
      >
        {{ entry.who }}
      </v-btn>
    </section>
  </main>
</template>

<style scoped>
.narrow {
  max-width: 460px;
  margin-top: 4vh;
}
</style>

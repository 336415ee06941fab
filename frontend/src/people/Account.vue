<script setup lang="ts">
/** One's own password, and where one is signed in. */
import { useMutation } from "@tanstack/vue-query";
import { reactive } from "vue";
import { answer, client } from "../api/client";
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
const ending = useMutation({
  mutationFn: () => answer(client.DELETE("/api/session/others")),
  onSuccess: (found) => session.take(found),
});
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
    <section class="board mt-4">
      <h2>Other devices</h2>
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
  </main>
</template>

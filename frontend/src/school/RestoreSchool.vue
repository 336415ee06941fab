<script setup lang="ts">
import { reactive, ref } from "vue";
import { useRouter } from "vue-router";
import { base64 } from "../parts/files/base64";
import { useSession } from "../account/session";

const session = useSession();
const router = useRouter();
const form = reactive({ setup_code: "", school_name: "", name: "", username: "", password: "" });
const problem = ref("");
const busy = ref(false);
/** A whole school that was saved from a Lauf, instead of a new one. */
const packed = ref("");
const fileName = ref("");
async function choose(file: File | undefined) {
  fileName.value = file?.name ?? "";
  packed.value = file ? await base64(file) : "";
}

async function setUp() {
  if (busy.value) return;
  busy.value = true;
  problem.value = "";
  try {
    if (packed.value) {
      const { setup_code, username, password } = form;
      await session.setUpFrom({ setup_code, username, password, data: packed.value });
    } else {
      await session.setUp({ ...form });
    }
    await router.push({ name: packed.value ? "today" : "begin" });
  } catch (error) {
    problem.value = (error as Error).message;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <main id="main" tabindex="-1" class="page narrow">
    <h1>A new Lauf</h1>
    <hr class="court-line" />
    <form class="board" @submit.prevent="setUp">
      <p v-if="packed">
        The school in {{ fileName }}, with all that was kept. Say which of its heads of PE you are;
        everybody else comes by a link.
      </p>
      <p v-else>Create the school and its head of PE. The rest comes step by step.</p>
      <v-text-field
        v-model="form.setup_code"
        label="Set-up code"
        hint="Printed in the terminal by ./lauf start"
        persistent-hint
        class="mt-4"
      />
      <template v-if="!packed">
        <v-text-field v-model="form.school_name" label="School" class="mt-4" />
        <v-text-field v-model="form.name" label="Your name" autocomplete="name" class="mt-4" />
      </template>
      <v-text-field
        v-model="form.username"
        label="User name to sign in with"
        autocomplete="username"
        class="mt-4"
      />
      <v-text-field
        v-model="form.password"
        label="Password, 10 letters or more"
        type="password"
        autocomplete="new-password"
        class="mt-4"
      />
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <v-btn type="submit" color="primary" size="large" block class="mt-4" :loading="busy">
        {{ packed ? "Put it here" : "Create" }}
      </v-btn>
      <label class="labelled mt-4">
        Or a whole school that was saved from another Lauf (zip)
        <input
          class="field"
          type="file"
          accept=".zip,application/zip"
          @change="choose(($event.target as HTMLInputElement).files?.[0])"
        />
      </label>
    </form>
  </main>
</template>

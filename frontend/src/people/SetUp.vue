<script setup lang="ts">
import { reactive, ref } from "vue";
import { useRouter } from "vue-router";
import { useSession } from "./session";

const session = useSession();
const router = useRouter();
const form = reactive({ setup_code: "", school_name: "", name: "", username: "", password: "" });
const problem = ref("");
const busy = ref(false);

async function setUp() {
  if (busy.value) return;
  busy.value = true;
  problem.value = "";
  try {
    await session.setUp({ ...form });
    await router.push({ name: "classes" });
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
      <p>Create the school and its head of PE. Classes come next.</p>
      <v-text-field
        v-model="form.setup_code"
        label="Set-up code"
        hint="Printed in the terminal by ./lauf start"
        persistent-hint
        class="mt-4"
      />
      <v-text-field v-model="form.school_name" label="School" class="mt-4" />
      <v-text-field v-model="form.name" label="Your name" autocomplete="name" class="mt-4" />
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
        Create
      </v-btn>
    </form>
  </main>
</template>

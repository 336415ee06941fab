<script setup lang="ts">
import PageHead from "../parts/PageHead.vue";
import FileField from "../parts/form/FileField.vue";
import { t } from "../messages/school";
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
    <PageHead :title="t('welcomeToLauf')" />
    <form class="board" @submit.prevent="setUp">
      <p v-if="packed">
        {{ t("theSchoolInFileWithEverything", { file: fileName }) }}
      </p>
      <p v-else>{{ t("createYourSchoolAndItsHead") }}</p>
      <v-text-field
        v-model="form.setup_code"
        :label="t('setUpCode')"
        :hint="t('shownInTheTerminalByLauf')"
        persistent-hint
        class="mt-4"
      />
      <template v-if="!packed">
        <v-text-field v-model="form.school_name" :label="t('school')" class="mt-4" />
        <v-text-field v-model="form.name" :label="t('yourName')" autocomplete="name" class="mt-4" />
      </template>
      <v-text-field
        v-model="form.username"
        :label="t('userNameForSigningIn')"
        autocomplete="username"
        class="mt-4"
      />
      <v-text-field
        v-model="form.password"
        :label="t('passwordAtLeast10Characters')"
        type="password"
        autocomplete="new-password"
        class="mt-4"
      />
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <v-btn type="submit" color="primary" size="large" block class="mt-4" :loading="busy">
        {{ packed ? t("restoreSchool") : t("createSchool") }}
      </v-btn>
      <FileField
        class="mt-4"
        accept=".zip,application/zip"
        :label="t('orRestoreAWholeSchoolSaved')"
        @chosen="choose"
      />
    </form>
  </main>
</template>

<script setup lang="ts">
/** What a child sees of itself: own lanes and next aims, and nobody else's. */
import PageHead from "../parts/PageHead.vue";
import { t } from "../messages/progress";
import { vFocus } from "../parts/form/focus";
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client } from "../api/client";
import Lane from "../parts/Lane.vue";
import LoadState from "../parts/LoadState.vue";

const props = defineProps<{ pupilId?: string }>();
const typed = ref("");
const code = ref("");
const page = useQuery({
  queryKey: computed(() => ["own", props.pupilId ?? "", code.value]),
  queryFn: () =>
    props.pupilId
      ? answer(
          client.GET("/api/pupils/{pupil_id}/own", {
            params: { path: { pupil_id: props.pupilId } },
          }),
        )
      : answer(client.GET("/api/own/{code}", { params: { path: { code: code.value } } })),
  enabled: computed(() => Boolean(props.pupilId ?? code.value)),
  retry: false,
});
const own = page.data;
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <PageHead :title="own?.name ?? t('myPage')" />
    <form v-if="!pupilId && !own" class="board narrow" @submit.prevent="code = typed.trim()">
      <v-text-field
        v-model="typed"
        v-focus
        class="mt-4"
        autocomplete="off"
        autocapitalize="characters"
        maxlength="40"
        :label="t('codeFromYourTeacher')"
      />
      <p v-if="page.error.value" role="alert" class="problem">
        {{ t("thisCodeDoesNotWorkAny") }}
      </p>
      <v-btn type="submit" color="primary" class="mt-4" :disabled="!typed.trim()">{{
        t("open")
      }}</v-btn>
    </form>
    <LoadState v-if="pupilId || own" :query="page">
      <template v-if="own">
        <p v-if="!own.lanes.length" class="board">{{ t("noScoresYet") }}</p>
        <section v-for="one in own.lanes" :key="`${one.test} ${one.variant}`" class="board test">
          <div class="head">
            <h2>{{ one.test }}</h2>
            <p>
              <i18n-t keypath="progress.nowScore" scope="global"
                ><template #score
                  ><b class="figure">{{ one.shown }}</b></template
                ></i18n-t
              >
              <template v-if="one.best"
                ><i18n-t keypath="progress.myBestBest" scope="global"
                  ><template #best
                    ><b class="figure">{{ one.best }}</b></template
                  ></i18n-t
                ></template
              >
            </p>
          </div>
          <Lane :lane="one.lane" named :label="`${one.test}: ${one.shown}`" />
          <p v-if="one.target">
            <i18n-t keypath="progress.myNextTargetTarget" scope="global"
              ><template #target
                ><b class="figure">{{ one.target }}</b></template
              ></i18n-t
            >
          </p>
          <p v-else>{{ t("iHaveReachedTheEndOf") }}</p>
        </section>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.test {
  margin-bottom: var(--gap-12);
}
.figure {
  font-size: var(--type-28);
}
</style>

<script setup lang="ts">
import { t } from "../messages/app";
import { mdiMagnify, mdiMenu, mdiThemeLightDark } from "@mdi/js";
import { useEventListener, useIntervalFn, useOnline, usePreferredDark } from "@vueuse/core";
import { useQueryClient } from "@tanstack/vue-query";
import { computed, defineAsyncComponent, nextTick, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { useTheme } from "vuetify";
import { ask, asked } from "../parts/form/ask";
import { isAimed } from "../parts/form/focus";
import { told } from "../parts/form/tell";
import { askedWhy } from "../parts/why/why";
import { useSession } from "../account/session";
import { useSync } from "../sync/useSync";
import { renew } from "./renew";
import { titleOf } from "./router";
import { rememberTheme, wantedTheme } from "./theme";

const fetchConfirm = () => import("../parts/form/Confirm.vue");
const Confirm = defineAsyncComponent(fetchConfirm);
const WhyDialog = defineAsyncComponent(() => import("../parts/why/WhyDialog.vue"));
const fetchSearch = () => import("../people/Search.vue");
const SearchDialog = defineAsyncComponent(fetchSearch);
const ToldBar = defineAsyncComponent(() => import("../parts/form/ToldBar.vue"));
const UnsentList = defineAsyncComponent(() => import("./UnsentList.vue"));
/** How often a server that did not answer is asked once more. */
const ASK_AGAIN_MS = 10_000;
const session = useSession();
const sync = useSync();
const theme = useTheme();
const router = useRouter();
const route = useRoute();
const queries = useQueryClient();
// A lesson that was begun here is the server's from now on, with all that is asked of it.
sync.onSaved((job) => {
  if (job.kind === "lesson") void queries.invalidateQueries();
});
/** On the wall and on the device of a guest there is nothing but what is shown. */
const isGuest = computed(() => ["help", "mine"].includes(String(route.name)));
const onWall = computed(
  () => isGuest.value || ["projector", "week-wall"].includes(String(route.name)),
);
const dark = computed(() => theme.global.current.value.dark);

/** A page about another lesson, child or week is made anew. */
const subject = computed(() => {
  const { lessonId, pupilId, classId, testId, weekId, challengeId } = route.params;
  return [lessonId, pupilId, classId, testId, weekId, challengeId].join(" ");
});

/** What a page is called is said when it opens, and the next Tab goes into it. */
const title = ref("");
function focusMain() {
  document.querySelector("main")?.focus({ preventScroll: true });
}
watch(
  () => route.path,
  async () => {
    title.value = titleOf(String(route.name));
    await nextTick();
    // A field that takes the cursor as the page opens keeps it.
    requestAnimationFrame(() => {
      if (!isTyping() && !isAimed()) focusMain();
    });
  },
);
function isTyping(): boolean {
  return Boolean(document.activeElement?.closest("input, textarea, select, [role=dialog]"));
}

/** On a phone the navigation folds into a menu; a page that opens closes it. */
const menu = ref(false);
watch(
  () => route.path,
  () => (menu.value = false),
);
useEventListener("keydown", (event) => {
  if (event.key === "Escape") menu.value = false;
});
/** What is not sent or was not taken, one by one. */
const listing = ref(false);

/** "/" finds a child or a class from anywhere but where it is typed, or finds a child of the list. */
const finding = ref(false);
useEventListener("keydown", (event) => {
  if (event.key !== "/" || event.defaultPrevented || isTyping() || !session.person) return;
  if (session.person.at_office) return;
  if (document.querySelector("[data-cell]") || onWall.value) return;
  event.preventDefault();
  finding.value = true;
});

// What is asked without a network too is fetched once somebody is signed in.
watch(
  [() => session.person, isGuest],
  ([person, isHere]) => {
    if (!person && !isHere) return;
    const worker = import("./worker").then(({ registerWorker }) => registerWorker(isInLesson));
    const search = person ? fetchSearch() : null;
    void Promise.all([fetchConfirm(), search, worker]).catch(() => undefined);
  },
  { immediate: true },
);
function isInLesson(): boolean {
  return Boolean(route.params.lessonId) || isGuest.value;
}
const isOnline = useOnline();
/** The server is asked who is signed in as soon as it can be. */
const askAgain = () => void session.ensure().catch(() => undefined);
watch(isOnline, (online) => online && askAgain());
useIntervalFn(() => session.unreachable && isOnline.value && askAgain(), ASK_AGAIN_MS);

// A device that turns dark in the evening, or when the hall does, takes the page with it.
watch(usePreferredDark(), () => theme.change(wantedTheme()));
function toggleTheme() {
  const name = dark.value ? "light" : "dark";
  void theme.change(name);
  rememberTheme(name);
}

async function signOut() {
  if (sync.entries.value > 0) {
    const number = sync.entries.value;
    const yes = await ask({
      title: number === 1 ? t("oneEntryIsNotSentYet") : t("nScoreNotSentYet", number),
      words: t("theyStayOnThisDeviceThey"),
      yes: t("signOut"),
    });
    if (!yes) return;
  }
  await session.signOut();
  queries.clear();
  await router.push({ name: "sign-in" });
}
</script>

<template>
  <v-app :class="{ framed: route.name === 'hall' }">
    <a v-if="!onWall" class="skip" href="#main" @click.prevent="focusMain">{{
      t("skipToContent")
    }}</a>
    <p class="sr-only" role="status">{{ title }}</p>
    <header v-if="session.person && !onWall" class="app-bar">
      <RouterLink to="/" class="mark" :aria-label="t('laufGoToToday')">{{ t("lauf") }}</RouterLink>
      <v-btn
        class="unfold"
        variant="text"
        :icon="mdiMenu"
        :aria-label="t('menu')"
        aria-controls="main-menu"
        :aria-expanded="menu"
        @click="menu = !menu"
      />
      <nav id="main-menu" :aria-label="t('main')" :class="{ shown: menu }" @click="menu = false">
        <RouterLink v-if="session.person.at_office" to="/trust">{{ t("trust") }}</RouterLink>
        <template v-else>
          <RouterLink to="/">{{ t("today") }}</RouterLink>
          <RouterLink to="/classes">{{ t("classes") }}</RouterLink>
          <RouterLink to="/catalogue">{{ t("catalogue") }}</RouterLink>
          <RouterLink to="/batteries">{{ t("batteries") }}</RouterLink>
          <RouterLink to="/challenges">{{ t("challenges") }}</RouterLink>
          <RouterLink to="/laps">{{ t("laps") }}</RouterLink>
          <RouterLink v-if="session.person.role === 'head'" to="/school">{{
            t("school")
          }}</RouterLink>
        </template>
        <RouterLink class="folded" to="/account">{{ session.person.name }}</RouterLink>
        <v-btn variant="text" class="folded" @click="toggleTheme">
          {{ dark ? t("lightTheme") : t("darkTheme") }}
        </v-btn>
        <v-btn variant="text" class="folded" @click="signOut">{{ t("signOut") }}</v-btn>
      </nav>
      <span class="space" />
      <v-btn
        v-if="!session.person.at_office"
        :icon="mdiMagnify"
        variant="text"
        :aria-label="t('findAChildOrAClass')"
        aria-keyshortcuts="/"
        @click="finding = true"
      />
      <v-btn v-if="renew && !isInLesson()" variant="outlined" size="small" @click="renew()">{{
        t("takeTheNewVersion")
      }}</v-btn>
      <span v-if="!isOnline || session.unreachable" class="tag offline" role="status">{{
        t("noNetwork")
      }}</span>
      <span role="status">
        <v-btn
          v-if="sync.entries.value"
          variant="outlined"
          class="unsent"
          aria-haspopup="dialog"
          @click="listing = true"
        >
          <template v-if="sync.unsent.value">{{
            t("nNotSentYet", { n: sync.unsent.value })
          }}</template>
          <template v-if="sync.refused.value">
            {{ t("nNotAccepted", { n: sync.refused.value }) }}</template
          >
        </v-btn>
      </span>
      <RouterLink class="who" to="/account">{{ session.person.name }}</RouterLink>
      <v-btn
        class="wide"
        :icon="mdiThemeLightDark"
        variant="text"
        :aria-label="dark ? t('lightTheme') : t('darkTheme')"
        @click="toggleTheme"
      />
      <v-btn class="wide" variant="text" @click="signOut">{{ t("signOut") }}</v-btn>
    </header>
    <RouterView :key="subject" />
    <SearchDialog v-if="finding" @done="finding = false" />
    <WhyDialog v-if="askedWhy" />
    <ToldBar v-if="told" />
    <UnsentList v-if="listing" @done="listing = false" />
    <Confirm
      v-if="asked"
      :model-value="true"
      :title="asked.title"
      :words="asked.words"
      :yes="asked.yes"
      @update:model-value="asked?.answer(false)"
      @yes="asked?.answer(true)"
    />
  </v-app>
</template>

<style scoped>
.skip {
  position: absolute;
  left: -9999px;
  z-index: 30;
  padding: var(--gap-12) var(--gap-16);
  background: var(--board);
  border: var(--line-3) solid var(--line);
}
.skip:focus {
  left: 8px;
  top: 8px;
}
.app-bar {
  display: flex;
  align-items: center;
  gap: var(--gap-16);
  padding: var(--gap-4) var(--gap-24);
  background: var(--board);
  border-bottom: var(--line-3) solid var(--line);
}
.mark {
  font-family: var(--figure);
  font-weight: 600;
  font-size: var(--type-28);
  text-decoration: none;
  padding: 0 var(--gap-8) var(--gap-4) 0;
  border-right: var(--line-3) solid var(--line);
}
nav {
  display: flex;
  gap: var(--gap-4);
  min-width: 0;
}
nav > * {
  color: var(--ink);
  text-decoration: none;
  padding: var(--gap-12) var(--gap-12) var(--gap-8);
  border-bottom: var(--line-3) solid transparent;
  white-space: nowrap;
}
nav a.router-link-active:not([href="/"]),
nav a.router-link-exact-active {
  border-bottom-color: var(--pennant);
  font-weight: 700;
}
.v-btn.unfold,
.folded {
  display: none;
}
.who {
  display: inline-flex;
  align-items: center;
  min-height: var(--control);
}
.space {
  flex: 1;
}
.unsent {
  font-weight: 700;
  color: rgb(var(--v-theme-warning));
}
@media (max-width: 1023px) {
  .app-bar {
    gap: var(--gap-8);
    padding: var(--gap-4) var(--gap-12);
  }
  .who {
    display: none;
  }
  nav a {
    padding: var(--gap-12) var(--gap-8) var(--gap-8);
  }
}
@media (max-width: 840px) {
  .app-bar {
    position: relative;
    gap: var(--gap-8);
    padding: 0 var(--gap-8);
  }
  .wide {
    display: none;
  }
  .v-btn.unfold {
    display: inline-grid;
    order: 1;
  }
  nav {
    display: none;
  }
  nav.shown {
    position: absolute;
    z-index: 20;
    inset: 100% 0 auto 0;
    display: grid;
    gap: 0;
    padding: var(--gap-8);
    background: var(--board);
    border-bottom: var(--line-3) solid var(--line);
  }
  .folded {
    display: inline-grid;
    justify-content: start;
  }
  .unsent {
    padding: 0 var(--gap-8);
    font-size: var(--type-14);
    line-height: 1.1;
    max-width: 10em;
  }
  .unsent > :deep(.v-btn__content) {
    white-space: normal;
  }
}
/* A screen that is one frame: the page does not scroll, what is inside it does. */
.framed :deep(.v-application__wrap) {
  height: 100dvh;
  min-height: 0;
  overflow: hidden;
}
.framed .app-bar {
  flex: none;
  padding-block: 0;
}
/* A device that lies down has no height to spare: the way back is the lesson's own tabs. */
@media (max-height: 500px) {
  .framed .app-bar {
    display: none;
  }
}
</style>

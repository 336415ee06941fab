import "./app/reset.css";
import "@fontsource/atkinson-hyperlegible/latin-400.css";
import "@fontsource/atkinson-hyperlegible/latin-700.css";
import "@fontsource/barlow-condensed/latin-500.css";
import "@fontsource/barlow-condensed/latin-600.css";
import "vuetify/styles/core";
import "./app/tokens.css";
import "./app/styles.css";
import "./app/controls.css";

import { QueryClient, VueQueryPlugin } from "@tanstack/vue-query";
import { createPinia } from "pinia";
import { createApp } from "vue";
import { ApiError } from "./api/client";
import App from "./app/App.vue";
import { router } from "./app/router";
import { vuetify } from "./app/theme";
import { keepFresh } from "./app/freshness";
import { i18n, translate } from "./messages/area";
import { isForAll } from "./sync/policy";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // A refusal will not change by asking again; a dead network may.
      retry: (count, error) => count < 3 && (!(error instanceof ApiError) || isForAll(error)),
      staleTime: 5_000,
      // What the server said is replaced, never changed: nobody has to watch its inside.
      shallow: true,
    },
  },
});

keepFresh(queries);

void translate().then(() =>
  createApp(App)
    .use(createPinia())
    .use(router)
    .use(vuetify)
    .use(i18n)
    .use(VueQueryPlugin, { queryClient: queries })
    .mount("#app"),
);

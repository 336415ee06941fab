import "./app/reset.css";
import "@fontsource/atkinson-hyperlegible/latin-400.css";
import "@fontsource/atkinson-hyperlegible/latin-700.css";
import "@fontsource/barlow-condensed/latin-500.css";
import "@fontsource/barlow-condensed/latin-600.css";
import "vuetify/styles/core";
import "./app/tokens.css";
import "./app/styles.css";
import "./app/controls.css";

import { VueQueryPlugin } from "@tanstack/vue-query";
import { createPinia } from "pinia";
import { createApp } from "vue";
import App from "./app/App.vue";
import { queries } from "./app/queries";
import { router } from "./app/router";
import { vuetify } from "./app/theme";
import { i18n, translate } from "./messages/area";

void translate().then(() =>
  createApp(App)
    .use(createPinia())
    .use(router)
    .use(vuetify)
    .use(i18n)
    .use(VueQueryPlugin, { queryClient: queries })
    .mount("#app"),
);

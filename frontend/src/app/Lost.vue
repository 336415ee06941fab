<script setup lang="ts">
import { t } from "../messages/app";
</script>

<template>
  <main id="main" tabindex="-1" class="page">
    <h1>{{ t("pageNotFound") }}</h1>
    <p>
      <i18n-t keypath="app.checkTheAddressForTypingMistakes" scope="global"
        ><template #link
          ><RouterLink to="/">{{ t("goToToday") }}</RouterLink></template
        ></i18n-t
      >
    </p>
  </main>
</template>

<template>
  <main id="main" tabindex="-1" class="page">
    <h1>There is nothing at this address</h1>
    <p>It may have been mistyped. <RouterLink to="/">Go to Today</RouterLink>.</p>
  </main>
</template>

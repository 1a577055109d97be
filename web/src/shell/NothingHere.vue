<template>
  <main class="nothing">
    <h1>Page not found.</h1>
    <RouterLink to="/">Open job board</RouterLink>
  </main>
</template>

<style scoped>
.nothing {
  padding: 40px 22px;
}
</style>

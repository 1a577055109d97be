<template>
  <main class="nothing">
    <h1>There is nothing at this address.</h1>
    <RouterLink to="/">To the board</RouterLink>
  </main>
</template>

<style scoped>
.nothing {
  padding: 40px 22px;
}
</style>

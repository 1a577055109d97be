<script setup lang="ts">
/** Nothing is open yet: what can be done here. */
</script>

<template>
  <div class="start">
    <h1>What the numbers are judged by</h1>
    <p>
      A family may have limits for many checks, each for a condition, each with its source and its revision.
      Where nobody published one, the set is compared with itself, and from eight proven-good injectors on
      with the house’s own reference. A newer revision never rewrites an old verdict.
    </p>
    <p class="acts">
      <RouterLink class="side-act" to="/library/new">Add a family</RouterLink>
      <RouterLink class="side-act" to="/library/file">Limits from a file</RouterLink>
      <a class="side-act" href="/api/library/limits.csv" download>All limits as CSV</a>
      <a class="side-act" href="/api/library/export.json" download>Everything as JSON</a>
    </p>
  </div>
</template>

<style scoped>
.start {
  display: grid;
  gap: 16px;
  max-width: 620px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>

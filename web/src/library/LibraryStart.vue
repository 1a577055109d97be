<script setup lang="ts">
/** Nothing is open yet: what can be done here. */
</script>

<template>
  <div class="start">
    <h1>Limits and their sources</h1>
    <p>
      A family may have limits for many checks, each for a condition, each with its source and revision.
      Without published limits, injectors are compared with one another, and from eight proven-good injectors
      with the workshop’s own reference. A newer revision never rewrites an old verdict.
    </p>
    <p class="acts">
      <RouterLink class="side-act" to="/library/new">Add a family</RouterLink>
      <RouterLink class="side-act" to="/library/new-engine">Add an engine</RouterLink>
      <RouterLink class="side-act" to="/library/new-plan">Add a test plan</RouterLink>
      <RouterLink class="side-act" to="/library/file">Import limits</RouterLink>
      <a class="side-act" href="/api/library/limits.csv" download>Export limits (CSV)</a>
      <a class="side-act" href="/api/library/export.json" download>Export library (JSON)</a>
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

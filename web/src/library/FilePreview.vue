<script setup lang="ts">
import type { LibraryPreview } from '@/api/types';

/** What a file would change, row by row, before anything is changed. */
defineProps<{ preview: LibraryPreview; busy: boolean }>();
const emit = defineEmits<{ take: [leaveOut: boolean] }>();
</script>

<template>
  <div class="preview" role="status">
    <dl class="counts">
      <div>
        <dt>new</dt>
        <dd>{{ preview.adds }}</dd>
      </div>
      <div>
        <dt>revised</dt>
        <dd>{{ preview.revises }}</dd>
      </div>
      <div>
        <dt>unchanged</dt>
        <dd>{{ preview.same }}</dd>
      </div>
      <div :class="{ bad: preview.bad_rows }">
        <dt>cannot be read</dt>
        <dd>{{ preview.bad_rows }}</dd>
      </div>
    </dl>
    <p class="acts">
      <button
        v-if="preview.adds + preview.revises > 0"
        class="main-act"
        type="button"
        :disabled="busy"
        @click="emit('take', preview.bad_rows > 0)"
      >
        {{
          preview.bad_rows
            ? `Import ${preview.adds + preview.revises}, skip ${preview.bad_rows} bad rows`
            : `Approve and import ${preview.adds + preview.revises}`
        }}
      </button>
      <span v-else class="muted">No changes.</span>
    </p>
    <template v-if="preview.problems.length">
      <h2>Rows that cannot be read</h2>
      <ul class="problems">
        <li v-for="(problem, i) in preview.problems" :key="i">
          <strong>Row {{ problem.row }}</strong> <span class="cell">{{ problem.field }}</span>
          {{ problem.message }}
        </li>
      </ul>
    </template>
    <template v-if="preview.changes.length">
      <h2>Changes</h2>
      <ul class="changes">
        <li v-for="(change, i) in preview.changes" :key="i">
          <span class="what" :class="change.change">{{ change.change === 'adds' ? 'new' : 'revised' }}</span>
          <strong>{{ change.title }}</strong><span v-if="change.new_family" class="muted small">
            (a new family)</span
          >
          {{ change.after }}
          <span v-if="change.before" class="muted small">instead of {{ change.before }}</span>
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.preview {
  display: grid;
  gap: 12px;
  justify-items: start;
  width: 100%;
}
.acts {
  display: flex;
  align-items: center;
  gap: 14px;
}
.counts {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  width: 100%;
  margin: 0;
  border-top: 2px solid var(--ink);
}
.counts > div {
  padding: 6px 0;
  display: flex;
  flex-direction: column-reverse;
}
dd {
  margin: 0;
  font-size: 2.2rem;
  font-weight: 700;
  line-height: 1.1;
}
.bad {
  color: var(--too-much);
}
.cell {
  border: 1px solid var(--edge);
  border-radius: 4px;
  padding: 0 6px;
  margin: 0 4px;
}
.what {
  display: inline-block;
  min-width: 70px;
  color: var(--act);
  font-weight: 700;
}
.what.revises {
  color: var(--look);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
}
li {
  border-top: 1px solid var(--line);
  padding: 6px 0;
}
</style>

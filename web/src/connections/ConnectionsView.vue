<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { ask, refusal } from '@/api/client';
import type { ConnectionView, TestedConnection } from '@/api/types';
import { ahead } from '@/api/clock';
import { useNow } from '@/domain/useNow';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import { sayHeadline } from '@/shell/useHeadline';
import ConnectionForm from './ConnectionForm.vue';
import LiveColumns from './LiveColumns.vue';
import LiveState from './LiveState.vue';
import { useConnections } from './useConnections';
import { useLive } from './useLive';
import { DEVICE, QUANTITY } from '@/words';
import { ago, noConnections, onlyListed, recordsOnly } from './words';

/** Instruments and stand-ins by address: what each is, what it shows, and how old that is. */
const { query, all, anew } = useConnections();
const now = useNow();
const chosen = ref('');
const editing = ref<'' | 'new' | 'change'>('');
const view = computed(() => all.value.find((one) => one.connection.id === chosen.value) ?? all.value[0]);
const measured = computed(() => (view.value?.measures.length ? view.value.connection.id : undefined));
const live = useLive(() => (editing.value ? undefined : measured.value));
const tested = ref<Record<string, TestedConnection>>({});
const testing = ref('');
const wrong = ref('');
watch(all, (now) => sayHeadline('Connections', `${now.length} listed`), { immediate: true });

async function test(id: string) {
  testing.value = id;
  wrong.value = '';
  try {
    tested.value[id] = await ask('post', '/api/connections/{connection}/test', {
      params: { path: { connection: id } },
    });
  } catch (error) {
    wrong.value = refusal(error).message;
  } finally {
    testing.value = '';
  }
}
async function testAll() {
  for (const one of all.value) await test(one.connection.id);
}
const result = computed(() => (view.value ? tested.value[view.value.connection.id] : undefined));
const last = (one: ConnectionView) => tested.value[one.connection.id]?.shown ?? one.last ?? undefined;
const state = (one: ConnectionView) => {
  const known = tested.value[one.connection.id];
  if (known?.wrong) return 'wrong';
  return known || one.last ? 'reads' : 'untested';
};
const word = { wrong: 'no reading', reads: 'answers', untested: 'not tested' };
const aged = (at: string) => ago((now.value + ahead.value - Date.parse(at)) / 1000);

async function done(id?: string) {
  editing.value = '';
  await anew();
  if (id) chosen.value = id;
}
</script>

<template>
  <main>
    <div class="top">
      <ShelfNav />
      <button class="main-act" type="button" @click="editing = 'new'">Add a connection</button>
    </div>
    <StateLine
      v-if="!all.length && !editing"
      :loading="query.isPending.value"
      :error="query.error.value"
      :empty="noConnections"
      @again="query.refetch()"
    />
    <div v-else class="connections">
      <section aria-label="Listed">
        <p class="lead">
          <span class="muted">{{ onlyListed }}</span>
          <button class="side-act" type="button" :disabled="!!testing" @click="testAll">
            Test connections
          </button>
        </p>
        <ul>
          <li v-for="one in all" :key="one.connection.id">
            <button
              type="button"
              :aria-pressed="view?.connection.id === one.connection.id"
              @click="((chosen = one.connection.id), (editing = ''))"
            >
              <span class="socket" :class="state(one)" aria-hidden="true"></span>
              <span class="name">{{ one.connection.name }}</span>
              <span class="kind muted">{{ DEVICE[one.connection.kind] }}, {{ one.connection.address }}</span>
              <span class="at">
                <template v-if="testing === one.connection.id">asking</template>
                <template v-else-if="state(one) === 'wrong'">{{ word.wrong }}</template>
                <template v-else-if="last(one)">
                  <strong>{{ last(one)!.typed.slice(0, 4).join(', ') }}</strong>
                  <span class="muted small aged">{{ aged(last(one)!.at) }}</span>
                </template>
                <span v-else class="muted">{{ word[state(one)] }}</span>
              </span>
            </button>
          </li>
        </ul>
      </section>
      <aside aria-label="Connection">
        <ConnectionForm v-if="editing === 'new'" key="new" @done="done" />
        <ConnectionForm
          v-else-if="editing === 'change' && view"
          :key="view.connection.id"
          :connection="view.connection"
          @done="done"
        />
        <template v-else-if="view">
          <h2>{{ view.connection.name }}</h2>
          <template v-if="measured">
            <LiveColumns :look="live.look.value" />
            <LiveState :live="live" :name="QUANTITY[view.measures[0]!]" />
          </template>
          <p v-else class="muted">{{ recordsOnly }}</p>
          <button class="main-act" type="button" :disabled="!!testing" @click="test(view.connection.id)">
            Test connection
          </button>
          <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
          <dl v-if="result" class="result" role="status">
            <dt>Identity</dt>
            <dd>{{ result.identity ?? 'none' }}</dd>
            <dt>Reading</dt>
            <dd>{{ result.shown?.typed.join(', ') ?? (result.wrong ? 'none' : 'takes recordings') }}</dd>
            <dt>Took</dt>
            <dd>{{ result.took_ms }} ms</dd>
            <template v-if="result.wrong">
              <dt>Wrong</dt>
              <dd class="wrong">{{ result.wrong }}</dd>
            </template>
          </dl>
          <button class="side-act" type="button" @click="editing = 'change'">
            Edit {{ view.connection.name }}
          </button>
        </template>
      </aside>
    </div>
  </main>
</template>

<style scoped>
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 0 22px 0 10px;
  border-bottom: 1px solid var(--line);
}
.top .main-act {
  min-height: 40px;
}
.connections {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 480px;
  min-height: calc(100vh - 103px);
}
.lead {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 20px;
  padding: 12px 22px;
}
.lead .side-act {
  flex: none;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--line);
}
li button {
  width: 100%;
  min-height: 64px;
  border: 0;
  border-bottom: 1px solid var(--line);
  border-left: 6px solid transparent;
  background: none;
  text-align: left;
  cursor: pointer;
  padding: 7px 22px 7px 16px;
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr) auto;
  gap: 0 12px;
  align-items: center;
}
li button[aria-pressed='true'] {
  background: var(--sheet);
  border-left-color: var(--act);
}
/* A socket: something in it, empty, or crossed out. */
.socket {
  grid-row: span 2;
  width: 26px;
  height: 26px;
  border: 3px solid var(--not-measured);
  border-radius: 0 0 13px 13px;
}
.socket.reads {
  border-color: var(--inside);
  background: var(--inside);
}
.socket.wrong {
  border-color: var(--too-much);
  background: linear-gradient(45deg, transparent 42%, var(--too-much) 42% 58%, transparent 58%);
}
.name {
  font-weight: 700;
  font-size: 1.1rem;
}
.kind {
  grid-column: 2;
}
.aged {
  display: block;
}
.at {
  grid-column: 3;
  grid-row: 1 / 3;
  text-align: right;
}
aside {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 18px 24px 30px;
  display: grid;
  gap: 16px;
  align-content: start;
}
.result {
  display: grid;
  grid-template-columns: 90px minmax(0, 1fr);
  gap: 6px 12px;
  margin: 0;
}
dt {
  color: var(--muted);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
@media (max-width: 1100px) {
  .connections {
    grid-template-columns: 1fr;
  }
}
</style>

<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { PersonView } from '@/api/types';
import { day } from '@/domain/time';
import PinForm from '@/shell/PinForm.vue';
import PlainDialog from '@/shell/PlainDialog.vue';
import { useBench } from '@/shell/useBench';
import { usePeople } from '@/shell/usePeople';
import AccountLine from './AccountLine.vue';
import AddPerson from './AddPerson.vue';
import { goesOnAs, leftOn } from './words';

/** Who works here: names that were written twice are merged, those who left are retired. */
const bench = useBench();
const people = usePeople();
const asking = ref<PersonView>();
const pin = ref(false);
const wrong = ref('');
/** Where people sign in, the owner says who works here. */
const changes = computed(() => bench.open.value || bench.sign.value?.person?.role === 'owner');
const others = computed(() => people.active.value.filter((one) => one.id !== asking.value?.id));
const retired = computed(() => people.all.value.filter((one) => one.retired));
const nameOf = (id: string) => people.all.value.find((one) => one.id === id)?.name ?? '';

function said(person: PersonView): string {
  const retired = person.retired;
  if (!retired) return '';
  return retired.same_as ? goesOnAs(nameOf(retired.same_as)) : leftOn(day(retired.at));
}
async function change(person: PersonView, body: { retired: boolean; same_as?: string }) {
  try {
    people.took(await act('put', '/api/people/{person}', { params: { path: { person: person.id } }, body }));
    [asking.value, wrong.value] = [undefined, ''];
  } catch (error) {
    const problem = refusal(error);
    wrong.value = problem.fields[0]?.message ?? problem.message;
  }
}
</script>

<template>
  <section>
    <h1>People</h1>
    <ul class="list">
      <li v-for="person in people.active.value" :key="person.id">
        <span>
          <strong>{{ person.name }}</strong>
          <span class="muted small">{{ person.has_pin ? ' PIN set' : ' no PIN' }}</span>
        </span>
        <AccountLine v-if="!bench.open.value" :person="person" @changed="people.took">
          <button
            v-if="person.id !== bench.id.value"
            class="side-act"
            type="button"
            @click="[asking, wrong] = [person, '']"
          >
            Retire {{ person.name }}
          </button>
        </AccountLine>
        <button v-if="person.id === bench.id.value" class="side-act" type="button" @click="pin = !pin">
          {{ person.has_pin ? 'Change PIN' : 'Set PIN' }}
        </button>
        <button
          v-else-if="bench.open.value"
          class="side-act"
          type="button"
          @click="[asking, wrong] = [person, '']"
        >
          Retire {{ person.name }}
        </button>
      </li>
      <li v-for="person in retired" :key="person.id" class="muted">
        <span
          >{{ person.name }} <span class="small">{{ said(person) }}</span></span
        >
        <button v-if="changes" class="side-act" type="button" @click="change(person, { retired: false })">
          Restore {{ person.name }}
        </button>
      </li>
    </ul>
    <PinForm v-if="pin" @done="pin = false" />
    <p v-if="wrong && !asking" class="wrong" role="alert">{{ wrong }}</p>
    <button v-if="bench.open.value" class="side-act" type="button" @click="bench.choose">
      Choose or add people
    </button>
    <AddPerson v-else />
    <PlainDialog v-if="asking" :title="`Retire ${asking.name}`" @close="asking = undefined">
      <p>Nobody can sign with this name any more. What it signed stays signed.</p>
      <button class="side-act" type="button" @click="change(asking, { retired: true })">
        Retire {{ asking.name }}
      </button>
      <template v-if="others.length">
        <p>
          Written down twice? Merge the name: the two then count as one person, also for a second signature.
        </p>
        <div class="others">
          <button
            v-for="other in others"
            :key="other.id"
            class="side-act"
            type="button"
            @click="change(asking, { retired: true, same_as: other.id })"
          >
            Merge into {{ other.name }}
          </button>
        </div>
      </template>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    </PlainDialog>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 12px;
  align-content: start;
  justify-items: start;
}
.list {
  display: grid;
  gap: 6px;
  width: 100%;
  max-width: 30em;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  border-top: 1px solid var(--line);
  padding-top: 6px;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
}
.others {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>

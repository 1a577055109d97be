<script setup lang="ts">
import { computed, ref } from 'vue';
import { ask, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { AccountRequest, PersonView, Role } from '@/api/types';
import { useBench } from '@/shell/useBench';
import { ROLE } from '@/words';
import LinkShown from './LinkShown.vue';
import RoleChoice from './RoleChoice.vue';
import { accountClosed, linkNotUsed, noAccount } from './words';

/** What one person may do, and how the person comes in. The owner changes it, everybody sees it. */
const props = defineProps<{ person: PersonView }>();
const emit = defineEmits<{ changed: [people: PersonView[]] }>();
const bench = useBench();
const token = ref('');
const wrong = ref('');
const opened = ref(false);
const me = computed(() => props.person.id === bench.id.value);
const account = computed(() => props.person.account);
const owns = computed(() => bench.sign.value?.person?.role === 'owner');
const lets = computed(() => account.value && !account.value.closed);
const says = computed(() => {
  const one = account.value;
  if (!one) return noAccount;
  if (one.closed) return accountClosed;
  return one.has_password ? ROLE[one.role] : `${ROLE[one.role]}, ${linkNotUsed}`;
});
const role = computed({
  get: () => account.value?.role ?? '',
  set: (role) => void change({ role: role as Role, closed: false }),
});

async function change(body: AccountRequest) {
  const params = { path: { person: props.person.id } };
  try {
    emit('changed', await act('put', '/api/people/{person}/account', { params, body }));
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).fields[0]?.message ?? refusal(error).message;
  }
}
async function makeLink() {
  try {
    const params = { path: { person: props.person.id } };
    token.value = (await ask('post', '/api/people/{person}/link', { params })).token;
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
</script>

<template>
  <span class="muted small">{{ says }}</span>
  <button v-if="owns" class="side-act" type="button" :aria-expanded="opened" @click="opened = !opened">
    Edit account of {{ person.name }}
  </button>
  <div v-if="opened" class="account">
    <RoleChoice :id="`role-${person.id}`" v-model="role" :label="`Role of ${person.name}`" />
    <template v-if="lets">
      <button class="side-act" type="button" @click="makeLink">Make link</button>
      <button class="side-act" type="button" @click="change({ closed: false })">Stop sessions</button>
      <button v-if="!me" class="side-act" type="button" @click="change({ closed: true })">
        Close account
      </button>
    </template>
    <slot />
    <LinkShown v-if="token" :name="person.name" :token="token" />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.account {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  width: 100%;
  border-left: 6px solid var(--line);
  padding: 4px 0 8px 12px;
}
</style>

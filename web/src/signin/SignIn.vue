<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import { useBench } from '@/shell/useBench';
import JoinForm from './JoinForm.vue';
import PasswordForm from './PasswordForm.vue';
import PinChoice from './PinChoice.vue';
import { choosePassword, firstOwner, noOwnerYet, signInHere, whoIsAtBench } from './words';

/** Nobody is in: a name and its PIN on a tablet of the bench, name and password elsewhere. */
const bench = useBench();
const route = useRoute();
const byPassword = ref(false);
const joining = computed(() => route.path === '/join');
const tablet = computed(() => bench.sign.value?.tablet);
const names = computed(() => !!bench.sign.value?.bench.length && !byPassword.value);
const title = computed(() => {
  if (joining.value) return bench.sign.value?.first ? firstOwner : choosePassword;
  return names.value ? whoIsAtBench : signInHere;
});
</script>

<template>
  <main class="door">
    <div class="plate">
      <p class="name">cobaltine</p>
      <svg viewBox="0 0 120 34" aria-hidden="true">
        <g v-for="i in 6" :key="i" :transform="`translate(${i * 18}, 0)`">
          <rect x="-4" y="2" width="8" height="13" rx="2" />
          <path d="M-2.5 15 h5 v8 l-2.5 7 l-2.5 -7 z" />
        </g>
      </svg>
      <p class="where">{{ tablet || 'Injector work, from complaint to proof' }}</p>
    </div>
    <section>
      <h1>{{ title }}</h1>
      <JoinForm v-if="joining" />
      <template v-else>
        <p v-if="bench.sign.value?.first" class="caution">{{ noOwnerYet }}</p>
        <PinChoice v-if="names" />
        <PasswordForm v-else />
        <button
          v-if="bench.sign.value?.bench.length"
          class="link-act"
          type="button"
          @click="byPassword = !byPassword"
        >
          {{ byPassword ? 'Use a PIN' : 'Use a password' }}
        </button>
      </template>
    </section>
  </main>
</template>

<style scoped>
.door {
  min-height: 100vh;
  display: grid;
  grid-template-columns: minmax(220px, 34%) 1fr;
}
.plate {
  background: var(--bar);
  color: var(--bar-ink);
  padding: 40px 36px;
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  gap: 20px;
}
.plate .name {
  font-size: 2rem;
  font-weight: 700;
}
.plate svg {
  width: 100%;
  fill: var(--bar-muted);
}
.plate .where {
  font-size: 1.3rem;
}
section {
  padding: 40px min(7vw, 80px);
  display: grid;
  gap: 18px;
  align-content: start;
  max-width: 820px;
}
h1 {
  font-size: 2rem;
}
form {
  max-width: 420px;
}
.link-act {
  justify-self: start;
}
@media (max-width: 700px) {
  .door {
    grid-template-columns: 1fr;
    grid-template-rows: auto 1fr;
  }
  .plate {
    padding: 16px 20px;
  }
  .plate svg {
    display: none;
  }
}
</style>

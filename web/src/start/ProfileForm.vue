<script setup lang="ts">
import { reactive, ref, watch } from 'vue';
import { Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import TypedField from '@/shell/TypedField.vue';
import PickOne from '@/shell/PickOne.vue';
import type { Units } from '@/api/types';
import { UNIT_KIND, UNITS } from '@/words';
import { useProfile } from './useProfile';

/** The workshop itself: what stands at the head of its reports, and the units that it reads. */
const emit = defineEmits<{ done: [] }>();
const { record, refresh } = useProfile();
const units = reactive<Units>({
  pressure: 'bar',
  torque: 'newton_metre',
  temperature: 'celsius',
  flow: 'ml_min',
  distance: 'km',
});
const form = reactive({ name: '', address: '', currency: '', logo: '', units });
const kinds = Object.keys(UNIT_KIND) as (keyof Units)[];
const wrong = ref<Refusal>();
const saved = ref(false);
let filled = false;
watch(
  record,
  (now) => {
    if (now?.revision && !filled) {
      Object.assign(units, now.profile.units);
      Object.assign(form, now.profile, { units });
    }
    filled ||= !!now;
  },
  { immediate: true },
);
async function picture(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (!file) return;
  const reader = new FileReader();
  reader.onload = () => (form.logo = String(reader.result));
  reader.readAsDataURL(file);
}
async function save() {
  try {
    await act('put', '/api/profile', { body: { revision: record.value?.revision ?? 0, profile: form } });
    wrong.value = undefined;
    saved.value = true;
    await refresh();
    emit('done');
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form class="profile" @submit.prevent="save">
    <TypedField v-model="form.name" name="own-name" word="Workshop" wide :wrong="wrong?.about('name')" />
    <label for="own-address">Address and telephone</label>
    <textarea id="own-address" v-model="form.address" rows="3"></textarea>
    <p v-if="wrong?.about('address')" class="wrong small" role="alert">{{ wrong.about('address') }}</p>
    <TypedField
      v-model="form.currency"
      name="own-currency"
      word="Currency, such as EUR"
      wide
      :wrong="wrong?.about('currency')"
    />
    <fieldset class="units">
      <legend>Units, as they are read here. Others can be typed at any time.</legend>
      <PickOne
        v-for="kind in kinds"
        :key="kind"
        :model-value="units[kind] as string"
        :word="UNIT_KIND[kind]"
        :options="UNITS[kind]"
        @update:model-value="Object.assign(units, { [kind]: $event })"
      />
    </fieldset>
    <div class="logo">
      <label class="side-act"
        >Choose logo <input type="file" accept="image/png,image/jpeg,image/webp" @change="picture"
      /></label>
      <img v-if="form.logo" :src="form.logo" alt="Logo" />
      <button v-if="form.logo" class="link-act" type="button" @click="form.logo = ''">Remove logo</button>
    </div>
    <p v-if="wrong?.about('logo')" class="wrong small" role="alert">{{ wrong.about('logo') }}</p>
    <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    <p class="act">
      <button class="main-act" type="submit">Save workshop</button>
      <span v-if="saved" class="muted" role="status">Saved</span>
    </p>
  </form>
</template>

<style scoped>
.profile {
  display: grid;
  gap: 8px;
  max-width: 560px;
}
textarea {
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 8px 10px;
}
.units {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 8px;
}
.logo,
.act {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.logo input {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
}
.logo label {
  position: relative;
}
img {
  max-height: 60px;
  max-width: 200px;
}
</style>

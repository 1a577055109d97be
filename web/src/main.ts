import { VueQueryPlugin } from '@tanstack/vue-query';
import { createApp } from 'vue';
import App from './App.vue';
import { refusal } from './api/client';
import { router } from './router';
import './theme/base.css';

/** What the program refuses is not asked for again; silence is. */
const retry = (times: number, error: unknown) => refusal(error).status === 0 && times < 3;

createApp(App)
  .use(router)
  .use(VueQueryPlugin, { queryClientConfig: { defaultOptions: { queries: { retry } } } })
  .mount('#app');

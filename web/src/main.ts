import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query';
import { createApp } from 'vue';
import App from './App.vue';
import { follow } from './api/changes';
import { refusal, whoIsIn } from './api/client';
import { router } from './router';
import { useBench } from './shell/useBench';
import './theme/base.css';

/** What the program refuses is not asked for again; silence is. */
const retry = (times: number, error: unknown) => refusal(error).status === 0 && times < 3;

const cache = new QueryClient({ defaultOptions: { queries: { retry } } });
/** The first thing that the page knows is who is in; a program that does not answer opens as it was. */
void whoIsIn().finally(() => {
  follow(cache);
  if (!useBench().open.value) void import('./signin/stay').then(({ stay }) => stay());
  createApp(App).use(router).use(VueQueryPlugin, { queryClient: cache }).mount('#app');
});

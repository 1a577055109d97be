import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query';
import { createApp } from 'vue';
import App from './App.vue';
import { follow } from './api/changes';
import { refusal } from './api/client';
import { router } from './router';
import './theme/base.css';

/** What the program refuses is not asked for again; silence is. */
const retry = (times: number, error: unknown) => refusal(error).status === 0 && times < 3;

const cache = new QueryClient({ defaultOptions: { queries: { retry } } });
follow(cache);
createApp(App).use(router).use(VueQueryPlugin, { queryClient: cache }).mount('#app');

import { createRouter, createWebHistory } from 'vue-router';
import BoardView from './board/BoardView.vue';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'board', component: BoardView },
    { path: '/calculators', redirect: '/calculators/units' },
    { path: '/calculators/:id', component: () => import('./calculators/CalculatorsView.vue') },
    {
      path: '/library',
      component: () => import('./library/LibraryView.vue'),
      children: [
        { path: '', component: () => import('./library/LibraryStart.vue') },
        { path: 'new', component: () => import('./library/FamilyForm.vue') },
        { path: 'file', component: () => import('./library/FilePanel.vue') },
        { path: 'families/:id', component: () => import('./library/FamilyCard.vue'), props: true },
        { path: 'items/:id', component: () => import('./library/ItemCard.vue'), props: true },
      ],
    },
    { path: '/bench', component: () => import('./bench/BenchList.vue') },
    { path: '/bench/new', component: () => import('./bench/BenchStart.vue') },
    { path: '/bench/:id', redirect: (to) => `/bench/${String(to.params.id)}/visual` },
    { path: '/bench/:id/:test([a-z_]+)', component: () => import('./bench/BenchView.vue') },
    { path: '/instruments', component: () => import('./instruments/InstrumentsView.vue') },
    { path: '/rules', component: () => import('./rules/RulesView.vue') },
    { path: '/rules/weights', component: () => import('./rules/WeightsView.vue') },
    { path: '/workshop', name: 'workshop', component: () => import('./workshop/WorkshopView.vue') },
    { path: '/jobs/new', name: 'new-job', component: () => import('./takein/TakeInView.vue') },
    {
      path: '/jobs/:id',
      component: () => import('./job/JobShell.vue'),
      props: true,
      children: [
        { path: '', redirect: (to) => `/jobs/${String(to.params.id)}/on-engine` },
        { path: 'take-in', component: () => import('./takein/TakeInView.vue') },
        { path: 'take-in/plan', component: () => import('./plan/PlanView.vue') },
        { path: 'rule-out', redirect: (to) => `/jobs/${String(to.params.id)}/rule-out/fuel_sample` },
        { path: 'on-engine/swap', component: () => import('./swap/SwapView.vue') },
        { path: 'electrical', redirect: (to) => `/jobs/${String(to.params.id)}/electrical/supply` },
        { path: ':stage(rule-out|electrical)/notes', component: () => import('./job/NotesView.vue') },
        {
          path: ':at(rule-out|electrical|on-engine)/:check([a-z_]+)',
          component: () => import('./sheet/SheetView.vue'),
        },
        { path: 'on-engine', component: () => import('./returntest/ReturnView.vue') },
        { path: 'decide', component: () => import('./decide/DecideView.vue') },
        { path: 'bench', component: () => import('./bench/JobBench.vue') },
        {
          path: ':stage(bench|refit|prove)/notes',
          component: () => import('./job/NotesView.vue'),
        },
        {
          path: ':stage(refit|prove)',
          component: () => import('./job/NotesView.vue'),
        },
      ],
    },
    {
      path: '/jobs/:id/report',
      name: 'report',
      component: () => import('./report/ReportView.vue'),
      props: true,
    },
    { path: '/:rest(.*)*', component: () => import('./shell/NothingHere.vue') },
  ],
});

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
    { path: '/instruments', component: () => import('./instruments/InstrumentsView.vue') },
    { path: '/rules', component: () => import('./rules/RulesView.vue') },
    { path: '/workshop', name: 'workshop', component: () => import('./workshop/WorkshopView.vue') },
    { path: '/jobs/new', name: 'new-job', component: () => import('./takein/TakeInView.vue') },
    {
      path: '/jobs/:id',
      component: () => import('./job/JobShell.vue'),
      props: true,
      children: [
        { path: '', redirect: (to) => `/jobs/${String(to.params.id)}/on-engine` },
        { path: 'take-in', component: () => import('./takein/TakeInView.vue') },
        { path: 'electrical', redirect: (to) => `/jobs/${String(to.params.id)}/electrical/supply` },
        { path: ':stage(rule-out|electrical)/notes', component: () => import('./job/NotesView.vue') },
        {
          path: ':at(rule-out|electrical|on-engine)/:check([a-z_]+)',
          component: () => import('./sheet/SheetView.vue'),
        },
        { path: 'on-engine', component: () => import('./returntest/ReturnView.vue') },
        { path: 'decide', component: () => import('./decide/DecideView.vue') },
        {
          path: ':stage(rule-out|bench|refit|prove)',
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

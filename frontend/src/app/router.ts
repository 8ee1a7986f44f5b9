import { createRouter, createWebHistory } from 'vue-router'
import BenchView from '@/features/bench/BenchView.vue'
import { SHEET_NAMES, sheetOf } from '@/features/job/stages'

const job = () => import('@/features/job/JobView.vue')

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', name: 'bench', component: BenchView, meta: { title: 'Bench' } },
    { path: '/jobs/:id', redirect: (to) => sheetOf(String(to.params.id), 'intake') },
    {
      path: `/jobs/:id/:stage(${SHEET_NAMES.join('|')})`,
      name: 'job',
      component: job,
      props: true,
    },
    {
      path: '/drawer',
      name: 'drawer',
      component: () => import('@/features/stock/DrawerView.vue'),
      meta: { title: 'Drawer' },
    },
    {
      path: '/shopping',
      name: 'shopping',
      component: () => import('@/features/buying/ShoppingView.vue'),
      meta: { title: 'Shopping list' },
    },
    {
      path: '/meters',
      name: 'meters',
      component: () => import('@/features/instruments/MetersView.vue'),
      meta: { title: 'Meters' },
    },
    {
      path: '/workshop',
      name: 'workshop',
      component: () => import('@/features/workshop/WorkshopView.vue'),
      meta: { title: 'Workshop' },
    },
    {
      path: '/dropper',
      name: 'dropper',
      component: () => import('@/features/circuits/DropperView.vue'),
      meta: { title: 'Dropper bench' },
    },
    {
      path: '/supply/:kind(transformer|switching|string|forming|walk)?',
      name: 'supply',
      props: true,
      component: () => import('@/features/circuits/SupplyView.vue'),
      meta: { title: 'Supply bench' },
    },
    {
      path: '/may-replace',
      name: 'question',
      component: () => import('@/features/replacement/QuestionView.vue'),
      meta: { title: 'May it replace' },
    },
    {
      path: '/label/:kind(part|position)/:id',
      name: 'label',
      props: true,
      component: () => import('@/features/labels/LabelView.vue'),
      meta: { title: 'Label' },
    },
    {
      path: '/seen-before',
      name: 'memory',
      component: () => import('@/features/memory/MemoryView.vue'),
      meta: { title: 'Seen before' },
    },
    {
      path: '/policy',
      name: 'policy',
      component: () => import('@/features/workshop/PolicyView.vue'),
      meta: { title: 'Policy' },
    },
    {
      path: '/:rest(.*)',
      name: 'nowhere',
      component: () => import('@/app/NowhereView.vue'),
      meta: { title: 'Not here' },
    },
  ],
})

router.afterEach((to) => {
  document.title = to.meta.title ? `${String(to.meta.title)} – Dusky Heron` : 'Dusky Heron'
})

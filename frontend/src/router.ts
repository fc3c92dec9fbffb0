import { createRouter, createWebHistory } from 'vue-router'

const kit = (view: string) => `/kits/:kitId/${view}`

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'start', component: () => import('@/frame/StartView.vue') },
    { path: '/new', name: 'new', component: () => import('@/gather/GatherView.vue') },
    { path: kit('gather/:source?'), name: 'gather', component: () => import('@/gather/GatherView.vue') },
    { path: kit('compose/:view?'), name: 'compose', component: () => import('@/compose/ComposeView.vue') },
    { path: '/kits', name: 'kits', component: () => import('@/frame/KitsView.vue') },
    { path: '/people', name: 'people', component: () => import('@/frame/PeopleView.vue') },
    {
      path: '/shared/:token',
      name: 'shared',
      meta: { open: true },
      component: () => import('@/handover/SharedView.vue'),
    },
    { path: kit('prove/:view?'), name: 'prove', component: () => import('@/prove/ProveView.vue') },
    { path: kit('apply/:setId?'), name: 'apply', component: () => import('@/apply/ApplyView.vue') },
    { path: kit('check/:setId?'), name: 'check', component: () => import('@/check/CheckView.vue') },
    { path: kit('hand-over/:setId?'), name: 'hand-over', component: () => import('@/handover/HandOverView.vue') },
    { path: kit('hand-over-kit'), name: 'hand-over-kit', component: () => import('@/handover/KitHandOverView.vue') },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

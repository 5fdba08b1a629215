// The addresses: the start page, and a session's bench, compare, log and take-out pages.
import { createRouter, createWebHistory } from 'vue-router'
import BenchPage from './BenchPage.vue'
import { now } from './later'
import SessionFrame from './SessionFrame.vue'

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', name: 'start', component: now('StartPage') },
    { path: '/phrases', name: 'phrases', component: now('BookPage') },
    {
      path: '/sessions/:id(\\d+)',
      component: SessionFrame,
      children: [
        { path: '', name: 'bench', component: BenchPage },
        { path: 'compare', name: 'compare', component: now('ComparePage') },
        { path: 'log', name: 'log', component: now('LogPage') },
        { path: 'phrases', name: 'book', component: now('BookPage') },
        { path: 'take-out', name: 'takeout', component: now('TakeOutPage') },
      ],
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

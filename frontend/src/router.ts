// The addresses: the start page, and a session's bench, compare, log and take-out pages.
import { createRouter, createWebHistory } from 'vue-router'
import BenchPage from './bench/BenchPage.vue'
import ComparePage from './compare/ComparePage.vue'
import LogPage from './log/LogPage.vue'
import SessionFrame from './SessionFrame.vue'
import StartPage from './start/StartPage.vue'
import TakeOutPage from './takeout/TakeOutPage.vue'

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', name: 'start', component: StartPage },
    {
      path: '/sessions/:id(\\d+)',
      component: SessionFrame,
      children: [
        { path: '', name: 'bench', component: BenchPage },
        { path: 'compare', name: 'compare', component: ComparePage },
        { path: 'log', name: 'log', component: LogPage },
        { path: 'take-out', name: 'takeout', component: TakeOutPage },
      ],
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

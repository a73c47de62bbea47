import { createRouter, createWebHistory } from 'vue-router'
import BenchView from './views/bench/BenchView.vue'

/** What is open is in the address, so that a reload or a bookmark comes back to it. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/:ticket?/:part?/:step?', name: 'bench', component: BenchView },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

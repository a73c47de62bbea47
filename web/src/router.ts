import { createRouter, createWebHistory } from 'vue-router'
import BenchView from './views/bench/BenchView.vue'
import NowhereView from './views/bench/NowhereView.vue'

/** What is open is in the address, so that a reload or a bookmark comes back to it. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    // A ticket's address begins with its id.
    {
      path: '/:ticket([0-9a-f]{8}-[0-9a-f-]{27})?/:part?/:step?',
      name: 'bench',
      component: BenchView,
      beforeEnter: (to) =>
        to.params.part && !to.params.ticket
          ? { name: 'nowhere', params: { rest: to.path.split('/').slice(1) } }
          : true,
    },
    { path: '/:rest(.*)*', name: 'nowhere', component: NowhereView },
  ],
})

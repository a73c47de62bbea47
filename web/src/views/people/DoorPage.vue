<script setup lang="ts">
import { computed } from 'vue'
import OwlMark from '../../drawing/OwlMark.vue'
import { words } from '../../words/en'
import SignInForm from './SignInForm.vue'
import { link, useSession } from './useSession'

/** Before the bench: whoever comes signs in, or opens the link that somebody was given. */
const w = words.people
const { session, problem, ask } = useSession()
/** The first owner has no name yet; everybody else was given one. */
const first = computed(() => !session.value?.has_owner)

async function entered() {
  // The link is used up: it goes out of the address and of the browser's memory.
  if (link) location.replace('/')
  else await ask()
}
</script>

<template>
  <main class="door">
    <section :aria-label="w.signIn">
      <header>
        <OwlMark />
        <h1>{{ words.name }}</h1>
      </header>
      <p v-if="problem" class="problem" role="alert">
        {{ problem.detail }} <button class="link" @click="ask">{{ words.away.again }}</button>
      </p>
      <p v-else-if="!session" class="loading">{{ words.workshop.loading }}</p>
      <template v-else>
        <p v-if="link">{{ first ? w.firstOwner : w.byLink }}</p>
        <p v-else-if="first" class="note">{{ w.noOwner }}</p>
        <SignInForm v-if="link || !first" :link="link" :names="!link || first" @done="entered" />
        <p v-if="!link && !first" class="note">{{ w.forgotten }}</p>
      </template>
    </section>
  </main>
</template>

<style scoped>
.door {
  min-height: 100vh;
  display: grid;
  place-items: center;
  padding: var(--s20);
  background: var(--baize);
}
section {
  width: min(420px, 100%);
  padding: var(--s20) 28px 28px;
  border: 1px solid var(--edge-strong);
  border-top: 6px solid var(--wood-edge);
  border-radius: 12px;
  background: linear-gradient(var(--panel), var(--panel-low));
}
header {
  display: flex;
  align-items: center;
  gap: var(--s12);
  margin-bottom: var(--s14);
}
h1 {
  font: 600 var(--t-large) var(--title);
}
p {
  margin-bottom: var(--s14);
}
.note {
  margin: var(--s14) 0 0;
}
.problem {
  color: var(--replace);
}
</style>

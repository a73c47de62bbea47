<script setup lang="ts">
import { signedOut } from '../../api/client'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import SignInForm from './SignInForm.vue'
import { useSession } from './useSession'

/** The session is over while something stands half typed behind it: signing in goes on where it was. */
const { ask, leave } = useSession()
</script>

<template>
  <PaperSheet v-if="signedOut" :title="words.people.over" written @close="leave">
    <p>{{ words.people.overWhy }}</p>
    <SignInForm @done="ask" />
  </PaperSheet>
</template>

<style scoped>
p {
  margin-bottom: var(--s14);
  color: var(--muted);
}
</style>

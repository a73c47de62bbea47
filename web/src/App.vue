<script setup lang="ts">
import { ElConfigProvider } from 'element-plus'
import { computed, onMounted, ref, watch } from 'vue'
import CountersignSheet from './views/people/CountersignSheet.vue'
import DoorPage from './views/people/DoorPage.vue'
import SignInSheet from './views/people/SignInSheet.vue'
import { link, useSession } from './views/people/useSession'

const { session, problem, accounts, person, ask } = useSession()
onMounted(ask)
/** The bench stays as it is once somebody stood at it: what was typed outlives a session that ends. */
const entered = ref(false)
watch(
  [session, person],
  () => (entered.value ||= session.value !== null && (!accounts.value || person.value !== null)),
)
const welcome = computed(() => link !== '' && accounts.value && !person.value)
</script>

<template>
  <ElConfigProvider :message="{ max: 3, placement: 'top' }">
    <DoorPage v-if="welcome || (!entered && (session || problem))" />
    <template v-else-if="entered">
      <RouterView />
      <CountersignSheet />
      <SignInSheet />
    </template>
  </ElConfigProvider>
</template>

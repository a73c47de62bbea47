<script setup lang="ts">
import { useSessionStorage } from '@vueuse/core'
import { api, newKey, told } from '../../api/client'
import CautionSign from '../../drawing/CautionSign.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useStage } from '../job/useStage'

/** Before a reading: is the safety list of this set done? Gone once it is. */
const bench = useBench()
const session = useSessionStorage('owl-session', newKey())
const { data } = useStage((id) =>
  told(api.GET('/api/tickets/{id}/safety', { params: { path: { id }, query: { session: session.value } } })),
)
</script>

<template>
  <p v-if="data && !data.all_ticked" class="safety">
    <CautionSign /> <span>{{ words.job.safety.open }}</span>
    <button class="link" @click="bench.openStage('intake')">{{ words.job.safety.go }}</button>
  </p>
</template>

<style scoped>
.safety {
  display: flex;
  gap: var(--s10);
  align-items: center;
  padding: var(--s2) var(--s16);
  background: var(--caution);
  color: var(--caution-ink);
  border-bottom: 1px solid var(--caution-edge);
  font-size: var(--t-body);
}
.link {
  margin-left: auto;
  min-height: 40px;
  text-decoration: underline;
}
</style>

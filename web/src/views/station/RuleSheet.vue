<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, Problem, told, type RuleText } from '../../api/client'
import PaperSheet from '../../components/PaperSheet.vue'
import RuleArticle from '../../components/RuleArticle.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** A rule of the book, with the sum of the case in hand under its formula. */
const props = defineProps<{ number: string; here?: string }>()
defineEmits<{ close: [] }>()
const bench = useBench()
const rule = ref<RuleText | null>(null)
const problem = ref<string | null>(null)
watch(
  () => props.number,
  async (number) => {
    rule.value = problem.value = null
    const query = { ticket: bench.ticketId.value ?? undefined }
    try {
      rule.value = await told(api.GET('/api/rules/{number}', { params: { path: { number }, query } }))
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem.value = e.detail
    }
  },
  { immediate: true },
)
</script>

<template>
  <PaperSheet :title="rule ? `${rule.number} · ${rule.title}` : number" @close="$emit('close')">
    <p v-if="problem" role="alert">{{ problem }}</p>
    <p v-else-if="!rule" role="status">{{ words.rules.loading }}</p>
    <div v-else class="scroll"><RuleArticle :rule="rule" :here="here" /></div>
  </PaperSheet>
</template>

<style scoped>
.scroll {
  max-height: 66vh;
  overflow-y: auto;
}
</style>

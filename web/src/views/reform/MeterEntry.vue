<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import Field from '../../components/Field.vue'
import { api, newKey, Problem, told } from '../../api/client'
import { useBench } from '../bench/useBench'
import { words } from '../../words/en'
import type { Reform } from './useReform'

/** What a hand reads from the meter; nothing typed is lost until it was taken. */
const props = defineProps<{ reform: Reform; fed: boolean }>()
const volts = ref('')
const current = ref('')
// The same key until it was taken: sent twice, it counts once.
let key = newKey()
const form = useTemplateRef('form')
const first = useTemplateRef<{ focus: () => void }>('first')
defineExpose({ focus: () => first.value?.focus() })

async function enter() {
  const sent = { volts: volts.value, current: current.value }
  if (!(await props.reform.read(key, sent.volts, sent.current))) return
  key = newKey()
  // Whoever left the fields meanwhile is not called back.
  const here = form.value?.contains(document.activeElement)
  // Whoever types on while it is sent keeps what he typed.
  if (volts.value === sent.volts) volts.value = ''
  if (current.value === sent.current) current.value = ''
  if (here) first.value?.focus()
}
/** The reforming supply, where it answers on the network: its meter is read, its knob is not turned. */
const bench = useBench()
const supply = computed(() =>
  bench.workshop.value?.instruments.find((i) => i.kind === 'reforming supply' && i.address && !i.retired),
)
const asking = ref(false)
const refused = ref<string | null>(null)
async function ask() {
  asking.value = true
  refused.value = null
  try {
    const id = props.reform.chosen.value ?? ''
    const got = await told(api.POST('/api/reform/runs/{id}/supply', { params: { path: { id } } }))
    volts.value = got.volts
    current.value = got.current
    first.value?.focus()
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    refused.value = e.detail
  } finally {
    asking.value = false
  }
}
const at = (field: string) =>
  computed(() => (props.reform.problem.value?.field === field ? props.reform.problem.value.detail : null))
const voltsWrong = at('volts')
const currentWrong = at('current')
</script>

<template>
  <form ref="form" @submit.prevent="enter">
    <Field v-slot="{ id, described }" :label="words.reform.meter.volts" :wrong="voltsWrong ?? refused">
      <ElInput :id="id" ref="first" v-model="volts" :aria-describedby="described" autocomplete="off" />
    </Field>
    <Field
      v-slot="{ id, described }"
      :label="words.reform.meter.current"
      :wrong="currentWrong"
      :hint="fed ? undefined : words.reform.meter.off"
    >
      <ElInput :id="id" v-model="current" :aria-describedby="described" autocomplete="off" />
    </Field>
    <button v-if="supply" type="button" class="ask" :disabled="asking" @click="ask">
      {{ words.reform.meter.read }}
    </button>
    <button :disabled="!volts">{{ words.reform.meter.enter }} <kbd>Enter</kbd></button>
  </form>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: minmax(0, 200px) minmax(0, 240px) auto auto;
  justify-content: start;
  gap: var(--s12);
  align-items: start;
}
button {
  min-height: 40px;
  margin-top: var(--s20);
  padding: var(--s8) var(--s16);
  justify-self: start;
  border-radius: 9px;
  background: var(--lamp);
  color: var(--lamp-ink);
  font-weight: 600;
}
button.ask {
  background: none;
  color: var(--light);
  border: 1px solid var(--edge-strong);
}
button:disabled {
  opacity: 0.5;
}
</style>

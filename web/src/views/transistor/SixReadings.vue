<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import type { Problem } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { WAYS } from './useIdentify'

/** Red and black on each pair of leads, both ways round: what the diode range shows, one after the other. */
const props = defineProps<{ typed: (string | null)[]; problem: Problem | null }>()
const emit = defineEmits<{ take: [text: string] }>()
const at = defineModel<number>({ required: true })
const w = words.transistor.identify
const text = ref('')
const entry = ref<HTMLInputElement>()
const way = computed(() => WAYS[at.value] ?? WAYS[0])
const wrong = computed(() => (props.problem?.field?.startsWith('readings') ? props.problem.detail : null))
watch(at, (now) => (text.value = props.typed[now] ?? ''), { immediate: true })

function take() {
  emit('take', text.value)
  void nextTick(() => entry.value?.select())
}
/** The arrows go over the six ways round, as over the drawn part. */
function arrow(e: KeyboardEvent) {
  const by: Record<string, number> = { ArrowDown: 1, ArrowUp: -1, ArrowRight: 1, ArrowLeft: -1 }
  const step = by[e.key]
  const field = entry.value
  const sideways = e.key === 'ArrowLeft' || e.key === 'ArrowRight'
  const whole = field && field.selectionStart === 0 && field.selectionEnd === field.value.length
  if (!step || (sideways && text.value !== '' && !whole)) return
  at.value = (at.value + step + 6) % 6
  e.preventDefault()
  void nextTick(() => field?.select())
}
const focus = () => entry.value?.focus()
onMounted(focus)
defineExpose({ take, focus })
</script>

<template>
  <div>
    <Field v-slot="{ id, described }" :label="w.probe(way[0], way[1])" :wrong="wrong">
      <input
        :id="id"
        ref="entry"
        v-model="text"
        class="big-entry volts"
        :placeholder="w.example"
        :aria-describedby="described"
        autocomplete="off"
        spellcheck="false"
        inputmode="decimal"
        @keydown="arrow"
      />
    </Field>
    <ol>
      <li v-for="([red, black], i) in WAYS" :key="i">
        <button
          type="button"
          :class="{ on: at === i }"
          :aria-current="at === i ? 'true' : undefined"
          @click="((at = i), focus())"
        >
          <span class="dot red" aria-hidden="true">{{ red }}</span>
          <span class="dot black" aria-hidden="true">{{ black }}</span>
          <span class="sr">{{ w.red }} {{ red }}, {{ w.black }} {{ black }}</span>
          <b class="num">{{ props.typed[i] === null ? '–' : props.typed[i] || w.nothing }}</b>
        </button>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.volts {
  font-size: 38px;
  line-height: 1.15;
  color: var(--numeral);
}
ol {
  margin-top: var(--s8);
  display: grid;
  gap: var(--s2);
}
button {
  width: 100%;
  min-height: 40px;
  display: grid;
  grid-template-columns: 30px 30px 1fr;
  align-items: center;
  gap: var(--s6);
  padding: var(--s2) var(--s10);
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--strip);
}
.on {
  border-color: var(--lamp);
  box-shadow: inset 0 0 0 1px var(--lamp);
}
b {
  text-align: right;
  font-size: var(--t-large);
}
.dot {
  width: 26px;
  height: 26px;
  border-radius: 50%;
  display: grid;
  place-items: center;
  font: 700 var(--t-note) var(--num);
  color: #fff;
}
.dot.red {
  background: #c8402a;
}
.dot.black {
  background: #141210;
  box-shadow: 0 0 0 1px #cfc6b2;
}
</style>

<script setup lang="ts">
import { nextTick, ref } from 'vue'
import { words } from '../../words/en'
import type { usePairs } from './usePairs'

/** The pieces of a lot, one line each, with a line for the next one; Enter goes on. */
const props = defineProps<{ use: ReturnType<typeof usePairs> }>()
const w = words.transistor.pairs
const { draft, next } = props.use
const gain = ref<HTMLInputElement>()
const volts = ref<HTMLInputElement>()

function wrong(i: number): string | null {
  const field = props.use.problem.value?.field ?? ''
  return field.startsWith(`pieces[${i}]`) ? (props.use.problem.value?.detail ?? null) : null
}
function onward() {
  if (next.gain.trim() && !next.base_volts.trim()) volts.value?.focus()
  else if (props.use.add()) void nextTick(() => gain.value?.focus())
  else gain.value?.focus()
}
</script>

<template>
  <table v-if="draft" class="pieces">
    <thead>
      <tr>
        <th>{{ w.label }}</th>
        <th>{{ w.gain }}</th>
        <th>{{ w.volts }}</th>
        <th>
          <span class="sr">{{ words.transistor.pairs.remove }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(p, i) in draft.pieces" :key="i">
        <td>
          <input
            v-model="p.label"
            :aria-label="`${w.label} ${i + 1}`"
            class="num"
            autocomplete="off"
            @keydown.enter.prevent
          />
        </td>
        <td>
          <input
            v-model="p.gain"
            :aria-label="`${w.gain} ${p.label}`"
            class="num"
            inputmode="decimal"
            @keydown.enter.prevent
          />
        </td>
        <td>
          <input
            v-model="p.base_volts"
            :aria-label="`${w.volts} ${p.label}`"
            class="num"
            inputmode="decimal"
            @keydown.enter.prevent
          />
          <span v-if="wrong(i)" class="problem" role="alert">{{ wrong(i) }}</span>
        </td>
        <td>
          <button
            type="button"
            class="out"
            :aria-label="`${w.remove} ${p.label}`"
            @click="draft.pieces.splice(i, 1)"
          >
            ✕
          </button>
        </td>
      </tr>
      <tr class="next" @keydown.enter.prevent="onward">
        <td><input v-model="next.label" :aria-label="w.label" class="num" autocomplete="off" /></td>
        <td>
          <input
            ref="gain"
            v-model="next.gain"
            :aria-label="w.gain"
            class="num"
            inputmode="decimal"
            placeholder="105"
          />
        </td>
        <td>
          <input
            ref="volts"
            v-model="next.base_volts"
            :aria-label="w.volts"
            class="num"
            inputmode="decimal"
            placeholder="0.615"
          />
        </td>
        <td class="acts">
          <ElButton size="small" @click="onward">{{ w.add }}</ElButton>
          <ElButton size="small" :loading="use.asking.value" @click="use.fromTester">{{
            w.fromTester
          }}</ElButton>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="use.wrong('label') || use.wrong('instrument') || use.wrong('pieces')" class="problem" role="alert">
    {{ use.problem.value?.detail }}
  </p>
</template>

<style scoped>
.pieces {
  width: 100%;
  border-collapse: collapse;
  margin-top: var(--s12);
}
th {
  text-align: left;
  font-weight: 500;
  font-size: var(--t-small);
  color: var(--muted);
}
td {
  padding: var(--s2) var(--s4) var(--s2) 0;
}
input {
  width: 100%;
  min-height: 38px;
  background: var(--well);
  color: var(--well-ink);
  border: 1px solid var(--well-edge);
  border-radius: 7px;
  padding: var(--s2) var(--s10);
  font-size: var(--t-head);
}
.next input {
  border-color: var(--lamp);
}
.next input::placeholder {
  color: var(--well-soft);
  opacity: 0.5;
}
.out {
  width: 40px;
  height: 38px;
  text-align: center;
  color: var(--muted);
}
.acts {
  white-space: nowrap;
  display: flex;
  gap: var(--s4);
}
.acts .el-button {
  min-height: 38px;
}
td:first-child {
  width: 74px;
}
</style>

<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { onMounted, ref } from 'vue'
import { api, Problem, sendFile, told, type Drift, type Past } from '../../api/client'
import DriftChart from '../../drawing/DriftChart.vue'
import { when } from '../../format/time'
import { said } from '../../words/dialect'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** Past work: all tickets asked as one would ask a colleague, drift of families, and tickets that come in from elsewhere. */
const bench = useBench()
const w = words.job.past
const q = ref('')
const found = ref<Past | null>(null)
const drift = ref<Drift | null>(null)
const problem = ref<Problem | null>(null)
const taken = ref<string | null>(null)
const wrong = ref<string | null>(null)
const input = ref<HTMLInputElement>()
/** A record with many pictures takes its time. */
const reading = ref(false)

async function ask() {
  const asked = q.value
  try {
    const got = await told(api.GET('/api/past', { params: { query: { q: asked } } }))
    if (asked === q.value) found.value = got
    problem.value = null
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    problem.value = e
  }
}
const soon = useDebounceFn(ask, 250)
onMounted(async () => {
  await ask()
  try {
    drift.value = await told(api.GET('/api/past/drift'))
  } catch (e) {
    if (!(e instanceof Problem)) throw e
  }
})
function go(ticket: string, part?: string) {
  bench.go({ ticket, part: part ?? null, step: null })
}
async function take(files: FileList | null) {
  const file = files?.[0]
  if (!file) return
  taken.value = wrong.value = null
  try {
    reading.value = true
    const got = await sendFile<{ id: string; name: string }>('/api/tickets/import', file)
    taken.value = got.name
    await bench.refresh()
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    wrong.value = e.detail
  } finally {
    reading.value = false
  }
  if (input.value) input.value.value = ''
}
</script>

<template>
  <div class="desk-page page">
    <section class="desk">
      <label class="ask">
        <span class="sr">{{ w.ask }}</span>
        <input
          v-model="q"
          class="big-entry"
          :placeholder="w.example"
          autocomplete="off"
          maxlength="200"
          @input="soon"
          @keydown.enter.prevent="ask"
        />
      </label>
      <p v-if="problem" class="problem" role="alert">{{ problem.detail }}</p>
      <p v-else-if="found?.understood.length" class="note">
        {{ w.understood }} <b v-for="u in found.understood" :key="u" class="word">{{ u }}</b>
      </p>
      <p v-else class="note">{{ w.begin }}</p>
      <p v-if="found && q && !found.parts.length" class="loading">{{ w.none }}</p>
      <table v-if="found?.parts.length">
        <tbody>
          <tr v-for="p in found.parts" :key="p.ticket + p.part">
            <td>
              <button class="link" @click="go(p.ticket, p.part)">{{ p.set }} · {{ p.part }}</button>
            </td>
            <td>
              {{ p.position ? said(p.position) : p.place
              }}<span class="note fam">{{ p.family ?? p.kind }}</span>
            </td>
            <td class="num r">{{ p.value?.text ?? '' }}</td>
            <td class="num r">
              {{ p.open ? w.open : (p.measured?.text ?? '') }}
              <span class="note">{{ p.deviation ?? '' }}</span>
            </td>
            <td>{{ p.fitted ?? p.decided ?? '' }}</td>
          </tr>
        </tbody>
      </table>
      <template v-if="found?.tickets.length">
        <h3>{{ w.tickets }}</h3>
        <ul>
          <li v-for="t in found.tickets" :key="t.id">
            <button class="link" @click="go(t.id)">{{ t.name }}</button>
            <span class="note">{{ t.complaint }}</span>
          </li>
        </ul>
      </template>
    </section>
    <section class="desk">
      <h3>{{ w.drift }}</h3>
      <p v-if="drift && !drift.families.length" class="note">{{ w.driftNone }}</p>
      <DriftChart v-else-if="drift" :drift="drift" />
      <p v-if="drift?.since" class="note">{{ w.driftSince }} {{ when(drift.since) }}</p>
      <h3 v-if="!q || found?.needed.length">{{ w.needed }}</h3>
      <p v-if="found && !q && !found.needed.length" class="note">{{ w.neededNone }}</p>
      <ul v-else-if="found" class="rows grid needs">
        <li v-for="n in found.needed" :key="n.set + n.part">
          <span>{{ n.set }}</span> <b>{{ n.part }}</b>
          <span class="note">{{ n.position ? said(n.position) : '' }}</span>
          <span class="num">{{ n.times }} {{ w.times }} {{ n.of }}</span>
        </li>
      </ul>
      <h3>{{ w.import }}</h3>
      <label class="file">
        <input
          ref="input"
          type="file"
          class="sr"
          accept="application/json,.json,application/x-tar,.tar"
          :disabled="reading"
          @change="take(($event.target as HTMLInputElement).files)"
        />
        {{ w.import }}
      </label>
      <span class="note hint">{{ w.importHint }}</span>
      <p v-if="reading" class="note" role="status">{{ w.importing }}</p>
      <p v-if="taken" class="keep" role="status">{{ taken }} {{ w.taken }}</p>
      <p v-if="wrong" class="problem" role="alert">{{ wrong }}</p>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 12fr) minmax(0, 10fr);
}
.ask {
  display: block;
  margin-bottom: var(--s8);
}
.word {
  margin-right: var(--s8);
  color: var(--numeral);
}
table {
  width: 100%;
  border-collapse: collapse;
  margin-top: var(--s8);
}
td {
  border-top: 1px solid var(--edge);
  padding: var(--s4) var(--s8) var(--s4) 0;
  vertical-align: baseline;
}
.r {
  text-align: right;
}
.fam {
  display: block;
}
td .link {
  color: var(--light);
}
.hint {
  margin-left: var(--s12);
}
.needs {
  --row: 1fr 60px 110px auto;
}
</style>

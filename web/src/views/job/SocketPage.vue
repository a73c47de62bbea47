<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { api, told, type Part, type PinOnBoard, type SocketOnBoard } from '../../api/client'
import SocketDrawing from '../../drawing/SocketDrawing.vue'
import StatusMark from '../../drawing/StatusMark.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
import PinParts from './PinParts.vue'
import { useSockets } from './useSockets'

/** The set from below, valve by valve and pin by pin: which parts hang where, how they stand, and what was read there. */
const bench = useBench()
const w = words.job.sockets
const { data, problem, fetch, drawings } = useSockets()
const at = ref<string | null>(null)
const picked = ref<PinOnBoard['pin'] | undefined>(undefined)
const heaters = ref(false)
const rows = useTemplateRef<HTMLElement>('rows')

const socket = computed<SocketOnBoard | null>(
  () => data.value?.sockets.find((x) => x.at === at.value) ?? data.value?.sockets[0] ?? null,
)
const pins = computed(() => (socket.value?.pins ?? []).filter((p) => heaters.value || !folds(p)))
/** Heaters are looked at last, unless a part hangs there. */
const folds = (p: PinOnBoard) => p.heater && !p.parts.length
const folded = computed(() => (socket.value?.pins ?? []).filter(folds).length)
const pin = computed(() => pins.value.find((p) => p.pin === picked.value) ?? pins.value[0] ?? null)
// Where the part in hand sits is shown first.
watch(
  data,
  (now) => {
    if (!now || at.value) return
    const own = bench.strip.value?.id
    const has = (p: PinOnBoard) => p.parts.some((x) => x.id === own)
    const found = now.sockets.find((x) => x.pins.some(has) || x.unplaced.some((u) => u.id === own))
    at.value = (found ?? now.sockets[0])?.at ?? null
    picked.value = found?.pins.find(has)?.pin
  },
  { immediate: true },
)
const drawn = computed(() => drawings(socket.value?.drawn ?? null))
const volts = computed(() => {
  const all: Record<number, string> = {}
  for (const p of socket.value?.pins ?? []) if (p.pin !== null) all[p.pin ?? 0] = p.volts?.text ?? ''
  return all
})
const hangs = computed(() => {
  const all: Record<number, PinOnBoard['parts']> = {}
  for (const p of socket.value?.pins ?? []) if (p.pin) all[p.pin] = p.parts
  return all
})
function open(part: { name: string }) {
  bench.go({ part: part.name, step: null })
}
const isHere = computed(() => pin.value?.parts.some((p) => p.id === bench.strip.value?.id) ?? false)
const putting = useSending(bench)
/** The part in hand sits at the pin in hand. */
async function sitsHere() {
  const [part, here] = [bench.strip.value, pin.value]
  if (!part || !here || isHere.value) return
  const body = { version: part.version, place: here.place }
  const done = await putting.send({ ...body, part: part.id }, () =>
    told<Part>(api.PATCH('/api/parts/{id}', { params: { path: { id: part.id } }, body })),
  )
  if (done) await fetch()
}
function turn(by: number) {
  const all = data.value?.sockets ?? []
  const next = all[(all.findIndex((x) => x.at === socket.value?.at) + by + all.length) % all.length]
  if (!next) return
  at.value = next.at
  picked.value = undefined
}
function step(by: number) {
  const i = pins.value.findIndex((p) => p.pin === pin.value?.pin) + by
  const next = pins.value[Math.min(Math.max(i, 0), pins.value.length - 1)]
  if (!next) return
  picked.value = next.pin
  void nextTick(() => rows.value?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' }))
}
/** The arrows walk; Enter opens the part at the pin, H puts the part in hand there. */
function key(k: string): boolean {
  if (k === 'ArrowLeft' || k === 'ArrowRight') turn(k === 'ArrowLeft' ? -1 : 1)
  else if (k === 'ArrowUp' || k === 'ArrowDown') step(k === 'ArrowUp' ? -1 : 1)
  else if (k === 'h' || k === 'H') void sitsHere()
  else if (k === 'Enter' && pin.value?.parts[0]) open(pin.value.parts[0])
  else return false
  return true
}
defineExpose({ key })
</script>

<template>
  <p v-if="problem && !data" class="desk problem" role="alert">
    {{ problem.detail }} <button class="link" @click="fetch">{{ words.away.again }}</button>
  </p>
  <p v-else-if="!data" class="desk loading">{{ words.job.loading }}</p>
  <div v-else class="desk-page page">
    <section class="desk">
      <p v-if="!data.sockets.length" class="loading">{{ w.none }}</p>
      <div v-else class="valves" role="group" :aria-label="w.valves">
        <button
          v-for="x in data.sockets"
          :key="x.at"
          :class="{ on: x.at === socket?.at }"
          :aria-pressed="x.at === socket?.at"
          @click="((at = x.at), (picked = undefined))"
        >
          <b>{{ x.at }}</b> {{ x.type }}
        </button>
      </div>
      <template v-if="socket">
        <SocketDrawing
          v-if="drawn"
          :base="drawn.base"
          :valve="drawn.valve"
          :selected="pin?.pin ?? null"
          :volts="volts"
          :parts="hangs"
          :label="`${socket.at}: ${socket.type}, ${words.job.chart.below}`"
          @pick="(n) => (picked = n)"
        />
        <p v-else class="note">{{ socket.type ? w.notDrawn(socket.type) : w.noType(socket.at) }}</p>
        <p v-if="drawn" class="note">{{ drawn.valve?.what }} · {{ words.job.chart.below }}</p>
      </template>
    </section>
    <section class="desk">
      <table v-if="socket" ref="rows">
        <thead>
          <tr>
            <th>{{ w.pin }}</th>
            <th class="r">{{ words.job.chart.sheet }}</th>
            <th class="r">{{ w.read }}</th>
            <th>{{ w.parts }}</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="p in pins"
            :key="String(p.pin)"
            :class="{ on: p === pin }"
            :aria-selected="p === pin"
            @click="picked = p.pin"
          >
            <th scope="row">
              <b class="num">{{ p.pin ?? w.cap }}</b> {{ p.role }}
            </th>
            <td class="num r">{{ p.sheet?.text ?? '' }}</td>
            <td class="num r">
              {{ p.volts?.text ?? '' }}
              <StatusMark v-if="p.status" :status="p.status" :label="words.job.chart.status[p.status]" />
            </td>
            <td><PinParts :parts="p.parts" :in-hand="bench.strip.value?.id" @open="open" /></td>
          </tr>
        </tbody>
      </table>
      <button v-if="folded" class="link fold" :aria-expanded="heaters" @click="heaters = !heaters">
        {{ heaters ? w.fold : w.unfold(folded) }}
      </button>
      <div v-if="bench.strip.value && pin && !isHere" class="here">
        <ElButton :loading="putting.busy.value" @click="sitsHere">
          {{ w.here(bench.strip.value.name, pin.place) }} <kbd>H</kbd>
        </ElButton>
        <span v-if="bench.strip.value.place" class="note">{{ w.now }} {{ bench.strip.value.place }}</span>
      </div>
      <p v-if="putting.problem.value" class="problem" role="alert">{{ putting.problem.value.detail }}</p>
      <template v-if="socket?.unplaced.length">
        <h3>{{ w.unplaced(socket.at) }}</h3>
        <PinParts :parts="socket.unplaced" :in-hand="bench.strip.value?.id" @open="open" />
      </template>
      <template v-if="data.elsewhere.length">
        <h3>{{ w.elsewhere }}</h3>
        <PinParts :parts="data.elsewhere" :in-hand="bench.strip.value?.id" @open="open" />
      </template>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 10fr) minmax(0, 13fr);
}
.valves {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s6);
  margin-bottom: var(--s10);
}
.valves button {
  min-height: 40px;
  padding: 0 var(--s12);
  border: 1px solid var(--edge);
  border-radius: 8px;
  color: var(--muted);
}
.valves .on {
  border-color: var(--lamp);
  color: var(--light);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  font: 500 var(--t-small) var(--text);
  color: var(--muted);
  text-align: left;
  padding: var(--s2) var(--s6);
}
tbody th b {
  color: var(--light);
  font-size: var(--t-lead);
  display: inline-block;
  min-width: 26px;
}
td,
tbody th {
  border-top: 1px solid var(--edge);
  padding: var(--s2) var(--s6);
  height: 44px;
}
.r {
  text-align: right;
  white-space: nowrap;
}
.on td,
.on th {
  background: var(--baize-lit);
}
.on th {
  box-shadow: inset 4px 0 var(--lamp);
}
.fold {
  min-height: 40px;
  color: var(--muted);
}
.here {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s10);
  align-items: center;
  margin-top: var(--s8);
}
h3 {
  font: 600 var(--t-lead)/1.3 var(--title);
  margin: var(--s14) 0 var(--s4);
}
</style>

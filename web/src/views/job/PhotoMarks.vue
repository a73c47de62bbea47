<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { api, Problem, told, type Attachment } from '../../api/client'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** A photograph with pins on it: each is a part, and opens it; the arrows move the one in hand, Delete takes it off. */
const props = defineProps<{ picture: Attachment }>()
const emit = defineEmits<{ close: []; marked: [all: Attachment[]] }>()
const bench = useBench()
const w = words.job.photos
const parts = computed(() => bench.ticket.value?.parts ?? [])
/** The part whose pin is dropped next: the one in hand, or the first without a pin. */
const unmarked = computed(() =>
  parts.value.filter((p) => !props.picture.markers.some((m) => m.part === p.name)),
)
const chosen = ref<string | null>(null)
const next = computed({
  get: () => {
    const free = unmarked.value
    const own = free.find((p) => p.name === bench.strip.value?.name)
    return chosen.value ?? (own ?? free[0])?.name ?? ''
  },
  set: (name) => (chosen.value = name),
})
const wrong = ref<string | null>(null)
const board = useTemplateRef<HTMLElement>('board')
const verdict = (name: string) => {
  const p = parts.value.find((x) => x.name === name)
  return p?.says ? words.verdict[p.says] : words.status[p?.status as keyof typeof words.status]
}
const tone = (name: string) => parts.value.find((p) => p.name === name)?.says?.replace(' ', '-')
const within = (v: number) => Math.min(Math.max(v, 0), 1)

async function put(part: string, place: { x: number; y: number } | null) {
  if (!part) return
  const body = { part, x: place?.x ?? null, y: place?.y ?? null }
  try {
    const all = await told(
      api.PUT('/api/attachments/{id}/markers', { params: { path: { id: props.picture.id } }, body }),
    )
    wrong.value = null
    emit('marked', all)
    if (place && chosen.value === part) chosen.value = null
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    wrong.value = e.detail
  }
}
function drop(e: MouseEvent) {
  const box = board.value?.getBoundingClientRect()
  if (box)
    void put(next.value, {
      x: within((e.clientX - box.left) / box.width),
      y: within((e.clientY - box.top) / box.height),
    })
}
/** Into the middle, and from there by the arrows. */
async function dropInTheMiddle() {
  const part = next.value
  await put(part, { x: 0.5, y: 0.5 })
  await nextTick()
  board.value?.querySelector<HTMLElement>(`[data-part="${part}"]`)?.focus()
}
const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-0.01, 0],
  ArrowRight: [0.01, 0],
  ArrowUp: [0, -0.01],
  ArrowDown: [0, 0.01],
}
function key(e: KeyboardEvent, m: Attachment['markers'][number]) {
  const by = STEPS[e.key]
  if (by) void put(m.part, { x: within(m.x + by[0]), y: within(m.y + by[1]) })
  else if (e.key === 'Delete') void put(m.part, null)
  else return
  e.preventDefault()
}
function open(part: string) {
  emit('close')
  bench.go({ part, step: null })
}
</script>

<template>
  <PaperSheet :title="picture.name" class="marks" @close="emit('close')">
    <div class="row">
      <label class="note"
        >{{ w.pin }}
        <select v-model="next">
          <option v-for="p in parts" :key="p.id" :value="p.name">{{ p.name }}</option>
        </select>
      </label>
      <ElButton v-if="next" @click="dropInTheMiddle">{{ w.middle(next) }}</ElButton>
      <a class="link" :href="`/api/attachments/${picture.id}`" target="_blank">{{ w.whole }}</a>
    </div>
    <p class="note">{{ w.how }}</p>
    <p v-if="wrong" class="problem" role="alert">{{ wrong }}</p>
    <div ref="board" class="picture" @click.self="drop">
      <img :src="`/api/attachments/${picture.id}`" :alt="picture.name" @click="drop" />
      <button
        v-for="m in picture.markers"
        :key="m.part"
        type="button"
        class="pin num"
        :class="tone(m.part)"
        :data-part="m.part"
        :style="{ left: `${m.x * 100}%`, top: `${m.y * 100}%` }"
        :aria-label="`${m.part}: ${verdict(m.part)}`"
        :title="`${m.part}: ${verdict(m.part)}`"
        @click="open(m.part)"
        @keydown="key($event, m)"
      >
        {{ m.part }}
      </button>
    </div>
  </PaperSheet>
</template>

<style scoped>
.marks {
  width: min(1100px, 94vw);
  max-width: none;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s8) var(--s14);
  align-items: center;
}
select {
  min-height: 40px;
  background: var(--well);
  color: var(--well-ink);
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  padding: var(--s4) var(--s8);
  font: inherit;
}
.picture {
  position: relative;
  cursor: crosshair;
}
img {
  display: block;
  width: 100%;
  border-radius: 6px;
}
.pin {
  position: absolute;
  transform: translate(-50%, -50%);
  min-width: 36px;
  min-height: 30px;
  padding: 0 var(--s6);
  border-radius: 15px;
  border: 2px solid #fff;
  background: #14231c;
  color: #fff;
  font: 600 var(--t-small) var(--num);
}
.pin.keep {
  background: #1f5b45;
}
.pin.watch {
  background: #6b4d0c;
}
.pin.replace {
  background: #7d2a1d;
}
.pin.measure-again {
  background: #2d4a78;
}
.pin:focus-visible {
  outline: 3px solid var(--lamp);
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Part, Verdict } from '../../api/client'
import MeasuredValue from '../../components/MeasuredValue.vue'
import MarkedPart from '../../drawing/MarkedPart.vue'
import { shapeOf } from '../../drawing/shapes'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { words } from '../../words/en'

const props = defineProps<{ part: Part; selected: boolean; free?: boolean }>()
defineEmits<{ select: [] }>()

const fitted = computed(() => props.part.fittings.at(-1))
/** What the strip says at its end: a verdict where there is one, otherwise what is still to do. */
const verdict = computed<{ shape: Verdict | null; text: string; tone: string }>(() => {
  const p = props.part
  if (!p.steps.includes('measure') && p.standing === 'unmeasured') {
    return { shape: null, text: words.standing.read, tone: 'open' }
  }
  switch (p.standing) {
    case 'judged':
    case 'decided': {
      const call = p.decision?.stands ? p.decision.decided : (p.judgement?.verdict ?? 'measure again')
      return { shape: call, text: words.verdict[call], tone: tone(call) }
    }
    case 'proven':
      return { shape: 'keep', text: words.standing.proven, tone: 'keep' }
    case 'failed':
      return { shape: 'replace', text: words.standing.failed, tone: 'replace' }
    default:
      return { shape: null, text: words.standing[p.standing], tone: 'open' }
  }
})
const tone = (v: Verdict) => (v === 'measure again' ? 'again' : v)
const under = computed(() => {
  const p = props.part
  if (props.free) return p.isolate
  const group = p.group.map((g) => g.name).join(', ')
  return [
    p.suspect_of && words.transistor.station.suspectOf(p.suspect_of.name),
    p.looks.join(', '),
    p.position && p.place,
    group && `${p.group.length > 1 ? 'group' : 'pair'} with ${group}`,
    p.note,
  ]
    .filter(Boolean)
    .join(' · ')
})
/** What stands on a part without bands. */
const print = computed(() => {
  const m = props.part.mark
  const type = m?.type_number ?? props.part.type_number
  if (type) return type
  if (m?.sections.length) return m.sections.map((s) => s.text).join('\n')
  const value = props.part.marked ? `${props.part.marked.number}${props.part.marked.unit}` : ''
  return [value, m?.voltage_text].filter(Boolean).join('\n')
})
/** Of a winding the copper, where its copper was measured. */
const sheet = computed(() =>
  props.part.winding && props.part.measured?.quantity !== 'inductance'
    ? props.part.winding
    : props.part.sheet,
)
const measured = computed(() => props.part.measured?.measured ?? fitted.value?.measured)
</script>

<template>
  <button
    class="strip columns"
    :class="{ selected }"
    :aria-current="selected"
    :title="under"
    @click="$emit('select')"
  >
    <span class="ref num">
      {{ part.name
      }}<span v-if="part.cause && !part.cause.answer" class="why" :title="part.cause.question">
        <span aria-hidden="true">?</span><span class="sr">{{ part.cause.question }}</span> </span
      ><span v-if="part.disagreement" class="differs" :title="part.disagreement.question">
        <span aria-hidden="true">≠</span><span class="sr">{{ words.disagreement.short }}</span>
      </span>
    </span>
    <MarkedPart :shape="shapeOf(part)" :colours="part.bands" :family="part.family" :print="print" />
    <span class="where">
      <b>{{ part.position ?? (part.place || part.family || part.kind) }}</b>
      <span>{{ under }}</span>
    </span>
    <MeasuredValue :amount="sheet" />
    <MeasuredValue :amount="part.marked" />
    <MeasuredValue
      :amount="measured"
      bright
      :instead="part.measured?.overrange ? words.tray.overrange : undefined"
    />
    <span class="verdict" :class="verdict.tone">
      {{ verdict.text }}
      <VerdictMark v-if="verdict.shape" :verdict="verdict.shape" />
      <span v-else class="hollow" aria-hidden="true"></span>
    </span>
  </button>
</template>

<style scoped>
.strip {
  width: 100%;
  min-height: 54px;
  background: linear-gradient(90deg, var(--strip), var(--strip-low));
  border: 1px solid var(--edge);
  border-radius: 8px;
}
.strip:hover {
  border-color: var(--edge-strong);
}
.strip.selected {
  background: linear-gradient(90deg, var(--panel), var(--baize-lit));
  border-color: var(--lamp);
  box-shadow:
    0 0 0 1px var(--lamp),
    0 6px 22px var(--shadow);
}
.ref {
  font-weight: 600;
  font-size: 15px;
}
.differs {
  color: var(--watch);
  font-weight: 700;
  display: block;
  line-height: 1;
}
.why {
  color: var(--replace);
  font-weight: 700;
}
.where {
  min-width: 0;
  padding: 0 6px 0 4px;
}
.where b {
  font-weight: 550;
  display: block;
}
.where b::first-letter {
  text-transform: uppercase;
}
.where b,
.where span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.where span {
  display: block;
  font-size: 12.5px;
  color: var(--muted);
}
.verdict {
  justify-self: end;
  display: flex;
  gap: 7px;
  align-items: center;
  font-weight: 600;
  font-size: 13.5px;
  white-space: nowrap;
}
.open {
  color: var(--muted);
}
.hollow {
  width: 16px;
  height: 16px;
  border: 2px dashed currentColor;
  border-radius: 50%;
  margin: 2px;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Strip, Verdict } from '../../api/client'
import MeasuredValue from '../../components/MeasuredValue.vue'
import MarkedPart from '../../drawing/MarkedPart.vue'
import { shapeOf } from '../../drawing/shapes'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { said } from '../../words/dialect'
import { words } from '../../words/en'

const props = defineProps<{ part: Strip; selected: boolean; free?: boolean }>()
defineEmits<{ select: [] }>()

/** What the strip says at its end: a verdict where there is one, otherwise what is still to do. */
const verdict = computed<{ text: string; tone: string }>(() => {
  const p = props.part
  if (!p.steps.includes('measure') && p.status === 'unmeasured') {
    return { text: words.status.read, tone: 'open' }
  }
  const own = p.status === 'proven' || p.status === 'as before' || p.status === 'worse'
  const text = own || !p.says ? words.status[p.status as keyof typeof words.status] : words.verdict[p.says]
  return { text, tone: p.says ? tone(p.says) : 'open' }
})
const tone = (v: Verdict) => (v === 'measure again' ? 'again' : v)
const under = computed(() => {
  const p = props.part
  if (props.free) return p.isolate
  const group = p.group.map((g) => g.name).join(', ')
  return [
    p.suspect_of && words.transistor.station.suspectOf(p.suspect_of.name),
    p.bank,
    p.looks.join(', '),
    p.position && p.place,
    group && `${p.group.length > 1 ? 'group' : 'pair'} with ${group}`,
    p.note,
  ]
    .filter(Boolean)
    .join(' · ')
})
/** Of a winding the copper, where its copper was measured. */
const sheet = computed(() =>
  props.part.winding && props.part.reads?.unit !== 'H' ? props.part.winding : props.part.sheet,
)
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
      }}<span v-if="part.cause_question" class="why" :title="part.cause_question">
        <span aria-hidden="true">?</span><span class="sr">{{ part.cause_question }}</span> </span
      ><span v-if="part.value_question" class="differs" :title="part.value_question">
        <span aria-hidden="true">≠</span><span class="sr">{{ words.disagreement.short }}</span>
      </span>
    </span>
    <MarkedPart
      :shape="shapeOf(part)"
      :colours="part.bands"
      :family="part.family"
      :print="part.print.join('\n')"
    />
    <span class="where">
      <b>{{ part.position ? said(part.position) : part.place || part.family || part.kind }}</b>
      <span>{{ under }}</span>
    </span>
    <MeasuredValue :amount="sheet" />
    <MeasuredValue :amount="part.marked" />
    <MeasuredValue :amount="part.reads" bright :instead="part.beyond ? words.tray.overrange : undefined" />
    <span class="verdict" :class="verdict.tone">
      {{ verdict.text }}
      <VerdictMark v-if="part.says" :verdict="part.says" />
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
  font-size: var(--t-lead);
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
  padding: 0 var(--s6) 0 var(--s4);
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
  font-size: var(--t-small);
  color: var(--muted);
}
.verdict {
  justify-self: end;
  display: flex;
  gap: var(--s6);
  align-items: center;
  font-weight: 600;
  font-size: var(--t-note);
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
  margin: var(--s2);
}
</style>

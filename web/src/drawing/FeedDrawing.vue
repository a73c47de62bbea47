<script setup lang="ts">
import { computed } from 'vue'
import type { DrawnFeed, Flow } from '../api/client'
import { words } from '../words/en'
import { layout } from './feedLayout'

/** A feed as it is wired: volts at its nodes, current and watts in its parts, who is suspected and what is overloaded. */
const props = defineProps<{
  feed: DrawnFeed
  /** What each part carries in the state that is looked at. */
  flow: Flow[]
  /** Volts of the nodes in that state, as shown. */
  volts: Record<string, string>
  /** What they would show with every part as it should be, as computed. */
  healthy: Record<string, string>
  accused: string | null
  overloaded: string[]
  label: string
}>()
const emit = defineEmits<{ pick: [part: string] }>()
const at = computed(() => layout(props.feed))
const carries = (name: string) => props.flow.find((f) => f.ref === name)?.shown.split(', ') ?? []
/** The watts in a part, of those that it stands; nothing where nothing flows. */
function watts(part: DrawnFeed['parts'][number]): string {
  const now = carries(part.ref)[1]
  return now && part.rating ? `${now} of ${part.rating.text}` : (now ?? '')
}
const node = (name: string) => props.feed.nodes.find((n) => n.node === name)
/** What a node that was read should have: by the sheet, and as a healthy branch is computed. */
function should(name: string): string {
  const n = node(name)
  if (!n?.measured) return ''
  const computed = props.healthy[name]
  const sums = computed && computed !== n.sheet?.text ? words.job.feed.computed(computed) : ''
  return [n.sheet ? `(${n.sheet.text})` : '', sums].filter(Boolean).join(' ')
}
const off = (name: string) => node(name)?.off === true
</script>

<template>
  <div class="scroll" tabindex="0">
    <svg
      :viewBox="`0 0 ${at.width} ${at.height}`"
      :style="{ minWidth: `${Math.min(at.width, 620)}px`, maxWidth: `${at.width * 1.15}px` }"
      role="img"
      :aria-label="label"
    >
      <path v-for="d in at.wires" :key="d" :d="d" class="wire" />
      <g
        v-for="s in at.series"
        :key="s.part.ref"
        :class="{ accused: s.part.ref === accused, over: overloaded.includes(s.part.ref) }"
        class="part"
        @click="emit('pick', s.part.ref)"
      >
        <path :d="`M${s.x} ${s.y}h${s.length}`" class="wire" />
        <rect :x="s.x + 46" :y="s.y - 13" width="76" height="26" rx="5" class="body" />
        <text :x="s.x + 84" :y="s.y + 5" class="name mid">{{ s.part.ref }}</text>
        <text :x="s.x + 84" :y="s.y - 20" class="value mid">{{ s.part.value }}</text>
        <text v-if="s.part.read" :x="s.x + 84" :y="s.y - 36" class="carry mid">
          {{ words.job.feed.reads(s.part.read.text) }}
        </text>
        <text :x="s.x + 84" :y="s.y + 30" class="carry mid">{{ carries(s.part.ref)[0] }}</text>
        <text :x="s.x + 84" :y="s.y + 46" class="carry mid">
          {{ watts(s.part) }}
        </text>
        <path
          v-if="overloaded.includes(s.part.ref)"
          :d="`M${s.x + 130} ${s.y - 12}l9 -17 9 17z`"
          class="flame"
        />
      </g>
      <g
        v-for="s in at.shunts"
        :key="s.part.ref"
        :class="{ accused: s.part.ref === accused, over: overloaded.includes(s.part.ref) }"
        class="part"
        @click="emit('pick', s.part.ref)"
      >
        <path
          v-if="s.part.kind === 'capacitor'"
          :d="`M${s.x} ${s.y}v54M${s.x} ${s.y + 66}v52`"
          class="wire"
        />
        <path v-else :d="`M${s.x} ${s.y}v118`" class="wire" />
        <path
          v-if="s.part.kind === 'capacitor'"
          :d="`M${s.x - 22} ${s.y + 54}h44M${s.x - 22} ${s.y + 66}h44`"
          class="plates"
        />
        <circle v-else-if="s.part.kind === 'load'" :cx="s.x" :cy="s.y + 60" r="20" class="body" />
        <rect v-else :x="s.x - 13" :y="s.y + 30" width="26" height="60" rx="5" class="body" />
        <path
          :d="`M${s.x - 14} ${s.y + 118}h28M${s.x - 9} ${s.y + 124}h18M${s.x - 4} ${s.y + 130}h8`"
          class="wire"
        />
        <text v-if="s.part.kind === 'load'" :x="s.x" :y="s.y + 65" class="name mid small">
          {{ s.part.ref.split('-')[0] }}
        </text>
        <text v-else :x="s.x + 26" :y="s.y + 48" class="name">{{ s.part.ref }}</text>
        <text
          v-if="s.part.kind === 'load' && s.part.ref.includes('-')"
          :x="s.x + 26"
          :y="s.y + 65"
          class="value"
        >
          {{ s.part.ref.split('-').slice(1).join(' ') }}
        </text>
        <text :x="s.x + 26" :y="s.y + (s.part.kind === 'load' ? 48 : 84)" class="value">
          {{ s.part.value }}
        </text>
        <text :x="s.x + 26" :y="s.y + 100" class="carry">{{ carries(s.part.ref)[0] }}</text>
      </g>
      <g v-for="n in at.nodes" :key="n.node" :class="{ off: off(n.node) }">
        <circle :cx="n.x" :cy="n.y" r="5" class="dot" />
        <text :x="n.x" :y="n.y - 42" class="node mid">{{ n.node }}</text>
        <text :x="n.x" :y="n.y - 24" class="volts mid">
          {{ node(n.node)?.measured?.text ?? volts[n.node] ?? node(n.node)?.sheet?.text ?? '' }}
        </text>
        <text v-if="should(n.node)" :x="n.x" :y="n.y - 10" class="should mid">
          {{ should(n.node) }}
        </text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
  background: var(--baize);
  border: 1px solid var(--edge);
  border-radius: 9px;
  padding: 6px;
}
svg {
  display: block;
  width: 100%;
}
.wire,
.plates {
  fill: none;
  stroke: var(--wire);
  stroke-width: 2;
}
.plates {
  stroke-width: 4;
}
.body {
  fill: var(--panel);
  stroke: var(--wire);
  stroke-width: 2;
}
.part {
  cursor: pointer;
}
.accused .body,
.accused .plates {
  stroke: var(--replace);
  stroke-width: 4;
}
.accused .body {
  fill: var(--replace-low);
}
.accused .name {
  fill: var(--replace);
}
.over .carry {
  fill: var(--replace);
  font-weight: 700;
}
.flame {
  fill: var(--replace);
}
.dot {
  fill: var(--lamp);
}
text {
  fill: var(--light);
  font: 500 14px var(--num);
}
.mid {
  text-anchor: middle;
}
.name {
  font: 650 15px var(--text);
}
.small {
  font-size: 12.5px;
}
.value {
  fill: var(--muted);
}
.carry {
  font-size: 13px;
}
.node {
  font: 500 13px var(--text);
  fill: var(--muted);
}
.volts {
  font-size: 19px;
  font-weight: 650;
  fill: var(--numeral);
}
.off .volts {
  fill: var(--replace);
}
.should {
  font-size: 12px;
  fill: var(--muted);
}
</style>

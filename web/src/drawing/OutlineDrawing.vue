<script setup lang="ts">
import { computed } from 'vue'
import type { Outline } from '../api/client'
import { words } from '../words/en'
import { leadAt } from './outline'

/** A package from below with its leads; the red and the black probe, where they are. */
const props = defineProps<{
  outline: Outline
  /** Electrodes that cross, and are drawn so. */
  crossed?: string[]
  red?: number | null
  black?: number | null
  /** Turned by half, so that its leads lie over those of another. */
  turned?: boolean
  /** Words for the leads, where they stand beside them. */
  captions?: string[]
}>()

const R = 44
const at = (i: number) => leadAt(props.outline, i, props.turned)
const shape = computed(() => props.outline.shape)
const flange = computed(() => shape.value === 'flange')
const row = computed(() => shape.value === 'row')
/** What stands at the screwed side. */
const flat = computed(() => row.value && (props.outline.mount === 'tab' || props.outline.mount === 'screw'))
const caseLetter = computed(() => {
  const c = props.outline.case
  return c && c !== 'insulated' ? c.slice(0, 1).toUpperCase() : ''
})
const label = computed(
  () =>
    `${props.outline.package}, ${words.transistor.equivalents.below}: ${props.outline.leads.map((l, i) => `${i + 1} ${l.electrode ?? l.letter}`).join(', ')}`,
)
</script>

<template>
  <svg class="outline" viewBox="0 0 120 120" role="img" :aria-label="label">
    <g :transform="turned ? 'rotate(180 60 60)' : undefined">
      <g v-if="flange" class="body">
        <path d="M6 60L40 24Q60 12 80 24L114 60L80 96Q60 108 40 96Z" />
        <circle cx="17" cy="60" r="4" class="hole" />
        <circle cx="103" cy="60" r="4" class="hole" />
        <circle cx="60" cy="60" r="33" class="inner" />
        <text v-if="caseLetter" x="60" y="86" class="case">{{ caseLetter }}</text>
      </g>
      <g v-else-if="flat" class="body">
        <rect x="14" y="44" width="92" height="26" rx="2" />
        <rect x="18" y="70" width="84" height="6" class="metal" />
        <text v-if="caseLetter" x="60" y="92" class="case">{{ caseLetter }}</text>
      </g>
      <g v-else-if="row" class="body">
        <path
          v-if="outline.package === 'TO-92'"
          d="M18 44H102A44 40 0 0 1 18 44Z"
          transform="translate(0 -4)"
        />
        <rect v-else x="12" y="40" width="96" height="40" :rx="outline.mount === 'leads' ? 18 : 4" />
      </g>
      <g v-else class="body">
        <circle cx="60" cy="60" :r="R" />
        <rect
          v-if="shape === 'tab'"
          x="52"
          y="100"
          width="16"
          height="11"
          rx="2"
          transform="rotate(45 60 60)"
        />
        <circle v-if="shape === 'circle'" cx="96" cy="44" r="3.500" class="dot" />
      </g>
    </g>
    <g v-for="(lead, i) in outline.leads" :key="i">
      <circle
        :cx="at(i).x"
        :cy="at(i).y"
        r="10"
        class="lead"
        :class="{
          red: red === i,
          black: black === i,
          crossed: lead.electrode && crossed?.includes(lead.electrode),
        }"
      />
      <text :x="at(i).x" :y="at(i).y + 4.5" class="letter" :class="{ red: red === i, black: black === i }">
        {{ lead.letter || i + 1 }}
      </text>
      <text v-if="captions?.[i]" :x="at(i).x" :y="row ? 30 : at(i).y + 20" class="caption">
        {{ captions[i] }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.outline {
  width: 100%;
  display: block;
}
.body > * {
  fill: var(--strip);
  stroke: var(--wire);
  stroke-width: 1.6;
}
.body .inner {
  fill: none;
  stroke-dasharray: 3 3;
}
.body .hole {
  fill: var(--well);
}
.body .metal {
  fill: var(--wire);
}
.body .dot {
  fill: var(--lamp);
  stroke: none;
}
.case {
  fill: var(--muted);
  stroke: none;
  font: 600 11px var(--num);
  text-anchor: middle;
}
.lead {
  fill: var(--paper);
  stroke: var(--wood-edge);
  stroke-width: 1.4;
}
.letter {
  fill: var(--ink);
  font: 700 13px var(--num);
  text-anchor: middle;
}
.lead.red {
  fill: #c8402a;
}
.lead.black {
  fill: #141210;
  stroke: #cfc6b2;
}
.letter.red,
.letter.black {
  fill: #fff;
}
.lead.crossed {
  stroke: var(--replace);
  stroke-width: 3;
}
.caption {
  fill: var(--numeral);
  font: 600 9px var(--text);
  text-anchor: middle;
}
</style>

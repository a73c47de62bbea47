<script setup lang="ts">
import { computed } from 'vue'
import type { Colour, Part } from '../api/client'
import './bands.css'
import PartBody from './PartBody.vue'
import { height, printWidth, spots, type Shape } from './shapes'

const props = defineProps<{
  shape: Shape
  colours: Colour[]
  family?: Part['family'] | null
  /** Printed on parts that carry no colours. */
  print?: string
  /** Large, with places that can be clicked. */
  large?: boolean
  /** How many places are shown, at least. */
  places?: number
  /** Which place is being looked at. */
  chosen?: number | null
  /** What stands for each colour. */
  under?: string[]
  /** What each place is called. */
  names?: string[]
}>()
const emit = defineEmits<{ choose: [place: number] }>()

const h = computed(() => height(props.shape, props.large === true))
/** On the tray a wound resistor carries print, however its bands would be. */
const printed = computed(() => !props.large && props.family === 'wirewound')
const count = computed(() => (printed.value ? 0 : Math.max(props.colours.length, props.places ?? 0)))
const all = computed(() => spots(props.shape, count.value))
const mica = computed(() => props.shape.startsWith('mica'))
const lines = computed(() => (props.print ?? '').split('\n').slice(0, 4))
/** As large as the longest line and the number of lines allow. */
const size = computed(() => {
  const longest = Math.max(1, ...lines.value.map((l) => l.length))
  return Math.min(9.5, printWidth(props.shape) / (longest * 0.61), 21 / (lines.value.length * 1.15))
})

/** Only where it can be clicked: a browser lets Tab stop at anything that listens for the focus. */
function handlers(i: number) {
  const choose = () => emit('choose', i)
  return {
    click: choose,
    focus: choose,
    keydown: (e: KeyboardEvent) => {
      if (e.key !== 'Enter' && e.key !== ' ') return
      e.preventDefault()
      e.stopPropagation()
      choose()
    },
  }
}
function word(i: number): string {
  const name = props.names?.[i]
  const colour = props.colours[i] ?? 'nothing yet'
  return `place ${i + 1}${name ? `, ${name}` : ''}: ${colour}`
}
</script>

<template>
  <svg
    class="part"
    :class="{ large }"
    :viewBox="`0 0 104 ${h}`"
    :role="large ? 'group' : 'img'"
    :aria-label="colours.length ? `marked ${colours.join(', ')}` : `marked ${print ?? 'nothing'}`"
  >
    <PartBody :shape="shape" :family="family" :first="colours[0]" :large="large" :height="h" />

    <g
      v-for="(s, i) in all"
      :key="i"
      :class="['band', colours[i] ? `c-${colours[i]}` : 'c-empty', { chosen: chosen === i }]"
      :tabindex="large ? 0 : undefined"
      :role="large ? 'button' : undefined"
      :aria-label="large ? word(i) : undefined"
      :aria-pressed="large ? chosen === i : undefined"
      v-on="large ? handlers(i) : {}"
    >
      <rect :x="s.x" :y="s.y" :width="s.w" :height="s.h" :rx="s.r" class="ring" />
      <rect
        v-if="large"
        :x="s.x - 1.6"
        :y="s.y - (s.r ? 1.6 : 2.4)"
        :width="s.w + 3.2"
        :height="s.h + (s.r ? 3.2 : 4.8)"
        :rx="s.r ? s.r + 1.6 : 1.6"
        class="frame"
      />
      <text
        v-if="large && under?.[i]"
        :x="s.lx"
        :y="s.ly"
        class="under"
        :class="{ beside: s.beside, on: mica }"
      >
        {{ under[i] }}
      </text>
    </g>
    <template v-if="all.length === 0 && size > 0">
      <text
        v-for="(line, i) in lines"
        :key="i"
        x="52"
        :y="13 + size * 0.35 + (i - (lines.length - 1) / 2) * size * 1.15"
        :font-size="size"
        class="print"
        :class="{ light: shape === 'chip' || shape === 'circuit' }"
      >
        {{ line }}
      </text>
    </template>
  </svg>
</template>

<style scoped>
.part {
  width: 104px;
  height: 26px;
  display: block;
  overflow: visible;
}
.part.large {
  width: 100%;
  height: auto;
}
.ring {
  fill: var(--band);
  stroke: #0005;
  stroke-width: 0.3;
}
.c-empty .ring {
  fill: #0002;
  stroke: #f1e8d4;
  stroke-width: 0.5;
  stroke-dasharray: 1.4 1.2;
}
.c-none .ring {
  stroke: #f1e8d4;
  stroke-dasharray: 1.4 1.2;
}
.frame {
  fill: transparent;
  stroke: transparent;
  stroke-width: 0.9;
}
.large .band {
  cursor: pointer;
  outline: none;
}
.large .band:hover .frame,
.large .band:focus-visible .frame {
  stroke: var(--focus);
}
.large .band.chosen .frame {
  stroke: var(--lamp);
}
.under {
  font: 500 3.7px var(--text);
  fill: var(--light);
  text-anchor: middle;
}
.under.beside {
  text-anchor: start;
}
.under.on {
  fill: #f1e8d4;
  font-size: 3.3px;
}
.print {
  font-family: var(--num);
  font-weight: 600;
  fill: #2b261d;
  text-anchor: middle;
  white-space: pre;
}
.print.light {
  fill: #efeee8;
}
</style>

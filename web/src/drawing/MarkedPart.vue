<script setup lang="ts">
import { computed } from 'vue'
import type { Colour, Part } from '../api/client'
import './bands.css'
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
const body = computed(() => {
  switch (props.shape) {
    case 'bands':
      if (props.family === 'wirewound') return 'ceramic'
      if (props.family === 'metal film') return 'metal'
      if (props.family === 'carbon film') return 'film'
      return props.family === 'fusible' ? 'fusible' : 'composition'
    case 'choke-bands':
      return 'choke'
    case 'diode-bands':
      return 'glass'
    default:
      return 'composition'
  }
})
const round = computed(() => body.value === 'metal' || body.value === 'film' || body.value === 'fusible')
const upright = computed(() => props.shape === 'film-stripes' || props.shape === 'tantalum')
const mica = computed(() => props.shape.startsWith('mica'))
const bodyColour = computed(() => {
  const c = props.colours[0]
  return c && c !== 'none' ? `c-${c}` : 'c-none'
})
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
    <path v-if="upright" :d="`M44 28V${h} M60 28V${h}`" class="wire" />
    <path v-else-if="mica" d="M0 13H104" class="wire" />
    <path v-else-if="shape === 'disc'" :d="`M44 20V${h} M60 20V${h}`" class="wire" />
    <path
      v-else-if="!['chip', 'can', 'lamp', 'transistor', 'circuit'].includes(shape)"
      d="M0 13H104"
      class="wire"
    />

    <template v-if="mica">
      <rect
        x="24"
        y="0"
        width="56"
        :height="shape === 'mica-three-dot' ? 26 : large ? h - 4 : h"
        rx="3"
        class="moulded"
      />
      <path v-if="large" d="M82.500 8H91M88 4.800L91.500 8L88 11.200" class="arrow" />
    </template>
    <rect v-else-if="shape === 'film-stripes'" x="34" y="0" width="30" height="31" rx="5" class="dipped" />
    <path
      v-else-if="shape === 'tantalum'"
      d="M52 0C62 0 67 8 67 17C67 27 61 33 52 33C43 33 37 27 37 17C37 8 42 0 52 0Z"
      class="dipped"
    />
    <rect
      v-else-if="shape === 'body-end-dot'"
      x="28"
      y="4"
      width="48"
      height="18"
      :class="['fill', bodyColour]"
    />
    <rect v-else-if="shape === 'tubular-paper'" x="10" y="2" width="84" height="22" rx="3" class="moulded" />
    <rect v-else-if="shape === 'tubular-ceramic'" x="16" y="6" width="72" height="14" rx="6" class="tube" />
    <rect v-else-if="shape === 'choke-bands'" x="18" y="3" width="68" height="20" rx="9" class="choke" />
    <rect v-else-if="shape === 'diode-bands'" x="24" y="5" width="60" height="16" rx="7" class="glass" />
    <rect v-else-if="shape === 'disc'" x="34" y="0" width="36" height="24" rx="12" class="tube" />
    <rect v-else-if="shape === 'film'" x="14" y="3" width="76" height="20" rx="4" class="wrapped" />
    <template v-else-if="shape === 'can'">
      <rect x="20" y="1" width="66" height="24" rx="3" class="alu" />
      <path d="M23 1.500V24.500" class="crimp" />
    </template>
    <rect v-else-if="shape === 'chip'" x="30" y="2" width="44" height="22" class="chip" />
    <template v-else-if="shape === 'transistor'">
      <path d="M84 7H100 M84 13H104 M84 19H100" class="wire" />
      <path d="M26 4Q20 13 26 22H80V4Z" class="alu" />
      <rect x="80" y="1" width="5" height="24" rx="1" class="alu" />
    </template>
    <template v-else-if="shape === 'circuit'">
      <path d="M26 1V25M38 1V25M50 1V25M62 1V25M74 1V25" class="wire" />
      <rect x="16" y="4" width="70" height="18" rx="2" class="chip" />
    </template>
    <template v-else-if="shape === 'lamp'">
      <circle cx="44" cy="13" r="11" class="bulb" />
      <rect x="54" y="7" width="20" height="12" rx="2" class="alu" />
    </template>
    <path
      v-else-if="shape === 'coil'"
      d="M20 13a6 8 0 0 1 12 0a6 8 0 0 1 12 0a6 8 0 0 1 12 0a6 8 0 0 1 12 0a6 8 0 0 1 12 0"
      class="winding"
    />
    <rect
      v-else
      x="20"
      y="4"
      width="64"
      height="18"
      :rx="round ? 8 : body === 'ceramic' ? 2 : 3"
      :class="body"
    />
    <rect v-if="shape === 'bands'" x="20" y="4" width="64" height="5" :rx="2.5" class="sheen" />

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
.wire {
  stroke: var(--wire);
  stroke-width: 1.8;
  fill: none;
}
.composition {
  fill: #a9764a;
}
.film {
  fill: #d9bf92;
}
.metal {
  fill: #7fa9b8;
}
.fusible {
  fill: #9a9f9c;
}
.ceramic {
  fill: #d8d3c4;
}
.moulded {
  fill: #5a3a26;
}
.dipped {
  fill: #b8763d;
}
.tube {
  fill: #cdb98e;
}
.choke {
  fill: #5f8f74;
}
.glass {
  fill: #8a6a4a;
}
.wrapped {
  fill: #c9a94f;
}
.alu {
  fill: #b9bdbd;
}
.chip {
  fill: #26282a;
  stroke: #b9bdbd;
  stroke-width: 3;
}
.bulb {
  fill: #f6e3a6;
}
.winding {
  fill: none;
  stroke: #c07a3c;
  stroke-width: 3;
}
.crimp,
.arrow {
  fill: none;
  stroke: #0006;
  stroke-width: 1.4;
}
.arrow {
  stroke: var(--light);
}
.sheen {
  fill: #fff;
  opacity: 0.16;
}
.fill {
  fill: var(--band);
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

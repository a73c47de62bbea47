<script setup lang="ts">
import { computed } from 'vue'
import type { Colour, Part } from '../api/client'
import './bands.css'
import type { Shape } from './shapes'

/** What the colours or the print stand on: leads and a body of the shape and the make. */
const props = defineProps<{
  shape: Shape
  family?: Part['family'] | null
  /** The first colour; a body may be painted in it. */
  first?: Colour
  large?: boolean
  height: number
}>()
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
  const c = props.first
  return c && c !== 'none' ? `c-${c}` : 'c-none'
})
</script>

<template>
  <path v-if="upright" :d="`M44 28V${height} M60 28V${height}`" class="wire" />
  <path v-else-if="mica" d="M0 13H104" class="wire" />
  <path v-else-if="shape === 'disc'" :d="`M44 20V${height} M60 20V${height}`" class="wire" />
  <path
    v-else-if="
      !['chip', 'can', 'lamp', 'transistor', 'circuit', 'valve', 'switch', 'loudspeaker'].includes(shape)
    "
    d="M0 13H104"
    class="wire"
  />

  <template v-if="mica">
    <rect
      x="24"
      y="0"
      width="56"
      :height="shape === 'mica-three-dot' ? 26 : large ? height - 4 : height"
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
  <template v-else-if="shape === 'valve'">
    <path d="M14 6H6 M14 11H6 M14 16H6 M14 21H6" class="wire" />
    <rect x="14" y="2" width="12" height="22" rx="2" class="chip" />
    <path d="M26 3H82Q94 3 96 10Q101 13 96 16Q94 23 82 23H26Z" class="envelope" />
    <path d="M84 4Q93 5 95 10V16Q93 21 84 22Z" class="getter" />
  </template>
  <template v-else-if="shape === 'fuse'">
    <rect x="22" y="5" width="60" height="16" class="glass" />
    <path d="M34 13H70" class="wire" />
    <rect x="18" y="4" width="14" height="18" rx="1" class="alu" />
    <rect x="72" y="4" width="14" height="18" rx="1" class="alu" />
  </template>
  <template v-else-if="shape === 'switch'">
    <path d="M8 18H36 M68 18H96 M36 18L66 6" class="wire" />
    <circle cx="36" cy="18" r="4" class="alu" />
    <circle cx="68" cy="18" r="4" class="alu" />
  </template>
  <template v-else-if="shape === 'loudspeaker'">
    <path d="M8 9H34 M8 17H34" class="wire" />
    <rect x="34" y="6" width="14" height="14" class="chip" />
    <path d="M48 6L76 0V26L48 20Z" class="wrapped" />
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
</template>

<style scoped>
.wire {
  stroke: var(--wire);
  stroke-width: 1.8;
  fill: none;
}
.envelope {
  fill: #c3ccc4;
  stroke: #8d9890;
}
.getter {
  fill: #b9bdc1;
  opacity: 0.7;
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
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Colour, Part } from '../api/client'
import './bands.css'

const props = defineProps<{
  bands: Colour[]
  family: Part['family']
  /** Printed on parts that carry no bands. */
  print?: string
  /** Large, with bands that can be clicked. */
  large?: boolean
  /** Which band is being looked at. */
  chosen?: number | null
  /** What stands below each band. */
  under?: string[]
}>()
const emit = defineEmits<{ choose: [band: number] }>()

const shape = computed(() => {
  switch (props.family) {
    case 'carbon composition':
      return { x: 20, w: 64, y: 4, h: 18, r: 3, fill: 'composition' }
    case 'wirewound':
      return { x: 14, w: 76, y: 3, h: 20, r: 2, fill: 'ceramic' }
    case 'fusible':
      return { x: 18, w: 68, y: 5, h: 16, r: 8, fill: 'fusible' }
    case 'metal film':
    case 'carbon film':
      return { x: 19, w: 66, y: 5, h: 16, r: 8, fill: props.family === 'metal film' ? 'metal' : 'film' }
    default:
      return { x: 20, w: 64, y: 4, h: 18, r: 3, fill: 'composition' }
  }
})

/** A wirewound body carries print, the others bands; a large drawing always shows bands to click. */
const banded = computed(() => props.bands.length > 0 && (props.large || props.family !== 'wirewound'))

/** The last band stands apart, so that the eye knows where to begin. */
const places = computed(() => {
  const n = props.bands.length
  const { x, w } = shape.value
  const step = Math.min(11.5, (w - 22) / Math.max(n, 1))
  return props.bands.map((_, i) => (i === n - 1 && n > 3 ? x + w - 13 : x + 7 + i * step))
})
</script>

<template>
  <svg
    class="resistor"
    :class="{ large }"
    :viewBox="large ? '0 0 104 34' : '0 0 104 26'"
    :role="large ? 'group' : 'img'"
    :aria-label="bands.length ? `resistor: ${bands.join(', ')}` : `resistor ${print ?? ''}`"
  >
    <path d="M0 13H104" class="wire" />
    <rect :x="shape.x" :y="shape.y" :width="shape.w" :height="shape.h" :rx="shape.r" :class="shape.fill" />
    <rect :x="shape.x" :y="shape.y" :width="shape.w" height="5" :rx="Math.min(shape.r, 2.5)" class="sheen" />
    <template v-if="banded">
      <g
        v-for="(colour, i) in bands"
        :key="i"
        :class="['band', `c-${colour}`, { chosen: chosen === i }]"
        :tabindex="large ? 0 : undefined"
        :role="large ? 'button' : undefined"
        :aria-label="large ? `band ${i + 1}: ${colour}` : undefined"
        :aria-pressed="large ? chosen === i : undefined"
        @click="large && emit('choose', i)"
        @keydown.enter.prevent.stop="large && emit('choose', i)"
        @keydown.space.prevent.stop="large && emit('choose', i)"
      >
        <rect :x="places[i]" :y="shape.y" width="6.4" :height="shape.h" class="ring" />
        <rect
          v-if="large"
          :x="(places[i] ?? 0) - 1.6"
          :y="shape.y - 2.4"
          width="9.6"
          :height="shape.h + 4.8"
          rx="1.6"
          class="frame"
        />
        <text v-if="large && under?.[i]" :x="(places[i] ?? 0) + 3.2" y="31.500" class="under">
          {{ under[i] }}
        </text>
      </g>
    </template>
    <text v-else-if="print" x="52" y="16.600" class="print">{{ print }}</text>
  </svg>
</template>

<style scoped>
.resistor {
  width: 104px;
  height: 26px;
  display: block;
  overflow: visible;
}
.resistor.large {
  width: 100%;
  height: auto;
}
.wire {
  stroke: var(--wire);
  stroke-width: 1.8;
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
.sheen {
  fill: #fff;
  opacity: 0.16;
}
.ring {
  fill: var(--band);
  stroke: #0004;
  stroke-width: 0.3;
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
  font: 500 3.9px var(--text);
  fill: var(--light);
  text-anchor: middle;
}
.print {
  font: 600 9.5px var(--num);
  fill: #33302a;
  text-anchor: middle;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'

/** A small drawing of what a supply sheet is about, as on a circuit sheet. */
const props = defineProps<{ name: string; circuit?: string }>()

/** The symbols, each drawn from its left end at x on the wire at y. */
const R = (x: number, y: number) => `M${x} ${y}h8m34 0h8M${x + 8} ${y - 6}h34v12h-34z`
const D = (x: number, y: number) => `M${x} ${y}h16m14 0h20M${x + 16} ${y - 8}v16l14 -8zM${x + 30} ${y - 8}v16`
const L = (x: number, y: number) => `M${x} ${y}h6a6 6 0 0 1 12 0a6 6 0 0 1 12 0a6 6 0 0 1 12 0h8`
/** Down to the lower wire. */
const C = (x: number, y: number, to: number) =>
  `M${x} ${y}V${(y + to) / 2 - 4}M${x - 11} ${(y + to) / 2 - 4}h22m-22 8h22M${x} ${(y + to) / 2 + 4}V${to}`
const LOAD = (x: number, y: number, to: number) =>
  `M${x} ${y}V${(y + to) / 2 - 17}m-6 0h12v34h-12zM${x} ${(y + to) / 2 + 17}V${to}`
const AC = (x: number, y: number, to: number) =>
  `M${x} ${y}V${(y + to) / 2 - 12}M${x} ${(y + to) / 2 + 12}V${to}M${x - 12} ${(y + to) / 2}a12 12 0 1 1 24 0a12 12 0 1 1 -24 0m5 0q3.5 -8 7 0t7 0`
const LAMP = (x: number, y: number) =>
  `M${x} ${y}h13m24 0h13M${x + 13} ${y}a12 12 0 1 1 24 0a12 12 0 1 1 -24 0m3.5 -8.5l17 17m0 -17l-17 17`
const W = (from: number, to: number, y: number) => `M${from} ${y}H${to}`
const [TOP, LOW] = [24, 84]

const path = computed(() => {
  const closed = (to: number) => W(30, to, LOW)
  switch (props.name) {
    case 'series':
      return `${W(14, 40, TOP)}${R(40, TOP)}${W(90, 160, TOP)}${LOAD(160, TOP, LOW)}${W(14, 160, LOW)}`
    case 'rectifier':
      if (props.circuit === 'bridge')
        return `${AC(30, TOP, LOW)}${W(30, 60, TOP)}M60 ${TOP}l24 -18l24 18l-24 18zM78 -2v12m12 -12v12${W(108, 130, TOP)}${R(130, TOP)}${C(196, TOP, LOW)}${W(180, 236, TOP)}${LOAD(236, TOP, LOW)}${closed(236)}`
      if (props.circuit === 'full-wave')
        return `${AC(30, TOP, LOW)}${W(30, 56, TOP)}${D(56, TOP)}${W(30, 56, LOW)}${D(56, LOW)}M106 ${LOW}V${TOP}${R(106, TOP)}${C(176, TOP, 84)}${W(156, 216, TOP)}${LOAD(216, TOP, 84)}M176 84H216`
      return `${AC(30, TOP, LOW)}${W(30, 56, TOP)}${D(56, TOP)}${R(106, TOP)}${C(180, TOP, LOW)}${W(156, 224, TOP)}${LOAD(224, TOP, LOW)}${closed(224)}`
    case 'field-coil':
      return `${W(14, 40, TOP)}${C(40, TOP, LOW)}${L(54, TOP)}${W(40, 54, TOP)}${R(104, TOP)}${W(154, 220, TOP)}${C(176, TOP, LOW)}${LOAD(220, TOP, LOW)}${W(14, 220, LOW)}`
    case 'ripple':
      return `${W(14, 40, TOP)}${C(40, TOP, LOW)}${L(48, TOP)}${W(40, 48, TOP)}${W(98, 130, TOP)}${C(116, TOP, LOW)}${R(130, TOP)}${W(180, 220, TOP)}${C(198, TOP, LOW)}${W(14, 220, LOW)}`
    case 'heaters':
      return `${AC(30, TOP, LOW)}${W(30, 40, TOP)}${R(40, TOP)}${L(90, TOP)}${L(140, TOP)}${LAMP(190, TOP)}M240 ${TOP}V${LOW}${closed(240)}`
    case 'discharge':
      return `${C(60, TOP, LOW)}${W(60, 150, TOP)}${LOAD(150, TOP, LOW)}${W(60, 150, LOW)}`
    case 'touch':
      return `${AC(30, TOP, LOW)}${W(30, 90, TOP)}M90 ${TOP}h20m0 -11v22m8 -22v22m0 -11h30M148 ${TOP}a9 9 0 1 1 18 0a9 9 0 1 1 -18 0M157 33v28m0 -20l-14 10m14 -10l14 10M157 61l-10 23m10 -23l10 23${closed(180)}`
    case 'limiter':
      return `${AC(30, TOP, LOW)}${W(30, 70, TOP)}${LAMP(70, TOP)}${W(120, 180, TOP)}${LOAD(180, TOP, LOW)}${closed(180)}`
    default:
      return `${AC(30, TOP, LOW)}${W(30, 60, TOP)}M60 ${TOP}v4a7 7 0 0 1 0 14a7 7 0 0 1 0 14a7 7 0 0 1 0 14v14M84 ${TOP}v4a7 7 0 0 0 0 14a7 7 0 0 0 0 14a7 7 0 0 0 0 14v14M70 ${TOP}V${LOW}m4 0V${TOP}${W(84, 150, TOP)}${W(84, 150, LOW)}${W(30, 60, LOW)}`
  }
})
</script>

<template>
  <svg class="picture" viewBox="0 -14 260 112" aria-hidden="true"><path :d="path" /></svg>
</template>

<style scoped>
.picture {
  width: 100%;
  max-width: 250px;
  height: 92px;
}
path {
  fill: none;
  stroke: var(--muted);
  stroke-width: 1.6;
  stroke-linejoin: round;
}
</style>

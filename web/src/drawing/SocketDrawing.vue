<script setup lang="ts">
import { computed } from 'vue'
import type { PinOnBoard, Sockets, Valve } from '../api/client'

/** A socket from below: pins clockwise from the key, what each one is, and what was read there. */
const props = defineProps<{
  base: Sockets['bases'][number]
  valve: Valve | null
  selected: number | null
  volts: Record<number, string>
  /** What hangs at each pin. */
  parts?: Record<number, PinOnBoard['parts']>
  label: string
}>()
const emit = defineEmits<{ pick: [pin: number] }>()
const R = 78
/** What is said of a part, in one sign. */
const SIGNS: Record<string, string> = { keep: '✓', watch: '◌', replace: '✕', 'measure again': '↻' }
const hung = (n: number) =>
  (props.parts?.[n] ?? []).map((p) => ({
    id: p.id,
    says: p.says,
    text: `${p.says ? SIGNS[p.says] : '·'} ${p.name}`,
  }))
const pins = computed(() =>
  props.base.pins.map((p) => ({
    ...p,
    // At the upper pins what is written grows away from the socket, not into it.
    up: p.y < -0.5 ? 13 * ((props.volts[p.number] ? 1 : 0) + Math.min(hung(p.number).length, 3)) : 0,
    role: props.valve?.pins.find((r) => r.number === p.number)?.code ?? '',
    cx: 150 + R * p.x,
    cy: 118 + R * p.y,
    tx: 150 + (R + 26) * p.x,
    ty: 118 + (R + 24) * p.y,
    anchor: p.x > 0.25 ? 'start' : p.x < -0.25 ? 'end' : 'middle',
  })),
)
</script>

<template>
  <svg viewBox="0 -12 300 280" class="socket" role="img" :aria-label="label">
    <circle cx="150" cy="118" r="56" class="body" />
    <path
      v-if="base.key.includes('between') || base.key.includes('gap')"
      d="M143 172h14l-7-14z"
      class="key"
    />
    <text v-if="valve" x="150" y="116" class="type">{{ valve.type }}</text>
    <text x="150" y="134" class="base">{{ base.base }}</text>
    <g
      v-for="p in pins"
      :key="p.number"
      :class="{ on: p.number === selected, used: p.role }"
      class="pin"
      @click="emit('pick', p.number)"
    >
      <circle :cx="p.cx" :cy="p.cy" :r="p.large ? 15 : 12" />
      <text :x="p.cx" :y="p.cy + 4.5" class="number">{{ p.number }}</text>
      <text :x="p.tx" :y="p.ty + 1 - p.up" :text-anchor="p.anchor" class="role">{{ p.role }}</text>
      <text v-if="volts[p.number]" :x="p.tx" :y="p.ty + 15 - p.up" :text-anchor="p.anchor" class="volts">
        {{ volts[p.number] }}
      </text>
      <text
        v-for="(h, i) in hung(p.number).slice(0, 3)"
        :key="h.id"
        :x="p.tx"
        :y="p.ty + (volts[p.number] ? 29 : 15) + 13 * i - p.up"
        :text-anchor="p.anchor"
        class="hung"
        :class="h.says?.replace(' ', '-')"
      >
        {{ h.text }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.socket {
  width: 100%;
  max-width: 380px;
  display: block;
  overflow: visible;
}
.body {
  fill: var(--well);
  stroke: var(--well-edge);
  stroke-width: 2;
}
.key {
  fill: var(--lamp);
}
.type {
  font: 600 19px var(--title);
  fill: var(--well-ink);
  text-anchor: middle;
}
.base {
  font: 400 11.5px var(--text);
  fill: var(--well-soft);
  text-anchor: middle;
}
.pin {
  cursor: pointer;
}
.pin circle {
  fill: var(--panel-low);
  stroke: var(--edge-strong);
  stroke-width: 1.5;
}
.used circle {
  stroke: var(--wire);
}
.on circle {
  fill: var(--lamp);
  stroke: var(--lamp);
}
.number {
  font: 600 13px var(--num);
  fill: var(--light);
  text-anchor: middle;
}
.on .number {
  fill: var(--lamp-ink);
}
.role {
  font: 600 13px var(--text);
  fill: var(--muted);
}
.hung {
  font: 600 12px var(--num);
  fill: var(--light);
}
.hung.keep {
  fill: var(--keep);
}
.hung.watch {
  fill: var(--watch);
}
.hung.replace {
  fill: var(--replace);
}
.hung.measure-again {
  fill: var(--again);
}
.volts {
  font: 600 13.5px var(--num);
  fill: var(--numeral);
}
</style>

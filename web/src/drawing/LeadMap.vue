<script setup lang="ts">
import { computed } from 'vue'
import type { Outline } from '../api/client'
import { words } from '../words/en'
import { leadAt } from './outline'
import OutlineDrawing from './OutlineDrawing.vue'

/** The old one and the new one from below, each lead led to its hole; the two that cross are drawn so. */
const props = defineProps<{
  old: Outline | null
  next: Outline | null
  oldName: string
  nextName: string
  crossed: string[]
}>()
const w = words.transistor.equivalents
const RIGHT = 170

/** From each lead of the old one to the lead of the new one with the same electrode. */
const wires = computed(() =>
  (props.old?.leads ?? []).flatMap((lead, i) => {
    const j = props.next?.leads.findIndex((l) => l.electrode === lead.electrode) ?? -1
    if (!props.old || !props.next || lead.electrode == null || j < 0) return []
    const a = leadAt(props.old, i)
    const b = leadAt(props.next, j)
    const crossed = props.crossed.includes(lead.electrode)
    // Those that cross bend to opposite sides, so that each can be followed.
    const bend = crossed ? (props.crossed[0] === lead.electrode ? -46 : 46) : (i - 1) * 16
    const [x, y] = [RIGHT + b.x, b.y]
    return [
      {
        electrode: lead.electrode,
        crossed,
        d: `M${a.x} ${a.y}C${a.x + 60} ${a.y + bend} ${x - 60} ${y + bend} ${x} ${y}`,
      },
    ]
  }),
)
</script>

<template>
  <figure class="map">
    <div class="names">
      <span
        >{{ w.old }} <b>{{ oldName }}</b></span
      >
      <span
        >{{ w.new }} <b>{{ nextName }}</b></span
      >
    </div>
    <svg viewBox="0 0 290 120" class="both">
      <svg width="120" height="120" viewBox="0 0 120 120">
        <OutlineDrawing v-if="old" :outline="old" :crossed="crossed" />
        <text v-else x="60" y="72" class="none">?</text>
      </svg>
      <svg :x="RIGHT" width="120" height="120" viewBox="0 0 120 120">
        <OutlineDrawing v-if="next" :outline="next" :crossed="crossed" />
        <text v-else x="60" y="72" class="none">?</text>
      </svg>
      <path v-for="l in wires" :key="l.electrode" :d="l.d" class="wire" :class="{ crossed: l.crossed }" />
    </svg>
    <figcaption class="note">
      <span>{{ old?.package }}</span><span>{{ w.below }}</span
      ><span>{{ next?.package }}</span>
    </figcaption>
  </figure>
</template>

<style scoped>
.map {
  margin: 4px 0 0;
  max-width: 420px;
}
.both {
  width: 100%;
  display: block;
}
.names,
figcaption {
  display: flex;
  justify-content: space-between;
  padding: 0 8%;
}
.wire {
  fill: none;
  stroke: var(--lamp);
  stroke-width: 2;
  opacity: 0.85;
}
.wire.crossed {
  stroke: var(--replace);
  stroke-dasharray: 6 3;
  stroke-width: 2.5;
}
.none {
  font: 600 40px var(--title);
  fill: var(--muted);
  text-anchor: middle;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Outline } from '../api/client'
import { words } from '../words/en'
import { leadAt } from './outline'
import OutlineDrawing from './OutlineDrawing.vue'

/** The old one and the new one from below, the new one as it is put in; two leads that cross are drawn so. */
const props = defineProps<{
  old: Outline | null
  next: Outline | null
  oldName: string
  nextName: string
  crossed: string[]
  lie: string
}>()
const w = words.transistor.equivalents
const RIGHT = 170

/** In a row the new one is drawn as it is put in: turned by half where that is how it fits. */
const turned = computed(
  () => props.lie === 'turned' && props.old?.shape === 'row' && props.next?.shape === 'row',
)
/** Those that cross, from the old one to the new one. */
const wires = computed(() =>
  props.crossed.flatMap((electrode) => {
    const { old, next } = props
    const i = old?.leads.findIndex((l) => l.electrode === electrode) ?? -1
    const j = next?.leads.findIndex((l) => l.electrode === electrode) ?? -1
    if (!old || !next || i < 0 || j < 0) return []
    const a = leadAt(old, i)
    const b = leadAt(next, j)
    const [x, y] = [RIGHT + b.x, b.y]
    // Each bends to a side of its own, so that it can be followed to where they cross.
    const bend = props.crossed[0] === electrode ? -52 : 52
    return [{ electrode, d: `M${a.x} ${a.y}C${a.x + 50} ${a.y + bend} ${x - 50} ${y - bend} ${x} ${y}` }]
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
        <OutlineDrawing v-if="next" :outline="next" :crossed="crossed" :turned="turned" />
        <text v-else x="60" y="72" class="none">?</text>
      </svg>
      <path v-for="l in wires" :key="l.electrode" :d="l.d" class="wire" />
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

<script setup lang="ts">
import { computed } from 'vue'
import type { Tree } from '../api/client'

/** A network drawn as on a sheet: resistors as boxes, capacitors as plates, what each carries below it. */
const props = defineProps<{
  tree: Tree
  kind: 'resistor' | 'capacitor'
  /** Of each part in order: its value first, then what it carries. */
  labels: string[][]
  /** How large, where there is room. */
  scale?: number
}>()

interface Box {
  width: number
  height: number
  /** Where the wire enters and leaves, from the top. */
  wire: number
}
interface Leaf {
  x: number
  y: number
  at: number
}
const PART = { width: 116, height: 64, wire: 26 }
const GAP = 14

function box(tree: Tree): Box {
  if ('value' in tree) return PART
  if ('series' in tree) {
    const all = tree.series.map(box)
    const wire = Math.max(...all.map((b) => b.wire))
    return {
      width: all.reduce((sum, b) => sum + b.width, 0),
      height: wire + Math.max(...all.map((b) => b.height - b.wire)),
      wire,
    }
  }
  const all = tree.parallel.map(box)
  const height = all.reduce((sum, b) => sum + b.height, 0)
  const first = all[0]?.wire ?? 0
  const last = height - (all.at(-1)?.height ?? 0) + (all.at(-1)?.wire ?? 0)
  return { width: Math.max(...all.map((b) => b.width)) + 2 * GAP, height, wire: (first + last) / 2 }
}

const drawn = computed(() => {
  const leaves: Leaf[] = []
  const wires: string[] = []
  const dots: { x: number; y: number }[] = []
  /** Draws a tree with its wire at `y`, from `x` over `width`. */
  function draw(tree: Tree, x: number, y: number, width: number) {
    if ('value' in tree) {
      const start = x + (width - PART.width) / 2
      if (start > x) wires.push(`M${x} ${y}H${start}`, `M${start + PART.width} ${y}H${x + width}`)
      leaves.push({ x: start, y, at: leaves.length })
      return
    }
    if ('series' in tree) {
      const all = tree.series.map(box)
      const spare = (width - all.reduce((sum, b) => sum + b.width, 0)) / all.length
      let at = x
      tree.series.forEach((t, i) => {
        const own = (all[i]?.width ?? 0) + spare
        draw(t, at, y, own)
        at += own
      })
      return
    }
    const own = box(tree)
    const [left, right] = [x + GAP, x + width - GAP]
    let top = y - own.wire
    const rungs: number[] = []
    for (const t of tree.parallel) {
      const b = box(t)
      rungs.push(top + b.wire)
      draw(t, left, top + b.wire, right - left)
      top += b.height
    }
    wires.push(`M${x} ${y}H${left}`, `M${right} ${y}H${x + width}`)
    for (const side of [left, right]) {
      wires.push(`M${side} ${Math.min(...rungs)}V${Math.max(...rungs)}`)
      dots.push({ x: side, y })
    }
  }
  const whole = box(props.tree)
  draw(props.tree, GAP, whole.wire, whole.width)
  return { leaves, wires, dots, width: whole.width + 2 * GAP, height: whole.height, wire: whole.wire }
})
</script>

<template>
  <svg
    class="network"
    :viewBox="`0 0 ${drawn.width} ${drawn.height}`"
    :style="{ maxWidth: `${drawn.width * (scale ?? 1.1)}px` }"
    role="img"
    :aria-label="labels.map((l) => l.join(', ')).join('; ')"
  >
    <path :d="drawn.wires.join('')" class="wire" />
    <path :d="`M0 ${drawn.wire}H${14}M${drawn.width - 14} ${drawn.wire}H${drawn.width}`" class="wire" />
    <circle v-for="d in drawn.dots" :key="`${d.x},${d.y}`" :cx="d.x" :cy="d.y" r="2.4" class="dot" />
    <g v-for="l in drawn.leaves" :key="l.at" :transform="`translate(${l.x} ${l.y})`">
      <template v-if="kind === 'resistor'">
        <path d="M0 0H34M82 0H116" class="wire" />
        <rect x="34" y="-7" width="48" height="14" class="body" />
      </template>
      <template v-else>
        <path d="M0 0H53M63 0H116" class="wire" />
        <path d="M53 -12V12M63 -12V12" class="plates" />
      </template>
      <text x="58" y="-14" class="value">{{ labels[l.at]?.[0] }}</text>
      <text x="58" y="20" class="carries">{{ labels[l.at]?.slice(1, 3).join('  ') }}</text>
      <text x="58" y="31" class="carries">{{ labels[l.at]?.slice(3).join('  ') }}</text>
    </g>
  </svg>
</template>

<style scoped>
.network {
  width: 100%;
  display: block;
}
.wire {
  stroke: var(--muted);
  stroke-width: 1.4;
  fill: none;
}
.dot {
  fill: var(--muted);
}
.body {
  fill: var(--paper-dim);
  stroke: var(--ink);
  stroke-width: 1;
  rx: 2px;
}
.plates {
  stroke: var(--paper-dim);
  stroke-width: 3;
}
.value {
  fill: var(--numeral);
  font: 600 13px var(--num);
  text-anchor: middle;
}
.carries {
  fill: var(--light);
  font: 400 10px var(--num);
  text-anchor: middle;
}
</style>

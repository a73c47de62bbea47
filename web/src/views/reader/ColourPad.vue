<script setup lang="ts">
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import type { Colour, Part, Scheme } from '../../api/client'
import MarkedPart from '../../drawing/MarkedPart.vue'
import { words } from '../../words/en'
import ShapePicker from './ShapePicker.vue'
import type { Marking } from './useMarking'

/** The drawn part and the colours: a place is clicked, then a colour clicked or its key pressed. */
const props = defineProps<{
  marking: Marking
  colours: Colour[]
  family?: Part['family'] | null
  any?: boolean
  /** In the narrow station. */
  compact?: boolean
}>()
const m = props.marking

const KEYS: Record<string, Colour> = {
  0: 'black',
  1: 'brown',
  2: 'red',
  3: 'orange',
  4: 'yellow',
  5: 'green',
  6: 'blue',
  7: 'violet',
  8: 'grey',
  9: 'white',
  g: 'gold',
  s: 'silver',
  p: 'pink',
  n: 'none',
}
/** Whether any code has colours for such a part. */
const coded = computed(() => props.any || m.offered.value.length > 0)
const keyOf = computed(() => new Map(Object.entries(KEYS).map(([key, colour]) => [colour, key])))
const place = computed(() => m.order.value.places[m.chosen.value ?? -1])
/** Dots of a mica block are all shown; bands only as many as there are, and one more. */
const shown = computed(() => {
  const scheme = m.scheme.value
  if (m.shape.value !== (scheme ?? 'bands')) return m.colours.value.length
  const dots = scheme !== null && m.least.value === m.most.value
  const dotted = scheme === 'film-stripes' || scheme === 'tantalum'
  if (dots || dotted) return m.most.value
  const next = m.colours.value.length + (m.chosen.value === m.colours.value.length ? 1 : 0)
  return Math.min(m.most.value, Math.max(m.least.value, next))
})
/** What is printed: section by section on a can, as typed on anything else. */
const print = computed(() => {
  const sections = m.first.value?.sections ?? []
  return sections.length
    ? sections.map((s) => [s.sign, s.text].filter(Boolean).join(' ')).join('\n')
    : m.text.value
})
const names = computed(() => m.order.value.places.map((p) => p.place))

function key(e: KeyboardEvent) {
  if (e.ctrlKey || e.metaKey || e.altKey) return
  const colour = KEYS[e.key.toLowerCase()]
  const at = m.chosen.value ?? 0
  if (colour) m.paint(colour)
  else if (e.key === 'ArrowRight') m.choose(at + 1)
  else if (e.key === 'ArrowLeft') m.choose(Math.max(0, at - 1))
  else if (e.key === 'Backspace' || e.key === 'Delete') m.takeAway()
  else return
  e.preventDefault()
  e.stopPropagation()
}
watch(m.chosen, async (at) => {
  // The keys go on where the next colour goes.
  if (at === null || !stage.value?.contains(document.activeElement)) return
  await nextTick()
  stage.value.querySelectorAll<SVGElement>('.band')[at]?.focus()
})
const stage = useTemplateRef<HTMLElement>('stage')
/** The body is chosen: the keys of the colours go to its first place at once. */
async function take(scheme: Scheme | null) {
  m.take(scheme)
  await nextTick()
  stage.value?.querySelectorAll<SVGElement>('.band')[m.chosen.value ?? 0]?.focus()
}
</script>

<template>
  <div class="pad" :class="{ compact }" @keydown="key">
    <ShapePicker
      v-if="m.offered.value.length > 1"
      :offered="m.offered.value"
      :chosen="m.scheme.value"
      :any="any"
      :compact="compact"
      @take="take"
    />
    <div ref="stage" class="stage">
      <MarkedPart
        :shape="m.shape.value"
        :colours="m.colours.value"
        :family="family ?? m.first.value?.family"
        :print="print"
        :places="shown"
        :chosen="m.chosen.value"
        :under="m.under.value"
        :names="names"
        large
        @choose="m.choose"
      />
    </div>
    <p v-if="coded" class="ask">
      <template v-if="m.chosen.value === null">{{
        compact ? words.reader.clickShort : words.reader.click
      }}</template>
      <template v-else>
        {{ m.chosen.value + 1 }}<template v-if="place"> · {{ place.place }}</template
        >: {{ words.reader.what }}
      </template>
      <label v-if="m.shape.value === 'bands' && m.colours.value.length > 2" class="wide">
        <input v-model="m.wide.value" type="checkbox" /> {{ words.reader.wide }}
      </label>
    </p>
    <div v-if="coded" class="swatches" role="group" :aria-label="words.reader.colours">
      <button
        v-for="c in colours"
        :key="c"
        :class="[`c-${c}`, { on: m.chosen.value !== null && m.colours.value[m.chosen.value] === c }]"
        :aria-label="c"
        :title="place && !place.colours.includes(c) ? words.reader.seldom : undefined"
        @click="m.paint(c)"
      >
        <kbd>{{ keyOf.get(c) }}</kbd>
        <span>{{ c }}</span>
      </button>
      <button
        class="away"
        :aria-label="words.reader.takeAway"
        :disabled="m.colours.value.length === 0"
        @click="m.takeAway"
      >
        <kbd>⌫</kbd>
        <span>{{ words.reader.away }}</span>
      </button>
    </div>
  </div>
</template>

<style scoped>
.pad {
  display: grid;
  gap: var(--s8);
  min-width: 0;
}
.stage {
  height: clamp(120px, 25vh, 320px);
  width: 100%;
}
.stage :deep(svg.part) {
  height: 100%;
  margin: 0 auto;
}
.compact .stage {
  height: 104px;
}
.compact .swatches {
  grid-template-columns: repeat(8, 1fr);
}
.compact .swatches button {
  min-height: 40px;
}
.ask {
  color: var(--muted);
  font-size: var(--t-note);
  display: flex;
  justify-content: space-between;
  align-items: center;
  min-height: 24px;
}
.wide {
  display: inline-flex;
  gap: var(--s6);
  align-items: center;
  min-height: 24px;
}
.swatches {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(41px, 1fr));
  gap: var(--s4);
}
.swatches button {
  min-height: 44px;
  border-radius: 7px;
  background: var(--band);
  color: var(--on-band);
  border: 1px solid #0006;
  font-size: var(--t-fine);
  font-weight: 550;
  text-align: center;
  display: grid;
  justify-items: center;
  align-content: center;
  gap: 1px;
}
.swatches kbd {
  border: 0;
  opacity: 0.8;
  font-size: var(--t-fine);
}
.swatches button.on {
  outline: 3px solid var(--lamp);
  outline-offset: 1px;
}
.swatches .away {
  background: none;
  color: var(--muted);
  border: 1px dashed var(--edge-strong);
}
.swatches .away:disabled {
  opacity: 0.6;
  cursor: default;
}
</style>

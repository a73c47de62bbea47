<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import type { Schemas } from '../../api/client'
import MeasuredWith from '../../components/MeasuredWith.vue'
import OwlMark from '../../drawing/OwlMark.vue'
import { words } from '../../words/en'
import { useBench } from './useBench'
import { useOwlLine } from './useOwlLine'

const bench = useBench()
const {
  text,
  understood,
  which: meanings,
  problem,
  question,
  choices,
  taken,
  deed,
  take,
  tone,
} = useOwlLine(bench)
const field = ref<HTMLInputElement>()

/** Puts the cursor here, behind `start`. What is there already is kept. */
async function begin(start: string) {
  if (start && !text.value) text.value = start
  await nextTick()
  field.value?.focus()
  const end = text.value.length
  field.value?.setSelectionRange(end, end)
}
function arrow(e: KeyboardEvent, by: number) {
  if (text.value) return
  e.preventDefault()
  bench.move(by)
}
/** Marks in the line what a piece was taken from, to be typed over. */
function correct(p: Schemas['ChipView']) {
  field.value?.focus()
  field.value?.setSelectionRange(p.from, p.to)
}
/** Puts the sentence with one meaning into the line. */
async function choose(m: Schemas['MeantView']) {
  text.value = m.sentence
  await begin('')
}
const pieces = computed(() => {
  const plain = bench.connected.value && text.value && !question.value && !problem.value
  return plain ? (understood.value?.pieces ?? []) : []
})
const names = computed(() => [understood.value?.part, ...(understood.value?.also ?? [])].join(', '))
const which = computed(() => (text.value && bench.connected.value ? meanings.value : []))
/** Takes the sentence, or leads to the meanings of which one is to be chosen. */
const offered = ref<HTMLElement>()
function enter() {
  const first = offered.value?.querySelector('button')
  if (first) first.focus()
  else void take()
}
defineExpose({ begin })
</script>

<template>
  <footer>
    <OwlMark :asleep="!bench.connected.value" class="owl" />
    <form class="line" :class="tone" @submit.prevent="enter">
      <label class="sr" for="owl-line">{{ words.owl.label }}</label>
      <input
        id="owl-line"
        ref="field"
        v-model="text"
        class="said"
        autocomplete="off"
        autocapitalize="off"
        spellcheck="false"
        maxlength="6000"
        :placeholder="words.owl.example"
        aria-describedby="owl-understood"
        @keydown.up="arrow($event, -1)"
        @keydown.down="arrow($event, 1)"
      />
      <div v-if="pieces.length" class="pieces">
        <button
          v-for="(p, i) in pieces"
          :key="i"
          type="button"
          class="piece"
          :class="p.slot"
          :title="words.owl.correct(p.slot)"
          @click="correct(p)"
        >
          {{ p.slot === 'name' ? names : p.text }}
        </button>
        <span v-if="understood?.was.length" class="was"
          >{{ words.owl.was }} {{ understood.was.join(', ') }}</span
        >
        <template v-if="understood?.could_also_be.length">
          <span class="was">{{ words.owl.orAlso }}</span>
          <button
            v-for="m in understood.could_also_be"
            :key="m.sentence"
            type="button"
            class="piece asked"
            @click="choose(m)"
          >
            {{ m.label }}
          </button>
        </template>
        <span class="hint">{{ understood?.question ?? words.owl.takes }}</span>
      </div>
      <div v-else-if="which.length" ref="offered" class="pieces" role="group" :aria-label="words.owl.which">
        <span class="was">{{ words.owl.which }}</span>
        <button v-for="m in which" :key="m.sentence" type="button" class="piece asked" @click="choose(m)">
          {{ m.label }}
        </button>
      </div>
      <p
        id="owl-understood"
        class="understood"
        :class="{ sr: pieces.length || which.length }"
        aria-live="polite"
      >
        <template v-if="!bench.connected.value">
          <b>{{ words.away.title }}</b> {{ words.away.text }}
        </template>
        <template v-else-if="question">
          <b>{{ question }}</b> {{ choices.length ? '' : words.owl.again }}
        </template>
        <template v-else-if="problem">{{ problem }}</template>
        <template v-else-if="text && understood?.problem">{{ understood.problem }}</template>
        <template v-else-if="text && understood">
          <b>{{ names }}</b> {{ understood.in_words }}
          <template v-if="understood.could_also_be.length">
            ({{ words.owl.orAlso }} {{ understood.could_also_be.map((m) => m.label).join(', ') }})
          </template>
          <template v-if="understood.question"> · {{ understood.question }}</template>
          <template v-else> · {{ words.owl.takes }}</template>
        </template>
        <template v-else-if="taken"
          ><b>{{ words.owl.taken }}</b> {{ taken }}
          <button
            v-if="deed !== null && bench.deed.value?.id === deed"
            type="button"
            class="undo"
            @click="bench.undo"
          >
            {{ words.undo.back }}
          </button>
        </template>
        <template v-else>{{ words.owl.idle }}</template>
      </p>
      <MeasuredWith v-if="choices.length" :choices="choices" @choose="take" />
    </form>
    <div class="keys" aria-hidden="true">
      <kbd>/</kbd> {{ words.owl.say }} &nbsp; <kbd>↑</kbd> <kbd>↓</kbd> {{ words.owl.part }}<br /><kbd>1</kbd
      >–<kbd>5</kbd> {{ words.owl.step }} &nbsp; <kbd>?</kbd> {{ words.owl.all }}
    </div>
  </footer>
</template>

<style scoped>
footer {
  background: linear-gradient(var(--wood), var(--wood-low));
  border-top: 3px solid var(--wood-edge);
  padding: var(--s8) var(--s20);
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr) auto;
  gap: var(--s12);
  align-items: center;
}
.line {
  background: var(--well);
  border: 1px solid var(--well-edge);
  border-radius: 8px;
  min-height: 54px;
  padding: var(--s4) var(--s14) var(--s6);
  display: grid;
}
.line:focus-within {
  border-color: var(--lamp);
  box-shadow: 0 0 0 1px var(--lamp);
}
.said {
  border: 0;
  background: none;
  outline: none;
  color: var(--well-ink);
  font: 500 var(--t-head)/1.3 var(--num);
  padding: 0;
  width: 100%;
  caret-color: var(--lamp);
}
.said::placeholder {
  color: var(--well-soft);
  opacity: 0.75;
}
.understood {
  font-size: var(--t-small);
  line-height: 1.35;
  color: var(--well-soft);
  overflow-wrap: anywhere;
  max-height: 54px;
  overflow: auto;
}
.pieces {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s4) var(--s6);
  padding: var(--s2) 0;
  align-items: center;
}
.piece {
  border: 1px solid var(--well-edge);
  border-radius: 6px;
  padding: 0 var(--s8);
  min-height: 26px;
  color: var(--well-ink);
  font: 500 var(--t-small)/1.6 var(--num);
}
.piece:hover,
.piece:focus-visible {
  border-color: var(--lamp);
}
.piece.name {
  color: var(--keep);
  font-weight: 600;
}
.piece.reading {
  color: var(--numeral);
}
.piece.asked {
  border-color: var(--watch);
}
.piece.asked,
.was {
  color: var(--watch);
}
.was,
.hint {
  font-size: var(--t-small);
}
.hint {
  color: var(--well-soft);
}
.understood b {
  color: var(--keep);
  font-weight: 600;
}
.undo {
  color: var(--well-ink);
  text-decoration: underline dotted;
  min-height: 24px;
}
.wrong .understood,
.away .understood,
.away .understood b {
  color: var(--replace);
}
.asks .understood,
.asks .understood b {
  color: var(--watch);
}
.keys {
  color: var(--on-wood);
  font-size: var(--t-fine);
  line-height: 1.75;
  text-align: right;
}
@media (max-width: 1100px) {
  .keys {
    display: none;
  }
  footer {
    padding: var(--s8) var(--s12);
    grid-template-columns: 34px minmax(0, 1fr);
  }
}
</style>

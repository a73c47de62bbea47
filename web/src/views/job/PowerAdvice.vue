<script setup lang="ts">
import type { PowerUp } from '../../api/client'
import AdviceMark from '../../drawing/AdviceMark.vue'
import { words } from '../../words/en'

/** What a step says: go on, look first or stop, with how many volts next, and why. */
defineProps<{ says: NonNullable<PowerUp['says']> }>()
const w = words.job.power
</script>

<template>
  <div>
    <div class="call" :class="says.call.replaceAll(' ', '-')">
      <AdviceMark :call="says.call" :size="34" />
      <b>{{ w.calls[says.call] }}</b>
      <span v-if="says.next_volts" class="num next"
        >{{ says.next_volts.text }}
        <span class="note">{{ w.next }}, {{ w.stay }} {{ says.hold?.text }}</span></span
      >
      <span v-if="says.next_bulb" class="num next"
        >{{ says.next_bulb.text }} <span class="note">{{ w.nextBulb }}</span></span
      >
    </div>
    <p v-if="says.watch" class="note">{{ says.watch }}</p>
    <ul class="rows because">
      <li v-for="b in says.because" :key="b.text" :title="b.source">{{ b.text }}</li>
    </ul>
    <p v-if="says.healthy" class="note">{{ says.healthy }}</p>
  </div>
</template>

<style scoped>
.call {
  display: flex;
  align-items: center;
  gap: var(--s8) var(--s14);
  flex-wrap: wrap;
  padding: var(--s6) 0 var(--s10);
}
.call b {
  font: 650 var(--t-sign)/1.1 var(--title);
}
.next {
  font-size: var(--t-far);
  color: var(--numeral);
}
.next .note {
  font-family: var(--text);
}
.stop {
  color: var(--replace);
}
.look-first {
  color: var(--watch);
}
.go-on,
.it-is-up {
  color: var(--keep);
}
.because li::first-letter {
  text-transform: uppercase;
}
.because {
  font-size: var(--t-lead);
}
</style>

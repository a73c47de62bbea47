<script setup lang="ts">
import type { PowerLog } from '../../api/client'
import AdviceMark from '../../drawing/AdviceMark.vue'
import { when } from '../../format/time'
import { said } from '../../words/dialect'
import { words } from '../../words/en'

/** The steps that were made, the last on top, and those that are planned. */
defineProps<{ log: PowerLog }>()
const w = words.job.power
</script>

<template>
  <div>
    <template v-if="log.ups.length">
      <h3>{{ w.log }}</h3>
      <ol class="rows grid log">
        <li v-for="u in [...log.ups].reverse()" :key="u.id">
          <span class="note num">{{ when(u.done_at) }}</span>
          <b class="num">{{ u.volts.text }}</b>
          <span>
            {{ u.bulb ? `${u.bulb.text}: ${u.story}` : u.story
            }}<template v-if="u.current">, {{ u.current.text }}</template>
            <span v-if="u.signs.length || u.note" class="note">{{
              [...u.signs.map(said), u.note].filter(Boolean).join(' · ')
            }}</span>
          </span>
          <span v-if="u.says" class="short" :class="u.says.call.replaceAll(' ', '-')"
            ><AdviceMark :call="u.says.call" :size="16" /> {{ w.calls[u.says.call] }}</span
          >
        </li>
      </ol>
    </template>
    <h3>{{ w.plan }}</h3>
    <ol class="rows grid log">
      <li v-for="s in log.plan" :key="s.share">
        <span class="num">{{ Math.round(s.share * 100) }} %</span>
        <b class="num">{{ s.volts?.text ?? '' }}</b>
        <span>{{ s.watch }}</span>
        <span class="note num">{{ s.hold.text }}</span>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.log {
  --row: 92px 74px 1fr auto;
}
.log .note {
  display: block;
}
.short {
  display: flex;
  gap: var(--s6);
  align-items: center;
  font-weight: 600;
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
</style>
